"""A hand cycle held against the prediction: jack heights and what was measured there, where they part from what the
links say, and which slips would explain it best."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from oak_lever.batch import figures_of_many
from oak_lever.design.faults import Refused
from oak_lever.design.hand import HandReading
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import Plan
from oak_lever.move.coordinates import Coordinate, Space, coordinates
from oak_lever.move.slopes import slopes
from oak_lever.move.words import ends_said, way_said
from oak_lever.truck.restood import stood_on
from oak_lever.units import Units, length

SIGMA: dict[str, float] = {"pinion_change": 0.3, "caster_change": 0.3, "axle_x": 2.0, "axle_y": 2.0, "yaw": 0.2}
"""What a gauge or a tape is off by, degrees or mm: how far apart a reading and a prediction may be and agree."""
_MOST_MM = 40.0
"""A tape error larger than this is no tape error."""
_BETTER = 0.7
"""An explanation that leaves more than this part of what was unexplained is none."""
_MUCH_BETTER = 0.4
"""Two slips at once are said only where they leave less than this part of what the best single one does."""
_ALIKE = 0.06
"""Explanations that leave parts this near to each other cannot be told apart."""
_MOST = 6
_ROUNDS = 3
_NAMES = {"pinion_change": "the pinion's turn", "caster_change": "caster", "axle_x": "the fore-aft readings",
          "axle_y": "the sideways readings", "yaw": "the turn in plan"}  # fmt: skip
_MIRRORED = ("axle_y", "yaw")
"""What changes its sign where left and right are taken for each other."""


@dataclass(frozen=True)
class Laid:
    """A reading by its place in the list, beside its prediction; None where the links do not reach. `parts`: by more
    than gauge and tape are off by."""

    reading: int
    predicted: float | None
    parts: bool


@dataclass(frozen=True)
class Explanation:
    """What would explain it: in words, the largest of its slips (mm or degrees), and what part of what parts it would
    leave (0 to 1)."""

    words: str
    by: float
    left: float


@dataclass(frozen=True)
class HandCheck:
    """`says`: what it comes to, in a sentence."""

    laid: tuple[Laid, ...]
    explained: tuple[Explanation, ...]
    says: str = ""


@dataclass(frozen=True)
class _Slip:
    """A slip by an amount: what one unit of it does to what parts (R,), in the readings' errors; how it is said; and,
    where the motion bends it, what it does at an amount, exactly."""

    slope: Floats
    said: Callable[[float], str]
    most: float
    exact: Callable[[float], Floats] | None = None
    of: str = ""
    """Slips of one thing are not put together."""


@dataclass(frozen=True)
class _Guess:
    """Slips by amounts together; or with, or as, something taken for something else, which leaves `off` unexplained."""

    slips: Sequence[_Slip]
    words: str = ""
    off: Floats | None = None


def hand_check(design: Design, units: Units = "mm") -> HandCheck:
    """The design's hand readings beside predictions, and what would explain where they part, ranked by how little it
    would leave unexplained: a mount that stands elsewhere than was typed, another loaded radius, a gauge's wrong zero,
    a sign or sides taken for each other; one of these, or two where the readings can tell."""
    readings = design.hand or ()
    if not readings:
        return HandCheck((), ())
    check = _Check(design, readings, units)
    laid = tuple(
        Laid(n, None if np.isnan(p) else float(p), bool(abs(o) > 1.0))
        for n, (p, o) in enumerate(zip(check.predicted, np.nan_to_num(check.off), strict=True))
    )
    if not any(one.parts for one in laid):
        return HandCheck(laid, (), "All agree within what gauge and tape are off by.")
    found = check.explained()
    return HandCheck(laid, tuple(found), _says(found, readings))


def _says(found: Sequence[Explanation], readings: Sequence[HandReading]) -> str:
    if not found:
        return "Some part by more than gauge and tape are off by, and no slip that was tried explains it."
    alike = [one for one in found if one.left - found[0].left < _ALIKE]
    if len(alike) == 1:
        return "The first explains more of it than any other."
    more = "" if any(one.articulation for one in readings) else " Readings with one wheel up would tell more."
    return f"These readings cannot tell the first {len(alike)} apart.{more}"


class _Check:
    def __init__(self, design: Design, readings: Sequence[HandReading], units: Units) -> None:
        self.design, self.readings, self.units = design, readings, units
        self.sigma = np.array([SIGMA[one.figure] for one in readings])
        self.measured = np.array([one.value for one in readings])
        self.predicted = predicted(design, readings, mechanism_of(design).mounts)[0]
        self.off = (self.measured - self.predicted) / self.sigma
        self.known: NDArray[np.bool_] = ~np.isnan(self.off)

    def explained(self) -> list[Explanation]:
        """One slip; or two, where the best one leaves readings beyond their error."""
        slips, others = list(self._by_amount()), list(self._otherwise())
        singles = [_Guess([slip]) for slip in slips] + [_Guess([], words, off) for words, off in others]
        ones = self._refined(singles, _BETTER)
        if (ones and ones[0][1] <= 1.0) or self.known.sum() < _LEAST_FOR_TWO:
            return [one for one, _ in ones][:_MOST]
        best = ones[0][0].left if ones else 1.0
        pairs = [_Guess([slip], words, off) for words, off in others for slip in slips]
        pairs += [_Guess([a, b]) for a, b in combinations(slips, 2) if not (a.of and a.of == b.of)]
        found = self._refined(pairs, min(_BETTER, _MUCH_BETTER * best)) + ones
        return [one for one, _ in sorted(found, key=lambda one: one[0].left)][:_MOST]

    def _refined(self, guesses: Sequence["_Guess"], most: float) -> list[tuple[Explanation, float]]:
        """Those that leave less than `most`, and by how many of its errors the worst reading then still parts: the most
        promising to first order, then exactly as the motion bends."""
        size = self._size(self.off)
        tried = ((guess, self._amounts(guess)) for guess in guesses)
        first = [(self._size(found[1]) / size, guess, found[0]) for guess, found in tried if found is not None]
        first.sort(key=lambda one: one[0])
        told = [self._exactly(guess, by, size) for _, guess, by in first[:_REFINED]]
        return sorted((one for one in told if one is not None and one[0].left < most), key=lambda one: one[0].left)

    def _start(self, guess: "_Guess") -> Floats:
        return self.off if guess.off is None else guess.off

    def _amounts(self, guess: "_Guess") -> tuple[Floats, Floats] | None:
        """Least squares for its slips' amounts, and what they leave (R,), to first order."""
        off = self._start(guess)
        if np.isnan(off[self.known]).any():
            return None
        if not guess.slips:
            return np.empty(0), off
        ways = np.stack([slip.slope for slip in guess.slips], axis=-1)
        known = ways[self.known]
        if not np.isfinite(known).all() or (known**2).sum(0).min() < _FLAT:
            return None
        if len(guess.slips) > 1 and np.linalg.cond(known / np.linalg.norm(known, axis=0)) > _TOLD_APART:
            return None
        by = np.asarray(np.linalg.lstsq(known, off[self.known], rcond=None)[0], dtype=np.float64)
        return (by, off - ways @ by) if self._fair(guess, by) else None

    def _fair(self, guess: "_Guess", by: Floats) -> bool:
        return all(_HAIR < abs(v) <= slip.most for v, slip in zip(by, guess.slips, strict=True))

    def _exactly(self, guess: "_Guess", by: Floats, size: float) -> tuple[Explanation, float] | None:
        """With its slips' amounts brought to what leaves the least as the motion bends."""
        rest = self._rest(guess, by)
        for _ in range(_ROUNDS if any(slip.exact for slip in guess.slips) else 0):
            if not np.isfinite(rest[self.known]).all():
                return None
            known = np.stack([slip.slope for slip in guess.slips], axis=-1)[self.known]
            by = by + np.linalg.lstsq(known, rest[self.known], rcond=None)[0]
            rest = self._rest(guess, by)
        if not np.isfinite(rest[self.known]).all() or not self._fair(guess, by):
            return None
        said = [slip.said(float(amount)) for slip, amount in zip(guess.slips, by, strict=True)]
        words = ", and ".join([guess.words, *said] if guess.words else said)
        largest = float(np.abs(by).max(initial=0.0))
        return Explanation(words, largest, self._size(rest) / size), float(np.abs(rest[self.known]).max())

    def _rest(self, guess: "_Guess", by: Floats) -> Floats:
        rest = self._start(guess)
        for slip, amount in zip(guess.slips, by, strict=True):
            rest = rest - (slip.exact(float(amount)) if slip.exact else amount * slip.slope)
        return np.asarray(rest)

    def _size(self, off: Floats) -> float:
        return float(np.linalg.norm(off[self.known])) if not np.isnan(off[self.known]).any() else np.inf

    def _by_amount(self) -> Iterator[_Slip]:
        space = Space(self.design, _each(self.design))
        if space.free:

            def values(moves: Floats) -> Floats:
                return np.asarray(predicted(self.design, self.readings, space.mounts(moves)) / self.sigma)

            _, slope = slopes(values, np.zeros(len(space.free)))
            for c, coordinate in enumerate(space.free):
                yield _Slip(slope[:, c], self._tape(coordinate), _MOST_MM, self._moved(space, c), coordinate.mounts[0])
        radius = self._radius
        yield _Slip((radius(1.0) - radius(-1.0)) / 2.0, _radius_said(self.units), _MOST_MM, radius, "radius")
        for figure in sorted({one.figure for one in self.readings}):
            here = np.array([1.0 if one.figure == figure else 0.0 for one in self.readings])
            if here.sum() >= 2:
                yield _Slip(here / SIGMA[figure], _zero_said(figure, self.units), np.inf, None, f"zero {figure}")

    def _moved(self, space: Space, c: int) -> Callable[[float], Floats]:
        def change(by: float) -> Floats:
            moves = np.zeros((1, len(space.free)))
            moves[0, c] = by
            then: Floats = predicted(self.design, self.readings, space.mounts(moves))[0]
            return np.asarray((then - self.predicted) / self.sigma)

        return change

    def _radius(self, by: float) -> Floats:
        """What another loaded radius does, the heights of all mounts as they were typed."""
        then = stood_on(self.design, self.design.axle.tire_radius_loaded + by, "slip")
        other: Floats = predicted(then, self.readings, mechanism_of(then).mounts)[0]
        return np.asarray((other - self.predicted) / self.sigma)

    def _tape(self, coordinate: Coordinate) -> Callable[[float], str]:
        return lambda by: _tape(self.design, coordinate, by, self.units)

    def _otherwise(self) -> Iterator[tuple[str, Floats]]:
        """What would be unexplained (R,) if signs or sides had been taken for each other."""
        for figure in sorted({one.figure for one in self.readings}):
            here = np.array([one.figure == figure for one in self.readings])
            yield (
                f"{_NAMES[figure]} read with the sign the other way",
                np.where(here, (-self.measured - self.predicted) / self.sigma, self.off),
            )
        if any(one.travel for one in self.readings):
            yield "up and down of the jack taken for each other", self._at(lambda one: (-one.travel, one.articulation))
        if any(one.articulation for one in self.readings):
            yield (
                "the left and the right wheel taken for each other",
                self._at(lambda one: (one.travel, -one.articulation)),
            )
        mirrored = np.array([one.figure in _MIRRORED for one in self.readings])
        if mirrored.any() and not mirrored.all():
            yield "left and right taken for each other throughout", self._mirrored(mirrored)
        for words, changed in _swapped(self.design):
            other = predicted(changed, self.readings, mechanism_of(changed).mounts)[0]
            yield words, (self.measured - other) / self.sigma

    def _at(self, pose: Callable[[HandReading], tuple[float, float]]) -> Floats:
        there = [one.rewritten(travel=pose(one)[0], articulation=pose(one)[1]) for one in self.readings]
        other: Floats = predicted(self.design, there, mechanism_of(self.design).mounts)[0]
        return np.asarray((self.measured - other) / self.sigma)

    def _mirrored(self, mirrored: NDArray[np.bool_]) -> Floats:
        there = [one.rewritten(articulation=-one.articulation) for one in self.readings]
        other = predicted(self.design, there, mechanism_of(self.design).mounts)[0]
        return np.asarray((np.where(mirrored, -self.measured, self.measured) - other) / self.sigma)


