"""Readings held against each other: what does not fit is held out with its reason, and where what is left still
disagrees, that is said in place of a figure."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import sqrt

import numpy as np

from oak_lever.baseline.angles import as_read, turned_at
from oak_lever.baseline.frame import seen_marks
from oak_lever.baseline.placement import place
from oak_lever.baseline.spread import sigma_of, value_of
from oak_lever.design.types import Design
from oak_lever.truck.types import (
    Angle,
    AnyReading,
    Distance,
    End,
    Height,
    OutputOffset,
    OutputTurn,
    Scale,
    Side,
    Truck,
)
from oak_lever.units import KG_PER_LB, MM_PER_INCH, Units, length, weight

FIT_SIGMAS = 3.0
"""Readings farther apart than so many of their own sigmas together disagree."""
_STEEP_DEG = 45.0
"""No pinion and no output points up or down by more: such a reading is the complement of what was meant."""
_LIKE_DEG = 15.0
_SLIPS_MM: dict[str, float] = {
    "10 mm": 10.0,
    "1/2 in": MM_PER_INCH / 2.0,
    "1 in": MM_PER_INCH,
    "1 ft": 12 * MM_PER_INCH,
}
_MOST_HELD = 3
_HUBS_MM = 15.0
"""How far apart in height both hubs of an axle may stand: tires, load and floor together give less."""
_SUM_PART = 0.004
"""How far raised weights may add up otherwise than level ones, of the whole, beside what the scales are off by: fuel
runs, and a jack leans."""

PLACED = (
    "rear_fore_aft", "rear_offset", "rear_thrust_angle", "front_fore_aft", "front_offset", "front_thrust_angle",
    "wheelbase_left", "wheelbase_right",
)  # fmt: skip


@dataclass(frozen=True)
class Agreed:
    """`held_out` by reading: why it is not used. `disagree` by figure: why what is left gives none. `spread` by figure:
    one standard deviation as the scatter of its readings says it, mm, degrees or kg. `truck`: without what is held
    out."""

    held_out: dict[str, str]
    disagree: dict[str, str]
    spread: dict[str, float]
    truck: Truck


def agreed(truck: Truck, designs: Mapping[str, Design], units: Units) -> Agreed:
    """What of a truck's readings fits together. `designs` by end: what converts a pinion read away from ride, and what
    tells a complement from the angle."""
    look = _Look(truck, designs, units)
    look.angles()
    look.outputs()
    look.heights()
    look.weights()
    look.distances()
    return Agreed(look.held_out, look.disagree, look.spread, look.without())


@dataclass(frozen=True)
class _Read:
    """A reading as it counts for one thing: its name, value and sigma, in the thing's unit."""

    reading: AnyReading
    value: float
    sigma: float

    def fits(self, other: "_Read", slack: float = 0.0) -> bool:
        return abs(self.value - other.value) <= FIT_SIGMAS * sqrt(self.sigma**2 + other.sigma**2) + slack


Slips = Callable[[_Read], Iterator[tuple[str, float]]]
"""What a reading would have been without each slip: the slip in words, and the value."""


Lift = tuple[End, float]
"""Which end was raised, and by how much, mm."""
_Weighings = dict[tuple[End, Side | None, Lift | None], list[_Read]]
_Kept = Mapping[tuple[End, Side | None, Lift | None], list[_Read]]


