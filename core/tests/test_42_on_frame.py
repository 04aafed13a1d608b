"""What lands on the frame, worked out another way: shear flow along a C, moments as vectors, balance of each bar."""

from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import Design, Refused, frame_prompts, landings, read_design, reckoned
from oak_lever.design.axle import RailMake, Rails
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.strength.on_frame import boxed_is_stiffer, shear_line

TARN = read_design((DEMO / "tarn-van-rear.json").read_text())
EVERY = [*random_designs(seed=42, many=6), *map(layout, LAYOUTS)]


def railed(design: Design, **more: Any) -> Design:
    rails = {"outside_width": 860.0, "depth": 140.0, "flange": 60.0, "underside": 480.0, **more}
    return changed(design, lambda data: data.update(rails=rails))


@pytest.mark.parametrize(("flange", "depth", "wall"), [(60.0, 140.0, 4.0), (75.0, 200.0, 6.0), (40.0, 100.0, 2.0)])
def test_an_open_rail_twists_about_where_its_shear_flow_has_no_moment(flange: float, depth: float, wall: float) -> None:
    """A force up through the shear center: VQ/I along the section's middle line, and its moment about the web."""
    b, h = flange - wall / 2.0, depth - wall
    steps = 20_000
    along = (np.arange(steps) + 0.5) / steps
    flange_q = wall * along * b * h / 2.0  # first moment of what lies beyond, from the flange's edge inward
    inertia = 2.0 * (b * wall * (h / 2.0) ** 2) + wall * h**3 / 12.0
    pull = flange_q.mean() * b / inertia  # along one flange, of a force of 1
    beside = pull * h  # both flanges are a couple; the web's own flow passes through the web
    for side, hand in (("left", 1.0), ("right", -1.0)):
        rails = Rails(
            outside_width=900.0, depth=depth, flange=flange, underside=500.0,
            left=RailMake(made="open", wall=wall),
        )  # fmt: skip
        y, z = shear_line(rails, side)  # type: ignore[arg-type]
        assert z == pytest.approx(500.0 + depth / 2.0)
        assert hand * y == pytest.approx(450.0 - wall / 2.0 + beside, abs=1e-3)


def test_boxing_a_rail_makes_it_as_much_stiffer_as_thin_sections_are() -> None:
    """By the flow round a closed wall (Bredt) and the membrane over thin strips, for a square of 100 by 2."""
    rails = Rails(outside_width=900.0, depth=102.0, flange=101.0, underside=500.0)
    closed = 4.0 * (100.0 * 100.0) ** 2 / (4.0 * 100.0 / 2.0)
    assert boxed_is_stiffer(rails, RailMake(made="open", wall=2.0)) == pytest.approx(closed / (3.0 * 100.0 * 8.0 / 3.0))
    assert boxed_is_stiffer(rails, RailMake(made="boxed", wall=2.0)) is None
    assert boxed_is_stiffer(rails, RailMake(made="open")) is None


@pytest.mark.parametrize("design", EVERY, ids=lambda one: one.name)
def test_the_most_that_lands_is_what_the_bars_bring_and_twists_by_its_moment(design: Design) -> None:
    design = railed(design, left={"made": "open", "wall": 5.0}, right={"made": "boxed"})
    found = reckoned(design)
    landed = {one.mount: one for one in landings(design, found)}
    brought: dict[str, list[tuple[Any, Any]]] = {}
    for case in found.cases:
        for push in case.pushes:
            if push.on == "frame":
                brought.setdefault(push.part, []).append((np.array(push.at), np.array(push.force)))
    lone = {name: one for name, one in landed.items() if name != "watts.pivot"}
    cranked = {"watts-left", "watts-right"} if "watts.pivot" in landed else set()
    assert set(lone) == {f"{part}.frame" for part in set(brought) - cranked}
    for name, one in lone.items():
        pushes = brought[name.removesuffix(".frame")]
        assert one.force == pytest.approx(max(float(np.linalg.norm(force)) for _, force in pushes))
        assert np.linalg.norm(one.along) == pytest.approx(one.force)
        if one.rail is None:
            assert (one.lever, one.twist) == (None, None)
            continue
        assert design.rails
        line = np.array([0.0, *shear_line(design.rails, one.rail)])
        assert (line[1] > 0.0) == (one.rail == "left") == (pushes[0][0][1] > 0.0)
        turned = [abs(float(np.cross(at - line, force)[0])) for at, force in pushes]
        assert one.twist == pytest.approx(max(turned))
        assert one.lever is not None
        _, force = pushes[int(np.argmax(turned))]
        assert one.lever * float(np.linalg.norm(force[1:])) == pytest.approx(one.twist, abs=1e-6)


def test_enough_lands_on_rails_and_between_them() -> None:
    every = [one for design in EVERY for one in landings(railed(design), reckoned(design))]
    assert sum(one.rail is not None for one in every) >= 8
    assert sum(one.rail is None for one in every) >= 4


def test_a_crank_on_the_frame_brings_both_rods_to_its_pin() -> None:
    design = layout("parallel and watts on frame")
    found = reckoned(design)
    (pin,) = [one for one in landings(design, found) if one.mount == "watts.pivot"]
    sums = [
        float(np.linalg.norm(sum(np.array(p.force) for p in case.pushes if p.on == "frame" and "watts" in p.part)))
        for case in found.cases
    ]
    assert pin.force == pytest.approx(max(sums))
    assert pin.force == pytest.approx(max(one.forces["watts.pivot"]["at"] for one in found.cases if one.forces))
    assert pin.words == "pivot of the Watts link at the frame"


def test_no_rails_give_the_force_alone_and_say_that_they_are_not_known() -> None:
    bare = changed(TARN, lambda data: data.update(rails=None))
    landed = landings(bare, reckoned(bare))
    assert landed
    assert all((one.rail, one.lever, one.twist) == (None, None, None) for one in landed)
    assert frame_prompts(bare, landed) == [
        "The frame's rails are not known: draw them under Truck, and how they are made."
    ]


def test_what_a_person_must_judge_follows_how_the_rails_are_made() -> None:
    def told(**more: Any) -> str:
        design = railed(EVERY[0], **more)
        return " ".join(frame_prompts(design, landings(design, reckoned(design))))

    assert "Nobody has said" in told()
    unlike = told(left={"made": "open", "wall": 4.0}, right={"made": "boxed"})
    assert "unlike the other" in unlike
    assert "The left rail is open" in unlike
    assert "The right rail" not in unlike
    assert "The right rail is open" in told(left={"made": "open"}, right={"wall": 3.0})
    boxed = told(left={"made": "boxed"})
    assert "open" not in boxed
    assert "tapered ends" in boxed
    assert "times as stiff" not in told(left={"made": "open"})


@pytest.mark.parametrize(
    ("more", "says"),
    [
        ({"left": {"made": "wood"}}, "rails.left.made"),
        ({"left": {"made": "open", "wall": 30.0}}, "half its section"),
        ({"right": {"wall": -1.0}}, "rails.right.wall"),
    ],
)
def test_a_rail_that_cannot_be_is_refused(more: Any, says: str) -> None:
    with pytest.raises(Refused) as refused:
        railed(TARN, **more)
    assert says in str(refused.value)
