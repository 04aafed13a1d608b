"""What brackets carry: each plate at its holes, and the weld that it stands on. N, mm, MPa.

Each of the two plates takes half. At a hole: bearing on plate times bolt; tearing out in shear on two planes to the
nearest edge; tension beside the hole, where as much stands on the other side (Shigley, chapter 8, on joints in shear).
At the foot: two fillets along its chord, treated as lines; their throats, 0.707 of the fillet's width, take the force
and its moments about the middle of the foot (Blodgett, 7.4), at 0.577 of the yield.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np

from oak_lever.design.cutting import Bracket
from oak_lever.design.materials import HOUSE_MATERIAL, entry_of
from oak_lever.design.parts import across, parts_of, said
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.brackets import CutBracket, Plate, brackets_made, foot_of
from oak_lever.strength.cases import loads_of
from oak_lever.strength.judged import (
    Factored,
    PartLoads,
    Rated,
    case_guess,
    graded,
    gravest_first,
    joint_mounts,
    part_loads,
    worst_of,
)
from oak_lever.strength.loads import Carried, Reckoned
from oak_lever.units import stress

PLATE_FACTORS = {
    "bearing": "bearing of the bolt on the plates",
    "tearing": "tearing out to the nearest edge",
    "net": "the plates beside a hole",
    "weld": "the weld at the foot",
}
_SHEAR = 0.577
_THROAT = 0.707
_NO_FORCE_N = 0.01


def bracket_loads(design: Design, found: Reckoned) -> list[PartLoads]:
    """Every bracket that can be made as drawn and whose mounts carry something, in the file's order."""
    made, _ = brackets_made(design)
    drawn = {one.id: one for one in design.brackets or ()}
    return [rated for one in made if (rated := _part(design, found, one, drawn[one.id])) is not None]


def loaded_parts(design: Design, found: Reckoned) -> list[PartLoads]:
    """Every bar, arm and bracket, the gravest first."""
    return gravest_first([*part_loads(design, found), *bracket_loads(design, found)])


def bracket_pairs(design: Design) -> dict[str, str]:
    """Each bracket's mirror image by its id: the one whose mounts are the other side's."""
    pairs = across(design)
    mounts = {frozenset(one.mounts): one.id for one in design.brackets or ()}
    found = {}
    for one in design.brackets or ():
        other = frozenset(f"{pairs.get(part, part)}.{end}" for part, _, end in (n.rpartition(".") for n in one.mounts))
        if other != frozenset(one.mounts) and other in mounts:
            found[one.id] = mounts[other]
    return found


def bracket_words(design: Design, bracket: Bracket) -> str:
    """ "bracket b1, lower left link at the axle"."""
    spot = parts_of(design).spot(bracket.mounts[0])
    end = "at the axle" if spot.on == "axle" else "at the frame"
    return f"bracket {bracket.id}, {said(design, spot.part)} {end}"


def bracket_guesses(design: Design, bracket: Bracket) -> list[str]:
    """What of it nobody has said."""
    found = []
    if bracket.material is None:
        found.append(f"its steel is guessed: {HOUSE_MATERIAL.name.lower()}, yields at {stress(HOUSE_MATERIAL.yield_)}")
    if bracket.weld is None:
        found.append("its weld is taken as a fillet on both sides of each plate, as wide as the plate is thick")
    if design.loads is None or "weld" not in design.loads.model_fields_set:
        found.append(
            f"that a weld holds {loads_of(design).weld:g} of its plate's yield in shear is the house's; what it "
            "stands on is taken to be as strong"
        )
    return found


@dataclass(frozen=True)
class _Foot:
    """A plate's foot in the plate's own axes, mm: its middle, its unit way, how long it is; and where the holes of the
    bracket's mounts are."""

    middle: Floats
    way: Floats
    long: float
    holes: dict[str, Floats]