_HAIR = 1e-6
_FLAT = 1e-12
_LEAST_FOR_TWO = 4
_REFINED = 8
_TOLD_APART = 50.0
"""Two slips whose traces are nearer to alike than this (the ratio of their singular values) are not told apart."""


def _radius_said(units: Units) -> Callable[[float], str]:
    return lambda by: f"the loaded radius is {length(abs(by), units)} {'more' if by > 0 else 'less'} than was typed"


def _zero_said(figure: str, units: Units) -> Callable[[float], str]:
    def said(by: float) -> str:
        amount = length(abs(by), units) if figure.startswith("axle") else f"{abs(by):.1f} degrees"
        return f"{_NAMES[figure]} read {amount} too {'high' if by > 0 else 'low'} throughout: a wrong zero"

    return said


def predicted(design: Design, readings: Sequence[HandReading], mounts: Floats) -> Floats:
    """(D, R) what the links say to each reading, by designs with other mounts (D, K, 3); fore-aft and sideways from
    where it is at ride. NaN where they do not reach."""
    plan = Plan()
    places = [plan.pose(one.travel, one.articulation) for one in readings]
    names = sorted({one.figure for one in readings})
    found, _ = figures_of_many(design, mounts, plan.poses(), names)
    columns = [found[one.figure][:, place] - (found[one.figure][:, 0] if one.figure in ("axle_x", "axle_y") else 0.0)
               for one, place in zip(readings, places, strict=True)]  # fmt: skip
    out: Floats = np.stack(columns, axis=-1)
    return out


