"""The API's messages about the room of an axle, and its copy onto another housing. Lengths mm, angles degrees."""

from typing import Annotated, Literal

from pydantic import Base64Bytes, Field

from builds.message import Schema
from builds.schemas import Document, Increment, Measure
from oak_lever.api import (
    BRACKET_MM,
    LARGEST_MM,
    BareTube,
    Brackets,
    Budget,
    Envelope,
    FileUnit,
    Solid,
    Station,
    Under,
    Units,
)


class PlacesIn(Schema):
    """Which of the places that exist for a mount leaves the soundest design?"""

    document: Document
    mount: Annotated[str, Field(max_length=200)]
    increment: Increment


class RoomIn(Schema):
    """What room does the axle have? A bracket takes up `bracket` mm of the tube."""

    document: Document
    bracket: Annotated[float, Field(gt=0, le=1000)] = BRACKET_MM


class StationsIn(Schema):
    """What does it do to move the axle with all its links fore-aft on the frame, by each of these, mm, + forward?"""

    document: Document
    moved: Annotated[list[Annotated[float, Field(ge=-10_000, le=10_000)]], Field(min_length=1, max_length=20)]


class UpShareOut(Schema):
    """The house's share of the travel that is up, for the use, and why."""

    low: float
    high: float
    why: str


class UnknownOut(Schema):
    """A zone, and a mount that it is for and that is not there."""

    zone: str
    mount: str


class RoomOut(Schema):
    budget: Budget
    up_share: UpShareOut
    tires: list[Envelope]
    stations: list[Station]
    tubes: list[BareTube]
    under: Under
    unknown: list[UnknownOut]


class BringIn(Schema):
    """A file of another program as keep-outs. `data` in base64; outlines are drawn out along an axis, mm."""

    kind: Literal["stl", "dxf"]
    data: Base64Bytes
    name: Annotated[str, Field(min_length=1, max_length=200)]
    unit: FileUnit = "mm"
    along: Literal["x", "y", "z"] = "y"
    start: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    end: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0


class ShapeOut(Schema):
    name: str
    solid: Solid


class BroughtOut(Schema):
    """The solids that a file gave; in words how it was simplified."""

    shapes: list[ShapeOut]
    said: list[str]


Anywhere = Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]


class OntoIn(Schema):
    """The axle that a suspension is copied onto, mm and degrees; the pinion's joint from the axle's middle."""

    tire_diameter: Measure
    tire_radius_loaded: Measure
    tire_width: Measure
    track: Measure
    tube_diameter: Measure
    pinion_ahead: Anywhere
    pinion_above: Anywhere
    pinion_angle: Annotated[float, Field(ge=-90, le=90)]
    pad: Anywhere = 0.0


class CopyIn(Schema):
    """A suspension copied onto another housing, its old brackets kept or remade."""

    document: Document
    onto: OntoIn
    brackets: Brackets
    units: Units = "mm"


class CopiedOut(Schema):
    document: Document
    left_over: list[str]
