"""The travel budget: how far the axle may go each way before something touches, and what that is."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oak_lever.clearance.clearances import Gap, Wanted, near_along, two_of
from oak_lever.design.types import Design, Use
from oak_lever.figures.struts import Travelled
from oak_lever.motion.mechanism import Floats, Ints, mechanism_of
from oak_lever.motion.trace import Plan, trace

BEYOND_MM = 100.0
BEYOND_DEG = 6.0
"""How far beyond what is asked for the budget looks."""
_COARSE = 24
_FINE = 10

UP_SHARES: dict[Use, tuple[float, float, str]] = {
    "crawling": (0.30, 0.50, "Droop keeps a wheel on the ground where the other climbs."),
    "trail": (0.35, 0.55, "Both are asked for: up over what is met fast, down into what is crossed slowly."),
    "street": (0.40, 0.60, "Loads and bumps take the way up, rebound the way down."),
    "strip": (0.35, 0.60, "It squats and comes back about ride; neither end is to be reached."),
    "desert": (0.40, 0.60, "Landings take the way up; droop lets the wheel follow the ground between them."),
}
"""How much of the whole travel is up, by use, and why: house values, which a truck may differ from."""

Way = Literal["bump", "droop"]
Why = Literal["meets", "near", "links", "corner"]


@dataclass(frozen=True)
class Limit:
    """What ends a way, or comes too near on it, and where: travel mm, or articulation degrees. `a`, `b`: the two parts
    that meet (`meets`) or come nearer than is wanted (`near`); the link that runs out (`links`), or the shock, stop or
    strap (`corner`) alone in `a`."""

    why: Why
    at: float
    a: str = ""
    b: str = ""


@dataclass(frozen=True)
class End:
    """One way: how far is asked for, what comes first and next on it, and how much farther than asked the first of
    what ends it lies (below 0: short of it; None: nothing found as far as was looked, `looked`)."""

    way: str
    unit: Literal["mm", "deg"]
    asked: float
    looked: float
    limits: tuple[Limit, ...]
    margin: float | None


@dataclass(frozen=True)
class Budget:
    """`up_share`: bump in bump and droop together; None without either."""

    ends: tuple[End, ...]
    up_share: float | None


def budget(design: Design) -> Budget:
    """Straight up and down from ride; and the twist either way at full bump and full droop. Of an axle that nothing
    holds, no way."""
    reach = design.travel
    if not trace(mechanism_of(design), Plan().poses()).reached[0, 0]:
        return Budget((), None)
    ends = list(straight(design))
    for way, at in (("bump", reach.bump), ("droop", -reach.droop)):
        for side, sign in (("left", 1.0), ("right", -1.0)):
            ends.append(_twisted(design, f"{way}, {side} wheel up", at, sign))
    both = reach.bump + reach.droop
    return Budget(tuple(ends), reach.bump / both if both > 0.0 else None)


def straight(design: Design) -> tuple[End, End]:
    """Straight up and straight down from ride alone; of an axle that something holds."""
    return _straight(design, "bump", design.travel.bump), _straight(design, "droop", design.travel.droop)


def _straight(design: Design, way: Way, asked: float) -> End:
    sign = 1.0 if way == "bump" else -1.0
    far = asked + BEYOND_MM

    def places(amounts: Floats) -> tuple[Plan, Ints]:
        plan = Plan()
        return plan, plan.heave(sign * amounts)

    found = _parts(design, far, places)
    farther = design.rewritten(travel=design.travel.rewritten(**{way: far}))
    corner = Travelled(farther, mechanism_of(farther)).limits()[way] if design.corners else None
    if corner is not None:
        found.append(Limit("corner", abs(corner["travel"]), corner["by"]))
    return _end(way, "mm", asked, far, found)


def _twisted(design: Design, way: str, at: float, sign: float) -> End:
    asked = design.travel.articulation
    far = min(asked + BEYOND_DEG, 89.0)

    def places(amounts: Floats) -> tuple[Plan, Ints]:
        plan = Plan()
        return plan, plan.twist(sign * amounts, plan.pose(at, 0.0))

    return _end(way, "deg", asked, far, _parts(design, far, places))


def _end(way: str, unit: Literal["mm", "deg"], asked: float, far: float, found: list[Limit]) -> End:
    meets = {(one.a, one.b): one.at for one in found if one.why == "meets"}
    # what meets at once is not said to be too near as well
    found = [one for one in found if one.why != "near" or one.at < meets.get((one.a, one.b), np.inf)]
    found.sort(key=lambda one: one.at)
    ending = [one.at for one in found if one.why != "near"]
    return End(way, unit, asked, far, tuple(found), ending[0] - asked if ending else None)


def meets_from(design: Design, a: str, b: str) -> dict[Way, float]:
    """Where straight up and straight down from ride two parts first meet, mm, within the travel that is asked for."""
    found: dict[Way, float] = {}
    reach = design.travel
    ways: tuple[tuple[Way, float, float], ...] = (("bump", 1.0, reach.bump), ("droop", -1.0, reach.droop))
    for way, sign, asked in ways:

        def places(amounts: Floats, sign: float = sign) -> tuple[Plan, Ints]:
            plan = Plan()
            return plan, plan.heave(sign * amounts)

        for one in _parts(design, asked, places, two_of(a, b)):
            if one.why == "meets":
                found[way] = one.at
    return found


Places = Callable[[Floats], tuple[Plan, Ints]]


def _parts(design: Design, far: float, places: Places, only: Wanted | None = None) -> list[Limit]:
    """Where the links run out on the way, and of every pair that is asked for and meets or comes too near, where it
    first does."""
    coarse = np.linspace(0.0, far, _COARSE + 1)
    plan, at = places(coarse)
    first: dict[_Key, int] = {}
    for n, gaps in enumerate(near_along(design, plan.poses(), at, only)):
        for key in _said(gaps):
            first.setdefault(key, n)
    soonest = sorted(first.items(), key=lambda one: one[1])
    told = [one for m, one in enumerate(soonest) if m < _MOST or one[0][0] == "links"]
    return [_refined(design, key, coarse, n, places) for key, n in told]


_MOST = 6
"""So many of what comes first are told."""
_Key = tuple[Why, str, str]


def _said(gaps: list[Gap] | None) -> Iterator[_Key]:
    """What is wrong in a pose; that it is not reached is the links' doing."""
    if gaps is None:
        yield "links", "", ""
    for gap in gaps or []:
        yield "near", gap.a, gap.b
        if gap.gap <= 0.0:
            yield "meets", gap.a, gap.b


def _refined(design: Design, key: _Key, coarse: Floats, n: int, places: Places) -> Limit:
    """Between the last step where it was not so and the first where it is."""
    why, a, b = key
    if n == 0:
        return Limit(why, 0.0, a, b)
    fine = np.linspace(coarse[n - 1], coarse[n], _FINE + 1)[1:]
    plan, at = places(fine)
    there = near_along(design, plan.poses(), at, two_of(a, b))
    found = (amount for amount, gaps in zip(fine, there, strict=True) if key in _said(gaps))
    return Limit(why, float(next(found, coarse[n])), a, b)
