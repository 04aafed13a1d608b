"""What the readings come to, in words: figures beside those in force, what to take again and why, what is not used."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

from oak_lever.baseline.agree import agreed
from oak_lever.baseline.angles import turned_at
from oak_lever.baseline.direct import direct_figures
from oak_lever.baseline.figures import Baseline, baseline
from oak_lever.baseline.placement import Placed, place
from oak_lever.baseline.spread import Spread, sigma_of
from oak_lever.design.running_gear import Driveshaft
from oak_lever.design.types import Design
from oak_lever.truck.types import Angle, Distance, Height, Scale, Truck
from oak_lever.units import MM_PER_INCH, Units, length

Unit = Literal["mm", "deg", "kg", "share"]
Grade = Literal["inside", "outside", "unsure"]


@dataclass(frozen=True)
class Known:
    """A figure that readings can give: its words and unit, the truck's own figure it is (a path in its file), and how
    far from `target` it may be: a house value."""

    words: str
    unit: Unit
    path: str | None = None
    target: float | None = None
    tolerance: float | None = None


KNOWN: dict[str, Known] = {
    "frame_pitch": Known("Frame, nose up", "deg", None, 0.0, 0.3),
    "frame_roll": Known("Frame, left side up", "deg", None, 0.0, 0.3),
    "frame_twist": Known("Frame, twist from rear to front", "deg", None, 0.0, 0.3),
    "rear_fore_aft": Known("Rear axle, ahead of its station", "mm", "axles.rear.station", 0.0, 3.0),
    "rear_offset": Known("Rear axle, left of center", "mm", None, 0.0, 3.0),
    "rear_thrust_angle": Known("Rear axle, turned left", "deg", None, 0.0, 0.1),
    "front_fore_aft": Known("Front axle, ahead of its station", "mm", "axles.front.station", 0.0, 3.0),
    "front_offset": Known("Front axle, left of center", "mm", None, 0.0, 3.0),
    "front_thrust_angle": Known("Front axle, turned left", "deg", None, 0.0, 0.1),
    "wheelbase_left": Known("Wheelbase, left", "mm"),
    "wheelbase_right": Known("Wheelbase, right", "mm"),
    "rear_pinion": Known("Rear pinion, nose up", "deg"),
    "front_pinion": Known("Front pinion, nose up", "deg"),
    "case_output": Known("Transfer case output, down on its way back", "deg"),
    "output_offset": Known("Transfer case output, left of center", "mm"),
    "output_turn": Known("Transfer case output, turned left on its way back", "deg"),
    "rear_radius": Known("Rear tire, loaded radius", "mm", "axles.rear.tire_radius_loaded"),
    "front_radius": Known("Front tire, loaded radius", "mm", "axles.front.tire_radius_loaded"),
    "mass": Known("Mass of the whole truck", "kg", "vehicle.mass"),
    "front_share": Known("Share on the front axle", "share", "vehicle.front_share"),
    "cg_x": Known("Center of gravity, ahead of the datum", "mm"),
    "left_share": Known("Share on the left", "share", None, 0.5, 0.02),
    "cg_y": Known("Center of gravity, left of center", "mm"),
    "cg_height": Known("Center of gravity, off the floor", "mm", "vehicle.cg_height"),
}
_ROUND: dict[str, float] = {"10 mm": 10.0, "1/2 in": MM_PER_INCH / 2, "1 in": MM_PER_INCH}
"""Slips that a tape invites."""
_NEAR_SIGMAS = 2.0
_TRIED = 6
_OF_CASE: dict[str, Callable[[Driveshaft], float]] = {
    "case_output": lambda shaft: shaft.case.angle,
    "output_offset": lambda shaft: shaft.case.joint[1],
    "output_turn": lambda shaft: shaft.case.turn,
}
"""What of a rear axle's shaft each reading of the output is."""


@dataclass(frozen=True)
class BaselineFigure:
    """`value` and one standard deviation; `grade` against the `tolerance` about its `target`, where there is one:
    `unsure` where two sigmas reach across its edge. `take`: what the truck's own figure at `path` would be, `stands`
    what it is."""

    id: str
    words: str
    unit: Unit
    value: float
    sigma: float
    grade: Grade | None
    target: float | None
    tolerance: float | None
    own: bool
    """Whether target and tolerance are this truck's own, and not the house's."""
    path: str | None
    take: float | None
    stands: float | None


@dataclass(frozen=True)
class Unsettled:
    """A figure that its readings do not give because they disagree, and why."""

    id: str
    words: str
    why: str


@dataclass(frozen=True)
class Told:
    """`figures`: of the readings that fit together. `unsettled`: what those that are left disagree about. `held_out` by
    reading: why it is not used; `again` by reading: why to take it again; `unused` by reading: why it is kept and not
    used; `hints` for all."""

    figures: tuple[BaselineFigure, ...]
    unsettled: tuple[Unsettled, ...]
    held_out: dict[str, str]
    again: dict[str, str]
    unused: dict[str, str]
    hints: tuple[str, ...]


