"""WHOLE CYCLE: the map, the pinion turned, joints, schools, a hand cycle and complaints, against sums written out anew."""

import json
import math
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed

from oak_lever.api import (
    aim,
    cures,
    cycle,
    design_data,
    design_from,
    explained,
    findings,
    hand_check,
    joint_rows,
    ladder,
    turn_by,
    variants,
    whole_map,
)
from oak_lever.cycle import look
from oak_lever.design.faults import Refused
from oak_lever.design.gallery import layout
from oak_lever.figures.driveline import driveline
from oak_lever.judge.map import gap_map, joint_left
from oak_lever.judge.parts import checks, wanted_pinion
from oak_lever.motion.trace import rotations

REAR, FRONT, GHYLL = (
    design_from(json.loads((DEMO / f"{name}.json").read_text()))
    for name in ("fell-tender-rear", "fell-tender-front", "ghyll-special-rear")
)


# the shaft


def test_the_lead_is_that_of_a_turn_followed_step_by_step() -> None:
    """Two joints out of one plane: the yokes followed round a turn in small steps, with crosses alone."""
    design = changed(REAR, lambda data: data["driveshaft"].update(
        kind="two_joints", case={"joint": [1066.8, 120.0, 565.15], "angle": 11.0}))  # fmt: skip
    state = cycle(design).heave.state[::8]
    found = driveline(design, state)["shaft_unsteady"]
    shaft, axle = design.driveshaft, design.axle
    assert shaft is not None
    for pose, lead in zip(state, found, strict=True):
        turn = rotations(pose[None])[0]
        joint = pose[:3] + turn @ (np.array(axle.pinion.joint) - [0.0, 0.0, axle.tire_radius_loaded])
        out = np.array([-math.cos(math.radians(11.0)), 0.0, -math.sin(math.radians(11.0))])
        along = joint - np.array(shaft.case.joint)
        along /= np.linalg.norm(along)
        into = -turn @ np.array(
            [math.cos(math.radians(axle.pinion.angle)), 0.0, math.sin(math.radians(axle.pinion.angle))]
        )
        first, last = np.cross(out, [0.0, 0.0, 1.0]), np.cross(into, [0.0, 0.0, 1.0])
        first, last = first / np.linalg.norm(first), last / np.linalg.norm(last)
        angles = []
        for a in np.linspace(0.0, 2.0 * np.pi, 3601):
            arm = math.cos(a) * first + math.sin(a) * np.cross(out, first)
            arm = np.cross(np.cross(arm, along), into)
            angles.append(math.atan2(arm @ np.cross(into, last), arm @ last))
        ahead = np.unwrap(angles) - np.linspace(0.0, 2.0 * np.pi, 3601)
        assert lead == pytest.approx(math.degrees(np.ptp(ahead)), abs=1e-4)


def test_a_gauges_reading_says_what_to_turn_and_what_then_is() -> None:
    wanted = wanted_pinion(REAR)
    assert aim(REAR).wanted == wanted == pytest.approx(math.degrees(math.atan2(565.15 - 482.6, 1066.8 - 317.5)))
    for zero, face, value in (("level", "along", 5.0), ("plumb", "square", 5.0), ("level", "square", 85.0),
                              ("plumb", "along", 85.0)):  # fmt: skip
        turned = turn_by(REAR, value, zero, face, "up", soft=2.0)  # type: ignore[arg-type]
        assert turned.read == pytest.approx(5.0)
        then = design_from(turned.document)
        assert turned.turn == pytest.approx(then.axle.pinion.angle - 5.0)
        assert turned.way == ("its nose up" if turned.turn > 0 else "its nose down")
        assert then.axle.pinion.angle == pytest.approx(wanted_pinion(then) - 2.0, abs=1e-3)  # its joint went along
        assert abs(wanted_pinion(then) - wanted) > 0.05
        assert turned.after.pinion_joint == pytest.approx(2.0, abs=1e-3)
    assert turn_by(REAR, 5.0, "level", "along", "down").read == -5.0
    assert turn_by(REAR, 5.0, "level", "along", "up", frame_pitch=1.0).read == 4.0
    assert turn_by(FRONT, 5.0, "level", "along", "up", frame_pitch=1.0).read == 6.0
    bumped = look(REAR, 80.0, 0.0).here.columns["pinion_change"][0]
    assert turn_by(REAR, 5.0, "level", "along", "up", travel=80.0).read == pytest.approx(5.0 - bumped)
    with pytest.raises(ValueError, match="no driveshaft"):
        aim(layout("double triangulated"))