def _part(design: Design, found: Reckoned, made: CutBracket, drawn: Bracket) -> PartLoads | None:
    limit = entry_of(design, drawn.material, "brackets").yield_
    held = _SHEAR * limit * loads_of(design).weld
    feet = [_foot(design, plate, drawn, made.mounts) for plate in made.plates]
    rated: dict[str, list[Rated]] = {what: [] for what in PLATE_FACTORS}
    for one in found.cases:
        forces = _forces(design, one, made)
        for name, force in forces.items():
            pulled = hypot(force[0], force[1])
            if pulled > _NO_FORCE_N:
                for what, area in _at_hole(made, drawn, name).items():
                    rated[what].append(Rated(limit * area / pulled, one, pulled))
        worst = max((_welded(foot, drawn, forces) for foot in feet), default=0.0)
        if worst > 0.0:
            rated["weld"].append(Rated(held / worst, one, float(np.linalg.norm(sum(forces.values())))))
    factors = [worst_of(what, PLATE_FACTORS[what], some) for what, some in rated.items() if some]
    guessed = (*bracket_guesses(design, drawn), *_cases(design, factors))
    return graded(drawn.id, bracket_words(design, drawn), factors, guessed) if factors else None


def _at_hole(made: CutBracket, drawn: Bracket, name: str) -> dict[str, float]:
    """What of both plates holds at a mount's hole, mm^2 of yield. To an edge there is as much metal as the bracket has
    about each hole, or less to another hole; what it stands on is no edge."""
    holes = made.plates[0].holes
    own = holes[_nth(made, name)]
    apart = [hypot(own[0] - u, own[1] - v) - d / 2.0 for u, v, d in holes if (u, v, d) != own]
    metal, wide = min([drawn.edge, *apart]), own[2]
    return {
        "bearing": 2.0 * drawn.plate * made.bolt,
        "tearing": _SHEAR * 4.0 * drawn.plate * (metal - wide / 2.0),
        "net": 2.0 * drawn.plate * (2.0 * metal - wide),
    }


def _nth(made: CutBracket, name: str) -> int:
    """Which of its holes is a mount's: two mounts may share one."""
    return made.hole_of[made.mounts.index(name)]


def _cases(design: Design, factors: list[Factored]) -> Iterator[str]:
    yield from dict.fromkeys(filter(None, (case_guess(design, one.case) for one in factors)))


def _foot(design: Design, plate: Plate, drawn: Bracket, mounts: Sequence[str]) -> _Foot:
    one, other = (np.array(at) for at in foot_of(plate, drawn.base))
    long = float(np.linalg.norm(other - one))
    table = parts_of(design)
    arms = {name: np.array(table.spot(name).at) - plate.origin for name in mounts}
    return _Foot(
        (one + other) / 2.0, (other - one) / long, long,
        {name: np.array([arm @ plate.u, arm @ plate.v]) for name, arm in arms.items()},
    )  # fmt: skip


def _forces(design: Design, one: Carried, made: CutBracket) -> dict[str, Floats]:
    """What its mounts put on it in a case, N, along u and v of its plates and across them; turned back to where it
    stands at ride where the axle carries it."""
    names = {f"{part}.{end}": (part, end) for part, end, _ in joint_mounts(design)}
    plate, found = made.plates[0], {}
    axes = np.stack([plate.u, plate.v, np.cross(plate.u, plate.v)])
    for name in made.mounts:
        push = next((p for p in one.pushes if (p.part, p.on) == names.get(name)), None)
        if push is not None:
            force = np.array(push.force)
            found[name] = axes @ (force @ one.turn if push.on == "axle" and one.turn is not None else force)
    return found


def _welded(foot: _Foot, drawn: Bracket, forces: Mapping[str, Floats]) -> float:
    """The stress on the throats of one plate's two fillets, MPa, under half of the forces."""
    normal = np.array([-foot.way[1], foot.way[0]])
    whole, turned, leant, twisted = np.zeros(3), 0.0, 0.0, 0.0
    for name, force in forces.items():
        half, arm = force / 2.0, foot.holes[name] - foot.middle
        whole = whole + half
        turned += float(arm[0] * half[1] - arm[1] * half[0])
        leant += float(half[2]) * float(arm @ normal)
        twisted += float(half[2]) * float(arm @ foot.way)
    throat = _THROAT * (drawn.weld or drawn.plate)
    area, bend = 2.0 * throat * foot.long, throat * foot.long**2 / 3.0
    square = abs(float(whole[:2] @ normal)) / area + abs(turned) / bend
    square += abs(leant) / (throat * foot.long * drawn.plate)  # a couple, one fillet on either side of the plate
    along, across_it = float(whole[:2] @ foot.way) / area, abs(whole[2]) / area + abs(twisted) / bend
    return sqrt(square**2 + along**2 + across_it**2)
