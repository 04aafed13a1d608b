"""On its weight: how the axle stands by the struts that were read, and everything else beside what it does there."""

import re
from math import asin, cos, degrees, dist, radians, sin
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from pydantic import ValidationError
from random_designs import random_designs

from oak_lever.api import Design, FitRecord, OnWeight, Refused, cycle, fit_record_from, on_weight, read_design
from oak_lever.figures.sit import TURN_MM, Sitting
from oak_lever.fit_up.fitted import fitted
from oak_lever.fit_up.readings import log_of

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
FRONT = read_design((DEMO / "fell-tender-front.json").read_text())
SPRUNG = [
    one for one in (TENDER, FRONT, *random_designs(52, 8))
    if one.corners is not None and all(shock.axle.on == "axle" for shock in one.corners.shocks)
]  # fmt: skip


def pose_of(design: Design, travel: float, articulation: float) -> tuple[Any, Any, dict[str, Any]]:
    """How the axle is turned and where its center is, by the row of the file format."""
    row = cycle(design, 2, (travel, articulation)).here
    assert row is not None
    (found,) = row.rows()
    assert found["reached"]
    pitch = radians(found["pinion_change"]) * (-1.0 if design.axle.end == "rear" else 1.0)
    roll, yaw = radians(found["roll"]), radians(found["yaw"])
    about_x = np.array([[1, 0, 0], [0, cos(roll), -sin(roll)], [0, sin(roll), cos(roll)]])
    about_y = np.array([[cos(pitch), 0, sin(pitch)], [0, 1, 0], [-sin(pitch), 0, cos(pitch)]])
    about_z = np.array([[cos(yaw), -sin(yaw), 0], [sin(yaw), cos(yaw), 0], [0, 0, 1]])
    center = np.array([found["axle_x"], found["axle_y"], found["axle_z"]])
    return about_z @ about_y @ about_x, center, found


def carried(design: Design, at: Any, travel: float, articulation: float) -> Any:
    turn, center, _ = pose_of(design, travel, articulation)
    return center + turn @ (np.array(at) - [0.0, 0.0, design.axle.tire_radius_loaded])


def shocks_read(design: Design, travel: float, articulation: float, stance: str = "weight") -> list[dict[str, Any]]:
    """Each shock eye to eye there, by the distance of its eyes."""
    assert design.corners is not None
    return [
        {"id": f"{stance}-{shock.id}", "stance": stance, "kind": "strut", "of": shock.id, "unit": "mm",
         "value": dist(shock.frame.at, carried(design, shock.axle.at, travel, articulation))}
        for shock in design.corners.shocks
    ]  # fmt: skip


def of(design: Design, stood: list[dict[str, Any]], **more: Any) -> OnWeight:
    return on_weight(design, fit_record_from({"stood": stood, **more}))


def pinion(value: float, **more: Any) -> dict[str, Any]:
    return {"id": "p", "kind": "pinion", "value": abs(value), "points": "up" if value >= 0 else "down", **more}


@pytest.mark.parametrize("design", SPRUNG, ids=lambda one: one.name)
def test_how_it_stands_is_found_again_from_its_shocks(design: Design) -> None:
    rng = np.random.default_rng(52)
    for _ in range(3):
        travel, articulation = float(rng.uniform(-50.0, 50.0)), float(rng.uniform(-3.0, 3.0))
        turn, center, row = pose_of(design, travel, articulation)
        spots = {link.id: (link.axle, link.frame) for link in design.links if link.kind != "radius_arm"}
        bar, (axle, frame) = next(iter(spots.items())) if spots else (None, (None, None))
        stood = shocks_read(design, travel, articulation)
        angle = design.axle.pinion.angle + row["pinion_change"]
        stood.append(pinion(angle))
        if axle is not None and frame is not None:
            low = carried(design, axle.at, travel, articulation)
            slope = degrees(asin((frame.at[2] - low[2]) / dist(frame.at, low)))
            stood.append(
                {"id": "b", "kind": "bar", "of": bar, "value": abs(slope), "high": "frame" if slope > 0 else "axle"}
            )
        found = of(design, stood)
        (stands,) = found.stood
        assert (stands.travel, stands.articulation) == pytest.approx((travel, articulation), abs=0.02)
        # each wheel's center, by the axle's own line
        for side, hand in ((stands.left, 1.0), (stands.right, -1.0)):
            wheel = center + turn @ np.array([0.0, hand * design.axle.track / 2.0, 0.0])
            assert side == pytest.approx(wheel[2] - design.axle.tire_radius_loaded, abs=0.2)
        assert not stands.level
        assert not found.strange
        assert len(found.beside) == len(stood)
        assert not [one for one in found.beside if one.differs]
        for one in found.beside:
            assert one.drawn == pytest.approx(one.read, abs=0.02)