def test_a_front_axles_caster_goes_with_its_pinion() -> None:
    """Turned nose up about the axle, which at the front points back, the kingpin's top leans back less far or farther by
    just as much, as the cycle counts it."""
    turned = turn_by(FRONT, 9.0, "level", "along", "up", soft=0.0)
    assert turned.turn < -1.0
    assert turned.before.caster == pytest.approx(FRONT.axle.caster - (9.0 - FRONT.axle.pinion.angle))  # type: ignore[operator]
    assert turned.after.caster is not None
    assert turned.after.caster - turned.before.caster == pytest.approx(-turned.turn)  # type: ignore[operator]
    row = cycle(FRONT).heave
    moved = np.diff(row.columns["caster_change"]) / np.diff(row.columns["pinion_change"])
    assert moved == pytest.approx(-1.0)
    assert "pinion" in turned.way or turned.way.startswith("its nose")


def test_a_pulled_shaft_is_a_stop_and_cured() -> None:
    short = changed(REAR, lambda data: data["driveshaft"]["slip"].update({"in": 2.0, "out": 3.0}))
    found = {f.id: f for f in findings(cycle(short)) if f.figure in ("slip_in", "slip_out")}
    assert {f.severity for f in found.values()} == {"stop"}
    for name in found:
        offered = cures(short, name, 3.175)
        assert any(cure.meets for cure in offered)
    assert any(rung.what in ("slip_out", "slip_in") for rungs in ladder(short) for rung in rungs.rungs)


# steering


def test_a_drag_link_like_its_bar_steers_less_and_moved_ends_cure_it() -> None:
    found = {check.figure.id: check for check in checks(cycle(FRONT))}
    assert found["bump_steer"].grave > 0
    offered = cures(FRONT, "bump_steer drag-link", 3.175)
    assert offered
    assert offered[0].meets
    after = {check.figure.id: check for check in checks(cycle(design_from(offered[0].document)))}
    assert after["bump_steer"].grave == 0
    assert all("drag link" in cure.words.lower() for cure in offered)


def test_a_drag_link_that_cannot_follow_is_a_stop() -> None:
    """A drag link so short and so far down that the knuckle's arm can't reach it at droop."""
    broken = changed(FRONT, lambda data: data["steering"].update(
        pitman=[254.0, -440.0, 620.0], knuckle=[254.0, -558.8, 530.2]))  # fmt: skip
    check = next(c for c in checks(cycle(broken)) if c.figure.id == "bump_steer")
    assert check.value is None
    assert check.grave == 3
    assert "keeps the knuckle" in check.said


# the map


def test_the_map_is_of_the_cycle_and_holds_what_stops_allow() -> None:
    found = whole_map(FRONT, 5, 5)
    for row in (0, 2, 4):
        for column in (0, 2, 4):
            here = cycle(FRONT, here=(float(found.travel[row]), float(found.articulation[column]))).here
            assert here is not None
            for name in ("yaw", "axle_y", "caster_change"):
                assert found.fields[name][row, column] == pytest.approx(float(here.columns[name][0]), abs=1e-6)
            for name in ("case_joint", "bump_steer"):
                assert found.fields[name][row, column] == pytest.approx(
                    float(here.running_gear.columns[name][0]), abs=1e-6
                )
            reserve = min(28.0 - float(values[0]) for values in here.joints.values())
            assert found.fields["joint_reserve"][row, column] == pytest.approx(reserve, abs=1e-6)
    assert not found.allowed[-1, -1]
    assert found.allowed[2, 2]
    swept = cycle(FRONT).swept
    assert joint_left(swept)[0] == pytest.approx(28.0 - swept.turned[:, 0, 0].max())


def test_the_map_of_gaps_has_the_least_to_spare() -> None:
    found = gap_map(REAR)
    assert found.fields["gap_spare"].shape == (len(found.travel), len(found.articulation))
    assert float(np.nanmin(found.fields["gap_spare"])) < 0.0  # the uppers stand in the rails


# joints


def test_the_best_bolt_turns_least_and_no_worse_than_as_it_is() -> None:
    cycled = cycle(REAR)
    rows, softer = joint_rows(cycled)
    assert len(rows) == 8
    for row in rows:
        assert row.best is not None
        assert row.best_turns is not None
        assert row.best_turns <= row.turns + 0.3
        bolted = changed(REAR, lambda data, row=row: [  # type: ignore[misc]
            link[row.name.rpartition(".")[2]].update(bolt=list(row.best)) for link in data["links"]
            if link["id"] == row.name.rpartition(".")[0]])  # fmt: skip
        again = next(one for one in joint_rows(cycle(bolted))[0] if one.name == row.name)
        assert again.turns == pytest.approx(row.best_turns, abs=1e-6)
    for one in softer:
        ends = {row.name.rpartition(".")[2]: row.turns for row in rows if row.name.startswith(f"{one.link}.")}
        assert one.turns == min(ends.values()) == ends[one.end]
    assert joint_rows(cycle(design_from({**design_data(REAR), "links": []}))) == ([], [])


