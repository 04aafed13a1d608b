"""What a tape says of the links at ride: length, slope from the side, angle in plan, separation."""

from math import atan2, degrees, dist, hypot

from oak_lever import tolerances as tol
from oak_lever.design.linkage import TwoEnded, bars
from oak_lever.design.types import Design


def link_figures(design: Design) -> list[dict[str, str | float | None]]:
    """Id, length (mm, joint center to joint center), side_angle and plan_angle (degrees) of each bar.

    side_angle is + where the frame end is the higher; plan_angle is unsigned, from the truck's centerline;
    None where that view shows the bar as a point.
    """
    return [_figures(bar) for bar in bars(design)]


def _figures(bar: TwoEnded) -> dict[str, str | float | None]:
    ahead, left, up = (f - a for a, f in zip(bar.axle, bar.frame, strict=True))
    seen_side, seen_above = hypot(ahead, up) >= tol.PLUMB_MM, hypot(ahead, left) >= tol.PLUMB_MM
    return {
        "id": bar.id,
        "length": dist(bar.axle, bar.frame),
        "side_angle": degrees(atan2(up, abs(ahead))) if seen_side else None,
        "plan_angle": degrees(atan2(abs(left), abs(ahead))) if seen_above else None,
    }


def separation(design: Design) -> dict[str, float | None]:
    """Mean height of the upper joints less that of the lower joints, at the axle and at the frame; mm, at ride."""
    upper = [link for link in design.links if link.kind == "upper"]
    lower = [link for link in design.links if link.kind == "lower"]
    if not upper or not lower:
        return {"axle": None, "frame": None}

    def mean(heights: list[float]) -> float:
        return sum(heights) / len(heights)

    return {
        "axle": mean([u.axle.at[2] for u in upper]) - mean([w.axle.at[2] for w in lower]),
        "frame": mean([u.frame.at[2] for u in upper]) - mean([w.frame.at[2] for w in lower]),
    }
