"""The API's messages, made of the core's own types. Lengths mm, angles degrees; the page's types come from these."""

from datetime import datetime
from typing import Annotated, Any, Generic, Literal, TypeVar

from pydantic import Field

from builds.questions.asking import Document, Increment, Measure, Payload, Title, TruckDocument
from oak_lever.api import (
    LARGEST_MM,
    Addition,
    Change,
    Column,
    Difference,
    Fault,
    Figure,
    GateSaid,
    Kind,
    LayoutName,
    Meant,
    Moved,
    Paper,
    School,
    Source,
    TruckFigure,
    Units,
    Use,
)  # fmt: skip

Notes = Annotated[str, Field(max_length=20_000)]
Find = Annotated[str, Field(max_length=200)]
Number = Annotated[int, Field(ge=0, le=2**31 - 1)]
"""The number of a revision, as the store holds them."""


class BegunOut(Payload):
    """The number of long work that was begun."""

    number: str


Result = TypeVar("Result")


class WorkOut(Payload, Generic[Result]):
    """How far long work is: the share of it that is done, 0 to 1, and its result so far."""

    state: Literal["waiting", "going", "done", "refused", "failed", "ended"]
    share: float
    result: Result | None
    message: str
    faults: list[Fault]


class DesignLine(Payload):
    """A design by its newest revision; of one that cannot be read (`damaged`) neither axle nor layout is known."""

    id: int
    name: str
    end: Literal["rear", "front"] | None
    layout: str
    why: str
    damaged: bool
    revision: int
    changed_at: datetime


class BuildOut(Payload):
    """A build; `number` is what its renames and deletion are made against, `known` the measures of a start that its
    truck knows already."""

    id: int
    number: int
    name: str
    notes: str
    truck: int | None
    known: list[str]
    designs: list[DesignLine]


class NoticeOut(Payload):
    """What the shop has to hear of its store."""

    id: int
    words: str
    at: datetime


class BinnedBuild(Payload):
    id: int
    name: str
    deleted_at: datetime


class BinnedDesign(BinnedBuild):
    """`build`: the name of its build."""

    build: str


class BinOut(Payload):
    """What was deleted and can be brought back, the last first; a deleted build has its designs with
    it. And which rows are damaged, in words."""

    builds: list[BinnedBuild]
    designs: list[BinnedDesign]
    unreadable: list[str]


class HealthOut(Payload):
    """The server answers and its store can be read; sizes in MB; how many questions are being worked out."""

    builds: int
    store_mb: float
    free_mb: float
    backed_up_at: datetime | None
    notices: int
    computing: int


class BuildsOut(Payload):
    """A page of builds, the newest first; `before` asks for the next, null after the last. What is to be heard;
    and which rows are damaged, in words."""

    builds: list[BuildOut]
    before: int | None
    notices: list[NoticeOut]
    unreadable: list[str]


class BuildIn(Payload):
    name: Title
    notes: Notes = ""


class RenameIn(BuildIn):
    """A build's words, made from how it stood at `base`."""

    base: int


class DesignNameIn(Payload):
    """A design's name, made from its revision `base`."""

    base: int
    name: Title


class BuildConflictOut(Payload):
    message: str
    newest: BuildOut


class FileIn(Payload):
    """A design file's whole text, as it was read from the disk; and, once it was asked, the paths in it of the truck's
    figures that the truck is to take from it, keeping its own for the rest."""

    text: str
    take: Annotated[list[str], Field(max_length=100)] | None = None


class StartIn(Payload):
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


class AlternativeIn(Payload):
    """A copy of a design to go another way from, and why."""

    name: Title
    why: Notes = ""


class RevisionLine(Payload):
    """A revision and what it changed; nothing is known of what a damaged one changed, nor of what the next one did."""

    number: int
    name: str
    stored_at: datetime
    first: bool
    damaged: bool
    changes: list[Change]


class HistoryOut(Payload):
    """A page of revisions, the newest first; `before` asks for the next, null after the last."""

    lines: list[RevisionLine]
    before: int | None


