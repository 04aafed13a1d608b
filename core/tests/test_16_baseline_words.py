"""BASELINE in words: what to take again and why, what is not used, what the truck's own figures would be."""

import math
from typing import Any

import numpy as np
import pytest
from designs import DEMO
from test_13_baseline import EVERY, MARKS, gauge, height, scale, tape, truck

from oak_lever.baseline.words import KNOWN, told
from oak_lever.design.faults import Refused
from oak_lever.design.reader import read_design
from oak_lever.truck.reader import read_truck, truck_from
from oak_lever.truck.types import Truck

REAR = read_design((DEMO / "fell-tender-rear.json").read_text())


def figures(t: Truck) -> dict[str, Any]:
    return {figure.id: figure for figure in told(t, {"rear": REAR}, "mm").figures}


@pytest.mark.parametrize(("slip", "said"), [(25.4, "1 in"), (12.7, "1/2 in"), (10.0, "10 mm"), (-25.4, "1 in")])
def test_a_slip_is_named_by_its_size(slip: float, said: str) -> None:
    read = [dict(r) for r in EVERY]
    read[5]["value"] += slip
    found = told(truck(read), {}, "mm")
    assert set(found.held_out) == {"r5"}
    assert f"Off by {said}." in found.held_out["r5"]
    assert found.again == {}
    assert found.unsettled == ()
    true = {one.id: one for one in told(truck([dict(r) for r in EVERY]), {}, "mm").figures}
    for one in found.figures:
        assert abs(one.value - true[one.id].value) < 3.0 * one.sigma + 1e-6


def test_two_readings_exchanged_are_told() -> None:
    read = [dict(r) for r in EVERY]
    read[16]["value"], read[19]["value"] = read[19]["value"], read[16]["value"]
    held = told(truck(read), {}, "mm").held_out
    assert "exchanged with r19" in held["r16"]
    assert "exchanged with r16" in held["r19"]


def test_a_gauge_zeroed_the_other_way_is_caught() -> None:
    wrong = truck([gauge("rear_pinion", 90.0 - REAR.axle.pinion.angle - 0.4, "level", "along", "up")])
    found = told(wrong, {"rear": REAR}, "mm")
    assert "zeroed the other way" in found.held_out["r0"]
    assert found.figures == ()
    right = truck([gauge("rear_pinion", REAR.axle.pinion.angle + 0.4, "level", "along", "up")])
    assert told(right, {"rear": REAR}, "mm").held_out == {}


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
    held = told(t, {"rear": REAR}, "in16").held_out
    assert sum("Off by 1 in" in why for why in held.values()) == 1
    assert sum("zeroed the other way" in why for why in held.values()) == 1
    assert len(held) == 2


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


def two_slips(rng: np.random.Generator, read: list[dict[str, Any]]) -> None:
    """Two of a tape's usual slips, on two readings."""
    for n in rng.choice(len(read), 2, replace=False):
        kind = rng.integers(3)
        if kind == 0:
            read[n]["value"] += float(rng.choice([-25.4, 25.4, 12.7, -12.7, 10.0, -10.0]))
        elif kind == 1:
            m = int(rng.integers(len(read)))
            read[n]["value"], read[m]["value"] = read[m]["value"], read[n]["value"]
        else:
            read[n]["value"] += 304.8


def test_a_truck_measured_with_two_slips_comes_out_right_or_asks() -> None:
    """Random readings with a tape's own error and two slips: every figure that is given is what it would have been
    without them, within what the readings can be off by; else it is asked for again."""
    rng = np.random.default_rng(31)
    right = asks = 0
    for _ in range(30):
        if right >= 15 and asks:
            break
        read: list[dict[str, Any]] = [dict(r) for r in EVERY]
        for taken in read:
            taken["value"] += float(rng.normal(0.0, 1.0))
        true = {one.id: one for one in told(truck([dict(r) for r in read]), {}, "mm").figures}
        two_slips(rng, read)
        found = told(truck(read), {}, "mm")
        asks += bool(found.unsettled)
        for one in found.figures:
            off = abs(one.value - true[one.id].value)
            assert off < 5.0 * one.sigma + 0.05, (one.id, one.value, true[one.id].value, found.held_out)
        right += not found.unsettled
    assert right >= 15
    assert asks >= 1


def test_five_thousand_readings_with_two_slips_in_them_are_answered() -> None:
    rng = np.random.default_rng(8)
    read: list[dict[str, Any]] = [dict(EVERY[n % len(EVERY)]) for n in range(5000)]
    for taken in read:
        taken["value"] += float(rng.normal(0.0, 1.0))
    true = {one.id: one for one in told(truck([dict(r) for r in read]), {}, "mm").figures}
    read[7]["value"] += 25.4
    read[31]["value"] -= 25.4
    found = told(truck(read), {}, "mm")
    assert set(found.held_out) == {"r7", "r31"}
    for one in found.figures:
        assert one.value == pytest.approx(true[one.id].value, abs=0.05)


