"""What can be done at the truck now, what waits for which delivery, and a plan by days."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import takewhile

from oak_lever.design.fit import FitRecord, Gate, Order, Pace
from oak_lever.fit_up.gates import gates_of, mark_of

HOURS: dict[Gate, float] = {
    "baseline": 4.0, "marked": 4.0, "tacked": 8.0, "measured": 2.0, "cycled": 4.0, "on_its_weight": 3.0,
    "clearances": 2.0, "final_weld": 8.0, "torque": 2.0, "driven": 3.0,
}  # fmt: skip
"""How long a gate takes where a shop has not said it: a guess."""
_WEEK = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


@dataclass(frozen=True)
class Step:
    """A gate that is still open: the hours it takes (guessed where the shop has not said them), what it waits for, and
    its first and last day (YYYY-MM-DD); `dated` False: something before it is not here and has no day it is due."""

    gate: Gate
    name: str
    hours: float
    guessed: bool
    waits_for: tuple[str, ...]
    starts: str | None
    ends: str | None


@dataclass(frozen=True)
class Delivery:
    """The next thing that is due, whether its day is past, and which gates it lets go on."""

    what: tuple[str, ...]
    due: str
    late: bool
    unlocks: tuple[str, ...]


@dataclass(frozen=True)
class Plan:
    """Open gates in the order of the work; those that nothing is waited for, from the first; the next delivery; what is
    waited for and has no day; what is paid for all, and for how many orders no price is known."""

    steps: tuple[Step, ...]
    now: tuple[str, ...]
    next: Delivery | None
    undated: tuple[str, ...]
    price: float
    unpriced: int


def plan(record: FitRecord, today: date) -> Plan:
    """The work that is left, gate after gate, each once what it waits for is here: a delivery that is late is taken to
    come today. Days off are left out."""
    waited = [one for one in record.orders if not one.here]
    steps = tuple(_steps(record, waited, today))
    undated = tuple(one.what for one in waited if one.due is None)
    prices = [one.price for one in record.orders if one.price is not None]
    unpriced = len(record.orders) - len(prices)
    return Plan(steps, _free(steps, waited), _next(steps, waited, today), undated, sum(prices), unpriced)


def _steps(record: FitRecord, waited: list[Order], today: date) -> Iterator[Step]:
    clock: _Clock | None = _Clock(record.pace, today)
    for gate in gates_of(record):
        mark = mark_of(record, gate.id)
        if mark is not None and mark.result != "failed":
            continue
        waits = [one for one in waited if one.gate == gate.id]
        hours = record.pace.gates.get(gate.id)
        takes = HOURS[gate.id] if hours is None else hours
        if any(one.due is None for one in waits):
            clock = None
        starts = ends = None
        if clock is not None:
            clock.wait_until(max((date.fromisoformat(one.due) for one in waits if one.due), default=today))
            starts, ends = clock.work(takes)
        yield Step(gate.id, gate.name, takes, hours is None, tuple(one.what for one in waits), starts, ends)


class _Clock:
    """Where the work stands: the day, and how many of its hours are left."""

    def __init__(self, pace: Pace, today: date) -> None:
        self._pace, self._day, self._left = pace, today, pace.a_day
        self._to_work()

    def _to_work(self) -> None:
        """On to a day that is worked."""
        try:
            while _WEEK[self._day.weekday()] in self._pace.off:
                self._day += timedelta(1)
                self._left = self._pace.a_day
        except OverflowError:
            self._day = date.max

    def _next_day(self) -> None:
        self._day = min(self._day, date.max - timedelta(8)) + timedelta(1)
        self._left = self._pace.a_day
        self._to_work()

    def wait_until(self, day: date) -> None:
        if day > self._day:
            self._day, self._left = day, self._pace.a_day
            self._to_work()

    def work(self, hours: float) -> tuple[str, str]:
        """The first and the last day of so many hours."""
        if self._left <= 0.0:
            self._next_day()
        starts = self._day
        while hours > self._left:
            hours -= self._left
            self._next_day()
        self._left -= hours
        return starts.isoformat(), self._day.isoformat()


def _free(steps: tuple[Step, ...], waited: list[Order]) -> tuple[str, ...]:
    """Gates from the first on, up to one that something is waited for."""
    held = {one.gate for one in waited}
    return tuple(step.name for step in takewhile(lambda step: step.gate not in held, steps))


def _next(steps: tuple[Step, ...], waited: list[Order], today: date) -> Delivery | None:
    due = sorted({one.due for one in waited if one.due})
    if not due:
        return None
    come = tuple(one.what for one in waited if one.due == due[0])
    then = _free(steps, [one for one in waited if one.due != due[0]])
    return Delivery(come, due[0], due[0] < today.isoformat(), then[len(_free(steps, waited)) :])
