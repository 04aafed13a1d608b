"""Room for a wrench at both ends of every bracket's bolt, and for the bolt to come out at one of them, at ride."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oak_lever.clearance.clearances import Table
from oak_lever.clearance.parts import Body, Pair, Solid, Stage
from oak_lever.clearance.solids import Piece
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.plates.brackets import BoltWay, bolt_ways

HEAD = 0.9
"""Diameters of bolt from its middle to the corners of its head: sqrt(3)/2 for a head 1.5 across flats, and a little."""
SOCKET, SOCKET_LONG = 1.1, 2.5
"""A socket's outside radius and what it reaches out, with the head or nut in it, in diameters: a shop's figures."""
SPARE = 2.2
"""Diameters a bolt is longer than what it holds: a nut, two washers, two threads, and its head."""
WITHIN_MM = 50.0
"""What is farther off is not looked at."""


@dataclass(frozen=True)
class BoltRoom:
    """What is free around the bolt at a mount of a bracket, mm, 0 where something stands there: around the sockets at
    both ends, and around the bolt as it comes out at the better end; `against`: what is nearest."""

    bracket: str
    mount: str
    free: float
    against: str


@remembered(8)
def bolt_rooms(design: Design) -> tuple[BoltRoom, ...]:
    """Of every bolt of every bracket that can be made: what is free about it, as far as `WITHIN_MM`."""
    ways = bolt_ways(design)
    if not ways:
        return ()
    plan = Plan()
    place = plan.pose(0.0, 0.0)
    stage = Stage(design, plan.poses())
    others = [*stage.moving(), *stage.keep_outs()]
    spaces = [(way, list(_spaces(way, len(plan.poses().parent)))) for way in ways]
    pairs = [
        Pair(space, other, WITHIN_MM)
        for way, four in spaces
        for space in four
        for other in others
        if other.name not in (way.part, f"bracket-{way.bracket}")
    ]
    gaps = Table(plan.poses(), pairs).least(pairs, np.array([place]), 0.0)
    nearest: dict[str, tuple[float, str]] = {}
    for gap in gaps:
        nearest[gap.a] = min(nearest.get(gap.a, (WITHIN_MM, "")), (max(gap.gap, 0.0), gap.b))
    return tuple(_room(way, [nearest.get(one.name, (WITHIN_MM, "")) for one in four]) for way, four in spaces)


def _room(way: BoltWay, four: list[tuple[float, str]]) -> BoltRoom:
    wrench, other_wrench, out, other_out = four
    free, against = min(wrench, other_wrench, max(out, other_out))
    return BoltRoom(way.bracket, way.mount, free, against)


def _spaces(way: BoltWay, poses: int) -> Iterator[Solid]:
    """The sockets at both ends of a bolt, then the bolt drawn out at each."""
    long = 2.0 * way.half + SPARE * way.diameter
    for name, radius, reach in (
        ("socket", SOCKET * way.diameter, SOCKET_LONG * way.diameter), ("bolt", HEAD * way.diameter, long),
    ):  # fmt: skip
        for side in (-1.0, 1.0):
            middle = way.at + side * (way.half + reach / 2.0) * way.along
            body = Body(np.tile(_turn(way.along), (poses, 1, 1)), np.tile(middle, (poses, 1)))
            piece = Piece(0.0, np.empty((0, 3)), (radius, reach / 2.0))
            yield Solid(f"{name} {way.bracket} {way.mount} {side:+.0f}", "bracket", (((piece,), body),))


def _turn(along: Floats) -> Floats:
    """A rotation (3, 3) that brings y to a unit vector."""
    other = np.eye(3)[int(np.argmin(np.abs(along)))]
    x = np.cross(along, other)
    x /= np.linalg.norm(x)
    turned: Floats = np.stack([x, along, np.cross(x, along)], axis=1)
    return turned
