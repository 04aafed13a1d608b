"""Rows of the cycle: every figure of every pose, as columns."""

import numpy as np

from oak_lever.design.types import Design
from oak_lever.figures.instantaneous import Setting, instant_center, roll_axis, support, tire_path_slope
from oak_lever.figures.register import COLUMNS as REGISTERED
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Traced

COLUMNS = tuple(column.id for column in REGISTERED)
"""The columns of the file format, in its order."""
RATED = "rated_anti_squat"
"""One column more, for judgment: anti-squat as if this axle did all the driving."""
KEPT = (*COLUMNS, RATED)
ROW_OF = {name: row for row, name in enumerate(KEPT)}


def setting_of(design: Design) -> Setting:
    """The truck's own numbers that the figures need."""
    vehicle = design.vehicle
    return Setting(
        design.axle.end == "rear",
        design.axle.tire_radius_loaded,
        vehicle.wheelbase,
        vehicle.cg_height,
        vehicle.drive_share,
        vehicle.brake_share,
    )


def table(traced: Traced, setting: Setting) -> Floats:
    """(C, D, P), an array for each of `KEPT`: mm, degrees, percent. NaN where there is none or it is not reached."""
    out = np.empty((len(KEPT), *traced.bind.shape))
    into = dict(zip(KEPT, out, strict=True))
    into["travel"][...], into["articulation"][...] = traced.poses.travel_mm, traced.poses.articulation_deg
    out[2:5] = np.moveaxis(traced.state[..., :3], -1, 0)
    center = traced.state[..., :3]
    ground = center[..., 2] - setting.radius
    into["roll"][...], into["yaw"][...] = np.degrees(traced.state[..., 3]), np.degrees(traced.state[..., 5])
    pitch_deg = np.degrees(traced.state[..., 4])
    into["pinion_change"][...] = -pitch_deg if setting.rear else pitch_deg
    into["caster_change"][...] = np.nan if setting.rear else -pitch_deg
    into["ic_x"][...], into["ic_height"][...], into["ic_length"][...] = instant_center(traced.heave, center, ground)
    carried = support(tire_path_slope(traced.heave, setting.radius), center, ground, setting)
    for name, values in (carried | roll_axis(traced.rolling, center, ground)).items():
        into[name][...] = values
    into["bind"][...] = traced.bind
    return out
