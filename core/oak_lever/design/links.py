"""Links and what locates the axle sideways: mounts, tubes, radius arms, panhard bars, Watts links, sliders."""

from math import cos, hypot, radians, sin
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.loads import Fastener
from oak_lever.design.values import Bolt, Deg, Name, Part, Point, Size, apart, refuse
from oak_lever.tolerances import PLUMB_MM

TUBE_MM = 50.8
"""Outside diameter of a link's tube where the file says nothing: what is drawn, and what gaps are taken to."""
WALL_MM = 6.35


class Mount(Part):
    """One joint: its center, and, where known, the axis of its bolt and its catalog entry."""

    at: Point
    bolt: Bolt | None = None
    joint: str | None = None
    fastener: Fastener | None = None


class ArmMount(Part):
    """The two bolts that hold a radius arm rigidly to the axle."""

    at: tuple[Point, Point]

    @model_validator(mode="after")
    def _two_places(self) -> Self:
        apart(self.at[0], self.at[1], "both bolts of this arm are at one point; set them apart")
        return self


class Tube(Part):
    """A tube by its outside diameter and wall, mm, and its entry of the materials."""

    diameter: Size = TUBE_MM
    wall: Size = WALL_MM
    material: str | None = None

    @model_validator(mode="after")
    def _wall_within(self) -> Self:
        if self.wall > self.diameter / 2:
            refuse("wall", "has a wall of more than half its diameter")
        return self


class BentTube(Tube):
    """A tube that may be bent: `bends` are its centerline's corners at ride, from the axle joint to the frame's;
    `bend_radius` is the centerline's, mm."""

    bends: Annotated[tuple[Point, ...], Field(max_length=20)] = ()
    bend_radius: Size | None = None


class Bar(Part):
    """A straight or bent bar with a joint at each end."""

    axle: Mount
    frame: Mount
    tube: BentTube | None = None

    @model_validator(mode="after")
    def _has_length(self) -> Self:
        apart(self.axle.at, self.frame.at, "both ends are at one point; set axle and frame mounts apart")
        return self


class Link(Bar):
    """A two-ended link."""

    id: Name
    kind: Literal["lower", "upper"]


class UnbentPart(Part):
    """A part whose tube, if it says one, is straight."""

    tube: Tube | None = None

    @model_validator(mode="after")
    def _not_bent(self) -> Self:
        if self.tube is not None and "bends" in (self.tube.model_extra or {}):
            refuse("bends", "has a tube that is straight here; leave out its bends")
        return self


class RadiusArm(UnbentPart):
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


class Watts(UnbentPart):
    """A bell crank on a fore-aft pin with a rod from each end; `tilt` in degrees about +x at ride."""

    kind: Literal["watts"]
    pivot: Pivot
    arm: Size
    tilt: Deg
    left: Mount
    right: Mount

    @model_validator(mode="after")
    def _rods_have_length(self) -> Self:
        ends = (crank_end(self.pivot.at, self.arm, self.tilt, hand) for hand in (1, -1))
        for end, mount, side in zip(ends, (self.left, self.right), ("left", "right"), strict=True):
            apart(end, mount.at, f"the {side} rod's mount is at its crank end; set them apart")
        return self


def crank_end(pivot: Point, arm: float, tilt_deg: float, hand: int) -> Point:
    """Upper (`hand` 1) or lower (-1) end of a bell crank at ride: `arm` from the pivot, turned by the tilt about +x."""
    x, y, z = pivot
    tilt = radians(tilt_deg)
    return (x, y - hand * arm * sin(tilt), z + hand * arm * cos(tilt))


def default_bolt(axle: Point, frame: Point) -> tuple[float, float, float]:
    """Horizontal and square to the link in plan; across, along y, for an upright link. A unit vector."""
    ahead, left = frame[0] - axle[0], frame[1] - axle[1]
    flat = hypot(ahead, left)
    return (0.0, 1.0, 0.0) if flat < PLUMB_MM else (-left / flat, ahead / flat, 0.0)


class Slider(Part):
    """A wishbone locator: its axle point may move fore-aft and up-down, not sideways."""

    kind: Literal["slider"]
    axle: Mount


AnyLink = Annotated[Link | RadiusArm, Field(discriminator="kind")]
Lateral = Annotated[Panhard | Watts | Slider, Field(discriminator="kind")]
