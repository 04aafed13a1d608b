"""Designs to start from: every layout, school and end of the truck, on trucks small and large."""

from dataclasses import replace
from typing import Any, get_args

import pytest
from designs import measured
from random_designs import MANY

from oak_lever.api import (
    Known,
    LayoutName,
    Refused,
    School,
    Use,
    cycle,
    findings,
    findings_apart,
    first_truck,
    guessed_figures,
    parts_of,
    resolved,
    split,
    starting_design,
    taken_keep_outs,
    truck_data,
    truck_from,
)
from oak_lever.clearance.clearances import gaps_of
from oak_lever.design.start import drawn_start
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.buildable import in_the_way

TRUCKS = {
    "small": (620.0, 1400.0, 2300.0, 430.0, 800.0),
    "middle": (840.0, 1600.0, 2700.0, 520.0, 860.0),
    "large": (1020.0, 1850.0, 3300.0, 680.0, 900.0),
}


EIGHTH = 3.175


@pytest.mark.parametrize("layout", get_args(LayoutName))
def test_starts_are_sound_buildable_and_on_increments(layout: Any) -> None:
    """A different school, use, end and truck for each, all of them over the layouts."""
    n = get_args(LayoutName).index(layout)
    schools, uses, trucks = get_args(School), get_args(Use), list(TRUCKS.values())
    for turn in range(5 if MANY > 6 else 2):
        school, use = schools[(n + turn) % len(schools)], uses[(2 * n + turn) % len(uses)]
        known = Known(("rear", "front")[(n + turn) % 2], *trucks[(n + 2 * turn) % 3])
        design = starting_design("Start", layout, school, known, use, EIGHTH)
        grave = [finding.id for finding in findings(cycle(design)) if finding.severity in ("stop", "fix")]
        assert grave == [], (school, use, known)
        assert in_the_way(design, mechanism_of(design)) == []
        moving = [one for one in findings_apart(design) if not any("rail" in part for part in one.place.parts)]
        assert [one.id for one in moving if one.severity == "stop"] == []
        for spot in parts_of(design).spots:
            for value in spot.at:
                assert value / EIGHTH == pytest.approx(round(value / EIGHTH), abs=1e-6)


def test_what_is_guessed_of_a_start_is_said_until_somebody_says_where_it_comes_from() -> None:
    design = starting_design("Start", "parallel_panhard", "numbers_first", middle(), "crawling", EIGHTH)
    assert "uessed" not in design.notes  # notes stay as they are written; a guess does not
    first = first_truck("Yard truck", design)
    words = guessed_figures(first, "rear")
    assert {"rear loaded tire radius", "mass of the whole truck", "mass of the axle"} <= set(words)
    assert not any("front tire" in one for one in words)
    data = truck_data(first)
    data["sources"] = {
        "axles.rear.tire_radius_loaded": "measured",
        "vehicle": "catalog",
        "designs.rear.axle.mass": "measured",
    }
    left = guessed_figures(truck_from(data), "rear")
    gone = {"rear loaded tire radius", "mass of the whole truck", "height of the center of gravity", "mass of the axle"}
    assert not gone & set(left)
    assert "rear track" in left


def test_rails_that_were_typed_stand_in_the_way_of_both_axles() -> None:
    """Once in the truck; each axle sees them where they are: the same steel, in its own axes."""
    rear = starting_design("Rear", "double_triangulated", "numbers_first", middle("rear"), "trail", EIGHTH)
    truck = first_truck("Yard truck", rear)
    assert [one.id for one in truck.room.keep_outs] == ["rail-left", "rail-right"]  # type: ignore[union-attr]
    front = starting_design("Front", "three_link_panhard", "numbers_first", middle("front"), "trail", EIGHTH)
    bare, _ = split(front)
    assert "room" not in bare
    there = resolved(bare, truck)
    assert there.room is not None
    assert [one.id for one in there.room.keep_outs] == ["rail-left", "rail-right"]
    base = truck.axles.front.station - truck.axles.rear.station
    for seen, first in zip(there.room.keep_outs, rear.room.keep_outs, strict=True):  # type: ignore[union-attr]
        (x, y, z), (a, b, c) = seen.solid.center, first.solid.center  # type: ignore[union-attr]
        assert (x + base, y, z) == pytest.approx((a, b, c))
        size = first.solid.size
        assert abs(b) + size[1] / 2.0 == pytest.approx(TRUCKS["middle"][4] / 2.0)
        assert c - size[2] / 2.0 == pytest.approx(TRUCKS["middle"][3])
    assert any({gap.a, gap.b} & {"rail-left"} for gap in gaps_of(there))
    assert taken_keep_outs(truck, there) is truck  # read and written back, they are what they were


