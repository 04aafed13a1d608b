"""Figures of the axle's motion in one pose: instant center, anti-squat and its kin, roll center, roll axis.

All take arrays of any matching shape and return the same; NaN stands for a figure that does not exist there.
`heave` and `rolling` are (..., 6): velocity of the axle's center v and angular velocity w in the chassis frame,
for vz = 1 with articulation held, and for wx = 1 with vz = 0.
"""

from dataclasses import dataclass

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.mechanism import Floats


@dataclass(frozen=True)
class Setting:
    """What the figures need of the truck; scalars, or arrays that broadcast with the poses. mm; shares 0 to 1."""

    rear: bool
    radius: Floats | float
    wheelbase: Floats | float
    cg_height: Floats | float
    drive_share: Floats | float
    brake_share: Floats | float


def instant_center(heave: Floats, center: Floats, ground: Floats) -> tuple[Floats, Floats, Floats]:
    """Side-view instant center: x ahead of the ride axle, height above the pose's ground, distance from the axle; mm.

    The point of the axle body that stands still in the side view: v + w x r = 0 gives r = (vz/wy, -vx/wy).
    NaN beyond 100 m, where the links are parallel for every purpose of a shop.
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        ahead = heave[..., 2] / heave[..., 4]
    length = np.abs(ahead)
    length[~(length <= tol.FAR_MM)] = np.nan
    ahead = np.copysign(length, ahead)
    return center[..., 0] + ahead, center[..., 2] - ahead * heave[..., 0] / heave[..., 2] - ground, length


def tire_path_slope(heave: Floats, radius: Floats | float) -> Floats:
    """Forward rise of the line from the contact patch to the instant center: (R wy - vx) / vz.

    The patch's velocity relative to the chassis is v + w x (0, 0, -R); the line is square to it. Finite for
    parallel links too.
    """
    return (radius * heave[..., 4] - heave[..., 0]) / heave[..., 2]


def support(slope: Floats, center: Floats, ground: Floats, setting: Setting) -> dict[str, Floats | float]:
    """Percent of load transfer that the links carry: anti-squat and anti-lift (rear), anti-dive and anti-lift (front).

    100 % is the line from the contact patch to the height of the center of gravity over the other axle
    (the neutral line of the side-view force balance; Milliken, chapter 17).
    """
    wheelbase = setting.wheelbase - center[..., 0] if setting.rear else setting.wheelbase + center[..., 0]
    height = setting.cg_height - ground
    ratio = 100.0 * slope * wheelbase / np.where(height > 0, height, np.nan)
    driven, braked = setting.drive_share * ratio, setting.brake_share * ratio
    return {
        "rated_anti_squat": ratio if setting.rear else np.nan,
        "anti_squat": driven if setting.rear else np.nan,
        "anti_dive": np.nan if setting.rear else -braked,
        "anti_lift_drive": np.nan if setting.rear else -driven,
        "anti_lift_brake": braked if setting.rear else np.nan,
    }


def roll_axis(rolling: Floats, center: Floats, ground: Floats) -> dict[str, Floats]:
    """Roll center height (mm above ground), slope of the roll axis (degrees, + rising forward), roll steer (deg/deg).

    On the axle's plane it passes where the body has no sideways speed: z = axle_z + vy / wx (Dixon, chapter 14).
    """
    v_y, w_x = rolling[..., 1], rolling[..., 3]
    steer = rolling[..., 5] / w_x
    return {
        "roll_center_height": center[..., 2] + v_y / w_x - ground,
        "roll_axis_angle": np.degrees(np.arctan(steer)),
        "roll_steer": steer,
    }
