"""How far each joint is turned out of its bolt's square, and each link out of its first direction: many designs, many
poses at once."""

from functools import lru_cache

import numpy as np

from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import Traced, rotations
from oak_lever.motion.vectors import cross


def joint_names(mechanism: Mechanism) -> tuple[str, ...]:
    """``lower-left.axle``, ``lower-left.frame`` and so on, in the bars' order; a radius arm has no axle joint."""
    ends = [(bar.name, end) for bar in mechanism.layout.bars for end in ("axle", "frame")]
    rigid = {bar.name for bar in mechanism.layout.bars if bar.rigid}
    return tuple(f"{name}.{end}" for name, end in ends if end == "frame" or name not in rigid)


def misalignment(mechanism: Mechanism, state: Floats) -> Floats:
    """(J, D, P) degrees, unsigned, of the joints of `joint_names`, with the axles at `state` (D, P, 7).

    90 degrees less the angle between link and bolt, an axle joint's bolt turning with the axle; for a radius arm, whose
    eye is rigid with the axle, the angle by which the axle has turned the bolt's direction.
    """
    bars = mechanism.layout.bars
    if not bars:
        return np.empty((0, *state.shape[:2]))
    with np.errstate(invalid="ignore"):
        back = rotations(state).swapaxes(-1, -2)
        pins, along = mechanism.bolts, _spans(mechanism, state, back)
        on_axle, on_frame = (_with_crank(mechanism, state, pins[:, :, end], end) for end in (0, 1))
        long = np.sqrt(_dot(along, along))
        lean = np.stack([_dot(along, on_axle @ back), _dot(along, on_frame)])
        angles = np.degrees(np.arcsin(np.minimum(np.abs(lean) / long, 1.0)))
        for b, bar in enumerate(bars):
            if bar.rigid:
                angles[1, :, :, b] = _turned(pins[:, b, 1], back)
    kept = [(end, b) for b, bar in enumerate(bars) for end in (0, 1) if end == 1 or not bar.rigid]
    return np.stack([angles[end, :, :, b] for end, b in kept])


@lru_cache(maxsize=16)
def turned_in(mechanism: Mechanism, traced: Traced) -> Floats:
    """`misalignment` in traced poses."""
    return misalignment(mechanism, traced.state)


def spans(mechanism: Mechanism, state: Floats) -> Floats:
    """(D, P, B, 3) from the frame joint of each bar to its axle joint, mm, chassis frame, with the axles at `state`."""
    return _spans(mechanism, state, rotations(state).swapaxes(-1, -2))


def joint_places(mechanism: Mechanism, state: Floats) -> tuple[Floats, Floats]:
    """(D, P, B, 3) each: where the bars' axle joints and their frame joints stand, mm, chassis frame; a radius arm,
    being rigid with the axle, has its frame joint carried by it."""
    back = rotations(state).swapaxes(-1, -2)
    heads, tails = _ends(mechanism, state, back)
    tails = np.broadcast_to(tails, heads.shape).copy()
    for b, bar in enumerate(mechanism.layout.bars):
        if bar.rigid:
            rest = mechanism.ends[1][:, b] - mechanism.center
            tails[:, :, b] = state[..., :3] + (rest[:, None, None] @ back)[:, :, 0]
    return heads, tails


def _spans(mechanism: Mechanism, state: Floats, back: Floats) -> Floats:
    heads, tails = _ends(mechanism, state, back)
    return heads - tails


def _ends(mechanism: Mechanism, state: Floats, back: Floats) -> tuple[Floats, Floats]:
    heads, tails = (_with_crank(mechanism, state, mechanism.ends[end], end, places=True) for end in (0, 1))
    return state[:, :, None, :3] + (heads - mechanism.center[:, None, None, :]) @ back, tails


def swing(mechanism: Mechanism, ends: Floats) -> tuple[tuple[str, ...], Floats]:
    """The straight links' names, and the degrees (L, D) each turns through, in space, between two poses (D, 2, 7)."""
    links = [b for b, bar in enumerate(mechanism.layout.bars) if bar.kind in ("lower", "upper")]
    along = spans(mechanism, ends)[:, :, links]
    along /= np.linalg.norm(along, axis=-1, keepdims=True)
    turned: Floats = np.degrees(np.arccos(np.clip((along[:, 0] * along[:, 1]).sum(-1), -1.0, 1.0)))
    return tuple(mechanism.layout.bars[b].name for b in links), turned.T


def _dot(one: Floats, other: Floats) -> Floats:
    product = one * other
    total: Floats = product[..., 0] + product[..., 1] + product[..., 2]
    return total


def _with_crank(mechanism: Mechanism, state: Floats, of: Floats, end: int, places: bool = False) -> Floats:
    """(D, P or 1, B, 3) the points (`places`) or directions (D, B, 3) of the bars' ends, those of the rods at the bell
    crank turned with it about its fore-aft pin."""
    if mechanism.layout.crank_on != ("axle", "frame")[end]:
        return of[:, None]
    out = np.repeat(of[:, None], state.shape[1], axis=1)
    turn = _about_x(state[..., 6])
    for b, bar in enumerate(mechanism.layout.bars):
        crank = (bar.axle, bar.frame)[end]
        if crank.hand:
            root = mechanism.mounts[:, crank.first] if places else np.zeros((len(of), 3))
            out[:, :, b] = root[:, None] + np.einsum("dpij,dj->dpi", turn, of[:, b] - root)
    return out


def _about_x(angle: Floats) -> Floats:
    """(..., 3, 3) turns about x, radians."""
    c, s, one, nil = np.cos(angle), np.sin(angle), np.ones_like(angle), np.zeros_like(angle)
    rows = [[one, nil, nil], [nil, c, -s], [nil, s, c]]
    return np.stack([np.stack(row, axis=-1) for row in rows], axis=-2)


def _turned(pin: Floats, back: Floats) -> Floats:
    """(D, P) degrees between a direction (D, 3) fixed in the chassis and the same one turned with the axle."""
    axis = pin[:, None, :]
    now = (axis[:, :, None, :] @ back)[:, :, 0, :]
    across = np.linalg.norm(cross(now, axis), axis=-1)
    along = np.abs((now * axis).sum(-1))
    angle: Floats = np.degrees(np.arctan2(across, along))
    return angle
