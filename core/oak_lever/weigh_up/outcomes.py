"""How trucks come out whose holes and lengths are each off by the shop's own tape error: how likely each verdict holds,
and how far off each hole may be."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import erf, inf, isfinite, sqrt

import numpy as np

from oak_lever.cycle import sweep_many
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.types import Design
from oak_lever.judge.judged import Judged, judge
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.weigh_up.tolerance import ERROR_MM, FIGURES, Tolerance, tolerance

TRUCKS, EXACT = 10_000, 200
_ROWS = 11
_NUDGE_MM = 0.5
"""Half of what a judged figure's slope is taken over: what a shop can just set smooths the kinks of a range's ends."""
_SEED = 1
_MOST_MM = 12.7
"""No hole is asked to be more exact than nothing, or said to be freer than half an inch."""
_FLAT = 1e-12
WITHIN = {"pinion_change": 0.5, "axle_x": 3.0, "axle_y": 3.0, "yaw": 0.1}
"""What the axle's own place may be off by at ride, degrees and mm: house values of what a shop calls centered, square
and set."""


@dataclass(frozen=True)
class Held:
    """How likely a figure stays in its band, of `TRUCKS` by the slopes, and of `EXACT` of them by the slopes and worked
    out; how far those two are apart at the most, in the figure's unit; its value, band and spread (one sigma)."""

    figure: str
    value: float
    low: float | None
    high: float | None
    spread: float
    likely: float
    likely_few: float
    likely_exact: float
    apart: float


@dataclass(frozen=True)
class Ring:
    """How far a hole may be off, any way, mm, every other hole by its own ring as chance has it, before one of the
    figures leaves its band or the axle its place; half an inch at the most. `figure`: the one that decides it, "" where
    none does."""

    mount: str
    by: float
    figure: str


@dataclass(frozen=True)
class AxleStands:
    """Where the axle stands at ride: how far off as chance has it, with every length as made, and once the adjusters
    have brought pinion, center and square back; how likely it stays within `within` before that."""

    figure: str
    spread: float
    adjusted: float
    within: float | None
    likely: float | None


@dataclass(frozen=True)
class Outcomes:
    """`together`: how likely all verdicts hold at once. Figures that are outside their bands already are left out."""

    error: float
    held: tuple[Held, ...]
    together: float
    places: tuple[AxleStands, ...]
    rings: tuple[Ring, ...]


def outcomes(design: Design, error_mm: float = ERROR_MM) -> Outcomes:
    """Of trucks whose every mount coordinate and length is off by chance, one sigma of `error_mm`.

    Raises:
        Refused: for an axle that nothing holds.
        ValueError: for an error that is not above 0 and finite.
    """
    tolerances = tolerance(design, error_mm)
    if not tolerances.reached:
        raise Refused([Fault("links", "nothing holds this axle: no hole is exact enough")])
    names, slope, judged = _slopes(design)
    inside = _inside(judged, slope)
    rng = np.random.default_rng(_SEED)
    off = rng.normal(0.0, error_mm, (TRUCKS, slope.shape[1]))
    by_slopes = judged.value[inside, :1].T + off @ slope[inside].T
    exact = _moved(design, off[:EXACT])
    low, high = judged.low[inside, 0], judged.high[inside, 0]
    stays = (by_slopes >= low) & (by_slopes <= high)
    found = []
    for n, row in enumerate(inside):
        true = exact.value[row]
        few = (true >= exact.low[row]) & (true <= exact.high[row])
        found.append(
            Held(
                judged.figures[row], float(judged.value[row, 0]), _finite(low[n]), _finite(high[n]),
                float(np.linalg.norm(slope[row])) * error_mm, float(stays[:, n].mean()),
                float(stays[:EXACT, n].mean()), float(few.mean()),
                float(np.nanmax(np.abs(true - by_slopes[:EXACT, n]), initial=0.0)),
            )
        )  # fmt: skip
    margins = {one.figure: min(high[n] - one.value, one.value - low[n]) for n, one in enumerate(found)}
    holes = tuple(_rings(names, slope[inside], margins, tolerances))
    return Outcomes(error_mm, tuple(found), float(stays.all(axis=1).mean()), tuple(_places(tolerances)), holes)


