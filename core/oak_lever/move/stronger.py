"""What lets a part carry its loads: the lightest common tube that does, the same tube straight, a bolt of a better
grade, held on both sides or larger, a mount moved. Each is reckoned anew in every load case.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from math import nan
from typing import Any

import numpy as np

from oak_lever.design.cutting import Bracket
from oak_lever.design.faults import Refused
from oak_lever.design.links import BentTube, Tube
from oak_lever.design.loads import Fastener
from oak_lever.design.parts import parts_of, said
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.judge.carried import FACTORS_OF
from oak_lever.judge.check import Check
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Space
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, move_priced, priced
from oak_lever.move.remedies import Remedy
from oak_lever.move.search import Seen, Toward
from oak_lever.move.slopes import slopes
from oak_lever.move.words import sentence
from oak_lever.plates.brackets import brackets_made
from oak_lever.strength.bolts import GRADES, Grade, is_inch, sizes_over, thread_said
from oak_lever.strength.bracketed import loaded_parts
from oak_lever.strength.judged import TUBES, Factored, joint_mounts, part_loads, tube_of, tube_that_holds, with_tube
from oak_lever.strength.loads import reckoned
from oak_lever.units import Units, part_weight, size

Parts = tuple[str, ...]
_SEEN_MM = 0.1


def stronger(before: Verdicts, check: Check, twin: Check | None, increment_mm: float, units: Units) -> Iterator[Cure]:
    """What mends a load finding, of a part and its mirror image where that fares alike: other steel at its place first,
    then a mount moved by whole increments."""
    design, parts = before.design, tuple(one.part for one in (check, twin) if one)
    told = set[str]()
    for kind in _KINDS.get(check.figure.id, ()):
        new = (offer for offer in kind(design, parts, units) if sentence(offer.words) not in told)
        for cure in _first(cure for offer in new for cure in _mended(before, offer, check)):
            told.add(cure.words)
            yield cure
    if check.figure.id in _BY_MOVING:
        yield from _moved(before, check, increment_mm, units)


def _first(found: Iterator[Cure]) -> Iterator[Cure]:
    one = next(found, None)
    return iter(() if one is None else (one,))


def _mended(before: Verdicts, offer: Remedy, check: Check) -> Iterator[Cure]:
    """The offer with its price; nothing where it leaves the finding."""
    if any(one.id == check.id for one, _ in verdicts_on(offer.design).loads):
        return
    for cure in priced(before, offer):
        yield _with_factor(cure, offer.design, check)


def _with_factor(cure: Cure, design: Design, check: Check) -> Cure:
    worst = _worst(design, check)
    return replace(
        cure, figures={**cure.figures, check.id: worst.factor if worst else None}, cures=(*cure.cures, check.id)
    )


def _worst(design: Design, check: Check, only: str | None = None) -> Factored | None:
    """The factor that falls shortest, of those of the part that the figure is the least of; or that of one case."""
    whats, found = FACTORS_OF[check.figure.id], reckoned(design, only)
    parts = (one for one in loaded_parts(design, found) if one.part == check.part)
    return next((f for one in parts for f in one.factors if f.what in whats and f.factor is not None), None)


# other steel


def _lightest(design: Design, parts: Parts, units: Units) -> Iterator[Remedy]:
    """The lightest of the common tubes, of the same steel, that meets every case in all of the parts."""
    yield from _other_tube(design, parts, units, TUBES)


def _thicker(design: Design, parts: Parts, units: Units) -> Iterator[Remedy]:
    """The lightest of those that are as large outside, so that they come no nearer to anything."""
    across = (tube_of(design, parts[0]) or Tube()).diameter
    same = [one for one in TUBES if abs(one[0] - across) < _SEEN_MM]
    yield from _other_tube(design, parts, units, same)


def _other_tube(design: Design, parts: Parts, units: Units, tubes: Sequence[tuple[float, float]]) -> Iterator[Remedy]:
    found = [tube_that_holds(design, part, tubes) for part in parts]
    if any(one is None for one in found):
        return
    one = max((one for one in found if one), key=lambda held: held.mass)
    changed = design
    for part in parts:
        changed = with_tube(changed, part, diameter=one.diameter, wall=one.wall)
    own = tube_of(design, parts[0]) or Tube()
    bore, was = one.diameter - 2.0 * one.wall, own.diameter - 2.0 * own.wall
    bungs = f" Bungs then go into a bore of {size(bore, units)}." if abs(bore - was) > _SEEN_MM else ""
    words = f"{_called(design, parts)} of {size(one.diameter, units)} by {size(one.wall, units)} wall"
    heavier = f"{part_weight(abs(one.mass), units)} {'more' if one.mass > 0.0 else 'less'} for each."
    yield Remedy(words, f"{heavier}{bungs}", changed)


def _straight(design: Design, parts: Parts, _units: Units) -> Iterator[Remedy]:
    """The same tube without its bends."""
    if not all(isinstance(tube := tube_of(design, part), BentTube) and tube.bends for part in parts):
        return
    changed = design
    for part in parts:
        changed = with_tube(changed, part, bends=())
    yield Remedy(f"{_called(design, parts)} straight instead of bent", "", changed)


def _better_grade(design: Design, parts: Parts, _units: Units) -> Iterator[Remedy]:
    """Bolts of the same size of a better common grade, the nearest first."""
    for grade in sorted(GRADES, key=lambda one: one.yield_stress):
        words = f"of {grade.words.partition(' (')[0].lower()}"
        yield from _bolted(design, parts, words, "", partial(_of_grade, grade))


def _of_grade(grade: Grade, old: Fastener) -> Fastener | None:
    fits = grade.inch == is_inch(old.diameter) and old.diameter <= grade.up_to + _SEEN_MM
    return old.model_copy(update={"yield_": grade.yield_stress}) if fits and grade.yield_stress > old.yield_ else None


def _both_sides(design: Design, parts: Parts, _units: Units) -> Iterator[Remedy]:
    """A bolt that one tab holds is held by two."""
    yield from _bolted(design, parts, "held by a tab on both sides", "It takes a second tab at each.", _doubled)


def _doubled(old: Fastener) -> Fastener | None:
    return old.model_copy(update={"planes": 2.0}) if old.planes < 2.0 else None


def _larger(design: Design, parts: Parts, _units: Units) -> Iterator[Remedy]:
    """Bolts of the next common sizes, of the grade that they have."""
    bolts = [mount.fastener for part, _, mount in joint_mounts(design) if part in parts and mount.fastener]
    for diameter in sizes_over(min(bolts, key=lambda one: one.diameter)) if bolts else ():
        words = thread_said(diameter)
        price = f"Their joints and tabs then need a hole for {words}."
        yield from _bolted(design, parts, f"of {words}", price, partial(_of_size, diameter))


def _of_size(diameter: float, old: Fastener) -> Fastener | None:
    same = is_inch(old.diameter) == is_inch(diameter) and old.diameter < diameter
    return old.model_copy(update={"diameter": diameter}) if same else None


def _bolted(
    design: Design, parts: Parts, words: str, price: str, change: Callable[[Fastener], Fastener | None]
) -> Iterator[Remedy]:
    """Those of the parts' bolts changed that fall short; nothing where there is one that can't be."""
    short = {
        (one.part, factor.what.partition("_")[2])
        for one in part_loads(design, reckoned(design)) if one.part in parts
        for factor in one.factors if factor.what in FACTORS_OF["load_bolt"] and factor.severity in ("stop", "fix")
    }  # fmt: skip
    data, table = design_data(design), parts_of(design)
    for part, end, mount in joint_mounts(design):
        if (part, end) not in short or mount.fastener is None:
            continue
        changed = change(mount.fastener)
        if changed is None:
            return
        at: Any = data
        for step in table.spot(f"{part}.{end}").path[:-1]:
            at = at[step]
        at["fastener"] = changed.model_dump(by_alias=True)
    ends = sorted({end for _, end in short})
    where = "" if len(ends) != 1 else f" at the {ends[0]}"
    called = _called(design, parts)
    many = len(short) > 1
    yield Remedy(f"{'bolts' if many else 'bolt'} of the {called}{where} {words}", price, design_from(data))


# brackets

PLATES = (4.763, 6.35, 7.938, 9.525, 12.7, 15.875, 19.05, 25.4)
"""Common plate, mm: three sixteenths of an inch to an inch."""
_EDGE_STEP_MM, _EDGE_STEPS = 3.175, 8
_FOOT_STEP_MM, _FOOT_STEPS = 12.7, 12


def _thicker_plate(design: Design, parts: Parts, units: Units) -> Iterator[Remedy]:
    """The next common plates, their welds as much wider where nobody has said how wide."""
    own = max(one.plate for one in design.brackets or () if one.id in parts)
    for thick in (one for one in PLATES if one > own + _SEEN_MM):
        price = f"The grip of its bolt grows by {size(2.0 * (thick - own), units)}."
        words = f"{_brackets(parts)} of {size(thick, units)} plate"
        yield from _drawn_anew(design, parts, words, price, partial(_with, "plate", thick - own))


def _wider_edge(design: Design, parts: Parts, units: Units) -> Iterator[Remedy]:
    """More metal around each hole."""
    for n in range(1, _EDGE_STEPS + 1):
        more = n * _EDGE_STEP_MM
        words = f"{_brackets(parts)} with {size(more, units)} more metal around each hole"
        yield from _drawn_anew(design, parts, words, "", partial(_with, "edge", more))


def _longer_foot(design: Design, parts: Parts, units: Units) -> Iterator[Remedy]:
    """A longer foot on a face."""
    if any(one.foot is None for one in design.brackets or () if one.id in parts):
        return
    for n in range(1, _FOOT_STEPS + 1):
        more = n * _FOOT_STEP_MM
        words = f"{_brackets(parts)} with a foot {size(more, units)} longer"
        yield from _drawn_anew(design, parts, words, "See that the face is as long.", partial(_with, "foot", more))


def _with(name: str, more: float, old: Bracket) -> dict[str, Any]:
    return {name: getattr(old, name) + more}


def _drawn_anew(
    design: Design, parts: Parts, words: str, price: str, change: Callable[[Bracket], dict[str, Any]]
) -> Iterator[Remedy]:  # fmt: skip
    """The brackets changed; nothing where that can't be made."""
    changed = (one.rewritten(**change(one)) if one.id in parts else one for one in design.brackets or ())
    then = design.model_copy(update={"brackets": tuple(changed)})
    if {one.id for one in brackets_made(then)[0]} >= set(parts):
        yield Remedy(words, price, then)


