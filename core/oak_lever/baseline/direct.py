"""Figures that a reading gives by itself: a tire's loaded radius by its hub's height, where the transfer case's output
stands and how it is turned in plan."""

from oak_lever.baseline.spread import Spread, mean, spread_of
from oak_lever.truck.types import Height, OutputOffset, OutputTurn, Truck


def direct_figures(truck: Truck) -> dict[str, Spread]:
    """`rear_radius`, `front_radius`: the mean of both wheels, each the mean of its readings, mm, where both or one are
    read; `output_offset` mm, + left of the centerline; `output_turn` degrees, + to the left on its way back."""
    used = [reading for reading in truck.readings if not reading.left_out]
    found: dict[str, Spread] = {}
    for end in ("rear", "front"):
        wheels = []
        for side in ("left", "right"):
            hub = f"{end}-hub-{side}"
            high = [spread_of(one) for one in used if isinstance(one, Height) and one.point == hub]
            wheels += [mean(high)] if high else []
        if wheels:
            found[f"{end}_radius"] = mean(wheels)
    offsets = [spread_of(r) * _to_left(r.side) for r in used if isinstance(r, OutputOffset)]
    turns = [spread_of(r) * _to_left(r.points) for r in used if isinstance(r, OutputTurn)]
    for name, read in (("output_offset", offsets), ("output_turn", turns)):
        if read:
            found[name] = mean(read)
    return found


def _to_left(side: str) -> float:
    return 1.0 if side == "left" else -1.0
