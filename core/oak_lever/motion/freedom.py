"""What the constraints hold in a pose and what they leave free, by the rank of their derivatives, and how to say it."""

from typing import NamedTuple

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.mechanism import DISTANCE, Floats, Mechanism
from oak_lever.motion.trace import rotations

_WORDS = (
    "fore and aft",
    "sideways",
    "in pitch, pinion up and down",
    "in yaw, one wheel ahead of the other",
    "at the bell crank",
)


class Held(NamedTuple):
    """The rows of the first design in one pose: `errors` (M,) mm, and `derivatives` (M, U) by x, y, pitch, yaw (and the
    crank) at held travel and articulation, turns scaled to mm at the mechanism's reach."""

    errors: Floats
    derivatives: Floats


def ride_state(mechanism: Mechanism) -> Floats:
    """(7,) the axle's pose at ride."""
    return np.array([0.0, 0.0, mechanism.radius[0], 0.0, 0.0, 0.0, 0.0])


def held(mechanism: Mechanism, state: Floats) -> Held:
    """The rows of the mechanism's first design with its axle at `state` (7,)."""
    layout, rot, angle = mechanism.layout, rotations(state), mechanism.tilt[0] + state[6]
    on_axle = layout.crank_on == "axle"
    swing = np.outer(layout.hand * mechanism.arm[0], [0.0, -np.sin(angle), np.cos(angle)])
    from_center = (mechanism.body[0] + (swing if on_axle else 0.0)) @ rot.T
    span = state[:3] + from_center - mechanism.frame[0] - (0.0 if on_axle else swing)
    normal = np.eye(3)[np.maximum(layout.axis, 0)]
    distance = layout.axis == DISTANCE
    long = np.sqrt((span**2).sum(-1))
    normal[distance] = span[distance] / long[distance, None]
    moment = np.cross(from_center, normal)
    roll, pitch, yaw = state[3:6]
    by_pitch = moment @ [-np.sin(yaw), np.cos(yaw), 0.0] + np.tan(roll) * np.tan(pitch) * (moment @ rot[:, 0])
    parts = [normal[:, 0], normal[:, 1], by_pitch / mechanism.reach[0], moment[:, 2] / mechanism.reach[0]]
    if layout.crank_on is not None:
        turned = np.cross([1.0, 0.0, 0.0], swing) @ (rot.T if on_axle else np.eye(3))
        parts.append((turned * normal).sum(-1) * (1.0 if on_axle else -1.0) / mechanism.arm[0])
    errors = np.where(distance, long - mechanism.target[0], (span * normal).sum(-1))
    return Held(errors, np.stack(parts, axis=-1))


def free_directions(mechanism: Mechanism) -> list[str]:
    """In words, each direction in which the first design's axle is free at ride with its wheels held in height."""
    _, sizes, directions = np.linalg.svd(held(mechanism, ride_state(mechanism)).derivatives, full_matrices=True)
    full = np.zeros(len(directions))
    full[: len(sizes)] = sizes
    free = directions[full <= tol.LOOSE * max(full.max(initial=0.0), tol.LOOSE)]
    return [_say(direction) for direction in free]


def going_loose(mechanism: Mechanism, state: Floats) -> tuple[str, str]:
    """At the end of a travel, `state` (7,): the direction that is going free, in words, and the name of the constraint
    whose force grows without bound there (of the least singular value, its right and left vector)."""
    left, _, right = np.linalg.svd(held(mechanism, state).derivatives, full_matrices=False)
    return _say(right[-1]), mechanism.layout.rows[int(np.argmax(np.abs(left[:, -1])))].name


def gives_most(mechanism: Mechanism, state: Floats) -> str:
    """The name of the constraint with the largest error in the pose `state` (7,)."""
    return mechanism.layout.rows[int(np.argmax(np.abs(held(mechanism, state).errors)))].name


def _say(direction: Floats) -> str:
    return _WORDS[int(np.argmax(np.abs(direction)))]


def is_held(mechanism: Mechanism) -> bool:
    """Whether the constraints hold the first design's axle at ride."""
    return not free_directions(mechanism)
