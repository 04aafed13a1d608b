"""What the constraints leave free at ride, by the rank of their derivatives, and how to say it."""

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.mechanism import DISTANCE, Floats, Mechanism

_WORDS = (
    "fore and aft",
    "sideways",
    "in pitch, pinion up and down",
    "in yaw, one wheel ahead of the other",
    "at the bell crank",
)


def derivatives_at_ride(mechanism: Mechanism) -> Floats:
    """(D, M, U): each row's error by x, y, pitch, yaw (and the crank), turns scaled to mm at the mechanism's reach."""
    layout, arm = mechanism.layout, mechanism.layout.hand[None, :] * mechanism.arm[:, None]
    on_axle = layout.crank_on == "axle"
    swing = np.stack(
        [np.zeros_like(arm), -arm * np.sin(mechanism.tilt)[:, None], arm * np.cos(mechanism.tilt)[:, None]], -1
    )
    body = mechanism.body + (swing if on_axle else 0.0)
    frame = mechanism.frame + (0.0 if on_axle else swing)
    center = np.zeros_like(body)
    center[..., 2] = mechanism.radius[:, None]
    span = body + center - frame
    normal = np.broadcast_to(np.eye(3)[np.maximum(layout.axis, 0)], span.shape).copy()
    distance = layout.axis == DISTANCE
    normal[:, distance] = span[:, distance] / np.linalg.norm(span[:, distance], axis=-1, keepdims=True)
    moment = np.cross(body, normal)
    parts = [normal[..., 0], normal[..., 1], *(moment[..., k] / mechanism.reach[:, None] for k in (1, 2))]
    if layout.crank_on is not None:
        turn = np.cross(swing, normal)[..., 0] * (1.0 if on_axle else -1.0)
        parts.append(turn / mechanism.arm[:, None])
    return np.stack(parts, axis=-1)


def free_directions(mechanism: Mechanism) -> list[str]:
    """In words, each direction in which the first design's axle is free at ride with its wheels held in height."""
    _, sizes, directions = np.linalg.svd(derivatives_at_ride(mechanism)[0], full_matrices=True)
    full = np.zeros(len(directions))
    full[: len(sizes)] = sizes
    free = directions[full <= tol.LOOSE * max(full.max(initial=0.0), tol.LOOSE)]
    return [_WORDS[int(np.argmax(np.abs(direction)))] for direction in free]
