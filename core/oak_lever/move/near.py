"""What else a change brings nearer: pairs of parts that are then closer than is wanted."""

from collections.abc import Iterable
from dataclasses import replace

from oak_lever.clearance.clearances import Gap, gaps_of
from oak_lever.cycle import cycle
from oak_lever.design.parts import part_said
from oak_lever.design.reader import design_from
from oak_lever.design.types import Design
from oak_lever.judge.bolt_room import bolt_checks
from oak_lever.judge.carried import load_checks
from oak_lever.judge.check import CONSIDER, GOOD, SEVERITIES, STOP, Check
from oak_lever.judge.findings import findings_on
from oak_lever.judge.gaps import Listed, too_near
from oak_lever.judge.verdicts import other_shocks
from oak_lever.move.offers import Cure
from oak_lever.units import Units, length

_SEEN_MM = 0.5


def brought_nearer(before: Design, design: Design) -> list[Gap]:
    """Pairs that are too near in a changed design and were not, or are nearer than they were by what can be seen."""
    near, moved = too_near(before), other_shocks(before, design)
    found = gaps_of(design, only=None if moved is None else lambda a, b: bool(moved & {a, b}), spare_mm=0.0)
    was = {(gap.a, gap.b): near[gap.a, gap.b].gap if (gap.a, gap.b) in near else gap.wanted for gap in found}
    return [gap for gap in found if gap.gap < was[gap.a, gap.b] - _SEEN_MM]


def spared(design: Design, found: Iterable[Cure], units: Units, most: int) -> list[Cure]:
    """The first of those that make nothing meet that did not, and nothing break that held; what else comes too near, or
    carries more than is wanted of it, is in their price."""
    kept: list[Cure] = []
    held = bool(cycle(design).swept.traced.reached[0, 0])
    for cure in found:
        if len(kept) == most:
            break
        nearer = brought_nearer(design, design_from(cure.document))
        meet = held and any(gap.gap <= 0.0 for gap in nearer)  # of an axle that nothing held, nothing was near
        heavier = loaded_more(design, design_from(cure.document))
        if not meet and not any(one.grave == STOP for one in heavier):
            said = [f"Then too near: {pair_said(design, gap, units)}." for gap in nearer[:2]]
            said += [f"Then: {one.title[:1].lower()}{one.title[1:]}." for one in heavier[:2]]
            kept.append(replace(cure, price=" ".join([cure.price, *said]).strip()))
    return kept


def loaded_more(before: Design, design: Design) -> list[Check]:
    """What carries more than is wanted of it in a changed design, or which bolt has no room there, graver than it
    was."""
    was = {one.id: one.grave for pair in _heavy(before) for one in pair if one}
    return [one for one, _ in _heavy(design) if one.grave > max(was.get(one.id, GOOD), CONSIDER)]


def _heavy(design: Design) -> Listed:
    return (*load_checks(design), *bolt_checks(design))


def graver(before: Design, after: Design) -> tuple[str, ...]:
    """Every finding, on gaps too, that a change makes graver, in words: "stop: coilover left: stroke left in bump"."""
    was, now = ({one.id: one for one in findings_on(design)} for design in (before, after))
    of = {name: SEVERITIES.index(one.severity) for name, one in was.items()}
    worse = (one for name, one in now.items() if SEVERITIES.index(one.severity) > of.get(name, GOOD))
    return tuple(f"{one.severity}: {one.title[:1].lower()}{one.title[1:]}" for one in worse)


def meets_anew(before: Design, design: Design) -> bool:
    """Whether two parts plainly meet that did not: looked for in a few poses only, before anything is judged."""
    near, moved = too_near(before), other_shocks(before, design)
    only = None if moved is None else lambda a, b: bool(moved & {a, b})
    found = gaps_of(design, only, grid=_FEW, spare_mm=0.0)
    return any(gap.gap <= 0.0 and not _met(near.get((gap.a, gap.b))) for gap in found)


_FEW = (3, 3)


def _met(gap: Gap | None) -> bool:
    return gap is not None and gap.gap <= 0.0


def pair_said(design: Design, gap: Gap, units: Units) -> str:
    """ "upper left link and fuel tank, 9 mm, where 25 mm is wanted"."""
    apart = "meet" if gap.gap <= 0.0 else f"are {length(gap.gap, units)} apart"
    both = f"{part_said(design, gap.a)} and {part_said(design, gap.b)}"
    return f"{both} {apart}, where {length(gap.wanted, units)} is wanted"
