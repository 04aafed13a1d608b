"""A loaded radius set anew: what was meant by it says what moves."""

from math import atan, degrees
from typing import Any, Literal

from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import move_solid
from oak_lever.design.types import Design
from oak_lever.truck.reader import truck_data, truck_from
from oak_lever.truck.shared import own_keep_outs
from oak_lever.truck.types import End, Truck

Meant = Literal["sits", "slip"]
"""`sits`: the tire was measured, the truck stands lower (or higher) on it, links and all; `slip`: the figure was wrong,
and every height off the floor is as it was measured."""


def with_radius(truck: Truck, end: End, radius: float, meant: Meant) -> Truck:
    """The truck with that axle on tires of that loaded radius (mm). Where it `sits` on them, what stands on the frame
    goes with it, by how far it lies toward that axle: marks, keep-outs, rails (as at mid wheelbase), the center of
    gravity.

    Raises:
        Refused: where that makes no truck.
    """
    data = truck_data(truck)
    by = radius - getattr(truck.axles, end).tire_radius_loaded
    data["axles"][end]["tire_radius_loaded"] = radius
    if meant == "sits":
        _lower(data, truck, end, by)
    return truck_from(data)


def _lower(data: dict[str, Any], truck: Truck, end: End, by: float) -> None:
    rear, front = truck.axles.rear.station, truck.axles.front.station

    def part(x: float) -> float:
        along = (x - rear) / (front - rear)
        return by * (along if end == "front" else 1.0 - along)

    share = truck.vehicle.front_share
    data["vehicle"]["cg_height"] += by * (share if end == "front" else 1.0 - share)
    for mark in data.get("marks", []):
        mark["at"][2] += part(mark["at"][0])
    if data.get("rails"):
        data["rails"]["underside"] += by / 2.0
    for one in (data.get("room") or {}).get("keep_outs", []):
        move_solid(one["solid"], (0.0, 0.0, part(_middle_x(one["solid"]))))


def _middle_x(solid: dict[str, Any]) -> float:
    if solid["kind"] == "box":
        return float(solid["center"][0])
    if solid["kind"] == "prism":
        if solid["along"] == "x":
            return float(solid["from"] + solid["to"]) / 2.0
        return _mean([corner[0] if solid["along"] != "x" else 0.0 for corner in solid["outline"]])
    return _mean([point[0] for point in solid["path" if solid["kind"] == "tube" else "points"]])


def _mean(values: list[float]) -> float:
    return (min(values) + max(values)) / 2.0


def stood_on(design: Design, radius: float, meant: Meant) -> Design:
    """A design of that axle so. Where the truck `sits` on the new radius, everything of the axle and beside it goes up
    or down together, so that nothing moves against anything but the ground; at a `slip` every height stays, and the
    axle's line alone stands elsewhere.

    Raises:
        Refused: where that makes no design.
    """
    data = design_data(design)
    by = radius - design.axle.tire_radius_loaded
    data["axle"]["tire_radius_loaded"] = radius
    if meant == "slip":
        return design_from(data)
    up = (0.0, 0.0, by)
    for spot in parts_of(design).spots:
        part: Any = data
        for step in spot.path[:-1]:
            part = part[step]
        x, y, z = part[spot.path[-1]]
        part[spot.path[-1]] = [x, y, z + by]
    data["axle"]["pinion"]["joint"][2] += by
    if data["axle"].get("housing"):
        data["axle"]["housing"]["at"][2] += by
    lateral = data.get("lateral") or {}
    for one in [*data["links"], lateral]:
        for bend in (one.get("tube") or {}).get("bends", []):
            bend[2] += by
    own_keep_outs(data)  # the truck's go with the truck
    for one in (data.get("room") or {}).get("keep_outs", []):
        move_solid(one["solid"], up)
    for zone in (data.get("room") or {}).get("zones", []):
        move_solid(zone["region"], up)
    return design_from(data)


def leans_by(truck: Truck, after: Truck) -> float:
    """How much more nose up (degrees) the frame then stands, by both axles' loaded radii."""
    base = truck.axles.front.station - truck.axles.rear.station

    def rise(one: Truck) -> float:
        return one.axles.front.tire_radius_loaded - one.axles.rear.tire_radius_loaded

    return degrees(atan((rise(after) - rise(truck)) / base))
