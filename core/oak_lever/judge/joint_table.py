"""Every joint of the links: how far it turns over the whole map, what it has left, and the bolt that would keep the
most."""

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.design.parts import parts_of, words_of
from oak_lever.figures.joints import joint_names, spans
from oak_lever.judge.places import Place
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations

_STEP_DEG = 0.5
_AROUND = 12


@dataclass(frozen=True)
class JointRow:
    """A joint: its name (`upper-left.axle`) and words, its catalog entry (None: not said) and how far that turns,
    the most it turns anywhere that stops and straps allow and where; what is left. `best`: the bolt's direction, to
    half a degree, that leaves the most, and the most it would then turn; None where the joint's bolt is not its own."""

    name: str
    words: str
    entry: str | None
    limit: float
    turns: float
    place: Place
    best: tuple[float, float, float] | None
    best_turns: float | None

    @property
    def left(self) -> float:
        return self.limit - self.turns


@dataclass(frozen=True)
class Softer:
    """At which end of a link a softer joint, which turns less far, would go: where it turns less, and by how much."""

    link: str
    words: str
    end: str
    turns: float
    other: float


def joint_rows(cycled: Cycle) -> tuple[list[JointRow], list[Softer]]:
    """Of every joint of links, bars and rods; and of every link with two, the end for a softer one."""
    if not cycled.located:
        return [], []
    swept = cycled.swept
    poses = swept.places.every[swept.allowed[0, swept.places.every]]
    state = swept.traced.state[:, poses]
    along = spans(swept.mechanism, state)[0]
    along = along / np.linalg.norm(along, axis=-1, keepdims=True)
    back = rotations(state[0]).swapaxes(-1, -2)
    words = {body.id: body.words for body in parts_of(cycled.design).bodies}
    own = {spot.name for spot in parts_of(cycled.design).spots if spot.holds}
    rows = []
    for name, values in zip(joint_names(swept.mechanism), swept.turned[:, 0][:, poses], strict=True):
        bar, _, end = name.rpartition(".")
        b = next(n for n, one in enumerate(swept.mechanism.layout.bars) if one.name == bar)
        pose = int(poses[int(np.argmax(values))])
        place = Place(
            float(swept.traced.poses.travel_mm[pose]), float(swept.traced.poses.articulation_deg[pose]), (name,)
        )
        entry = swept.joint_entries[name]
        best: tuple[tuple[float, float, float], float] | None = None
        if name in own and not swept.mechanism.layout.bars[b].rigid:
            ways = along[:, b] if end == "frame" else np.einsum("pij,pj->pi", back, along[:, b])
            best = _best(ways)
        rows.append(JointRow(
            name, f"{words.get(bar, words_of(bar))}, {end} end", entry, joint_kind(cycled.design, entry).limit,
            float(values.max()), place, best[0] if best else None, best[1] if best else None,
        ))  # fmt: skip
    by_name = {row.name: row for row in rows}
    softer = []
    for one in swept.mechanism.layout.bars:
        both = [by_name[joint] for joint in (f"{one.name}.axle", f"{one.name}.frame") if joint in by_name]
        if len(both) > 1:
            less, more = sorted(both, key=lambda row: row.turns)
            end = less.name.rpartition(".")[2]
            softer.append(Softer(one.name, words.get(one.name, words_of(one.name)), end, less.turns, more.turns))
    return rows, softer


def _best(ways: Floats) -> tuple[tuple[float, float, float], float]:
    """The direction that the link's own directions (P, 3) reach least out of its square: from the least-squares one,
    the least of the most on a grid of half degrees about it."""
    start = np.linalg.svd(ways, full_matrices=False)[2][-1]
    if abs(start[1]) >= abs(start[0]):
        plan, across = degrees(atan2(start[0], start[1])), True
        rise = degrees(atan2(start[2] * np.sign(start[1] or 1.0), hypot(start[0], start[1])))
        plan = degrees(atan2(start[0] / (start[1] or 1.0), 1.0))
    else:
        plan, across = degrees(atan2(start[1] / (start[0] or 1.0), 1.0)), False
        rise = degrees(atan2(start[2] * np.sign(start[0] or 1.0), hypot(start[0], start[1])))
    turns = _STEP_DEG * np.arange(-_AROUND, _AROUND + 1)
    plans = _STEP_DEG * round(plan / _STEP_DEG) + turns
    rises = _STEP_DEG * round(rise / _STEP_DEG) + turns
    tried = [(float(p), float(r)) for p in plans for r in rises]
    bolts = np.array([bolt_axis(p, r, across) for p, r in tried])
    most = np.degrees(np.arcsin(np.minimum(np.abs(ways @ bolts.T).max(axis=0), 1.0)))
    n = int(np.argmin(most))
    return bolt_axis(*tried[n], across), float(most[n])


def bolt_axis(plan_deg: float, rise_deg: float, across: bool) -> tuple[float, float, float]:
    """A unit vector turned so many degrees in plan from straight across, or from straight ahead, and rising so many."""
    plan, rise = radians(plan_deg), radians(rise_deg)
    one, other = sin(plan) * cos(rise), cos(plan) * cos(rise)
    return (one, other, sin(rise)) if across else (other, one, sin(rise))
