"""What is in the way, and where mounts may stand: solids, keep-outs, zones. Points mm, chassis axes, at ride."""

import functools
from collections.abc import Sequence
from typing import Annotated, Any, Literal, Self

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_lever.design.values import Deg, Mm, Name, Part, Point, Reach, Size, refuse

GAP_MM = 25.0
"""Clearance wanted to a keep-out where it says nothing."""
MOVING_GAP_MM = 12.7
"""Clearance wanted between moving parts where the room says nothing."""


THINNEST_MM = 0.01
"""A hull thinner than this is a sheet: it has no inside to keep out of."""
Corner = tuple[float, float]


@functools.lru_cache(maxsize=2048)  # a room is read anew with every edit, and seldom has changed
def _crossed(outline: tuple[Corner, ...]) -> bool:
    """Whether a closed outline is no simple polygon: edges that cross or touch, a way straight back, no area."""
    corners = np.array(outline)
    edges = np.roll(corners, -1, axis=0) - corners
    if not np.hypot(*edges.T).all() or np.dot(corners[:, 0], edges[:, 1]) - np.dot(corners[:, 1], edges[:, 0]) == 0.0:
        return True
    before = np.roll(edges, 1, axis=0)
    if ((_cross(before, edges) == 0.0) & ((before * edges).sum(axis=1) < 0.0)).any():
        return True
    return _some_meet(corners, edges)


def _some_meet(corners: NDArray[np.float64], edges: NDArray[np.float64]) -> bool:
    """Whether any two edges meet that are no neighbors; only those whose spans along x and y overlap are looked at."""
    count = len(corners)
    low, high = np.minimum(corners, corners + edges), np.maximum(corners, corners + edges)
    order = low[:, 0].argsort(kind="stable")
    rank = np.arange(count)
    until = np.searchsorted(low[order, 0], high[order, 0], side="right")  # those after it that begin before it ends
    for start in range(0, count, _AT_ONCE):
        here = rank[start : start + _AT_ONCE]
        many = until[here] - here - 1
        first = np.repeat(here, many)
        second = np.arange(many.sum()) - np.repeat(many.cumsum() - many, many) + first + 1
        one, other = order[first], order[second]
        apart = np.abs(one - other)
        looked = (low[one, 1] <= high[other, 1]) & (low[other, 1] <= high[one, 1]) & (apart > 1) & (apart < count - 1)
        one, other = one[looked], other[looked]
        if _meet(corners[one], edges[one], corners[other], edges[other]).any():
            return True
    return False


_AT_ONCE = 256


def _cross(a: NDArray[np.float64], b: NDArray[np.float64]) -> NDArray[np.float64]:
    out: NDArray[np.float64] = a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0]
    return out


def _meet(
    a: NDArray[np.float64], along: NDArray[np.float64], b: NDArray[np.float64], other: NDArray[np.float64]
) -> NDArray[np.bool_]:
    """Whether edges from a meet those from b, their ends counting."""
    one, two = _cross(along, b - a), _cross(along, b + other - a)
    three, four = _cross(other, a - b), _cross(other, a + along - b)
    apart = (one * two > 0.0) | (three * four > 0.0)
    inline = (one == 0.0) & (two == 0.0)
    long = (along * along).sum(-1)
    start, end = ((b - a) * along).sum(-1) / long, ((b + other - a) * along).sum(-1) / long
    beside = (np.maximum(start, end) < 0.0) | (np.minimum(start, end) > 1.0)
    return np.where(inline, ~beside, ~apart)


@functools.lru_cache(maxsize=256)
def _thickness(points: tuple[Point, ...]) -> float:
    """Across the direction in which points lie closest together, mm."""
    centered = np.array(points) - np.mean(points, axis=0)
    across: NDArray[np.float64] = np.linalg.svd(centered, full_matrices=False)[2][-1]
    return float(np.ptp(centered @ across))


