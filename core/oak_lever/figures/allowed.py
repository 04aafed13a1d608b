"""Which poses bump stops and limit straps let the axle reach: of many designs at once."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.running_gear import Stop, Strap
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, Ints, Mechanism
from oak_lever.motion.trace import rotations
from oak_lever.motion.vectors import cross

HAIR_MM = 1e-6


def held(design: Design, mechanism: Mechanism, state: Floats) -> NDArray[np.bool_]:
    """(D, P) for D designs with their axles at `state` (D, P, 7): no stop pressed solid, no strap past its end. One
    that is past its end at ride already holds nothing, and is left out; so is a pose that is not reached."""
    return allowed_where(left_by_each(design, mechanism, state), ~np.isnan(state[..., 0]))


def allowed_where(left: Floats, reached: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(D, P) the same, from what each stop and strap has left (S, D, P)."""
    return np.asarray(reached & (left >= -HAIR_MM).all(0))


def left_by_ends(design: Design, mechanism: Mechanism, state: Floats) -> Floats:
    """(D, P) mm that the first of the stops and straps has left before it is solid, or at its end; infinite without, or
    where each is past its end at ride already."""
    each = left_by_each(design, mechanism, state)
    return each.min(0) if len(each) else np.full(state.shape[:2], np.inf)


def left_by_each(design: Design, mechanism: Mechanism, state: Floats) -> Floats:
    """(S, D, P) mm that each stop and strap has left before it is solid, or at its end, in the file's order; infinite
    for one that is past its end at ride already, NaN in a pose that is not reached."""
    both: list[Stop | Strap] = [*design.corners.stops, *design.corners.straps] if design.corners else []
    found = np.empty((len(both), *state.shape[:2]))
    turn = rotations(state) if both else state
    for n, strut in enumerate(both):
        at = _carried(mechanism, state, turn, strut.axle.on, np.array(strut.axle.at))
        span = at - np.array(strut.frame.at)
        length = np.linalg.norm(span, axis=-1)
        left = length - strut.solid if isinstance(strut, Stop) else strut.length * (1.0 + strut.stretch) - length
        if isinstance(strut, Stop):
            # how far the pad still stands on the side from which it comes; through there it is past where it would stop
            ahead = (span * span[:, :1]).sum(-1) / np.maximum(length[:, :1], HAIR_MM)
            left = np.where(ahead > 0.0, left, np.minimum(left, ahead) - HAIR_MM)
        found[n] = np.where(left[:, :1] < -HAIR_MM, np.inf, left)
    return found


@dataclass(frozen=True)
class Edges:
    """Where the poses that stops and straps allow come to an end between neighbors of a map: C pairs of poses, `inside`
    and `outside` (C,), the pose `before` the inside one on the same line (itself at the map's rim), and `part` (D, C)
    how far from the one to the other; NaN where a design has no edge between the two."""

    before: Ints
    inside: Ints
    outside: Ints
    part: Floats

    def values(self, values: Floats) -> Floats:
        """(D, C, ...) what values (D, P, ...) come to there, NaN where there is no edge."""
        part = self.part.reshape(*self.part.shape, *(1 for _ in values.shape[2:]))
        return at_part(values[:, self.before], values[:, self.inside], values[:, self.outside], part)


def edges_of(left: Floats, reached: NDArray[np.bool_], cells: Ints) -> Edges:
    """Of D designs with so much left (S, D, P) over a map of poses (T, A): up and down its columns, along its rows."""
    found: list[tuple[Ints, Ints, Ints]] = []
    for along in (cells, cells[::-1], cells.T, cells.T[::-1]):
        behind = np.concatenate([along[:1], along[:-2]])
        found.append((behind.ravel(), along[:-1].ravel(), along[1:].ravel()))
    before, inside, outside = (np.concatenate(one) for one in zip(*found, strict=True))
    here, there = left[:, :, inside], left[:, :, outside]
    held_in = (here >= -HAIR_MM).all(0) & reached[:, inside]
    ends = held_in & reached[:, outside] & ~(there >= -HAIR_MM).all(0)
    return Edges(before, inside, outside, np.where(ends, part_left(left[:, :, before], here, there), np.nan))


def part_left(before: Floats, here: Floats, there: Floats) -> Floats:
    """How far from one pose (`here`) to the next (`there`) the first of some comes to its end, where they have so much
    left (S, ...) in both and in the one before: by the parabola through the three; 1 where none does."""
    bend, slope = _parabola(before, here, there)
    with np.errstate(invalid="ignore", divide="ignore"):
        root = 2.0 * here / (-slope + np.sqrt(np.maximum(slope**2 - 4.0 * bend * here, 0.0)))
        part = np.where((here >= 0.0) & (there < 0.0), np.clip(np.nan_to_num(root, nan=1.0), 0.0, 1.0), 1.0)
    out: Floats = np.where(here < 0.0, 0.0, part).min(0, initial=1.0)
    return out


def at_part(before: Floats, here: Floats, there: Floats, part: Floats) -> Floats:
    """What values come to a part of the way from one pose to the next, by the parabola through these and the one
    before."""
    bend, slope = _parabola(before, here, there)
    out: Floats = here + part * (slope + part * bend)
    return out


def _parabola(before: Floats, here: Floats, there: Floats) -> tuple[Floats, Floats]:
    """Its bend and slope where it is `here`; a straight line where nothing is known before."""
    with np.errstate(invalid="ignore"):
        bend = 0.5 * (there - 2.0 * here + before)
        known = np.isfinite(bend) & (before != here)
        bend = np.where(known, bend, 0.0)
        return bend, there - here - bend


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
