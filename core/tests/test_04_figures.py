"""MEASURE: figures against drawing-board constructions that share no code with the core."""

import math
from typing import Any

import numpy as np
import pytest
from designs import changed

from oak_lever.api import Cycle, Design, cycle
from oak_lever.design.gallery import layout
from oak_lever.design.links import default_bolt

SYMMETRIC = ("double triangulated", "single triangulated", "single apex")
AGREES = 1e-9


def crossing(a: Any, b: Any, c: Any, d: Any) -> tuple[float, float]:
    """Where line ab meets line cd."""
    (x1, y1), (x2, y2), (x3, y3), (x4, y4) = a, b, c, d
    det = (x1 - x2) * (y3 - y4) - (y1 - y2) * (x3 - x4)
    one, other = x1 * y2 - y1 * x2, x3 * y4 - y3 * x4
    return (one * (x3 - x4) - (x1 - x2) * other) / det, (one * (y3 - y4) - (y1 - y2) * other) / det


def side(point: Any) -> tuple[float, float]:
    return point[0], point[2]


def plan(point: Any) -> tuple[float, float]:
    return point[0], point[1]


def ride(cycled: Cycle, column: str) -> float:
    return float(cycled.ride.columns[column][0])


def instant_center(design: Design) -> tuple[float, float]:
    lower, upper = design.links[0], design.links[2]
    assert lower.kind == "lower"
    assert upper.kind == "upper"
    return crossing(side(lower.axle.at), side(lower.frame.at), side(upper.axle.at), side(upper.frame.at))


@pytest.mark.parametrize("name", SYMMETRIC)
def test_instant_center_is_where_the_links_cross_in_the_side_view(name: str) -> None:
    design = layout(name)
    x, z = instant_center(design)
    cycled = cycle(design, 3)
    assert ride(cycled, "ic_x") == pytest.approx(x, rel=AGREES)
    assert ride(cycled, "ic_height") == pytest.approx(z, rel=AGREES)
    assert ride(cycled, "ic_length") == pytest.approx(abs(x), rel=AGREES)


@pytest.mark.parametrize("name", SYMMETRIC)
def test_anti_squat_is_the_force_line_against_the_neutral_line(name: str) -> None:
    design = layout(name)
    x, z = instant_center(design)
    truck = design.vehicle
    neutral = truck.cg_height / truck.wheelbase
    cycled = cycle(design, 3)
    assert ride(cycled, "anti_squat") == pytest.approx(100 * (z / x) / neutral, rel=AGREES)
    assert ride(cycled, "anti_lift_brake") == pytest.approx(100 * truck.brake_share * (z / x) / neutral, rel=AGREES)
    assert math.isnan(ride(cycled, "anti_dive"))


def test_an_instant_center_on_the_neutral_line_gives_100_percent() -> None:
    def aim(data: Any) -> None:
        """Both links point at a spot on the line from the contact patch to the height of the cg over the front axle."""
        spot = (1500.0, 1500.0 * data["vehicle"]["cg_height"] / data["vehicle"]["wheelbase"])
        for link in data["links"]:
            x, _, z = link["axle"]["at"]
            part = (link["frame"]["at"][0] - x) / (spot[0] - x)
            link["frame"]["at"][2] = z + part * (spot[1] - z)

    cycled = cycle(changed(layout("double triangulated"), aim), 3)
    assert ride(cycled, "anti_squat") == pytest.approx(100, rel=AGREES)


def test_front_axle_figures_have_front_signs() -> None:
    def turn_round(data: Any) -> None:
        data["axle"]["end"] = "front"
        data["axle"]["pinion"]["joint"][0] *= -1
        for link in data["links"]:
            for end in ("axle", "frame"):
                link[end]["at"][0] *= -1

    rear, front = cycle(layout("double triangulated"), 9), cycle(changed(layout("double triangulated"), turn_round), 9)
    share = layout("double triangulated").vehicle.brake_share
    assert ride(front, "ic_x") == pytest.approx(-ride(rear, "ic_x"))
    assert ride(front, "anti_dive") == pytest.approx(share * ride(rear, "anti_squat"))
    assert ride(front, "anti_lift_drive") == pytest.approx(ride(rear, "anti_squat"))
    assert math.isnan(ride(front, "anti_squat"))
    np.testing.assert_allclose(front.heave.columns["pinion_change"], rear.heave.columns["pinion_change"], atol=1e-9)
    np.testing.assert_allclose(front.heave.columns["caster_change"], -front.heave.columns["pinion_change"])
    assert np.isnan(rear.heave.columns["caster_change"]).all()


def test_roll_axis_goes_through_the_plan_view_apexes() -> None:
    """Double triangulated: each pair's apex carries no sideways motion; the roll axis joins the two."""
    design = layout("double triangulated")
    apexes = []
    for link in (design.links[0], design.links[2]):
        assert link.kind in ("lower", "upper")
        x, _ = crossing(plan(link.axle.at), plan(link.frame.at), (0, 0), (1, 0))
        part = (x - link.axle.at[0]) / (link.frame.at[0] - link.axle.at[0])
        apexes.append((x, link.axle.at[2] + part * (link.frame.at[2] - link.axle.at[2])))
    (x0, z0), (x1, z1) = apexes
    slope = (z1 - z0) / (x1 - x0)
    cycled = cycle(design, 3)
    assert ride(cycled, "roll_axis_angle") == pytest.approx(math.degrees(math.atan(slope)), rel=AGREES)
    assert ride(cycled, "roll_center_height") == pytest.approx(z0 - slope * x0, rel=AGREES)
    assert ride(cycled, "roll_steer") == pytest.approx(slope, rel=AGREES)


