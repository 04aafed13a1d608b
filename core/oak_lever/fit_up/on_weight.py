"""On its weight, and held at bump or droop by jack: how the axle stands there, and what was read of it beside what is
foretold at that height.

How it stands is the travel and articulation at which the struts are as long as they were read: least squares over the
design's own motion (Gauss and Newton). What was built off is added to what the design does there as it is at ride."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from math import asin, degrees, isnan, radians, sin

import numpy as np

from oak_lever.clearance.clearances import gaps_here
from oak_lever.cycle import Look, look
from oak_lever.design.fit import AnyStoodReading, BarRead, FitRecord, GapRead, PinionRead, Stance, StrutRead
from oak_lever.design.parts import part_said, parts_of, said
from oak_lever.design.types import Design
from oak_lever.figures.sit import TURN_MM, Sitting, with_turns
from oak_lever.fit_up.fitted import fitted
from oak_lever.fit_up.readings import bar_names, log_of
from oak_lever.judge.findings import findings_on
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations
from oak_lever.units import MM_PER_INCH
from oak_lever.weigh_up.outcomes import WITHIN
from oak_lever.weigh_up.tolerance import tolerance

STRUT_MM, ANGLE_DEG, GAP_MM = 3.0, WITHIN["pinion_change"], 3.0
"""A strut's length, an angle and a gap that differ by more are said to differ."""
STANDS_MM = 3.0
"""The truck stands at ride height where each wheel is this near to it."""
_ROUNDS = 12
_STILL = 1e-6
_NUDGE_MM, _NUDGE_DEG = 0.5, 0.1
_DRAWN_MM, _DRAWN_DEG = 1000.0, 5.0
"""One standard deviation of how it is taken to stand before anything is read: wide, so that it only holds what the
readings leave open."""
_READ_MM = 1.5
_LONGER_MM = 12.0
"""A bar is not taken to be longer than it was said by more than this."""
_MOST_BARS = 4
_FULL_TURN = 90.0


@dataclass(frozen=True)
class Stood:
    """How the axle stands: travel of its center (mm) and articulation (degrees), `wanted` the travel that is drawn
    there; `left`, `right`: how far each wheel is up in the truck from ride (mm); `level`: taken to stand level, as
    struts of one side alone were read."""

    stance: Stance
    wanted: float
    travel: float
    articulation: float
    left: float
    right: float
    level: bool


@dataclass(frozen=True)
class Compared:
    """A reading beside what is foretold: `drawn` of the design at that height, `built` with what was read of mounts and
    bars (None: nothing was, or it is not known). mm, or degrees; + is nose up, and the frame's end higher. `differs`:
    by more than it may; then what that points to."""

    reading: str
    unit: str
    read: float
    drawn: float | None
    built: float | None
    differs: bool
    points: tuple[str, ...]


@dataclass(frozen=True)
class OnWeight:
    """How it stands in each stance that struts were read of; each reading beside what is foretold there; what the
    height on its weight points to; and readings of what the design has not, or that nothing can be said of, with
    why."""

    stood: tuple[Stood, ...]
    beside: tuple[Compared, ...]
    height: tuple[str, ...]
    strange: dict[str, str]


def on_weight(design: Design, record: FitRecord) -> OnWeight:
    """What was read with the axle on its springs, or held at the ends of its travel."""
    strange = dict(_strange(design, record))
    read = [one for one in record.stood if one.id not in strange and not one.left_out]
    stances: dict[Stance, Stood] = {}
    for stance in ("weight", "bump", "droop"):
        struts = [one for one in read if one.stance == stance and isinstance(one, StrutRead)]
        found = _stands(design, stance, struts) if struts else None
        if found is not None:
            stances[stance] = found
        elif struts:
            strange |= {one.id: "the axle can't stand where the struts are so long" for one in struts}
    strange |= {
        one.id: "read a shock, a strap or a stop there too: how the axle stands is not known"
        for one in read if one.stance not in stances and one.id not in strange
    }  # fmt: skip
    foretold = _Foretold(design, record)
    beside = [foretold.of(one, stances[one.stance]) for one in read if one.id not in strange]
    no_pair = {one.reading for one in beside if one.drawn is None}
    strange |= dict.fromkeys(no_pair, "the room has no such two parts that are held apart")
    beside = [one for one in beside if one.reading not in no_pair]
    height = tuple(_height(design, stances["weight"])) if "weight" in stances else ()
    return OnWeight(tuple(stances.values()), tuple(beside), height, strange)


