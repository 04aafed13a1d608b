"""Every part's factors held against what is wanted of them, and the tubes that would meet every case."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf, pi
from typing import Any

from oak_lever.design.links import TUBE_MM, WALL_MM, Mount, RadiusArm, Tube, Watts
from oak_lever.design.materials import HOUSE_MATERIAL
from oak_lever.design.parts import said
from oak_lever.design.types import Design
from oak_lever.figures.links import link_figures
from oak_lever.figures.register import Severity
from oak_lever.figures.register.loads import WANTED, WANTED_ABUSED
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.strength.cases import loads_of
from oak_lever.strength.loads import Carried, Reckoned, reckoned
from oak_lever.strength.members import material_of
from oak_lever.units import stress

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
    """The worst of one factor of a part over all cases, one that breaks it before one that is only short of more: how
    many times that load brings it to its end, the case, and what is wanted there. `factor` None: past the Euler load,
    or no such thing is known of it (`look_up` says what)."""

    what: str
    words: str
    factor: float | None
    wanted: float
    case: str
    case_words: str
    severity: Severity
    look_up: str | None
    force: float | None = None
    """Of a joint or a bolt: what it carries in that case, N."""


@dataclass(frozen=True)
class Rated:
    """A factor in one case, and the force that it is of, N, where there is one."""

    factor: float
    carried: Carried
    force: float | None = None


@dataclass(frozen=True)
class PartLoads:
    """A bar, an arm or a bracket: its factors, the worst first, and what they rest on that nobody has said."""

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
    names = dict.fromkeys(n for one in found.cases for n in one.strength or ())
    return gravest_first([_part(design, found, name) for name in names])


def gravest_first(parts: Sequence[PartLoads]) -> list[PartLoads]:
    """The gravest first, of equally grave ones what falls shortest."""
    grave = ("stop", "fix", "consider", "good")
    return sorted(parts, key=lambda one: (grave.index(one.severity), _shortest(one)))


def _shortest(one: PartLoads) -> float:
    return min((f.factor / f.wanted for f in one.factors if f.factor is not None), default=0.0)


def _part(design: Design, found: Reckoned, name: str) -> PartLoads:
    ends = {end for part, end, _ in joint_mounts(design) if part == name}
    every = (_worst(found, name, what, what.partition("_")[2] in ends) for what in FACTORS)
    factors = [one for one in every if one is not None]
    rock = found.rock.get(name)
    if rock is not None:
        value = rock["yield"]
        factors.append(
            Factored(
                ROCK, "bending on a rock", value, WANTED_ABUSED, ROCK, CASES[ROCK], _grade(value, WANTED_ABUSED), None
            )
        )
    factors.sort(key=_falls_short)
    cases = (case_guess(design, case) for case in dict.fromkeys(one.case for one in factors))
    guessed = (*part_guesses(design, name), *dict.fromkeys(filter(None, cases)))
    return graded(name, said(design, name), factors, guessed)


def joint_mounts(design: Design) -> Iterator[tuple[str, str, Mount]]:
    """Every mount that one bolt holds: its part, its end, and itself; links first."""
    for link in design.links:
        if not isinstance(link, RadiusArm):
            yield link.id, "axle", link.axle
        yield link.id, "frame", link.frame
    lateral = design.lateral
    if isinstance(lateral, Watts):
        end = "frame" if lateral.pivot.on == "axle" else "axle"
        yield "watts-left", end, lateral.left
        yield "watts-right", end, lateral.right
    elif lateral is not None and lateral.kind == "panhard":
        yield "panhard", "axle", lateral.axle
        yield "panhard", "frame", lateral.frame


def _falls_short(one: Factored) -> tuple[bool, float]:
    """To sort by: what breaks first, then by how much of what is wanted is there; what is not known last."""
    return (True, inf) if one.factor is None else (one.factor >= 1.0, one.factor / one.wanted)


def _worst(found: Reckoned, name: str, what: str, bolted: bool) -> Factored | None:
    """`bolted`: whether the part has a bolt of its own there."""
    rated: list[Rated] = []
    for one in found.cases:
        factor = one.strength[name][what] if one.strength and name in one.strength else None
        if factor is not None:
            force = one.forces[name].get(f"at_{what.partition('_')[2]}") if one.forces else None
            rated.append(Rated(factor, one, force))
    if rated:
        return worst_of(what, FACTORS[what], rated)
    if what not in _LOOK_UP or not bolted:
        return None
    return Factored(what, FACTORS[what], None, WANTED, "", "", "consider", _LOOK_UP[what])


def worst_of(what: str, words: str, rated: Sequence[Rated]) -> Factored:
    """Of some factors the one that falls shortest of what is wanted in its case; what breaks goes first."""
    wanted = [WANTED_ABUSED if one.carried.case.abuse else WANTED for one in rated]
    n = min(range(len(rated)), key=lambda n: (rated[n].factor >= 1.0, rated[n].factor / wanted[n]))
    factor, case = rated[n].factor, rated[n].carried.case.id
    return Factored(
        what, words, factor, wanted[n], case, case_words(case), _grade(factor, wanted[n]), None, rated[n].force
    )


def graded(part: str, words: str, factors: Sequence[Factored], guessed: Sequence[str]) -> PartLoads:
    """A part with its factors, the worst first, as grave as the gravest of them."""
    severities = [one.severity for one in factors]
    gravest: Severity = next((one for one in ("stop", "fix", "consider") if one in severities), "good")
    return PartLoads(part, words, gravest, tuple(sorted(factors, key=_falls_short)), tuple(guessed))


def _grade(factor: float, wanted: float) -> Severity:
    return "stop" if factor < 1.0 else "fix" if factor < wanted else "good"


def tube_of(design: Design, name: str) -> Tube | None:
    """A part's tube, where one is said."""
    lateral = design.lateral
    if name in ("watts-left", "watts-right") and isinstance(lateral, Watts):
        return lateral.tube
    if name == "panhard" and lateral is not None and lateral.kind == "panhard":
        return lateral.tube
    return next((link.tube for link in design.links if link.id == name), None)


