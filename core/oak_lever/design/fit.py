"""What is kept of a fit-up: readings of mounts and bars at the truck, and the gates of the work."""

from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from oak_lever.design.values import Mm, Name, Notes, Number, Part, Reach, refuse

LengthUnit = Literal["mm", "in"]


class FitReading(Part):
    """What was read. `sigma`: one standard deviation in its unit; `left_out`: kept, not used."""

    id: Name
    of: Name
    unit: LengthUnit
    sigma: Annotated[Number, Field(gt=0, le=1e6)] | None = None
    left_out: bool = False
    by: str | None = None
    at: str | None = None
    note: str | None = None


class Along(FitReading):
    """How high off the floor, how far ahead of the design's axle center, or how far left of the centerline a mount is,
    the chassis blocked at ride height."""

    kind: Literal["height", "ahead", "left"]
    value: Mm


class Apart(FitReading):
    """Between two mounts, straight."""

    kind: Literal["distance"]
    to: Name
    value: Reach


class Long(FitReading):
    """A bar's length, center to center, as made."""

    kind: Literal["length"]
    value: Reach


AnyFitReading = Annotated[Along | Apart | Long, Field(discriminator="kind")]


class FitPose(Part):
    """How the axle stood when its mounts were measured: as the rows of the cycle say it."""

    axle_x: Mm = 0.0
    axle_y: Mm = 0.0
    travel: Mm = 0.0
    articulation: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    pinion_change: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    yaw: Annotated[Number, Field(gt=-90, lt=90)] = 0.0


Stance = Literal["weight", "bump", "droop"]
"""On its weight; held at full bump, or at full droop, by jack and stands."""

Turn = Annotated[Number, Field(ge=-90, le=90)]


