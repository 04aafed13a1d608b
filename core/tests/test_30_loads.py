"""What parts carry, against virtual work, closed forms and the meaning of anti-squat; strength against root finding."""

import json
from math import pi, sqrt
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, run
from random_designs import random_designs

from oak_lever.api import Design, Refused, cycle, part_loads, read_design, reckoned, tube_that_holds
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.loads import Fastener, JointKind, Material
from oak_lever.figures.forces import pushed
from oak_lever.figures.struts import Eyes
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, rotations, trace
from oak_lever.strength.cases import cases_of
from oak_lever.strength.judged import TUBES
from oak_lever.strength.loads import Carried
from oak_lever.strength.members import (
    Pressed,
    Section,
    bolt_factor,
    buckling,
    euler_of,
    joint_factor,
    shank_factor,
    tube_strength,
)

G = 9.80665
TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
RUNNER = read_design((DEMO / "scree-runner-rear.json").read_text())
SOUND = [one for one in [*(layout(n) for n in LAYOUTS), *random_designs(seed=30, many=8)] if cycle(one).located]
EVERY = [changed(one, lambda data: data.update(corners=None)) for one in SOUND]
"""Without springs of their own, these are taken straight down on the axle: what they do is the axle's rise alone."""
STEEL = Material.model_validate({"yield": 350.0, "modulus": 205_000.0, "density": 7850.0})


def posed_cases(data: Any) -> None:
    """Cases of one's own off ride, with forces every way."""
    data["loads"] = {
        "final_ratio": 4.1,
        "cases": [
            {"id": "up", "travel": 40.0, "articulation": 3.0, "left": [900.0, 500.0, 4000.0], "right": [-300.0, 200.0, 5000.0]},
            {"id": "down", "travel": -30.0, "articulation": -2.0, "left": [0.0, -700.0, 3000.0], "right": [100.0, 0.0, 2000.0], "driven": True},
        ],
    }  # fmt: skip


def lengths_after(design: Design, state: Any, moved: Any) -> dict[str, float]:
    """Each distance between joints, and each held coordinate, with the axle's body moved by (6,) from a pose."""
    mechanism = mechanism_of(design)
    turn, center = rotations(state), state[:3] + moved[:3]
    x, y, z = moved[3:]
    turn = (np.eye(3) + np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])) @ turn
    mounts = mechanism.mounts[0]

    def on_axle(point: Any) -> Any:
        return center + turn @ (point - mechanism.center[0])

    found = {}
    for row in mechanism.layout.rows:
        if row.hand:
            continue
        head = on_axle(mounts[row.on_axle])
        at = float(np.linalg.norm(head - mounts[row.on_frame])) if row.axis < 0 else float(head[row.axis])
        found[f"{row.name} {row.axis}"] = at
    for side in (1.0, -1.0):
        wheel = on_axle(np.array([0.0, side * design.axle.track / 2.0, design.axle.tire_radius_loaded]))
        seat = np.array(
            [0.0, side * (design.axle.track - design.axle.tire_width) / 2.0, design.axle.tire_radius_loaded]
        )
        found[f"seat {side}"] = float(on_axle(seat)[2])
        for a in range(3):
            # the patch hangs R below the wheel's center and goes with the body
            rest = np.array([0.0, 0.0, -design.axle.tire_radius_loaded])
            bodily = (np.eye(3) + np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])) @ rest
            found[f"patch {side} {a}"] = float((wheel + bodily)[a])
    return found


