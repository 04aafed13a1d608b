"""How a design stands on a truck: what it takes from it, what is left when that is taken away, where the two differ.

A design file stands alone: it holds the truck's figures that its own need. Here, they are the truck's, kept once for
both axles; a design is kept bare of them, and resolved onto a truck whenever it is read.
"""

from collections.abc import Collection, Iterator
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.truck.figures import TruckUnit
from oak_lever.truck.reader import truck_data, truck_from
from oak_lever.truck.shared import own_keep_outs, shared_keep_outs, taken_keep_outs, with_shared
from oak_lever.truck.types import End, Truck

Bare = dict[str, Any]
_DIGITS = 9
"""A difference of stations or of shares is rounded to this, so that what was written comes back as it was written."""


@dataclass(frozen=True)
class Shared:
    """A figure that designs take from the truck: its path in a design, its path in the truck (`{end}`: the axle's; none
    for what follows from others), and what it is called."""

    design: str
    truck: str | None
    words: str
    unit: TruckUnit


SHARED: tuple[Shared, ...] = (
    Shared("vehicle.wheelbase", None, "wheelbase", "mm"),
    Shared("vehicle.mass", "vehicle.mass", "mass of the whole truck", "kg"),
    Shared("vehicle.front_share", "vehicle.front_share", "share of the mass on the front axle", "share"),
    Shared("vehicle.cg_height", "vehicle.cg_height", "height of the center of gravity", "mm"),
    Shared("vehicle.brake_share", None, "share of the braking at this axle", "share"),
    Shared("axle.tire_diameter", "axles.{end}.tire_diameter", "tire diameter", "mm"),
    Shared("axle.tire_radius_loaded", "axles.{end}.tire_radius_loaded", "loaded tire radius", "mm"),
    Shared("axle.tire_width", "axles.{end}.tire_width", "tire width", "mm"),
    Shared("axle.track", "axles.{end}.track", "track", "mm"),
    Shared("rails", "rails", "frame rails", ""),
    Shared("use", "use", "use", ""),
    Shared("bands", "bands", "bands", ""),
    Shared("rules", "rules", "rules that bind", ""),
)


@dataclass(frozen=True)
class Difference:
    """A figure that a design file has otherwise than the truck: its path in the design, in words, and both values."""

    path: str
    words: str
    unit: TruckUnit
    truck: Any
    file: Any


def overlay(truck: Truck, end: End) -> dict[str, Any]:
    """What a design of that axle takes from the truck, by its paths in the design; None, or nothing in it, for none."""
    data = truck_data(truck)
    found = {shared.design: _of_truck(shared, truck, data, end) for shared in SHARED}
    return {**found, "bands": found["bands"] or {}, "rules": found["rules"] or []}


def overlays(truck: Truck) -> dict[End, dict[str, Any]]:
    """What the designs of either axle take from the truck; as `room.keep_outs` its own keep-outs, beside theirs."""
    ends: tuple[End, End] = ("rear", "front")
    return {end: {**overlay(truck, end), "room.keep_outs": shared_keep_outs(truck, end)} for end in ends}


def resolved(bare: Bare, truck: Truck) -> Design:
    """A bare design on a truck: a design that stands alone.

    Raises:
        Refused: where the two make no design.
    """
    whole = deepcopy(bare)
    taken = {} if bare.get("as_found") else overlay(truck, bare["axle"]["end"])
    for path, value in taken.items():
        if not _nothing(value):
            _put(whole, path, value)
    if not bare.get("as_found"):
        with_shared(whole, shared_keep_outs(truck, bare["axle"]["end"]))
    return design_from(whole)


def split(design: Design) -> tuple[Bare, Bare]:
    """A design bare of the truck's figures; and those figures, in the design file's shape. One as found keeps its own:
    the truck has other tires since."""
    bare: Bare = deepcopy(design_data(design))
    figures: Bare = {}
    if design.as_found:
        return bare, figures
    own_keep_outs(bare)
    for shared in SHARED:
        value = _take(bare, shared.design)
        if not _nothing(value):
            _put(figures, shared.design, value)
    return bare, figures


