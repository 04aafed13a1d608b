"""The axle itself, and the few figures of the truck around it that a design file holds."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Deg, Kg, Mm, Number, Part, Point, Reach, Share, Size, refuse


class Pinion(Part):
    """Center of the universal joint at the pinion, and its nose-up angle at ride."""

    joint: Point
    angle: Deg


HOUSING_TUBES = 3.2
"""A housing's ball, in tube diameters, where the design gives none."""


class Housing(Part):
    """The differential's housing, as a ball."""

    at: Point
    diameter: Size


class Axle(Part):
    """To mark out by: `wheel_faces`, how far the faces that the wheels are bolted to are apart; `housing_left`,
    `housing_right`, how far from the centerline the tubes leave the housing."""

    end: Literal["rear", "front"]
    tire_diameter: Size
    tire_radius_loaded: Size
    tire_width: Size
    track: Size
    tube_diameter: Size
    mass: Kg
    pinion: Pinion
    caster: Deg | None = None
    housing: Housing | None = None
    tire_shoulder: Reach | None = None
    wheel_faces: Size | None = None
    housing_left: Size | None = None
    housing_right: Size | None = None

    @model_validator(mode="after")
    def _shoulder_fits(self) -> Self:
        most = min(self.tire_width, self.tire_diameter) / 2
        if self.tire_shoulder is not None and self.tire_shoulder >= most:
            refuse("shoulder", "has a tire shoulder of half the tire's width or diameter, or more")
        return self


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


class RailMake(Part):
    """How a rail is made: an open C with its flanges inward, boxed, or a round tube; and its wall."""

    made: Literal["open", "boxed", "tube"] | None = None
    wall: Size | None = None


class Rails(Part):
    """The frame's side rails: outside width, section, height of the underside at ride; how they are made, the right
    one where it is another than the left."""

    outside_width: Size
    depth: Size
    flange: Size
    underside: Mm
    left: RailMake | None = None
    right: RailMake | None = None

    @model_validator(mode="after")
    def _walls_fit(self) -> Self:
        for side, make in (("left", self.left), ("right", self.right)):
            if make is not None and make.wall is not None and make.wall >= min(self.flange, self.depth) / 2.0:
                refuse("rail_wall", f"has a wall of its {side} rail of half its section, or more")
        return self