def test_there_is_enough_to_stand() -> None:
    assert len(SPRUNG) >= 6
    assert {one.axle.end for one in SPRUNG} == {"rear", "front"}


def test_of_one_side_alone_it_is_taken_to_stand_level_and_says_so() -> None:
    (left, _) = shocks_read(TENDER, 20.0, 0.0)
    (stands,) = of(TENDER, [left]).stood
    assert stands.level
    assert stands.articulation == 0.0
    assert stands.travel == pytest.approx(20.0, abs=0.02)


def test_bump_and_droop_are_looked_at_apart_and_beside_what_is_drawn() -> None:
    stood = [*shocks_read(TENDER, 100.0, 0.0, "bump"), *shocks_read(TENDER, -150.0, 0.0, "droop")]
    _, _, row = pose_of(TENDER, -150.0, 0.0)
    stood.append(pinion(TENDER.axle.pinion.angle + row["pinion_change"], stance="droop"))
    found = of(TENDER, stood)
    assert [(one.stance, one.wanted) for one in found.stood] == [
        ("bump", TENDER.travel.bump), ("droop", -TENDER.travel.droop)
    ]  # fmt: skip
    assert [one.travel for one in found.stood] == pytest.approx([100.0, -150.0], abs=0.05)
    assert not any(one.differs for one in found.beside)
    assert found.height == ()  # nothing was read on its weight


def test_a_stop_is_read_by_its_open_gap_and_a_pressed_one_reads_nothing() -> None:
    corners = TENDER.corners
    assert corners is not None
    stop = corners.stops[0]
    reach = dist(stop.frame.at, carried(TENDER, stop.axle.at, 30.0, 0.0)) - stop.free
    read = {"id": "s", "kind": "strut", "of": stop.id, "value": reach, "unit": "mm"}
    (stands,) = of(TENDER, [read]).stood
    assert stands.travel == pytest.approx(30.0, abs=0.1)
    pressed = {"id": "s", "stance": "bump", "kind": "strut", "of": stop.id, "value": 0.0, "unit": "mm"}
    found = of(TENDER, [*shocks_read(TENDER, 100.0, 0.0, "bump"), pressed])
    assert not any(one.differs for one in found.beside)
    assert found.stood[0].travel == pytest.approx(100.0, abs=0.1)


def test_what_was_built_off_is_foretold_and_a_bar_off_its_length_is_named() -> None:
    """The truth: one bar 7 mm longer than drawn, followed with all lengths kept. Said, nothing differs; unsaid, the
    bar is named with its 7 mm."""
    looked = 0
    for link in TENDER.links:
        assert link.kind != "radius_arm"
        long = dist(link.axle.at, link.frame.at)
        reading = {"id": "r", "kind": "length", "of": link.id, "value": long + 7.0, "unit": "mm"}
        log, _ = log_of(FitRecord.model_validate({"readings": [reading]}), TENDER)
        made = fitted(TENDER, log)
        assert made.as_made is not None
        off = made.as_made["pinion_change"]
        assert off is not None
        _, _, row = pose_of(TENDER, 15.0, 1.0)
        stood = [*shocks_read(TENDER, 15.0, 1.0), pinion(TENDER.axle.pinion.angle + row["pinion_change"] + off)]
        told = {one.reading: one for one in of(TENDER, stood, readings=[reading]).beside}["p"]
        assert told.built == pytest.approx(told.read, abs=0.01)
        assert not told.differs
        untold = {one.reading: one for one in of(TENDER, stood).beside}["p"]
        assert untold.built is None
        assert untold.differs == (abs(off) > 0.5)
        if untold.differs:
            looked += 1
            words = next(one for one in untold.points if link.id.replace("-", " ") in one)
            assert re.search(r"(\d+\.\d) mm longer", words)
            assert float(re.search(r"(\d+\.\d) mm longer", words)[1]) == pytest.approx(7.0, abs=0.6)  # type: ignore[index]
    assert looked >= 2


