"""CORNERS: springs, shocks, stops and straps against closed forms, quadrature, free-body sums and their own promises."""

import json
import math
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed

from oak_lever.api import (
    changes,
    clearing,
    cures,
    cycle,
    design_data,
    design_from,
    findings,
    ladder,
    look,
    pull_corner,
    read_design,
    shock_places,
    spaced,
)
from oak_lever.clearance.clearances import clearances, gaps_of
from oak_lever.design.faults import Refused
from oak_lever.design.gallery import layout
from oak_lever.design.running_gear import Air, Shock, Spring, Stop
from oak_lever.design.types import Design
from oak_lever.figures.corner_columns import bar_rate, bar_stiffness
from oak_lever.figures.forces import ATMOSPHERE_KPA, POLYTROPIC, coil, gas, pushed, shut_in, stopped, volume_at
from oak_lever.figures.instead import instead
from oak_lever.figures.sit import SEATS_MM, Load, Sitting
from oak_lever.figures.struts import sprung_weight
from oak_lever.judge.check import Check
from oak_lever.judge.parts import checks
from oak_lever.move.corner_moves import Want
from oak_lever.units import GRAVITY

TENDER, SCREE, TARN, GHYLL = (
    design_from(json.loads((DEMO / f"{name}-rear.json").read_text()))
    for name in ("fell-tender", "scree-runner", "tarn-van", "ghyll-special")
)
AIR = Air(pressure=400.0, area=((80.0, 16000.0), (130.0, 14000.0), (230.0, 11000.0)), volume=600_000.0)


def strut(**more: Any) -> dict[str, Any]:
    return {"id": "one-left", "frame": {"at": [0.0, 500.0, 1000.0]},
            "axle": {"on": "axle", "at": [0.0, 500.0, 450.0]}, **more}  # fmt: skip


def shock(**more: Any) -> dict[str, Any]:
    return strut(extended=700.0, compressed=400.0, diameter=60.0, **more)


def with_corners(**corners: Any) -> Design:
    return design_from({**design_data(layout("double triangulated")), "corners": corners})


def by_id(design: Design) -> dict[str, Check]:
    return {check.id: check for check in checks(cycle(design))}


# forces


def test_two_springs_in_line_share_the_force_until_the_slider_stops() -> None:
    """Each is pressed by the force over its rate; past the slider only the first is pressed on."""
    spring = Spring(rate=60.0, preload=10.0, solid=300.0, second={"rate": 30.0, "slide": 50.0})
    for force in (300.0, 1499.0, 1501.0, 4000.0):
        second = min(force / 30.0, 50.0)
        pressed = force / 60.0 + second
        push = coil(spring, 500.0, np.array([510.0 - pressed]))
        assert push.force[0] == pytest.approx(force, rel=1e-9)
        assert push.rate[0] == pytest.approx(20.0 if force < 1500.0 else 60.0)
    assert coil(spring, 500.0, np.array([520.0])).force[0] == 0.0


def test_gas_pushes_by_pressure_and_area_and_stiffens_by_its_volume() -> None:
    at = np.linspace(70.0, 240.0, 400)
    assert gas(AIR, np.array([105.0])).force[0] == pytest.approx(0.4 * 15000.0)
    area = np.interp(at, [80.0, 130.0, 230.0], [16000.0, 14000.0, 11000.0])
    fine = np.linspace(60.0, 240.0, 200_001)
    swept = np.cumsum(np.interp(fine, [80.0, 130.0, 230.0], [16000.0, 14000.0, 11000.0])) * (fine[1] - fine[0])
    volume = 600_000.0 + np.interp(at, fine, swept) - np.interp(60.0, fine, swept)
    assert volume_at(AIR, 60.0, at) == pytest.approx(volume, rel=1e-4)
    push = shut_in(AIR, 60.0, at, 150.0)
    there = float(volume_at(AIR, 60.0, np.array([150.0]))[0])
    over = (400.0 + ATMOSPHERE_KPA) / 1000.0 * (there / volume) ** POLYTROPIC - ATMOSPHERE_KPA / 1000.0
    assert push.force == pytest.approx(over * area, rel=1e-3)
    inside = [n for n in range(2, len(at) - 2) if min(abs(at[n] - corner) for corner in (80.0, 130.0, 230.0)) > 1.0]
    slope = -np.gradient(push.force, at)
    assert push.rate[inside] == pytest.approx(slope[inside], rel=2e-3)


