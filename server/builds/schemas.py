"""The API's messages, made of the core's own types. Lengths mm, angles degrees; the page's types come from these."""

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from builds.message import Schema, Unchecked
from oak_lever.api import (
    LARGEST_MM,
    PULL_WITHIN_MM,
    BaselineFigure,
    Change,
    Column,
    Design,
    Difference,
    Fault,
    Figure,
    Finding,
    Gap,
    Kind,
    LayoutName,
    LinkFigures,
    LinkKind,
    Locator,
    Meant,
    Moved,
    School,
    Separation,
    Side,
    Source,
    Truck,
    TruckFigure,
    Units,
    Unsettled,
    Use,
)  # fmt: skip

Document = Annotated[Design, Unchecked(Design)]
TruckDocument = Annotated[Truck, Unchecked(Truck)]

Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
Notes = Annotated[str, Field(max_length=20_000)]
Measure = Annotated[float, Field(gt=0, le=LARGEST_MM)]
Increment = Annotated[float, Field(ge=0.1, le=100)]
Find = Annotated[str, Field(max_length=200)]
Number = Annotated[int, Field(ge=0, le=2**31 - 1)]
"""The number of a revision, as the store holds them."""


class DesignLine(Schema):
    """A design by its newest revision; of one that cannot be read (`damaged`) neither axle nor layout is known."""

    id: int
    name: str
    end: Literal["rear", "front"] | None
    layout: str
    why: str
    damaged: bool
    revision: int
    changed_at: datetime


class BuildOut(Schema):
    """A build; `number` is what its renames and deletion are made against, `known` the measures of a start that its
    truck knows already."""

    id: int
    number: int
    name: str
    notes: str
    truck: int | None
    known: list[str]
    designs: list[DesignLine]


class NoticeOut(Schema):
    """What the shop has to hear of its store."""

    id: int
    words: str
    at: datetime


class BinnedBuild(Schema):
    id: int
    name: str
    deleted_at: datetime


class BinnedDesign(BinnedBuild):
    """`build`: the name of its build."""

    build: str


class BinOut(Schema):
    """What was deleted and can be brought back, the last first; a deleted build has its designs with
    it. And which rows are damaged, in words."""

    builds: list[BinnedBuild]
    designs: list[BinnedDesign]
    unreadable: list[str]


class HealthOut(Schema):
    """The server answers and its store can be read; sizes in MB."""

    builds: int
    store_mb: float
    free_mb: float
    backed_up_at: datetime | None
    notices: int


class BuildsOut(Schema):
    """A page of builds, the newest first; `before` asks for the next, null after the last. What is to be heard;
    and which rows are damaged, in words."""

    builds: list[BuildOut]
    before: int | None
    notices: list[NoticeOut]
    unreadable: list[str]


class BuildIn(Schema):
    name: Title
    notes: Notes = ""


class RenameIn(BuildIn):
    """A build's words, made from how it stood at `base`."""

    base: int


class DesignNameIn(Schema):
    """A design's name, made from its revision `base`."""

    base: int
    name: Title


class BuildConflictOut(Schema):
    message: str
    newest: BuildOut


class FileIn(Schema):
    """A design file's whole text, as it was read from the disk; and, once it was asked, the paths in it of the truck's
    figures that the truck is to take from it, keeping its own for the rest."""

    text: str
    take: Annotated[list[str], Field(max_length=100)] | None = None


class StartIn(Schema):
    """A design to be started from a layout, mounts on whole increments (mm); the measures (mm) only where the build's
    truck does not know them."""

    name: Title
    layout: LayoutName
    school: School
    use: Use = "trail"
    end: Literal["rear", "front"]
    tire_diameter: Measure | None = None
    track: Measure | None = None
    wheelbase: Measure | None = None
    rail_underside: Measure | None = None
    rail_width: Measure | None = None
    increment: Increment = 1.0
    sources: dict[str, Source] = Field(default_factory=dict, max_length=10)
    """Where each measure comes from; one that is not named is guessed."""


class AlternativeIn(Schema):
    """A copy of a design to go another way from, and why."""

    name: Title
    why: Notes = ""


class RevisionLine(Schema):
    """A revision and what it changed; nothing is known of what a damaged one changed, nor of what the next one did."""

    number: int
    name: str
    stored_at: datetime
    first: bool
    damaged: bool
    changes: list[Change]


