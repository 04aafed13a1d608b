"""The truck's own figures that can be set, by their paths in its file: what each is called, and its unit."""

from dataclasses import dataclass
from typing import Any, Literal

from oak_lever.truck.types import End, Truck

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

OWN_FIGURES: tuple[TruckFigure, ...] = (
    TruckFigure("axle.tube_diameter", "axle tube", "mm"),
    TruckFigure("axle.mass", "mass of the axle", "kg"),
    TruckFigure("axle.pinion.joint.0", "pinion's joint, ahead", "mm"),
    TruckFigure("axle.pinion.joint.2", "pinion's joint, off the floor", "mm"),
    TruckFigure("axle.pinion.angle", "pinion's angle", ""),
)
"""An axle's own figures that verdicts hang on, by their paths in a design; the truck keeps where each comes from under
`designs.{end}.` and that path."""


def guessed_figures(truck: Truck, end: End) -> list[str]:
    """What of a truck, and of the axle at that end, nobody has measured or looked up: in words."""
    other = "front" if end == "rear" else "rear"
    data = truck.model_dump(mode="json", exclude_unset=True, by_alias=True)
    found = [
        figure.words
        for figure in TRUCK_FIGURES
        if not figure.path.startswith(f"axles.{other}.") and _is_there(data, figure.path)
        and source_of(truck, figure.path) == "guessed"
    ]  # fmt: skip
    own = [one.words for one in OWN_FIGURES if source_of(truck, f"designs.{end}.{one.path}") == "guessed"]
    return found + own


def source_of(truck: Truck, path: str) -> str:
    """Where a figure comes from: its own source, or that of what it is part of; what nobody said is guessed."""
    return truck.sources.get(path) or truck.sources.get(path.partition(".")[0]) or "guessed"


def _is_there(data: Any, path: str) -> bool:
    for step in path.split("."):
        data = data.get(step) if isinstance(data, dict) else None
    return data is not None
