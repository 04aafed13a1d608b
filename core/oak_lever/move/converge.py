"""The construction "converge on a point": links drawn from their axle mounts toward one chosen point."""

from dataclasses import dataclass
from math import dist

from oak_lever.design.links import Link
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.tolerances import LARGEST_MM, PLUMB_MM


class NoCrossing(ValueError):
    """The point and the station give no hole: said in words."""


@dataclass(frozen=True)
class Hole:
    """Where a link's frame hole comes to lie, and how long the link then is, mm."""

    link: str
    at: Point
    length: float


def holes(design: Design, kind: str, point: tuple[float, float], station: float) -> list[Hole]:
    """Frame holes of the links of a kind (`lower`, `upper`), mm.

    Where, in the side view, the line from each axle mount to the point (x, z) crosses the bracket's station x; sideways
    the hole stays where it is.

    Raises:
        NoCrossing: for a point straight above an axle mount, a station on the axle mount itself, or a hole farther off
            than a file may say.
    """
    found: list[Hole] = []
    for link in design.links:
        if isinstance(link, Link) and link.kind == kind:
            x, _, z = link.axle.at
            if abs(point[0] - x) < PLUMB_MM:
                raise NoCrossing("The point stands straight above or below an axle mount: choose one ahead of it.")
            if abs(station - x) < PLUMB_MM:
                raise NoCrossing("The station is at the axle mount: choose one where the frame bracket stands.")
            hole = (station, link.frame.at[1], z + (point[1] - z) * (station - x) / (point[0] - x))
            if max(map(abs, hole)) > LARGEST_MM:
                raise NoCrossing("That puts a frame hole nowhere near a truck: choose a nearer point.")
            found.append(Hole(link.id, hole, dist(link.axle.at, hole)))
    return found
