"""Every part's factors held against what is wanted of them, and the tubes that would meet every case."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from oak_lever.design.links import TUBE_MM, WALL_MM, Tube, Watts
from oak_lever.design.parts import said
from oak_lever.design.types import Design
from oak_lever.figures.links import link_figures
from oak_lever.figures.register import Severity
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.strength.cases import Case, loads_of
from oak_lever.strength.loads import WANTED, WANTED_ABUSED, Reckoned, reckoned
from oak_lever.strength.members import HOUSE_MATERIAL, material_of

FACTORS = {
    "yield": "bending and tension of the tube",
    "buckling": "buckling",
    "joint_axle": "joint at the axle",
    "joint_frame": "joint at the frame",
    "bolt_axle": "bolt at the axle",
    "bolt_frame": "bolt at the frame",
    "shank_axle": "threaded shank at the axle",
    "shank_frame": "threaded shank at the frame",
}
_LOOK_UP = {
    "joint_axle": "the axle joint's rating across its bolt",
    "joint_frame": "the frame joint's rating across its bolt",
    "bolt_axle": "the axle bolt's diameter and yield",
    "bolt_frame": "the frame bolt's diameter and yield",
}
ROCK = "rock"
CASES = {
    "static": "standing", "launch": "launching", "reverse": "backing up", "brake": "braking",
    "one_wheel_left": "all drive at the left tire", "one_wheel_right": "all drive at the right tire",
    "corner_left": "turning left", "corner_right": "turning right", "landing": "landing on full bump",
    "strike_left": "left tire strikes", "strike_right": "right tire strikes", ROCK: "dropped on a rock",
}  # fmt: skip
"""Cases in words; one of the user's own goes by its id."""


@dataclass(frozen=True)
class Factored:
    """The worst of one factor of a part over all cases: how many times that load brings it to its end, the case, and
    what is wanted there. `factor` None: past the Euler load, or no such thing is known of it (`look_up` says what)."""

    what: str
    words: str
    factor: float | None
    wanted: float
    case: str
    case_words: str
    severity: Severity
    look_up: str | None


@dataclass(frozen=True)
class PartLoads:
    """A bar or an arm: its factors, the worst first, and what the reckoning guesses of it."""

    part: str
    words: str
    severity: Severity
    factors: tuple[Factored, ...]
    guessed: tuple[str, ...]


def case_words(case: str) -> str:
    """A case by its id, in words."""
    return CASES.get(case, case)


def part_loads(design: Design, found: Reckoned) -> list[PartLoads]:
    """Every bar and arm that is reckoned, the gravest first."""
    rated = [_part(design, found, name) for name in dict.fromkeys(n for one in found.cases for n in one.strength or ())]
    grave = ("stop", "fix", "consider", "good")
    return sorted(rated, key=lambda one: (grave.index(one.severity), _shortest(one)))


def _shortest(one: PartLoads) -> float:
    return min((f.factor / f.wanted for f in one.factors if f.factor is not None), default=0.0)


def _part(design: Design, found: Reckoned, name: str) -> PartLoads:
    factors = [one for what in FACTORS if (one := _worst(found, name, what)) is not None]
    rock = found.rock.get(name)
    if rock is not None:
        value = rock["yield"]
        factors.append(
            Factored(
                ROCK, "bending on a rock", value, WANTED_ABUSED, ROCK, CASES[ROCK], _grade(value, WANTED_ABUSED), None
            )
        )
    factors.sort(key=lambda one: one.factor / one.wanted if one.factor is not None else float("inf"))
    severities = [one.severity for one in factors]
    gravest: Severity = next((one for one in ("stop", "fix", "consider") if one in severities), "good")
    return PartLoads(name, said(design, name), gravest, tuple(factors), tuple(_guesses(design, name)))


def _worst(found: Reckoned, name: str, what: str) -> Factored | None:
    rated: list[tuple[float, float, float, Case]] = []
    for one in found.cases:
        factor = one.strength[name][what] if one.strength and name in one.strength else None
        if factor is not None:
            wanted = WANTED_ABUSED if one.case.abuse else WANTED
            rated.append((factor / wanted, factor, wanted, one.case))
    if rated:
        _, factor, wanted, case = min(rated, key=lambda one: one[0])
        return Factored(
            what, FACTORS[what], factor, wanted, case.id, case_words(case.id), _grade(factor, wanted), None
        )  # fmt: skip
    if what not in _LOOK_UP:
        return None
    return Factored(what, FACTORS[what], None, WANTED, "", "", "consider", _LOOK_UP[what])