def part_guesses(design: Design, name: str) -> list[str]:
    """What of the part itself nobody has said."""
    found, tube = list[str](), tube_of(design, name)
    if tube is None:
        found.append(f"its tube is guessed: {TUBE_MM:g} mm by {WALL_MM:g} mm")
    if tube is None or tube.material is None:
        found.append(f"its steel is guessed: {HOUSE_MATERIAL.name.lower()}, yields at {stress(HOUSE_MATERIAL.yield_)}")
    return found


_RESTS_ON = {
    "launch": "grip", "reverse": "grip", "brake": "grip", "one_wheel_left": "grip", "one_wheel_right": "grip",
    "corner_left": "grip_side", "corner_right": "grip_side", "landing": "landing", "strike_left": "strike",
    "strike_right": "strike", ROCK: "rock",
}  # fmt: skip
_HOUSE_WORDS = {
    "grip": "grip is the house's: {0:g}",
    "grip_side": "grip sideways is the house's: {0:g}",
    "landing": "that a landing is {0:g} times the weight is the house's; bump stops are taken to carry none of it",
    "strike": "that a strike is {0:g} times the weight is the house's",
    "rock": "that a rock takes {0:g} times the weight is the house's",
}


def house_key(case: str) -> str | None:
    """Which of the `loads` a load case rests on; None for one that rests on none of them."""
    return _RESTS_ON.get(case)


def case_guess(design: Design, case: str) -> str | None:
    """What a load case rests on that nobody has said, in words; None for what was said, and for a case of one's own."""
    key = house_key(case)
    if key is None or (design.loads is not None and key in design.loads.model_fields_set):
        return None
    return _HOUSE_WORDS[key].format(getattr(loads_of(design), key))


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
    if part != "panhard" and part not in {one.id for one in design.links}:
        return None
    own = tube_of(design, part) or Tube()
    density = material_of(design, own, part).density
    for across, wall in sorted(tubes, key=lambda one: one[1] * (one[0] - one[1])):
        changed = with_tube(design, part, diameter=across, wall=wall)
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


def with_tube(design: Design, part: str, **changes: Any) -> Design:
    """The design with some fields of a link's or the panhard bar's tube changed.

    Raises:
        ValueError: for a part that has no tube of its own.
    """
    link = next((n for n, one in enumerate(design.links) if one.id == part), None)
    if link is not None:
        one = design.links[link]
        changed = one.rewritten(tube={**(one.tube.model_dump(exclude_unset=True) if one.tube else {}), **changes})
        return design.model_copy(update={"links": (*design.links[:link], changed, *design.links[link + 1 :])})
    lateral = design.lateral
    if part != "panhard" or lateral is None or lateral.kind != "panhard":
        raise ValueError(f"{part} has no tube of its own")
    tube = {**(lateral.tube.model_dump(exclude_unset=True) if lateral.tube else {}), **changes}
    return design.model_copy(update={"lateral": lateral.rewritten(tube=tube)})


def _long(design: Design, part: str) -> float:
    return next((one.length for one in link_figures(mechanism_of(design)) if one.id == part), 0.0)
