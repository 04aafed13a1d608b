"""What the scales say: mass, shares, and where the center of gravity stands."""

import math
from collections.abc import Sequence

from oak_lever.baseline.spread import Spread, combined, mean, spread_of
from oak_lever.truck.types import End, Scale, Side, Truck

_RAISED_MM = 1.5
"""One standard deviation of how far an end was raised."""
_OTHER: dict[End, End] = {"front": "rear", "rear": "front"}


def weight_figures(truck: Truck) -> dict[str, Spread]:
    """`mass` kg, `front_share`, `cg_x` mm ahead of the datum, `left_share`, `cg_y` mm to the left, `cg_height` mm; what
    the readings do not give is left out.

    The height comes from what the end left on the ground gains when the other is raised:
    h = r + dW L sqrt(L^2 - H^2) / (W H), springs blocked, with r the loaded radii weighted by the shares.
    """
    level = _on_scales([s for s in _scales(truck) if s.raised is None])
    front, rear = (_end(level, end) for end in ("front", "rear"))
    if front is None or rear is None:
        return {}
    mass = front + rear
    if mass.value <= 0.0:
        return {"mass": mass}
    share, long = front / mass, _wheelbase(truck)
    found = {"mass": mass, "front_share": share, "cg_x": share * long + truck.axles.rear.station}
    wheels = {(end, side): level.get((end, side)) for end in _OTHER for side in ("left", "right")}
    if all(wheels.values()):
        found |= _sideways(truck, wheels, mass)
    height = _height(truck, {"front": front, "rear": rear}, mass, share)
    return found | ({"cg_height": height} if height else {})


def _scales(truck: Truck) -> list[Scale]:
    return [r for r in truck.readings if isinstance(r, Scale) and not r.left_out]


def _wheelbase(truck: Truck) -> float:
    return truck.axles.front.station - truck.axles.rear.station


_Weighed = dict[tuple[End, Side | None], Spread]


def _on_scales(readings: Sequence[Scale]) -> _Weighed:
    """Each wheel and each axle that was weighed, several readings of one as their mean, kg."""
    found: dict[tuple[End, Side | None], list[Spread]] = {}
    for reading in readings:
        found.setdefault((reading.end, reading.side), []).append(spread_of(reading))
    return {where: mean(read) for where, read in found.items()}


def _end(weighed: _Weighed, end: End) -> Spread | None:
    """An axle's weight: of both its wheels, else as it was read whole."""
    left, right = weighed.get((end, "left")), weighed.get((end, "right"))
    return left + right if left and right else weighed.get((end, None))


def _sideways(truck: Truck, wheels: dict, mass: Spread) -> dict[str, Spread]:  # type: ignore[type-arg]
    left = combined([(1.0, weight) for (_, side), weight in wheels.items() if side == "left"])
    moment = combined(
        [
            ((1.0 if side == "left" else -1.0) * getattr(truck.axles, end).track / 2.0, weight)
            for (end, side), weight in wheels.items()
        ]
    )
    return {"left_share": left / mass, "cg_y": moment / mass}


def _height(truck: Truck, level: dict[End, Spread], mass: Spread, share: Spread) -> Spread | None:
    """Of several raised heights the mean, each weighing by its own sigma."""
    lifts: dict[tuple[End, float], list[Scale]] = {}
    for reading in _scales(truck):
        if reading.raised is not None and reading.end != reading.raised.end:
            lifts.setdefault((reading.raised.end, reading.raised.by), []).append(reading)
    found = []
    for (raised, by), readings in lifts.items():
        ground = _OTHER[raised]
        weight = _end(_on_scales(readings), ground)
        if weight is not None:
            found.append(_one_height(truck, raised, by, weight - level[ground], mass, share))
    if not found:
        return None
    weights = [1.0 / one.sigma**2 for one in found]
    return combined([(w / math.fsum(weights), one) for w, one in zip(weights, found, strict=True)])


def _one_height(truck: Truck, raised: End, by: float, gained: Spread, mass: Spread, share: Spread) -> Spread:
    long = _wheelbase(truck)
    flat = math.sqrt(long**2 - by**2)
    high = Spread(by, {f"raised {raised} {by}": _RAISED_MM})
    # L sqrt(L^2 - H^2) / H by H is -L^3 / (H^2 sqrt(L^2 - H^2))
    lever = Spread.through(long * flat / by, [(-(long**3) / (by**2 * flat), high)])
    front, rear = truck.axles.front.tire_radius_loaded, truck.axles.rear.tire_radius_loaded
    return share * (front - rear) + rear + gained * lever / mass
