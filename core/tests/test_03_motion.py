"""MOVE: poses against closed forms, properties that any axle on links must have, and where it stops."""

import json
import math
from typing import Any

import numpy as np
import pytest
from designs import bars, changed, every_point, links_of, run
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lever.api import Design, cycle, design_data, design_from, write_design
from oak_lever.design.gallery import FREE, GIVING, LAYOUTS, layout
from oak_lever.design.links import default_bolt
from oak_lever.motion.carried import carried
from oak_lever.motion.freedom import free_directions
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, rotations, trace

LENGTHS_HOLD_MM = 1e-9
FIGURES_AGREE = 1e-6

POSE = ("axle_x", "axle_y", "axle_z", "roll", "yaw", "pinion_change")
LONGITUDINAL = ("anti_squat", "ic_height", "ic_x", "roll_center_height")


def lengths(design: Design, state: np.ndarray) -> dict[str, np.ndarray]:
    """Length of every plain link and panhard bar in every pose, from the pose alone."""
    rot = rotations(state)
    center = np.array([0, 0, design.axle.tire_radius_loaded])
    return {
        bar.id: np.linalg.norm(state[:, :3] + rot @ (np.array(bar.axle) - center) - np.array(bar.frame), axis=-1)
        for bar in bars(design)
        if bar.kind in ("lower", "upper", "panhard")
    }


def moved_randomly(design: Design, seed: int, by: float = 15.0) -> Design:
    rng = np.random.default_rng(seed)
    data = every_point(design_data(design), lambda p: [float(v) for v in np.array(p) + rng.uniform(-by, by, 3)])
    return design_from(data)


@given(name=st.sampled_from(FREE), seed=st.integers(0, 10**6))
@settings(max_examples=40, deadline=None)
def test_links_keep_their_length_straight_and_twisted(name: str, seed: int) -> None:
    design = moved_randomly(layout(name), seed)
    cycled = cycle(design, 9)
    for sweep in (cycled.heave, cycled.articulation):
        assert sweep.reached.all()
        for name_, values in lengths(design, sweep.state).items():
            at_ride = next(math.dist(bar.axle, bar.frame) for bar in bars(design) if bar.id == name_)
            assert np.abs(values - at_ride).max() < LENGTHS_HOLD_MM


@pytest.mark.parametrize("name", LAYOUTS)
def test_pose_is_as_asked(name: str) -> None:
    design = layout(name)
    cycled = cycle(design, 11)
    radius, track = design.axle.tire_radius_loaded, design.axle.track
    for sweep in (cycled.heave, cycled.articulation):
        np.testing.assert_allclose(sweep.state[:, 2], radius + sweep.columns["travel"], atol=1e-12)
        wheel = rotations(sweep.state)[:, :, 1] * track / 2
        np.testing.assert_allclose(
            2 * wheel[:, 2] / track, np.sin(np.radians(sweep.columns["articulation"])), atol=1e-12
        )


def test_equal_parallel_links_hold_the_pinion_and_swing_on_their_arc() -> None:
    def level(data: Any) -> None:
        for link in data["links"]:
            x, y, z = link["axle"]["at"]
            link["frame"]["at"] = [x + 800.0, y, z]

    design = changed(layout("parallel and slider"), level)
    rows = cycle(design, 21).heave
    t = rows.columns["travel"]
    np.testing.assert_allclose(rows.columns["axle_x"], 800 - np.sqrt(800**2 - t**2), atol=1e-9)
    np.testing.assert_allclose(rows.columns["pinion_change"], 0, atol=1e-9)
    assert np.isnan(rows.columns["ic_x"]).all()
    slope = t / np.sqrt(800**2 - t**2)  # the path is square to the links, so its slope is theirs, turned
    wheelbase, height = 2900 - rows.columns["axle_x"], 820 - t
    np.testing.assert_allclose(rows.columns["anti_squat"], -100 * slope * wheelbase / height, rtol=1e-6, atol=1e-9)


