"""TRUE: what is said of random designs, worked out anew: signs, turns of a pinion, prices in travel, sentences."""

import math
import re
from typing import Any

import numpy as np
import pytest
from anew import about_axle, asked
from designs import DEMO, changed
from random_designs import MANY, random_designs

from oak_lever.api import (
    Design,
    cures,
    cycle,
    design_data,
    design_from,
    explained,
    findings,
    hand_check,
    look,
    parts_of,
    read_design,
    school_says,
    slack,
    turn_by,
    variants,
)
from oak_lever.design.hand import HandReading
from oak_lever.judge.house import SCHOOLS
from oak_lever.judge.parts import checks
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import rotations
from oak_lever.move.hand import predicted
from oak_lever.move.turned import adjusted, can_turn_on_links, turned_housing
from oak_lever.truck.restood import stood_on

DESIGNS = random_designs(20, max(MANY, 6))
SHAFTED = [one for one in DESIGNS if one.driveshaft]
MM = r"([-\d.]+) mm"


def moved_to(design: Design, point: Any, travel: float, articulation: float = 0.0) -> Any:
    """Where a point of the axle is in a pose."""
    state = look(design, travel, articulation).here.state
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    return state[0, :3] + rotations(state)[0] @ (np.array(point) - center)


# a pinion turned


@pytest.mark.parametrize("how", ["brackets", "links"])
def test_every_turn_of_a_pinion_lands_on_its_aim(how: Any) -> None:
    assert len(SHAFTED) >= 6
    looked = 0
    for n, design in enumerate(SHAFTED):
        if how == "links" and not can_turn_on_links(design):
            continue
        looked += 1
        value, soft = 3.0 + 0.7 * n % 8.0, (0.0, 1.5, 2.5)[n % 3]
        turned = turn_by(design, value, "level", "along", "up", soft=soft, how=how)
        then = design_from(turned.document)
        assert then.axle.pinion.angle - value == pytest.approx(turned.turn)
        assert then.axle.pinion.angle == pytest.approx(asked(then) - soft, abs=0.1)
        joint = about_axle(design, design.axle.pinion.joint, then.axle.pinion.angle - design.axle.pinion.angle)
        assert then.axle.pinion.joint == pytest.approx(joint)
        read = design_from(turned.as_read)
        assert turned.moved == pytest.approx(math.dist(read.axle.pinion.joint, then.axle.pinion.joint))
        assert turned.way == ("its nose up" if turned.turn > 0 else "its nose down")
        row = cycle(then).ride.rows()[0]
        assert turned.after.case_joint == pytest.approx(row["case_joint"])
        assert turned.after.pinion_joint == pytest.approx(row["pinion_joint"])
        if soft:
            assert f"{soft:.1f} degrees under" in turned.soft
        for one in turned.lengths:
            ends = [next(body for body in parts_of(d).bodies if body.id == one.part) for d in (read, then)]
            was, now = (math.dist(body.a.at, body.b.at) for body in ends)
            assert one.by == pytest.approx(now - was, abs=1e-6)
        assert turned.lengths or how == "brackets" or abs(turned.turn) < 0.5
        assert not turned.lengths or how == "links"
    assert looked >= 5


def test_nose_down_adds_caster_at_a_front_axle_and_nothing_at_a_rear_one() -> None:
    fronts = [one for one in random_designs(7, 9) if one.axle.end == "front" and one.axle.caster is not None]
    assert fronts
    for design in fronts:
        for value in (1.0, 9.0):
            turned = turn_by(design, value, "level", "along", "up")
            assert abs(turned.turn) > 0.3  # there is something to turn, or nothing is shown
            before, after = turned.before.caster, turned.after.caster
            assert before is not None
            assert after is not None
            assert after - before == pytest.approx(-turned.turn)
            assert (after > before) == (turned.way == "its nose down")
            # the top of a steering axis that leans back by the caster, turned with the axle, leans by that
            top = np.array([-math.tan(math.radians(before)), 0.0, 1.0])
            r = design.axle.tire_radius_loaded
            here, there = (
                np.array(about_axle(design, p, turned.turn)) for p in ((0.0, 0.0, r), (top[0], 0.0, r + 1.0))
            )
            lean = there - here
            assert math.degrees(math.atan2(-lean[0], lean[2])) == pytest.approx(after)