class _Look:
    def __init__(self, truck: Truck, designs: Mapping[str, Design], units: Units) -> None:
        self.truck, self.designs, self.units = truck, designs, units
        self.held_out: dict[str, str] = {}
        self.disagree: dict[str, str] = {}
        self.spread: dict[str, float] = {}

    def without(self) -> Truck:
        readings = tuple(
            r.model_copy(update={"left_out": True}) if r.id in self.held_out else r for r in self.truck.readings
        )
        return self.truck.model_copy(update={"readings": readings})

    def used(self) -> Iterator[AnyReading]:
        yield from (r for r in self.truck.readings if not r.left_out and r.id not in self.held_out)

    def repeated(self, reads: Sequence[_Read], slips: Slips, said: Callable[[float], str]) -> tuple[list[_Read], str]:
        """Of readings of one thing those that fit together, the others held out; and why what is left disagrees."""
        left = [one for one in reads if one.reading.id not in self.held_out]
        group = _largest(left)
        if group is None:
            values = " and ".join(sorted({said(one.value) for one in left}))
            return left, f"They read {values}, more apart than they can be off: take them again."
        for one in left:
            if one not in group:
                middle = float(np.mean([other.value for other in group]))
                slip = _slip_of(one, group, slips)
                self.held_out[one.reading.id] = (
                    f"Held out: it says {said(one.value)} where the others say {said(middle)}. {slip}"
                ).rstrip()
        return group, ""

    # angles

    def angles(self) -> None:
        by_shaft: dict[str, list[_Read]] = {}
        for reading in self.used():
            if isinstance(reading, Angle) and (turned := turned_at(reading, self.designs)) is not None:
                found = as_read(reading)
                by_shaft.setdefault(reading.of, []).append(_Read(reading, found.value - turned, found.sigma))
        for shaft, reads in by_shaft.items():
            self._steep(shaft, reads)
            group, why = self.repeated(reads, _angle_slips, lambda value: f"{value:.1f} degrees")
            if why:
                self.disagree[shaft] = why
            self._scatter(shaft, group)

    def outputs(self) -> None:
        """Where the case's output stands, and how it is turned in plan."""
        offsets, turns = list[_Read](), list[_Read]()
        for reading in self.used():
            if isinstance(reading, OutputOffset):
                side = 1.0 if reading.side == "left" else -1.0
                offsets.append(_Read(reading, side * value_of(reading), sigma_of(reading)))
            elif isinstance(reading, OutputTurn):
                side = 1.0 if reading.points == "left" else -1.0
                turns.append(_Read(reading, side * value_of(reading), sigma_of(reading)))
        for figure, reads, said in (
            ("output_offset", offsets, self._to_a_side), ("output_turn", turns, lambda value: f"{value:.1f} degrees"),
        ):  # fmt: skip
            group, why = self.repeated(reads, _side_slips, said)
            if why:
                self.disagree[figure] = why
            self._scatter(figure, group)

    def _to_a_side(self, mm: float) -> str:
        return f"{length(abs(mm), self.units)} {'left' if mm >= 0.0 else 'right'}"

    def _steep(self, shaft: str, reads: Sequence[_Read]) -> None:
        """Complements: no shaft stands so steep."""
        design = self.designs.get(shaft.removesuffix("_pinion")) if shaft.endswith("pinion") else None
        for one in reads:
            like = design is None or abs(90.0 - abs(one.value) - abs(design.axle.pinion.angle)) < _LIKE_DEG
            if abs(one.value) > _STEEP_DEG and like:
                self.held_out[one.reading.id] = (
                    f"Held out: it comes to {one.value:.1f} degrees, {90.0 - abs(one.value):.1f} if the gauge was "
                    "zeroed the other way or stood on the other face. Say which, or take it again."
                )

    def _scatter(self, figure: str, group: Sequence[_Read]) -> None:
        if len(group) > 1:
            values = np.array([one.value for one in group])
            self.spread[figure] = float(np.std(values, ddof=1) / sqrt(len(group)))

    # heights

    def heights(self) -> None:
        by_point: dict[str, list[_Read]] = {}
        for reading in self.used():
            if isinstance(reading, Height):
                by_point.setdefault(reading.point, []).append(_Read(reading, value_of(reading), sigma_of(reading)))
        marks = {mark.id for mark in self.truck.marks}
        for point, reads in by_point.items():
            _, why = self.repeated(reads, _length_slips, self._length)
            for figure in _of_height(point in marks, point) if why else ():
                self.disagree[figure] = f"{point}: {why}"
        self._out_of_plane()
        self._hubs(by_point)

    def _hubs(self, by_point: Mapping[str, list[_Read]]) -> None:
        """Both hubs of an axle stand on like tires: one that is off by a usual slip is held out."""
        for end in ("front", "rear"):
            left, right = ([one for one in by_point.get(f"{end}-hub-{side}", []) if one.reading.id not in self.held_out]
                           for side in ("left", "right"))  # fmt: skip
            if not left or not right:
                continue
            apart = float(np.mean([one.value for one in left]) - np.mean([one.value for one in right]))
            if abs(apart) <= _HUBS_MM:
                continue
            self.disagree[f"{end}_radius"] = (
                f"The {end} hubs stand {self._length(abs(apart))} apart in height: tires and load alike, they do not. "
                "Take them again."
            )

    def _length(self, mm: float) -> str:
        return length(mm, self.units)

    def _out_of_plane(self) -> None:
        """Marks that lie in no plane: a frame that is twisted does that, and so does one slip. Which slips and swaps
        would bring them into one: if only one would, it is held out."""
        seen = seen_marks(self.without())
        if len(seen) < 4:
            return
        plan = np.array([[1.0, *one.mark.at[:2]] for one in seen])
        high = np.array([one.high.value for one in seen])
        off_by = np.array([one.high.sigma for one in seen])
        if _past(plan, high, off_by) <= FIT_SIGMAS:
            return
        readings = {one.mark.id: [r for r in self.used() if isinstance(r, Height) and r.point == one.mark.id]
                    for one in seen}  # fmt: skip
        found: list[tuple[tuple[str, ...], str]] = []
        for n, one in enumerate(seen):
            if len(readings[one.mark.id]) != 1:
                continue
            reading = readings[one.mark.id][0]
            for slip, value in _length_slips(_Read(reading, value_of(reading), 0.0)):
                then = high.copy()
                then[n] += value - value_of(reading)
                if _past(plan, then, off_by) < FIT_SIGMAS:
                    found.append(((reading.id,), slip))
        for n, m in combinations(range(len(seen)), 2):
            one, other = seen[n], seen[m]
            then = high.copy()
            apart = one.mark.at[2] - other.mark.at[2]
            then[n], then[m] = high[m] - apart, high[n] + apart
            single = len(readings[one.mark.id]) == len(readings[other.mark.id]) == 1
            if single and abs(high[n] - then[n]) > 2.0 * FIT_SIGMAS and _past(plan, then, off_by) < FIT_SIGMAS:
                both = readings[one.mark.id][0].id, readings[other.mark.id][0].id
                found.append((both, f"they fit when exchanged: {one.mark.id} read for {other.mark.id}"))
        if len({names for names, _ in found}) == 1:
            for name in found[0][0]:
                self.held_out[name] = (
                    f"Held out: with the other marks it lies in no plane; {found[0][1]}. Take it again."
                )
            return
        may = ""
        if found:
            names = ", ".join(sorted({name for both, _ in found for name in both}))
            may = f" One slip would explain it, but which cannot be told: {names}."
        said = f"The marks lie in no plane: the frame is twisted, or a height is off.{may} Take them again."
        for figure in ("frame_pitch", "frame_roll"):
            self.disagree.setdefault(figure, said)

    # weights

    def weights(self) -> None:
        groups: _Weighings = {}
        for reading in self.used():
            if isinstance(reading, Scale):
                raised = (reading.raised.end, reading.raised.by) if reading.raised else None
                groups.setdefault((reading.end, reading.side, raised), []).append(
                    _Read(reading, value_of(reading), sigma_of(reading))
                )
        kept: _Weighings = {}
        for (end, side, raised), reads in groups.items():
            kept[end, side, raised], why = self.repeated(reads, _weight_slips, self._weight)
            for figure in _WEIGHED if why else ():
                if raised is None or figure == "cg_height":
                    self.disagree[figure] = f"{end} {side or 'axle'}: {why}"
        self._pounds(kept)
        self._sums(kept)

    def _weight(self, kg: float) -> str:
        return weight(kg, self.units)

    def _pounds(self, kept: _Kept) -> None:
        """A wheel that weighs as much more or less than its partner as a pound is less than a kilogram."""
        for (end, side, raised), reads in kept.items():
            other = kept.get((end, "right", raised)) if side == "left" else None
            if not other or not reads:
                continue
            left, right = (float(np.mean([one.value for one in both])) for both in (reads, other))
            for one, high, low in ((reads, left, right), (other, right, left)):
                if low > 0.0 and abs(high / low * KG_PER_LB - 1.0) < 0.12 and one[0].reading.unit == "kg":
                    for read in one:
                        self.held_out[read.reading.id] = (
                            f"Held out: {self._weight(high)} beside {self._weight(low)} on that axle's other wheel: "
                            "pounds, taken down as kilograms?"
                        )

    def _sums(self, kept: _Kept) -> None:
        """What both ends weigh with one raised must add up to what they weigh level."""
        level = self._total(kept, None)
        for raised in sorted({key[2] for key in kept if key[2] is not None}):
            up = self._total(kept, raised)
            if level is None or up is None:
                continue
            fits = FIT_SIGMAS * sqrt(up[1] + level[1]) + _SUM_PART * level[0]
            if abs(up[0] - level[0]) <= fits:
                self._gains(kept, raised)
                continue
            reads = [one for key, group in kept.items() if key[2] == raised for one in group]
            told = [
                (one, slip) for one in reads for slip, value in _weight_slips(one)
                if abs(up[0] + value - one.value - level[0]) <= fits
            ]  # fmt: skip
            apart = f"With the {raised[0]} raised both ends weigh {self._weight(up[0])}, level {self._weight(level[0])}"
            if len({one.reading.id for one, _ in told}) == 1:
                self.held_out[told[0][0].reading.id] = f"Held out: {apart[0].lower()}{apart[1:]}. {told[0][1]}"
            else:
                self.disagree["cg_height"] = f"{apart}: they must add up. Take them again."

    def _gains(self, kept: _Kept, raised: Lift) -> None:
        """The end left on the ground gains; where it loses, the ends were taken for each other."""
        ground: End = "front" if raised[0] == "rear" else "rear"
        now, up = self._end(kept, ground, None), self._end(kept, ground, raised)
        if now is not None and up is not None and up[0] - now[0] < -FIT_SIGMAS * sqrt(up[1] + now[1]):
            self.disagree["cg_height"] = (
                f"With the {raised[0]} raised the {ground} weighs less than level: front and rear are taken for each "
                "other, or the raised end is. Take them again."
            )

    def _total(self, kept: _Kept, raised: Lift | None) -> tuple[float, float] | None:
        ends = [self._end(kept, end, raised) for end in ("front", "rear")]
        both = [one for one in ends if one is not None]
        return (both[0][0] + both[1][0], both[0][1] + both[1][1]) if len(both) == 2 else None

    def _end(self, kept: _Kept, end: End, raised: Lift | None) -> tuple[float, float] | None:
        """An axle's weight and its variance."""

        def of(side: Side | None) -> tuple[float, float] | None:
            reads = [one for one in kept.get((end, side, raised), []) if one.reading.id not in self.held_out]
            if not reads:
                return None
            return float(np.mean([r.value for r in reads])), sum(r.sigma**2 for r in reads) / len(reads) ** 2

        left, right = of("left"), of("right")
        if left and right:
            return left[0] + right[0], left[1] + right[1]
        return of(None)

    # distances

    def distances(self) -> None:
        for _ in range(_MOST_HELD):
            truck = self.without()
            suspect = [name for name, _ in place(truck).suspect]
            if not suspect:
                return
            held = _one_out(truck, suspect)
            if not held:
                break
            for name, why in held.items():
                self.held_out[name] = why
        if place(self.without()).suspect:
            for figure in PLACED:
                self.disagree[figure] = (
                    "The distances disagree, and which is off cannot be told: take another, to a mark, or all again."
                )


