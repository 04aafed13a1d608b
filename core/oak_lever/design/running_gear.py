"""What runs with the axle and constrains nothing: driveshaft, steering, springs, shocks, stops, straps, anti-roll
bar."""

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Bolt, Deg, Mm, Name, Number, Part, Point, Reach, Size, Tilt, apart, refuse

DRAG_LINK_MM = 31.75

Newtons = Annotated[Number, Field(ge=0, le=1e9)]


class CaseOutput(Part):
    """The transfer case's output: its joint, how far its axis points down on its way toward this axle, and how far that
    is turned in plan from straight fore-aft, + to the left on its way toward this axle."""

    joint: Point
    angle: Deg
    turn: Tilt = 0.0


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
    """An eye on the frame; the axis of its bolt and its entry of the joint catalog, where they are known."""

    at: Point
    bolt: Bolt | None = None
    joint: str | None = None


class LowerEye(FrameEye):
    """An eye on the axle, or on a link, which then carries it; `on` names which."""

    on: Name


class Strut(Part):
    """Anything between a point on the frame and one on the axle or a link."""

    id: Name
    frame: FrameEye
    axle: LowerEye

    @model_validator(mode="after")
    def _has_length(self) -> Self:
        apart(self.frame.at, self.axle.at, "both eyes are at one point; set them apart")
        return self


class Second(Part):
    """A second spring stacked on the first, in line with it, until its slider has moved `slide` mm and stops: from
    there the first works alone. Its rate in N/mm."""

    rate: Annotated[Newtons, Field(gt=0)]
    slide: Size


class Spring(Part):
    """Pushes with rate (N/mm) times how far it is pressed from its free length: preload + extended - length, mm."""

    rate: Newtons
    preload: Reach
    solid: Size
    second: Second | None = None


Kilopascals = Annotated[Number, Field(ge=0, le=1e5)]


class Air(Part):
    """Gas that pushes: `pressure` (kPa over the air's) as it is set, on the effective `area` (mm^2) by length (mm;
    between two given lengths in proportion, beyond them as at the nearest). `volume` (mm^3) is what is left of it at
    the shortest; with it goes how much stiffer it gets when it is pressed."""

    pressure: Kilopascals
    area: Annotated[tuple[tuple[Size, Annotated[Number, Field(gt=0, le=1e8)]], ...], Field(min_length=1, max_length=50)]
    volume: Annotated[Number, Field(gt=0, le=1e12)]

    @model_validator(mode="after")
    def _lengths_rise(self) -> Self:
        if any(one[0] >= other[0] for one, other in pairwise(self.area)):
            refuse("area", "must have its lengths rise from the shortest to the longest")
        return self


ShockKind = Literal["coilover", "damper", "bypass", "air_shock", "coil", "air"]


class Shock(Strut):
    """A shock or a spring between two eyes or seats. `kind` (absent: a coilover with a spring, else a damper): a
    `coil` on its own seats falls loose past `extended` and holds nothing back; `air` and `air_shock` push with gas."""

    kind: ShockKind | None = None
    extended: Size
    compressed: Size
    diameter: Size
    spring: Spring | None = None
    air: Air | None = None

    @model_validator(mode="after")
    def _has_stroke(self) -> Self:
        if self.extended <= self.compressed:
            refuse("stroke", "must be longer extended than compressed")
        if self.kind in ("coilover", "coil") and self.spring is None:
            refuse("spring", f"is a {self.kind} without a spring; give it one, or another kind")
        if self.kind in ("air", "air_shock") and self.air is None:
            refuse("air", "pushes with air and has none; give its pressure, area and volume")
        return self

    @property
    def sort(self) -> ShockKind:
        """Its kind, said or not."""
        if self.kind is not None:
            return self.kind
        return "coilover" if self.spring else "air_shock" if self.air else "damper"


class Stop(Strut):
    """A bump stop. `force`: how hard it pushes (N) by how far it is pressed (mm), where that is known."""

    kind: Literal["rubber", "long_travel", "hydraulic"] | None = None
    free: Size
    solid: Reach
    force: Annotated[tuple[tuple[Reach, Newtons], ...], Field(max_length=50)] | None = None

    @model_validator(mode="after")
    def _gives(self) -> Self:
        if self.free <= self.solid:
            refuse("stop", "must be longer free than solid")
        for one, other in pairwise(self.force or ()):
            if one[0] >= other[0] or one[1] > other[1]:
                refuse("force", "must rise with the stroke, point by point")
        return self


class Strap(Strut):
    length: Size
    stretch: Annotated[Number, Field(ge=0, le=10)] = 0.0


class AntiRoll(Part):
    """An anti-roll bar across the truck, given by its left side; the right is its mirror image. Its arms turn about the
    line across through `pivot`; from `arm` a link goes to `link`, on the body that does not carry the bar. `diameter`:
    of the bar, mm."""

    on: Literal["frame", "axle"]
    pivot: Point
    arm: Point
    link: Point
    diameter: Size

    @model_validator(mode="after")
    def _has_arms(self) -> Self:
        if self.arm[1] <= 0 or self.link[1] <= 0:
            refuse("side", "is given by its left side: arm and link have y above 0")
        if max(abs(self.arm[n] - self.pivot[n]) for n in (0, 2)) < 1.0:
            refuse("arm", "has no arm: its end stands on the line that it turns about")
        apart(self.arm, self.link, "both ends of its link are at one point; set them apart")
        return self


class Corners(Part):
    """`settling`: how much lower the truck stands once body and load are on and the springs have settled, mm, where
    someone has said it."""

    shocks: Annotated[tuple[Shock, ...], Field(max_length=20)] = ()
    stops: Annotated[tuple[Stop, ...], Field(max_length=20)] = ()
    straps: Annotated[tuple[Strap, ...], Field(max_length=20)] = ()
    anti_roll: AntiRoll | None = None
    settling: Reach | None = None