def _grade(factor: float, wanted: float) -> Severity:
    return "stop" if factor < 1.0 else "fix" if factor < wanted else "good"


def _tube(design: Design, name: str) -> Tube | None:
    lateral = design.lateral
    if name in ("watts-left", "watts-right") and isinstance(lateral, Watts):
        return lateral.tube
    if name == "panhard" and lateral is not None and lateral.kind == "panhard":
        return lateral.tube
    return next((link.tube for link in design.links if link.id == name), None)


def _guesses(design: Design, name: str) -> list[str]:
    """What of this part's figures nobody has said."""
    found, tube, loads = [], _tube(design, name), loads_of(design)
    if tube is None:
        found.append(f"its tube is guessed: {TUBE_MM:g} mm by {WALL_MM:g} mm")
    if tube is None or tube.material is None:
        found.append(f"its steel is guessed: {HOUSE_MATERIAL.name.lower()}, {HOUSE_MATERIAL.yield_:g} MPa")
    said_of = design.loads.model_fields_set if design.loads else set()
    if "grip" not in said_of:
        found.append(f"grip is the house's: {loads.grip:g}")
    return found


TUBES: tuple[tuple[float, float], ...] = tuple(
    (across, wall) for across in (31.75, 38.1, 44.45, 50.8, 57.15, 63.5, 76.2) for wall in (3.05, 4.78, 6.35, 9.53)
)
"""Common round tubes, diameter and wall, mm."""


@dataclass(frozen=True)
class Holds:
    """A tube that would meet every case in a part, its worst factor then, and what it adds to the bar's mass, kg; the
    room around it grows tighter by `nearer`, mm (below 0: wider). No other figure of the axle's motion changes."""

    diameter: float
    wall: float
    factor: float
    wanted: float
    case_words: str
    mass: float
    nearer: float


def tube_that_holds(design: Design, part: str, tubes: Sequence[tuple[float, float]] = TUBES) -> Holds | None:
    """The lightest of the tubes, of the same steel, that meets what is wanted in every case; None where none does, or
    where the part has no tube of its own to change."""
    link = next((n for n, one in enumerate(design.links) if one.id == part), None)
    if link is None and part != "panhard":
        return None
    own = _tube(design, part) or Tube()
    density = material_of(design, own, part).density
    for across, wall in sorted(tubes, key=lambda one: one[1] * (one[0] - one[1])):
        changed = _with_tube(design, link, across, wall)
        now = next(one for one in part_loads(changed, reckoned(changed)) if one.part == part)
        tube = [one for one in now.factors if one.what in ("yield", "buckling", ROCK) and one.factor is not None]
        if tube and all(one.factor is not None and one.factor >= one.wanted for one in tube):
            worst = tube[0]
            assert worst.factor is not None
            more = pi * (wall * (across - wall) - own.wall * (own.diameter - own.wall)) * density * 1e-9
            long = _long(design, part)
            nearer = (across - own.diameter) / 2.0
            return Holds(across, wall, worst.factor, worst.wanted, worst.case_words, more * long, nearer)
    return None


def _with_tube(design: Design, link: int | None, across: float, wall: float) -> Design:
    size = {"diameter": across, "wall": wall}
    if link is not None:
        one = design.links[link]
        tube = {**(one.tube.model_dump(exclude_unset=True) if one.tube else {}), **size}
        changed = one.rewritten(tube=tube)
        return design.model_copy(update={"links": (*design.links[:link], changed, *design.links[link + 1 :])})
    lateral = design.lateral
    assert lateral is not None
    assert lateral.kind == "panhard"
    tube = {**(lateral.tube.model_dump(exclude_unset=True) if lateral.tube else {}), **size}
    return design.model_copy(update={"lateral": lateral.rewritten(tube=tube)})


def _long(design: Design, part: str) -> float:
    return next((one.length for one in link_figures(mechanism_of(design)) if one.id == part), 0.0)
