"""What ends the travel, way by way: the rungs in the order in which the axle comes to them."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oak_lever.clearance.travel import straight
from oak_lever.design.axle import Travel
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.design.types import Design
from oak_lever.figures.driveline import driveline
from oak_lever.figures.joints import joint_names, turned_in
from oak_lever.figures.struts import Event, Travelled
from oak_lever.motion.mechanism import Floats, Ints, mechanism_of
from oak_lever.motion.trace import Plan, Traced, trace

BEYOND_MM = 75.0
BEYOND_DEG = 5.0
"""How far beyond what is asked for it is looked."""
_STEP_MM = 10.0
_STEP_DEG = 0.5

What = Literal[Event, "joint", "links", "slip_out", "slip_in", "case_joint", "pinion_joint", "meets"]
HARD: tuple[What, ...] = (
    "shut", "open", "coils", "joint", "links", "slip_out", "slip_in", "case_joint", "pinion_joint", "meets",
)  # fmt: skip
"""What must not end the travel."""
SOFT: tuple[What, ...] = ("solid", "end")
"""What may: a stop that is solid, a strap at its end."""


@dataclass(frozen=True)
class Rung:
    """What happens `at` (mm of travel or degrees of articulation from ride) on a way, and to which parts."""

    at: float
    what: What
    part: str
    other: str = ""


@dataclass(frozen=True)
class Rungs:
    """One way from ride: how far is asked for, how far was looked, and what comes in turn."""

    way: Literal["bump", "droop", "left wheel up", "right wheel up"]
    unit: Literal["mm", "deg"]
    asked: float
    looked: float
    rungs: tuple[Rung, ...]

    def first(self, *which: What) -> Rung | None:
        """The first of these."""
        return next((rung for rung in self.rungs if rung.what in which), None)


def ladder(design: Design) -> tuple[Rungs, ...]:
    """Straight up and down, with what is met where keep-outs are known, and twisted either way at ride. None of an axle
    that nothing holds."""
    return (*straight_ladder(design, met=True), *_twisted(design))


def straight_ladder(design: Design, met: bool = False) -> tuple[Rungs, ...]:
    """Straight up and down; `met`: with what is met, which takes longer. None of an axle that nothing holds."""
    mechanism = mechanism_of(design)
    if not trace(mechanism, Plan().poses()).reached[0, 0]:
        return ()
    asked = design.travel
    far = Travel(
        bump=asked.bump + BEYOND_MM,
        droop=asked.droop + BEYOND_MM,
        articulation=min(asked.articulation + BEYOND_DEG, 89.0),
    )
    farther = design.rewritten(travel=far)
    meets = _met(design) if met and design.room and design.room.keep_outs else {}
    straight = Travelled(farther, mechanism) if design.corners else None
    ways: tuple[tuple[Literal["bump", "droop"], float, float, float], ...] = (
        ("bump", 1.0, asked.bump, far.bump), ("droop", -1.0, asked.droop, far.droop),
    )  # fmt: skip
    found = []
    looks = [sign * np.arange(0.0, looked + _STEP_MM, _STEP_MM) for _, sign, _, looked in ways]
    for (way, sign, want, looked), own in zip(ways, _rungs(farther, looks, twisted=False), strict=True):
        rungs = [*own, *_struts(straight, sign), *meets.get(way, ())]
        found.append(Rungs(way, "mm", want, looked, _sorted(rungs, looked)))
    return tuple(found)


def _twisted(design: Design) -> Iterator[Rungs]:
    mechanism, asked = mechanism_of(design), design.travel.articulation
    if not trace(mechanism, Plan().poses()).reached[0, 0]:
        return
    far = min(asked + BEYOND_DEG, 89.0)
    farther = design.rewritten(travel=design.travel.rewritten(articulation=far))
    twist = Travelled(farther, mechanism, twist_at=0.0) if design.corners else None
    steps = np.arange(0.0, far + _STEP_DEG, _STEP_DEG)
    ways: tuple[tuple[Literal["left wheel up", "right wheel up"], float], ...] = (
        ("left wheel up", 1.0), ("right wheel up", -1.0),
    )  # fmt: skip
    for (way, sign), own in zip(ways, _rungs(farther, [sign * steps for _, sign in ways], twisted=True), strict=True):
        rungs = [*own, *_struts(twist, sign)]
        yield Rungs(way, "deg", asked, far, _sorted(rungs, far))


def _sorted(rungs: list[Rung], looked: float) -> tuple[Rung, ...]:
    return tuple(sorted((rung for rung in rungs if rung.at <= looked), key=lambda rung: rung.at))


def _struts(travelled: Travelled | None, sign: float) -> Iterator[Rung]:
    for strut, event, at in travelled.events(sign) if travelled else ():
        yield Rung(at, event, strut.id)


def _met(design: Design) -> dict[str, list[Rung]]:
    return {
        end.way: [Rung(one.at, "meets", one.a, one.b) for one in end.limits if one.why == "meets"]
        for end in straight(design)
    }


def _rungs(design: Design, ways: Sequence[Floats], twisted: bool) -> list[list[Rung]]:
    """Of each way, the travels or articulations from ride on: where the links run out, a joint or the shaft comes to
    its end, in proportion between two steps."""
    plan, mechanism = Plan(), mechanism_of(design)
    every = [plan.twist(along) if twisted else plan.heave(along) for along in ways]
    traced = trace(mechanism, plan.poses())
    turned = turned_in(mechanism, traced)[:, 0]
    run = driveline(design, traced.state[0]) if design.driveshaft else {}
    found = []
    for along, places in zip(ways, every, strict=True):
        reached = traced.reached[0, places]
        own, amount = places[reached], np.abs(along)[reached]
        here = {name: values[own] for name, values in run.items()}
        rungs = [] if reached.all() else [_run_out(traced, np.abs(along), places)]
        found.append([*rungs, *_joints(design, amount, turned[:, own]), *_shaft(design, amount, here)])
    return found


def _run_out(traced: Traced, amount: Floats, places: Ints) -> Rung:
    n = int(np.argmin(traced.reached[0, places]))
    before = amount[n - 1] if n else 0.0
    return Rung(float(before + np.nan_to_num(traced.ended[0, places[n]]) * (amount[n] - before)), "links", "")


def _joints(design: Design, amount: Floats, turned: Floats) -> Iterator[Rung]:
    mechanism = mechanism_of(design)
    for name, values in zip(joint_names(mechanism), turned, strict=True):
        at = _crossed(amount, values - joint_kind(design, mechanism.joint_entries[name]).limit)
        if at is not None:
            yield Rung(at, "joint", name)


def _shaft(design: Design, amount: Floats, run: Mapping[str, Floats]) -> Iterator[Rung]:
    shaft = design.driveshaft
    if shaft is None:
        return
    ends: tuple[tuple[What, Floats], ...] = (
        ("slip_out", run["shaft_slip"] - shaft.slip.out),
        ("slip_in", -run["shaft_slip"] - shaft.slip.in_),
        ("case_joint", run["case_joint"] - shaft.joint_limit.case),
        ("pinion_joint", run["pinion_joint"] - shaft.joint_limit.pinion),
    )
    for what, past in ends:
        at = _crossed(amount, past)
        if at is not None:
            yield Rung(at, what, "shaft")


def _crossed(amount: Floats, past: Floats) -> float | None:
    """Where `past` first rises over 0."""
    over = np.flatnonzero(past > 0.0)
    if not len(over):
        return None
    n = int(over[0])
    if n == 0:
        return 0.0
    part = -past[n - 1] / (past[n] - past[n - 1])
    return float(amount[n - 1] + part * (amount[n] - amount[n - 1]))
