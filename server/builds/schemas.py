"""The API's messages. Lengths mm, angles degrees; the front end's types are generated from these."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, SkipValidation, StringConstraints

from oak_lever.api import Design, LayoutName, School
from oak_lever.tolerances import LARGEST_MM

Document = Annotated[Design, SkipValidation]
"""A design document in the contract; the core's own reader checks it, and says every fault by its path."""

Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]


class DesignLine(Schema):
    id: int
    name: str
    end: Literal["rear", "front"]
    layout: str
    revision: int
    changed_at: datetime


class BuildOut(Schema):
    id: int
    name: str
    notes: str
    designs: list[DesignLine]


class BuildIn(Schema):
    name: Title
    notes: Annotated[str, Field(max_length=20_000)] = ""


class FileIn(Schema):
    """A design file's whole text, as it was read from the disk."""

    text: str


class StartIn(Schema):
    """A design to be started from a layout: what is measured on the first day, mm."""

    name: Title
    layout: LayoutName
    school: School
    end: Literal["rear", "front"]
    tire_diameter: float
    track: float
    wheelbase: float
    rail_underside: float
    rail_width: float


class RevisionLine(Schema):
    number: int
    name: str
    stored_at: datetime


class RevisionOut(Schema):
    """One revision of a design, and the build it belongs to."""

    design: int
    build: int
    build_name: str
    number: int
    stored_at: datetime
    document: Document


class EditIn(Schema):
    """An edited document, and the number of the revision it was made from."""

    base: int
    document: Document


class Message(Schema):
    message: str


class FaultOut(Schema):
    path: str
    message: str


class RefusedOut(Schema):
    message: str
    faults: list[FaultOut]


class ConflictOut(Schema):
    message: str
    newest: RevisionOut


class CycleIn(Schema):
    """A document, and the pose the scrubbers ask for."""

    document: Document
    travel: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0


Column = list[float | None]


class SweepOut(Schema):
    """Columns by name, one entry a row; state holds x, y, z (mm) and roll, pitch, yaw, crank (radians) a row."""

    columns: dict[str, Column]
    reached: list[bool]
    state: list[list[float | None]]


class FindingOut(Schema):
    id: str
    severity: Literal["stop", "fix", "consider", "good"]
    figure: str
    value: float | None
    unit: Literal["mm", "deg"] | None
    sweep: Literal["heave", "articulation"] | None
    worst_at: float | None
    message: str
    remedy: str


class LinkOut(Schema):
    id: str
    length: float
    side_angle: float | None
    plan_angle: float | None


class SeparationOut(Schema):
    axle: float | None
    frame: float | None


class StopsOut(Schema):
    heave: tuple[float | None, float | None]
    articulation: tuple[float | None, float | None]


class CycleOut(Schema):
    located: bool
    links: list[LinkOut]
    separation: SeparationOut
    stops: StopsOut
    findings: list[FindingOut]
    ride: SweepOut
    here: SweepOut
    heave: SweepOut
    articulation: SweepOut
    misalignment: dict[str, float | None]
