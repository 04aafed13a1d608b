"""Where a link has carried the points that are its own: a shock's eye on it, its bends."""

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import rotations
from oak_lever.motion.vectors import cross


@dataclass(frozen=True)
class Carried:
    """What a link does to its points, from where they stand at ride, chassis frame: ``turn`` (P, 3, 3) times the point,
    plus ``shift`` (P, 3) mm."""

    turn: Floats
    shift: Floats


def carried(mechanism: Mechanism, links: Collection[str], state: Floats) -> dict[str, Carried]:
    """By link, for the mechanism's first design with its axle at `state` (P, 7).

    A radius arm goes with the axle. A link between spherical joints could roll about itself; by definition it keeps its
    frame bolt: e1 from its frame joint to its axle joint, e2 the part of that bolt's axis square to e1, e3 = e1 x e2,
    and a point keeps its coordinates in these.
    """
    rot = rotations(state)
    center = mechanism.center[0]
    found = {}
    for b, bar in enumerate(mechanism.layout.bars):
        if bar.name not in links:
            continue
        axle, frame = (ends[0, b] for ends in mechanism.ends)
        if bar.rigid:
            found[bar.name] = Carried(rot, state[:, :3] - rot @ center)
            continue
        now = state[:, :3] + rot @ (axle - center)
        bolt = mechanism.bolts[0, b, 1]
        turn = frame_of(now - frame, bolt) @ frame_of((axle - frame)[None], bolt).swapaxes(-1, -2)
        found[bar.name] = Carried(turn, frame - turn @ frame)
    return found


def frame_of(along: Floats, bolt: Floats) -> Floats:
    """(P, 3, 3) with columns e1, e2, e3: the axes of what a link carries, by where it runs to from its frame joint
    (`along`, (P, 3)) and the axis of that joint's bolt (3,)."""
    one = along / np.linalg.norm(along, axis=-1, keepdims=True)
    two = bolt - (one @ bolt)[:, None] * one
    two = two / np.linalg.norm(two, axis=-1, keepdims=True)
    return np.stack([one, two, cross(one, two)], axis=-1)
