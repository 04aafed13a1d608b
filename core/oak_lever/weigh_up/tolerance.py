"""What a bracket off its place, or a bar of another length, does to the axle at ride."""

from dataclasses import dataclass
from math import hypot, isfinite
from typing import Any

import numpy as np

from oak_lever.design.parts import parts_of
from oak_lever.design.types import Design
from oak_lever.figures.rows import ROW_OF, setting_of, table
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import RIDE, trace
from oak_lever.weigh_up.kept import kept_poses
from oak_lever.weigh_up.racks import plain

ERROR_MM = 1.5875
"""How far a hole or a length is taken to be off where nobody says: a sixteenth of an inch."""
FIGURES = (
    "pinion_change", "axle_x", "axle_y", "yaw", "anti_squat", "anti_dive", "ic_length", "roll_center_height",
    "roll_axis_angle", "roll_steer",
)  # fmt: skip
_NUDGES_MM = (0.1, 0.2)
"""Slopes are taken over these, both ways, and brought to none (Richardson)."""
Slopes = dict[str, float | None]


@dataclass(frozen=True)
class Tolerance:
    """By mount and axis, and by bar, what a millimeter does to each figure (None: the design has no such figure).
    `worst`: all of them off by `error` mm the worst way; `likely`: as chance has it, the root of the sum of squares."""

    design: str
    error: float
    reached: bool
    mounts: dict[str, dict[str, Slopes]] | None
    lengths: dict[str, Slopes] | None
    worst: Slopes | None
    likely: Slopes | None

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {"format": "oak-lever-tolerance", "version": 1, **vars(self)}


def tolerance(design: Design, error_mm: float = ERROR_MM) -> Tolerance:
    """How exact each hole and each length must be, with the lengths kept.

    Raises:
        ValueError: for an error that is not above 0 and finite.
    """
    if not (isfinite(error_mm) and error_mm > 0.0):
        raise ValueError("must be above 0 and finite, mm")
    mechanism = mechanism_of(design)
    if not trace(mechanism, RIDE).reached[0, 0]:
        return Tolerance(design.name, error_mm, False, None, None, None, None)
    layout = mechanism.layout
    bolts = {f"{link.id}.axle.{n}" for link in design.links if link.kind == "radius_arm" for n in (0, 1)}
    points = [spot.name for spot in parts_of(design).spots if spot.holds and spot.name not in bolts]
    bars = {bar.name for bar in layout.bars if not bar.rigid}
    rows = [n for n, row in enumerate(layout.rows) if row.name in bars]
    found = _slopes(design, [(layout.mounts.index(name), a) for name in points for a in range(3)], rows)
    by_coordinate = found[: 3 * len(points)].reshape(len(points), 3, -1)
    mounts = {
        name: {axis: _named(by_coordinate[n, a]) for a, axis in enumerate("xyz")} for n, name in enumerate(points)
    }
    lengths = {layout.rows[n].name: _named(one) for n, one in zip(rows, found[3 * len(points) :], strict=True)}
    off = np.abs(found) * error_mm
    return Tolerance(
        design.name, error_mm, True, mounts, lengths, _named(off.sum(axis=0)),
        _named(np.array([hypot(*column) for column in off.T])),
    )  # fmt: skip


def _named(values: Floats) -> Slopes:
    return {name: plain(value) for name, value in zip(FIGURES, values, strict=True)}


def _slopes(design: Design, coordinates: list[tuple[int, int]], rows: list[int]) -> Floats:
    """(coordinates + rows, figures) per mm; NaN for a figure that the ride row has not."""
    mechanism = mechanism_of(design)
    many = len(coordinates) + len(rows)
    by_nudge = []
    for nudge in _NUDGES_MM:
        mounts = np.repeat(mechanism.mounts, 2 * many, axis=0)
        lengths = np.zeros((2 * many, len(mechanism.layout.rows)))
        for way, by in enumerate((nudge, -nudge)):
            for n, (mount, axis) in enumerate(coordinates):
                mounts[2 * n + way, mount, axis] += by
            for n, row in enumerate(rows, len(coordinates)):
                lengths[2 * n + way, row] += by
        figures = table(kept_poses(mechanism, mounts, lengths), setting_of(design))
        values = figures[[ROW_OF[name] for name in FIGURES], :, 0].T
        by_nudge.append((values[0::2] - values[1::2]) / (2.0 * nudge))
    fine, coarse = by_nudge
    slopes: Floats = (4.0 * fine - coarse) / 3.0
    ride = table(trace(mechanism, RIDE), setting_of(design))[[ROW_OF[name] for name in FIGURES], 0, 0]
    slopes[:, ~np.isfinite(ride)] = np.nan
    return slopes