@pytest.mark.parametrize(
    "design", [d for d in EVERY if getattr(d.lateral, "kind", "") != "watts"], ids=lambda d: d.name
)
def test_forces_do_no_work_in_any_movement_of_the_axle(design: Design) -> None:
    """Virtual work: bars' tensions against their lengths' changes, springs straight down, loads at the patches."""
    design = changed(design, posed_cases)
    plan = Plan()
    worked = 0
    for one in reckoned(design).cases:
        if one.forces is None or one.springs is None:
            continue
        place = plan.pose(one.case.travel, one.case.articulation)
        state = trace(mechanism_of(design), plan.poses()).state[0, place]
        for k in range(6):
            by = np.zeros(6)
            by[k] = 1e-4 if k < 3 else 1e-7
            ahead, back = lengths_after(design, state, by), lengths_after(design, state, -by)
            move = {name: (ahead[name] - back[name]) / (2.0 * by[k]) for name in ahead}
            work, size = -design.axle.mass * G * (1.0 if k == 2 else 0.0), 1.0
            for name, forces in one.forces.items():
                for axis, key, sign in ((-1, "axle", -1.0), (0, "x", 1.0), (2, "z", 1.0), (1, "side", 1.0)):
                    if key in forces and f"{name} {axis}" in move:
                        part = sign * forces[key] * move[f"{name} {axis}"]
                        work, size = work + part, size + abs(part)
            for side, name, force in ((1.0, "left", one.case.left), (-1.0, "right", one.case.right)):
                part = -one.springs[name] * move[f"seat {side}"]
                work, size = work + part, size + abs(part)
                work += sum(force[a] * move[f"patch {side} {a}"] for a in range(3))
            if one.case.driven and k == 3:
                torque = (one.case.left[0] + one.case.right[0]) * design.axle.tire_radius_loaded / 4.1
                work -= torque
            assert abs(work) < 2e-4 * size
            worked += 1
    assert worked >= 60


@pytest.mark.parametrize("design", [d for d in EVERY if d.axle.end == "rear"], ids=lambda d: d.name)
def test_in_a_launch_the_springs_change_by_what_the_anti_squat_leaves_them(design: Design) -> None:
    found = {one.case.id: one for one in reckoned(design).cases}
    static, launch = found["static"], found["launch"]
    assert static.springs is not None
    assert launch.springs is not None
    squat = float(cycle(design).ride.columns["anti_squat"][0])
    vehicle = design.vehicle
    force = (launch.case.left[0] + launch.case.right[0]) / vehicle.drive_share
    moved = force * vehicle.cg_height / vehicle.wheelbase
    change = sum(launch.springs.values()) - sum(static.springs.values())
    assert change == pytest.approx(moved * (1.0 - squat / 100.0), rel=1e-6, abs=1e-3)


def test_a_spring_on_a_link_does_the_work_of_its_length() -> None:
    """Springs on arms, eyes on the line of the joints: power of the springs against the axle's rise."""

    def on_line(data: Any) -> None:
        for shock in data["corners"]["shocks"]:
            link = next((one for one in data["links"] if one["id"] == shock["axle"]["on"]), None)
            if link:
                a, f = np.array(link["axle"]["at"]), np.array(link["frame"]["at"])
                shock["axle"]["at"] = (a + 0.4 * (f - a)).tolist()

    design = changed(RUNNER, on_line)
    mechanism, plan = mechanism_of(design), Plan()
    plan.heave(np.array([-0.01, 0.01]))
    traced = trace(mechanism, plan.poses())
    eyes = Eyes(mechanism, traced)
    static = reckoned(design).cases[0]
    assert static.springs is not None
    assert design.corners is not None
    power = 0.0
    for side, sign in (("left", 1.0), ("right", -1.0)):
        shocks = [one for one in design.corners.shocks if (one.spring or one.air) and one.axle.at[1] * sign > 0.0]
        long = [np.linalg.norm(eyes.on(s.axle.on, s.axle.at).at - np.array(s.frame.at), axis=-1) for s in shocks]
        push = np.array([float(pushed(s, one[:1]).force[0]) for s, one in zip(shocks, long, strict=True)])
        parts = push / push.sum() if push.sum() > 0.0 else np.full(len(shocks), 1.0 / len(shocks))
        order = np.argsort(traced.poses.travel_mm)
        rates = [float((one[order][-1] - one[order][0]) / 0.02) for one in long]
        power += static.springs[side] * float(parts @ rates)
    whole = static.case.left[2] + static.case.right[2] - design.axle.mass * G
    assert power == pytest.approx(-whole, rel=1e-4)  # what is pressed as the axle rises is what the ground lifts


def balance_of(one: Carried) -> dict[str, float]:
    assert one.forces is not None
    return {name: forces.get("axle", 0.0) for name, forces in one.forces.items()}


def test_a_mirrored_truck_carries_mirrored_loads() -> None:
    found = {one.case.id: one for one in reckoned(TENDER).cases}
    for left, right in (
        ("corner_left", "corner_right"),
        ("strike_left", "strike_right"),
        ("one_wheel_left", "one_wheel_right"),
    ):
        one, other = balance_of(found[left]), balance_of(found[right])
        for name, force in one.items():
            assert force == pytest.approx(
                other[name.replace("left", "R").replace("right", "left").replace("R", "right")]
            )


