"""MOVE IT: the layout changed in place, everything that is not touched kept."""

from itertools import product
from typing import Any

import pytest

from oak_lever.cycle import cycle
from oak_lever.design.faults import Refused
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.move.layout import with_kind, with_link, with_locator, without_link

LOCATORS: Any = ["none", "panhard", "watts_on_axle", "watts_on_frame", "slider"]


def data(design: Design) -> dict[str, Any]:
    return design_data(design)


@pytest.mark.parametrize("end", ["rear", "front"])
@pytest.mark.parametrize("kind", LOCATORS)
@pytest.mark.parametrize("name", LAYOUTS)
def test_any_locator_takes_the_place_of_any_other(name: str, kind: Any, end: str) -> None:
    before = layout(name)
    before = design_from({**data(before), "axle": {**data(before)["axle"], "end": end}})
    after = with_locator(before, kind, 5.0)
    assert (after.lateral is None) == (kind == "none")
    assert data(after)["links"] == data(before)["links"]
    if kind.startswith("watts"):
        assert f"watts_on_{after.lateral.pivot.on}" == kind  # type: ignore[union-attr]


def test_parallel_links_are_held_by_whatever_locates_them() -> None:
    loose = with_locator(layout("parallel and panhard"), "none", 1.0)
    assert not cycle(loose).located
    for kind in LOCATORS[1:]:
        assert cycle(with_locator(loose, kind, 1.0)).located


def test_a_truck_out_of_all_proportion_gets_no_layout_and_is_told_why() -> None:
    given = data(layout("double triangulated"))
    given["vehicle"]["wheelbase"] = 1e-308
    with pytest.raises(Refused, match="no layout can be drawn"):
        with_locator(design_from(given), "panhard", 1.0)


def test_exchanged_it_stands_where_the_old_one_stood() -> None:
    before = layout("parallel and panhard")
    bar = data(before)["lateral"]
    middle = [(a + b) / 2 for a, b in zip(bar["axle"]["at"], bar["frame"]["at"], strict=True)]
    watts = data(with_locator(before, "watts_on_axle", 5.0))["lateral"]
    assert watts["pivot"]["at"][0] == pytest.approx(middle[0], abs=2.5)
    assert watts["pivot"]["at"][2] == pytest.approx(middle[2], abs=2.5)
    assert watts["left"]["at"][0] == watts["right"]["at"][0] == watts["pivot"]["at"][0]
    level = data(with_locator(with_locator(before, "none", 5.0), "panhard", 5.0))["lateral"]
    assert level["axle"]["at"][2] == level["frame"]["at"][2]


def test_the_tube_goes_along() -> None:
    given = data(layout("parallel and panhard"))
    given["lateral"]["tube"] = {"diameter": 38.1, "wall": 4.0}
    watts = with_locator(design_from(given), "watts_on_frame", 1.0)
    assert watts.lateral.tube.diameter == 38.1  # type: ignore[union-attr]


def test_what_is_said_of_the_old_locator_goes_and_nothing_else() -> None:
    given = data(layout("parallel and panhard"))
    given |= {"locks": {"panhard.axle": "x", "upper-left.axle": "xz"}, "unpaired": ["panhard.frame", "lower-left.axle"]}
    after = with_locator(design_from(given), "slider", 1.0)
    assert after.locks == {"upper-left.axle": "xz"}
    assert after.unpaired == ("lower-left.axle",)


def test_left_out_and_added_again_it_is_its_mirror_image() -> None:
    before = layout("double triangulated")
    for link in before.links:
        gone = without_link(before, link.id)
        assert link.id not in [one.id for one in gone.links]
        side: Any = link.id.rpartition("-")[2]
        back = with_link(gone, link.kind, side, 1.0)
        assert {one.id: data(back)["links"] for one in back.links}.keys() == {one.id for one in before.links}
        again = next(one for one in back.links if one.id == link.id)
        assert again == link


def test_mirrored_bolts_and_bends_point_the_other_way() -> None:
    given = data(layout("double triangulated"))
    given["links"] = given["links"][:1]
    given["links"][0]["axle"]["bolt"] = [0.2, 0.9, 0.1]
    given["links"][0]["tube"] = {"diameter": 50.0, "wall": 5.0, "bends": [[500.0, 300.0, 380.0]]}
    left, right = with_link(design_from(given), "lower", "right", 1.0).links
    assert right.axle.bolt == (0.2, -0.9, 0.1)  # type: ignore[union-attr]
    assert right.tube.bends == ((500.0, -300.0, 380.0),)  # type: ignore[union-attr]
    assert (left.id, right.id) == ("lower-left", "lower-right")


@pytest.mark.parametrize(("kind", "side"), list(product(["lower", "upper", "radius_arm"], ["left", "right", "center"])))
@pytest.mark.parametrize("end", ["rear", "front"])
def test_a_link_added_to_nothing_stands_on_its_side(kind: Any, side: Any, end: str) -> None:
    given = data(layout("double triangulated"))
    given["axle"]["end"] = end
    empty = design_from({**given, "links": []})
    (link,) = with_link(empty, kind, side, 5.0).links
    across = data(with_link(empty, kind, side, 5.0))["links"][0]["frame"]["at"][1]
    assert link.kind == kind
    assert (across > 0) - (across < 0) == {"left": 1, "right": -1, "center": 0}[side]


def test_names_stay_apart() -> None:
    design = layout("double triangulated")
    for _ in range(3):
        design = with_link(design, "lower", "left", 1.0)
    assert len({link.id for link in design.links}) == 7


def test_another_kind_keeps_the_frame_mount() -> None:
    design = layout("double triangulated")
    arm = with_kind(design, "lower-left", "radius_arm")
    assert data(arm)["links"][0]["frame"] == data(design)["links"][0]["frame"]
    assert with_kind(arm, "lower-left", "lower") == design
    assert with_kind(design, "lower-left", "upper").links[0].kind == "upper"


def test_what_something_stands_on_stays_and_a_name_that_is_not_there_is_said() -> None:
    given = data(layout("double triangulated"))
    given["corners"] = {
        "shocks": [
            {
                "id": "coil", "frame": {"at": [300.0, 400.0, 900.0]},
                "axle": {"on": "lower-left", "at": [200.0, 450.0, 420.0]}, "extended": 700.0, "compressed": 400.0,
                "diameter": 60.0,
            }
        ],
        "stops": [], "straps": [],
    }  # fmt: skip
    design = design_from(given)
    with pytest.raises(Refused, match="lower-left"):
        without_link(design, "lower-left")
    with pytest.raises(Refused, match="no such link"):
        without_link(design, "middle")
    with pytest.raises(Refused, match="no such link"):
        with_kind(design, "middle", "upper")