def _of_height(mark: bool, point: str) -> tuple[str, ...]:
    """The figures that a point's height goes into."""
    return ("frame_pitch", "frame_roll", "frame_twist") if mark else (f"{point.partition('-')[0]}_radius",)


_WEIGHED = ("mass", "front_share", "cg_x", "left_share", "cg_y", "cg_height")


def _largest(reads: Sequence[_Read]) -> list[_Read] | None:
    """The largest group that all fit together, in their order; None where another is as large."""
    if len(reads) < 2:
        return list(reads)
    ranked = sorted(reads, key=lambda one: one.value)
    groups: list[list[_Read]] = []
    for n in range(len(ranked)):
        group = [ranked[n]]
        for other in ranked[n + 1 :]:
            if not all(other.fits(one) for one in group):
                break
            group.append(other)
        groups.append(group)
    groups.sort(key=len, reverse=True)
    if len(groups[0]) == 1 or len(groups[1]) == len(groups[0]):
        return None
    kept = {one.reading.id for one in groups[0]}
    return [one for one in reads if one.reading.id in kept]


def _slip_of(one: _Read, group: Sequence[_Read], slips: Slips) -> str:
    """The slip without which it would have fitted, in words."""
    middle = float(np.mean([other.value for other in group]))
    sigma = max(float(np.std([other.value for other in group])), *(other.sigma for other in group))
    for words, value in slips(one):
        if _Read(one.reading, value, one.sigma).fits(_Read(one.reading, middle, sigma)):
            return f"{words[:1].upper()}{words[1:]}: it would fit. Take it again."
    return "Take it again."