class Box(Part):
    """A box about its center; `turn`: degrees about x, y, z, composed Rz Ry Rx."""

    kind: Literal["box"]
    center: Point
    size: tuple[Size, Size, Size]
    turn: tuple[Deg, Deg, Deg] = (0.0, 0.0, 0.0)


class RoundPath(Part):
    """Every point within half the diameter of a path."""

    kind: Literal["tube"]
    path: Annotated[tuple[Point, ...], Field(min_length=2, max_length=1000)]
    diameter: Size

    @model_validator(mode="after")
    def _goes_on(self) -> Self:
        if any(a == b for a, b in zip(self.path, self.path[1:], strict=False)):
            refuse("path", "has two equal points in a row in its path; leave one out")
        return self


class Prism(Part):
    """An outline in the two other axes, in the order (y, z), (x, z), (x, y), drawn out along one axis."""

    kind: Literal["prism"]
    along: Literal["x", "y", "z"]
    from_: Annotated[Mm, Field(alias="from")]
    to: Mm
    outline: Annotated[tuple[tuple[Mm, Mm], ...], Field(min_length=3, max_length=1000)]

    @model_validator(mode="after")
    def _has_length(self) -> Self:
        if self.from_ >= self.to:
            refuse("prism", "must have its from below its to")
        return self

    @model_validator(mode="after")
    def _is_simple(self) -> Self:
        if _crossed(self.outline):
            refuse("outline", "has an outline that touches or crosses itself, or has no area; give its corners in turn")
        return self


class Hull(Part):
    """The convex hull of its points."""

    kind: Literal["hull"]
    points: Annotated[tuple[Point, ...], Field(min_length=4, max_length=10_000)]

    @model_validator(mode="after")
    def _has_room(self) -> Self:
        if _thickness(self.points) < THINNEST_MM:
            refuse("hull", f"has points that lie in a plane; it must be {THINNEST_MM:g} mm thick at least")
        return self


class Holes(Part):
    """The places that exist."""

    kind: Literal["holes"]
    at: Annotated[tuple[Point, ...], Field(min_length=1, max_length=1000)]


Solid = Annotated[Box | RoundPath | Prism | Hull, Field(discriminator="kind")]
Region = Annotated[Box | RoundPath | Prism | Hull | Holes, Field(discriminator="kind")]
Names = Annotated[tuple[Name, ...], Field(max_length=200)]


class KeepOut(Part):
    """What is in the way. `shared`: it is the truck's, kept once for both its axles and every alternative."""

    id: Name
    name: str = ""
    on: Literal["frame", "axle"]
    gap: Reach = GAP_MM
    except_: Annotated[Names, Field(alias="except")] = ()
    solid: Solid
    shared: bool = False


class Zone(Part):
    id: Name
    name: str = ""
    mounts: Names = ()
    region: Region


class Room(Part):
    gap: Reach = MOVING_GAP_MM
    except_: Annotated[tuple[tuple[Name, Name], ...], Field(alias="except", max_length=500)] = ()
    keep_outs: Annotated[tuple[KeepOut, ...], Field(max_length=200)] = ()
    zones: Annotated[tuple[Zone, ...], Field(max_length=200)] = ()


def move_solid(solid: dict[str, Any], by: Sequence[float]) -> None:
    """A solid or a region of a file, moved."""

    def moved(point: Sequence[float]) -> list[float]:
        return [float(v + d) for v, d in zip(point, by, strict=True)]

    if solid["kind"] == "box":
        solid["center"] = moved(solid["center"])
    elif solid["kind"] == "tube":
        solid["path"] = [moved(p) for p in solid["path"]]
    elif solid["kind"] == "hull":
        solid["points"] = [moved(p) for p in solid["points"]]
    elif solid["kind"] == "holes":
        solid["at"] = [moved(p) for p in solid["at"]]
    else:
        axis = "xyz".index(solid["along"])
        flat = [by[n] for n in range(3) if n != axis]
        solid["from"], solid["to"] = solid["from"] + by[axis], solid["to"] + by[axis]
        solid["outline"] = [[float(a + flat[0]), float(b + flat[1])] for a, b in solid["outline"]]
