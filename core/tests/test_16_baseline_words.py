"""BASELINE in words: what to take again and why, what is not used, what the truck's own figures would be."""

from typing import Any

import pytest
from designs import DEMO
from test_13_baseline import EVERY, MARKS, gauge, height, scale, tape, truck

from oak_lever.baseline.words import KNOWN, told
from oak_lever.design.reader import read_design
from oak_lever.truck.reader import read_truck
from oak_lever.truck.types import Truck

REAR = read_design((DEMO / "fell-tender-rear.json").read_text())


def figures(t: Truck) -> dict[str, Any]:
    return {figure.id: figure for figure in told(t, {"rear": REAR}, "mm").figures}


@pytest.mark.parametrize(("slip", "said"), [(25.4, "1 in"), (12.7, "1/2 in"), (10.0, "10 mm"), (-25.4, "1 in")])
def test_a_slip_is_named_by_its_size(slip: float, said: str) -> None:
    read = [dict(r) for r in EVERY]
    read[5]["value"] += slip
    words = told(truck(read), {}, "mm").again
    assert next(iter(words)) == "r5"
    assert f"near a round {said}" in words["r5"]
    assert ("more" if slip > 0 else "less") in words["r5"]
    assert all("take that one again first" in why for name, why in words.items() if name != "r5")


def test_two_readings_exchanged_are_told() -> None:
    read = [dict(r) for r in EVERY]
    read[16]["value"], read[19]["value"] = read[19]["value"], read[16]["value"]
    again = told(truck(read), {}, "mm").again
    assert "exchanged with r19" in again["r16"]
    assert "exchanged with r16" in again["r19"]


def test_a_gauge_zeroed_the_other_way_is_caught() -> None:
    wrong = truck([gauge("rear_pinion", 90.0 - REAR.axle.pinion.angle - 0.4, "level", "along", "up")])
    said = told(wrong, {"rear": REAR}, "mm").again["r0"]
    assert "zeroed the other way" in said
    right = truck([gauge("rear_pinion", REAR.axle.pinion.angle + 0.4, "level", "along", "up")])
    assert told(right, {"rear": REAR}, "mm").again == {}


def test_what_is_not_used_says_why() -> None:
    read = [
        height("rear-hub-left", 450.0), gauge("rear_pinion", 5.0, "level", "along", "up", travel=30.0),
        scale("front", None, 900.0, raised={"end": "front", "by": 500.0}), {**tape("distance", "fl", "rear-hub-left"), "left_out": True},
    ]  # fmt: skip
    unused = told(truck(read), {}, "mm").unused
    assert set(unused) == {"r0", "r1", "r2", "r3"}
    assert "r1" not in told(truck(read), {"rear": REAR}, "mm").unused


def test_hints_say_what_is_missing() -> None:
    hub = truck([tape("distance", "rear-hub-left", "front-hub-right")])
    assert "fix nothing yet" in told(hub, {}, "mm").hints[0]
    assert "Weigh both ends" in told(truck([scale("front", None, 900.0)]), {}, "mm").hints[0]
    both = truck([
        scale("front", None, 900.0), scale("rear", None, 800.0), scale("rear", None, 990.0, raised={"end": "rear", "by": 500.0}),
    ])  # fmt: skip
    assert "stays on the ground" in told(both, {}, "mm").hints[-1]
    near = [{"id": "m", "at": [60.0, 0.0, 500.0]}]
    along = {"kind": "along", "from": "m", "unit": "mm", "value": 60.0}
    stands = truck([{**along, "to": f"rear-hub-{side}"} for side in ("left", "right")], marks=near)
    assert told(stands, {}, "mm").hints == ()


def test_figures_stand_beside_what_is_in_force() -> None:
    found = figures(truck([*EVERY, scale("front", None, 1600.0), scale("rear", None, 1400.0)]))
    assert set(found) <= set(KNOWN)
    assert found["rear_fore_aft"].take == pytest.approx(7.0, abs=1e-6)
    assert (found["mass"].take, found["mass"].stands, found["mass"].path) == (3000.0, 3000.0, "vehicle.mass")
    assert found["rear_offset"].grade == "unsure"
    assert found["front_thrust_angle"].grade == "outside"
    level = figures(truck([height(m, z, sigma=0.01) for m, (_, _, z) in MARKS.items()]))
    assert level["frame_pitch"].grade == "inside"


def test_the_demo_has_its_slip_and_its_gauge_zeroed_the_other_way() -> None:
    t = read_truck((DEMO / "fell-tender-truck.json").read_text())
    again = told(t, {"rear": REAR}, "in16").again
    assert "1 in" in next(iter(again.values()))
    assert sum("zeroed the other way" in why for why in again.values()) == 1


def test_a_trucks_own_targets_replace_the_houses_one_by_one() -> None:
    read = [scale(end, None, weight) for end, weight in (("front", 1700.0), ("rear", 1400.0))]
    data = truck(read).model_dump(by_alias=True, exclude_unset=True)
    own = Truck.model_validate({**data, "targets": {"mass": {"target": 3000.0, "tolerance": 50.0}}})
    mass = figures(own)["mass"]
    assert (mass.target, mass.tolerance, mass.own, mass.grade) == (3000.0, 50.0, True, "outside")
    house = figures(truck(read))["mass"]
    assert (house.target, house.tolerance, house.own, house.grade) == (None, None, False, None)
    offset = figures(truck([dict(one) for one in EVERY]))["rear_offset"]
    assert (offset.target, offset.own) == (0.0, False)