def test_panhard_arc() -> None:
    """Three equal parallel links let the axle swing; the bar then draws its own arc, in the rear view and plan."""

    def level(data: Any) -> None:
        for link in data["links"]:
            x, y, z = link["axle"]["at"]
            link["frame"]["at"] = [x + 1e5 / 2, y, z]  # links so long that the axle goes straight up
        data["lateral"]["frame"]["at"][2] = data["lateral"]["axle"]["at"][2]

    rows = cycle(changed(layout("three links and panhard"), level), 15).heave
    t = rows.columns["travel"]
    drift = np.sqrt(860**2 - t**2) - 860
    np.testing.assert_allclose(rows.columns["axle_y"], drift, atol=0.02)  # the links still pull 0.26 mm fore-aft


def side_view_four_bar(design: Design, travel: float) -> tuple[float, float]:
    """x and pitch of a symmetric four-link in heave: a planar four-bar with effective lengths, by bisection."""
    lower, upper = design.links[0], design.links[2]
    radius = design.axle.tire_radius_loaded

    def foot(pitch: float, link: Any) -> tuple[float, float, float]:
        b = (link.axle.at[0], link.axle.at[2] - radius)
        bx = math.cos(pitch) * b[0] + math.sin(pitch) * b[1]
        bz = -math.sin(pitch) * b[0] + math.cos(pitch) * b[1]
        planar = math.hypot(link.axle.at[0] - link.frame.at[0], link.axle.at[2] - link.frame.at[2])
        rise = radius + travel + bz - link.frame.at[2]
        return link.frame.at[0] - math.sqrt(planar**2 - rise**2) - bx, bx, bz

    def gap(pitch: float) -> float:
        return foot(pitch, lower)[0] - foot(pitch, upper)[0]

    low, high = -0.3, 0.3
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if gap(low) * gap(middle) > 0 else (low, middle)
    return foot(low, lower)[0], low


@pytest.mark.parametrize("name", ["double triangulated", "single triangulated", "single apex"])
def test_symmetric_four_link_in_heave_is_a_planar_four_bar(name: str) -> None:
    design = layout(name)
    rows = cycle(design, 13).heave
    for n, travel in enumerate(rows.columns["travel"]):
        x, pitch = side_view_four_bar(design, float(travel))
        assert rows.columns["axle_x"][n] == pytest.approx(x, abs=1e-8)
        assert rows.columns["pinion_change"][n] == pytest.approx(-math.degrees(pitch), abs=1e-9)
        assert abs(rows.columns["axle_y"][n]) < 1e-9


@given(name=st.sampled_from(list(LAYOUTS)), seed=st.integers(0, 10**6))
@settings(max_examples=30, deadline=None)
def test_mirrored_design_moves_as_the_mirror_image(name: str, seed: int) -> None:
    design = moved_randomly(layout(name), seed, 8.0)
    data = every_point(design_data(design), lambda p: [p[0], -p[1], p[2]])
    if data["lateral"] and data["lateral"]["kind"] == "watts":
        rods = data["lateral"]
        rods["left"], rods["right"] = rods["right"], rods["left"]
        rods["tilt"] = 180 - rods["tilt"]
    one, other = cycle(design, 5), cycle(design_from(data), 5)
    for column, sign in (("axle_x", 1), ("axle_y", -1), ("pinion_change", 1), ("anti_squat", 1), ("yaw", -1)):
        np.testing.assert_allclose(other.heave.columns[column], sign * one.heave.columns[column], rtol=1e-6, atol=1e-6)
        np.testing.assert_allclose(
            other.articulation.columns[column], sign * one.articulation.columns[column][::-1], rtol=1e-6, atol=1e-6
        )


