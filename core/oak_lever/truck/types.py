"""The types of a truck file. They are the schema: what they publish is what the reader accepts.

Truck axes: x forward, y left, z up, mm; origin on the ground, on the frame's centerline, below the datum mark, with the
truck at ride and level. `station`: x of an axle's center at ride. A design's chassis axes are these, moved to its axle.
"""

from typing import Annotated, Literal

from pydantic import Field

from oak_lever.design.axle import Rails
from oak_lever.design.fit import FitRecord
from oak_lever.design.room import Room
from oak_lever.design.rules import Rules
from oak_lever.design.types import Use
from oak_lever.design.values import Bands, Kg, Mm, Name, Notes, Number, Part, Point, Reach, Share, Size

Source = Literal["measured", "catalog", "guessed"]
End = Literal["front", "rear"]
Side = Literal["left", "right"]
LengthUnit = Literal["mm", "in"]
LengthTool = Literal["tape", "laser", "plumb"]
Degrees = Annotated[Number, Field(ge=0, le=90)]
Weight = Annotated[Number, Field(ge=0, le=1e7)]


class TruckVehicle(Part):
    """Of the whole truck as it will be driven; the shares are those of the front axle."""

    mass: Kg
    front_share: Share
    cg_height: Size
    brake_front: Share


class TruckAxle(Part):
    station: Mm
    tire_diameter: Size
    tire_radius_loaded: Size
    tire_width: Size
    track: Size


class TruckAxles(Part):
    front: TruckAxle
    rear: TruckAxle


class Mark(Part):
    """A place on the frame that readings are taken to."""

    id: Name
    at: Point


class Reading(Part):
    """What was read, as it was read. `sigma`: one standard deviation in its unit; `left_out`: kept, not used."""

    id: Name
    sigma: Annotated[Number, Field(gt=0, le=1e6)] | None = None
    left_out: bool = False
    by: str | None = None
    at: str | None = None
    note: str | None = None


class Distance(Reading):
    """Between two points, straight (`distance`), or how far apart fore-aft (`along`) or sideways (`across`)."""

    kind: Literal["distance", "along", "across"]
    from_: Annotated[Name, Field(alias="from")]
    to: Name
    value: Reach
    unit: LengthUnit
    instrument: LengthTool = "tape"


class Height(Reading):
    kind: Literal["height"]
    point: Name
    value: Reach
    unit: LengthUnit
    instrument: LengthTool = "tape"


class Angle(Reading):
    """Off a gauge zeroed level or plumb, on a face along the shaft or square to it, the axle at that travel (mm)."""

    kind: Literal["angle"]
    of: Literal["rear_pinion", "front_pinion", "case_output"]
    value: Degrees
    unit: Literal["deg"]
    instrument: Literal["gauge"] = "gauge"
    zero: Literal["level", "plumb"]
    face: Literal["along", "square"]
    points: Literal["up", "down"]
    travel: Mm = 0.0


class OutputOffset(Reading):
    """How far the transfer case's output stands to that side of the frame's centerline."""

    kind: Literal["output_offset"]
    side: Side
    value: Reach
    unit: LengthUnit
    instrument: LengthTool = "tape"


class OutputTurn(Reading):
    """How far the transfer case's output is turned in plan from straight back, to which side on its way back."""

    kind: Literal["output_turn"]
    points: Side
    value: Degrees
    unit: Literal["deg"]
    instrument: Literal["gauge"] = "gauge"


class Raised(Part):
    """One end's axle center raised by so much more than the other's, mm."""

    end: End
    by: Size


class Scale(Reading):
    """Of one wheel; or of a whole axle, without a side."""

    kind: Literal["scale"]
    end: End
    side: Side | None = None
    value: Weight
    unit: Literal["kg", "lb"]
    instrument: Literal["scale"] = "scale"
    raised: Raised | None = None


AnyReading = Annotated[Distance | Height | Angle | OutputOffset | OutputTurn | Scale, Field(discriminator="kind")]


class Case(Part):
    """The truck as it stands under another load."""

    name: Name
    mass: Kg
    front_share: Share
    cg_height: Size


class Target(Part):
    """What a figure of the baseline should be, and how far from that it may be: mm, degrees, kg or a share."""

    target: Number
    tolerance: Annotated[Number, Field(ge=0, le=1e6)]


class Job(Part):
    """Something to be held, moved or rerouted: what, where, how many, and before which step of the work."""

    id: Name
    what: Annotated[str, Field(min_length=1, max_length=500)]
    where: Annotated[str, Field(max_length=500)] = ""
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    before: Annotated[str, Field(max_length=200)] = ""
    done: bool = False


class Choice(Part):
    """Which design of an axle is to be built, by its name; why, by whom, and when."""

    design: Name
    reason: Annotated[str, Field(min_length=1, max_length=2000)]
    by: Annotated[str, Field(max_length=200)] = ""
    at: Annotated[str, Field(max_length=40)] = ""


class Truck(Part):
    """One truck: the figures in force, where each comes from (a path without a source is guessed), its readings; of
    each axle which design is to be built, and how far its fit-up has come."""

    format: Literal["oak-lever-truck"]
    version: Literal[1]
    name: Name
    notes: Notes = ""
    datum: Annotated[str, Field(max_length=2000)] = ""
    use: Use | None = None
    bands: Bands = Field(default_factory=dict)
    rules: Rules = ()
    rails: Rails | None = None
    room: Room | None = None
    vehicle: TruckVehicle
    axles: TruckAxles
    sources: Annotated[dict[Name, Source], Field(max_length=500)] = Field(default_factory=dict)
    marks: Annotated[tuple[Mark, ...], Field(max_length=500)] = ()
    readings: Annotated[tuple[AnyReading, ...], Field(max_length=5000)] = ()
    cases: Annotated[tuple[Case, ...], Field(max_length=100)] = ()
    targets: Annotated[dict[Name, Target], Field(max_length=100)] = Field(default_factory=dict)
    jobs: Annotated[tuple[Job, ...], Field(max_length=500)] = ()
    fit_up: dict[End, FitRecord] | None = None
    choices: dict[End, Choice] | None = None
