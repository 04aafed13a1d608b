"""The same axle by each school, side by side: equal parallel links, a short upper, converging on a point, the
panhard bar level at ride or at mid travel. Each as a design of its own, its curves beside this one's."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.cycle import Cycle, cycle
from oak_lever.design.faults import Refused
from oak_lever.design.links import Link, Panhard
from oak_lever.design.reader import design_data
from oak_lever.design.types import Design
from oak_lever.move.converge import NoCrossing, holes
from oak_lever.move.coordinates import placed
from oak_lever.units import Units, length

SHORT = 0.75
_SEEN = {"turn": 0.1, "drift": 0.5}
Curves = dict[str, list[float | None]]


@dataclass(frozen=True)
class Variant:
    """A school's version: what it is called, how it was made from this design, its curves over the straight travel
    (turn of the housing, anti-squat or anti-dive, fore-aft and sideways), what they come to in words, and the
    design."""

    id: str
    name: str
    made: str
    says: str
    curves: Curves
    document: dict[str, Any]


def variants(design: Design, units: Units = "mm") -> list[Variant]:
    """This design first, then each school's version of it that there is; those that hold no axle or can't be made
    are left out."""
    own = cycle(design)
    if not own.located:
        return []
    found = [Variant("own", "As it is", "", "", _curves(own), design_data(design))]
    for key, name, made, changed in _made(design, units):
        cycled = cycle(changed)
        if cycled.located:
            found.append(
                Variant(key, name, made, _says(own, cycled, key, units), _curves(cycled), design_data(changed))
            )
    return found


def _curves(cycled: Cycle) -> Curves:
    rear = cycled.design.axle.end == "rear"
    names = {
        "travel": "travel", "turn": "pinion_change" if rear else "caster_change",
        "anti": "anti_squat" if rear else "anti_dive", "fore_aft": "axle_x", "sideways": "axle_y",
    }  # fmt: skip
    columns = cycled.heave.columns
    return {key: [None if np.isnan(v) else float(v) for v in columns[name]] for key, name in names.items()}


def _says(own: Cycle, other: Cycle, key: str, units: Units) -> str:
    """What differs over the whole travel, by the two curves, and nothing else."""
    rear = own.design.axle.end == "rear"
    turn = "pinion_change" if rear else "caster_change"
    if key.startswith("bar"):
        was, now = (_range(one, "axle_y") for one in (own, other))
        if was is None or now is None:
            return ""
        moves, moved = length(now, units), length(was, units)
        here = f"Moves the axle {moves} sideways over the whole travel, where this one moves it {moved}"
        return f"{here}: {_word(now - was, _SEEN['drift'], 'less', 'more')}."
    was, now = (_range(one, turn) for one in (own, other))
    if was is None or now is None:
        return ""
    what = "pinion" if rear else "caster"
    here = f"Turns the {what} {now:.1f} degrees over the whole travel, where this one turns it {was:.1f}"
    return f"{here}: {_word(now - was, _SEEN['turn'], 'less', 'more')}."


def _word(by: float, seen: float, less: str, more: str) -> str:
    return "the same to any gauge" if abs(by) < seen else less if by < 0 else more


def _range(cycled: Cycle, column: str) -> float | None:
    values = cycled.heave.columns[column]
    known = values[~np.isnan(values)]
    return float(np.ptp(known)) if len(known) else None


def _made(design: Design, units: Units) -> Iterator[tuple[str, str, str, Design]]:
    lowers, uppers = ([link for link in design.links if isinstance(link, Link) and link.kind == kind]
                      for kind in ("lower", "upper"))  # fmt: skip
    if lowers and uppers:
        yield from _parallel(design, lowers, uppers)
        yield from _short(design, lowers, uppers)
        yield from _converging(design, units)
    if isinstance(design.lateral, Panhard):
        yield from _bars(design, design.lateral)


def _parallel(design: Design, lowers: list[Link], uppers: list[Link]) -> Iterator[tuple[str, str, str, Design]]:
    """Each upper's frame end put where the upper, seen from the side, is as long and slopes as the lowers do in the
    mean; sideways it stays."""
    run, rise = (float(np.mean([low.frame.at[n] - low.axle.at[n] for low in lowers])) for n in (0, 2))
    at = {
        f"{up.id}.frame": (up.axle.at[0] + run, up.frame.at[1], up.axle.at[2] + rise) for up in uppers
    }  # fmt: skip
    for changed in _placed(design, at):
        yield (
            "parallel",
            "Equal, parallel links",
            "The uppers' frame ends moved until they run as the lowers do.",
            changed,
        )


def _short(design: Design, lowers: list[Link], uppers: list[Link]) -> Iterator[tuple[str, str, str, Design]]:
    """On their own lines, three quarters as long as the lowers."""
    goal = SHORT * float(np.mean([np.linalg.norm(np.subtract(low.frame.at, low.axle.at)) for low in lowers]))
    at = {}
    for up in uppers:
        span = np.subtract(up.frame.at, up.axle.at)
        x, y, z = (float(v) for v in np.array(up.axle.at) + span * goal / float(np.linalg.norm(span)))
        at[f"{up.id}.frame"] = (x, y, z)
    for changed in _placed(design, at):
        yield "short", "Short upper", "The uppers cut to three quarters of the lowers, on their own lines.", changed


def _converging(design: Design, units: Units) -> Iterator[tuple[str, str, str, Design]]:
    """Both kinds drawn to one point under the far axle, at the height of the lower frame holes' lines there."""
    ahead = 1.0 if design.axle.end == "rear" else -1.0
    point = (ahead * 0.9 * design.vehicle.wheelbase, 0.55 * design.axle.tire_radius_loaded)
    at: dict[str, tuple[float, float, float]] = {}
    for kind in ("lower", "upper"):
        stations = [link.frame.at[0] for link in design.links if isinstance(link, Link) and link.kind == kind]
        try:
            found = holes(design, kind, point, float(np.mean(stations)))
        except NoCrossing:
            return
        at |= {f"{hole.link}.frame": hole.at for hole in found}
    where = (
        f"{length(abs(point[0]), units)} {'ahead' if ahead > 0 else 'back'}, {length(point[1], units)} off the ground"
    )
    for changed in _placed(design, at):
        yield "point", "Converging on a point", f"All frame holes on lines to a point {where}.", changed


def _bars(design: Design, bar: Panhard) -> Iterator[tuple[str, str, str, Design]]:
    """The frame end let down or raised: level at ride; level at mid travel."""
    middle = (design.travel.bump - design.travel.droop) / 2.0
    x, y, _ = bar.frame.at
    for key, name, made, rise in (
        ("bar_ride", "Panhard bar level at ride", "Its frame end at its axle end's height at ride.", 0.0),
        (
            "bar_middle",
            "Panhard bar level at mid travel",
            "Its frame end at its axle end's height at mid travel.",
            middle,
        ),
    ):
        for changed in _placed(design, {"panhard.frame": (x, y, bar.axle.at[2] + rise)}):
            yield key, name, made, changed


def _placed(design: Design, at: dict[str, tuple[float, float, float]]) -> Iterator[Design]:
    try:
        yield placed(design, at)
    except Refused:
        return
