"""The figures that are judged, taken off a cycled design: each with where in the travel and at which parts it is so."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oak_lever.cycle import Cycle, Sweep
from oak_lever.design.linkage import bars
from oak_lever.design.types import Design, Link
from oak_lever.figures.links import link_figures, separation
from oak_lever.figures.statics import side_load
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import rotations

SweepName = Literal["heave", "articulation"]


@dataclass(frozen=True)
class Measure:
    """A figure's value; the sweep and travel (mm) or articulation (deg) where it is worst; the parts it is about."""

    value: float
    sweep: SweepName | None = None
    worst_at: float | None = None
    place: tuple[str, ...] = ()


def measures(cycled: Cycle) -> dict[str, Measure]:
    """Every judged figure that this design has, by its id; nothing for an axle that is loose."""
    return dict(_all(cycled)) if cycled.located else {}


def _all(cycled: Cycle) -> Iterator[tuple[str, Measure]]:
    design, ride = cycled.design, {name: float(v[0]) for name, v in cycled.ride.columns.items()}
    if design.axle.end == "rear":
        yield from _support(cycled, ride)
        yield "roll_axis", Measure(ride["roll_axis_angle"])
        yield "rear_steer", _range(cycled.articulation, "yaw", "articulation")
        yield "pinion_change", _range(cycled.heave, "pinion_change", "heave")
    else:
        yield "caster_change", _range(cycled.heave, "caster_change", "heave")
    yield "ic_length", Measure(ride["ic_length"] if np.isfinite(ride["ic_length"]) else np.inf)
    yield "roll_center", Measure(ride["roll_center_height"])
    yield "lateral_drift", _range(cycled.heave, "axle_y", "heave")
    yield from _links(design)
    yield from _turning(cycled)
    yield (
        "bind",
        max((_worst(sweep, sweep.columns["bind"], name) for sweep, name in _sweeps(cycled)), key=lambda m: m.value),
    )


def _sweeps(cycled: Cycle) -> list[tuple[Sweep, SweepName]]:
    return [(cycled.heave, "heave"), (cycled.articulation, "articulation")]


def _support(cycled: Cycle, ride: dict[str, float]) -> Iterator[tuple[str, Measure]]:
    """Anti-squat rated as if this axle did all the driving."""
    vehicle = cycled.design.vehicle
    name, share = (
        ("anti_squat", vehicle.drive_share) if vehicle.drive_share > 0 else ("anti_lift_brake", vehicle.brake_share)
    )
    if share <= 0:
        return
    over_travel = cycled.heave.columns[name] / share
    yield "anti_squat", Measure(ride[name] / share)
    droop = np.flatnonzero(cycled.heave.reached & (cycled.heave.columns["travel"] < 0))
    if len(droop):
        yield (
            "anti_squat_fall",
            Measure(
                ride[name] / share - float(over_travel[droop[0]]),
                "heave",
                float(cycled.heave.columns["travel"][droop[0]]),
            ),
        )


def _range(sweep: Sweep, column: str, name: SweepName) -> Measure:
    """Highest less lowest; worst where it is farthest from ride."""
    values = sweep.columns[column]
    most = int(np.nanargmax(np.abs(values)))
    return Measure(float(np.nanmax(values) - np.nanmin(values)), name, _along(sweep, name, most))


def _worst(sweep: Sweep, values: Floats, name: SweepName, place: tuple[str, ...] = ()) -> Measure:
    most = int(np.nanargmax(values))
    return Measure(float(values[most]), name, _along(sweep, name, most), place)


def _along(sweep: Sweep, name: SweepName, row: int) -> float:
    return float(sweep.columns["travel" if name == "heave" else "articulation"][row])


def _links(design: Design) -> Iterator[tuple[str, Measure]]:
    lowers = {link.id for link in design.links if link.kind == "lower"}
    slopes = {
        str(bar["id"]): abs(float(bar["side_angle"]))
        for bar in link_figures(design)
        if bar["id"] in lowers and bar["side_angle"] is not None
    }
    if slopes:
        steepest = max(slopes, key=lambda name: slopes[name])
        yield "lower_angle", Measure(slopes[steepest], place=(steepest,))
    apart = separation(design)
    for end in ("axle", "frame"):
        if (height := apart[end]) is not None:
            place = tuple(f"{link.id}.{end}" for link in design.links if isinstance(link, Link))
            yield f"separation_{end}", Measure(height, place=place)
    if design.lateral is None and all(isinstance(link, Link) for link in design.links):
        forces = side_load(mechanism_of(design))
        worst = max(forces, key=lambda name: forces[name])
        yield "side_force", Measure(forces[worst], place=(worst,))


def _turning(cycled: Cycle) -> Iterator[tuple[str, Measure]]:
    """Joints over all poses, the corners included; links from end to end of the straight travel."""
    if cycled.heave.joint_names:
        found = []
        for sweep, name in (*_sweeps(cycled), (cycled.corners, "articulation")):
            reached = np.flatnonzero(sweep.reached)
            if len(reached):
                joint, at = np.unravel_index(
                    int(np.argmax(sweep.turned[:, reached])), (len(sweep.turned), len(reached))
                )
                value, row = float(sweep.turned[joint, reached[at]]), int(reached[at])
                found.append(Measure(value, name, _along(sweep, name, row), (sweep.joint_names[joint],)))
        yield "joint_angle", max(found, key=lambda measure: measure.value)
    swung = _swing(cycled)
    if swung:
        most = max(swung, key=lambda name: swung[name])
        yield "swing", Measure(swung[most], "heave", place=(most,))


def _swing(cycled: Cycle) -> dict[str, float]:
    """Degrees each straight link turns through, in space, between the ends of the straight travel that it reaches."""
    design, reached = cycled.design, np.flatnonzero(cycled.heave.reached)
    links = [bar for bar in bars(design) if bar.kind in ("lower", "upper")]
    if not links:
        return {}
    ends = cycled.heave.state[reached[[0, -1]]]
    at = np.array([bar.axle for bar in links]) - [0.0, 0.0, design.axle.tire_radius_loaded]
    along = np.array([bar.frame for bar in links]) - (ends[:, None, :3] + at @ rotations(ends).swapaxes(-1, -2))
    along /= np.linalg.norm(along, axis=-1, keepdims=True)
    turned = np.degrees(np.arccos(np.clip((along[0] * along[1]).sum(-1), -1.0, 1.0)))
    return {bar.id: angle for bar, angle in zip(links, turned.tolist(), strict=True)}
