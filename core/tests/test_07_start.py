"""Designs to start from: every layout, school and end of the truck, on trucks small and large."""

from typing import Any, get_args

import pytest

from oak_lever.api import Known, LayoutName, Refused, School, cycle, findings, starting_design

TRUCKS = {
    "small": (620.0, 1400.0, 2300.0, 430.0, 800.0),
    "middle": (840.0, 1600.0, 2700.0, 520.0, 860.0),
    "large": (1020.0, 1850.0, 3300.0, 680.0, 900.0),
}


@pytest.mark.parametrize("layout", get_args(LayoutName))
@pytest.mark.parametrize("truck", TRUCKS)
def test_every_start_cycles_and_has_no_stop(layout: Any, truck: str) -> None:
    for school in get_args(School):
        for end in ("rear", "front"):
            design = starting_design("Start", layout, school, Known(end, *TRUCKS[truck]))
            cycled = cycle(design, 9)
            assert cycled.heave.reached.all()
            assert cycled.articulation.reached.all()
            assert [finding.id for finding in findings(cycled) if finding.severity == "stop"] == []


def middle(end: Any = "rear") -> Known:
    return Known(end, *TRUCKS["middle"])


def test_schools_do_what_they_say() -> None:
    def change(school: Any) -> float:
        columns = cycle(starting_design("Start", "double_triangulated", school, middle()), 9).heave.columns
        return float(abs(columns["pinion_change"]).max())

    assert change("hold_pinion") < 0.5
    assert change("numbers_first") > change("hold_pinion")
    level = starting_design("Start", "double_triangulated", "flat_and_long", middle())
    assert all(abs(link["side_angle"]) < 0.1 for link in cycle(level, 3).data()["links"])
    point = cycle(starting_design("Start", "double_triangulated", "converge_on_a_point", middle()), 3)
    assert point.ride.columns["ic_x"][0] == pytest.approx(0.92 * 2700, rel=0.05)
    assert 55 < cycle(starting_design("Start", "double_triangulated", "numbers_first", middle()), 3).ride.columns[
        "anti_squat"
    ][0] < 85  # fmt: skip


def test_separation_and_triangulation_are_the_house_values() -> None:
    said = cycle(starting_design("Start", "double_triangulated", "numbers_first", middle()), 3).data()
    assert said["separation"]["axle"] >= 840 / 4
    assert said["separation"]["frame"] >= 0.4 * said["separation"]["axle"]
    lower, _, upper, _ = said["links"]
    assert lower["plan_angle"] + upper["plan_angle"] >= 40


def test_measures_out_of_all_proportion_are_refused() -> None:
    with pytest.raises(Refused):
        starting_design("Start", "double_triangulated", "numbers_first", Known("rear", 800, -1, 2700, 500, 800))
    with pytest.raises(Refused):
        starting_design("", "double_triangulated", "numbers_first", middle())
