"""The whole cycle as a map: figures over travel and articulation together."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever.clearance.clearances import spare_along
from oak_lever.cycle import Swept
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.design.types import Design
from oak_lever.figures.allowed import held
from oak_lever.figures.joints import joint_names, misalignment
from oak_lever.figures.rows import ROW_OF, setting_of, table
from oak_lever.figures.running_gear import running_gear
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import Plan, trace

TRAVELS, TWISTS = 41, 21
GAP_TRAVELS, GAP_TWISTS = 11, 7
"""Gaps take longer: they are looked at in fewer poses."""
SHOWN = (
    "yaw",
    "pinion_change",
    "caster_change",
    "axle_x",
    "axle_y",
    "bind",
    "roll_center_height",
    "anti_squat",
    "anti_dive",
)


@dataclass(frozen=True)
class Map:
    """`fields` by name, (T, A) each in mm, degrees, percent: the figures of the cycle, `joint_reserve` (the least
    that a joint has left, degrees), the shaft's and the drag link's; NaN where it is not reached. `allowed` (T, A):
    where stops and straps let it come to."""

    travel: Floats
    articulation: Floats
    fields: dict[str, Floats]
    allowed: NDArray[np.bool_]


def whole_map(design: Design, travels: int = TRAVELS, twists: int = TWISTS) -> Map:
    """Every figure over the map of travel and articulation, each pose reached straight up and then twisted."""
    mechanism, plan = mechanism_of(design), Plan()
    up = np.linspace(-design.travel.droop, design.travel.bump, travels)
    across = np.linspace(-design.travel.articulation, design.travel.articulation, twists)
    places = plan.grid(up, across)
    traced = trace(mechanism, plan.poses())
    rows = table(traced, setting_of(design))[:, 0]
    fields = {name: rows[ROW_OF[name]][places] for name in SHOWN}
    turned = misalignment(mechanism, traced.state)[:, 0]
    if len(turned):
        entries = mechanism.joint_entries
        limits = np.array([joint_kind(design, entries[name]).limit for name in joint_names(mechanism)])
        fields["joint_reserve"] = (limits[:, None] - turned).min(axis=0)[places]
    if design.driveshaft or design.steering:
        fields |= {name: values[places] for name, values in running_gear(design, mechanism, traced).columns.items()}
    allowed = held(design, mechanism, traced.state)[0][places] & traced.reached[0][places]
    known = {name: values for name, values in fields.items() if not np.isnan(values).all()}
    return Map(up, across, known, allowed)


def joint_left(swept: Swept) -> Floats:
    """(P,) the least that a joint of the first design has left to its limit in each pose, degrees; NaN without any."""
    if not swept.joint_names:
        return np.full(len(swept.traced.poses.travel_mm), np.nan)
    limits = np.array([joint_kind(swept.design, swept.joint_entries[name]).limit for name in swept.joint_names])
    out: Floats = (limits[:, None] - swept.turned[:, 0]).min(axis=0)
    return out


def gap_map(design: Design) -> Map:
    """The least that any pair has to spare over what is wanted of it (`gap_spare`, mm), over a coarser map."""
    plan = Plan()
    up = np.linspace(-design.travel.droop, design.travel.bump, GAP_TRAVELS)
    across = np.linspace(-design.travel.articulation, design.travel.articulation, GAP_TWISTS)
    places = plan.grid(up, across)
    poses = plan.poses()
    spare = list(spare_along(design, poses, places.ravel()))
    mechanism = mechanism_of(design)
    traced = trace(mechanism, poses)
    allowed = held(design, mechanism, traced.state)[0][places] & traced.reached[0][places]
    return Map(up, across, {"gap_spare": np.array(spare).reshape(places.shape)}, allowed)