def _angle_slips(one: _Read) -> Iterator[tuple[str, float]]:
    assert isinstance(one.reading, Angle)
    side = 1.0 if one.value >= 0.0 else -1.0
    yield "zeroed the other way, or on the other face", side * (90.0 - abs(one.value))
    yield "it points the other way", -one.value
    for value in _transposed(one.reading.value):
        straight = (one.reading.zero, one.reading.face) in (("level", "along"), ("plumb", "square"))
        change = value - one.reading.value if straight else one.reading.value - value
        yield "two digits exchanged", one.value + side * change


def _side_slips(one: _Read) -> Iterator[tuple[str, float]]:
    yield "it is to the other side", -one.value


def _length_slips(one: _Read) -> Iterator[tuple[str, float]]:
    for words, mm in _SLIPS_MM.items():
        for way in (-1.0, 1.0):
            yield f"off by {words}", one.value + way * mm
    assert isinstance(one.reading, Height | Distance)
    scale = 1.0 if one.reading.unit == "mm" else MM_PER_INCH
    for value in _transposed(one.reading.value):
        yield "two digits exchanged", value * scale


def _weight_slips(one: _Read) -> Iterator[tuple[str, float]]:
    yield "pounds, taken down as kilograms", one.value * KG_PER_LB
    yield "kilograms, taken down as pounds", one.value / KG_PER_LB
    scale = one.value / one.reading.value if one.reading.value else 1.0
    for value in _transposed(one.reading.value):
        yield "two digits exchanged", value * scale