class RevisionOut(Payload):
    """A design on truck revision `truck`, as a file that stands alone; `stored_on`: the one it was stored on."""

    design: int
    build: int
    build_name: str
    number: int
    truck: int
    stored_on: int
    stored_at: datetime
    document: Document


class EditIn(Payload):
    """An edited document, the number of the revision it was made from, and of the truck revision it stands on."""

    base: int
    truck: Number
    document: Document


class OverlaysOut(Payload):
    rear: dict[str, Any]
    front: dict[str, Any]


class TruckOut(Payload):
    """A truck revision, and what designs of either axle take from it, by its paths in
    their documents."""

    build: int
    number: int
    stored_at: datetime
    document: TruckDocument
    overlays: OverlaysOut


class TruckEditIn(Payload):
    """An edited truck, and the number of the revision it was made from; 0 for the first of a build."""

    base: int
    document: TruckDocument


class MoveIn(Payload):
    """An axle moved fore-aft on the frame with all its links, mm, + forward; `base` as of an edit."""

    base: int
    end: Literal["front", "rear"]
    by: Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]


class RadiusIn(Payload):
    """An axle's loaded radius set anew, mm, and what is meant by it: the truck `sits` on a tire that was measured, or
    the figure was a `slip`; `base` as of an edit."""

    base: int
    end: Literal["front", "rear"]
    radius: Measure
    meant: Meant
    source: Source


class SinceOut(Payload):
    """What changed on the truck since a design was stored, and what that did to its figures."""

    changes: list[Difference]
    figures: list[Moved]


class Message(Payload):
    message: str


class RefusedOut(Payload):
    message: str
    faults: list[Fault]


class ConflictOut(Payload):
    message: str
    newest: RevisionOut


class TruckConflictOut(Payload):
    message: str
    newest: TruckOut


class DiffersOut(Payload):
    """A file's figures of the truck that are not the truck's: which stand?"""

    message: str
    differences: list[Difference]


class InstrumentsOut(Payload):
    """What stands on the bench; nothing, and why, where none answers."""

    names: list[str]
    why: str


class ReadIn(Payload):
    """Ask an instrument for what it reads of something."""

    instrument: Annotated[str, Field(max_length=50)]
    what: Annotated[str, Field(max_length=300)]


class ZeroIn(Payload):
    """Zero the gauge on a surface."""

    on: Literal["level", "plumb"]


class CuttingOut(Payload):
    """Whether there is a cutting service to ask."""

    there: bool


class ToCutIn(Payload):
    """A design's archive: in which units, on which paper."""

    units: Units = "in16"
    paper: Paper = "a4"


class ShopFilesIn(ToCutIn):
    """Begin the archive of the newest revision, or of another."""

    revision: Number | None = None


class CuttingJobIn(Payload):
    """A job, by the cutting service's own number for it."""

    job: Annotated[str, Field(min_length=1, max_length=200)]


class ReadOut(Payload):
    value: float
    unit: Literal["mm", "in", "deg", "kg", "lb"]


class NamedSchool(Payload):
    id: School
    name: str
    buys: str


class NamedUse(Payload):
    id: Use
    name: str


class NamedJoint(Payload):
    """An entry of the joint catalog: how far it turns (degrees), how much it gives (mm)."""

    id: str
    name: str
    limit: float
    give: float


class RegisterOut(Payload):
    """Every name the page shows: uses, schools, figures, columns, the table of parts, the truck's figures; what can be
    added to a design, the steps that jobs stand before, the gates of a fit-up; the caution;
    how far a cure or a pull moves a mount, mm."""

    uses: list[NamedUse]
    schools: list[NamedSchool]
    figures: list[Figure]
    columns: list[Column]
    parts: list[Kind]
    truck: list[TruckFigure]
    joints: list[NamedJoint]
    additions: list[Addition]
    job_steps: list[str]
    gates: list[GateSaid]
    caution: str
    cure_within: float
    pull_within: float