def _strange(design: Design, record: FitRecord) -> Iterator[tuple[str, str]]:
    struts, bars = strut_columns(design), bar_names(design)
    seen = set()
    for one in record.stood:
        if one.id in seen:
            yield one.id, "another reading has its number"
        seen.add(one.id)
        if isinstance(one, StrutRead) and one.of not in struts:
            yield one.id, "this design has no such shock, strap or stop"
        elif isinstance(one, BarRead) and (one.of not in bars or one.of.startswith("watts-")):
            yield one.id, "this design has no such bar"


def strut_columns(design: Design) -> dict[str, str]:
    """By the id of each shock, strap and stop, the column of what is read of it: its length, a stop's open gap."""
    corners = design.corners
    if corners is None:
        return {}
    return (
        {one.id: f"shock {one.id} length" for one in corners.shocks}
        | {one.id: f"strap {one.id} length" for one in corners.straps}
        | {one.id: f"stop {one.id} to_touch" for one in corners.stops}
    )


def stood_mm(one: StrutRead | GapRead) -> float:
    """What was read, mm."""
    return one.value * (MM_PER_INCH if one.unit == "in" else 1.0)


def _seen(design: Design, travel: float, articulation: float) -> Look | None:
    found = look(design, travel, articulation)
    return found if found.here.reached[0] else None


def _columns(seen: Look) -> dict[str, float]:
    return {name: float(values[-1]) for name, values in seen.columns.items()}


def _stands(design: Design, stance: Stance, struts: list[StrutRead]) -> Stood | None:
    """None where the axle comes to no such place."""
    names = strut_columns(design)
    sides = {_side(design, one.of) for one in struts}
    level = len(sides) < 2
    value = np.array([stood_mm(one) for one in struts])

    def lengths(at: Floats) -> Floats | None:
        seen = _seen(design, float(at[0]), float(at[1]))
        if seen is None:
            return None
        found = _columns(seen)
        return np.array([max(found[names[one.of]], 0.0) for one in struts])  # a stop that is pressed reads nothing

    at = np.zeros(2)
    drawn = np.array([1.0 / _DRAWN_MM, 1.0 / _DRAWN_DEG])
    nudges = np.array([_NUDGE_MM, _NUDGE_DEG])
    for _ in range(_ROUNDS):
        here = lengths(at)
        ahead = [lengths(at + nudges * way) for way in np.eye(2)]
        if here is None or any(one is None for one in ahead):
            return None
        slopes = np.array([(one - here) / nudge for one, nudge in zip(ahead, nudges, strict=True) if one is not None]).T
        if level:
            slopes[:, 1] = 0.0
        rows = np.vstack([slopes / _READ_MM, np.diag(drawn)])
        left = np.concatenate([(value - here) / _READ_MM, -at * drawn])
        step = np.linalg.lstsq(rows, left, rcond=None)[0]
        for _ in range(_ROUNDS):
            if lengths(at + step) is not None:
                break
            step = step / 2.0
        at = at + step
        if np.abs(step).max() < _STILL:
            break
    travel, articulation = (float(v) for v in at)
    more = sin(radians(articulation)) * design.axle.track / 2.0
    wanted = {"weight": 0.0, "bump": design.travel.bump, "droop": -design.travel.droop}[stance]
    return Stood(stance, wanted, travel, articulation, travel + more, travel - more, level)


def _side(design: Design, name: str) -> int:
    (y,) = {spot.at[1] for spot in parts_of(design).spots if spot.part == name and spot.name.endswith(".axle")} or {0.0}
    return int(np.sign(y))