def test_a_stop_pushes_by_its_points_and_not_before_it_touches() -> None:
    stop = Stop(**strut(free=100.0, solid=40.0, force=[[20.0, 500.0], [40.0, 3000.0]]))
    lengths = np.array([120.0, 100.0, 90.0, 80.0, 70.0, 60.0, 50.0])
    assert stopped(stop, lengths).tolist() == pytest.approx([0.0, 0.0, 250.0, 500.0, 1750.0, 3000.0, 4250.0])


# through the travel


def test_the_lift_of_springs_is_that_of_a_free_body() -> None:
    """Statics written out anew: the axle as a body under its springs' pushes, the links' forces along themselves and the
    ground's at both tires; what the ground must carry is force times ratio."""
    design = TENDER
    sitting, rows = Sitting(design), cycle(design)
    assert design.corners is not None
    for travel in (-100.0, 0.0, 80.0):
        state = cycle(design, here=(travel, 0.0)).here.state[0]  # type: ignore[union-attr]
        center, turn = state[:3], _turn(state)
        rest = np.array([0.0, 0.0, design.axle.tire_radius_loaded])

        def place(point: Any, center: Any = center, turn: Any = turn, rest: Any = rest) -> Any:
            return center + turn @ (np.array(point) - rest)

        columns, loads = [], np.zeros(6)
        for link in design.links:
            head = place(link.axle.at)
            way = (np.array(link.frame.at) - head) / np.linalg.norm(np.array(link.frame.at) - head)
            columns.append(np.concatenate([way, np.cross(head, way)]))
        for hand in (1.0, -1.0):
            foot = np.array([center[0], hand * 800.0, 0.0])
            columns.append(np.concatenate([[0.0, 0.0, 1.0], np.cross(foot, [0.0, 0.0, 1.0])]))
        for one in design.corners.shocks:
            eye = place(one.axle.at)
            span = np.array(one.frame.at) - eye
            long = float(np.linalg.norm(span))
            push = -span / long * float(pushed(one, np.array([long])).force[0])
            loads += np.concatenate([push, np.cross(eye, push)])
        ground = np.linalg.solve(np.array(columns).T, -loads)[-2:].sum()
        lift = sum(float(sitting.lift(one, np.array([travel]))[0]) for one in sitting.shocks)
        assert lift == pytest.approx(ground, rel=1e-6)
    assert rows.located


def _turn(state: Any) -> Any:
    (cr, cp, cy), (sr, sp, sy) = np.cos(state[3:6]), np.sin(state[3:6])
    about_z = np.array([[cy, -sy, 0], [sy, cy, 0], [0, 0, 1]])
    about_y = np.array([[cp, 0, sp], [0, 1, 0], [-sp, 0, cp]])
    return about_z @ about_y @ np.array([[1, 0, 0], [0, cr, -sr], [0, sr, cr]])


def test_the_wheel_rate_is_the_change_of_the_lift() -> None:
    """What the springs lift by, at a hair more and a hair less travel."""
    sitting = Sitting(SCREE)
    for travel in (-250.0, 20.0, 200.0):
        up, down = (
            sum(float(sitting.lift(one, np.array([travel + by]))[0]) for one in sitting.shocks) for by in (1, -1)
        )
        assert sitting.rate_at(travel) == pytest.approx((up - down) / 2.0, rel=5e-3)
    cycled = cycle(SCREE)
    at_ride = sum(float(cycled.columns[f"shock coilover-{side} wheel_rate"][0]) for side in ("left", "right"))
    assert at_ride == pytest.approx(sitting.rate_at(0.0), rel=5e-3)