def rings(design: Design) -> dict[str, Ring]:
    """How far each mount's hole may be off, by its name: what `outcomes` says of it, without its trucks.

    Raises:
        Refused: for an axle that nothing holds.
    """
    tolerances = tolerance(design)
    if not tolerances.reached:
        raise Refused([Fault("links", "nothing holds this axle: no hole is exact enough")])
    names, slope, judged = _slopes(design)
    inside = _inside(judged, slope)
    value, low, high = (one[inside, 0].tolist() for one in (judged.value, judged.low, judged.high))
    ids = [judged.figures[row] for row in inside]
    margins = {name: min(most - now, now - least) for name, now, least, most in zip(ids, value, low, high, strict=True)}
    return {one.mount: one for one in _rings(names, slope[inside], margins, tolerances)}


def _inside(judged: Judged, slope: Floats) -> list[int]:
    """The rows of figures that are inside their bands and have slopes."""
    return [
        row for row in range(len(judged.figures))
        if judged.side[row, 0] == 0 and isfinite(judged.value[row, 0]) and np.isfinite(slope[row]).all()
    ]  # fmt: skip


def _finite(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def _slopes(design: Design) -> tuple[list[str], Floats, Judged]:
    """The mounts' names, and the slopes (W, 3K) of the judged figures by each coordinate of each, links made to fit;
    the design judged as it is, on the same rows."""
    mechanism = mechanism_of(design)
    names = list(mechanism.layout.mounts)
    many = 3 * len(names)
    nudges = np.concatenate([np.zeros((1, many)), _NUDGE_MM * np.eye(many), -_NUDGE_MM * np.eye(many)])
    judged = _moved(design, nudges)
    up, down = judged.value[:, 1 : many + 1], judged.value[:, many + 1 :]
    with np.errstate(invalid="ignore"):
        slope: Floats = (up - down) / (2.0 * _NUDGE_MM)
    return names, slope, judged


def _moved(design: Design, off: Floats) -> Judged:
    """Designs whose every mount coordinate is off by so much (N, 3K), links made to fit, judged."""
    mechanism = mechanism_of(design)
    mounts = mechanism.mounts + off.reshape(len(off), -1, 3)
    return judge(sweep_many(design, mechanism.with_mounts(mounts), _ROWS))


def _places(found: Tolerance) -> list[AxleStands]:
    assert found.mounts is not None
    assert found.lengths is not None
    by_mount = np.array([[_number(s[f]) for f in FIGURES] for axes in found.mounts.values() for s in axes.values()])
    by_length = np.array([[_number(s[f]) for f in FIGURES] for s in found.lengths.values()]).reshape(-1, len(FIGURES))
    whole = np.concatenate([by_mount, by_length])
    pose = [FIGURES.index(name) for name in WITHIN]
    # lengths that bring the pose back, and what they do to everything else
    back = np.linalg.pinv(by_length[:, pose].T, rcond=1e-6) if len(by_length) else np.zeros((0, len(pose)))
    rest = by_mount - (back @ by_mount[:, pose].T).T @ by_length
    spread = np.linalg.norm(whole, axis=0) * found.error
    after = np.linalg.norm(rest, axis=0) * found.error
    places = []
    for n, name in enumerate(FIGURES):
        within = WITHIN.get(name)
        sure = None if within is None else _within(within, float(spread[n]))
        places.append(AxleStands(name, float(spread[n]), float(after[n]), within, sure))
    return places


def _within(limit: float, sigma: float) -> float:
    """How likely a normal variable of that sigma stays within the limit either way."""
    return erf(limit / (sigma * sqrt(2.0))) if sigma > _FLAT else 1.0


def _number(value: float | None) -> float:
    return 0.0 if value is None else value


def _rings(names: Sequence[str], slope: Floats, margins: dict[str, float], found: Tolerance) -> list[Ring]:
    assert found.mounts is not None
    every, rings = [*margins.items(), *WITHIN.items()], list[Ring]()
    share = sqrt(len(names))
    for k, name in enumerate(names):
        by = [float(np.linalg.norm(slope[n, 3 * k : 3 * k + 3])) for n in range(len(slope))]
        axes = found.mounts.get(name)
        by += [
            0.0 if axes is None else float(np.linalg.norm([_number(axes[axis][figure]) for axis in "xyz"]))
            for figure in WITHIN
        ]
        may = [margin / (one * share) if one > _FLAT else inf for (_, margin), one in zip(every, by, strict=True)]
        least = int(np.argmin(may))
        rings.append(Ring(name, min(float(may[least]), _MOST_MM), every[least][0] if may[least] < _MOST_MM else ""))
    return rings
