"""In which order brackets are welded out, which way each weld pulls as it cools, and what is measured again after.

A fillet shrinks as it cools. One on a side of a tube shortens that side: the tube's ends come toward it. A tab with a
fillet on one side leans toward it; with one on each side it is drawn onto what it stands on.
"""

from dataclasses import dataclass

import numpy as np

from oak_lever.design.cutting import Base
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.brackets import CutBracket, brackets_made, foot_of, in_chassis
from oak_lever.strength.bracketed import bracket_words

_MATTERS = 0.38
"""A way is named where at least this part of the pull goes along it (22.5 degrees off the other)."""


@dataclass(frozen=True)
class WeldStep:
    """A bracket to weld next: its id, in words, which way its weld pulls, and what to measure again."""

    bracket: str
    words: str
    pulls: str
    then: str


def weld_order(design: Design) -> list[WeldStep]:
    """Brackets on the axle tube first, from its middle outward, left and right in turn, so that what one pulls its
    mirror image pulls back; then those on the frame the same way. Empty where no bracket can be made as drawn."""
    made, _ = brackets_made(design)
    drawn = {one.id: one for one in design.brackets or ()}
    onto = {one.id: _foot(one, drawn[one.id].base) for one in made}
    ordered = sorted(
        made,
        key=lambda one: (drawn[one.id].base.kind != "tube", round(abs(onto[one.id][1])), -onto[one.id][1], one.id),
    )
    found = []
    for one in ordered:
        bracket = drawn[one.id]
        pulls, then = _said(design, bracket.base.kind, onto[one.id])
        found.append(WeldStep(one.id, bracket_words(design, bracket), pulls, then))
    return found


def _foot(made: CutBracket, base: Base) -> Floats:
    """The middle of both plates' feet, mm, in the chassis at ride."""
    ends = [in_chassis(plate, end) for plate in made.plates for end in foot_of(plate, base)]
    out: Floats = np.mean(ends, axis=0)
    return out


def _said(design: Design, kind: str, foot: Floats) -> tuple[str, str]:
    if kind != "tube":
        return (
            "draws its plates onto the steel they stand on; each plate leans toward the side that is welded first",
            "hole to hole and across the diagonals, with the spacer still in",
        )
    off = foot - np.array([0.0, foot[1], design.axle.tire_radius_loaded])
    way = off / float(np.linalg.norm(off))
    ends = [(way[0], "forward", "back"), (way[2], "up", "down")]
    named = [more if by > 0.0 else less for by, more, less in ends if abs(by) >= _MATTERS]
    then = []
    if abs(way[0]) >= _MATTERS:
        then.append("wheel faces apart in front and behind (toe)")
    if abs(way[2]) >= _MATTERS:
        then.append("wheel faces apart at the top and at the bottom (camber)")
    return f"draws the tube's ends {' and '.join(named)}", "; ".join([*then, "the pinion's angle"])