class HistoryOut(Schema):
    """A page of revisions, the newest first; `before` asks for the next, null after the last."""

    lines: list[RevisionLine]
    before: int | None


class RevisionOut(Schema):
    """A design on truck revision `truck`, as a file that stands alone; `stored_on`: the one it was stored on."""

    design: int
    build: int
    build_name: str
    number: int
    truck: int
    stored_on: int
    stored_at: datetime
    document: Document


class EditIn(Schema):
    """An edited document, the number of the revision it was made from, and of the truck revision it stands on."""

    base: int
    truck: Number
    document: Document


class OverlaysOut(Schema):
    rear: dict[str, Any]
    front: dict[str, Any]


class TruckOut(Schema):
    """A truck revision, and what designs of either axle take from it, by its paths in
    their documents."""

    build: int
    number: int
    stored_at: datetime
    document: TruckDocument
    overlays: OverlaysOut


class TruckEditIn(Schema):
    """An edited truck, and the number of the revision it was made from; 0 for the first of a build."""

    base: int
    document: TruckDocument


class MoveIn(Schema):
    """An axle moved fore-aft on the frame with all its links, mm, + forward; `base` as of an edit."""

    base: int
    end: Literal["front", "rear"]
    by: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]


class RadiusIn(Schema):
    """An axle's loaded radius set anew, mm, and what is meant by it: the truck `sits` on a tire that was measured, or
    the figure was a `slip`; `base` as of an edit."""

    base: int
    end: Literal["front", "rear"]
    radius: Measure
    meant: Meant
    source: Source


class SinceOut(Schema):
    """What changed on the truck since a design was stored, and what that did to its figures."""

    changes: list[Difference]
    figures: list[Moved]


class Message(Schema):
    message: str


class RefusedOut(Schema):
    message: str
    faults: list[Fault]


class ConflictOut(Schema):
    message: str
    newest: RevisionOut


class TruckConflictOut(Schema):
    message: str
    newest: TruckOut


class DiffersOut(Schema):
    """A file's figures of the truck that are not the truck's: which stand?"""

    message: str
    differences: list[Difference]


class CycleIn(Schema):
    """A document, and the pose the scrubbers ask for."""

    document: Document
    travel: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0


Numbers = list[float | None]
Vector = tuple[float, float, float]


class SweepOut(Schema):
    """Columns by name, one entry a row; state holds x, y, z (mm) and roll, pitch, yaw, crank (radians) a row."""

    columns: dict[str, Numbers]
    reached: list[bool]
    state: list[Numbers]


class StopsOut(Schema):
    heave: tuple[float | None, float | None]
    articulation: tuple[float | None, float | None]


class CarriedOut(Schema):
    """What a link does to its own points, chassis frame: turn (rows) times the point, plus shift (mm)."""

    turn: tuple[Vector, Vector, Vector]
    shift: Vector


class AllowedOut(Schema):
    """Which part of the map of travel and twist is judged over, and the stops and straps that leave it."""

    share: float
    by: list[str]


class CycleOut(Schema):
    """`read`: the figures that are read and not judged, by their ids. Columns of sweeps hold what runs with the axle
    too, as "shock coilover-left to_shut"."""

    located: bool
    links: list[LinkFigures]
    separation: Separation
    stops: StopsOut
    findings: list[Finding]
    read: dict[str, float | None]
    ride: SweepOut
    here: SweepOut
    heave: SweepOut
    articulation: SweepOut
    misalignment: dict[str, float | None]
    carried: dict[str, CarriedOut]
    allowed: AllowedOut


class LookOut(Schema):
    """What a hand on the drawing looks at first: one pose, and the links."""

    links: list[LinkFigures]
    here: SweepOut
    misalignment: dict[str, float | None]
    carried: dict[str, CarriedOut]


class EffectsIn(Schema):
    """What moves each figure? By `increment` mm of each free mount."""

    document: Document
    increment: Increment


class CuresIn(Schema):
    """What would cure this finding? Mounts in whole increments (mm); lengths said in `units`."""

    document: Document
    finding: str
    increment: Increment
    units: Units = "mm"


