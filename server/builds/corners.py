"""The API's messages about springs, shocks, stops and straps. Lengths mm, N, N/mm, Hz, kPa."""

from typing import Annotated

from pydantic import Field

from builds.message import Schema
from builds.schemas import Document, Increment
from oak_lever.api import (
    LARGEST_MM,
    TURN_MM,
    Filled,
    Inflated,
    Instead,
    Load,
    Offered,
    Rungs,
    Sits,
    SliderStop,
    Spaced,
    Turned,
    Units,
    Want,
)

Anywhere = Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]
Named = Annotated[str, Field(max_length=200)]


class LoadIn(Schema):
    """A state of the truck: its mass, kg, and the share of it on the front axle."""

    name: Named
    mass: Annotated[float, Field(gt=0, le=1e6)]
    front_share: Annotated[float, Field(ge=0, le=1)]

    def load(self) -> Load:
        return Load(self.name, self.mass, self.front_share)


class CornersIn(Schema):
    """What ends the travel, how does it sit with each of these loads, which springs would carry it with the axle at the
    travel `wanted`, what does one `turn` of a seat do, and a `spacer` under a bump stop?
    Which pressure has it stand at each step of `height`?"""

    document: Document
    loads: Annotated[list[LoadIn], Field(max_length=20, default_factory=list)]
    wanted: Anywhere = 0.0
    turn: Annotated[float, Field(gt=0, le=100)] = TURN_MM
    spacer: Annotated[float, Field(gt=0, le=100)] = 6.0
    height: Annotated[float, Field(gt=0, le=100)] = 25.0


class CornersOut(Schema):
    """`sits`: as the truck stands, then each load; `bar_rate`: of the anti-roll bar at a wheel, N/mm, if any."""

    ladder: list[Rungs]
    sits: list[Sits]
    turns: list[Turned]
    sliders: list[SliderStop]
    springs: list[Offered]
    instead: list[Instead]
    inflated: list[Inflated]
    filled: list[Filled]
    spacers: dict[str, list[Spaced]]
    bar_rate: float | None = None


class ShockPlacesIn(Schema):
    """Where does this shock go, as it is?"""

    document: Document
    shock: Named
    increment: Increment
    units: Units = "mm"


class WantIn(Schema):
    """A figure of what runs with the axle, by its finding's id, and the value wanted of it."""

    check: Named
    value: Anywhere

    def want(self) -> Want:
        return Want(self.check, self.value)


class RunPullIn(Schema):
    """Which places of the part's free points give it these values?"""

    document: Document
    wanted: Annotated[list[WantIn], Field(min_length=1, max_length=6)]
    increment: Increment | None = None


class RunEffectsIn(Schema):
    """What does each free point of the part do to this figure, by an increment?"""

    document: Document
    check: Named
    increment: Increment