def test_an_eye_over_the_arms_line_is_over_by_what_it_is() -> None:
    """A level arm fore and aft with an upright spring on it: the offset is the eye's height over the arm."""
    for above in (25.0, -40.0):
        data = design_data(layout("double triangulated"))
        arm = next(link for link in data["links"] if link["id"] == "lower-left")
        arm["axle"]["at"], arm["frame"]["at"] = [0.0, 500.0, 400.0], [900.0, 500.0, 400.0]
        eye = {"on": "lower-left", "at": [400.0, 500.0, 400.0 + above]}
        one = shock(spring={"rate": 30.0, "preload": 50.0, "solid": 400.0}) | {
            "frame": {"at": [400.0, 500.0, 950.0]}, "axle": eye,
        }  # fmt: skip
        cycled = cycle(design_from({**data, "corners": {"shocks": [one]}}))
        assert cycled.columns["shock one-left over"][0] == pytest.approx(above, abs=1e-9)
        check = next(c for c in checks(cycled) if c.figure.id == "over")
        assert check.grave == (3 if above > 0 else 0)


def test_stops_and_straps_hold_the_poses_that_their_lengths_say() -> None:
    design = with_corners(
        stops=[strut(free=560.0, solid=490.0)],
        straps=[strut(length=560.0, stretch=0.1) | {"id": "strap"}],
    )  # fmt: skip
    cycled = cycle(design)
    allowed, length = cycled.swept.allowed[0], cycled.columns["stop one-left length"]
    reached = cycled.swept.traced.reached[0]
    assert allowed.tolist() == (reached & (length >= 490.0 - 1e-9) & (length <= 616.0 + 1e-9)).tolist()
    assert 0 < allowed.sum() < reached.sum()
    past = changed(design, lambda data: data["corners"]["straps"][0].update(length=400.0))
    assert cycle(past).swept.allowed[0, 0]  # a strap that is past its end at ride holds nothing


def test_figures_anywhere_are_judged_over_what_is_allowed() -> None:
    """Of the tender's joints the nearest to its limit, over just the poses that its stops and straps leave, and as it is
    where they come to their ends: posed there anew it is what is said."""
    bare = changed(TENDER, lambda data: data["corners"].update(stops=[], straps=[]))
    cycled = cycle(TENDER)
    swept = cycled.swept
    every = swept.places.every[swept.allowed[0, swept.places.every]]
    without, found = (next(f for f in findings(cycle(one)) if f.id == "joint_angle") for one in (bare, TENDER))
    assert found.value is not None
    assert without.value is not None
    assert float(swept.turned[:, 0, every].max()) - 1e-9 <= found.value < without.value
    travel, articulation, (name,) = found.place.travel, found.place.articulation, found.place.parts
    assert travel is not None
    assert articulation is not None
    here = cycle(TENDER, 2, (travel, articulation)).here
    assert here is not None
    assert float(here.joints[name][0]) == pytest.approx(found.value, abs=0.05)


@pytest.mark.parametrize(("design", "strap"), [(SCREE, 0.0), (TENDER, -40.0)])
def test_the_stroke_left_is_read_where_a_strap_comes_to_its_end(design: Design, strap: float) -> None:
    """Not at the map's row before: posed there anew, a strap has just nothing left, the shock what is said."""

    def cut(data: dict[str, Any]) -> None:
        for one in data["corners"]["straps"]:
            one["length"] += strap

    held = changed(design, cut)
    found = [check for name, check in by_id(held).items() if name.startswith("stroke_droop")]
    assert found
    for check in found:
        travel, twist = check.place.travel, check.place.articulation
        assert travel is not None
        assert twist is not None
        assert check.value is not None
        posed = look(held, travel, twist).columns
        straps = [float(posed[f"strap {one.id} to_end"][-1]) for one in held.corners.straps]  # type: ignore[union-attr]
        assert min(straps) == pytest.approx(0.0, abs=0.5)
        assert posed[f"shock {check.part} to_open"][-1] == pytest.approx(check.value, abs=0.5)