# schools


@pytest.mark.parametrize("design", [REAR, FRONT, GHYLL], ids=lambda d: d.name)
def test_each_schools_version_is_what_it_says_and_its_words_are_its_curves(design: Any) -> None:
    found = {one.id: one for one in variants(design)}
    own = found.pop("own")
    turn = [v for v in own.curves["turn"] if v is not None]
    for one in found.values():
        other = design_from(one.document)
        curve = [v for v in one.curves["turn"] if v is not None]
        if one.id == "parallel":
            spans = {kind: np.mean([np.subtract(link.frame.at, link.axle.at) for link in other.links if link.kind == kind],
                                   axis=0) for kind in ("lower", "upper")}  # fmt: skip
            assert spans["upper"][[0, 2]] == pytest.approx(spans["lower"][[0, 2]], abs=1e-6)
            assert np.ptp(curve) < 1.0
        if one.id == "bar_ride":
            assert other.lateral.frame.at[2] == other.lateral.axle.at[2]  # type: ignore[union-attr]
        if not one.id.startswith("bar"):
            word = one.says.rstrip(".").rpartition(": ")[2]
            by = np.ptp(curve) - np.ptp(turn)
            assert word == ("the same to any gauge" if abs(by) < 0.1 else "less" if by < 0 else "more")
    assert set(found) >= {"parallel", "short", "point"}
    if design is FRONT:
        assert {"bar_ride", "bar_middle"} <= set(found)


# a hand cycle


def test_a_tape_error_that_was_made_is_the_likeliest_explanation() -> None:
    """Readings off an axle one of whose uppers stands 30 mm higher at the frame than was typed."""
    built = changed(REAR, lambda data: data["links"][2]["frame"]["at"].__setitem__(2, 661.825))
    rows = cycle(built, steps=7)
    readings: list[dict[str, Any]] = []
    for sweep, key in ((rows.heave, "travel"), (rows.articulation, "articulation")):
        for n in range(7):
            for figure in ("pinion_change", "yaw", "axle_y"):
                start = float(rows.ride.columns[figure][0]) if figure == "axle_y" else 0.0
                value = float(sweep.columns[figure][n]) - start
                readings.append({"travel": 0.0, "articulation": 0.0, "figure": figure, "value": value}
                                | {key: float(sweep.columns[key][n])})  # fmt: skip
    check = hand_check(changed(REAR, lambda data: data.update(hand=readings)))
    assert len(check.laid) == len(readings)
    assert any(one.parts for one in check.laid)
    first = check.explained[0]
    assert "upper left link frame end" in first.words
    assert "up" in first.words
    assert first.by == pytest.approx(30.0, abs=4.0)
    assert first.left < 0.2
    true = [one | {"value": float(cycle(REAR, here=(one["travel"], one["articulation"])).here.columns[one["figure"]][0])}  # type: ignore[union-attr]
            for one in readings if one["figure"] != "axle_y"]  # fmt: skip
    agreed = hand_check(changed(REAR, lambda data: data.update(hand=true)))
    assert not any(one.parts for one in agreed.laid)
    assert agreed.explained == ()
    assert hand_check(REAR).laid == ()


def test_a_reading_of_nothing_is_refused_by_its_place() -> None:
    with pytest.raises(Refused, match=r"hand\[0\]\.figure"):
        changed(REAR, lambda data: data.update(hand=[{"travel": 0.0, "figure": "color", "value": 1.0}]))


# complaints


def test_what_stands_out_is_out_of_its_band_on_the_side_that_would_cause_it() -> None:
    found = findings(cycle(REAR))
    by_id = {one.id: one for one in found}
    for complaint in explained(REAR, found):
        ranks = [2 if cause.stands_out is None else 0 if cause.stands_out else 1 for cause in complaint.causes]
        assert ranks == sorted(ranks)
        for cause in complaint.causes:
            if cause.finding is None:
                assert cause.value is None
                continue
            finding = by_id[cause.finding]
            assert cause.value == finding.value
            if cause.stands_out:
                assert finding.severity != "good"
    shakes = next(one for one in explained(REAR, found) if one.complaint == "shakes")
    assert {cause.figure for cause in shakes.causes if cause.stands_out} >= {"pinion_set", "pinion_change"}
    squat = changed(REAR, lambda data: data.update(bands={"anti_squat": [0.0, 10.0]}))
    hops = {c.figure: c for c in explained(squat, findings(cycle(squat)))[0].causes}
    squats = {
        c.figure: c for e in explained(squat, findings(cycle(squat))) if e.complaint == "squats" for c in e.causes
    }
    assert hops["anti_squat"].stands_out
    assert not squats["anti_squat"].stands_out  # too much of it squats nothing
