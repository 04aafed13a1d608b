"""Cure everything at once: the least movement of all free mounts that brings every judged figure into its band, and
that can be built.

Sequential quadratic programming: at each round the figures' slopes by every free coordinate are taken, and the shortest
move from the original mounts that puts all of them inside, to first order, is found on the dual (Nocedal, chapter 18;
Hildreth).
Multipliers are capped, so that bands which contradict each other are each met as far as they can be instead of driving
the mounts away, and so that what is only to be considered does not push far.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.register import BY_ID, Severity
from oak_lever.judge.check import FIX, STOP
from oak_lever.judge.judged import Judged, compared, judge, judgment
from oak_lever.judge.verdicts import parts_grave, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.buildable import bounds_of, fits
from oak_lever.move.coordinates import Space, coordinates, placed
from oak_lever.move.near import brought_nearer, loaded_more
from oak_lever.move.slopes import slopes

_ROUNDS = 8
_PATIENCE = 4
"""Rounds in a row that make nothing better, before it is given up."""
_ROWS = 5
_NUDGE_MM = 1.0
"""What a shop can just set: the slope over it says what a move does, kinks of a range's ends smoothed."""
_MARGIN = 0.02
"""How far inside its band a figure is aimed at, of the band's width or its edge, more with each round: rounding to
whole increments comes after."""
_CAPS: dict[Severity, float] = {"stop": 1e4, "fix": 1e4, "consider": 15.0}
"""The most that a figure of that severity may push, mm of its strongest coordinate."""
_SOFT = 15.0
"""A cap above this is that of a figure which must be met if it can."""
_OVER = 0.5
"""Of figures that contradict each other those ask for most whose multipliers come within this part of the largest."""
_SWEEPS = 400
_STILL = 1e-9
"""Multipliers that a whole sweep moves by less than this (mm) have found their place."""
_PARTS = np.array([1.0, 0.5, 0.25])
"""Parts of a round's move that are tried: where the whole of it can't be built, or leads too far, a part may do."""
_FLAT = 1e-9
"""A figure with no slope greater than this, per mm, does not answer to any mount."""


@dataclass(frozen=True)
class Settled:
    """Where the mounts go, by name; the judged figures there; findings made less grave, and graver; grave ones left; in
    words what then carries more than is wanted of it, and did not."""

    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]
    left: tuple[str, ...]
    weak: tuple[str, ...] = ()


def settle(
    design: Design, increment_mm: float, within_mm: float = PULL_WITHIN_MM, passing: bool = False
) -> Settled | None:  # fmt: skip
    """The least movement, in whole increments, that leaves the fewest and least grave findings; none that makes parts
    meet or one break under its loads, unless they may be `passing` through each other on the way to something else.

    None where no movement makes it better.
    """
    # links that have a locator beside them must not come to hold the axle sideways as well
    space = Space(design, [c for c in coordinates(design) if design.lateral is None or c.axis != "y"])
    if not space.free:
        return None
    search = _Search(space, increment_mm, within_mm, passing)
    overasked = search.go(frozenset())
    if search.cost[:2] != (0, 0) and overasked:  # what can't all be had is had without what asks for most
        search.go(overasked)
    return search.answer()