def test_the_ladder_is_in_order_and_where_lengths_say() -> None:
    design = TENDER
    for rungs in ladder(design)[:2]:
        sign = 1.0 if rungs.way == "bump" else -1.0
        assert [rung.at for rung in rungs.rungs] == sorted(rung.at for rung in rungs.rungs)
        assert {"bump": "solid", "droop": "end"}[rungs.way] in {rung.what for rung in rungs.rungs}
        farther = design.rewritten(travel=design.travel.rewritten(bump=260.0, droop=260.0))
        for rung in rungs.rungs:
            if rung.what in ("solid", "touches", "shut", "open", "tight", "end"):
                here = cycle(farther, here=(sign * rung.at, 0.0)).here
                assert here is not None
                listed = "stops" if "bump" in rung.part else "straps" if "strap" in rung.part else "shocks"
                length = here.running_gear.struts[listed][rung.part]["length"][0]  # type: ignore[index]
                part = next(one for one in getattr(design.corners, listed) if one.id == rung.part)
                level = {
                    "solid": "solid",
                    "touches": "free",
                    "shut": "compressed",
                    "open": "extended",
                    "tight": "length",
                }
                wanted = part.length * 1.08 if rung.what == "end" else getattr(part, level[rung.what])
                assert length == pytest.approx(wanted, abs=1e-3)


# sitting


def test_a_turn_and_another_spring_do_what_they_say() -> None:
    sitting = Sitting(TENDER)
    (turned,) = sitting.turns(2.0)
    tighter = changed(TENDER, lambda data: [s["spring"].update(preload=s["spring"]["preload"] + 2.0)
                                            for s in data["corners"]["shocks"]])  # fmt: skip
    was, now = (Sitting(one).travelled.settles_at() for one in (TENDER, tighter))
    assert was is not None
    assert now is not None
    assert turned.by == pytest.approx(was - now, abs=1e-6)
    names = ["coilover-left", "coilover-right"]
    fits = [one for one in sitting.offered(names, -5.0) if not one.against]
    assert fits
    for one in fits[:3]:
        sprung = changed(TENDER, lambda data, one=one: [  # type: ignore[misc]
            s["spring"].update(rate=one.rate, preload=one.preload) for s in data["corners"]["shocks"]])  # fmt: skip
        sits = Sitting(sprung).sits()
        assert sits.travel == pytest.approx(-5.0, abs=0.05)
        assert sits.frequency == pytest.approx(one.frequency, rel=5e-3)
    assert sitting.sits().frequency == pytest.approx(
        math.sqrt(sitting.rate_at(was) * 1000.0 * GRAVITY / sprung_weight(TENDER)) / (2 * math.pi)
    )  # fmt: skip


def test_more_load_sits_lower_and_more_air_higher() -> None:
    sitting = Sitting(TARN)
    light, heavy = (sitting.sits(Load("", mass, 0.49)).travel for mass in (2300.0, 2500.0))
    assert light is not None
    assert heavy is not None
    assert light < heavy  # the axle is farther up in a truck that is lower
    out, ride, up = sitting.inflated([0.0, 400.0, 440.0])
    assert out.stands == pytest.approx(-sitting.travelled.limits()["bump"]["travel"])  # type: ignore[index]
    assert ride.stands is not None
    assert up.stands is not None
    assert up.stands > ride.stands > out.stands  # type: ignore[operator]


def test_the_pressure_for_a_height_is_the_one_that_has_it_stand_there() -> None:
    sitting = Sitting(TARN)
    looked = 0
    for one in sitting.filled_at([-40.0, -10.0, 0.0, 20.0]):
        if one.pressure is None:
            continue
        looked += 1

        def fill(data: Any, pressure: float = one.pressure) -> None:
            for shock in data["corners"]["shocks"]:
                if shock.get("air"):
                    shock["air"]["pressure"] = pressure

        filled = changed(TARN, fill)
        assert Sitting(filled).sits().stands == pytest.approx(one.stands, abs=0.1)
    assert looked >= 3
    assert sitting.filled_at([5000.0])[0].pressure is None


def test_where_every_rate_hangs_loose_what_is_offered_sits_and_stays_seated() -> None:
    def stiff(data: Any) -> None:
        data["vehicle"]["mass"] = 1400.0
        for one in data["corners"]["shocks"]:
            if one.get("spring"):
                one["extended"] += 60.0

    design = changed(read_design((DEMO / "fell-tender-rear.json").read_text()), stiff)
    names = [one.id for one in design.corners.shocks if one.spring]  # type: ignore[union-attr]
    sitting = Sitting(design)
    assert all("loose" in one.against for one in sitting.offered(names))
    found = instead(sitting, names)
    assert {one.words.split()[1] for one in found} >= {"softer", "second"}
    for one in found:
        then = Sitting(design_from(one.document))
        assert then.travelled.settles_at() == pytest.approx(0.0, abs=1.0)
        lowest = then.travelled.limits()["droop"]
        at = -design.travel.droop if lowest is None else lowest["travel"]
        for shock, length, slope in then.shocks:
            longest = float(then.travelled.at(length, slope, np.array([at]))[0][0])
            assert pushed(shock, np.array([longest])).force[0] > 0.0
    sound = Sitting(read_design((DEMO / "fell-tender-rear.json").read_text()))
    assert instead(sound, names) == []


