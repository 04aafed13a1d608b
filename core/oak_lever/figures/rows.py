"""Rows of the cycle: every figure of every pose, as columns."""

import numpy as np

from oak_lever.design.types import Design
from oak_lever.figures.instantaneous import Setting, instant_center, roll_axis, support, tire_path_slope
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Traced

COLUMNS = (
    "travel", "articulation", "axle_x", "axle_y", "axle_z", "roll", "yaw", "pinion_change", "caster_change",
    "ic_x", "ic_height", "ic_length", "anti_squat", "anti_dive", "anti_lift_drive", "anti_lift_brake",
    "roll_center_height", "roll_axis_angle", "roll_steer", "bind",
)  # fmt: skip


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


def columns(traced: Traced, setting: Setting) -> dict[str, Floats]:
    """Every name of `COLUMNS`, each (D, P): mm, degrees, percent. NaN where it does not exist or is not reached."""
    center, turns = traced.state[..., :3], np.degrees(traced.state[..., 3:6])
    ground = center[..., 2] - setting.radius
    ic_x, ic_height, ic_length = instant_center(traced.heave, center, ground)
    none = np.full(ground.shape, np.nan)
    found = {
        "travel": np.broadcast_to(traced.poses.travel, ground.shape),
        "articulation": np.broadcast_to(traced.poses.articulation, ground.shape),
        "axle_x": center[..., 0],
        "axle_y": center[..., 1],
        "axle_z": center[..., 2],
        "roll": turns[..., 0],
        "yaw": turns[..., 2],
        "pinion_change": -turns[..., 1] if setting.rear else turns[..., 1],
        "caster_change": none if setting.rear else -turns[..., 1],
        "ic_x": ic_x,
        "ic_height": ic_height,
        "ic_length": ic_length,
        **support(tire_path_slope(traced.heave, setting.radius), center, ground, setting),
        **roll_axis(traced.rolling, center, ground),
        "bind": traced.bind,
    }
    return {name: found[name] for name in COLUMNS}