def test_a_housing_turned_takes_along_what_is_welded_to_it_and_there_and_back_is_as_it_was() -> None:
    for n, design in enumerate(DESIGNS):
        for how in ("brackets", "links") if can_turn_on_links(design) else ("brackets",):
            by = (-4.0, 2.5, 6.0)[n % 3]
            turned = turned_housing(design, by, how)
            for was, now in zip(parts_of(design).spots, parts_of(turned).spots, strict=True):
                goes = was.on == "axle" and (how == "links" or was.path[0] == "steering")
                if was.on in ("axle", "frame"):
                    assert now.at == pytest.approx(about_axle(design, was.at, by) if goes else was.at)
            back = turned_housing(turned, -by, how)
            for was, now in zip(parts_of(design).spots, parts_of(back).spots, strict=True):
                assert now.at == pytest.approx(was.at, abs=1e-3)
            if how == "brackets":
                assert adjusted(design, turned) == []
                same = [cycle(one, 5).heave.columns["axle_x"] for one in (design, turned)]
                assert same[0] == pytest.approx(same[1])


def test_turns_of_an_adjuster_are_said_where_both_ends_are_known() -> None:
    def threaded(data: Any) -> None:
        end = {"kind": "threaded", "pitch": 1.5}
        data["joints"] = {"rod_end": {"name": "", "limit": 20.0, "give": 0.0, "end": end}}
        for link in data["links"]:
            link["axle"]["joint"] = link["frame"]["joint"] = "rod_end"

    known = changed(read_design((DEMO / "fell-tender-rear.json").read_text()), threaded)
    turned = turn_by(known, 12.0, "level", "along", "up", how="links")
    assert turned.lengths
    for one in turned.lengths:
        assert one.turns == pytest.approx(one.by / 3.0)


# prices in travel


def test_a_stack_of_two_is_answered_with_the_stack() -> None:
    def stacked(data: Any) -> None:
        for one in data["corners"]["shocks"]:
            if one.get("spring"):
                one["spring"] |= {"rate": 60.0, "second": {"rate": 40.0, "slide": 30.0}, "preload": 5.0}

    design = changed(read_design((DEMO / "fell-tender-rear.json").read_text()), stacked)
    found = next(one for one in checks(cycle(design)) if one.figure.id == "sits")
    assert found.grave
    offered = [cure for cure in cures(design, found.id, 1.0) if cure.words.startswith("Springs of")]
    assert offered
    for cure in offered:
        assert "over the second of 40.0 N/mm" in cure.words
        springs = [one.spring for one in design_from(cure.document).corners.shocks if one.spring]  # type: ignore[union-attr]
        assert all(spring.second is not None for spring in springs)
        assert abs(cycle(design_from(cure.document)).data()["settles_at"]) < 1.0


# sentences


def test_what_is_said_of_a_finding_is_so_on_its_side_of_its_band() -> None:
    kinds = set()
    for design in DESIGNS:
        for one in findings(cycle(design)):
            if one.severity == "good" or one.value is None:
                continue
            kinds.add((one.figure, one.verdict))
            if one.verdict == "low":
                assert one.low is not None
                assert one.value < one.low
            if one.verdict == "high":
                assert one.high is not None
                assert one.value > one.high
    assert len(kinds) >= 15, kinds


def test_what_the_road_sees_is_knuckle_and_axle_together() -> None:
    fronts = [one for one in random_designs(5, 18) if one.steering]
    assert fronts
    for design in fronts:
        cycled = cycle(design)
        for sweep, figure in ((cycled.heave, "bump_steer"), (cycled.articulation, "twist_steer")):
            check = next(one for one in checks(cycled) if one.figure.id == figure)
            rows = [r for r in sweep.rows() if r["bump_steer"] is not None]
            if len(rows) < len(sweep.rows()):
                continue
            both = [r["bump_steer"] + r["yaw"] for r in rows]
            said = float(re.search(r"road sees ([\d.]+) degrees", check.said)[1])  # type: ignore[index]
            assert said == pytest.approx(max(both) - min(both), abs=0.06)
            assert check.value == pytest.approx(np.ptp([r["bump_steer"] for r in rows]), abs=1e-6)