def test_a_spring_to_order_is_as_long_and_wide_as_the_shock_takes() -> None:
    design = read_design((DEMO / "fell-tender-rear.json").read_text())
    names = [one.id for one in design.corners.shocks if one.spring]  # type: ignore[union-attr]
    shock = next(one for one in design.corners.shocks if one.id in names)  # type: ignore[union-attr]
    offered = Sitting(design).offered(names)
    assert offered
    for one in offered:
        assert one.inside > shock.diameter
        # seated with the open shock, its seats as far apart as is taken, it is pressed by the preload
        assert one.free_length - (shock.extended - SEATS_MM) == pytest.approx(max(one.preload, 0.0))


def test_settling_comes_off_what_springs_hold_up_and_not_off_what_lies_on_its_stops() -> None:
    settled = Sitting(changed(TARN, lambda data: data["corners"].update(settling=9.0)))
    fresh = Sitting(changed(TARN, lambda data: data["corners"].pop("settling", None)))
    assert fresh.sits().stands - settled.sits().stands == pytest.approx(9.0)  # type: ignore[operator]
    lower = [a.stands - b.stands for a, b in zip(*(s.inflated([0.0, 400.0]) for s in (fresh, settled)), strict=True)]
    assert lower == pytest.approx([0.0, 9.0])


def test_a_spacer_takes_its_thickness_off_the_travel_of_an_upright_stop() -> None:
    design = with_corners(stops=[strut(free=520.0, solid=480.0)])
    none, one = spaced(design, "one-left", [0.0, 10.0])
    assert none.touches is not None
    assert one.touches is not None
    assert none.touches - one.touches == pytest.approx(10.0, abs=0.5)
    with pytest.raises(KeyError):
        spaced(design, "nothing", [0.0])


def test_the_anti_roll_bars_links_keep_their_length_and_its_rate_is_by_work() -> None:
    cycled = cycle(GHYLL)
    bar = GHYLL.corners.anti_roll  # type: ignore[union-attr]
    assert bar is not None
    wound = cycled.columns["bar wound"]
    straight = cycled.swept.places.heave
    assert wound[straight] == pytest.approx(0.0, abs=1e-9)
    twist = cycled.swept.places.articulation
    z = 2.0 * np.sin(np.radians(cycled.swept.traced.poses.articulation_deg[twist])) * GHYLL.axle.track / 2.0
    slope = np.polyfit(z, np.radians(wound[twist]), 3)[-2]
    assert bar_rate(GHYLL) == pytest.approx(bar_stiffness(bar) * slope**2, rel=1e-3)
    arm = abs(bar.arm[0] - bar.pivot[0])
    assert abs(slope) == pytest.approx(2.0 * bar.link[1] / GHYLL.axle.track / arm, rel=0.05)


# judged


@pytest.mark.parametrize("design", [TENDER, SCREE, TARN, GHYLL], ids=lambda d: d.name)
def test_every_flaw_of_a_demos_corners_is_found_and_has_a_cure_that_cures(design: Design) -> None:
    found = [f for f in findings(cycle(design)) if f.parts and f.severity in ("stop", "fix")]
    assert found
    for finding in found:
        offered = cures(design, finding.id, 6.35, "in16")
        assert any(cure.meets for cure in offered), finding.id
        for cure in offered:
            after = by_id(design_from(cure.document)).get(finding.id)
            assert cure.meets == (after is None or after.grave == 0)
            stops = {f.id for f in findings(cycle(design_from(cure.document))) if f.severity == "stop"}
            assert stops <= {f.id for f in findings(cycle(design)) if f.severity == "stop"}


