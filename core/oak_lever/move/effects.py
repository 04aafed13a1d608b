"""What each move does to a judged figure, by one shop increment; and the moves that cure a finding."""

from dataclasses import dataclass
from math import ceil

import numpy as np

from oak_lever.cycle import cycle
from oak_lever.design.reader import DesignRefused
from oak_lever.design.types import Design, Point
from oak_lever.judge.findings import Bands, Finding, compared, findings
from oak_lever.judge.measures import measures
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Coordinate, coordinates, moved

FARTHEST_MM = 200.0
"""No cure moves a mount farther: by then it is another design."""

_ROWS = 11
_TRIES = 4


@dataclass(frozen=True)
class Effect:
    """Moving these mounts together by one increment along an axis (+ for the first; its mirror image goes the other way
    in y) changes the figure by `change`."""

    axis: str
    mounts: tuple[str, ...]
    change: float


def effects(design: Design, figure: str, increment: float) -> list[Effect]:
    """What moves a judged figure: the change by one increment (mm) of each free coordinate, the strongest first.

    Half the difference between one increment either way, of the exact figure. Empty where the figure does not exist.
    """
    found = []
    for coordinate in coordinates(design):
        more, less = (_value(design, figure, coordinate, by) for by in (increment, -increment))
        if more is not None and less is not None:
            found.append(Effect(coordinate.axis, coordinate.mounts, (more - less) / 2))
    return sorted(found, key=lambda effect: -abs(effect.change))


def _value(design: Design, figure: str, coordinate: Coordinate, by: float) -> float | None:
    try:
        measure = measures(cycle(moved(design, coordinate.directions * by)[0], _ROWS)).get(figure)
    except DesignRefused:
        return None
    return measure.value if measure is not None and np.isfinite(measure.value) else None


@dataclass(frozen=True)
class Cure:
    """A move that brings a figure into its band: what to move, by how much (mm, whole increments), where the mounts are
    then, the judged figures after it, and the findings that it makes less grave (`cures`) and graver (`worse`)."""

    axis: str
    mounts: tuple[str, ...]
    by: float
    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]


def cures(design: Design, finding: str, increment: float, bands: Bands | None = None, most: int = 4) -> list[Cure]:
    """Single moves that cure a finding on a figure, those that cost least first: nothing made worse, then the shortest.

    Each is worked out on the exact figure, to whole increments, within `FARTHEST_MM`, locks respected.
    """
    before = {f.id: f for f in findings(cycle(design), bands)}
    ill = before.get(finding)
    if ill is None or ill.severity == "good" or ill.value is None or ill.verdict not in ("low", "high"):
        return []
    found = []
    for effect in effects(design, ill.figure, increment)[: most * 3]:
        coordinate = next(c for c in coordinates(design) if (c.axis, c.mounts) == (effect.axis, effect.mounts))
        cure = _cure(design, coordinate, effect, ill, increment, bands, before)
        if cure is not None:
            found.append(cure)
    return sorted(found, key=lambda cure: (len(cure.worse), abs(cure.by) - 50.0 * len(cure.cures)))[:most]


def _cure(
    design: Design, coordinate: Coordinate, effect: Effect, ill: Finding, increment: float, bands: Bands | None,
    before: dict[str, Finding],
) -> Cure | None:  # fmt: skip
    assert ill.value is not None
    goal = ill.low if ill.verdict == "low" else ill.high
    if goal is None or abs(effect.change) < 1e-9:
        return None
    steps = _whole((goal - ill.value) / effect.change)
    for _ in range(_TRIES):
        tried = _try(design, coordinate.directions * (steps * increment), bands) if steps else None
        if tried is None or abs(steps * increment) > FARTHEST_MM:
            return None
        now = tried[1].get(ill.id)
        if now is None or now.severity == "good":
            return _shortened(design, coordinate, steps, increment, bands, ill.id, before, tried)
        band = now.low if ill.verdict == "low" else now.high
        if now.value is None or band is None:
            return None
        slope = (now.value - ill.value) / steps
        if abs(slope) < 1e-9 or (band - ill.value) / slope * steps <= 0:
            return None
        wanted = _whole((band - ill.value) / slope)
        steps = wanted if wanted != steps else steps + (1 if steps > 0 else -1)
    return None


Tried = tuple[dict[str, Point], dict[str, Finding]]


def _try(design: Design, by: Floats, bands: Bands | None) -> Tried | None:
    """Where the mounts are after a move, and the findings there; None where that makes no design."""
    try:
        changed, at = moved(design, by)
    except DesignRefused:
        return None
    return at, {f.id: f for f in findings(cycle(changed), bands)}


def _shortened(
    design: Design, coordinate: Coordinate, steps: int, increment: float, bands: Bands | None, finding: str,
    before: dict[str, Finding], tried: Tried,
) -> Cure:  # fmt: skip
    """The cure with as few increments as still cure: a bent curve lets the first guess go too far."""
    one = 1 if steps > 0 else -1
    while abs(steps) > 1:
        fewer = _try(design, coordinate.directions * ((steps - one) * increment), bands)
        if fewer is None or (finding in fewer[1] and fewer[1][finding].severity != "good"):
            break
        steps, tried = steps - one, fewer
    return _as_cure(coordinate, steps * increment, tried[0], before, tried[1])


def _whole(steps: float) -> int:
    """Whole increments, away from zero: to the band's edge and not short of it."""
    return ceil(steps) if steps > 0 else -ceil(-steps)


def _as_cure(
    coordinate: Coordinate, by: float, at: dict[str, Point], before: dict[str, Finding], after: dict[str, Finding]
) -> Cure:
    figures = {name: f.value for name, f in after.items()}
    return Cure(coordinate.axis, coordinate.mounts, by, at, figures, *compared(before, after))
