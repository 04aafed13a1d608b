"""The one way to get slopes: central differences of exact figures, all coordinates in one batch."""

from collections.abc import Callable

import numpy as np

from oak_lever.motion.mechanism import Floats

NUDGE_MM = 0.05
"""Half the distance over which a derivative is taken. The error grows as its square (1e-8 of a figure that bends
over a meter) and rounding as its inverse (1e-12 mm / 0.05 mm): far below a tape either way."""


def slopes(values: Callable[[Floats], Floats], at: Floats, by_mm: float = NUDGE_MM) -> tuple[Floats, Floats]:
    """The values (W,) at the moves `at` (F,), and their slopes (W, F) there: half the difference, per mm, between
    `by_mm` more and `by_mm` less of each coordinate in turn. NaN where a value does not exist on either side.

    `values` gives (N, W) for N moves (N, F). What is wanted over a shop increment is taken over that increment.
    """
    count = len(at)
    around = np.concatenate([at + by_mm * np.eye(count), at - by_mm * np.eye(count), at[None]])
    found = values(around)
    with np.errstate(invalid="ignore"):
        slope = (found[:count] - found[count : 2 * count]) / (2.0 * by_mm)
    return found[-1], slope.T