def _transposed(value: float) -> Iterator[float]:
    """The number with two digits next to each other exchanged."""
    text = f"{value:g}"
    for n in range(len(text) - 1):
        if text[n].isdigit() and text[n + 1].isdigit() and text[n] != text[n + 1]:
            yield float(text[:n] + text[n + 1] + text[n] + text[n + 2 :])
        elif (
            n + 2 < len(text)
            and text[n + 1] == "."
            and text[n].isdigit()
            and text[n + 2].isdigit()
            and text[n] != text[n + 2]
        ):
            yield float(text[:n] + text[n + 2] + "." + text[n] + text[n + 3 :])


def _past(plan: np.ndarray, high: np.ndarray, off_by: np.ndarray) -> float:
    """By how many of their sigmas the worst of heights (K,) lies off their best plane, its share of freedom counted."""
    fit = plan @ np.linalg.pinv(plan)
    left = np.sqrt(np.maximum(1.0 - np.diag(fit), 1e-9))
    return float(np.max(np.abs(high - fit @ high) / (off_by * left)))


def _one_out(truck: Truck, suspect: Sequence[str]) -> dict[str, str]:
    """Which distance, or swapped two, to hold out and why: the one without which the rest agree; of several such, the
    one that a usual slip explains; of none, the worst. Nothing where it cannot be told."""
    for one, other in combinations(suspect[:6], 2):
        if not place(truck, exchanged=(one, other)).suspect:
            said = "Held out: it fits when exchanged with {}. Take both again."
            return {one: said.format(other), other: said.format(one)}
    alone = [name for name in suspect if not place(truck, without=[name]).suspect]
    slips = {name: _round_slip(truck, name) for name in alone or suspect[:1]}
    told = [name for name, slip in slips.items() if slip]
    if len(alone) > 1 and len(told) != 1:
        return {}
    name = told[0] if len(alone) > 1 else next(iter(slips))
    why = "the others agree without it" if alone else "it is the farthest off the others"
    return {name: " ".join(filter(None, (f"Held out: {why}.", slips[name], "Take it again.")))}


def _round_slip(truck: Truck, name: str) -> str:
    reading = next(r for r in truck.readings if r.id == name)
    placed = place(truck)
    off = placed.missed[name] / max(1.0 - placed.leverage[name], 1e-6)
    would = value_of(reading) - off
    slips = list(_length_slips(_Read(reading, value_of(reading), 0.0)))
    words, value = min(slips, key=lambda slip: abs(slip[1] - would))
    return f"{words[:1].upper()}{words[1:]}." if abs(value - would) < 2.0 * sigma_of(reading) else ""


def widened(sigma: float, spread: float | None) -> float:
    """The larger of what the readings' own sigmas say and what their scatter says."""
    return sigma if spread is None else max(sigma, spread)