def test_cases_are_those_of_the_book() -> None:
    design = changed(TENDER, lambda data: data.update(loads={"torque": 2000.0, "grip": 0.8, "strike": 2.5}))
    vehicle, axle = design.vehicle, design.axle
    weight = vehicle.mass * G * (1.0 - vehicle.front_share)
    lean = vehicle.cg_height / vehicle.wheelbase
    found = {one.id: one for one in cases_of(design)}
    assert list(found) == [
        "static", "launch", "reverse", "one_wheel_left", "one_wheel_right", "brake", "corner_left", "corner_right",
        "landing", "strike_left", "strike_right",
    ]  # fmt: skip
    force = min(
        0.8 * weight / (vehicle.drive_share - 0.8 * lean) if vehicle.drive_share > 0.8 * lean else 1e99,
        vehicle.mass * G * vehicle.front_share / lean, 0.8 * vehicle.mass * G,
        2000.0 * 1000.0 / (axle.tire_radius_loaded * vehicle.drive_share),
    )  # fmt: skip
    launch = found["launch"]
    assert launch.left == pytest.approx((vehicle.drive_share * force / 2.0, 0.0, (weight + force * lean) / 2.0))
    brake, whole = found["brake"], 0.8 * vehicle.mass * G
    stands = max(weight - whole * lean, 0.0)
    assert brake.right == pytest.approx((-min(vehicle.brake_share * whole, 0.8 * stands) / 2.0, 0.0, stands / 2.0))
    turn = found["corner_left"]
    assert turn.left[1] + turn.right[1] == pytest.approx(0.8 * weight)
    assert turn.right[2] - turn.left[2] == pytest.approx(
        2.0 * min(weight / 2.0, 0.8 * weight * vehicle.cg_height / axle.track)
    )
    assert turn.left[1] / turn.left[2] == pytest.approx(turn.right[1] / turn.right[2])
    assert found["landing"].travel == design.travel.bump
    assert found["landing"].left == pytest.approx((0.0, 0.0, 1.5 * weight))
    assert found["strike_left"].left == pytest.approx((-1.25 * weight, 0.0, 1.25 * weight))
    wheel = found["one_wheel_left"]
    assert (wheel.left[0], wheel.right) == (min(0.8 * weight, 2e6 / axle.tire_radius_loaded), (0.0, 0.0, 0.0))
    assert [one.id for one in found.values() if one.abuse] == [
        "one_wheel_left", "one_wheel_right", "landing", "strike_left", "strike_right",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("tension", "moment"), [(4000.0, 0.0), (-9000.0, 0.0), (-9000.0, 2e5), (6000.0, 3e5), (-5e4, 1e6)]
)
def test_yield_is_the_least_factor_that_brings_the_tube_to_it(tension: float, moment: float) -> None:
    across, wall, long = 44.45, 4.0, 900.0
    inner = across - 2.0 * wall
    section = Section(pi / 4.0 * (across**2 - inner**2), pi / 64.0 * (across**4 - inner**4), across / 2.0, STEEL)
    euler = pi**2 * 205_000.0 * section.inertia / long**2
    assert euler_of(section, long) == pytest.approx(euler)
    found = tube_strength(section, [Pressed(tension, moment, euler)], long)
    pressed = max(-tension, 0.0)

    def stress(n: float) -> float:
        return n * abs(tension) / section.area + n * moment * section.half / (
            section.inertia * (1.0 - n * pressed / euler)
        )

    low, high = 0.0, (euler / pressed if pressed else 1e6)
    for _ in range(200):
        middle = (low + high) / 2.0
        low, high = (middle, high) if stress(middle) < 350.0 else (low, middle)
    assert found["yield"] == pytest.approx(low, rel=1e-9)
    assert found["stress"] == (None if pressed >= euler else pytest.approx(stress(1.0)))
    if pressed:
        slender = long / sqrt(section.inertia / section.area)
        meets = sqrt(2.0 * pi**2 * 205_000.0 / 350.0)
        critical = (
            pi**2 * 205_000.0 / slender**2
            if slender >= meets
            else 350.0 * (1 - 350.0 * slender**2 / (4 * pi**2 * 205_000.0))
        )
        assert found["buckling"] == pytest.approx(critical * section.area / pressed)
        assert buckling(section, pressed, 1e5) == pytest.approx(pi**2 * 205_000.0 * section.inertia / 1e10 / pressed)
    else:
        assert found["buckling"] is None