def _brackets(parts: Parts) -> str:
    return f"bracket {parts[0]}" if len(parts) == 1 else f"brackets {' and '.join(parts)}"


def _called(design: Design, parts: Parts) -> str:
    """ "upper left link", or of a pair "upper links"."""
    words = said(design, parts[0])
    if len(parts) == 1:
        return words
    return f"{' '.join(word for word in words.split() if word not in ('left', 'right'))}s"


_KINDS: dict[str, tuple[Callable[[Design, Parts, Units], Iterator[Remedy]], ...]] = {
    "load_tube": (_lightest, _thicker, _straight),
    "load_rock": (_lightest, _thicker),
    "load_bolt": (_better_grade, _both_sides, _larger),
    "load_plate": (_thicker_plate, _wider_edge),
    "load_weld": (_longer_foot, _thicker_plate, _wider_edge),
}
"""What a shop does about each, in the order in which it would think of it."""


# a mount moved

_BY_MOVING = ("load_tube", "load_joint", "load_bolt", "load_shank")


def _moved(before: Verdicts, check: Check, increment_mm: float, units: Units) -> Iterator[Cure]:
    """A mount, or a pair, moved by as few whole increments as bring every case to what is wanted."""
    space = Space(before.design)
    if not space.free:
        return

    def look(moves: Floats) -> list[Seen]:
        """In the case that is worst as it stands; what brings that inside is held against all of them."""
        return [_seen(space.moved(move), check, check.place.case) for move in moves]

    def values(moves: Floats) -> Floats:
        return np.array([[one.value] for one in look(moves)])

    _, slope = slopes(values, np.zeros(len(space.free)), increment_mm)
    now, least = _seen(before.design, check), SEEN[check.figure.unit]
    search = Toward(space, look, now, True, slope[0] * increment_mm, increment_mm, least)
    for move in next(search.stages()):
        then = space.moved(move)
        if then is not None and _seen(then, check).good:
            yield from (_with_factor(one, then, check) for one in move_priced(before, space, move, None, units))


def _seen(design: Design | None, check: Check, only: str | None = None) -> Seen:
    """How much of what is wanted the factor comes to, in all cases or in one."""
    try:
        worst = _worst(design, check, only) if design is not None else None
    except Refused:
        worst = None
    if worst is None or worst.factor is None:
        return Seen(nan, nan, good=False)
    return Seen(worst.factor / worst.wanted, 1.0, worst.factor >= worst.wanted)
