"""Every figure of many designs held against its band, and the faults that are no figure's: how grave each is."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from math import isfinite

import numpy as np
from numpy.typing import NDArray

from oak_lever.cycle import Swept
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, FAULTS, Figure, Judgment, Scale
from oak_lever.judge.check import CONSIDER, FIX, GOOD, OWN, ROUNDING, SEVERITIES, STOP, WIDER, band_of
from oak_lever.judge.measures import Measures, measures
from oak_lever.motion.mechanism import Floats, Ints


@dataclass(frozen=True)
class Judged:
    """D designs judged: F figures, `value` (F, D) against `low` and `high` (F, D), infinite where open, and where each
    band comes from; and how grave each finding is, (N, D) as an index into `SEVERITIES`, by `ids`."""

    swept: Swept
    measured: Measures
    figures: tuple[str, ...]
    value: Floats
    low: Floats
    high: Floats
    sources: tuple[str, ...]
    ids: tuple[str, ...]
    severity: Ints

    @cached_property
    def side(self) -> Ints:
        """(F, D) -1 below the band, 0 inside, 1 above; a figure that does not exist is inside."""
        above, below = self.value > self.high + ROUNDING, self.value < self.low - ROUNDING
        return above.astype(np.int64) - below

    def grave(self, design: int = 0) -> dict[str, int]:
        """How grave each finding of one design is; what is good is left out."""
        codes = self.severity[:, design].tolist()
        return {name: code for name, code in zip(self.ids, codes, strict=True) if code > GOOD}

    def counts(self) -> Ints:
        """(D, 3) how many stops, fixes and considers each design has."""
        return np.stack([(self.severity == grave).sum(0) for grave in (STOP, FIX, CONSIDER)], axis=-1)

    def values(self, design: int = 0) -> dict[str, float | None]:
        """The judged figures of one design, None for one beyond measure."""
        found = self.value[:, design].tolist()
        return {name: value if isfinite(value) else None for name, value in zip(self.figures, found, strict=True)}


def judge(swept: Swept, only: str | None = None) -> Judged:
    """Judge swept designs, or `only` one figure of theirs. The design's own bands replace the house's, one by one."""
    measured = measures(swept, only and (only, *_MEASURED_IN))
    names = tuple(name for name in measured if BY_ID[name].verdict is not None)
    value = np.stack([measured[name].value for name in names])
    limits, sources = zip(*(band_of(swept.design, BY_ID[name]) for name in names), strict=True)
    unit = np.stack([
        _scale(swept.design, None if source == OWN else judgment(BY_ID[name]).scale, measured, value.shape[1])
        for name, source in zip(names, sources, strict=True)
    ])  # fmt: skip
    low, high = (
        np.array([fill if band[end] is None else band[end] for band in limits])[:, None] * unit
        for end, fill in enumerate((-np.inf, np.inf))
    )
    own = swept.design.bands or {}
    for row, name in enumerate(names):
        limit, reserve = measured[name].limit, judgment(BY_ID[name]).reserve
        if limit is not None and reserve is not None and name not in own:
            high[row] = limit - reserve
    sources = tuple(
        _held_to_stop(high[row], _breaks_at(measured, name), source) if name in own else source
        for row, (name, source) in enumerate(zip(names, sources, strict=True))
    )
    judged = Judged(swept, measured, names, value, low, high, sources, (*_FAULTS, *names), np.empty(0, dtype=np.int64))
    return replace(judged, severity=_severity(judged))


def _held_to_stop(high: Floats, worst: Floats | float | None, source: str) -> str:
    """A truck's own band says what is liked, not what tears: its high end (D,) is brought to where a stop begins."""
    if worst is None or not (high > worst).any():
        return source
    np.minimum(high, worst, out=high)
    return WIDER


def compared(before: Mapping[str, int], after: Mapping[str, int]) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Ids of the findings that a change makes less grave, and of those it makes graver; one not there is good."""
    names = sorted({*before, *after})
    better = tuple(name for name in names if after.get(name, GOOD) < before.get(name, GOOD))
    return better, tuple(name for name in names if after.get(name, GOOD) > before.get(name, GOOD))


def judgment(figure: Figure) -> Judgment:
    """The judgment of a figure that is judged.

    Raises:
        ValueError: for one that is only read.
    """
    if figure.verdict is None:
        raise ValueError(f"{figure.id} is only read")
    return figure.verdict


def _scale(design: Design, scale: Scale | None, measured: Measures, count: int) -> Floats:
    """(D,) what a band is a multiple of, mm: a size of the axle, or another figure by its id; or 1."""
    if scale is not None and scale in _MEASURED_IN:
        return measured[scale].value
    sizes = {"tire_radius": design.axle.tire_radius_loaded, "tire_diameter": design.axle.tire_diameter}
    return np.full(count, sizes.get(scale or "", 1.0))


_MEASURED_IN = {one.verdict.scale for one in BY_ID.values() if one.verdict and one.verdict.scale in BY_ID}
"""Figures that other figures' bands are multiples of."""
_FAULTS = tuple(figure.id for figure in FAULTS if figure.of == "design")
LOOSE, NO_TRAVEL, *_short, TOGETHER = _FAULTS
SHORT = tuple(_short)
"""Travel that ends short: down, up, twisted to the right wheel up and to the left."""


def _severity(judged: Judged) -> Ints:
    """(N, D) how grave each finding is: the faults first, then the figures outside their bands."""
    faults = [np.where(fault, STOP, GOOD) for fault in faults_of(judged.swept)]
    located = judged.swept.traced.reached[:, 0]
    return np.concatenate([np.stack(faults), np.where((judged.side != 0) & located, _grave(judged), GOOD)])


def faults_of(swept: Swept) -> list[NDArray[np.bool_]]:
    """(D,) each, in the register's order: loose; held at ride and in no other pose; each sweep short of its end; and
    short only where travel and articulation come together."""
    places, reached = swept.places, swept.traced.reached
    located = reached[:, 0]
    moves = reached[:, places.every].sum(1) > 1
    still = located & ~moves & (len(places.every) > 1)
    last = (places.heave[0], places.heave[-1], places.articulation[0], places.articulation[-1])
    ends = [located & ~still & ~reached[:, pose] for pose in last]
    together = ~reached[:, places.map.ravel()].all(1) & located & ~still & ~np.any(ends, axis=0)
    return [~located, still, *ends, together]


def _grave(judged: Judged) -> Ints:
    """(F, D) how grave each figure is where it lies outside its band."""
    every = [judgment(BY_ID[name]) for name in judged.figures]
    rigid = any(bar.rigid for bar in judged.swept.mechanism.layout.bars)
    plain = [SEVERITIES.index((rigid and one.on_arms) or one.severity) for one in every]
    grave = np.repeat(np.array(plain)[:, None], judged.value.shape[1], axis=1)
    for row, name in enumerate(judged.figures):
        worst = _breaks_at(judged.measured, name)
        if worst is not None:
            grave[row][judged.value[row] > worst] = STOP
    return grave


def _breaks_at(measured: Measures, name: str) -> Floats | float | None:
    """Past which value a figure is no matter of liking: it will not work, or something tears; the part's own limit, or
    else the figure's; None where there is none."""
    limit = measured[name].limit
    return BY_ID[name].breaks if limit is None else limit