def test_causes_of_a_complaint_claim_nothing_of_a_figure_that_does_not_stand_out() -> None:
    for design in DESIGNS:
        found = findings(cycle(design))
        for complaint in explained(design, found):
            for cause in complaint.causes:
                if cause.stands_out:
                    one = next(f for f in found if f.id == cause.finding)
                    assert one.severity != "good"
                if cause.figure in ("pinion_set", "unsteady") and design.driveshaft:
                    cancels = "joints do not cancel" in cause.how
                    assert cancels == (design.driveshaft.kind == "two_joints")
                assert cause.how.split()[0] not in ("the", "something")  # a cause, not a claim on this design


def test_a_schools_sentence_is_what_its_curves_do() -> None:
    said = 0
    for n, design in enumerate(DESIGNS):
        school = list(SCHOOLS)[n % len(SCHOOLS)]
        one = design.rewritten(school=school)
        words = school_says(one)
        if school == "flat_and_long" and words:
            said += 1
            steep = float(re.search(r"at ([\d.]+) degrees", words)[1])  # type: ignore[index]
            swing = float(re.search(r"more than ([\d.]+)\.", words)[1])  # type: ignore[index]
            angles = [math.degrees(math.atan2(abs(b[2] - a[2]), abs(b[0] - a[0]))) for link in one.links
                      if link.kind == "lower" for a, b in ((link.axle.at, link.frame.at),)]  # fmt: skip
            assert steep == pytest.approx(max(angles), abs=0.06)
            turns = []
            for link in (link for link in one.links if link.kind in ("lower", "upper")):
                ends = [
                    moved_to(one, link.axle.at, t) - np.array(link.frame.at)
                    for t in (-one.travel.droop, one.travel.bump)
                ]
                unit = [end / np.linalg.norm(end) for end in ends]
                turns.append(math.degrees(math.acos(float(np.clip(unit[0] @ unit[1], -1.0, 1.0)))))
            assert swing == pytest.approx(max(turns), abs=0.06)
        if school == "hold_pinion" and (match := re.search(r"([\d.]+) degrees over", words)):
            said += 1
            column = "pinion_change" if one.axle.end == "rear" else "caster_change"
            assert float(match[1]) == pytest.approx(np.ptp(cycle(one).heave.columns[column]), abs=0.06)
        if school == "window" and (match := re.search(r"anti-squat ([-\d.]+) %", words)):
            said += 1
            share = one.vehicle.drive_share
            assert float(match[1]) == pytest.approx(cycle(one).ride.rows()[0]["anti_squat"] / share, abs=0.6)
    assert said >= 2


def test_schools_side_by_side_say_less_and_more_by_their_curves() -> None:
    said = 0
    for design in DESIGNS[:6]:
        for other in variants(design)[1:]:
            match = re.search(
                r"([\d.]+) degrees over the whole travel, where this one turns it ([\d.]+): (.*)\.", other.says
            )
            if match:
                said += 1
                turn = [
                    np.ptp([v for v in one["turn"] if v is not None])
                    for one in (other.curves, variants(design)[0].curves)
                ]
                assert [float(match[1]), float(match[2])] == pytest.approx(turn, abs=0.06)
                assert (match[3] == "less") == (turn[0] - turn[1] <= -0.1)
    assert said >= 6


def test_a_verdict_holds_just_as_far_as_is_said() -> None:
    looked = 0
    for design in DESIGNS:
        for one in findings(cycle(design)):
            if one.severity == "good" or one.id.startswith(("run", "zone", "ends")):
                continue
            for rests in slack(design, one.id):
                for end, inward in ((rests.low, 1.0), (rests.high, -1.0)):
                    if end is None or looked > 30:
                        continue
                    looked += 1
                    group, name = rests.path.split(".")
                    step = inward * 0.02 * abs(rests.value)

                    def severity(value: float, group: str = group, name: str = name, design: Design = design,
                                 which: str = one.id) -> str:  # fmt: skip
                        other = changed(design, lambda data: data[group].update({name: value}))
                        return next(f.severity for f in findings(cycle(other)) if f.id == which)

                    inside = end + step
                    if min(rests.value, end) <= inside <= max(rests.value, end):
                        assert severity(inside) == one.severity
    assert looked >= 5


# a hand cycle


def readings_of(design: Design) -> list[HandReading]:
    figure = "pinion_change" if design.axle.end == "rear" else "caster_change"
    reach = design.travel
    places = [(part * reach.bump, 0.0) for part in (-0.8, -0.4, 0.4, 0.8) if part * reach.bump > -reach.droop]
    places += [(0.0, part * reach.articulation) for part in (-0.7, 0.7)]
    return [HandReading(travel=t, articulation=a, figure=f, value=0.0)
            for t, a in places for f in (figure, "axle_x", "axle_y", "yaw")]  # fmt: skip


