"""How far each joint is turned out of its bolt's square: misalignment, over all poses at once."""

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.design.linkage import TwoEnded, bars
from oak_lever.design.types import Design, Mount, Watts
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations


def default_bolt(axle: Floats, frame: Floats) -> Floats:
    """Horizontal and square to the link in plan; across, along y, for an upright link. Unit (3,)."""
    ahead, left = frame[0] - axle[0], frame[1] - axle[1]
    flat = np.hypot(ahead, left)
    return np.array([0.0, 1.0, 0.0]) if flat < tol.PLUMB_MM else np.array([-left / flat, ahead / flat, 0.0])


def misalignment(design: Design, state: Floats) -> dict[str, Floats]:
    """Degrees, unsigned, by joint (``lower-left.axle``), each (P,), for the poses `state` (P, 7).

    90 degrees less the angle between link and bolt; for a radius arm, whose eye is rigid with the axle, the
    angle by which the axle has turned the bolt's direction.
    """
    found = bars(design)
    straight = [bar for bar in found if bar.kind != "radius_arm"]
    with np.errstate(invalid="ignore"):
        rot = rotations(state)
        turned = _turned_out(design, straight, state, rot) if straight else np.empty((0, 2, len(state)))
        by_bar = {bar.id: angles for bar, angles in zip(straight, turned, strict=True)}
        joints: dict[str, Floats] = {}
        for bar in found:
            if bar.id in by_bar:
                joints[f"{bar.id}.axle"], joints[f"{bar.id}.frame"] = by_bar[bar.id]
            else:
                bolt = _bolt(bar.frame_mount, default_bolt(np.array(bar.axle), np.array(bar.frame)))
                joints[f"{bar.id}.frame"] = _angle_between(rot @ bolt, bolt)
    return joints


def _turned_out(design: Design, straight: list[TwoEnded], state: Floats, rot: Floats) -> Floats:
    """(B, 2, P) degrees at the axle and frame end of each bar."""
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    axle, frame = (np.array([getattr(bar, end) for bar in straight]) for end in ("axle", "frame"))
    plain = [default_bolt(a, f) for a, f in zip(axle, frame, strict=True)]
    bolts = np.array(
        [[_bolt(bar.axle_mount, b), _bolt(bar.frame_mount, b)] for bar, b in zip(straight, plain, strict=True)]
    )
    shape = (len(state), *axle.shape)
    heads, tails = (np.broadcast_to(points, shape).copy() for points in (axle, frame))
    pins = [np.broadcast_to(bolts[:, end], shape).copy() for end in (0, 1)]
    if isinstance(design.lateral, Watts):
        _turn_with_crank(design.lateral, straight, state[..., 6], (heads, tails), pins)
    heads = state[:, None, :3] + np.einsum("pij,pbj->pbi", rot, heads - center)
    along = heads - tails
    along /= np.sqrt((along**2).sum(-1, keepdims=True))
    pins[0] = np.einsum("pij,pbj->pbi", rot, pins[0])
    lean = np.abs(np.stack([(along * pin).sum(-1) for pin in pins], axis=1))
    angles: Floats = np.degrees(np.arcsin(np.minimum(lean, 1.0))).transpose(2, 1, 0)
    return angles


def _turn_with_crank(
    watts: Watts, straight: list[TwoEnded], angle: Floats, ends: tuple[Floats, Floats], pins: list[Floats]
) -> None:
    """Turn the crank ends of the rods, and their bolts, about the pivot's fore-aft pin, in the pivot's body."""
    turn, pivot, end = _crank_rotations(angle), np.array(watts.pivot.at), 0 if watts.pivot.on == "axle" else 1
    for b, bar in enumerate(straight):
        if bar.kind == "watts":
            ends[end][:, b] = pivot + np.einsum("pij,pj->pi", turn, ends[end][:, b] - pivot)
            pins[end][:, b] = np.einsum("pij,pj->pi", turn, pins[end][:, b])


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