def test_a_start_that_asks_for_less_travel_says_so() -> None:
    drawn = drawn_start("Start", "parallel_slider", "hold_pinion", middle(), "crawling", EIGHTH).travel
    design = starting_design("Start", "parallel_slider", "hold_pinion", middle(), "crawling", EIGHTH)
    less = design.travel.articulation < drawn.articulation or design.travel.bump < drawn.bump
    assert less == ("Less travel than is usual" in design.notes)


def middle(end: Any = "rear") -> Known:
    return Known(end, *TRUCKS["middle"])


def test_schools_do_what_they_say() -> None:
    def change(school: Any) -> float:
        columns = cycle(drawn_start("Start", "double_triangulated", school, middle()), 9).heave.columns
        return float(abs(columns["pinion_change"]).max())

    assert change("hold_pinion") < 0.5
    assert change("numbers_first") > change("hold_pinion")
    level = drawn_start("Start", "double_triangulated", "flat_and_long", middle())
    assert all(abs(link["side_angle"]) < 0.1 for link in cycle(level, 3).data()["links"])
    point = cycle(drawn_start("Start", "double_triangulated", "converge_on_a_point", middle()), 3)
    assert point.ride.columns["ic_x"][0] == pytest.approx(0.92 * 2700, rel=0.05)
    assert 55 < cycle(drawn_start("Start", "double_triangulated", "numbers_first", middle()), 3).ride.columns[
        "anti_squat"
    ][0] < 85  # fmt: skip


def test_separation_and_triangulation_are_the_house_values() -> None:
    said = cycle(drawn_start("Start", "double_triangulated", "numbers_first", middle()), 3).data()
    assert said["separation"]["axle"] >= 840 / 4
    assert said["separation"]["frame"] >= 0.4 * said["separation"]["axle"]
    force = measured(cycle(drawn_start("Start", "double_triangulated", "numbers_first", middle()), 3))["side_force"]
    assert force <= 2.0  # which is what the shop rule of 40 degrees in plan is for


def test_measures_out_of_all_proportion_are_refused() -> None:
    with pytest.raises(Refused):
        starting_design("Start", "double_triangulated", "numbers_first", Known("rear", 800, -1, 2700, 500, 800))
    with pytest.raises(Refused):
        starting_design("", "double_triangulated", "numbers_first", middle())


THOUSAND = Known("rear", 1000.0, 1700.0, 3000.0, 600.0, 900.0)
"""Tires of a thousand millimeters: the house proportions, in tire diameters, can be read off the mounts."""

# by hand: lowers a tube, a half of each, 12.7 mm and an increment below the axle and 1.05 long, uppers 0.225 above it and 0.8 of that; all but the flat ones toward
# a point 1.05 wheelbases ahead on the line of 70 % anti-squat, 683.55 mm up there
STARTS: dict[str, dict[str, tuple[int, int, int]]] = {
    "double_triangulated": {"lower-left.axle": (30, 544, 388), "lower-left.frame": (1080, 297, 487), "upper-left.axle": (30, 70, 700), "upper-left.frame": (870, 373, 696)},
    "single_triangulated": {"lower-left.axle": (30, 510, 388), "lower-left.frame": (1080, 510, 487), "upper-left.axle": (30, 70, 700), "upper-left.frame": (870, 373, 696)},
    "single_apex": {"lower-left.axle": (30, 510, 320), "lower-left.frame": (1080, 510, 441), "upper-left.axle": (176, 0, 575), "upper-left.frame": (1016, 373, 604)},
    "three_link_panhard": {"lower-left.axle": (30, 544, 388), "lower-left.frame": (1080, 405, 487), "upper.axle": (30, -200, 700), "upper.frame": (870, -240, 696), "panhard.axle": (-203, -432, 575), "panhard.frame": (-203, 432, 575)},
    "parallel_panhard": {"lower-left.axle": (30, 510, 388), "lower-left.frame": (1080, 510, 487), "upper-left.axle": (30, 510, 700), "upper-left.frame": (870, 510, 696), "panhard.axle": (-203, -432, 575), "panhard.frame": (-203, 432, 575)},
    "parallel_watts": {"lower-left.axle": (30, 510, 388), "lower-left.frame": (1080, 510, 487), "upper-left.axle": (30, 510, 700), "upper-left.frame": (870, 510, 696), "watts.pivot": (-203, 0, 495), "watts-left.frame": (-203, 468, 580)},
    "parallel_slider": {"lower-left.axle": (30, 510, 388), "lower-left.frame": (1080, 510, 487), "upper-left.axle": (30, 510, 700), "upper-left.frame": (870, 510, 696), "slider.axle": (-160, 0, 535)},
    "radius_arms_panhard": {"arm-left.axle.0": (120, 510, 505), "arm-left.axle.1": (-120, 510, 455), "arm-left.frame": (1100, 405, 273), "panhard.axle": (-203, -432, 575), "panhard.frame": (-203, 432, 575)},
    "trailing_arms": {"lower-left.axle": (30, 610, 388), "lower-left.frame": (1330, 405, 510), "upper-left.axle": (30, 70, 700), "upper-left.frame": (1070, 373, 695)},
}  # fmt: skip
SCHOOLS = {
    "numbers_first": ((1080, 297, 487), (870, 373, 696)),
    "hold_pinion": ((1080, 297, 584), (1080, 374, 895)),
    "short_upper": ((1080, 297, 487), (818, 373, 696)),
    "converge_on_a_point": ((1080, 297, 468), (870, 373, 669)),
    "flat_and_long": ((1180, 297, 388), (1080, 373, 700)),
    "window": ((1080, 297, 407), (870, 374, 496)),
    "what_fits": ((1080, 297, 487), (870, 373, 696)),
}
TRAVELS = {
    "crawling": (130.0, 200.0, 12.0),
    "trail": (120.0, 160.0, 10.0),
    "street": (80.0, 100.0, 6.0),
    "strip": (50.0, 50.0, 4.0),
    "desert": (250.0, 300.0, 12.0),
}