def test_joint_bolt_and_shank_by_hand() -> None:
    end = {"kind": "threaded", "shank": 76.0, "shoulder": 21.0, "nut": 11.0, "least_in": 28.0, "pitch": 1.5875, "flange": 6.35,
           "thread": 19.05, "yield": 600.0}  # fmt: skip
    kind = JointKind.model_validate({"limit": 20.0, "give": 0.0, "rating": 60_000.0, "end": end})
    assert joint_factor(kind, 12_000.0) == 5.0
    assert joint_factor(kind, 0.0) is None
    assert joint_factor(None, 12_000.0) is None
    bolt = Fastener.model_validate({"diameter": 15.875, "yield": 640.0, "planes": 2.0})
    assert bolt_factor(bolt, 10_000.0) == pytest.approx(0.577 * 640.0 * 2.0 * pi * 15.875**2 / 4.0 / 10_000.0)
    minor = 19.05 - 1.2269 * 1.5875
    force = np.array([8000.0, 0.0, 600.0])
    by_hand = 600.0 / (8000.0 / (pi * minor**2 / 4.0) + 600.0 * 48.0 / (pi * minor**3 / 32.0))
    assert shank_factor(kind, force, np.array([1.0, 0.0, 0.0])) == pytest.approx(by_hand)
    bad = kind.rewritten(end={**end, "pitch": 19.0})
    with pytest.raises(Refused, match="no core"):
        shank_factor(bad, force, np.array([1.0, 0.0, 0.0]))


def test_a_bent_link_is_bent_by_its_pull() -> None:
    def bent(data: Any) -> None:
        a, f = (np.array(data["links"][0][end]["at"]) for end in ("axle", "frame"))
        across = np.cross(f - a, [0.0, 0.0, 1.0])
        corner = a + 0.5 * (f - a) + 40.0 * across / np.linalg.norm(across)
        data["links"][0]["tube"] = {"diameter": 50.8, "wall": 6.35, "bends": [corner.tolist()]}

    straight, curved = (reckoned(one).cases[0] for one in (TENDER, changed(TENDER, bent)))
    assert balance_of(straight)["lower-left"] == pytest.approx(balance_of(curved)["lower-left"])
    assert straight.strength is not None
    assert curved.strength is not None
    tension = abs(balance_of(curved)["lower-left"])
    inertia, area = pi / 64.0 * (50.8**4 - 38.1**4), pi / 4.0 * (50.8**2 - 38.1**2)
    long = np.linalg.norm(np.subtract(TENDER.links[0].axle.at, TENDER.links[0].frame.at))
    euler = pi**2 * 205_000.0 * inertia / long**2
    pressed = max(-balance_of(curved)["lower-left"], 0.0)
    bend = tension * 40.0 * 25.4 / (inertia * (1.0 - pressed / euler))
    assert curved.strength["lower-left"]["stress"] == pytest.approx(tension / area + bend)


def test_a_radius_arm_is_a_cantilever_from_its_nearer_bolt() -> None:
    design = layout(next(name for name in LAYOUTS if any(k.kind == "radius_arm" for k in layout(name).links)))
    static = reckoned(design).cases[0]
    assert static.forces is not None
    assert static.strength is not None
    arms = [link for link in design.links if link.kind == "radius_arm"]
    for link in arms:
        eye, one, two = (np.array(at) for at in (link.frame.at, *link.axle.at))
        way = (one + two) / 2.0 - eye
        way = way / np.linalg.norm(way)
        reach = min((one - eye) @ way, (two - eye) @ way)
        push = np.array([static.forces[link.id]["x"], 0.0, static.forces[link.id]["z"]])
        across = np.linalg.norm(push - (push @ way) * way)
        inner = 50.8 - 12.7
        inertia, area = pi / 64.0 * (50.8**4 - inner**4), pi / 4.0 * (50.8**2 - inner**2)
        euler = pi**2 * 205_000.0 * inertia / (2.0 * reach) ** 2
        pressed = max(push @ way, 0.0)
        tube = link.tube
        if tube is None:
            stress = abs(push @ way) / area + across * reach * 25.4 / (inertia * (1.0 - pressed / euler))
            assert static.strength[link.id]["stress"] == pytest.approx(stress)
        assert static.forces[link.id]["at_frame"] == pytest.approx(np.linalg.norm(push))
    assert arms