@given(name=st.sampled_from(list(LAYOUTS)), by=st.floats(-400, 400), seed=st.integers(0, 10**6))
@settings(max_examples=20, deadline=None)
def test_floor_moved_along_changes_nothing_but_x(name: str, by: float, seed: int) -> None:
    """All mounts up by as much as the axle: the same linkage on taller tires."""
    design = moved_randomly(layout(name), seed, 8.0)
    lift = abs(by)
    data = every_point(design_data(design), lambda p: [p[0], p[1], p[2] + lift])
    data["axle"]["tire_radius_loaded"] += lift
    one, other = cycle(design, 5), cycle(design_from(data), 5)
    for column in ("axle_x", "axle_y", "pinion_change", "yaw", "ic_x", "roll_steer", "bind"):
        np.testing.assert_allclose(
            other.articulation.columns[column], one.articulation.columns[column], rtol=1e-6, atol=1e-6
        )
    for column in ("ic_height", "roll_center_height"):
        np.testing.assert_allclose(other.heave.columns[column], one.heave.columns[column] + lift, rtol=1e-6, atol=1e-5)


@given(name=st.sampled_from(list(LAYOUTS)), scale=st.floats(0.3, 3))
@settings(max_examples=20, deadline=None)
def test_scaled_design_gives_scaled_lengths_and_the_same_angles(name: str, scale: float) -> None:
    data = every_point(design_data(layout(name)), lambda p: [v * scale for v in p])
    for part, keys in (
        ("axle", ("tire_diameter", "tire_radius_loaded", "tire_width", "track", "tube_diameter")),
        ("vehicle", ("wheelbase", "cg_height")),
        ("travel", ("bump", "droop")),
    ):
        for key in keys:
            data[part][key] *= scale
    if data["lateral"] and "arm" in data["lateral"]:
        data["lateral"]["arm"] *= scale
    one, other = cycle(layout(name), 5), cycle(design_from(data), 5)
    for column in ("pinion_change", "anti_squat", "roll_steer", "yaw"):
        np.testing.assert_allclose(
            other.articulation.columns[column], one.articulation.columns[column], rtol=1e-6, atol=1e-6
        )
    for column in ("axle_x", "axle_y", "roll_center_height", "bind"):
        np.testing.assert_allclose(
            other.articulation.columns[column], scale * one.articulation.columns[column], rtol=1e-6, atol=1e-6
        )


@pytest.mark.parametrize("name", LAYOUTS)
def test_heave_and_back_ends_where_it_began(name: str) -> None:
    design = layout(name)
    plan = Plan()
    out = [int(plan.heave(np.array([travel]))[0]) for travel in (-160.0, 120.0)]
    poses = plan.poses()
    back = np.append(poses.travel_mm, 0.0), np.append(poses.articulation_deg, 0.0), np.append(poses.parent, out[1])
    result = trace(mechanism_of(design), type(poses)(*back))
    np.testing.assert_allclose(result.state[0, -1], result.state[0, 0], atol=1e-7)


@pytest.mark.parametrize("name", LAYOUTS)
def test_a_pose_is_the_same_however_finely_it_is_reached(name: str) -> None:
    design = layout(name)
    coarse, fine = cycle(design, 3).heave.state[[0, -1]], cycle(design, 81).heave.state[[0, -1]]
    np.testing.assert_allclose(coarse, fine, atol=1e-7)


@pytest.mark.parametrize("name", LAYOUTS)
@pytest.mark.parametrize(("travel", "twist"), [(0.0, 0.0), (60.0, 4.0), (-80.0, -7.0)])
def test_motions_are_the_derivatives_of_the_pose(name: str, travel: float, twist: float) -> None:
    """The exact motion against central differences of solved poses, stiff and giving layouts alike."""
    mechanism, h, plan = mechanism_of(layout(name)), 1e-2, Plan()
    here = plan.pose(travel, twist)
    up, down = plan.pose(travel + h, twist), plan.pose(travel - h, twist)
    turn = math.degrees(1e-5)
    more, less = plan.pose(travel, twist + turn), plan.pose(travel, twist - turn)
    result = trace(mechanism, plan.poses())
    state, rot = result.state[0], rotations(result.state[0])

    def rates(a: int, b: int, by: float) -> np.ndarray:
        spin = (rot[a] - rot[b]) / by @ rot[here].T
        return np.array([*(state[a, :3] - state[b, :3]) / by, spin[2, 1], spin[0, 2], spin[1, 0]])

    np.testing.assert_allclose(result.heave[0, here], rates(up, down, 2 * h), rtol=1e-6, atol=1e-8)
    rolled = rates(more, less, 2e-5)
    np.testing.assert_allclose(result.rolling[0, here], rolled / rolled[3], rtol=1e-5, atol=2e-4)