@pytest.mark.parametrize(("slip", "words"), [
    ({"points": "down"}, "the other way"), ({"face": "square"}, "the other face"), ({"zero": "plumb"}, "its zero"),
])  # fmt: skip
def test_a_gauge_set_down_wrongly_is_named(slip: dict[str, str], words: str) -> None:
    _, _, row = pose_of(TENDER, 10.0, 0.0)
    right = pinion(TENDER.axle.pinion.angle + row["pinion_change"])
    stood = shocks_read(TENDER, 10.0, 0.0)
    assert not [one for one in of(TENDER, [*stood, right]).beside if one.differs]
    (told,) = [one for one in of(TENDER, [*stood, right | slip]).beside if one.differs]
    assert any(words in one for one in told.points), told.points


def test_a_bar_that_stands_otherwise_is_told_with_what_its_ends_are_off() -> None:
    stood = shocks_read(TENDER, 0.0, 0.0)
    link = TENDER.links[0]
    assert link.kind != "radius_arm"
    rise, long = link.frame.at[2] - link.axle.at[2], dist(link.frame.at, link.axle.at)
    for more in (12.0, -12.0):
        slope = degrees(asin((rise + more) / long))
        read = {"id": "b", "kind": "bar", "of": link.id, "value": abs(slope), "high": "frame" if slope > 0 else "axle"}
        told = {one.reading: one for one in of(TENDER, [*stood, read]).beside}["b"]
        assert told.differs
        assert told.points == (
            f"Its end at the {'frame' if more > 0 else 'axle'} stands 12 mm higher against the other than foretold.",
        )
    slope = degrees(asin(rise / long))
    other = {"id": "b", "kind": "bar", "of": link.id, "value": abs(slope), "high": "axle" if slope > 0 else "frame"}
    told = {one.reading: one for one in of(TENDER, [*stood, other]).beside}["b"]
    assert "other end the higher" in told.points[0]


def test_gaps_are_held_against_the_room_at_that_height() -> None:
    from oak_lever.clearance.clearances import gaps_here

    gaps = [one for one in gaps_here(TENDER, 40.0, 0.0) if one.gap > 5.0][:3]
    assert gaps
    stood: list[dict[str, Any]] = shocks_read(TENDER, 40.0, 0.0)
    for n, gap in enumerate(gaps):
        less = 8.0 if n == 0 else 0.0
        value = max(gap.gap - less, 0.0)
        stood.append({"id": f"g{n}", "kind": "gap", "of": gap.b, "to": gap.a, "value": value, "unit": "mm"})
    told = {one.reading: one for one in of(TENDER, stood).beside}
    assert told["g0"].differs == (gaps[0].gap - max(gaps[0].gap - 8.0, 0.0) > 3.0)
    assert " mm less than drawn between " in told["g0"].points[0]
    assert not told["g1"].differs


def test_turns_of_the_seats_bring_it_to_the_height_drawn_when_it_is_sat_anew() -> None:
    looked = 0
    for design in SPRUNG:
        stands = Sitting(design).sits().travel
        if stands is None:
            continue
        for travel in (22.0, -18.0):
            words = of(design, shocks_read(design, travel, 0.0)).height
            assert any(f"{abs(travel):.0f} mm {'lower' if travel > 0 else 'higher'} than drawn" in one for one in words)
            for one in words:
                found = re.match(r"(\d+\.\d) turns (tighter|looser) at the seats of (.+?) (raise|lower) it", one)
                if not found:
                    continue
                assert (found[2] == "tighter") == (travel > 0) == (found[4] == "raise")
                turns = float(found[1]) * (1.0 if travel > 0 else -1.0)
                names = [n for n in (shock.id for shock in design.corners.shocks) if n.replace("-", " ") in found[3]]  # type: ignore[union-attr]
                assert names

                def tightened(data: Any, names: list[str] = names, turns: float = turns) -> None:
                    for shock in data["corners"]["shocks"]:
                        if shock["id"] in names:
                            shock["spring"]["preload"] += turns * TURN_MM

                then = Sitting(changed(design, tightened)).sits().travel
                assert then is not None
                assert stands - then == pytest.approx(travel, abs=1.2)  # half a tenth of a turn of stacked springs
                looked += 1
    assert looked >= 4