def _each(design: Design) -> list[Coordinate]:
    """Every mount alone along each axis: a slip of the tape is made on one of them."""
    free = design.rewritten(
        locks=None, unpaired=tuple(spot.name for spot in parts_of(design).spots if spot.holds) or None
    )
    return coordinates(free)


def _tape(design: Design, coordinate: Coordinate, by: float, units: Units) -> str:
    first = parts_of(design).spot(coordinate.mounts[0])
    way = way_said(first, False, coordinate.axis, by)
    amount = length(abs(by), units)
    return f"the {ends_said(design, coordinate.mounts[:1])} stands {amount} farther {way} than was typed"


def _swapped(design: Design) -> Iterator[tuple[str, Design]]:
    """Left and right changed over at one end of the links of a kind."""
    data = design_data(design)
    for kind in ("lower", "upper"):
        links = [n for n, link in enumerate(data["links"]) if link["kind"] == kind]
        if len(links) != 2:
            continue
        for end in ("axle", "frame"):
            one, other = (data["links"][n][end]["at"] for n in links)
            if one == [other[0], -other[1], other[2]]:
                continue
            copy = design_data(design)
            copy["links"][links[0]][end]["at"], copy["links"][links[1]][end]["at"] = (
                [other[0], -other[1], other[2]], [one[0], -one[1], one[2]],
            )  # fmt: skip
            try:
                yield f"the {kind} links' {end} ends have their sides swapped", design_from(copy)
            except Refused:
                continue
