"""What a tape says of the links at ride: length, slope from the side, angle in plan, separation; of many designs."""

from dataclasses import dataclass

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.mechanism import Floats, Mechanism


@dataclass(frozen=True)
class LinkFigures:
    """Of one bar: length (mm, joint center to joint center), side_angle and plan_angle (degrees).

    side_angle is + where the frame end is the higher; plan_angle is unsigned, from the truck's centerline; None where
    that view shows the bar as a point.
    """

    id: str
    length: float
    side_angle: float | None
    plan_angle: float | None


@dataclass(frozen=True)
class Separation:
    """Mean height of the upper joints less that of the lower joints, mm, at ride; None without both."""

    axle: float | None
    frame: float | None


def link_figures(mechanism: Mechanism) -> list[LinkFigures]:
    """Of each bar of the first design, in order."""
    long, side, plan = (values[:, 0].tolist() for values in link_angles(mechanism))
    return [
        LinkFigures(bar.name, long[b], _there(side[b]), _there(plan[b])) for b, bar in enumerate(mechanism.layout.bars)
    ]


def link_angles(mechanism: Mechanism) -> tuple[Floats, Floats, Floats]:
    """Length (mm), side angle and plan angle (degrees) of the bars, (B, D) each; NaN where there is no angle."""
    span = np.moveaxis(mechanism.ends[1] - mechanism.ends[0], 1, 0)
    ahead, left, up = np.abs(span[..., 0]), np.abs(span[..., 1]), span[..., 2]
    seen_side, seen_above = np.hypot(ahead, up) >= tol.PLUMB_MM, np.hypot(ahead, left) >= tol.PLUMB_MM
    side = np.where(seen_side, np.degrees(np.arctan2(up, ahead)), np.nan)
    plan = np.where(seen_above, np.degrees(np.arctan2(left, ahead)), np.nan)
    return np.sqrt((span**2).sum(-1)), side, plan


def separation(mechanism: Mechanism) -> Separation:
    """Of the first design."""
    apart = separations(mechanism)
    return Separation(None, None) if apart is None else Separation(*(float(v) for v in apart[:, 0]))


def separations(mechanism: Mechanism) -> Floats | None:
    """(2, D) at the axle and at the frame, mm; None for a layout without uppers or without lowers."""
    bars = mechanism.layout.bars
    upper, lower = ([b for b, bar in enumerate(bars) if bar.kind == kind] for kind in ("upper", "lower"))
    if not upper or not lower:
        return None
    heights = np.stack([ends[:, :, 2] for ends in mechanism.ends])
    apart: Floats = heights[:, :, upper].mean(-1) - heights[:, :, lower].mean(-1)
    return apart


def _there(value: float) -> float | None:
    return None if np.isnan(value) else value
