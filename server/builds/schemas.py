"""The API's messages. Lengths mm, angles degrees; the front end's types are generated from these."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, SkipValidation, StringConstraints

from oak_lever.api import Design, LayoutName, School, Use
from oak_lever.design.types import Band, Point
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
    bands: dict[str, tuple[float | None, float | None]]
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
    use: Use = "trail"
    end: Literal["rear", "front"]
    tire_diameter: float
    track: float
    wheelbase: float
    rail_underside: float
    rail_width: float


Limits = tuple[float | None, float | None]
Bands = Annotated[dict[str, Band], Field(max_length=100)]


class BandsIn(Schema):
    """The bands of a build that replace the house's, by figure; a figure left out goes back to the house's."""

    bands: Bands


class BandsOut(Schema):
    bands: dict[str, Limits]


class AlternativeIn(Schema):
    """A copy of a design to go another way from, and why."""

    name: Title
    why: Annotated[str, Field(max_length=20_000)] = ""


class ChangeOut(Schema):
    """Mounts moved along an axis by so many mm; or something else that changed, in words."""

    what: str
    axis: Literal["x", "y", "z"] | None
    by: float | None


class RevisionLine(Schema):
    number: int
    name: str
    stored_at: datetime
    changes: list[ChangeOut]


class RevisionOut(Schema):
    """One revision of a design, and the build it belongs to."""

    design: int
    build: int
    build_name: str
    bands: dict[str, Limits]
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
    bands: Bands = Field(default_factory=dict)
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
    unit: Literal["mm", "deg", "percent", "ratio"] | None
    sweep: Literal["heave", "articulation"] | None
    worst_at: float | None
    place: list[str]
    low: float | None
    high: float | None
    source: str
    verdict: Literal["inside", "low", "high", "open"]
    title: str
    message: str
    remedy: str
    disagrees: str


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


Increment = Annotated[float, Field(gt=0, le=100)]


class EffectsIn(Schema):
    """What moves this figure? By `increment` mm of each free mount."""

    document: Document
    figure: str
    increment: Increment


class EffectOut(Schema):
    axis: Literal["x", "y", "z"]
    mounts: list[str]
    change: float


class CuresIn(Schema):
    """What single moves, in whole increments (mm), would cure this finding?"""

    document: Document
    bands: Bands = Field(default_factory=dict)
    finding: str
    increment: Increment


class CureOut(Schema):
    axis: Literal["x", "y", "z"]
    mounts: list[str]
    by: float
    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: list[str]
    worse: list[str]


class SettleIn(Schema):
    """What least movement of all free mounts, in whole increments (mm), brings every figure into its band?"""

    document: Document
    bands: Bands = Field(default_factory=dict)
    increment: Increment


class SettledOut(Schema):
    """Null where no movement makes it better."""

    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: list[str]
    worse: list[str]
    left: list[str]


class WantedIn(Schema):
    """A figure of the cycle in one pose, and the value it should have."""

    figure: str
    travel: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0
    value: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]


class PullIn(Schema):
    document: Document
    wanted: Annotated[list[WantedIn], Field(min_length=1, max_length=6)]
    within: Annotated[float, Field(gt=0, le=1000)] = 150.0


class PullOut(Schema):
    """Where the mounts go, by name; what the wanted figures then are; whether all were met."""

    at: dict[str, Point]
    got: list[float | None]
    met: bool
    farthest: float
    free: int


class ConvergeIn(Schema):
    """The links of a kind toward a point (x, z), their frame holes at station x; mm."""

    document: Document
    kind: Literal["lower", "upper"]
    point: tuple[float, float]
    station: float


class HoleOut(Schema):
    link: str
    at: Point
    length: float


class HouseFigure(Schema):
    id: str
    name: str
    unit: Literal["mm", "deg", "percent", "ratio"]
    meaning: str
    disagrees: str


class HouseSchool(Schema):
    id: School
    name: str
    buys: str


class HouseUse(Schema):
    id: Use
    name: str


class HouseOut(Schema):
    """What can be chosen and judged: uses, schools, figures."""

    uses: list[HouseUse]
    schools: list[HouseSchool]
    figures: list[HouseFigure]
