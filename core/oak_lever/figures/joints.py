"""How far each joint is turned out of its bolt's square: misalignment, over all poses at once."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.design.linkage import TwoEnded, bars
from oak_lever.design.types import Design, Mount, Watts
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations


class _End(NamedTuple):
    """One end of a bar at ride: its center, its bolt's axis, and what carries it: frame or axle, or the crank on it."""

    at: Floats
    bolt: Floats
    on_axle: bool
    on_crank: bool


def default_bolt(axle: Floats, frame: Floats) -> Floats:
    """Horizontal and square to the link in plan; across, along y, for an upright link. Unit (3,)."""
    ahead, left = frame[0] - axle[0], frame[1] - axle[1]
    flat = np.hypot(ahead, left)
    return np.array([0.0, 1.0, 0.0]) if flat < tol.PLUMB_MM else np.array([-left / flat, ahead / flat, 0.0])


def misalignment(design: Design, state: Floats) -> dict[str, Floats]:
    """Degrees, unsigned, by joint (``lower-left.axle``), each of the shape of `state` (..., 7) less its last axis.

    90 degrees less the angle between link and bolt; for a radius arm, whose eye is rigid with the axle, the
    angle by which the axle has turned the bolt's direction.
    """
    with np.errstate(invalid="ignore"):
        return dict(_all(design, state))


def _all(design: Design, state: Floats) -> Iterator[tuple[str, Floats]]:
    rot = rotations(state)
    crank = design.lateral if isinstance(design.lateral, Watts) else None
    turn = _crank_rotations(state[..., 6])
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    pivot = np.array(crank.pivot.at) if crank else center

    def now(end: _End, vector: Floats, about: Floats) -> Floats:
        """Where a vector fixed to what carries the end points now; as a point when `about` is its origin."""
        if end.on_crank:
            vector = pivot - about + np.einsum("...ij,j->...i", turn, vector - pivot + about)
        return (
            np.einsum("...ij,...j->...i", rot, vector) if end.on_axle else np.broadcast_to(vector, state[..., :3].shape)
        )

    for bar in bars(design):
        axle, frame = _ends(design, bar)
        if bar.kind == "radius_arm":
            turned = np.einsum("...ij,j->...i", rot, frame.bolt)
            yield f"{bar.id}.frame", _angle_between(turned, frame.bolt)
            continue
        origin = np.zeros(3)
        head = state[..., :3] + now(axle, axle.at - center, center)
        tail = now(frame, frame.at, origin)
        along = head - tail
        along = along / np.linalg.norm(along, axis=-1, keepdims=True)
        for name, end in (("axle", axle), ("frame", frame)):
            bolt = now(end, end.bolt, pivot if end.on_crank else origin)
            lean = np.abs(np.einsum("...i,...i->...", along, bolt))
            yield f"{bar.id}.{name}", np.degrees(np.arcsin(np.minimum(lean, 1.0)))


def _ends(design: Design, bar: TwoEnded) -> tuple[_End, _End]:
    axle, frame = np.array(bar.axle), np.array(bar.frame)
    plain = default_bolt(axle, frame)
    crank = isinstance(design.lateral, Watts) and bar.kind == "watts"
    return (
        _End(axle, _bolt(bar.axle_mount, plain), True, crank and bar.axle_mount is None),
        _End(frame, _bolt(bar.frame_mount, plain), False, crank and bar.frame_mount is None),
    )


def _bolt(mount: Mount | None, plain: Floats) -> Floats:
    if mount is None or mount.bolt is None:
        return plain
    given = np.array(mount.bolt) / np.max(np.abs(mount.bolt))
    unit: Floats = given / np.linalg.norm(given)
    return unit


def _crank_rotations(angle: Floats) -> Floats:
    """(..., 3, 3) turns about x."""
    c, s, one, nil = np.cos(angle), np.sin(angle), np.ones_like(angle), np.zeros_like(angle)
    rows = [[one, nil, nil], [nil, c, -s], [nil, s, c]]
    return np.stack([np.stack(row, axis=-1) for row in rows], axis=-2)


def _angle_between(one: Floats, other: Floats) -> Floats:
    across = np.linalg.norm(np.cross(one, other), axis=-1)
    along = np.abs(np.einsum("...i,...i->...", one, np.broadcast_to(other, one.shape)))
    angle: Floats = np.degrees(np.arctan2(across, along))
    return angle
