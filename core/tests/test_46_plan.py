"""The plan by days: held against days counted one by one, on random logs."""

import random
from datetime import date, timedelta
from typing import Any

import pytest

from oak_lever.api import FitRecord, Refused, fit_record_from, plan
from oak_lever.fit_up.gates import GATES
from oak_lever.fit_up.plan import HOURS

TODAY = date(2026, 3, 9)  # a Monday
NAMES = {gate.id: gate.name for gate in GATES}


def record(**what: Any) -> FitRecord:
    return fit_record_from(what)


def order(n: int, gate: str | None, due: str | None, here: bool = False, **more: Any) -> dict[str, Any]:
    return {"id": f"o{n}", "what": f"thing {n}", "gate": gate, "due": due, "here": here, **more}


def passed(*gates: str) -> list[dict[str, Any]]:
    return [{"gate": gate, "result": "passed"} for gate in gates]


def test_two_days_of_eight_hours_take_sixteen() -> None:
    found = plan(record(pace={"gates": {"baseline": 16.0, "marked": 8.0}}, gates=[]), TODAY)
    first, second = found.steps[:2]
    assert (first.starts, first.ends, first.guessed) == ("2026-03-09", "2026-03-10", False)
    assert (second.starts, second.ends) == ("2026-03-11", "2026-03-11")


def test_sunday_is_off_unless_the_shop_says_otherwise() -> None:
    week = {"baseline": 6 * 8.0, "marked": 1.0}
    assert plan(record(pace={"gates": week}), TODAY).steps[1].starts == "2026-03-16"
    assert plan(record(pace={"gates": week, "off": []}), TODAY).steps[1].starts == "2026-03-15"
    off = ["mon", "tue", "wed", "thu", "fri", "sat"]
    assert plan(record(pace={"gates": week, "off": off}), TODAY).steps[0].starts == "2026-03-15"


def test_a_step_waits_for_what_is_due_and_all_after_it_for_that() -> None:
    done = passed("baseline", "marked")
    found = plan(record(gates=done, orders=[order(1, "tacked", "2026-03-20")]), TODAY)
    assert found.now == ()
    assert [step.gate for step in found.steps][:2] == ["tacked", "measured"]
    assert found.steps[0].starts == "2026-03-20"
    assert found.next is not None
    assert (found.next.what, found.next.due, found.next.late) == (("thing 1",), "2026-03-20", False)
    assert found.next.unlocks == tuple(step.name for step in found.steps)


def test_what_has_no_day_gives_none_to_what_waits_for_it() -> None:
    found = plan(record(orders=[order(1, "cycled", None), order(2, None, "2026-03-11")]), TODAY)
    by_gate = {step.gate: step for step in found.steps}
    assert by_gate["measured"].ends is not None
    assert by_gate["cycled"].starts is None
    assert by_gate["driven"].ends is None
    assert found.undated == ("thing 1",)
    assert found.now == tuple(NAMES[gate] for gate in ("baseline", "marked", "tacked", "measured"))
    assert found.next is not None
    assert found.next.unlocks == ()  # no step waits for it


def test_what_is_late_is_taken_to_come_today_and_said() -> None:
    found = plan(record(orders=[order(1, "baseline", "2026-03-02")]), TODAY)
    assert found.steps[0].starts == "2026-03-09"
    assert found.next is not None
    assert found.next.late


def test_a_failed_gate_stands_open_again() -> None:
    gates = [*passed("baseline", "marked"), {"gate": "marked", "result": "failed"}]
    assert plan(record(gates=gates), TODAY).steps[0].gate == "marked"


def test_a_builds_own_order_is_gone_through_and_what_it_leaves_out_takes_no_time() -> None:
    own = {"gates": ["torque", "marked", "final_weld"], "reason": "the axle came built"}
    found = plan(record(gate_order=own, gates=passed("torque")), TODAY)
    assert [one.gate for one in found.steps] == ["marked", "final_weld"]
    assert found.now == ("Mounts marked", "Final weld")