def test_on_a_rock() -> None:
    rock = reckoned(TENDER).rock
    weight = TENDER.vehicle.mass * G * (1.0 - TENDER.vehicle.front_share)
    assert set(rock) == {link.id for link in TENDER.links if link.kind == "lower"}
    long = np.linalg.norm(np.subtract(TENDER.links[0].axle.at, TENDER.links[0].frame.at))
    assert rock["lower-left"]["moment"] == pytest.approx(weight / 2.0 * long / 4.0)


def test_a_loose_axle_and_a_pose_that_is_not_reached_balance_nothing() -> None:
    def loose(data: Any) -> None:
        for gone in ("corners", "room", "driveshaft"):
            data[gone] = None
        data["links"] = data["links"][:3]

    assert all(one.forces is None and one.strength is None for one in reckoned(changed(TENDER, loose)).cases)
    far = changed(TENDER, lambda data: data.update(loads={"cases": [{"id": "far", "travel": 3000.0, "left": [0, 0, 1.0], "right": [0, 0, 1.0]}]}))  # fmt: skip
    last = reckoned(far).cases[-1]
    assert (last.bind, last.springs, last.data()["balanced"]) == (None, None, False)


def twice(data: Any) -> None:
    own = {"id": "launch", "left": [0.0, 0.0, 1.0], "right": [0.0, 0.0, 1.0]}
    data["loads"] = {"cases": [own, {**own, "id": "tow"}, {**own, "id": "tow"}]}


def nameless(data: Any) -> None:
    data["links"][0]["tube"] = {"material": "unobtainium"}


def narrow(data: Any) -> None:
    for gone in ("corners", "room", "driveshaft"):
        data[gone] = None
    data["axle"]["track"] = data["axle"]["tire_width"]


@pytest.mark.parametrize(
    ("change", "path"), [(twice, "loads.cases[0].id"), (nameless, "links[0].tube.material"), (narrow, "axle.track")]
)
def test_what_cannot_be_is_refused_at_its_place(change: Any, path: str) -> None:
    with pytest.raises(Refused) as refused:
        reckoned(changed(TENDER, change))
    assert refused.value.faults[0].path == path


@pytest.mark.parametrize("loads", [{"grip": -0.1}, {"torque": 0.0}, {"shaft_turns": "back"}, {"final_ratio": -3.0}])
def test_loads_that_are_none_are_refused(loads: Any) -> None:
    with pytest.raises(Refused) as refused:
        changed(TENDER, lambda data: data.update(loads=loads))
    assert refused.value.faults[0].path.startswith("loads.")


@pytest.mark.parametrize("design", SOUND[:10], ids=lambda one: one.name)
def test_the_arrows_on_the_axle_and_its_weight_are_in_balance(design: Design) -> None:
    """What is drawn is a free body: forces, and moments about any point, add up to nothing."""
    if design.lateral is not None and design.lateral.kind in ("slider", "watts"):
        design = changed(design, lambda data: data.update(lateral=None, loads=None))
    looked = 0
    for one in reckoned(design).cases:
        if not one.pushes or one.case.travel:
            continue
        arms = {link.id for link in design.links if link.kind == "radius_arm"}
        force, moment = np.zeros(3), np.zeros(3)
        for push in one.pushes:
            if push.on != "axle" and push.part not in arms:
                continue
            way = -1.0 if push.on == "frame" else 1.0
            if push.part.startswith("spring") and spring_on_link(design, np.array(push.at)):
                continue
            force = force + way * np.array(push.force)
            moment = moment + np.cross(push.at, way * np.array(push.force))
        weight = np.array([0.0, 0.0, -design.axle.mass * G])
        force, moment = force + weight, moment + np.cross([0.0, 0.0, design.axle.tire_radius_loaded], weight)
        most = max(float(np.linalg.norm(push.force)) for push in one.pushes)
        assert np.abs(force).max() < 1e-6 * most
        assert np.abs(moment).max() < 1e-3 * most
        looked += 1
    assert looked >= 4 or not cycle(design).located


def spring_on_link(design: Design, at: Any) -> bool:
    """Whether the spring whose axle-side eye is there at ride stands on a link: what it does comes by the link's joint."""
    arms = {link.id for link in design.links if link.kind == "radius_arm"} | {"axle"}
    shocks = design.corners.shocks if design.corners else ()
    return any(one.axle.on not in arms and np.abs(np.array(one.axle.at) - at).max() < 1e-6 for one in shocks)


