"""What cures a finding: one mount or pair moved, two together, or what else a shop does about it, each with its price.

Everything is worked out on exact figures and judged anew. Nothing is offered that can't be built, that makes a new
stop, or that does not do what it says.
"""

from dataclasses import replace
from typing import Any

import numpy as np

from oak_lever.design.reader import design_data
from oak_lever.design.remembered import remembered
from oak_lever.design.rules import FigureRule
from oak_lever.design.types import Design
from oak_lever.judge.check import STOP, Check
from oak_lever.judge.judged import Judged, judge, judgment
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.clearing import clearing
from oak_lever.move.coordinates import Space
from oak_lever.move.corner_moves import corner_cures
from oak_lever.move.effects import figure_slopes
from oak_lever.move.near import spared
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, move_priced, priced
from oak_lever.move.remedies import remedies
from oak_lever.move.rule_moves import place_cures
from oak_lever.move.search import Seen, Toward
from oak_lever.move.stronger import stronger
from oak_lever.move.zones import hops, into_zone
from oak_lever.units import Units

_WORTH_MM = 50.0
"""How much farther a cure may move a mount for each finding that it cures beside its own."""


def cures(design: Design, finding: str, increment_mm: float, units: Units = "mm", most: int = 5) -> list[Cure]:
    """What cures a finding, by its id, what costs least first: single moves in whole increments, as few as cure, within
    `CURE_WITHIN_MM`; two mounts moved together where no single one does; what else there is to do where it is grave;
    and where nothing cures it, what helps most. Locks hold, zones too: a mount that belongs in a row of holes goes from
    hole to hole. None makes parts meet that did not. Empty for what is no finding.
    """
    before = verdicts_on(design)
    if finding not in before.grave:
        found_apart = next((one for one in before.apart if one[0].id == finding), None)
        if found_apart is None:
            return []
        return _apart(before, *found_apart, increment_mm, units, most)
    check = before.by_id[finding]
    if check.figure.of == "mount":
        places = into_zone(design, check.part, increment_mm, units)
        return spared(design, (c for place in places for c in priced(before, place, finding)), units, most)
    if check.figure.of == "rule":
        return within_rule(design, check, increment_mm, units, most)
    if check.figure.of != "design":
        return spared(design, corner_cures(before, check, increment_mm, units), units, most)
    found: list[Cure] = []
    if check.value is not None and finding in before.judged.figures:
        found = _by_moving(_space(design), before, check, increment_mm, units)
    found += [c for other in hops(design, units) for c in priced(before, other, finding, nearer=False)]
    found.sort(key=_cost)
    found = spared(design, found, units, most)
    if not found or check.grave == STOP:
        every = remedies(before, check, increment_mm, units)
        rest = (c for other in every for c in priced(before, other, finding, nearer=False))
        found += spared(design, rest, units, most)
    found.sort(key=lambda cure: not cure.meets)
    return found[:most]


def within_rule(design: Design, check: Check, increment_mm: float, units: Units, most: int) -> list[Cure]:
    """What brings a figure within a rule's limits: as if they were its band; or mounts, moved. Empty for what nobody
    measures."""
    rule = next(one for one in design.rules or () if one.id == check.part)
    if check.value is None:
        return []
    if not isinstance(rule, FigureRule):
        return spared(design, place_cures(verdicts_on(design), check, increment_mm, units), units, most)
    bound = design.rewritten(bands={**(design.bands or {}), rule.figure: (rule.low, rule.high)})
    out = [one for one in verdicts_on(bound).by_id.values() if one.figure.id == rule.figure and one.side]
    worst = max(out, key=lambda one: one.short, default=None)
    found = cures(bound, worst.id, increment_mm, units, most) if worst else []
    return [
        replace(
            one, document=_banded(one.document, design), figures={**one.figures, check.id: one.figures.get(worst.id)},
            cures=tuple(check.id if name == worst.id else name for name in one.cures),
        )
        for one in found if worst
    ]  # fmt: skip


def _banded(document: dict[str, Any], design: Design) -> dict[str, Any]:
    """The document with the bands that the design has."""
    own = design_data(design).get("bands")
    rest = {key: value for key, value in document.items() if key != "bands"}
    return rest if own is None else {**rest, "bands": own}


def _apart(
    before: Verdicts, check: Check, twin: Check | None, increment_mm: float, units: Units, most: int
) -> list[Cure]:  # fmt: skip
    """Of what is judged apart from all else: parts too near, parts that carry too much."""
    if check.figure.of == "pair":
        a, b = check.place.parts
        return clearing(before.design, a, b, increment_mm, units, most)
    if judgment(check.figure).to_look_up:
        return []
    return spared(before.design, stronger(before, check, twin, increment_mm, units), units, most)


@remembered(4)
def _space(design: Design) -> Space:
    return Space(design)


@remembered(4)
def _known_slopes(_: Design) -> dict[float, tuple[tuple[str, ...], Floats]]:
    return {}


def _slopes(space: Space, increment_mm: float) -> tuple[tuple[str, ...], Floats]:
    """The figures' names and slopes (W, F): the same for every finding on the design."""
    known = _known_slopes(space.design)
    if increment_mm not in known:
        names, _, slope = figure_slopes(space, increment_mm)
        known[increment_mm] = names, slope
    return known[increment_mm]


def _cost(cure: Cure) -> tuple[bool, int, float]:
    far = max((abs(shift.by) for shift in cure.shifts), default=0.0)
    return not cure.meets, len(cure.worse), far * len(cure.shifts) - _WORTH_MM * len(cure.cures)


def _by_moving(space: Space, before: Verdicts, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    """Of moves in whole increments those that cure, or else come nearest."""
    names, slope = _slopes(space, increment_mm)

    def look(moves: Floats) -> list[Seen]:
        return _seen(judge(space.swept(moves), check.id), check)

    change = slope[names.index(check.id)] * increment_mm if space.free else np.empty(0)
    least = SEEN[check.figure.unit]
    search = Toward(space, look, _seen(before.judged, check)[0], check.side < 0, change, increment_mm, least)
    for moves in search.stages():
        found = [cure for move in moves for cure in move_priced(before, space, move, check, units)]
        if found:
            return found
    return []


def _seen(judged: Judged, check: Check) -> list[Seen]:
    """The check's figure of each of the designs."""
    row = judged.figures.index(check.id)
    good = (judged.side[row] == 0) & judged.swept.traced.reached[:, 0]
    edges = judged.low[row] if check.side < 0 else judged.high[row]
    return [Seen(float(v), float(e), bool(g)) for v, e, g in zip(judged.value[row], edges, good, strict=True)]
