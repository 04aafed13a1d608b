"""What is cut from plate and tube: brackets on a design, and the stock of a shop. Millimeters."""

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Bolt, Mm, Name, Number, Part, Point, Reach, Size, refuse

MOST_STOCK = 1000
LEAST_BAY_MM = 10.0
"""A truss's corners are this far apart."""


class TubeBase(Part):
    """The bracket saddles the axle tube."""

    kind: Literal["tube"]


class FaceBase(Part):
    """The bracket stands on a flat face of frame, crossmember or housing: a point of it, and the way out of it."""

    kind: Literal["face"]
    at: Point
    normal: Bolt


Base = Annotated[TubeBase | FaceBase, Field(discriminator="kind")]


class Bracket(Part):
    """Two plates square to the bolt of the first of its mounts: plate thickness, the radius of metal about each hole,
    the foot's length on a face; a washer at each side of the joint, and what the weld draws in; further holes; how
    wide its fillets are, mm, on both sides of each plate; whether a saddle's tips run out to nothing, or are cut square
    where they are as wide as the plate is thick."""

    id: Name
    mounts: Annotated[tuple[Name, ...], Field(min_length=1, max_length=20)]
    base: Base
    plate: Size
    edge: Size
    foot: Size | None = None
    material: str | None = None
    washer: Reach = 0.0
    shrink: Reach = 0.8
    holes: Annotated[tuple[Point, ...], Field(max_length=50)] = ()
    weld: Size | None = None
    tips: Literal["feather", "square"] = "feather"

    @model_validator(mode="after")
    def _stands(self) -> Self:
        if isinstance(self.base, FaceBase) and self.foot is None:
            refuse("foot", "stands on a face; say its foot, the length it stands on")
        return self


class Truss(Part):
    """A truss over the axle tube: its top, from right to left, each corner's place to the left of the centerline and
    height, in the chassis at ride; how wide it is over its sides, and how far ahead of the tube its middle stands; the
    thickness and material of its plates."""

    top: Annotated[tuple[tuple[Mm, Mm], ...], Field(min_length=2, max_length=20)]
    width: Size
    ahead: Mm = 0.0
    plate: Size
    material: str | None = None

    @model_validator(mode="after")
    def _goes_left(self) -> Self:
        if any(b[0] - a[0] < LEAST_BAY_MM for a, b in pairwise(self.top)):
            refuse("top", f"must go from right to left, {LEAST_BAY_MM:g} mm or more from corner to corner")
        return self


Brackets = Annotated[tuple[Bracket, ...], Field(max_length=100)]

Count = Annotated[int, Field(ge=0, le=MOST_STOCK, strict=True)]
Gap = Annotated[Number, Field(ge=0, le=1000)]


class TubeStock(Part):
    """Tubes of one size and length; with a material, only for what is made of it."""

    diameter: Size
    wall: Size
    length: Size
    count: Count = 1
    material: str | None = None


class PlateStock(Part):
    """Sheets of one thickness and size."""

    thickness: Size
    size: tuple[Size, Size]
    count: Count = 1
    material: str | None = None


class Stock(Part):
    """What a shop has: tubes with the saw's kerf, sheets with the gap wanted between parts and to the edges."""

    tubes: Annotated[tuple[TubeStock, ...], Field(max_length=200)] = ()
    kerf: Gap = 3.0
    plates: Annotated[tuple[PlateStock, ...], Field(max_length=200)] = ()
    gap: Gap = 6.0
