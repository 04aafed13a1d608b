"""Parts that a load case brings too near to their end, judged like any other figure, and what no one can know yet."""

from collections.abc import Iterator
from dataclasses import replace

from oak_lever.design.faults import Refused
from oak_lever.design.parts import across
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import CONSIDER, SEVERITIES, STOP, Check, Fact
from oak_lever.judge.gaps import Listed
from oak_lever.judge.places import NOWHERE, Place
from oak_lever.strength.bracketed import bracket_guesses, bracket_loads, bracket_pairs
from oak_lever.strength.judged import ROCK, Factored, PartLoads, case_guess, case_words, part_guesses, part_loads
from oak_lever.strength.loads import Reckoned, reckoned

FACTORS_OF = {
    "load_tube": ("yield", "buckling"),
    "load_rock": (ROCK,),
    "load_joint": ("joint_axle", "joint_frame"),
    "load_bolt": ("bolt_axle", "bolt_frame"),
    "load_shank": ("shank_axle", "shank_frame"),
    "load_plate": ("bearing", "tearing", "net"),
    "load_weld": ("weld",),
}
"""Which factors of a part each figure is the least of."""
_ENDS = {
    "yield": ("its tube yields", "the tube stays bent"), "buckling": ("its tube buckles", "the tube buckles"),
    ROCK: ("its tube stays bent", "the tube stays bent"),
    "joint": ("the joint {at} is past its rating", "the joint {at} is at its rating"),
    "bolt": ("the bolt {at} yields in shear", "the bolt {at} yields in shear"),
    "shank": ("the threaded shank {at} yields", "the threaded shank {at} yields"),
    "bearing": ("its plates yield under the bolt", "the holes are drawn long"),
    "tearing": ("its plates tear out at a hole", "the plates tear out"),
    "net": ("its plates yield beside a hole", "the plates yield beside the hole"),
    "weld": ("its weld yields", "the weld yields"),
}  # fmt: skip
"""What happens at a factor below 1, and at that many times the load."""
OF_BRACKET = ("load_plate", "load_weld")
_OF_TUBE = (*FACTORS_OF["load_tube"], *FACTORS_OF["load_rock"])
_ALIKE = 1e-3


@remembered(8)
def load_checks(design: Design) -> Listed:
    """Every part whose load factors are less than is wanted, each with its mirror image where that fares alike; then
    what could not be looked at. None of an axle that nothing holds, or that carries nothing: other findings say so."""
    try:
        found = reckoned(design)
    except Refused as refused:
        return ((_unknown([fault.message for fault in refused.faults]), None),)
    if not any(one.forces for one in found.cases):
        return ()
    order = list(dict.fromkeys(name for one in found.cases for name in one.strength or ()))
    parts = sorted(part_loads(design, found), key=lambda one: order.index(one.part))
    parts += bracket_loads(design, found)
    short = [check for one in parts for check in _short(design, found, one)]
    left_out = [*_not_said(parts), *_not_balanced(found)]
    return (*_paired(design, short), *(((_unknown(left_out), None),) if left_out else ()))


def _short(design: Design, found: Reckoned, one: PartLoads) -> Iterator[Check]:
    for figure, whats in FACTORS_OF.items():
        factors = [f for f in one.factors if f.what in whats and f.factor is not None]
        if factors and factors[0].severity != "good":
            yield _check(design, found, figure, one, factors[0])


def _check(design: Design, found: Reckoned, figure: str, one: PartLoads, worst: Factored) -> Check:
    kind, _, end = worst.what.partition("_")
    at = f"at the {end}"
    case = next((c.case for c in found.cases if c.case.id == worst.case), None)
    drawn = design.brackets or () if figure in OF_BRACKET else ()
    bracket = next((made for made in drawn if made.id == one.part), None)
    at_part = bracket.mounts[0] if bracket else f"{one.part}.{end}" if end else one.part
    place = Place(case.travel if case else 0.0, case.articulation if case else 0.0, (at_part,), worst.case)
    breaks, then = (words.format(at=at) for words in _ENDS[kind])
    grave = SEVERITIES.index(worst.severity)
    less = breaks if grave == STOP else f"too little in hand before {then}"
    abused = worst.case == ROCK or (case is not None and case.abuse)
    own = bracket_guesses(design, bracket) if bracket else part_guesses(design, one.part) if kind in _OF_TUBE else ()
    guessed = [*own, case_guess(design, worst.case)]
    unsaid = "; ".join(filter(None, guessed))
    return Check(
        BY_ID[figure], one.part, worst.factor, place, worst.wanted, None,
        f"house value {'in abuse and on a rock' if abused else 'in normal cases'}", grave, -1,
        guessed=f"{unsaid[:1].upper()}{unsaid[1:]}." if unsaid else "",
        title=f"{one.words[:1].upper()}{one.words[1:]}: {less}, {worst.case_words}",
        facts=_facts(kind, worst),
        told=f"{worst.case_words[:1].upper()}{worst.case_words[1:]}: at {worst.factor:.2f} times that load {then}.",
    )  # fmt: skip


def _facts(kind: str, worst: Factored) -> tuple[Fact, ...]:
    """For a joint, what one would have to be rated for."""
    if kind != "joint" or worst.factor is None or worst.force is None:
        return ()
    return (Fact("A joint would do that is rated across its bolt for", worst.wanted * worst.force, "n"),)


def _paired(design: Design, short: list[Check]) -> Listed:
    pairs, done, found = across(design) | bracket_pairs(design), set[str](), list[tuple[Check, Check | None]]()
    for check in short:
        if check.id in done:
            continue
        other = pairs.get(check.part)
        twin = next((o for o in short if o.part == other and o.figure is check.figure and _alike(o, check)), None)
        done.update(one.id for one in (check, twin) if one)
        both = replace(check, title=check.title.replace(":", ", and its mirror image:", 1)) if twin else check
        found.append((both, twin))
    return tuple(found)


def _alike(one: Check, other: Check) -> bool:
    assert one.value is not None
    assert other.value is not None
    return one.grave == other.grave and abs(one.value - other.value) < _ALIKE


# what could not be looked at


def _not_said(parts: list[PartLoads]) -> Iterator[str]:
    unsaid = [one for part in parts for one in part.factors if one.look_up is not None]
    joints = sum(one.what in FACTORS_OF["load_joint"] for one in unsaid)
    bolts = sum(one.what in FACTORS_OF["load_bolt"] for one in unsaid)
    if joints:
        many = _many(joints, "joint is", "joints are")
        yield f"no one has said what {many} rated for: look up the rating across the bolt"
    if bolts:
        many = _many(bolts, "bolt is", "bolts are")
        yield f"no one has said what {many}: look up diameter and yield by the grade on the head"


def _many(count: int, one: str, more: str) -> str:
    return f"one {one}" if count == 1 else f"{count} {more}"


def _not_balanced(found: Reckoned) -> Iterator[str]:
    for one in found.cases:
        if one.forces is None:
            yield f"nothing balances the case {case_words(one.case.id)}, so it is not in any factor"


def _unknown(said: list[str]) -> Check:
    told = "; ".join(said)
    return Check(
        BY_ID["load_unknown"], "", None, NOWHERE, None, None, "", CONSIDER, 0,
        told=f"{told[:1].upper()}{told[1:]}.",
    )  # fmt: skip