def test_parallel_lowers_put_the_roll_axis_parallel_to_them_through_the_upper_apex() -> None:
    design = layout("single triangulated")
    lower, upper = design.links[0], design.links[2]
    assert lower.kind == "lower"
    assert upper.kind == "upper"
    slope = (lower.frame.at[2] - lower.axle.at[2]) / (lower.frame.at[0] - lower.axle.at[0])
    x, _ = crossing(plan(upper.axle.at), plan(upper.frame.at), (0, 0), (1, 0))
    part = (x - upper.axle.at[0]) / (upper.frame.at[0] - upper.axle.at[0])
    z = upper.axle.at[2] + part * (upper.frame.at[2] - upper.axle.at[2])
    cycled = cycle(design, 3)
    assert ride(cycled, "roll_steer") == pytest.approx(slope, rel=AGREES)
    assert ride(cycled, "roll_center_height") == pytest.approx(z - slope * x, rel=AGREES)


def test_slider_is_the_roll_center_of_parallel_links() -> None:
    design = layout("parallel and slider")
    assert ride(cycle(design, 3), "roll_center_height") == pytest.approx(600 + ride(cycle(design, 3), "roll_steer") * 0)


@pytest.mark.parametrize("on", ["axle", "frame"])
def test_watts_pivot_is_the_roll_center(on: str) -> None:
    """The pin of a level Watts link stays on the centerline to first order; links level so that they add nothing."""

    def level(data: Any) -> None:
        for link in data["links"]:
            link["frame"]["at"][2] = link["axle"]["at"][2]

    design = changed(layout(f"parallel and watts on {on}"), level)
    assert ride(cycle(design, 3), "roll_center_height") == pytest.approx(400, abs=1e-6)


def test_watts_pin_stays_on_the_centerline_far_better_than_a_panhard_bar() -> None:
    watts = cycle(layout("parallel and watts on axle"), 21).heave.columns["axle_y"]
    bar = cycle(layout("parallel and panhard"), 21).heave.columns["axle_y"]
    assert np.abs(watts).max() < 0.2 * np.abs(bar).max()


def test_figures_follow_the_cg_and_wheelbase_of_the_pose() -> None:
    design = layout("double triangulated")
    heave = cycle(design, 21).heave.columns
    slope = heave["ic_height"] / (heave["ic_x"] - heave["axle_x"])
    wheelbase = design.vehicle.wheelbase - heave["axle_x"]
    height = design.vehicle.cg_height - heave["travel"]
    np.testing.assert_allclose(heave["anti_squat"], 100 * slope * wheelbase / height, rtol=1e-9)


def test_a_link_that_stands_still_has_no_misalignment_and_a_turned_one_has_its_turn() -> None:
    design = layout("parallel and slider")
    cycled = cycle(design, 3)
    for joint, values in cycled.ride.joints.items():
        assert values[0] == pytest.approx(0, abs=1e-9), joint
    twist = cycled.articulation.joints["lower-left.axle"]
    rolled = abs(cycled.articulation.state[0, 3])
    assert 0 < math.radians(twist[0]) < rolled


def test_misalignment_of_a_given_bolt() -> None:
    """A bolt laid 30 degrees off square in plan starts 30 degrees misaligned."""

    def skew(data: Any) -> None:
        link = data["links"][0]
        link["frame"]["at"] = [link["axle"]["at"][0] + 900, link["axle"]["at"][1], link["axle"]["at"][2]]
        link["frame"]["bolt"] = [math.sin(math.radians(30)) * 7, math.cos(math.radians(30)) * 7, 0]

    cycled = cycle(changed(layout("double triangulated"), skew), 3)
    assert cycled.ride.joints["lower-left.frame"][0] == pytest.approx(30)
    assert cycled.ride.joints["lower-left.axle"][0] == pytest.approx(0, abs=1e-9)


def test_radius_arm_has_only_a_frame_joint_turned_as_the_axle_turns() -> None:
    cycled = cycle(layout("radius arms and panhard"), 9)
    assert "arm-left.axle" not in cycled.ride.joints
    pitch = np.abs(np.degrees(cycled.heave.state[:, 4]))
    # the arm lies nearly fore-aft, so its bolt lies nearly across: pitching barely turns it, unlike rolling
    assert (cycled.heave.joints["arm-left.frame"] < pitch + 1e-9).all()
    assert cycled.articulation.joints["arm-left.frame"].max() > 5


def test_default_bolts() -> None:
    np.testing.assert_allclose(np.array(default_bolt((0, 0, 0), (3.0, 4.0, 9.0))), [-0.8, 0.6, 0])
    np.testing.assert_allclose(np.array(default_bolt((0, 0, 0), (0.0, 0.0, 9.0))), [0, 1, 0])


def test_link_figures_and_separation() -> None:
    said = cycle(layout("three links and panhard"), 3).data()
    by_id = {link["id"]: link for link in said["links"]}
    assert list(by_id) == ["lower-left", "lower-right", "upper", "panhard"]
    assert by_id["lower-left"]["length"] == pytest.approx(math.sqrt(980**2 + 150**2 + 60**2))
    assert by_id["lower-left"]["side_angle"] == pytest.approx(math.degrees(math.atan2(60, 980)))
    assert by_id["lower-left"]["plan_angle"] == pytest.approx(math.degrees(math.atan2(150, 980)))
    assert by_id["panhard"]["side_angle"] == 90
    assert said["separation"] == {"axle": 240, "frame": 170}
    assert cycle(layout("radius arms and panhard"), 3).data()["separation"] == {"axle": None, "frame": None}
