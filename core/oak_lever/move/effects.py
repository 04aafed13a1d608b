"""What each move does to the figures, by one shop increment."""

from dataclasses import dataclass

import numpy as np

from oak_lever.design.types import Design
from oak_lever.judge.measures import measures
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Axis, Coordinate, Space
from oak_lever.move.slopes import slopes

_ROWS = 11
"""Rows of a sweep for slopes: they tell which way to try; what is tried is judged on the whole cycle."""


@dataclass(frozen=True)
class Effect:
    """Moving these mounts together by one increment along an axis (+ for the first; its mirror image goes the other way
    in y) changes the figure by `change`."""

    axis: Axis
    mounts: tuple[str, ...]
    change: float


def all_effects(design: Design, increment_mm: float) -> dict[str, list[Effect]]:
    """What moves each figure: its change by one increment of each free coordinate, the strongest first.

    Half the difference between one increment either way, of the exact figure. Nothing where the figure does not exist.
    """
    space = Space(design)
    names, _, found = figure_slopes(space, increment_mm)
    return {
        name: _ranked(space.free, found[w] * increment_mm)
        for w, name in enumerate(names)
        if np.isfinite(found[w]).any()
    }


def effects(design: Design, figure: str, increment_mm: float) -> list[Effect]:
    """What moves one figure; empty where it does not exist."""
    return all_effects(design, increment_mm).get(figure, [])


def figure_slopes(space: Space, by_mm: float) -> tuple[tuple[str, ...], Floats, Floats]:
    """The figures' names, their values (W,) and slopes (W, F)."""
    names: tuple[str, ...] = ()

    def values(moves: Floats) -> Floats:
        nonlocal names
        taken = measures(space.swept(moves, _ROWS))
        names = tuple(taken)
        return np.stack([measure.value for measure in taken.values()], axis=-1)

    here, found = slopes(values, np.zeros(len(space.free)), by_mm)
    return names, here, found


def _ranked(free: list[Coordinate], change: Floats) -> list[Effect]:
    known = [n for n in range(len(free)) if np.isfinite(change[n])]
    return sorted(
        (Effect(free[n].axis, free[n].mounts, float(change[n])) for n in known), key=lambda effect: -abs(effect.change)
    )
