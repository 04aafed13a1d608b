"""Every figure of many designs held against its band, and the faults that are no figure's: how grave each is."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from math import isfinite

import numpy as np
from numpy.typing import NDArray

from oak_lever.cycle import Swept
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, USES, Figure, Judgment, Limits, Scale, Severity
from oak_lever.judge.house import (
    ARM_BUSH_MM,
    DEFAULT_SCHOOL,
    DEFAULT_USE,
    JOINT_LIMIT_DEG,
    MOST_GIVE_MM,
    SCHOOLS,
)  # fmt: skip
from oak_lever.judge.measures import Measures, measures
from oak_lever.motion.freedom import is_held, without
from oak_lever.motion.mechanism import Floats, Ints, Mechanism

SEVERITIES: tuple[Severity, ...] = ("good", "consider", "fix", "stop")
GOOD, CONSIDER, FIX, STOP = range(4)
ENDS = ("droop", "bump", "right wheel up", "left wheel up")
_ROUNDING = 1e-6
"""A figure that stands on its band's edge but for rounding is inside."""


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
        above, below = self.value > self.high + _ROUNDING, self.value < self.low - _ROUNDING
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


def judge(swept: Swept) -> Judged:
    """Judge swept designs. The design's own bands replace the house's, one by one."""
    measured = measures(swept)
    names = tuple(name for name in measured if _is_judged(name, swept))
    value = np.stack([measured[name].value for name in names])
    limits, sources, scales = zip(*(_band(swept.design, BY_ID[name]) for name in names), strict=True)
    unit = np.stack([_scale(swept.design, scale, measured, value.shape[1]) for scale in scales])
    low, high = (
        np.array([fill if band[end] is None else band[end] for band in limits])[:, None] * unit
        for end, fill in enumerate((-np.inf, np.inf))
    )
    judged = Judged(swept, measured, names, value, low, high, sources, (*_FAULTS, *names), np.empty(0, dtype=np.int64))
    return replace(judged, severity=_severity(judged))


def compared(before: Mapping[str, int], after: Mapping[str, int]) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Ids of the findings that a change makes less grave, and of those it makes graver; one not there is good."""
    names = sorted({*before, *after})
    better = tuple(name for name in names if after.get(name, GOOD) < before.get(name, GOOD))
    return better, tuple(name for name in names if after.get(name, GOOD) > before.get(name, GOOD))


def _is_judged(name: str, swept: Swept) -> bool:
    verdict = BY_ID[name].verdict
    return verdict is not None and verdict.end in (None, swept.design.axle.end)


def judgment(figure: Figure) -> Judgment:
    """The judgment of a figure that is judged.

    Raises:
        ValueError: for one that is only read.
    """
    if figure.verdict is None:
        raise ValueError(f"{figure.id} is only read")
    return figure.verdict


def _band(design: Design, figure: Figure) -> tuple[Limits, str, Scale | None]:
    """The band a figure is held against, where it comes from, and what it is a multiple of."""
    if design.bands and figure.id in design.bands:
        return design.bands[figure.id], "set for this truck", None
    use, school = design.use or DEFAULT_USE, SCHOOLS[design.school or DEFAULT_SCHOOL]
    if figure.id in school.bands:
        return school.bands[figure.id], f"school: {school.name.lower()}", judgment(figure).scale
    return judgment(figure).bands[use], f"house value for {USES[use].lower()}", judgment(figure).scale


def _scale(design: Design, scale: Scale | None, measured: Measures, count: int) -> Floats:
    """(D,) what a band is a multiple of, mm; or 1."""
    if scale == "axle_separation":
        return measured["separation_axle"].value
    sizes = {"tire_radius": design.axle.tire_radius_loaded, "tire_diameter": design.axle.tire_diameter}
    return np.full(count, sizes.get(scale or "", 1.0))


_FAULTS = ("loose", *(f"ends-short-{end.replace(' ', '-')}" for end in ENDS), "located-twice")
"""Findings that are no figure's."""


def _severity(judged: Judged) -> Ints:
    """(N, D) how grave each finding is: the faults first, then the figures outside their bands."""
    swept, places = judged.swept, judged.swept.places
    located = swept.traced.reached[:, 0]
    last = (places.heave[0], places.heave[-1], places.articulation[0], places.articulation[-1])
    faults = [~located, *(located & ~swept.traced.reached[:, pose] for pose in last), located & _located_twice(swept)]
    figures = np.where((judged.side != 0) & located, _grave(judged), GOOD)
    return np.concatenate([np.where(faults, STOP, GOOD), figures])


def _grave(judged: Judged) -> Ints:
    """(F, D) how grave each figure is where it lies outside its band."""
    mechanism, figures = judged.swept.mechanism, judged.figures
    plain = np.array([SEVERITIES.index(judgment(BY_ID[name]).severity) for name in figures])
    grave = np.repeat(plain[:, None], judged.value.shape[1], axis=1)
    for row, name in enumerate(figures):
        if name == "joint_angle":
            grave[row][judged.value[row] > JOINT_LIMIT_DEG] = STOP
        elif name == "bind":
            grave[row][judged.value[row] > most_give(mechanism)] = STOP
        elif name in ("pinion_change", "caster_change") and any(bar.rigid for bar in mechanism.layout.bars):
            grave[row] = CONSIDER  # an arm turns the housing by travel over its length, whatever is moved
    return grave


def most_give(mechanism: Mechanism) -> Floats:
    """(D,) what bushed ends may be asked for, mm; at a radius arm's eye, what its axle bushes give by its leverage."""
    most = np.full(len(mechanism.mounts), np.inf)
    ends = mechanism.ends
    arms = [(b, bar) for b, bar in enumerate(mechanism.layout.bars) if bar.rigid]
    for b, arm in arms:
        apart = mechanism.mounts[:, arm.axle.first] - mechanism.mounts[:, arm.axle.second]
        long = ends[0][:, b] - ends[1][:, b]
        lever = np.linalg.norm(long, axis=-1) / np.linalg.norm(apart, axis=-1)
        most = np.minimum(most, 2.0 * ARM_BUSH_MM * lever)
    return most if arms else np.full(len(mechanism.mounts), MOST_GIVE_MM)


def _located_twice(swept: Swept) -> NDArray[np.bool_]:
    """Links that hold the axle by themselves, and a locator that holds it again: it must follow both."""
    design, mechanism = swept.design, swept.mechanism
    if design.lateral is None:
        return np.zeros(len(mechanism.mounts), dtype=bool)
    links = {link.id for link in design.links}
    return is_held(without(mechanism, {row.name for row in mechanism.layout.rows} - links))
