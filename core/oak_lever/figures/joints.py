"""How far each joint is turned out of its bolt's square: misalignment, over all poses at once."""

from math import hypot

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.design.linkage import TwoEnded, bars
from oak_lever.design.types import Design, Mount, Watts
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations

Triple = tuple[float, float, float]


def default_bolt(axle: Triple, frame: Triple) -> Triple:
    """Horizontal and square to the link in plan; across, along y, for an upright link. A unit vector."""
    ahead, left = frame[0] - axle[0], frame[1] - axle[1]
    flat = hypot(ahead, left)
    return (0.0, 1.0, 0.0) if flat < tol.PLUMB_MM else (-left / flat, ahead / flat, 0.0)


def misalignment(design: Design, state: Floats) -> tuple[tuple[str, ...], Floats]:
    """Names of the joints (``lower-left.axle``) and degrees, unsigned, (J, P), for the poses `state` (P, 7).

    90 degrees less the angle between link and bolt; for a radius arm, whose eye is rigid with the axle, the
    angle by which the axle has turned the bolt's direction.
    """
    found = bars(design)
    straight = [bar for bar in found if bar.kind != "radius_arm"]
    names = tuple(f"{bar.id}.{end}" for bar in found for end in ("axle", "frame") if end == "frame" or bar in straight)
    out = np.empty((len(names), len(state)))
    rows = {name: row for row, name in enumerate(names)}
    with np.errstate(invalid="ignore"):
        rot = rotations(state)
        if straight:
            at = [[rows[f"{bar.id}.axle"], rows[f"{bar.id}.frame"]] for bar in straight]
            out[at] = _turned_out(design, straight, state, rot)
        for bar in found:
            if bar.kind == "radius_arm":
                bolt = _bolt(bar.frame_mount, default_bolt(bar.axle, bar.frame))
                out[rows[f"{bar.id}.frame"]] = _angle_between(rot @ bolt, bolt)
    return names, out


def _turned_out(design: Design, straight: list[TwoEnded], state: Floats, rot: Floats) -> Floats:
    """(B, 2, P) degrees at the axle and frame end of each bar."""
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    heads, tails = np.array([bar.axle for bar in straight]), np.array([bar.frame for bar in straight])
    bolts = np.array(
        [[_bolt(m, default_bolt(bar.axle, bar.frame)) for m in (bar.axle_mount, bar.frame_mount)] for bar in straight]
    )
    pins = [bolts[:, 0], bolts[:, 1]]
    if isinstance(design.lateral, Watts):
        shape = (len(state), *heads.shape)
        heads, tails = (np.broadcast_to(points, shape).copy() for points in (heads, tails))
        pins = [np.broadcast_to(pin, shape).copy() for pin in pins]
        _turn_with_crank(design.lateral, straight, state[..., 6], (heads, tails), pins)
    back = rot.swapaxes(-1, -2)
    along = state[:, None, :3] + (heads - center) @ back - tails
    lean = np.stack([(along * (pins[0] @ back)).sum(-1), (along * pins[1]).sum(-1)])
    angles: Floats = np.degrees(np.arcsin(np.minimum(np.abs(lean) / np.sqrt((along**2).sum(-1)), 1.0)))
    return angles.transpose(2, 0, 1)


def _turn_with_crank(
    watts: Watts, straight: list[TwoEnded], angle: Floats, ends: tuple[Floats, Floats], pins: list[Floats]
) -> None:
    """Turn the crank ends of the rods, and their bolts, about the pivot's fore-aft pin, in the pivot's body."""
    turn, pivot, end = _crank_rotations(angle), np.array(watts.pivot.at), 0 if watts.pivot.on == "axle" else 1
    for b, bar in enumerate(straight):
        if bar.kind == "watts":
            ends[end][:, b] = pivot + np.einsum("pij,pj->pi", turn, ends[end][:, b] - pivot)
            pins[end][:, b] = np.einsum("pij,pj->pi", turn, pins[end][:, b])


def _bolt(mount: Mount | None, plain: Triple) -> Triple:
    if mount is None or mount.bolt is None:
        return plain
    most = max(map(abs, mount.bolt))
    x, y, z = (v / most for v in mount.bolt)
    long = hypot(x, y, z)
    return (x / long, y / long, z / long)


def _crank_rotations(angle: Floats) -> Floats:
    """(..., 3, 3) turns about x."""
    c, s, one, nil = np.cos(angle), np.sin(angle), np.ones_like(angle), np.zeros_like(angle)
    rows = [[one, nil, nil], [nil, c, -s], [nil, s, c]]
    return np.stack([np.stack(row, axis=-1) for row in rows], axis=-2)


def _angle_between(one: Floats, other: Triple) -> Floats:
    across = np.linalg.norm(np.cross(one, other), axis=-1)
    along = np.abs(one @ np.array(other))
    angle: Floats = np.degrees(np.arctan2(across, along))
    return angle