class _Foretold:
    """What readings should say, as drawn and as built."""

    def __init__(self, design: Design, record: FitRecord) -> None:
        self.design = design
        log, _ = log_of(record, design)
        self._built = fitted(design, log) if log.readings else None
        self._at = cache(lambda travel, articulation: look(design, travel, articulation))
        self._slopes = cache(lambda: tolerance(design).lengths or {})

    def of(self, one: AnyStoodReading, stood: Stood) -> Compared:
        if isinstance(one, PinionRead):
            return self._pinion(one, stood)
        if isinstance(one, BarRead):
            return self._bar(one, stood)
        if isinstance(one, StrutRead):
            seen = self._at(stood.travel, stood.articulation)
            drawn = max(_columns(seen)[strut_columns(self.design)[one.of]], 0.0)
            return _beside(one.id, "mm", stood_mm(one), drawn, None, STRUT_MM, lambda off: (
                "It fits no height that the other struts say: read them again, eye to eye.",
            ))  # fmt: skip
        gaps = gaps_here(self.design, stood.travel, stood.articulation)
        gap = next((gap.gap for gap in gaps if {gap.a, gap.b} == {one.of, one.to}), None)
        named = " and ".join(part_said(self.design, part) for part in (one.of, one.to))
        return _beside(one.id, "mm", stood_mm(one), gap, None, GAP_MM, lambda off: (
            f"{abs(off):.0f} mm {'more' if off > 0 else 'less'} than drawn between {named} at that height.",
        ))  # fmt: skip

    def _off(self, figure: str) -> float | None:
        """How far what was built is off what is drawn, at ride; None where nothing was read or it is not known."""
        if self._built is None or self._built.as_made is None or self._built.designed is None:
            return None
        made, drawn = self._built.as_made[figure], self._built.designed[figure]
        return None if made is None or drawn is None else made - drawn

    def _pinion(self, one: PinionRead, stood: Stood) -> Compared:
        changed = float(self._at(stood.travel, stood.articulation).here.columns["pinion_change"][0])
        drawn = self.design.axle.pinion.angle + changed
        off = self._off("pinion_change")
        built = None if off is None else drawn + off
        read = nose_up(one)
        return _beside(one.id, "deg", read, drawn, built, ANGLE_DEG, lambda by: self._pinion_points(one, read, by))

    def _pinion_points(self, one: PinionRead, read: float, off: float) -> tuple[str, ...]:
        wanted = read - off
        points = [words for words, other in _other_readings(one) if abs(other - wanted) <= ANGLE_DEG]
        by_length = {bar: by["pinion_change"] for bar, by in self._slopes().items() if by.get("pinion_change")}
        longer = sorted(
            ((off / slope, bar) for bar, slope in by_length.items() if slope and abs(off / slope) <= _LONGER_MM),
            key=lambda found: abs(found[0]),
        )
        points += [
            f"By its slope at ride it would come from the {said(self.design, bar)} {abs(by):.1f} mm "
            f"{'longer' if by > 0 else 'shorter'} than it is said to be."
            for by, bar in longer[:_MOST_BARS]
        ]
        return tuple(points or ["No bar a little off its length explains it: read the perch and the mounts again."])

    def _bar(self, one: BarRead, stood: Stood) -> Compared:
        state = self._at(stood.travel, stood.articulation).here.state
        ends = {spot.name.rpartition(".")[2]: spot for spot in parts_of(self.design).spots if spot.part == one.of}
        drawn_ends = np.array([ends["axle"].at, ends["frame"].at])
        drawn = self._slope(state, drawn_ends)
        built, long = None, float(np.linalg.norm(drawn_ends[0] - drawn_ends[1]))
        offs = [self._off(name) for name in ("axle_x", "axle_y", "pinion_change", "yaw")]
        if self._built is not None and None not in offs:
            x, y, pitch, yaw = (float(off or 0.0) for off in offs)
            nose = -1.0 if self.design.axle.end == "rear" else 1.0
            moved = state + np.array([x, y, 0.0, 0.0, nose * radians(pitch), radians(yaw), 0.0])
            built = self._slope(moved, np.array([self._built.mounts[ends[end].name].at for end in ("axle", "frame")]))
        read = one.value if one.high == "frame" else -one.value

        def points(off: float) -> tuple[str, ...]:
            wanted = read - off
            if abs(-read - wanted) <= ANGLE_DEG:
                return ("It would be as foretold with its other end the higher.",)
            by = long * (sin(radians(read)) - sin(radians(wanted)))
            higher = "frame" if by > 0 else "axle"
            return (f"Its end at the {higher} stands {abs(by):.0f} mm higher against the other than foretold.",)

        return _beside(one.id, "deg", read, drawn, built, ANGLE_DEG, points)

    def _slope(self, state: Floats, ends: Floats) -> float:
        """Degrees from level of a bar between its ends at ride, (axle, frame), + the frame's higher, with the axle at a
        state (1, 7)."""
        rest = np.array([0.0, 0.0, self.design.axle.tire_radius_loaded])
        axle = state[0, :3] + rotations(state)[0] @ (ends[0] - rest)
        span = ends[1] - axle
        return degrees(asin(float(span[2]) / max(float(np.linalg.norm(span)), 1e-9)))


