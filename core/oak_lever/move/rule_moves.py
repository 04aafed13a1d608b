"""What brings a distance or a height of mounts within a rule's limits: the mounts moved by the fewest increments."""

from math import nan

import numpy as np

from oak_lever.design.parts import parts_of
from oak_lever.design.types import Design
from oak_lever.judge.check import GOOD, Check
from oak_lever.judge.rules import rule_checks
from oak_lever.judge.verdicts import Verdicts
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Movable, Space, part_space
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, move_priced
from oak_lever.move.search import Seen, Toward
from oak_lever.move.slopes import slopes
from oak_lever.units import Units


def place_cures(before: Verdicts, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    """Single moves that keep the rule, of each part that it names; two together where no single one does; where
    nothing does, what comes nearest."""
    design = before.design
    named = set(check.place.parts)
    own = {spot.part for spot in parts_of(design).spots if {spot.name, spot.was} & named and not spot.holds}
    found: list[Cure] = []
    for space in (Space(design), *(part_space(design, part) for part in sorted(own))):
        if space.free:
            found += _moved(before, space, check, increment_mm, units)
    if any(cure.meets for cure in found):
        found = [cure for cure in found if cure.meets]
    return sorted(found, key=lambda cure: (len(cure.worse), max((abs(shift.by) for shift in cure.shifts), default=0.0)))


def _moved(before: Verdicts, space: Movable, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    def look(moves: Floats) -> list[Seen]:
        return [_seen(space.moved(move), check) for move in moves]

    def values(moves: Floats) -> Floats:
        return np.array([[one.value] for one in look(moves)])

    _, slope = slopes(values, np.zeros(len(space.free)), increment_mm)
    assert check.value is not None
    now = Seen(check.value, _edge(check), good=False)
    search = Toward(
        space, look, now, check.side < 0, slope[0] * increment_mm, increment_mm, SEEN[check.figure.unit or "mm"]
    )  # fmt: skip
    for moves in search.stages():
        found = [cure for move in moves for cure in move_priced(before, space, move, check, units)]
        if found:
            return found
    return []


def _seen(design: Design | None, check: Check) -> Seen:
    now = None if design is None else next((one for one in rule_checks(design, ()) if one.id == check.id), None)
    if now is None or now.value is None:
        return Seen(nan, nan, good=False)
    return Seen(now.value, _edge(check), now.grave == GOOD)


def _edge(check: Check) -> float:
    edge = check.low if check.side < 0 else check.high
    return nan if edge is None else edge