class SlackIn(Schema):
    """How far may what this finding rests on be off before its verdict changes? Of the inputs named, by their paths."""

    document: Document
    finding: str
    inputs: Annotated[list[str], Field(max_length=20)] | None = None


class SchoolIn(Schema):
    """What does the design's school come to in this design?"""

    document: Document
    units: Units = "mm"


class SchoolOut(Schema):
    says: str


class SettleIn(Schema):
    """What least movement of all free mounts, in whole increments (mm), brings every figure into its band?"""

    document: Document
    increment: Increment


class WantedIn(Schema):
    """A figure of the cycle in one pose, and the value it should have."""

    figure: str
    travel: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)] = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0
    value: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]


class PullIn(Schema):
    """What least movement of the free mounts, none beyond `within`, gives these figures? In whole increments, where one
    is given (mm)."""

    document: Document
    wanted: Annotated[list[WantedIn], Field(min_length=1, max_length=6)]
    within: Annotated[float, Field(gt=0, le=1000)] = PULL_WITHIN_MM
    increment: Increment | None = None


class ConvergeIn(Schema):
    """The links of a kind toward a point (x, z), their frame holes at station x; mm."""

    document: Document
    kind: Literal["lower", "upper"]
    point: tuple[float, float]
    station: float


class LocatorIn(Schema):
    """Another locator in the place of the one there is, or none."""

    do: Literal["locator"]
    kind: Locator


class AddIn(Schema):
    """A link more."""

    do: Literal["add"]
    kind: LinkKind
    side: Side


class LeaveOutIn(Schema):
    do: Literal["leave_out"]
    link: Annotated[str, Field(max_length=200)]


class KindIn(Schema):
    """A link as another kind."""

    do: Literal["kind"]
    link: Annotated[str, Field(max_length=200)]
    kind: LinkKind


class LayoutIn(Schema):
    """The design with its layout changed, what is added standing on whole increments (mm)."""

    document: Document
    change: Annotated[LocatorIn | AddIn | LeaveOutIn | KindIn, Field(discriminator="do")]
    increment: Increment


class LayoutOut(Schema):
    document: Document


class ClearIn(Schema):
    """How near does everything that moves come to everything else?"""

    document: Document


class ClearOut(Schema):
    """Over a grid of travel (mm) and articulation (degrees); the pair with the least to spare first; and what is found
    of those that come too near, or meet."""

    design: str
    travel: list[float]
    articulation: list[float]
    pairs: list[Gap]
    findings: list[Finding]


class InstrumentsOut(Schema):
    """What stands on the bench; nothing, and why, where none answers."""

    names: list[str]
    why: str


class ReadIn(Schema):
    """Ask an instrument for what it reads of something."""

    instrument: Annotated[str, Field(max_length=50)]
    what: Annotated[str, Field(max_length=300)]


class ZeroIn(Schema):
    """Zero the gauge on a surface."""

    on: Literal["level", "plumb"]


class ReadOut(Schema):
    value: float
    unit: Literal["mm", "in", "deg", "kg", "lb"]


class BaselineIn(Schema):
    """What a truck's readings come to; `designs` turn back a pinion that was read away from ride."""

    truck: TruckDocument
    designs: Annotated[list[Document], Field(max_length=2)]
    units: Units


class BaselineOut(Schema):
    """`held_out`, `again` and `unused` by reading; `unsettled`: figures that their readings disagree about."""

    figures: list[BaselineFigure]
    unsettled: list[Unsettled]
    held_out: dict[str, str]
    again: dict[str, str]
    unused: dict[str, str]
    hints: list[str]


class NamedSchool(Schema):
    id: School
    name: str
    buys: str


class NamedUse(Schema):
    id: Use
    name: str


class NamedJoint(Schema):
    """An entry of the joint catalog: how far it turns (degrees), how much it gives (mm)."""

    id: str
    name: str
    limit: float
    give: float


class RegisterOut(Schema):
    """Every name the page shows: uses, schools, figures, columns, the table of parts, the truck's figures; the caution;
    how far a cure or a pull moves a mount, mm."""

    uses: list[NamedUse]
    schools: list[NamedSchool]
    figures: list[Figure]
    columns: list[Column]
    parts: list[Kind]
    truck: list[TruckFigure]
    joints: list[NamedJoint]
    caution: str
    cure_within: float
    pull_within: float
