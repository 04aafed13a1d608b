"""What is in the way, and where mounts may stand: solids, keep-outs, zones. Points mm, chassis axes, at ride."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Deg, Mm, Name, Part, Point, Reach, Size, refuse

GAP_MM = 25.0
"""Clearance wanted to a keep-out where it says nothing."""
MOVING_GAP_MM = 12.7
"""Clearance wanted between moving parts where the room says nothing."""


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


class Hull(Part):
    """The convex hull of its points."""

    kind: Literal["hull"]
    points: Annotated[tuple[Point, ...], Field(min_length=4, max_length=10_000)]


class Holes(Part):
    """The places that exist."""

    kind: Literal["holes"]
    at: Annotated[tuple[Point, ...], Field(min_length=1, max_length=1000)]


Solid = Annotated[Box | RoundPath | Prism | Hull, Field(discriminator="kind")]
Region = Annotated[Box | RoundPath | Prism | Hull | Holes, Field(discriminator="kind")]
Names = Annotated[tuple[Name, ...], Field(max_length=200)]


class KeepOut(Part):
    id: Name
    name: str = ""
    on: Literal["frame", "axle"]
    gap: Reach = GAP_MM
    except_: Annotated[Names, Field(alias="except")] = ()
    solid: Solid


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
