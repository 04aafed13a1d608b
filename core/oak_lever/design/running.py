"""What runs with the axle and constrains nothing: driveshaft, steering, shocks, stops, straps."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Deg, Mm, Name, Number, Part, Point, Reach, Size, Tilt, apart, refuse

DRAG_LINK_MM = 31.75

Newtons = Annotated[Number, Field(ge=0, le=1e9)]


class CaseOutput(Part):
    """The transfer case's output: its joint, and how far its axis points down on its way toward this axle."""

    joint: Point
    angle: Deg


class Slip(Part):
    in_: Annotated[Reach, Field(alias="in")]
    out: Reach


class JointLimit(Part):
    pinion: Annotated[Number, Field(ge=0, le=90)]
    case: Annotated[Number, Field(ge=0, le=90)]


class Driveshaft(Part):
    kind: Literal["two_joints", "double_at_case"]
    case: CaseOutput
    diameter: Size
    slip: Slip
    joint_limit: JointLimit


class Kingpin(Part):
    at: tuple[Mm, Mm, Mm]
    inclination: Tilt

    @model_validator(mode="after")
    def _on_a_side(self) -> Self:
        if self.at[1] == 0:
            refuse("kingpin", "stands on the centerline; give it a side, y not 0")
        return self


class Steering(Part):
    pitman: Point
    knuckle: Point
    kingpin: Kingpin
    lock: Annotated[Number, Field(gt=0, lt=90)]
    diameter: Size = DRAG_LINK_MM
    tie_rod: tuple[Point, Point] | None = None

    @model_validator(mode="after")
    def _rods_have_length(self) -> Self:
        apart(self.pitman, self.knuckle, "pitman and knuckle are at one point; set them apart")
        if self.tie_rod is not None:
            apart(*self.tie_rod, "both ends of the tie rod are at one point; set them apart")
        return self


class FrameEye(Part):
    at: Point


class LowerEye(Part):
    """An eye on the axle, or on a link, which then carries it; `on` names which."""

    on: Name
    at: Point


class Strut(Part):
    """Anything between a point on the frame and one on the axle or a link."""

    id: Name
    frame: FrameEye
    axle: LowerEye

    @model_validator(mode="after")
    def _has_length(self) -> Self:
        apart(self.frame.at, self.axle.at, "both eyes are at one point; set them apart")
        return self


class Spring(Part):
    """Pushes with rate (N/mm) times how far it is pressed from its free length: preload + extended - length, mm."""

    rate: Newtons
    preload: Reach
    solid: Size


class Shock(Strut):
    extended: Size
    compressed: Size
    diameter: Size
    spring: Spring | None = None

    @model_validator(mode="after")
    def _has_stroke(self) -> Self:
        if self.extended <= self.compressed:
            refuse("stroke", "must be longer extended than compressed")
        return self


class Stop(Strut):
    free: Size
    solid: Reach

    @model_validator(mode="after")
    def _gives(self) -> Self:
        if self.free <= self.solid:
            refuse("stop", "must be longer free than solid")
        return self


class Strap(Strut):
    length: Size
    stretch: Annotated[Number, Field(ge=0, le=10)] = 0.0


class Corners(Part):
    shocks: Annotated[tuple[Shock, ...], Field(max_length=20)] = ()
    stops: Annotated[tuple[Stop, ...], Field(max_length=20)] = ()
    straps: Annotated[tuple[Strap, ...], Field(max_length=20)] = ()
