"""What the constraints hold in a pose, how they strain against each other, and what they leave free.

Freedom is the rank of the rows' derivatives by singular values (Golub, chapter 5), said in words.
"""

from collections.abc import Collection
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oak_lever import tolerances as tol
from oak_lever.design.parts import DISTANCE
from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import rotations

_WORDS = (
    "fore and aft",
    "sideways",
    "in pitch, pinion up and down",
    "in yaw, one wheel ahead of the other",
    "at the bell crank",
)


class Held(NamedTuple):
    """The rows of D designs, each in one pose: `errors` (D, M) mm, and `derivatives` (D, M, U) by x, y, pitch, yaw (and
    the crank) at held travel and articulation, turns scaled to mm at the mechanism's reach."""

    errors: Floats
    derivatives: Floats


class Strained(NamedTuple):
    """The rows of D designs in P poses: `errors` (D, P, M) mm, and how much of each row's direction is `sideways`
    (D, P, M), -1 to 1."""

    errors: Floats
    sideways: Floats


def ride_state(mechanism: Mechanism) -> Floats:
    """(D, 7) the axles' poses at ride."""
    state = np.zeros((len(mechanism.radius), 7))
    state[:, 2] = mechanism.radius
    return state


def held(mechanism: Mechanism, state: Floats) -> Held:
    """The rows of the mechanism's designs, each with its axle at `state` (D, 7)."""
    rows = _rows(mechanism, state[:, None])
    rot, normal = rows.rot[:, 0], rows.normal[:, 0]
    moment = _cross(rows.from_center[:, 0], normal)
    roll, pitch, yaw = (state[:, i, None] for i in (3, 4, 5))
    about_pitch = moment[..., 1] * np.cos(yaw) - moment[..., 0] * np.sin(yaw)
    by_pitch = about_pitch + np.tan(roll) * np.tan(pitch) * (moment * rot[:, None, :, 0]).sum(-1)
    reach = mechanism.reach[:, None]
    parts = [normal[..., 0], normal[..., 1], by_pitch / reach, moment[..., 2] / reach]
    if mechanism.layout.crank_on is not None:
        swing = rows.swing[:, 0]
        turned = np.stack([np.zeros_like(swing[..., 0]), -swing[..., 2], swing[..., 1]], axis=-1)
        turned = turned @ rot.swapaxes(-1, -2) if mechanism.layout.crank_on == "axle" else -turned
        parts.append((turned * normal).sum(-1) / mechanism.arm[:, None])
    return Held(rows.errors[:, 0], np.stack(parts, axis=-1))


def strained(mechanism: Mechanism, state: Floats) -> Strained:
    """The rows of the mechanism's designs with their axles at `state` (D, P, 7); NaN where that is."""
    with np.errstate(invalid="ignore"):
        rows = _rows(mechanism, state)
    return Strained(rows.errors, rows.normal[..., 1])


class _Rows(NamedTuple):
    rot: Floats
    swing: Floats
    from_center: Floats
    normal: Floats
    errors: Floats


def _rows(mechanism: Mechanism, state: Floats) -> _Rows:
    """Rotation (D, P, 3, 3); crank swing, axle point from its center, direction (D, P, M, 3) and error (D, P, M) of
    each row."""
    layout, rot = mechanism.layout, rotations(state)
    on_axle = layout.crank_on == "axle"
    angle, arm = mechanism.tilt[:, None, None] + state[..., 6, None], layout.hand * mechanism.arm[:, None, None]
    swing = np.stack([np.zeros_like(arm * angle), -arm * np.sin(angle), arm * np.cos(angle)], axis=-1)
    from_center = (mechanism.body[:, None] + (swing if on_axle else 0.0)) @ rot.swapaxes(-1, -2)
    span = state[..., None, :3] + from_center - mechanism.frame[:, None] - (0.0 if on_axle else swing)
    distance = layout.axis == DISTANCE
    long = np.sqrt((span**2).sum(-1))
    normal = np.where(
        distance[:, None], span / np.maximum(long, tol.NO_LENGTH_MM)[..., None], np.eye(3)[np.maximum(layout.axis, 0)]
    )
    errors = np.where(distance, long - mechanism.target[:, None], (span * normal).sum(-1))
    return _Rows(rot, swing, from_center, normal, errors)


def _cross(one: Floats, other: Floats) -> Floats:
    """(..., 3) cross products; numpy's own spends most of its time on shapes."""
    (a, b, c), (x, y, z) = np.moveaxis(one, -1, 0), np.moveaxis(other, -1, 0)
    return np.stack([b * z - c * y, c * x - a * z, a * y - b * x], axis=-1)


def is_held(mechanism: Mechanism) -> NDArray[np.bool_]:
    """(D,) whether the constraints hold each design's axle at ride."""
    if not mechanism.layout.rows:
        return np.zeros(len(mechanism.mounts), dtype=bool)
    sizes = np.linalg.svd(held(mechanism, ride_state(mechanism)).derivatives, compute_uv=False)
    enough = sizes.shape[-1] == mechanism.layout.unknowns
    held_fast: NDArray[np.bool_] = enough & (sizes[:, -1] > tol.LOOSE * np.maximum(sizes[:, 0], tol.LOOSE))
    return held_fast


def without(mechanism: Mechanism, names: Collection[str]) -> Mechanism:
    """The designs with the rows of these names left out, and no bell crank."""
    rows = tuple(row for row in mechanism.layout.rows if row.name not in names)
    return replace(mechanism, layout=replace(mechanism.layout, rows=rows, crank_on=None))


def free_directions(mechanism: Mechanism) -> list[str]:
    """In words, each direction in which the first design's axle is free at ride with its wheels held in height."""
    _, sizes, directions = np.linalg.svd(held(mechanism, ride_state(mechanism)).derivatives[0], full_matrices=True)
    full = np.zeros(len(directions))
    full[: len(sizes)] = sizes
    free = directions[full <= tol.LOOSE * max(full.max(initial=0.0), tol.LOOSE)]
    return [_say(direction) for direction in free]


def going_loose(mechanism: Mechanism, state: Floats) -> tuple[str, str]:
    """At the end of a travel, `state` (7,): the direction that is going free, in words, and the name of the constraint
    whose force grows without bound there (of the least singular value, its right and left vector)."""
    left, _, right = np.linalg.svd(held(mechanism, state[None]).derivatives[0], full_matrices=False)
    return _say(right[-1]), mechanism.layout.rows[int(np.argmax(np.abs(left[:, -1])))].name


def _say(direction: Floats) -> str:
    return _WORDS[int(np.argmax(np.abs(direction)))]
