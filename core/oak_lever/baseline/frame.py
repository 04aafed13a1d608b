"""How level the frame stands, and how far it is twisted: from the measured heights of marks on it."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oak_lever.baseline.spread import Spread, arctan_deg, combined, mean, spread_of
from oak_lever.truck.types import Height, Mark, Truck

_IN_LINE_MM = 1.0
"""Marks that come nearer than this to one line in plan say nothing about what lies beside it."""
_PAIR_MM = 50.0
"""How far apart fore-aft the two marks of a pair may stand; and how far two pairs must."""


@dataclass(frozen=True)
class _Seen:
    """A mark, its order in the file, and how much higher it was measured than it should stand, mm."""

    mark: Mark
    order: int
    high: Spread


def frame_figures(truck: Truck) -> dict[str, Spread]:
    """`frame_pitch` (+ nose up), `frame_roll` (+ left up), `frame_twist` (front less rear), degrees; what the readings
    do not give is left out.

    Pitch and roll are the slopes of the least-squares plane through the marks, each weighing the same.
    """
    seen = seen_marks(truck)
    return {**_plane(seen), **_twist(seen)}


def seen_marks(truck: Truck) -> list[_Seen]:
    heights: dict[str, list[Spread]] = {}
    for reading in truck.readings:
        if isinstance(reading, Height) and not reading.left_out:
            heights.setdefault(reading.point, []).append(spread_of(reading))
    return [
        _Seen(mark, order, mean(heights[mark.id]) - mark.at[2])
        for order, mark in enumerate(truck.marks)
        if mark.id in heights
    ]


def _plane(seen: list[_Seen]) -> dict[str, Spread]:
    plan = np.array([one.mark.at[:2] for one in seen]).reshape(-1, 2)
    if len(plan) < 3:
        return {}
    plan = plan - plan.mean(axis=0)
    across = np.linalg.svd(plan)[2][1]
    if np.abs(plan @ across).max() <= _IN_LINE_MM:
        return {}
    weights = np.linalg.pinv(np.column_stack([np.ones(len(plan)), plan]))
    ahead, left = (
        combined([(float(w), one.high) for w, one in zip(row, seen, strict=True)]) for row in weights[1:]
    )  # fmt: skip
    return {"frame_pitch": arctan_deg(ahead), "frame_roll": arctan_deg(left)}


def _twist(seen: list[_Seen]) -> dict[str, Spread]:
    pairs = list(_pairs(seen))
    if not pairs:
        return {}
    first = min(pairs, key=lambda p: (-_station(p), p[0].order, p[1].order))
    last = min(pairs, key=lambda p: (_station(p), p[0].order, p[1].order))
    if _station(first) - _station(last) <= _PAIR_MM:
        return {}
    return {"frame_twist": _roll(first) - _roll(last)}


_Pair = tuple[_Seen, _Seen]


def _pairs(seen: list[_Seen]) -> Iterator[_Pair]:
    """A left mark and a right one at about one station."""
    for left in seen:
        for right in seen:
            level = abs(left.mark.at[0] - right.mark.at[0]) <= _PAIR_MM
            if level and left.mark.at[1] > 0.0 > right.mark.at[1]:
                yield left, right


def _station(pair: _Pair) -> float:
    return (pair[0].mark.at[0] + pair[1].mark.at[0]) / 2.0


def _roll(pair: _Pair) -> Spread:
    left, right = pair
    return arctan_deg((left.high - right.high) / (left.mark.at[1] - right.mark.at[1]))