def test_weights_that_do_not_add_up_give_no_height() -> None:
    level = [scale("front", None, 1700.0), scale("rear", None, 1400.0)]
    up = {"end": "rear", "by": 600.0}
    fits = told(
        truck([*level, scale("front", None, 1780.0, raised=up), scale("rear", None, 1320.0, raised=up)]), {}, "mm"
    )
    assert "cg_height" in {one.id for one in fits.figures}
    off = told(
        truck([*level, scale("front", None, 1777.0, raised=up), scale("rear", None, 1400.0, raised=up)]), {}, "mm"
    )
    assert [one.id for one in off.unsettled] == ["cg_height"]
    assert "they must add up" in off.unsettled[0].why
    pounds = told(truck([*level, scale("front", None, 1780.0, raised=up),
                         scale("rear", None, 1320.0 / 0.45359237, raised=up)]), {}, "mm")  # fmt: skip
    assert "pounds" in pounds.held_out["r3"]
    swapped = told(
        truck([*level, scale("front", None, 1320.0, raised=up), scale("rear", None, 1780.0, raised=up)]), {}, "mm"
    )
    assert "taken for each other" in swapped.unsettled[0].why
    wheels = [scale("front", "left", 850.0), scale("front", "right", 1874.0), scale("rear", None, 1400.0)]
    assert "pounds" in told(truck(wheels), {}, "mm").held_out["r1"]


def test_heights_taken_for_each_other_are_found() -> None:
    marks: list[dict[str, Any]] = [{"id": name, "at": at} for name, at in (
        ("fl", [2400.0, 400.0, 560.0]), ("fr", [2400.0, -400.0, 560.0]), ("ml", [1200.0, 400.0, 610.0]),
        ("rl", [0.0, 400.0, 700.0]), ("rr", [0.0, -400.0, 700.0]),
    )]  # fmt: skip
    read = [height(one["id"], one["at"][2] + 3.0) for one in marks]
    assert told(truck(read, marks=marks), {}, "mm").held_out == {}
    read[2]["value"], read[3]["value"] = read[3]["value"], read[2]["value"]
    found = told(truck(read, marks=marks), {}, "mm")
    assert set(found.held_out) == {"r2", "r3"}
    assert "exchanged" in found.held_out["r2"]
    assert "frame_pitch" not in {one.id for one in found.figures} or found.unsettled == ()


def test_a_scatter_wider_than_the_gauge_is_said() -> None:
    read = [gauge("rear_pinion", value, "level", "along", "up", sigma=0.5) for value in (5.0, 6.4, 5.6)]
    (one,) = told(truck(read), {}, "mm").figures
    assert one.sigma == pytest.approx(np.std([5.0, 6.4, 5.6], ddof=1) / math.sqrt(3.0))


def test_hub_heights_and_the_output_give_what_they_are() -> None:
    read = [
        height("rear-hub-left", 440.0), height("rear-hub-right", 444.0),
        {"kind": "output_offset", "side": "right", "value": 2.0, "unit": "in"},
        {"kind": "output_turn", "points": "left", "value": 1.5, "unit": "deg"},
    ]  # fmt: skip
    found = figures(truck(read))
    assert (found["rear_radius"].value, found["rear_radius"].take) == (442.0, 442.0)
    assert found["rear_radius"].path == "axles.rear.tire_radius_loaded"
    assert found["output_offset"].value == pytest.approx(-50.8)
    assert found["output_turn"].value == 1.5
    apart = told(truck([height("rear-hub-left", 440.0), height("rear-hub-right", 470.0)]), {}, "mm")
    assert [one.id for one in apart.unsettled] == ["rear_radius"]


def test_every_fault_of_a_truck_file_is_told_at_once() -> None:
    data = truck([dict(one) for one in EVERY[:2]]).model_dump(by_alias=True, exclude_unset=True, mode="json")
    data["vehicle"]["mass"] = -1.0
    data["marks"] = [*data["marks"], {"id": "rear-hub-left", "at": [0.0, 0.0, 0.0]}]
    data["readings"] = [
        *data["readings"], {**data["readings"][0], "id": "r9", "from": "nowhere"}, {**data["readings"][0], "id": "r0"},
        {"id": "r7", "kind": "angle", "of": "rear_pinion", "value": 95.0, "unit": "deg", "zero": "level",
         "face": "along", "points": "up"},
    ]  # fmt: skip
    with pytest.raises(Refused) as refused:
        truck_from(data)
    assert {fault.path for fault in refused.value.faults} == {
        "vehicle.mass", f"marks[{len(data['marks']) - 1}].id", "readings[2].from", "readings[3].id", "readings[4].value",
    }  # fmt: skip
    assert len(refused.value.faults) == 5
