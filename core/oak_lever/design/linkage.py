"""Two-ended bars of a design, whatever they belong to: links, a panhard bar, the rods of a Watts link."""

from math import cos, radians, sin
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from oak_lever.design.types import Design, Mount, Point, Watts


class TwoEnded(NamedTuple):
    """A bar by its name, its two joint centers at ride, and the mounts there (None for a crank end)."""

    id: str
    kind: str
    axle: "Point"
    frame: "Point"
    axle_mount: "Mount | None"
    frame_mount: "Mount | None"


def crank_ends(watts: "Watts") -> tuple["Point", "Point"]:
    """Upper and lower end of the bell crank at ride: `arm` from the pivot, turned by `tilt` about +x."""
    x, y, z = watts.pivot.at
    dy, dz = -watts.arm * sin(radians(watts.tilt)), watts.arm * cos(radians(watts.tilt))
    return (x, y + dy, z + dz), (x, y - dy, z - dz)


def bars(design: "Design") -> list[TwoEnded]:
    """Links in the file's order, then the lateral's bars. A radius arm runs from midway between its bolts."""
    return [_of_link(link) for link in design.links] + _of_lateral(design)


def _of_link(link) -> TwoEnded:  # type: ignore[no-untyped-def]
    if link.kind == "radius_arm":
        first, second = link.axle.at
        middle = tuple((a + b) / 2 for a, b in zip(first, second, strict=True))
        return TwoEnded(link.id, link.kind, middle, link.frame.at, None, link.frame)
    return TwoEnded(link.id, link.kind, link.axle.at, link.frame.at, link.axle, link.frame)


def _of_lateral(design: "Design") -> list[TwoEnded]:
    lateral = design.lateral
    if lateral is None or lateral.kind == "slider":
        return []
    if lateral.kind == "panhard":
        return [TwoEnded("panhard", "panhard", lateral.axle.at, lateral.frame.at, lateral.axle, lateral.frame)]
    return [_rod(lateral, "watts-left", 0, lateral.left), _rod(lateral, "watts-right", 1, lateral.right)]


def _rod(watts: "Watts", name: str, end: int, mount: "Mount") -> TwoEnded:
    crank = crank_ends(watts)[end]
    if watts.pivot.on == "axle":
        return TwoEnded(name, "watts", crank, mount.at, None, mount)
    return TwoEnded(name, "watts", mount.at, crank, mount, None)