def test_parts_are_graded_by_their_worst_case_and_what_is_not_known_is_named() -> None:
    found = reckoned(RUNNER)
    rated = part_loads(RUNNER, found)
    grave = ["stop", "fix", "consider", "good"]
    assert [grave.index(one.severity) for one in rated] == sorted(grave.index(one.severity) for one in rated)
    for part in rated:
        for one in part.factors:
            if one.factor is None:
                assert one.severity == "consider"
                assert one.look_up
                continue
            if one.what == "rock":
                every = [(found.rock[part.part]["yield"], 1.25)]
            else:
                every = [
                    (value, 1.25 if case.case.abuse else 2.0)
                    for case in found.cases if case.strength and (value := case.strength[part.part][one.what]) is not None
                ]  # fmt: skip
            assert (one.factor, one.wanted) == min(every, key=lambda pair: pair[0] / pair[1])
            assert one.severity == ("stop" if one.factor < 1.0 else "fix" if one.factor < one.wanted else "good")
    assert any(one.severity == "stop" for one in rated)
    assert any("grip is the house's" in guess for guess in rated[0].guessed)


def test_the_tube_offered_holds_and_no_lighter_one_does() -> None:
    weak = changed(TENDER, lambda data: data["links"][0].update(tube={"diameter": 38.1, "wall": 3.05}))
    part = weak.links[0].id
    graded = {one.part: one for one in part_loads(weak, reckoned(weak))}
    assert graded[part].severity in ("stop", "fix")
    found = tube_that_holds(weak, part)
    assert found is not None

    def holds(across: float, wall: float) -> bool:
        tried = changed(weak, lambda data: data["links"][0].update(tube={"diameter": across, "wall": wall}))
        now = next(one for one in part_loads(tried, reckoned(tried)) if one.part == part)
        tube = [one for one in now.factors if one.what in ("yield", "buckling", "rock")]
        return all(one.factor is not None and one.factor >= one.wanted for one in tube)

    def area(across: float, wall: float) -> float:
        return pi * wall * (across - wall)

    assert holds(found.diameter, found.wall)
    lighter = [one for one in TUBES if area(*one) < area(found.diameter, found.wall) - 1e-6]
    assert lighter
    assert not any(holds(*one) for one in lighter)
    link: Any = weak.links[0]
    apart = float(np.linalg.norm(np.subtract(link.axle.at, link.frame.at)))
    more = (area(found.diameter, found.wall) - area(38.1, 3.05)) * apart * 7850e-9
    assert found.mass == pytest.approx(more, rel=1e-6)
    assert tube_that_holds(weak, part, [(25.4, 2.0)]) is None


def test_the_command() -> None:
    file = str(DEMO / "scree-runner-rear.json")
    done = run("loads", file, "--json")
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert (said["format"], said["version"]) == ("oak-lever-loads", 1)
    assert said == json.loads(json.dumps(reckoned(RUNNER).data()))
    table = run("loads", file).stdout
    assert "short of what is wanted" in table
    assert "a guess" in table
    assert "not an approval" in table
    data = json.loads((DEMO / "scree-runner-rear.json").read_text())
    twice(data)
    refused = run("loads", "-", text=json.dumps(data))
    assert refused.returncode == 2
    assert len(refused.stderr.strip().splitlines()) == 2


def test_an_axle_that_carries_nothing_is_reckoned_too() -> None:
    def light(data: Any) -> None:
        data["vehicle"]["front_share"] = 1.0

    for design in (TENDER, changed(TENDER, light)):
        weight = (1.0 - design.vehicle.front_share) * design.vehicle.mass * G
        for one in cases_of(design):
            if one.id.startswith("corner"):
                total = one.left[1] + one.right[1]
                assert total == pytest.approx((1.0 if one.id.endswith("left") else -1.0) * 0.8 * weight)
                assert one.left[2] + one.right[2] == pytest.approx(weight)
    found = reckoned(changed(TENDER, light))
    corner = next(one for one in found.cases if one.case.id == "corner_left")
    assert corner.forces is not None
    every = [value for forces in corner.forces.values() for value in forces.values()]
    assert np.isfinite(every).all()  # the axle itself hangs on its links and springs
    assert part_loads(changed(TENDER, light), found)
