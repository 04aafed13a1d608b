"""Which poses bump stops and limit straps let the axle reach: of many designs at once."""

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.running import Stop, Strap
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import rotations
from oak_lever.motion.vectors import cross

_HAIR_MM = 1e-6


def held(design: Design, mechanism: Mechanism, state: Floats) -> NDArray[np.bool_]:
    """(D, P) for D designs with their axles at `state` (D, P, 7): no stop pressed solid, no strap past its end. One
    that is past its end at ride already holds nothing, and is left out; so is a pose that is not reached."""
    reached = ~np.isnan(state[..., 0])
    return np.asarray(reached & (left_by_ends(design, mechanism, state) >= -_HAIR_MM))


def left_by_ends(design: Design, mechanism: Mechanism, state: Floats) -> Floats:
    """(D, P) mm that the first of the stops and straps has left before it is solid, or at its end; infinite without, or
    where each is past its end at ride already."""
    least = np.full(state.shape[:2], np.inf)
    if design.corners is None:
        return least
    turn = rotations(state)
    both: list[Stop | Strap] = [*design.corners.stops, *design.corners.straps]
    for strut in both:
        at = _carried(mechanism, state, turn, strut.axle.on, np.array(strut.axle.at))
        span = at - np.array(strut.frame.at)
        length = np.linalg.norm(span, axis=-1)
        left = length - strut.solid if isinstance(strut, Stop) else strut.length * (1.0 + strut.stretch) - length
        if isinstance(strut, Stop):  # a pad that has passed through where it would have stood still is past it
            left = np.where((span * span[:, :1]).sum(-1) > 0.0, left, -np.inf)
        least = np.minimum(least, np.where(left[:, :1] < -_HAIR_MM, np.inf, left))
    return least


def _carried(mechanism: Mechanism, state: Floats, turn: Floats, on: str, point: Floats) -> Floats:
    """(D, P, 3) of a point carried by the axle, or a link's own (see `motion.carried`), each design's mounts its
    own."""
    bars = mechanism.layout.bars
    b = next((n for n, bar in enumerate(bars) if bar.name == on and not bar.rigid), None)
    center = mechanism.center[:, None]
    if b is None:
        return _on_axle(state, turn, point - center)
    heads, tails = (ends[:, b][:, None] for ends in mechanism.ends)
    bolt = mechanism.bolts[:, b, 1][:, None]
    rest = _frame(heads - tails, bolt)
    now = _frame(_on_axle(state, turn, heads - center) - tails, bolt)
    own = np.einsum("dpji,dpj->dpi", rest, point - tails)
    out: Floats = tails + np.einsum("dpij,dqj->dpi", now, own)
    return out


def _on_axle(state: Floats, turn: Floats, arm: Floats) -> Floats:
    out: Floats = state[..., :3] + (turn @ np.broadcast_to(arm, (*state.shape[:2], 3))[..., None])[..., 0]
    return out


def _frame(along: Floats, bolt: Floats) -> Floats:
    """(D, P, 3, 3) with columns e1 along a link, e2 the part of its frame bolt square to it, e3."""
    one = along / np.linalg.norm(along, axis=-1, keepdims=True)
    two = bolt - (one * bolt).sum(-1, keepdims=True) * one
    two = two / np.linalg.norm(two, axis=-1, keepdims=True)
    return np.stack([one, two, cross(one, two)], axis=-1)
