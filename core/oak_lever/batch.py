"""Many designs of one layout at once, and what moves each figure: derivatives by every mount coordinate."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.types import Design
from oak_lever.figures.rows import COLUMNS, setting_of, table
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import Plan, Poses, trace

CHUNK_POSES = 40_000
"""Poses solved at a time: some 16 MB of states, motions and figures, whatever the batch."""

NUDGE_MM = 0.05
"""Half the distance over which a derivative is taken. The error grows as its square (1e-8 of a figure that bends
over a meter) and rounding as its inverse (1e-12 mm / 0.05 mm): far below a tape either way."""

RIDE_FIGURES = (
    "ic_x", "ic_height", "ic_length", "anti_squat", "anti_dive", "anti_lift_drive", "anti_lift_brake",
    "roll_center_height", "roll_axis_angle", "roll_steer",
)  # fmt: skip
RANGES = {
    "pinion_range": ("heave", "pinion_change"),
    "fore_aft_range": ("heave", "axle_x"),
    "lateral_range": ("heave", "axle_y"),
    "rear_steer_range": ("articulation", "yaw"),
}


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
    shape = (len(mounts), len(poses.travel))
    found = {name: np.empty(shape) for name in names}
    rows = {name: COLUMNS.index(name) for name in names}
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


@dataclass(frozen=True)
class Sensitivities:
    """Change of each figure per mm of each mount coordinate: `by_figure[name]` is (K, 3), along `mounts` and x, y, z.

    NaN where the figure does not exist. The figures are those at ride, and the ranges (highest less lowest) over
    the cycle of `RANGES`.
    """

    mounts: tuple[str, ...]
    by_figure: dict[str, Floats]


def sensitivities(design: Design, heave_rows: int = 11, twist_rows: int = 9) -> Sensitivities:
    """What moves each figure, by central differences of exact figures over 0.1 mm; see `NUDGE_MM` for the error.

    A range whose extreme jumps from one end to the other there is not differentiable; what is given is then between
    the two slopes.
    """
    base = mounts_of(design)
    count = base.size
    nudged = np.repeat(base[None], 2 * count, axis=0).reshape(2, count, *base.shape)
    for n in range(count):
        nudged[0, n].flat[n] += NUDGE_MM
        nudged[1, n].flat[n] -= NUDGE_MM
    plan, reach = Plan(), design.travel
    places = {
        "heave": plan.heave(np.linspace(-reach.droop, reach.bump, heave_rows)),
        "articulation": plan.twist(np.linspace(-reach.articulation, reach.articulation, twist_rows)),
    }
    needed = (*RIDE_FIGURES, *(column for _, column in RANGES.values()))
    batch = np.concatenate([nudged.reshape(2 * count, *base.shape), base[None]])
    found, reached = figures_of_many(design, batch, plan.poses(), needed)
    if not reached[-1, 0]:  # a nudge can hold a loose axle after a fashion, but that is no slope of the design's
        return Sensitivities(
            mount_names(design), {name: np.full(base.shape, np.nan) for name in (*RIDE_FIGURES, *RANGES)}
        )
    ends = {name: found[name][:, 0] for name in RIDE_FIGURES}
    ends |= {name: np.ptp(found[column][:, places[sweep]], axis=1) for name, (sweep, column) in RANGES.items()}

    def slope(values: Floats) -> Floats:
        more, less = values[:-1].reshape(2, count)
        return ((more - less) / (2 * NUDGE_MM)).reshape(base.shape)

    return Sensitivities(mount_names(design), {name: slope(values) for name, values in ends.items()})