class _Search:
    """Rounds from the design as it stands, and the best that was met on the way."""

    def __init__(self, space: Space, increment_mm: float, within_mm: float, passing: bool) -> None:
        self.space, self.increment_mm, self.passing = space, increment_mm, passing
        self.bounds = bounds_of(space, within_mm)
        self.before = judge(space.swept(np.zeros((1, len(space.free)))))
        self.cost = _costs(self.before)[0]
        self.best: tuple[Floats, Judged, int] | None = None
        self.runs_before = parts_grave(space.design)

    def go(self, without: frozenset[str]) -> frozenset[str]:
        """Rounds with some figures left out of account; the figures that asked for more than could be had, at last."""
        at, last = np.zeros(len(self.space.free)), 0
        overasked: frozenset[str] = frozenset()
        for n in range(_ROUNDS):
            step = _round(self.space, at, self.bounds, _MARGIN * (1 + n), without)
            if step is None:
                break
            at, overasked = step
            last = n if self._better(at) else last
            if self.cost[:2] == (0, 0) or n - last >= _PATIENCE:
                break
        return overasked

    def _better(self, at: Floats) -> bool:
        """Whether these moves, or a part of them, are the best so far: they are then kept. Few rows tell which are
        worth being judged by all."""
        whole = np.round(_PARTS[:, None] * at / self.increment_mm) * self.increment_mm
        rough = _costs(judge(self.space.swept(whole, _ROWS)))
        worth = [row for row, cost in enumerate(rough) if cost < self.cost and self._stands(whole[row])]
        if not worth:
            return False
        found, after = False, judge(self.space.swept(whole[worth]))
        for row, cost in enumerate(_costs(after)):
            if cost < self.cost and self._spares_rest(whole[worth[row]]):
                self.cost, self.best, found = cost, (whole[worth[row]], after, row), True
        return found

    def _stands(self, move: Floats) -> bool:
        return bool(fits(self.space, move[None])[0]) and self.space.moved(move) is not None

    def _spares_rest(self, move: Floats) -> bool:
        """Whether what runs with the axle fares no worse for it, nothing meets that did not, and nothing breaks that
        held."""
        design, then = self.space.design, placed(self.space.design, self.space.at(move))
        if not self.passing and (
            any(gap.gap <= 0.0 for gap in brought_nearer(design, then))
            or any(one.grave == STOP for one in loaded_more(design, then))
        ):
            return False
        now, was = parts_grave(then), self.runs_before
        return all(sum(g >= at for g in now.values()) <= sum(g >= at for g in was.values()) for at in (STOP, FIX, 1))

    def answer(self) -> Settled | None:
        if self.best is None:
            return None
        move, after, row = self.best
        at = self.space.at(move)
        left = tuple(sorted(name for name, grave in after.grave(row).items() if grave in (STOP, FIX)))
        design, then = self.space.design, placed(self.space.design, at)
        was, now = (verdicts_on(one).grave for one in (design, then))
        weak = tuple(one.title for one in loaded_more(design, then))
        return Settled(at, after.values(row), *compared(was, now), left, weak)


def _costs(judged: Judged) -> list[tuple[int, ...]]:
    """Stops, fixes, considers of each design: fewer of the graver is better whatever it does to the rest."""
    return [tuple(counts) for counts in judged.counts().tolist()]


def _round(
    space: Space, at: Floats, bounds: tuple[Floats, Floats], inside: float, without: frozenset[str]
) -> tuple[Floats, frozenset[str]] | None:
    """The next moves (F,) from the original mounts, and the figures whose multipliers came up to their caps; None where
    nothing answers."""
    judged: list[Judged] = []

    def values(moves: Floats) -> Floats:
        judged.append(judge(space.swept(moves, _ROWS)))
        return np.concatenate([faces for _, faces in _faces(judged[-1])], axis=1)

    here, slope = slopes(values, at, _NUDGE_MM)
    of = [row for row, faces in _faces(judged[-1]) for _ in range(faces.shape[1])]
    rows, limits, caps, names = [], [], [], []
    for w, figure in enumerate(of):
        name, size = judged[-1].figures[figure], float(np.abs(slope[w]).max(initial=0.0))
        if name in without or not np.isfinite(here[w]) or not np.isfinite(size) or size < _FLAT:
            continue
        low, high = float(judged[-1].low[figure, -1]), float(judged[-1].high[figure, -1])
        width = high - low if np.isfinite(high - low) else abs(high if np.isfinite(high) else low)
        for sign, edge in ((1.0, high), (-1.0, low)):
            if np.isfinite(edge):
                rows.append(sign * slope[w] / size)
                limits.append((sign * (edge - here[w] + slope[w] @ at) - inside * width) / size)
                caps.append(_CAPS[judgment(BY_ID[name]).severity])
                names.append(name)
    if not rows:
        return None
    move, weight = _shortest(np.array(rows), np.array(limits), caps)
    most = float(weight.max())
    asking = frozenset(n for n, w, cap in zip(names, weight, caps, strict=True) if w > _OVER * most and cap > _SOFT)
    return np.clip(move, *bounds), asking


def _faces(judged: Judged) -> list[tuple[int, Floats]]:
    """Each figure's row, and its values (D, K): one; or, of a largest of several that go their own ways, each of them,
    for the largest alone would be pushed from one to the other."""
    found = []
    for row, name in enumerate(judged.figures):
        faces = judged.measured[name].faces
        found.append((row, judged.value[row][:, None] if faces is None else faces))
    return found


def _shortest(rows: Floats, limits: Floats, caps: Sequence[float]) -> tuple[Floats, Floats]:
    """The shortest m with rows @ m <= limits, and the multipliers: by ascent on the dual, multipliers capped
    (Hildreth)."""
    from oak_lever.motion.kernel.linear import ascend  # brings the compiler in: not before something is to be moved

    weight = np.empty(len(limits))
    ascend(rows @ rows.T, limits, np.array(caps, dtype=float), _SWEEPS, _STILL, weight)
    move: Floats = -rows.T @ weight
    return move, weight