def told(truck: Truck, designs: Mapping[str, Design], units: Units) -> Told:
    """What a truck's readings come to. `designs` by end: what brings a pinion read away from ride back to it."""
    fit = agreed(truck, designs, units)
    taken = baseline(fit.truck, designs)
    found = {**taken.figures, **direct_figures(fit.truck)}
    held = fit.held_out
    return Told(
        tuple(
            _figure(name, _widened(found[name], fit.spread.get(name)), truck, designs)
            for name in KNOWN if name in found and name not in fit.disagree
        ),
        tuple(Unsettled(name, KNOWN[name].words, fit.disagree[name]) for name in KNOWN if name in fit.disagree),
        held,
        _again(fit.truck, taken.placed, units),
        {name: why for name, why in _unused(truck, taken.placed, designs) if name not in held},
        tuple(_hints(fit.truck, taken)),
    )  # fmt: skip


def _widened(found: Spread, spread: float | None) -> Spread:
    """With the larger of what the readings' own sigmas and their scatter say of it."""
    return found if spread is None or spread <= found.sigma else Spread(found.value, {"scatter": spread})


def _figure(name: str, found: Spread, truck: Truck, designs: Mapping[str, Design]) -> BaselineFigure:
    known = KNOWN[name]
    own = truck.targets.get(name)
    if own is not None:
        known = replace(known, target=own.target, tolerance=own.tolerance)
    stands = _at(truck, known.path) if known.path else None
    take = found.value if stands is None or not name.endswith("fore_aft") else stands + found.value
    end = name.removesuffix("_pinion")
    if name.endswith("pinion") and end in designs:
        stands = designs[end].axle.pinion.angle
    shaft = designs["rear"].driveshaft if "rear" in designs else None
    if shaft is not None and name in _OF_CASE:
        stands = _OF_CASE[name](shaft)
    return BaselineFigure(
        name, known.words, known.unit, found.value + 0.0, found.sigma, _grade(known, found.value, found.sigma),
        known.target, known.tolerance, own is not None, known.path, take if known.path else None, stands,
    )  # fmt: skip


def _at(truck: Truck, path: str) -> float:
    value: object = truck
    for step in path.split("."):
        value = getattr(value, step)
    assert isinstance(value, float)
    return value


def _grade(known: Known, value: float, sigma: float) -> Grade | None:
    if known.target is None or known.tolerance is None:
        return None
    off = abs(value - known.target)
    if abs(off - known.tolerance) < 2.0 * sigma:
        return "unsure"
    return "inside" if off <= known.tolerance else "outside"


def _again(truck: Truck, placed: Placed, units: Units) -> dict[str, str]:
    """Why a suspect reading is to be taken again: how far off the others it is, and what slip would explain that."""
    names = [name for name, _ in placed.suspect]
    swapped = _swapped(truck, names[:_TRIED])
    alone = {name for name, _ in place(truck, without=names[:1]).suspect} if names else set()
    found = {}
    for reading in (r for r in truck.readings if isinstance(r, Distance) and r.id in names):
        if reading.id != names[0] and reading.id not in alone and reading.id not in swapped:
            found[reading.id] = f"Off only as long as {names[0]} stands: take that one again first."
            continue
        off = placed.missed[reading.id] / (1.0 - placed.leverage[reading.id])
        way = "more" if off > 0 else "less"
        said = f"Take it again: it reads {length(abs(off), units)} {way} than the others together say"
        slip = min(_ROUND, key=lambda name: abs(abs(off) - _ROUND[name]))
        near = abs(abs(off) - _ROUND[slip]) < _NEAR_SIGMAS * sigma_of(reading)
        said += f": near a round {slip}." if near else "."
        if reading.id in swapped:
            said += f" It fits when exchanged with {swapped[reading.id]}."
        found[reading.id] = said
    return {name: found[name] for name in names}


def _swapped(truck: Truck, names: list[str]) -> dict[str, str]:
    """Two readings that leave nothing suspect when each is taken for the other."""
    for one, other in combinations(names, 2):
        if not place(truck, exchanged=(one, other)).suspect:
            return {one: other, other: one}
    return {}


def _unused(truck: Truck, placed: Placed, designs: Mapping[str, Design]) -> Iterator[tuple[str, str]]:
    marks = {mark.id for mark in truck.marks}
    for reading in truck.readings:
        if reading.left_out:
            yield reading.id, "Left out by hand."
        elif reading.id in placed.unused:
            yield reading.id, "Shorter than 50 mm: it may lie either way, so it is kept and not used."
        elif isinstance(reading, Height) and reading.point not in marks:
            yield reading.id, "It gives the tire's loaded radius; the frame's attitude comes from marks on the frame."
        elif isinstance(reading, Angle) and turned_at(reading, designs) is None:
            yield reading.id, "Read away from ride, and no design of that end says how far the pinion turns there."
        elif isinstance(reading, Scale) and reading.raised and reading.raised.end == reading.end:
            yield reading.id, "Of the raised end: only what the end on the ground gains tells the height."


def _hints(truck: Truck, taken: Baseline) -> Iterator[str]:
    distances = [r for r in truck.readings if isinstance(r, Distance) and not r.left_out]
    if taken.placed.flipped:
        yield "An axle stands past a mark from where its station puts it: correct its station first."
    if distances and not taken.placed.figures:
        yield "These distances fix nothing yet: take fore-aft ones, or one to a mark on the frame."
    scales = [r for r in truck.readings if isinstance(r, Scale) and not r.left_out]
    if scales and "mass" not in taken.figures:
        yield "Weigh both ends, each by both its wheels or by the whole axle."
    if any(s.raised for s in scales) and "cg_height" not in taken.figures:
        yield "For the height of the center of gravity weigh the end that stays on the ground, level and raised."
