"""Where a given shock goes: places of its lower eye and its tower hole at which its stroke, the travel that is asked
for and what must be left at both ends agree."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.design.faults import Refused
from oak_lever.design.links import Link
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.running_gear import Shock
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.struts import Eyes
from oak_lever.judge.parts import within
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.buildable import can_stand
from oak_lever.move.coordinates import AXES, Shift, placed, twin_of
from oak_lever.move.near import meets_anew, spared
from oak_lever.move.offers import Cure
from oak_lever.move.price import priced
from oak_lever.move.remedies import Remedy
from oak_lever.units import Units, length

BUMP_MM, DROOP_MM = 12.0, 6.0
"""What is left of the stroke at either end."""
_FRACTIONS = (0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.92)
_AROUND_MM = (-100.0, 0.0, 100.0)
_LEANS_SIDE = (-20.0, -10.0, 0.0, 10.0, 20.0)
_LEANS_IN = (0.0, 10.0, 20.0, 30.0)
_MOST = 6
_LEAST_USE = 0.55
"""A place that asks for less of the stroke than this wastes the shock."""


@dataclass(frozen=True)
class _Place:
    """A lower eye and a frame eye at ride; how much of the stroke is used, and what is left of it over what must be
    (below 0: short); how far the upper eye leans."""

    where: str
    lower: Floats
    upper: Floats
    used: float
    spare: float
    leans: tuple[float, float]


def shock_places(design: Design, name: str, increment_mm: float, units: Units) -> list[Cure]:
    """Places for a shock as it is, the soundest first: its lower eye along its arm, or about where it stands on the
    axle; its upper eye in the line that leaves enough of the stroke at both ends, anywhere that stops and straps allow.
    Each with what it costs; a pair together. Empty where its stroke is too short for the travel wherever it stands.

    Raises: ValueError: for a name that no shock has."""
    shocks = design.corners.shocks if design.corners else ()
    shock = next((one for one in shocks if one.id == name), None)
    if shock is None:
        raise ValueError(f"no shock is called {name}")
    before = verdicts_on(design)
    if not before.cycled.located:
        return []
    found = sorted(_places(before.cycled, shock, increment_mm), key=_cost)
    cures: list[Cure] = []
    seen: set[str] = set()
    for place in found:
        if len(cures) == _MOST:
            break
        if place.where in seen:
            continue
        for cure in spared(design, _offer(before, shock, place, increment_mm, units), units, 1):
            seen.add(place.where)
            cures.append(cure)
    return cures


def _cost(place: _Place) -> float:
    return 0.01 * (abs(place.leans[0]) + abs(place.leans[1])) + (1.0 - place.used)


def _places(cycled: Cycle, shock: Shock, slack: float) -> Iterator[_Place]:
    """Every place that is long enough in stroke: all leans at each lower eye, the length at ride such that just
    enough is left in droop, the rest in bump; `slack` more at either end, for what marking out in increments takes."""
    swept = cycled.swept
    eyes = Eyes(swept.mechanism, swept.traced)
    stroke = shock.extended - shock.compressed
    out = 1.0 if shock.axle.at[1] >= 0.0 else -1.0
    for where, lower in _lowers(cycled.design, shock):
        path = within(cycled, eyes.on(shock.axle.on, tuple(lower)).at)
        for side in _LEANS_SIDE:
            for inward in _LEANS_IN:
                way = np.array([np.tan(np.radians(side)), -out * np.tan(np.radians(inward)), 1.0])
                way /= np.linalg.norm(way)
                long = shock.compressed + 0.6 * stroke
                for _ in range(4):  # the upper eye along its line, until just enough is left in droop
                    lengths = np.linalg.norm(path - (lower + long * way), axis=-1)
                    long += shock.extended - DROOP_MM - slack - float(lengths.max())
                used = float(np.ptp(lengths))
                spare = stroke - used - BUMP_MM - DROOP_MM - 2.0 * slack
                if spare >= 0.0 and used >= _LEAST_USE * stroke and long > 0.0:
                    yield _Place(where, lower, lower + long * way, used / stroke, spare, (side, inward))


def _lowers(design: Design, shock: Shock) -> Iterator[tuple[str, Floats]]:
    """Along its arm, as far off the line of its joints as it stands; or about where it stands on the axle."""
    at = np.array(shock.axle.at)
    link = next((one for one in design.links if isinstance(one, Link) and one.id == shock.axle.on), None)
    if link is None:
        for x in _AROUND_MM:
            for y in _AROUND_MM:
                moved = at + np.array([x, y, 0.0])
                if moved[1] * at[1] > 0.0:
                    yield f"{x:.0f} {y:.0f}", moved
        return
    frame, axle = np.array(link.frame.at), np.array(link.axle.at)
    part = float((at - frame) @ (axle - frame) / ((axle - frame) @ (axle - frame)))
    off = at - frame - part * (axle - frame)
    for fraction in _FRACTIONS:
        yield f"{fraction:g}", frame + fraction * (axle - frame) + off


def _offer(
    before: Verdicts, shock: Shock, place: _Place, step: float, units: Units
) -> Iterator[Cure]:  # fmt: skip
    design = before.design
    parts = parts_of(design)
    spots = [parts.spot(f"{shock.id}.axle"), parts.spot(f"{shock.id}.frame")]
    others = [twin_of(spot, [one for one in parts.spots if not one.holds]) for spot in spots]
    at: dict[str, Point] = {}
    shifts: list[Shift] = []
    for spot, other, to in zip(spots, others, (place.lower, place.upper), strict=True):
        moved = np.array(spot.at) + np.round((to - np.array(spot.at)) / step) * step
        at[spot.name] = (float(moved[0]), float(moved[1]), float(moved[2]))
        if other is not None:
            at[other.name] = (float(moved[0]), -float(moved[1]), float(moved[2]))
        names = (spot.name, *([other.name] if other else []))
        by = moved - np.array(spot.at)
        shifts += [Shift(axis, names, float(v)) for axis, v in zip(AXES, by, strict=True) if v]
    if not shifts or not can_stand(design, [parts.spot(name) for name in at], np.array([list(at.values())]))[0]:
        return
    try:
        changed = placed(design, at)
    except Refused:
        return
    if meets_anew(design, changed):
        return
    words = _words(design, shock, place, spots, at, units)
    spare = length(place.spare, units)
    price = f"{100.0 * place.used:.0f} % of the stroke is used; {spare} more than needed is left in bump."
    yield from priced(before, Remedy(words, price, changed, tuple(shifts)))


def _words(
    design: Design, shock: Shock, place: _Place, spots: list[Spot], at: dict[str, Point], units: Units
) -> str:  # fmt: skip
    lower, upper = (at[spot.name] for spot in spots)
    said = [
        f"{length(abs(x), units)} {'ahead' if x >= 0 else 'behind'}, {length(abs(y), units)} out, "
        f"{length(z, units)} high"
        for x, y, z in (lower, upper)
    ]
    on = f"at {100.0 * float(place.where):.0f} % of its arm" if " " not in place.where else "on the axle"
    return f"lower eye {on}, {said[0]}; tower hole {said[1]}"