def test_no_bump_stop_and_no_strap_are_said() -> None:
    bare = changed(TENDER, lambda data: data["corners"].update(stops=[], straps=[]))
    found = by_id(bare)
    assert "no bump stop" in found["order_bump axle"].said
    assert "no limit strap" in found["order_droop axle"].said
    for name in ("order_bump axle", "order_droop axle"):
        assert any(cure.meets and "add" in cure.words.lower() for cure in cures(bare, name, 6.35))


def test_a_spring_that_cannot_carry_and_a_strap_shorter_than_ride_are_found() -> None:
    soft = changed(TENDER, lambda data: [s["spring"].update(rate=1.0) for s in data["corners"]["shocks"]])
    assert "nowhere" in by_id(soft)["sits axle"].said
    tight = changed(TENDER, lambda data: [s.update(length=200.0) for s in data["corners"]["straps"]])
    assert by_id(tight)["strap_ride strap-left"].grave == 3


def test_a_coil_on_its_own_seats_falls_loose_and_ends_no_travel() -> None:
    one = shock(kind="coil", spring={"rate": 30.0, "preload": 0.0, "solid": 280.0}) | {"extended": 580.0}
    design = with_corners(shocks=[one])
    found = by_id(design)
    assert found["seated one-left"].value < 0.0  # type: ignore[operator]
    assert "stroke_droop one-left" not in found
    assert cycle(design).data()["limits"]["droop"] is None
    assert any(rung.what == "loose" for rung in ladder(design)[1].rungs)


def test_places_for_a_shock_leave_it_its_reserve() -> None:
    placed = shock_places(SCREE, "bypass-left", 6.35, "in16")
    assert placed
    for cure in placed:
        found = by_id(design_from(cure.document))
        assert found["stroke_bump bypass-left"].value >= 3.0  # type: ignore[operator]
        assert found["stroke_droop bypass-left"].value >= 1.0  # type: ignore[operator]
        assert found["stroke_bump bypass-right"].value == pytest.approx(found["stroke_bump bypass-left"].value)
    short = changed(SCREE, lambda data: [s.update(extended=s["compressed"] + 60.0) for s in data["corners"]["shocks"]])
    assert shock_places(short, "bypass-left", 6.35, "mm") == []
    with pytest.raises(ValueError, match="no shock"):
        shock_places(SCREE, "nothing", 6.35, "mm")


def test_a_pull_gives_what_is_asked_by_the_least_movement() -> None:
    pulled = pull_corner(TENDER, [Want("stroke_droop coilover-left", 10.0)])
    assert pulled.met
    assert pulled.got[0] == pytest.approx(10.0, abs=0.05)
    assert by_id(design_from(pulled.document))["stroke_droop coilover-left"].value == pytest.approx(10.0, abs=0.1)
    assert set(pulled.at) <= {f"coilover-{side}.{end}" for side in ("left", "right") for end in ("frame", "axle")}
    locked = changed(TENDER, lambda data: data.update(locks={
        f"coilover-{side}.{end}": "xyz" for side in ("left", "right") for end in ("frame", "axle")}))  # fmt: skip
    with pytest.raises(ValueError, match="free to move"):
        pull_corner(locked, [Want("stroke_droop coilover-left", 10.0)])
    with pytest.raises(ValueError, match="no figure"):
        pull_corner(TENDER, [Want("stroke_droop nothing", 10.0)])


# bodies


def test_shocks_bodies_are_held_apart_when_asked_for() -> None:
    two = [shock() | {"id": name, "frame": {"at": [x, 500.0, 1000.0]}, "axle": {"on": "axle", "at": [x, 500.0, 450.0]}}
           for name, x in (("fore", 40.0), ("aft", -60.0))]  # fmt: skip
    design = with_corners(shocks=two)
    pairs = {(gap.a, gap.b): gap for gap in clearances(design, (3, 2), shocks=True).pairs}
    assert pairs["fore", "aft"].gap == pytest.approx(100.0 - 60.0, abs=1.0)
    assert not {"fore", "aft"} & {name for pair in pairs for name in pair if "axle-tube" in pair}
    plain = clearances(design, (3, 2))
    assert not {"fore", "aft"} & {name for gap in plain.pairs for name in (gap.a, gap.b)}