def give_squared(design: Design, state: np.ndarray) -> float:
    return sum(
        float((values[0] - math.dist(bar.axle, bar.frame)) ** 2)
        for bar in bars(design)
        for name, values in lengths(design, state[None]).items()
        if name == bar.id
    )


def test_give_is_the_least_there_is() -> None:
    design = layout("parallel and panhard")
    cycled = cycle(design, 5)
    pose = cycled.articulation.state[0]
    least = give_squared(design, pose)
    worst = max(
        abs(v[0] - math.dist(b.axle, b.frame))
        for b in bars(design)
        for n, v in lengths(design, pose[None]).items()
        if n == b.id
    )
    assert cycled.articulation.columns["bind"][0] == pytest.approx(worst, abs=1e-9)
    rng = np.random.default_rng(4)
    for _ in range(200):
        near = pose.copy()
        near[[0, 1]] += rng.uniform(-0.5, 0.5, 2)
        near[[4, 5]] += rng.uniform(-1e-3, 1e-3, 2)
        near[3] = math.asin(math.sin(math.radians(-10)) / math.cos(near[4]))
        assert give_squared(design, near) >= least - 1e-9


@pytest.mark.parametrize("name", GIVING)
def test_more_constraints_than_freedoms_are_reached_and_say_their_give(name: str) -> None:
    cycled = cycle(layout(name), 9)
    assert cycled.articulation.reached.all()
    assert cycled.articulation.columns["bind"].max() > 0.01
    assert cycled.ride.columns["bind"][0] == 0


@pytest.mark.parametrize("name", FREE)
def test_free_layouts_have_no_give(name: str) -> None:
    cycled = cycle(layout(name), 9)
    assert (cycled.articulation.columns["bind"] == 0).all()


def test_locator_taken_away_leaves_the_axle_loose() -> None:
    for name in ("parallel and panhard", "three links and panhard", "radius arms and panhard"):
        loose = changed(layout(name), lambda data: data.update(lateral=None))
        cycled = cycle(loose, 5)
        assert not cycled.ride.reached.any()
        assert not cycled.heave.reached.any()
        assert cycled.stops == {"heave": [0, 0], "articulation": [0, 0]}
        assert free_directions(mechanism_of(loose)) == ["sideways"]


def test_looseness_is_found_by_rank_not_by_names() -> None:
    """Four links called upper and lower, all parallel, do not locate; four lowers that converge do."""
    parallel = changed(layout("parallel and panhard"), lambda data: data.update(lateral=None))
    renamed = json.loads(json.dumps(design_data(layout("double triangulated"))))
    for link in renamed["links"]:
        link["kind"] = "lower"
    assert not cycle(parallel, 3).located
    assert cycle(design_from(renamed), 3).located


