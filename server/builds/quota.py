"""How much geometry a design may hold: so much that every answer about it comes in time, and that it always fits."""

from collections.abc import Iterator
from typing import Any

from oak_lever.api import Design, Fault, Refused, Truck

MOST_CORNERS = 20_000
"""Corners, points and holes of a room together: a megabyte at most, beside which all else of a design is little."""


def refuse_too_much(document: Design | Truck) -> None:
    """
    Raises:
        Refused: where a room holds more than that.
    """
    count = sum(len(points) for points in _points(document.room))
    if count > MOST_CORNERS:
        said = (
            f"its outlines, hulls, paths and holes have {count:,} corners together; {MOST_CORNERS:,} are taken at most"
        )
        raise Refused([Fault("room", f"{said}. Leave some out, or draw them simpler.")])


_LISTS = {"tube": "path", "prism": "outline", "hull": "points", "holes": "at"}


def _points(room: Any) -> Iterator[Any]:
    solids = [one.solid for one in room.keep_outs] if room else []
    solids += [one.region for one in getattr(room, "zones", ())]
    yield from (getattr(solid, _LISTS[solid.kind]) for solid in solids if solid.kind in _LISTS)