# what is refused


@pytest.mark.parametrize(
    ("corners", "where"),
    [
        ({"shocks": [shock(kind="coilover")]}, r"corners\.shocks\[0\].*spring"),
        ({"shocks": [shock(kind="air")]}, r"corners\.shocks\[0\].*air"),
        ({"shocks": [shock(air={"pressure": 300.0, "area": [[200.0, 9.0], [100.0, 9.0]], "volume": 1.0})]}, r"shocks\[0\]\.air: must have its lengths"),
        ({"stops": [strut(free=90.0, solid=40.0, force=[[10.0, 500.0], [20.0, 400.0]])]}, "force|stops"),
        ({"anti_roll": {"on": "frame", "pivot": [0.0, 0.0, 1.0], "arm": [200.0, -1.0, 1.0], "link": [200.0, 1.0, 300.0],
                        "diameter": 20.0}}, "anti_roll"),
    ],
)  # fmt: skip
def test_what_is_no_corner_is_refused_by_its_place(corners: dict[str, Any], where: str) -> None:
    with pytest.raises(Refused, match=where):
        with_corners(**corners)


def test_every_shock_says_its_sort() -> None:
    assert Shock(**shock()).sort == "damper"
    assert Shock(**shock(spring={"rate": 1.0, "preload": 0.0, "solid": 9.0})).sort == "coilover"


def test_two_shocks_on_one_arm_that_clash_are_spread_by_an_eye() -> None:
    def nearer(data: Any) -> None:
        for one in data["corners"]["shocks"]:
            if "bypass" in one["id"]:
                one["axle"]["at"][0] += 120.0
                one["frame"]["at"][0] += 150.0

    clash = changed(SCREE, nearer)
    pair = next(g for g in gaps_of(clash) if {g.a, g.b} == {"coilover-left", "bypass-left"})
    assert pair.gap < pair.wanted
    found = clearing(clash, "coilover-left", "bypass-left", 6.35, "in16")
    assert found
    for cure in found:
        assert "eye" in cure.words
        moved = design_from(cure.document)
        after = next(g for g in gaps_of(moved) if (g.a, g.b) == (pair.a, pair.b))
        assert after.gap >= after.wanted - 1e-3


def test_an_eye_outside_its_zone_is_found_and_brought_back_with_its_mirror_image() -> None:
    region = {"kind": "box", "center": [-100.0, 518.0, 1120.0], "size": [80.0, 80.0, 60.0]}
    zones = [{"id": f"tower-{side}", "name": "", "mounts": [f"coilover-{side}.frame"],
              "region": {**region, "center": [-100.0, hand * 518.0, 1120.0]}}
             for side, hand in (("left", 1.0), ("right", -1.0))]  # fmt: skip
    out = changed(TENDER, lambda data: data["room"].update(zones=zones))
    finding = next(f for f in findings(cycle(out)) if f.id.startswith("zone coilover"))
    cure = cures(out, finding.id, 3.175)[0]
    assert cure.meets
    after = design_from(cure.document).corners
    assert after is not None
    left, right = after.shocks[0].frame.at, after.shocks[1].frame.at
    assert left[2] >= 1090.0
    assert left == (right[0], -right[1], right[2])


def test_what_changed_is_said_once_moved_or_sized() -> None:
    sized = changed(TENDER, lambda data: data["corners"]["straps"][0].update(length=400.0))
    assert [one.what for one in changes(TENDER, sized)] == ["sizes of springs, shocks, stops or straps"]
    moved = changed(TENDER, lambda data: data["corners"]["shocks"][0]["frame"]["at"].__setitem__(2, 1080.0))
    assert [(one.what, one.axis, one.by) for one in changes(TENDER, moved)] == [("coilover left frame mount", "z", 5.0)]


def test_a_strap_of_which_no_stretch_is_said_is_judged_by_a_guess_that_is_said() -> None:
    stiff = changed(TENDER, lambda data: [one.update(stretch=0.0) for one in data["corners"]["straps"]])
    assert "stretch" in by_id(stiff)["strap_holds strap-left"].guessed
    assert by_id(TENDER)["strap_holds strap-left"].guessed == ""