def test_travel_stops_where_the_links_run_out() -> None:
    """Single-apex uppers and level lowers in side view: the four-bar locks where upper link and housing line up."""

    def short(data: Any) -> None:
        data["travel"] = {"bump": 400.0, "droop": 400.0, "articulation": 5.0}
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [250.0, side * 300.0, 700.0]

    design = changed(layout("double triangulated"), short)
    cycled = cycle(design, 41)
    low, high = cycled.stops["heave"]
    assert low is not None
    assert high is None
    past = cycled.heave.columns["travel"] < low
    assert not cycled.heave.reached[past].any()
    assert cycled.heave.reached[~past].all()

    def closes(travel: float) -> bool:
        """Whether the planar four-bar still has a pose, by scanning its one remaining unknown."""
        lower, upper = links_of(design)[0], links_of(design)[2]
        pitch = np.linspace(-1.2, 1.2, 200_001)
        feet = []
        for link in (lower, upper):
            b = np.array([link.axle.at[0], link.axle.at[2] - design.axle.tire_radius_loaded])
            bx, bz = np.cos(pitch) * b[0] + np.sin(pitch) * b[1], -np.sin(pitch) * b[0] + np.cos(pitch) * b[1]
            planar = (link.axle.at[0] - link.frame.at[0]) ** 2 + (link.axle.at[2] - link.frame.at[2]) ** 2
            rise = design.axle.tire_radius_loaded + travel + bz - link.frame.at[2]
            with np.errstate(invalid="ignore"):
                feet.append(link.frame.at[0] - np.sqrt(planar - rise**2) - bx)
        gap = feet[0] - feet[1]
        return bool((np.sign(gap[1:]) * np.sign(gap[:-1]) < 0).any())

    assert closes(low + 0.1)
    assert not closes(low - 0.1)
    again = cycle(design, 200).stops["heave"][0]
    assert again == pytest.approx(low, abs=0.01)


def test_interpreted_and_compiled_kernel_agree(tmp_path: Any) -> None:
    """The command runs the kernel uncompiled; it must say what the server says."""
    for name in ("double triangulated", "parallel and watts on axle"):
        file = tmp_path / "design.json"
        file.write_text(write_design(layout(name)))
        said = json.loads(run("cycle", str(file), "--json", "--steps", "5").stdout)
        here = cycle(layout(name), 5)
        for row, travel in zip(said["heave"], here.heave.columns["travel"], strict=True):
            assert row["travel"] == pytest.approx(travel)
        for column in POSE + LONGITUDINAL:
            theirs = [row[column] for row in said["articulation"]]
            np.testing.assert_allclose(theirs, here.articulation.columns[column], rtol=1e-9, atol=1e-9)


def test_what_a_link_carries_keeps_its_distances_and_its_bolt() -> None:
    """A point of a link stays as far from both its joints, and level with the bolt's plane, as at ride."""
    design = layout("double triangulated")
    mechanism = mechanism_of(design)
    state = cycle(design, 2, (60.0, 7.0)).swept.traced.state[0]
    point = np.array([480.0, 455.0, 360.0])
    got = carried(mechanism, ["lower-left"], state)["lower-left"]
    bar = bars(design)[0]
    center = np.array([0, 0, design.axle.tire_radius_loaded])
    for pose in range(len(state)):
        now = got.turn[pose] @ point + got.shift[pose]
        axle = state[pose, :3] + rotations(state[pose]) @ (np.array(bar.axle) - center)
        assert np.linalg.norm(now - bar.frame) == pytest.approx(np.linalg.norm(point - bar.frame), abs=1e-9)
        assert np.linalg.norm(now - axle) == pytest.approx(np.linalg.norm(point - np.array(bar.axle)), abs=1e-9)
        bolt = np.array(default_bolt(bar.axle, bar.frame))
        beside = [np.cross(end - np.array(bar.frame), bolt) for end in (axle, np.array(bar.axle))]
        sides = [v @ n / np.linalg.norm(n) for v, n in zip((now - bar.frame, point - bar.frame), beside, strict=True)]
        assert sides[0] == pytest.approx(sides[1], abs=1e-9)
    at_ride = got.turn[0] @ point + got.shift[0]
    np.testing.assert_allclose(at_ride, point, atol=1e-9)


def test_what_a_radius_arm_carries_goes_with_the_axle() -> None:
    design = layout("radius arms and panhard")
    state = cycle(design, 2, (40.0, 2.0)).swept.traced.state[0]
    got = carried(mechanism_of(design), ["arm-left"], state)["arm-left"]
    center = np.array([0, 0, design.axle.tire_radius_loaded])
    point = np.array([500.0, 430.0, 480.0])
    expected = state[:, :3] + rotations(state) @ (point - center)
    np.testing.assert_allclose(got.turn @ point + got.shift, expected, atol=1e-9)