class StoodReading(Part):
    """What was read with the axle standing on its springs, or held at an end of its travel."""

    id: Name
    stance: Stance = "weight"
    left_out: bool = False
    by: Annotated[str, Field(max_length=200)] = ""
    at: Annotated[str, Field(max_length=40)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""


class StrutRead(StoodReading):
    """A shock or a strap, eye to eye; a bump stop, from its pad to what it meets."""

    kind: Literal["strut"]
    of: Name
    value: Annotated[Number, Field(ge=0, le=1e5)]
    unit: LengthUnit


class PinionRead(StoodReading):
    """The pinion on a gauge, which is zeroed `level` or `plumb` and lies on a face along the shaft or square to it;
    the pinion's nose `points` up or down."""

    kind: Literal["pinion"]
    value: Turn
    zero: Literal["level", "plumb"] = "level"
    face: Literal["along", "square"] = "along"
    points: Literal["up", "down"] = "up"


class BarRead(StoodReading):
    """A bar on a gauge zeroed level, seen from the side of its run; `high`: which end is the higher."""

    kind: Literal["bar"]
    of: Name
    value: Annotated[Number, Field(ge=0, le=90)]
    high: Literal["axle", "frame"]


class GapRead(StoodReading):
    """The least gap between two parts of the room."""

    kind: Literal["gap"]
    of: Name
    to: Name
    value: Annotated[Number, Field(ge=0, le=1e5)]
    unit: LengthUnit


AnyStoodReading = Annotated[StrutRead | PinionRead | BarRead | GapRead, Field(discriminator="kind")]


class FitLog(Part):
    """A log of one design's fit-up."""

    format: Literal["oak-lever-fit"]
    version: Literal[1]
    name: Annotated[str, Field(max_length=200)] = ""
    notes: Notes = ""
    readings: Annotated[tuple[AnyFitReading, ...], Field(max_length=5000)]
    pose: FitPose = Field(default_factory=FitPose)


Gate = Literal[
    "baseline",
    "marked",
    "tacked",
    "measured",
    "cycled",
    "on_its_weight",
    "clearances",
    "final_weld",
    "torque",
    "driven",
]
"""Steps of the work, in its order."""


class GateMark(Part):
    """How a gate was left: passed, failed, or passed with a written reason; by whom, and when."""

    gate: Gate
    result: Literal["passed", "failed", "reason"]
    reason: Annotated[str, Field(max_length=2000)] = ""
    by: Annotated[str, Field(max_length=200)] = ""
    at: Annotated[str, Field(max_length=40)] = ""


def _once(gates: tuple[Gate, ...]) -> tuple[Gate, ...]:
    if len(set(gates)) < len(gates):
        refuse("gates", "name a gate twice")
    return gates


class GateOrder(Part):
    """The gates of one build in its own order, those that are left out not among them; why, by whom and when."""

    gates: Annotated[tuple[Gate, ...], Field(min_length=1, max_length=20), AfterValidator(_once)]
    reason: Annotated[str, Field(min_length=1, max_length=2000)]
    by: Annotated[str, Field(max_length=200)] = ""
    at: Annotated[str, Field(max_length=40)] = ""


Complaint = Literal["hops", "wanders", "binds", "shakes", "hits", "leans", "squats"]
"""What a driver feels, by its key."""


class Drive(Part):
    """A run: with which setting (holes, turns, springs, pressures, stops, in words) of which design and revision; what
    was felt, and whether it was better than the run before; the design's judged figures then, by the findings' ids."""

    id: Name
    at: Annotated[str, Field(max_length=40)] = ""
    by: Annotated[str, Field(max_length=200)] = ""
    design: Annotated[str, Field(max_length=200)] = ""
    revision: Annotated[int, Field(ge=1)] | None = None
    setting: Annotated[str, Field(max_length=2000)] = ""
    felt: Annotated[tuple[Complaint, ...], Field(max_length=20)] = ()
    than_before: Literal["better", "same", "worse"] | None = None
    note: Annotated[str, Field(max_length=2000)] = ""
    figures: Annotated[dict[Name, Number], Field(max_length=500)] = Field(default_factory=dict)


def _a_day(text: str) -> str:
    """A day of the calendar, kept as it is written: 2026-03-09."""
    try:
        known = len(text) == len("2026-03-09") and date.fromisoformat(text)
    except ValueError:
        known = False
    if not known:
        refuse("day", "is no day; write it as year, month, day: 2026-03-09")
    return text


Day = Annotated[str, AfterValidator(_a_day)]


class Order(Part):
    """Something that is waited for: what and how many, of whom, the price of all of it; when it was ordered, when it is
    due, whether it is here; which gate waits for it; which line of the parts list it is (`kind name`), and which job of
    a cutting service."""

    id: Name
    what: Annotated[str, Field(min_length=1, max_length=500)]
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    of: Annotated[str, Field(max_length=200)] = ""
    price: Annotated[Number, Field(ge=0, le=1e7)] | None = None
    ordered: Day | None = None
    due: Day | None = None
    here: bool = False
    gate: Gate | None = None
    item: Annotated[str, Field(max_length=500)] = ""
    job: Annotated[str, Field(max_length=200)] = ""


Weekday = Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
Hours = Annotated[Number, Field(ge=0.5, le=24)]


class Pace(Part):
    """How a shop works: hours on a working day, the weekdays off, and how many hours it takes for a gate."""

    a_day: Hours = 8.0
    off: Annotated[tuple[Weekday, ...], Field(max_length=6)] = ("sun",)
    gates: dict[Gate, Annotated[Number, Field(gt=0, le=1000)]] = Field(default_factory=dict)


class FitRecord(Part):
    """A fit-up as it is kept beside its truck: the readings, how the axle stood for them, what was read on its weight
    and at the ends of its travel, the gates, the runs, what is waited for, and how fast the shop works."""

    notes: Notes = ""
    readings: Annotated[tuple[AnyFitReading, ...], Field(max_length=5000)] = ()
    pose: FitPose = Field(default_factory=FitPose)
    stood: Annotated[tuple[AnyStoodReading, ...], Field(max_length=1000)] = ()
    gates: Annotated[tuple[GateMark, ...], Field(max_length=200)] = ()
    gate_order: GateOrder | None = None
    drives: Annotated[tuple[Drive, ...], Field(max_length=500)] = ()
    orders: Annotated[tuple[Order, ...], Field(max_length=500)] = ()
    pace: Pace = Field(default_factory=Pace)
