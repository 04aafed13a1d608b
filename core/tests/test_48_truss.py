"""The truss: areas by integration along its length, places by hand, what it meets, what is cut and said of it."""

import io
import random
import zipfile
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from making import STOCK, TENDER, bracketed, jointed

from oak_lever.api import (
    Design,
    Refused,
    Stock,
    added,
    cut,
    cut_since,
    design_from,
    gaps_here,
    mark_out,
    read_design,
    sheet_dxf,
)
from oak_lever.cut_sheet.archive import shop_archive
from oak_lever.cut_sheet.mock_up import plate_faces
from oak_lever.design.axle import HOUSING_TUBES
from oak_lever.plates.brackets import Plate
from oak_lever.plates.truss import truss_made
from oak_lever.sheet.links import Titles

TOP = [[-450.0, 520.0], [-150.0, 620.0], [150.0, 620.0], [450.0, 520.0]]
PLAIN = {"top": TOP, "width": 60.0, "plate": 4.7625}
R = TENDER.axle.tire_radius_loaded
TUBE = TENDER.axle.tube_diameter / 2.0


def trussed(design: Design = TENDER, **more: Any) -> Design:
    return changed(design, lambda data: data.update(truss={**PLAIN, **more}))


def named(design: Design) -> dict[str, Plate]:
    plates, faults = truss_made(design)
    assert faults == ()
    return {one.part: one for one in plates}


def fault(**more: Any) -> str:
    plates, faults = truss_made(trussed(**more))
    assert plates == ()
    return "; ".join(map(str, faults))


def random_truss(chance: random.Random) -> dict[str, Any]:
    middle = chance.uniform(150.0, 220.0)
    ends, high = chance.uniform(515.0, 540.0), chance.uniform(640.0, 700.0)
    shift = chance.uniform(-40.0, 40.0)
    return {
        "top": [[-480.0, ends], [shift - middle, high], [shift + middle, high + chance.uniform(-10.0, 10.0)], [460.0, ends]],
        "width": chance.uniform(40.0, 64.0), "ahead": chance.uniform(-10.0, 10.0), "plate": chance.choice([3.0, 4.7625, 6.35]),
    }  # fmt: skip


@pytest.mark.parametrize("seed", range(12))
def test_each_plate_is_as_large_as_what_it_covers(seed: int) -> None:
    what = random_truss(random.Random(seed))
    found = named(trussed(**what))
    y = np.linspace(what["top"][0][0], what["top"][-1][0], 400_001)
    over = np.interp(y, *np.array(what["top"]).T) - R
    housing, middle = HOUSING_TUBES * TUBE, TENDER.axle.pinion.joint[1]
    for n, way in ((1, -1.0), (2, 1.0)):
        x = what["ahead"] + way * (what["width"] - what["plate"]) / 2.0
        inside = np.maximum(housing**2 - x**2 - (y - middle) ** 2, 0.0)
        foot = np.maximum(np.sqrt(TUBE**2 - x**2), np.sqrt(inside))
        assert found[f"truss-side-{n}"].area == pytest.approx(np.trapezoid(over - foot, y), rel=1e-5)
        assert found[f"truss-side-{n}"].origin == pytest.approx((x, 0.0, R))
    for n, (a, b) in enumerate(zip(what["top"], what["top"][1:], strict=False), 1):
        assert found[f"truss-top-{n}"].area == pytest.approx(np.hypot(b[0] - a[0], b[1] - a[1]) * what["width"])
    half = what["width"] / 2.0 - what["plate"]
    x = np.linspace(-half, half, 200_001) + what["ahead"]
    for n, (_, high) in ((1, what["top"][0]), (2, what["top"][-1])):
        want = np.trapezoid(high - R - np.sqrt(TUBE**2 - x**2), x)
        assert found[f"truss-end-{n}"].area == pytest.approx(want, rel=1e-5)
    for plate in found.values():
        assert plate.mass == pytest.approx(plate.area * what["plate"] * 7850e-9, rel=1e-6)


def test_sides_and_ends_of_an_even_truss_are_cut_alike() -> None:
    found = named(trussed())
    same = {part: one.same_as for part, one in found.items()}
    assert same["truss-side-2"] == "truss-side-1"
    assert same["truss-end-2"] == "truss-end-1"
    assert (same["truss-side-1"], same["truss-top-2"], same["truss-top-3"]) == (None, None, "truss-top-1")


@pytest.mark.parametrize("seed", range(6))
def test_as_solids_its_plates_hold_what_they_weigh_and_touch_the_tube_nowhere_inside(seed: int) -> None:
    what = random_truss(random.Random(100 + seed))
    for part, plate in named(trussed(**what)).items():
        faces = plate_faces(plate)
        volume = np.einsum("ij,ij->i", faces[:, 0], np.cross(faces[:, 1], faces[:, 2])).sum() / 6.0
        assert volume == pytest.approx(plate.area * what["plate"], rel=2e-3), part
        corners = np.array(plate.outline.points(0.002))
        middle = plate.origin + corners[:, :1] * plate.u + corners[:, 1:] * plate.v
        assert np.hypot(middle[:, 0], middle[:, 2] - R).min() > TUBE - 0.01


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"width": 9.0}, "two sides are thick"),
        ({"width": 100.0}, "must come down on it"),
        ({"ahead": 20.0}, "must come down on it"),
        ({"top": [[-450.0, 485.0], [450.0, 600.0]]}, "top[0]"),
        ({"top": [[-450.0, 515.0], [0.0, 592.0], [450.0, 515.0]]}, "nearer to the housing"),
        ({"top": [[-450.0, 515.0], [450.0, 515.0]]}, "through it"),
        ({"top": [[-120.0, 700.0], [450.0, 620.0]]}, "ends on the housing"),
        ({"material": "cheese"}, "truss.material"),
    ],
)
def test_what_cannot_stand_is_refused_at_its_place_and_the_rest_is_made(more: dict[str, Any], words: str) -> None:
    assert words in fault(**more)
    found = cut(jointed(trussed(**more)))
    assert found.truss == ()
    assert len(found.bars) == len(TENDER.links)
    assert any(str(one.path).startswith("truss") for one in found.faults)


