"""Parts that come nearer to each other than is wanted, or meet, judged like any other figure."""

from oak_lever.clearance.clearances import Gap, gaps_of
from oak_lever.clearance.depth import deepest
from oak_lever.clearance.travel import Way, meets_from
from oak_lever.clearance.within import bounds_of_solid
from oak_lever.design.parts import across, part_said
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import FIX, STOP, Check, Fact
from oak_lever.judge.places import Place

_FIGURE = BY_ID["gap"]
_ALIKE_MM = 0.01
MET_MM = 1e-6
"""A gap this near to what is wanted is as wide."""

Pairs = dict[tuple[str, str], Gap]
Listed = tuple[tuple[Check, Check | None], ...]


@remembered(8)
def too_near(design: Design) -> Pairs:
    """The pairs that come nearer than is wanted, by the names of the two: over all of travel and twist, as far as stops
    and straps let the axle come."""
    return {(gap.a, gap.b): gap for gap in gaps_of(design, spare_mm=0.0) if gap.gap < gap.wanted - MET_MM}


@remembered(8)
def gap_checks(design: Design) -> Listed:
    """Those pairs judged, each with its mirror image where that fares alike."""
    return tuple(
        (_check(design, gap, twin is not None), _check(design, twin, False) if twin else None)
        for gap, twin in near_pairs(design)
    )


@remembered(8)
def near_pairs(design: Design) -> tuple[tuple[Gap, Gap | None], ...]:
    """The pairs that come nearer than is wanted, each with its mirror image where that comes as near."""
    found, sides = too_near(design), _sides(design)
    done, listed = set[frozenset[str]](), list[tuple[Gap, Gap | None]]()
    for (a, b), gap in found.items():
        if frozenset((a, b)) in done:
            continue
        names = frozenset((sides.get(a, a), sides.get(b, b)))
        other = next((one for pair, one in found.items() if frozenset(pair) == names and pair != (a, b)), None)
        twin = other if other and abs(other.gap - gap.gap) < _ALIKE_MM and other.wanted == gap.wanted else None
        done.update((frozenset((a, b)), *((frozenset((twin.a, twin.b)),) if twin else ())))
        listed.append((gap, twin))
    return tuple(listed)


def _check(design: Design, gap: Gap, both: bool) -> Check:
    meet = gap.gap <= 0.0
    value, travel, articulation = gap.gap, gap.travel, gap.articulation
    if meet:
        deep, *at = deepest(design, gap.a, gap.b)
        if deep > 0.0:
            value, (travel, articulation) = -deep, at
    names = " and ".join(part_said(design, name) for name in (gap.a, gap.b))
    title = f"{names[:1].upper()}{names[1:]}{', and their mirror images' if both else ''}: "
    return Check(
        _FIGURE, f"{gap.a} {gap.b}", value, Place(travel, articulation, (gap.a, gap.b)), gap.wanted, None,
        "what is wanted between parts that move", STOP if meet else FIX, -1,
        title=title + ("they meet" if meet else "too near"), told=_MEET if meet else _NEAR,
        facts=_facts(design, gap, -value) if meet else (),
    )  # fmt: skip


_MEET = "One is in the other there: steel would have to give, or the travel ends."
_NEAR = "They come nearer there than is wanted of parts that move."


def _facts(design: Design, gap: Gap, deep: float) -> tuple[Fact, ...]:
    """How far they are in each other at the most; from which travel on they meet straight up or down, and how much of
    what is asked for that costs."""
    found = [Fact("At the most they are in each other by", deep, "mm")] if deep > 0.0 else []
    ways: tuple[tuple[Way, float], ...] = (("bump", design.travel.bump), ("droop", design.travel.droop))
    first = meets_from(design, gap.a, gap.b)
    if first and not any(first.values()):
        return (
            *found,
            Fact("They meet at ride already, which costs all of the travel:", sum(of for _, of in ways), "mm"),
        )
    for way, asked in ways:
        if way in first:
            found.append(Fact(f"Straight into {way} they meet from", first[way], "mm"))
            found.append(Fact(f"Travel that costs in {way}", asked - first[way], "mm"))
    return tuple(found)


def _sides(design: Design) -> dict[str, str]:
    """By the name of each part that has one: its mirror image on the other side."""
    found = across(design) | {"tire-left": "tire-right", "tire-right": "tire-left"}
    boxes = {one.id: (one.on, *bounds_of_solid(one.solid)) for one in (design.room.keep_outs if design.room else ())}
    for name, (on, low, high) in boxes.items():
        for other, (carrier, least, most) in boxes.items():
            ends = (low[0], -high[1], low[2], high[0], -low[1], high[2])
            if (
                other != name
                and on == carrier
                and max(abs(a - b) for a, b in zip(ends, (*least, *most), strict=True)) < _ALIKE_MM
            ):
                found[name] = other
    return found
