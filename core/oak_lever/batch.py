"""Columns of many designs of one layout at chosen poses, memory bounded by what is returned."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.types import Design
from oak_lever.figures.rows import COLUMNS, ROW_OF, setting_of, table
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import Poses, trace

CHUNK_POSES = 40_000
"""Poses solved at a time: some 16 MB of states, motions and figures, whatever the batch."""


def mount_names(design: Design) -> tuple[str, ...]:
    """Names of the mounts along the second axis of a batch, such as ``lower-left.axle``."""
    return mechanism_of(design).layout.mounts


def mounts_of(design: Design) -> Floats:
    """(K, 3) the design's mounts in the order of `mount_names`, mm in the chassis frame at ride."""
    mounts: Floats = mechanism_of(design).mounts[0].copy()
    return mounts


def figures_of_many(
    design: Design, mounts: Floats, poses: Poses, names: Sequence[str] = COLUMNS
) -> tuple[dict[str, Floats], NDArray[np.bool_]]:
    """Figures (each (D, P), NaN where there is none) and `reached` (D, P) of D designs at P poses.

    The designs are `design` with other mounts, (D, K, 3). Solved in chunks, so that memory stays bounded by what
    is returned.

    Raises:
        ValueError: for mounts of another shape, or not finite.
    """
    one, setting = mechanism_of(design), setting_of(design)
    if mounts.ndim != 3 or mounts.shape[1:] != one.mounts.shape[1:] or not np.isfinite(mounts).all():
        raise ValueError(f"mounts must be finite and of shape (designs, {one.mounts.shape[1]}, 3)")
    shape = (len(mounts), len(poses.travel_mm))
    found = {name: np.empty(shape) for name in names}
    rows = {name: ROW_OF[name] for name in names}
    reached = np.empty(shape, dtype=np.bool_)
    size = max(1, CHUNK_POSES // shape[1])
    for start in range(0, shape[0], size):
        chunk = slice(start, start + size)
        traced = trace(one.with_mounts(mounts[chunk]), poses)
        reached[chunk] = traced.reached
        figures = table(traced, setting)
        for name, row in rows.items():
            found[name][chunk] = figures[row]
    return found, reached