@pytest.mark.parametrize("layout", get_args(LayoutName))
def test_starts_have_the_house_proportions(layout: Any) -> None:
    design = drawn_start("Start", layout, "numbers_first", THOUSAND)
    at = {spot.name: spot.at for spot in parts_of(design).spots}
    assert {name: at[name] for name in STARTS[layout]} == STARTS[layout]
    for name, (x, y, z) in at.items():
        mirrored = name.replace("-right", "-left")
        if mirrored != name and not name.startswith("watts"):
            assert at[mirrored] == (x, -y, z)
    turned = drawn_start("Start", layout, "numbers_first", replace(THOUSAND, end="front"))
    assert {spot.name: spot.at for spot in parts_of(turned).spots} == {n: (-x, y, z) for n, (x, y, z) in at.items()}


@pytest.mark.parametrize("school", get_args(School))
def test_starts_follow_their_school(school: Any) -> None:
    at = {s.name: s.at for s in parts_of(drawn_start("Start", "double_triangulated", school, THOUSAND)).spots}
    assert (at["lower-left.frame"], at["upper-left.frame"]) == SCHOOLS[school]


@pytest.mark.parametrize("use", get_args(Use))
def test_starts_have_the_travel_of_their_use(use: Any) -> None:
    travel = drawn_start("Start", "double_triangulated", "numbers_first", THOUSAND, use).travel
    assert (travel.bump, travel.droop, travel.articulation) == TRAVELS[use]


@pytest.mark.parametrize(
    ("layout", "school", "most"),
    [
        ("parallel_panhard", "numbers_first", 6.0),
        ("radius_arms_panhard", "numbers_first", 5.0),
        ("parallel_slider", "window", 3.5),
    ],
)
def test_layouts_that_give_in_roll_start_with_less_of_it(layout: Any, school: Any, most: float) -> None:
    assert drawn_start("Start", layout, school, THOUSAND, "crawling").travel.articulation == most


def test_what_a_start_guesses_of_the_truck() -> None:
    design = drawn_start("Start", "parallel_watts", "numbers_first", THOUSAND)
    axle, vehicle, rails = design.axle, design.vehicle, design.rails
    assert (axle.tire_radius_loaded, axle.tire_width, axle.tube_diameter, axle.mass) == (475.0, 330.0, 95.0, 220.0)
    assert (axle.pinion.joint, axle.pinion.angle, axle.caster) == ((340.0, 0.0, 515.0), 6.0, None)
    assert (vehicle.mass, vehicle.front_share, vehicle.cg_height) == (2400.0, 0.53, 930.0)
    assert (vehicle.drive_share, vehicle.brake_share, vehicle.wheelbase) == (1.0, 0.38, 3000.0)
    assert rails is not None
    assert (rails.outside_width, rails.depth, rails.flange, rails.underside) == (900.0, 160.0, 68.0, 600.0)
    front = drawn_start("Start", "parallel_watts", "numbers_first", replace(THOUSAND, end="front"))
    assert (front.vehicle.brake_share, front.axle.caster) == (0.62, 6.0)
    lateral: Any = design.lateral
    assert (lateral.arm, lateral.tilt) == (85.0, 0.0)
    known = replace(THOUSAND, cg_height=800.0, tire_radius_loaded=460.0)
    design = drawn_start("Start", "parallel_watts", "numbers_first", known)
    assert (design.vehicle.cg_height, design.axle.tire_radius_loaded) == (800.0, 460.0)
    narrow = drawn_start("Start", "double_triangulated", "numbers_first", replace(THOUSAND, track=1400.0))
    assert parts_of(narrow).spot("lower-left.axle").at[1] == 420.0  # the wheels leave no more
