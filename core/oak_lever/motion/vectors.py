"""Sums on rows of three numbers."""

import numpy as np

from oak_lever.motion.mechanism import Floats


def cross(one: Floats, other: Floats) -> Floats:
    """The cross products of vectors (..., 3), broadcast: numpy's own spends more on moving axes than on the sums."""
    a, b, c = one[..., 0], one[..., 1], one[..., 2]
    x, y, z = other[..., 0], other[..., 1], other[..., 2]
    first = b * z - c * y
    out = np.empty((*first.shape, 3))
    out[..., 0], out[..., 1], out[..., 2] = first, c * x - a * z, a * y - b * x
    return out