@pytest.mark.parametrize("top", [[[0.0, 600.0]], [[0.0, 600.0], [-100.0, 600.0]], [[0.0, 600.0], [5.0, 600.0]]])
def test_a_top_goes_from_right_to_left(top: Any) -> None:
    with pytest.raises(Refused, match=r"truss\.top|must go"):
        design_from(
            {
                **trussed().model_dump(mode="json", by_alias=True, exclude_none=True),
                "lateral": None,
                "truss": {**PLAIN, "top": top},
            }
        )


@pytest.mark.parametrize("file", sorted(one.name for one in DEMO.glob("*.json") if "truck" not in one.name))
def test_one_that_is_added_can_be_made_and_stands_below_the_links_mounts_over_it(file: str) -> None:
    design = added(read_design((DEMO / file).read_text()), "truss")
    found = named(design)
    assert len(found) == 7
    top = max(one[1] for one in design.truss.top) + design.truss.plate if design.truss else 0.0
    housing = (
        design.axle.housing.diameter / 2.0 if design.axle.housing else HOUSING_TUBES * design.axle.tube_diameter / 2.0
    )
    middle = design.axle.housing.at if design.axle.housing else (0.0, 0.0, design.axle.tire_radius_loaded)
    over = [
        link.axle.at[2] for link in design.links
        if link.kind != "radius_arm" and abs(link.axle.at[1] - middle[1]) < housing and link.axle.at[2] > middle[2] + housing + 60.0
    ]  # fmt: skip
    assert all(up > top for up in over)
    with pytest.raises(Refused, match="one already"):
        added(design, "truss")


def test_it_is_nested_listed_and_drawn() -> None:
    found = cut(jointed(trussed()), Stock.model_validate({
        **STOCK, "plates": [{"thickness": 4.7625, "size": [1200.0, 600.0], "count": 2}],
    }))  # fmt: skip
    assert found.nest is not None
    laid = {one.part for sheet in found.nest.plates for one in sheet.parts}
    assert laid == {plate.part for plate in found.truss}
    assert found.data()["truss"]["plates"][0]["part"] == "truss-side-1"
    assert "truss" not in cut(TENDER).data()
    text = sheet_dxf(found.nest.plates[0], {one.part: one for one in found.plates}, (1200.0, 600.0))
    assert text.count("\nCIRCLE\n") == 0
    with zipfile.ZipFile(io.BytesIO(shop_archive(jointed(trussed()), Titles("T", 1, "2030-01-01"), "in16"))) as archive:
        names = archive.namelist()
    assert {"truss-side-1.dxf", "truss-top-1.dxf", "truss-end-1.dxf"} <= set(names)
    assert "truss-side-2.dxf" not in names


def test_its_ends_are_marked_where_they_come_down() -> None:
    marks = mark_out(trussed(ahead=4.0)).truss
    assert [round(one.at[0], 6) for one in marks] == [-26.0, 34.0, -26.0, 34.0]
    assert [one.at[1] for one in marks] == [-450.0, -450.0, 450.0, 450.0]
    for one in marks:
        assert np.hypot(one.at[0], one.at[2] - R) == pytest.approx(TUBE)
        assert np.tan(np.radians(one.clock or 0.0)) == pytest.approx(one.at[0] / (one.at[2] - R))


def test_what_stands_over_it_is_as_far_off_as_it_stands() -> None:
    """A slab over its flat top, at ride; and its bracket, which stands on it, is not held apart from it."""
    slab = {"kind": "box", "center": [0.0, 0.0, 700.0], "size": [200.0, 100.0, 100.0], "turn": [0.0, 0.0, 0.0]}
    over = [{"id": "pan", "name": "Pan", "on": "frame", "gap": 10.0, "solid": slab}]
    there = changed(trussed(), lambda data: data.update(room={"keep_outs": over}))
    gap = next(one for one in gaps_here(there, 0.0, 0.0) if {one.a, one.b} == {"axle-truss", "pan"})
    assert gap.gap == pytest.approx(650.0 - 620.0 - 4.7625, abs=0.01)
    lower = TENDER.links[0]
    stands = {"mounts": [f"{lower.id}.axle"]}
    names = {frozenset((one.a, one.b)) for one in gaps_here(bracketed(jointed(there), stands), 0.0, 0.0)}
    assert frozenset(("axle-truss", "pan")) in names
    assert not [pair for pair in names if "axle-truss" in pair and pair & {"bracket-b1", "axle-tube", "housing"}]


def test_what_is_made_otherwise_since_is_said() -> None:
    before, after = jointed(TENDER), jointed(trussed())
    assert "Plate truss-side-1: new" in cut_since(before, after, "mm")
    assert "Plate truss-side-1: made no more" in cut_since(after, before, "mm")
    thicker = cut_since(after, jointed(trussed(plate=6.35)), "in16")
    assert any(line.startswith("Plate truss-side-1: plate 1/4 in thick") for line in thicker)
