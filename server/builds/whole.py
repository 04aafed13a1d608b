"""The API's messages about the whole cycle: shaft, map, schools, joints, a hand cycle, complaints. Mm and degrees."""

from typing import Annotated, Literal

from pydantic import Field

from builds.message import Schema
from builds.schemas import Document
from oak_lever.api import LARGEST_MM, Aim, JointRow, Softer, TurnBy, Units, Ways

Degrees = Annotated[float, Field(ge=-180, le=180)]


class OfDocument(Schema):
    document: Document


class TurnIn(Schema):
    """A gauge read the pinion: how was it zeroed, on which face did it stand, which way points the nose, how far does
    the frame stand nose up, at which travel? `soft`: how far under its setting it should be at rest; `how`: is the
    housing turned in its brackets, or with them by the links' lengths?"""

    document: Document
    value: Degrees
    zero: Literal["level", "plumb"] = "level"
    face: Literal["along", "square"] = "along"
    points: Literal["up", "down"] = "up"
    frame_pitch: Degrees = 0.0
    travel: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    soft: Annotated[float, Field(ge=-10, le=10)] = 1.5
    how: Ways = "brackets"


class TurnOut(Schema):
    aim: Aim
    turned: TurnBy


class MapIn(Schema):
    """Every figure over travel and twist; or, more coarsely, the least that any gap has to spare."""

    document: Document
    gaps: bool = False


class MapOut(Schema):
    """`fields` by name, rows of travel, columns of articulation."""

    travel: list[float]
    articulation: list[float]
    fields: dict[str, list[list[float | None]]]
    allowed: list[list[bool]]


class InWords(Schema):
    """A document, and the units that what is said of it is said in."""

    document: Document
    units: Units = "mm"


class JointsOut(Schema):
    joints: list[JointRow]
    softer: list[Softer]