def test_new_springs_that_will_settle_to_the_height_drawn_are_left_alone() -> None:
    def settling(by: float) -> Design:
        return changed(TENDER, lambda data: data["corners"].update(settling=by))

    travel = Sitting(TENDER).sits().travel
    assert travel is not None
    assert travel < -4.0  # high, until it settles
    words = of(settling(-travel), shocks_read(TENDER, travel, 0.0)).height
    assert f"before they settle, by {-travel:.0f} mm" in words[1]
    assert words[2].startswith("Settled it would stand as drawn")
    assert not any("turns" in one for one in words)
    words = of(settling(-travel - 6.0), shocks_read(TENDER, -6.0, 0.0)).height  # as it stands once settled
    assert any("it is the springs, not what was built" in one for one in words)
    words = of(settling(3.0), shocks_read(TENDER, 25.0, 0.0)).height
    assert any("look at springs and seats" in one for one in words)


def test_at_the_height_drawn_it_is_said_gladly_and_one_side_low_is_named() -> None:
    assert of(TENDER, shocks_read(TENDER, 1.0, 0.0)).height == (
        "It stands at the ride height that was drawn: inside tolerance.",
    )
    words = of(TENDER, shocks_read(TENDER, 0.0, 1.0)).height
    assert words[0].startswith("The left stands ")
    (lower,) = re.findall(r"The left stands (\d+) mm lower", words[0])
    assert float(lower) == pytest.approx(2.0 * sin(radians(1.0)) * TENDER.axle.track / 2.0, abs=1.0)
    assert of(TENDER, shocks_read(TENDER, 0.0, -1.0)).height[0].startswith("The right stands ")


def test_what_the_design_has_not_is_told_and_all_else_is_kept() -> None:
    stood = [
        *shocks_read(TENDER, 0.0, 0.0),
        {"id": "x", "kind": "strut", "of": "nobody", "value": 300.0, "unit": "mm"},
        {"id": "y", "kind": "bar", "of": "nobody", "value": 3.0, "high": "axle"},
        {"id": "z", "kind": "gap", "of": "nobody", "to": "tire-left", "value": 3.0, "unit": "mm"},
        pinion(8.0, stance="droop"),
    ]
    found = of(TENDER, stood)
    assert set(found.strange) == {"x", "y", "z", "p"}
    assert "not known" in found.strange["p"]
    assert len(found.stood) == 1
    far = of(TENDER, [{"id": "x", "kind": "strut", "of": TENDER.corners.shocks[0].id, "value": 9000.0, "unit": "mm"}])  # type: ignore[union-attr]
    assert not far.stood or not far.stood[0].travel < -TENDER.travel.droop - 2000.0
    left_out = [one | {"left_out": True} for one in shocks_read(TENDER, 30.0, 0.0)]
    assert of(TENDER, left_out) == OnWeight((), (), (), {})


@pytest.mark.parametrize("bad", [
    {"kind": "pinion", "value": 91.0}, {"kind": "pinion", "value": float("nan")},
    {"kind": "bar", "of": "a", "value": -1.0, "high": "axle"}, {"kind": "bar", "of": "a", "value": 3.0, "high": "up"},
    {"kind": "strut", "of": "a", "value": -3.0, "unit": "mm"}, {"kind": "strut", "of": "a", "value": 3.0, "unit": "ft"},
    {"kind": "gap", "of": "a", "value": 3.0, "unit": "mm"}, {"kind": "smell", "value": 3.0},
])  # fmt: skip
def test_what_no_gauge_says_is_refused(bad: dict[str, Any]) -> None:
    with pytest.raises((Refused, ValidationError)):
        fit_record_from({"stood": [{"id": "a", **bad}]})
