"""What comes too near or meets, as findings: how deep, from where on, at what cost; against closed forms."""

from math import dist
from typing import Any

import numpy as np
import pytest
from designs import DEMO

from oak_lever.api import (
    Design,
    Wanted,
    cures,
    cycle,
    design_from,
    findings,
    findings_apart,
    findings_on,
    pull,
    read_design,
    settle,
    shock_places,
)
from oak_lever.api import (
    placed as placed_at,
)
from oak_lever.clearance.depth import Placed, overlap
from oak_lever.clearance.solids import Piece, ball
from oak_lever.design.gallery import layout
from oak_lever.design.reader import design_data

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())


def placed(piece: Piece, turn: Any = None, shift: Any = (0.0, 0.0, 0.0)) -> Placed:
    return piece, np.eye(3) if turn is None else turn, np.array(shift)


def box(x: float, y: float, z: float) -> Piece:
    return Piece(0.0, np.array([(a * x, b * y, c * z) for a in (-1, 1) for b in (-1, 1) for c in (-1, 1)]) / 2.0)


def test_balls_overlap_by_their_radii_less_how_far_apart_they_stand() -> None:
    rng = np.random.default_rng(3)
    for _ in range(40):
        middle, big, small = rng.uniform(-30.0, 30.0, 3), *rng.uniform(20.0, 80.0, 2)
        expected = max((big + small) / 2.0 - dist((0.0, 0.0, 0.0), middle), 0.0)
        found = overlap(placed(ball((0.0, 0.0, 0.0), big)), placed(ball(middle.tolist(), small)))
        assert found == pytest.approx(expected, abs=0.02 * (1.0 + expected))


def test_boxes_overlap_along_the_axis_on_which_they_do_least() -> None:
    rng = np.random.default_rng(4)
    for _ in range(40):
        one, other, far = rng.uniform(20.0, 90.0, 3), rng.uniform(20.0, 90.0, 3), rng.uniform(-40.0, 40.0, 3)
        expected = max(float(((one + other) / 2.0 - np.abs(far)).min()), 0.0)
        assert overlap(placed(box(*one)), placed(box(*other), shift=far)) == pytest.approx(expected, abs=0.1)


def with_keep_outs(*solids: dict[str, Any]) -> Design:
    data = design_data(layout("double triangulated"))
    data["room"] = {
        "keep_outs": [
            {"id": f"thing-{n}", "name": f"Thing {n}", "on": "frame", "gap": 10.0, "solid": solid}
            for n, solid in enumerate(solids)
        ]
    }
    return design_from(data)


def over_the_tube(y: float, above: float) -> dict[str, Any]:
    """A slab whose underside stands so far above the axle tube."""
    axle = layout("double triangulated").axle
    low = axle.tire_radius_loaded + axle.tube_diameter / 2.0 + above
    return {"kind": "box", "center": [0.0, y, low + 200.0], "size": [400.0, 60.0, 400.0]}


@pytest.mark.parametrize("above", [25.0, 41.0, 60.0])
def test_a_slab_over_the_tube_costs_the_travel_above_its_underside(above: float) -> None:
    design = with_keep_outs(over_the_tube(480.0, above))
    assert design.travel.bump > above
    (found,) = [one for one in findings_apart(design) if one.parts == ("axle-tube thing-0",)]
    assert (found.severity, found.title) == ("stop", "Axle tube and Thing 0: they meet")
    facts = {fact.words: fact.value for fact in found.facts}
    assert facts["Straight into bump they meet from"] == pytest.approx(above, abs=1.5)
    assert facts["Travel that costs in bump"] == pytest.approx(design.travel.bump - above, abs=1.5)
    assert not any("droop" in words for words in facts)
    assert found.value is not None
    assert found.value < 0.0
    assert found.place.travel == pytest.approx(design.travel.bump)


def test_a_part_and_its_mirror_image_are_said_once() -> None:
    both = with_keep_outs(over_the_tube(480.0, 45.0), over_the_tube(-480.0, 45.0))
    tubes = [one for one in findings_apart(both) if "axle-tube thing-0" in one.parts]
    assert [one.title for one in tubes] == ["Axle tube and Thing 0, and their mirror images: they meet"]
    assert tubes[0].parts == ("axle-tube thing-0", "axle-tube thing-1")
    lopsided = with_keep_outs(over_the_tube(480.0, 45.0), over_the_tube(-480.0, 52.0))
    apart = [one.parts for one in findings_apart(lopsided) if one.place.parts[:1] == ("axle-tube",)]
    assert sorted(apart) == [("axle-tube thing-0",), ("axle-tube thing-1",)]


def test_a_gap_that_is_there_but_too_small_is_to_be_fixed_and_tells_its_size() -> None:
    design = with_keep_outs(over_the_tube(480.0, 1000.0))
    far = {one.id for one in findings_apart(design)}
    near = with_keep_outs({"kind": "box", "center": [0.0, 480.0, 40.0], "size": [300.0, 60.0, 20.0]})
    found = [one for one in findings_apart(near) if one.id not in far]
    for one in found:
        assert one.severity == ("stop" if one.value is not None and one.value <= 0.0 else "fix")
        assert one.low == 10.0


def test_gaps_stand_among_all_other_findings_by_gravity() -> None:
    every, without = findings_on(TENDER), findings(cycle(TENDER))
    assert {one.id for one in every} == {one.id for one in without} | {one.id for one in findings_apart(TENDER)}
    order = ["stop", "fix", "consider", "good"]
    assert [one.severity for one in every] == sorted((one.severity for one in every), key=order.index)


DEMOS = sorted(path for path in DEMO.glob("*.json") if "truck" not in path.name)


def meeting(design: Design) -> set[str]:
    """Every two parts that meet, and their mirror images."""
    return {part for one in findings_apart(design) if one.severity == "stop" for part in one.parts}


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_nothing_offered_puts_a_part_into_another(file: Any) -> None:
    design = read_design(file.read_text())
    settled = settle(design, 3.0)
    if settled is not None:
        assert meeting(placed_at(design, settled.at)) <= meeting(design)
    assert design.corners
    offered = shock_places(design, design.corners.shocks[0].id, 3.0, "mm")
    for cure in offered:
        assert meeting(design_from(cure.document)) <= meeting(design)
    assert settled is not None or offered


@pytest.mark.parametrize("by", [-80.0, -40.0, 40.0, 80.0])
def test_a_pull_that_lands_says_what_is_then_graver(by: float) -> None:
    """On gaps and on springs and shafts too; found here by holding all findings of the two designs side by side."""
    order = ["good", "consider", "fix", "stop"]
    now = cycle(TENDER).ride.columns["roll_center_height"][0]
    pulled = pull(TENDER, [Wanted("roll_center_height", 0.0, 0.0, float(now) + by)], increment_mm=3.0)
    after = placed_at(TENDER, pulled.at)
    was, then = ({one.id: one for one in findings_on(design)} for design in (TENDER, after))
    graver = {
        f"{one.severity}: {one.title}".lower()
        for name, one in then.items()
        if order.index(one.severity) > (order.index(was[name].severity) if name in was else 0)
    }
    assert {words.lower() for words in pulled.worse} == graver


def test_what_cures_a_meeting_leaves_no_such_finding() -> None:
    meet = next(one for one in findings_apart(TENDER) if one.severity == "stop")
    offered = cures(TENDER, meet.id, 3.175, "in16")
    assert offered
    for cure in offered:
        assert meet.id not in {one.id for one in findings_apart(design_from(cure.document))}
