"""What is wrong with the axle as its links hold it, whatever is wanted: it is loose, or does not travel, or its travel
ends short of what is asked for."""

from collections.abc import Iterator
from math import isnan
from typing import Any

import numpy as np

from oak_lever.cycle import Cycle, Sweep, cycle
from oak_lever.design.parts import said
from oak_lever.figures.register import BY_ID, SweepName
from oak_lever.judge.check import STOP, Check
from oak_lever.judge.judged import LOOSE, NO_TRAVEL, SHORT, TOGETHER, Judged
from oak_lever.judge.places import NOWHERE, Place
from oak_lever.motion.freedom import free_directions, going_loose


def faults(cycled: Cycle, judged: Judged) -> Iterator[Check]:
    """Those of the first design."""
    grave = judged.grave()
    if LOOSE in grave:
        yield _loose(cycled)
    elif NO_TRAVEL in grave:
        yield _no_travel(cycled)
    else:
        yield from _short(cycled)
        if TOGETHER in grave:
            yield from _together(cycled)


def _fault(name: str, told: str, value: float | None = None, place: Place = NOWHERE, side: int = 1) -> Check:
    return Check(BY_ID[name], "", value, place, None, None, "", STOP, side, told=told)


def _loose(cycled: Cycle) -> Check:
    ways = " and ".join(free_directions(cycled.swept.mechanism))
    return _fault(LOOSE, f"Nothing holds the axle {ways}.", side=-1)


def _no_travel(cycled: Cycle) -> Check:
    way, link = going_loose(cycled.swept.mechanism, cycled.ride.state[0])
    return _fault(
        NO_TRAVEL,
        f"The links go together at ride and in no other pose: the {said(cycled.design, link)} runs out of length at "
        f"once, and past it nothing would hold the axle {way}.",
        0.0, Place(0.0, 0.0, (link,)),
    )  # fmt: skip


def _short(cycled: Cycle) -> Iterator[Check]:
    """Each sweep that ends before its range does."""
    sweeps: tuple[tuple[SweepName, Sweep], ...] = (("heave", cycled.heave), ("articulation", cycled.articulation))
    ends = ((at, name, sweep) for name, sweep in sweeps for at in cycled.stops[name])
    for fault, (at, name, sweep) in zip(SHORT, ends, strict=True):
        if at is not None:
            yield _runs_out(cycled, fault, Place(at, 0.0) if name == "heave" else Place(0.0, at), sweep)


def _together(cycled: Cycle) -> Iterator[Check]:
    """Travel and articulation are each reached alone, and not together: where it comes the least far."""
    traced, poses = cycled.swept.traced, cycled.swept.traced.poses
    least: tuple[float, Place] | None = None
    for pose in cycled.swept.places.map.ravel():
        if not traced.reached[0, pose] and not isnan(traced.ended[0, pose]):
            start = poses.articulation_deg[poses.parent[pose]]
            at = float(start + traced.ended[0, pose] * (poses.articulation_deg[pose] - start))
            if least is None or abs(at) < least[0]:
                least = abs(at), Place(float(poses.travel_mm[pose]), at)
    if least is not None:
        yield _runs_out(cycled, TOGETHER, least[1])


_HAIR = 1e-6
"""How much short of the end of the travel the last pose is taken, of the way there: past it there is none."""


def _runs_out(cycled: Cycle, name: str, place: Place, sweep: Sweep | None = None) -> Check:
    """The stop where a travel ends at `place`: which link, and what would go free."""
    travel, articulation = place.travel or 0.0, place.articulation or 0.0
    way, link = going_loose(cycled.swept.mechanism, _last_pose(cycled, travel, articulation, sweep))
    return _fault(
        name,
        f"The {said(cycled.design, link)} runs out of length or goes over center there, and past it nothing would hold "
        f"the axle {way}.",
        travel if BY_ID[name].unit == "mm" else articulation, Place(travel, articulation, (link,)),
    )  # fmt: skip


def _last_pose(cycled: Cycle, travel: float, articulation: float, sweep: Sweep | None) -> Any:
    """The axle's pose a hair short of the end of its travel; or the sweep's last one, should that not be reached."""
    short = 1.0 - _HAIR
    straight = articulation == 0.0
    here = cycle(cycled.design, 2, (travel * short if straight else travel, articulation * short)).here
    if here is not None and here.reached[0]:
        return here.state[0]
    reached = np.flatnonzero(sweep.reached).tolist() if sweep is not None else []
    last = 0 if travel + articulation < 0 else -1
    return sweep.state[reached[last]] if sweep is not None and len(reached) else cycled.ride.state[0]