@pytest.mark.parametrize("bad", [
    {"gates": [], "reason": "x"}, {"gates": ["marked", "marked"], "reason": "x"}, {"gates": ["painted"], "reason": "x"},
    {"gates": ["marked"], "reason": ""}, {"gates": ["marked"]},
])  # fmt: skip
def test_an_order_that_is_none_is_refused(bad: dict[str, Any]) -> None:
    with pytest.raises(Refused):
        record(gate_order=bad)


def test_prices_add_up_and_what_has_none_is_counted() -> None:
    orders = [order(1, None, None, price=120.5), order(2, None, None, here=True, price=30.0), order(3, None, None)]
    found = plan(record(orders=orders), TODAY)
    assert (found.price, found.unpriced) == (150.5, 1)


def walked(what: dict[str, Any]) -> dict[str, tuple[str | None, str | None]]:
    """Each open gate's first and last day, by going through the days in quarters of an hour."""
    pace = what["pace"]
    week = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
    out: dict[str, tuple[str | None, str | None]] = {}
    day, quarter, lost = TODAY, 0, False
    for gate in GATES:
        if any(mark["gate"] == gate.id for mark in what["gates"]):
            continue
        waits = [one for one in what["orders"] if one["gate"] == gate.id and not one["here"]]
        lost = lost or any(one["due"] is None for one in waits)
        if lost:
            out[gate.id] = (None, None)
            continue
        for one in waits:
            if one["due"] > day.isoformat():
                day, quarter = date.fromisoformat(one["due"]), 0
        left = round(4 * pace["gates"].get(gate.id, HOURS[gate.id]))
        days = []
        while left:
            if quarter < round(4 * pace["a_day"]) and week[day.weekday()] not in pace["off"]:
                days.append(day.isoformat())
                left, quarter = left - 1, quarter + 1
            else:
                day, quarter = day + timedelta(1), 0
        out[gate.id] = (days[0], days[-1])
    return out


@pytest.mark.parametrize("seed", range(40))
def test_random_plans_are_those_of_whoever_walks_through_the_days(seed: int) -> None:
    chance = random.Random(seed)
    gates = [gate.id for gate in GATES]
    orders = [
        order(
            n, chance.choice([*gates, None]), chance.choice(
                [None, *((TODAY + timedelta(chance.randint(-5, 40))).isoformat() for _ in range(6))]
            ), chance.random() < 0.3,
        )
        for n in range(chance.randint(0, 6))
    ]  # fmt: skip
    pace = {
        "a_day": chance.choice([2.0, 4.5, 8.0, 24.0]),
        "off": chance.sample(["mon", "tue", "wed", "thu", "fri", "sat", "sun"], chance.randint(0, 5)),
        "gates": {gate: chance.randint(1, 120) / 4.0 for gate in chance.sample(gates, 5)},
    }
    what = {"pace": pace, "orders": orders, "gates": passed(*gates[: chance.randint(0, 6)])}
    found = plan(record(**what), TODAY)
    assert {step.gate: (step.starts, step.ends) for step in found.steps} == walked(what)
    held = {one["gate"] for one in orders if not one["here"]}
    left = [step for step in found.steps if step.gate not in held]
    assert set(found.now) <= {step.name for step in left}
    assert len(found.now) == next((n for n, step in enumerate(found.steps) if step.gate in held), len(found.steps))


@pytest.mark.parametrize("day", ["2026-13-01", "20260309", "tomorrow", "2026-3-9", ""])
def test_what_is_no_day_is_refused_at_its_place(day: str) -> None:
    with pytest.raises(Refused) as why:
        record(orders=[order(1, None, day)])
    assert "orders[0].due" in str(why.value)
    assert "year, month, day" in str(why.value)


@pytest.mark.parametrize("day", ["9999-12-31", "0001-01-01"])
def test_the_ends_of_the_calendar_are_days_too(day: str) -> None:
    found = plan(record(orders=[order(1, "baseline", day)], pace={"off": ["sun", "fri"]}), TODAY)
    assert found.steps[-1].ends is not None
