"""What speaks against each combination of holes: parts that meet or come too near, joints run out, stops."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.clearance.clearances import gaps_of
from oak_lever.cycle import sweep_many
from oak_lever.design.faults import Refused
from oak_lever.design.parts import part_said
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import STOP
from oak_lever.judge.gaps import MET_MM, too_near
from oak_lever.judge.judged import judge
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.coordinates import placed
from oak_lever.weigh_up.racks import Combination, Site, placed_in

_ROWS = 5
_GRID = (3, 3)
"""Travels by twists in which gaps are looked at: the ends, the corners of both, and ride."""
_AT_ONCE = 100
_SAME_MM = 0.5


@dataclass(frozen=True)
class Against:
    """What speaks against a combination, in words, links made to fit: none where nothing does."""

    combination: int
    words: tuple[str, ...]


def held_against(
    design: Design, sites: Sequence[Site], combinations: Sequence[Combination]
) -> Iterator[Against]:  # fmt: skip
    """In the order of the combinations: stops that the design has not as it stands, and pairs that come nearer than is
    wanted and than they do now, looked at in a few poses."""
    now = {(gap.a, gap.b): gap.gap for gap in too_near(design).values()}
    held = {bar.name for bar in mechanism_of(design).layout.bars}
    own = judge(sweep_many(design, mechanism_of(design), _ROWS)).grave()
    for start in range(0, len(combinations), _AT_ONCE):
        some = combinations[start : start + _AT_ONCE]
        fitted = placed_in(design, sites, [one.at for one in some])
        sound = [n for n, one in enumerate(some) if one.set is not None]
        graves = {}
        if sound:
            judged = judge(sweep_many(design, fitted.with_mounts(fitted.mounts[sound]), _ROWS))
            graves = {n: judged.grave(row) for row, n in enumerate(sound)}
        for n in range(len(some)):
            if n not in graves:
                yield Against(start + n, ("two ends of a link come to one point",))
                continue
            stops = [name for name, grave in graves[n].items() if grave == STOP and own.get(name, 0) < STOP]
            words = [BY_ID[name].name for name in stops]
            yield Against(start + n, (*words, *_near(design, fitted.layout.mounts, fitted.mounts[n], held, now)))


def _near(
    design: Design, names: Sequence[str], mounts: np.ndarray, held: set[str], now: dict[tuple[str, str], float]
) -> list[str]:
    at = {name: (float(x), float(y), float(z)) for name, (x, y, z) in zip(names, mounts, strict=True)}
    try:
        moved = placed(design, at)
    except Refused:
        return ["it makes no design"]
    found = gaps_of(moved, only=lambda a, b: bool(held & {a, b}), grid=_GRID, spare_mm=0.0)
    return [
        f"{part_said(design, gap.a)} and {part_said(design, gap.b)} {'meet' if gap.gap <= 0.0 else 'come too near'}"
        for gap in found
        if gap.gap < gap.wanted - MET_MM and gap.gap < now.get((gap.a, gap.b), np.inf) - _SAME_MM
    ]