def differences(design: Design, truck: Truck) -> list[Difference]:
    """Every figure of the truck's that the design has otherwise. What the design says nothing of is no difference."""
    own, theirs = split(design)[1], overlay(truck, design.axle.end)
    found = []
    for shared in SHARED:
        mine, other = _get(own, shared.design), theirs[shared.design]
        if mine is not None and mine != other:
            found.append(Difference(shared.design, shared.words, shared.unit, other, mine))
    return found


def with_figures(truck: Truck, design: Design, paths: Collection[str]) -> Truck:
    """The truck with figures taken from a design, by their paths there; nobody has measured them yet.

    Raises:
        Refused: where that makes no truck.
    """
    data, figures, end = truck_data(truck), split(design)[1], design.axle.end
    for shared in SHARED:
        value = _get(figures, shared.design)
        if shared.design in paths and value is not None:
            for path, part in _into_truck(shared, value, data, end):
                _put(data, path, part)
                data.get("sources", {}).pop(path, None)
    return truck_from(data)


def first_truck(name: str, design: Design) -> Truck:
    """A truck from the first design of it: the other axle's tires and track are guessed to be the same."""
    axle, vehicle = design.axle, design.vehicle
    tires = {name: getattr(axle, name) for name in ("tire_diameter", "tire_radius_loaded", "tire_width", "track")}
    data = {
        "format": "oak-lever-truck",
        "version": 1,
        "name": name,
        "vehicle": {
            "mass": vehicle.mass,
            "front_share": vehicle.front_share,
            "cg_height": vehicle.cg_height,
            "brake_front": _front(vehicle.brake_share, axle.end),
        },
        "axles": {"front": {"station": vehicle.wheelbase, **tires}, "rear": {"station": 0.0, **tires}},
    }
    truck = with_figures(truck_from(data), design, [shared.design for shared in SHARED])
    return taken_keep_outs(truck, design, only_new=True)


def changed_figures(before: Truck, after: Truck, end: End) -> list[Difference]:
    """What a design of that axle takes otherwise from one truck than from another; `file` is the newer value."""
    old, new = overlay(before, end), overlay(after, end)
    pairs = ((shared, old[shared.design], new[shared.design]) for shared in SHARED)
    return [Difference(s.design, s.words, s.unit, was, now) for s, was, now in pairs if was != now]


def _of_truck(shared: Shared, truck: Truck, data: Bare, end: End) -> Any:
    if shared.truck is not None:
        return _get(data, shared.truck.format(end=end))
    if shared.design == "vehicle.wheelbase":
        return round(truck.axles.front.station - truck.axles.rear.station, _DIGITS)
    return _front(truck.vehicle.brake_front, end)


def _into_truck(shared: Shared, value: Any, data: Bare, end: End) -> Iterator[tuple[str, Any]]:
    if shared.truck is not None:
        yield shared.truck.format(end=end), value
    elif shared.design == "vehicle.wheelbase":  # the rear axle stays where it stands
        yield "axles.front.station", round(data["axles"]["rear"]["station"] + value, _DIGITS)
    else:
        yield "vehicle.brake_front", _front(value, end)


def _front(share: float, end: End) -> float:
    """The front axle's share from an axle's own; and back."""
    return share if end == "front" else round(1.0 - share, _DIGITS)


def _get(data: Bare, path: str) -> Any:
    value: Any = data
    for step in path.split("."):
        value = value.get(step) if isinstance(value, dict) else None
    return value


def _put(data: Bare, path: str, value: Any) -> None:
    *way, last = path.split(".")
    for step in way:
        data = data.setdefault(step, {})
    data[last] = value


def _take(data: Bare, path: str) -> Any:
    *way, last = path.split(".")
    for step in way:
        data = data.get(step, {})
    return data.pop(last, None)


def _nothing(value: Any) -> bool:
    return value is None or value in ({}, [])
