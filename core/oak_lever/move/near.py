"""What else a change brings nearer: pairs of parts that are then closer than is wanted."""

from oak_lever.clear.clearances import Gap, gaps_of
from oak_lever.design.parts import part_said
from oak_lever.design.types import Design
from oak_lever.judge.gaps import too_near
from oak_lever.units import Units, length

_SEEN_MM = 0.5


def brought_nearer(before: Design, design: Design) -> list[Gap]:
    """Pairs that are too near in a changed design and were not, or are nearer than they were by what can be seen."""
    near, moved = too_near(before), _only_shocks(before, design)
    found = gaps_of(design, only=None if moved is None else lambda a, b: bool(moved & {a, b}), spare_mm=0.0)
    was = {(gap.a, gap.b): near[gap.a, gap.b].gap if (gap.a, gap.b) in near else gap.wanted for gap in found}
    return [gap for gap in found if gap.gap < was[gap.a, gap.b] - _SEEN_MM]


def _only_shocks(before: Design, design: Design) -> set[str] | None:
    """Which shocks are others, where a design differs in nothing else that moves, holds or stands in the way: all the
    other parts then keep their distances. None where more may have changed."""
    if before.corners is None or design.corners is None:
        return None
    same = before.corners.model_copy(update={"shocks": design.corners.shocks})
    if before.model_copy(update={"corners": same}) != design:
        return None
    was = {one.id: one for one in before.corners.shocks}
    return {one.id for one in design.corners.shocks if was.get(one.id) != one}


def pair_said(design: Design, gap: Gap, units: Units) -> str:
    """ "upper left link and fuel tank, 9 mm, where 25 mm is wanted"."""
    apart = "meet" if gap.gap <= 0.0 else f"are {length(gap.gap, units)} apart"
    both = f"{part_said(design, gap.a)} and {part_said(design, gap.b)}"
    return f"{both} {apart}, where {length(gap.wanted, units)} is wanted"