def with_values(design: Design, values: Any) -> Design:
    read = [one.rewritten(value=float(v)) for one, v in zip(readings_of(design), values, strict=True)]
    return design.rewritten(hand=tuple(read))


@pytest.mark.parametrize("slip", ["sign", "jack", "side", "zero", "radius"])
def test_a_slip_of_a_hand_cycle_is_found_and_said_as_it_was_made(slip: str) -> None:
    found = 0
    for design in DESIGNS[:8]:
        read = readings_of(design)
        mounts = mechanism_of(design).mounts
        true = predicted(design, read, mounts)[0]
        first = np.array([one.figure == read[0].figure for one in read])
        if slip == "sign":
            values, words = np.where(first, -true, true), "with the sign the other way"
        elif slip == "jack":
            values, words = (
                predicted(design, [r.rewritten(travel=-r.travel) for r in read], mounts)[0],
                "up and down of the jack",
            )
        elif slip == "side":
            values, words = (
                predicted(design, [r.rewritten(articulation=-r.articulation) for r in read], mounts)[0],
                "left and",
            )
        elif slip == "zero":
            values, words = true + 1.8 * first, "1.8 degrees too high throughout"
        else:
            there = stood_on(design, design.axle.tire_radius_loaded - 22.0, "slip")
            values, words = predicted(there, read, mechanism_of(there).mounts)[0], "22 mm less than was typed"
        check = hand_check(with_values(design, values))
        parts = [abs(v - t) for v, t in zip(values, true, strict=True)]
        if not any(one.parts for one in check.laid):
            assert "agree" in check.says
            continue
        found += 1
        assert max(parts) > 0.2
        alike = [one.words for one in check.explained if one.left < check.explained[0].left + 0.06]
        assert any(words in one for one in alike), (design.name, slip, check.explained)
        assert check.explained[0].left < 0.1
    assert found >= 2


def test_a_reading_beyond_its_error_does_not_agree_and_all_within_do() -> None:
    for design in DESIGNS[:4]:
        true = predicted(design, readings_of(design), mechanism_of(design).mounts)[0]
        assert not any(one.parts for one in hand_check(with_values(design, true)).laid)
        off = true.copy()
        off[0] += 0.33
        check = hand_check(with_values(design, off))
        assert [one.parts for one in check.laid] == [True, *[False] * (len(true) - 1)]
        assert "agree" not in check.says


# cures of mounts: where they say, and what they say it comes to


def test_a_moved_mount_is_moved_as_it_is_said_and_the_figure_is_then_what_is_said() -> None:
    ways = {"forward": (0, 1), "back": (0, -1), "up": (2, 1), "down": (2, -1)}
    seen = set()
    for design in DESIGNS[:4]:
        for one in findings(cycle(design)):
            if one.severity == "good" or one.id.startswith("zone"):
                continue
            for cure in cures(design, one.id, 1.0, "mm", 2):
                then = design_from(cure.document)
                for shift in cure.shifts:
                    axis = "xyz".index(shift.axis)
                    for n, name in enumerate(shift.mounts):
                        was, now = (parts_of(d).spot(name).at for d in (design, then))
                        sign = (
                            -1.0
                            if n and shift.axis == "y" and was[1] * parts_of(design).spot(shift.mounts[0]).at[1] < 0
                            else 1.0
                        )
                        assert now[axis] - was[axis] == pytest.approx(sign * shift.by, abs=1e-6)
                for way, amount in re.findall(rf"\b(forward|back|up|down) {MM}", cure.words):
                    axis, sign = ways[way]
                    seen.add(way)
                    assert any("xyz".index(s.axis) == axis and s.by * sign == pytest.approx(float(amount), abs=0.51)
                               for s in cure.shifts)  # fmt: skip
                after = next((f for f in findings(cycle(then)) if f.id == one.id), None)
                if cure.meets:
                    assert after is None or after.severity == "good"
    assert len(seen) >= 3


def test_a_design_that_is_read_back_is_the_design_that_was_offered() -> None:
    for design in DESIGNS[:3]:
        assert design_from(design_data(design)) == design
