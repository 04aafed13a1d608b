"""The types of a design file. They are the schema: what they publish is what the reader accepts.

All points are (x, y, z) in mm in the chassis frame at ride height: x ahead of the axle's center,
y to the left of the truck's centerline, z above the floor.
"""

from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, Strict, model_validator
from pydantic_core import PydanticCustomError

from oak_lever import tolerances as tol
from oak_lever.design.linkage import crank_ends

Number = Annotated[float, Strict()]
Mm = Annotated[Number, Field(ge=-tol.LARGEST_MM, le=tol.LARGEST_MM)]
Size = Annotated[Number, Field(gt=0, le=tol.LARGEST_MM)]
Reach = Annotated[Number, Field(ge=0, le=tol.LARGEST_MM)]
Kg = Annotated[Number, Field(gt=0, le=tol.LARGEST_KG)]
Share = Annotated[Number, Field(ge=0, le=1)]
Deg = Annotated[Number, Field(ge=-360, le=360)]
Point = tuple[Mm, Mm, Mm]
Direction = tuple[Number, Number, Number]


def _some_direction(bolt: Direction) -> Direction:
    if max(map(abs, bolt)) == 0:
        raise PydanticCustomError("no_direction", "has no direction; give a bolt axis that is not [0, 0, 0]")
    return bolt


Bolt = Annotated[Direction, AfterValidator(_some_direction)]

RESERVED_IDS = ("panhard", "watts-left", "watts-right")


class Part(BaseModel):
    """Base of every part of a file: never changed, unknown keys kept."""

    model_config = ConfigDict(extra="allow", frozen=True, allow_inf_nan=False)

    def rewritten(self, **changes: Any) -> Self:
        """A copy with some fields changed, validated anew; unknown keys come along."""
        return type(self).model_validate({**dict(self), **changes})


class Mount(Part):
    """One joint: its center, and, where known, the axis of its bolt and its catalog entry."""

    at: Point
    bolt: Bolt | None = None
    joint: str | None = None


class ArmMount(Part):
    """The two bolts that hold a radius arm rigidly to the axle."""

    at: tuple[Point, Point]

    @model_validator(mode="after")
    def _two_places(self) -> Self:
        _apart(self.at[0], self.at[1], "both bolts of this arm are at one point; set them apart")
        return self


def _apart(one: Point, other: Point, complaint: str) -> None:
    if max(abs(a - b) for a, b in zip(one, other, strict=True)) < tol.COINCIDENT_MM:
        raise PydanticCustomError("coincident", complaint)


class Bar(Part):
    """A straight bar with a joint at each end."""

    axle: Mount
    frame: Mount

    @model_validator(mode="after")
    def _has_length(self) -> Self:
        _apart(self.axle.at, self.frame.at, "both ends are at one point; set axle and frame mounts apart")
        return self


Name = Annotated[str, Field(min_length=1, max_length=200)]


class Link(Bar):
    """A two-ended link."""

    id: Name
    kind: Literal["lower", "upper"]


class RadiusArm(Part):
    """An arm bolted rigidly to the axle at two points, with one joint at the frame."""

    id: Name
    kind: Literal["radius_arm"]
    axle: ArmMount
    frame: Mount


class Panhard(Bar):
    kind: Literal["panhard"]


class Pivot(Part):
    on: Literal["axle", "frame"]
    at: Point


class Watts(Part):
    """A bell crank on a fore-aft pin with a rod from each end; `tilt` in degrees about +x at ride."""

    kind: Literal["watts"]
    pivot: Pivot
    arm: Size
    tilt: Deg
    left: Mount
    right: Mount

    @model_validator(mode="after")
    def _rods_have_length(self) -> Self:
        for end, mount, side in zip(crank_ends(self), (self.left, self.right), ("left", "right"), strict=True):
            _apart(end, mount.at, f"the {side} rod's mount is at its crank end; set them apart")
        return self


class Slider(Part):
    """A wishbone locator: its axle point may move fore-aft and up-down, not sideways."""

    kind: Literal["slider"]
    axle: Mount


AnyLink = Annotated[Link | RadiusArm, Field(discriminator="kind")]
Lateral = Annotated[Panhard | Watts | Slider, Field(discriminator="kind")]


class Pinion(Part):
    """Center of the universal joint at the pinion, and its nose-up angle at ride."""

    joint: Point
    angle: Deg


class Axle(Part):
    end: Literal["rear", "front"]
    tire_diameter: Size
    tire_radius_loaded: Size
    tire_width: Size
    track: Size
    tube_diameter: Size
    mass: Kg
    pinion: Pinion
    caster: Deg | None = None


class Vehicle(Part):
    wheelbase: Size
    mass: Kg
    front_share: Share
    cg_height: Size
    drive_share: Share
    brake_share: Share


class Travel(Part):
    """Reach of the cycle from ride: up and down in mm, articulation in degrees either way."""

    bump: Reach
    droop: Reach
    articulation: Annotated[Number, Field(ge=0, lt=90)]


class Rails(Part):
    """The frame's side rails, for the drawing: outside width, section, height of the underside at ride."""

    outside_width: Size
    depth: Size
    flange: Size
    underside: Mm


Use = Literal["crawling", "trail", "street", "strip", "desert"]
School = Literal[
    "numbers_first", "hold_pinion", "short_upper", "converge_on_a_point", "flat_and_long", "window", "what_fits"
]


def _low_below_high(band: tuple[float | None, float | None]) -> tuple[float | None, float | None]:
    low, high = band
    if low is not None and high is not None and low > high:
        raise PydanticCustomError("band", "must have its low end below its high end")
    return band


Band = Annotated[tuple[Number | None, Number | None], AfterValidator(_low_below_high)]
"""Low and high end of what is wanted of a figure; null: open on that side."""

Axes = Literal["x", "y", "z", "xy", "xz", "yz", "xyz"]


class Design(Part):
    """One axle's suspension. `use` and `school` choose the bands it is judged by, `bands` replaces some of them.

    `locks` says along which axes a mount must stay where it is, by the mount's name (`upper-left.frame`: `xz`);
    `unpaired` names mounts that do not move with their mirror image.
    """

    format: Literal["oak-lever-design"]
    version: Literal[1]
    name: Name
    notes: Annotated[str, Field(max_length=20_000)] = ""
    axle: Axle
    vehicle: Vehicle
    travel: Travel
    links: Annotated[tuple[AnyLink, ...], Field(max_length=12)]
    lateral: Lateral | None
    rails: Rails | None = None
    use: Use | None = None
    school: School | None = None
    bands: Annotated[dict[Name, Band], Field(max_length=100)] | None = None
    locks: Annotated[dict[Name, Axes], Field(max_length=100)] | None = None
    unpaired: Annotated[tuple[Name, ...], Field(max_length=100)] | None = None
