"""The room of an axle: what comes too near, places that exist, shapes brought in, its copy onto another housing."""

from typing import Annotated, Any, Literal

from pydantic import Base64Bytes, Field

from builds.questions.asking import Anywhere, Document, Increment, InPose, Measure, Named, Payload, question, refusing
from oak_lever.api import (
    BRACKET_MM,
    UP_SHARES,
    BareTube,
    Brackets,
    Budget,
    Envelope,
    FileUnit,
    Finding,
    Gap,
    Onto,
    Ranked,
    Solid,
    Station,
    Under,
    Units,
    budget,
    clearances,
    design_from,
    envelopes,
    findings_apart,
    from_dxf,
    from_stl,
    gaps_here,
    onto_housing,
    ranked,
    stations,
    tubes,
    under,
    unknown_mounts,
)


class ClearIn(Payload):
    """How near does everything that moves come to everything else?"""

    document: Document


class ClearOut(Payload):
    """Over a grid of travel (mm) and articulation (degrees); the pair with the least to spare first; and what is found
    of those that come too near, or meet."""

    design: str
    travel: list[float]
    articulation: list[float]
    pairs: list[Gap]
    findings: list[Finding]


@question("clear", ClearOut)
def clear(asked: ClearIn) -> Any:
    design = design_from(asked.document)
    return clearances(design, shocks=True, allowed=True).data() | {"findings": findings_apart(design)}


@question("gaps", list[Gap], "hand")
def gaps(asked: InPose) -> Any:
    return gaps_here(design_from(asked.document), asked.travel, asked.articulation)


class PlacesIn(Payload):
    """Which of the places that exist for a mount leaves the soundest design?"""

    document: Document
    mount: Named
    increment: Increment


@question("places", list[Ranked])
def places(asked: PlacesIn) -> Any:
    design = design_from(asked.document)
    with refusing("mount"):
        return ranked(design, asked.mount, asked.increment)


class RoomIn(Payload):
    """What room does the axle have? A bracket takes up `bracket` mm of the tube."""

    document: Document
    bracket: Annotated[float, Field(gt=0, le=1000)] = BRACKET_MM


class UpShareOut(Payload):
    """The house's share of the travel that is up, for the use, and why."""

    low: float
    high: float
    why: str


class UnknownOut(Payload):
    """A zone, and a mount that it is for and that is not there."""

    zone: str
    mount: str


class RoomOut(Payload):
    budget: Budget
    up_share: UpShareOut
    tires: list[Envelope]
    stations: list[Station]
    tubes: list[BareTube]
    under: Under
    unknown: list[UnknownOut]


@question("room", RoomOut)
def room(asked: RoomIn) -> Any:
    design = design_from(asked.document)
    low, high, why = UP_SHARES[design.use or "trail"]
    return {
        "budget": budget(design),
        "up_share": {"low": low, "high": high, "why": why},
        "tires": envelopes(design),
        "stations": stations(design),
        "tubes": tubes(design, asked.bracket),
        "under": under(design),
        "unknown": [{"zone": zone.name or zone.id, "mount": name} for zone, name in unknown_mounts(design)],
    }


class StationsIn(Payload):
    """What does it do to move the axle with all its links fore-aft on the frame, by each of these, mm, + forward?"""

    document: Document
    moved: Annotated[list[Annotated[float, Field(ge=-10_000, le=10_000)]], Field(min_length=1, max_length=20)]


@question("stations", list[Station])
def other_stations(asked: StationsIn) -> Any:
    return stations(design_from(asked.document), asked.moved)


class BringIn(Payload):
    """A file of another program as keep-outs. `data` in base64; outlines are drawn out along an axis, mm."""

    kind: Literal["stl", "dxf"]
    data: Base64Bytes
    name: Annotated[str, Field(min_length=1, max_length=200)]
    unit: FileUnit = "mm"
    along: Literal["x", "y", "z"] = "y"
    start: Anywhere = 0.0
    end: Anywhere = 0.0


class ShapeOut(Payload):
    name: str
    solid: Solid


class BroughtOut(Payload):
    """The solids that a file gave; in words how it was simplified."""

    shapes: list[ShapeOut]
    said: list[str]


@question("bring", BroughtOut)
def bring(asked: BringIn) -> Any:
    if asked.kind == "stl":
        return from_stl(asked.data, asked.name, asked.unit)
    return from_dxf(asked.data, asked.name, asked.along, asked.start, asked.end, asked.unit)


class OntoIn(Payload):
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


class CopyIn(Payload):
    """A suspension copied onto another housing, its old brackets kept or remade."""

    document: Document
    onto: OntoIn
    brackets: Brackets
    units: Units = "mm"


class CopiedOut(Payload):
    document: Document
    left_over: list[str]


@question("copy", CopiedOut, name="copy_onto")
def copy(asked: CopyIn) -> Any:
    return onto_housing(design_from(asked.document), Onto(**vars(asked.onto)), asked.brackets, asked.units)
