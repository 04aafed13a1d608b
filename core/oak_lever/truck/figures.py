"""The truck's own figures that can be set, by their paths in its file: what each is called, and its unit."""

from dataclasses import dataclass
from typing import Literal

TruckUnit = Literal["mm", "kg", "share", ""]
"""`share`: a part of 1; nothing: not a single number."""


@dataclass(frozen=True)
class TruckFigure:
    path: str
    words: str
    unit: TruckUnit


_AXLE = (
    ("station", "axle center, ahead of the datum"),
    ("tire_diameter", "tire diameter"),
    ("tire_radius_loaded", "loaded tire radius"),
    ("tire_width", "tire width"),
    ("track", "track"),
)

TRUCK_FIGURES: tuple[TruckFigure, ...] = (
    TruckFigure("vehicle.mass", "mass of the whole truck", "kg"),
    TruckFigure("vehicle.front_share", "share of the mass on the front axle", "share"),
    TruckFigure("vehicle.cg_height", "height of the center of gravity", "mm"),
    TruckFigure("vehicle.brake_front", "share of the braking at the front axle", "share"),
    *(TruckFigure(f"axles.{end}.{key}", f"{end} {words}", "mm") for end in ("front", "rear") for key, words in _AXLE),
    TruckFigure("rails.outside_width", "frame rails, outside to outside", "mm"),
    TruckFigure("rails.depth", "frame rails, depth", "mm"),
    TruckFigure("rails.flange", "frame rails, flange", "mm"),
    TruckFigure("rails.underside", "frame rails, underside off the floor", "mm"),
)
