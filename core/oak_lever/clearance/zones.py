"""The zones that mounts belong in, and the mounts that have left them."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oak_lever.clearance.within import outside
from oak_lever.design.parts import Parts, Spot, parts_of
from oak_lever.design.room import Zone
from oak_lever.design.types import Design

IN_MM = 0.01
"""A mount nearer to its zone than this is in it: less than a tape shows, more than rounding."""


@dataclass(frozen=True)
class Left:
    """A mount that is `by` mm outside a zone that it belongs in."""

    spot: Spot
    zone: Zone
    by: float


def zones_of(design: Design, spot: Spot) -> list[Zone]:
    """The zones that a mount belongs in."""
    zones = design.room.zones if design.room else ()
    return [zone for zone in zones if spot.name in zone.mounts or (spot.was is not None and spot.was in zone.mounts)]


def left_zones(design: Design) -> Iterator[Left]:
    """In the order of the mounts."""
    if not (design.room and design.room.zones):
        return
    for spot in parts_of(design).spots:
        for zone in zones_of(design, spot):
            by = float(outside(zone.region, np.array([spot.at]))[0])
            if by > IN_MM:
                yield Left(spot, zone, by)


def unknown_mounts(design: Design) -> Iterator[tuple[Zone, str]]:
    """Mounts that zones are for and that are not there."""
    names = _names(parts_of(design))
    for zone in design.room.zones if design.room else ():
        yield from ((zone, name) for name in zone.mounts if name not in names)


def _names(parts: Parts) -> set[str]:
    return {name for spot in parts.spots for name in (spot.name, spot.was) if name is not None}