def nose_up(one: PinionRead) -> float:
    """What a gauge's reading says of the pinion, degrees nose up."""
    straight = (one.zero, one.face) in (("level", "along"), ("plumb", "square"))
    return (one.value if straight else _FULL_TURN - one.value) * (1.0 if one.points == "up" else -1.0)


def _other_readings(one: PinionRead) -> Iterator[tuple[str, float]]:
    """What the gauge would say had one thing been set down wrongly, and in words which."""
    yield "It would fit with the nose pointing the other way: look again which way it points.", -nose_up(one)
    other = one.model_copy(update={"face": "square" if one.face == "along" else "along"})
    yield "It would fit from the other face: look again on which face the gauge lay, and its zero.", nose_up(other)


def _beside(
    reading: str, unit: str, read: float, drawn: float | None, built: float | None, within: float,
    points: Callable[[float], tuple[str, ...]],
) -> Compared:  # fmt: skip
    drawn = None if drawn is None or isnan(drawn) else drawn
    wanted = drawn if built is None else built
    differs = wanted is not None and abs(read - wanted) > within
    return Compared(
        reading, unit, read, drawn, built, differs,
        points(read - wanted) if differs and wanted is not None else (),
    )  # fmt: skip


def _height(design: Design, stood: Stood) -> Iterator[str]:
    """What the height on its weight points to, and what of the springs would mend it, sat anew."""
    low = -stood.travel
    if abs(stood.left - stood.right) > 2.0 * STANDS_MM and not stood.level:
        by = stood.left - stood.right
        yield (
            f"The {'left' if by > 0.0 else 'right'} stands {abs(by):.0f} mm lower at the wheels than the other side: "
            "level ground and like tire pressures first, then seats, springs and the load of both sides."
        )
    if abs(low) <= STANDS_MM:
        yield "It stands at the ride height that was drawn: inside tolerance."
        return
    way = "lower" if low < 0 else "higher"
    yield f"It stands {abs(low):.0f} mm {way} than drawn, at the axle's center."
    sitting = Sitting(design)
    foretold = sitting.sits().travel
    if foretold is None:
        return
    settled = -sitting.settled(foretold)
    down = settled - foretold
    if abs(foretold - stood.travel) <= STANDS_MM < down:
        yield f"That is where the springs as drawn hold the weight in force before they settle, by {down:.0f} mm."
        if abs(settled) <= STANDS_MM:
            yield "Settled it would stand as drawn: drive it, and read it again before a seat is turned."
            return
    elif abs(settled - stood.travel) <= STANDS_MM:
        yield "That is where the springs as drawn hold the weight in force: it is the springs, not what was built."
    else:
        yield (
            f"The springs as drawn would hold the weight in force {_way(-settled)}: weigh it, and look at springs and "
            "seats."
        )
    for one in sitting.turns():
        turns = sitting.turns_for(one.shocks, -low)
        if turns is None or abs(turns) > _MOST_TURNS or abs(turns) < _LEAST_TURN:
            continue
        names = " and ".join(said(design, name) for name in one.shocks)
        then = _graver(design, with_turns(design, one.shocks, turns))
        yield (
            f"{abs(turns):.1f} turns {'tighter' if turns > 0 else 'looser'} at the seats of {names} "
            f"{'raise' if turns > 0 else 'lower'} it by as much, at a guessed {_TO_THE_INCH:.0f} threads to the inch. "
            f"{then}".rstrip()
        )


_MOST_TURNS, _LEAST_TURN = 20.0, 0.1
_TO_THE_INCH = MM_PER_INCH / TURN_MM
_GRAVITY = {"good": 0, "look_up": 0, "consider": 1, "fix": 2, "stop": 3}


def _graver(design: Design, turned: Design) -> str:
    """What is graver of it then, in words."""
    before = {one.id: _GRAVITY[one.severity] for one in findings_on(design)}
    graver = [
        one for one in findings_on(turned)
        if _GRAVITY[one.severity] > before.get(one.id, 0) and one.figure != "sits"  # its height is what was read
    ]  # fmt: skip
    if not graver:
        return ""
    return f"Then, as drawn: {'; '.join(f'{one.severity}, {one.title[:1].lower()}{one.title[1:]}' for one in graver)}."


def _way(low: float) -> str:
    if abs(low) <= STANDS_MM:
        return "at the height drawn"
    return f"{abs(low):.0f} mm {'lower' if low < 0 else 'higher'} than drawn"
