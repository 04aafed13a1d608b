"""The registered figures, measured off swept designs, all at once: each with the pose and the parts where it is so."""

from collections.abc import Callable, Collection
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oak_lever.cycle import Swept
from oak_lever.design.joint_catalog import UNSAID, joint_kind
from oak_lever.figures.fans import between
from oak_lever.figures.joints import swing
from oak_lever.figures.links import link_angles, separations
from oak_lever.figures.register import AXLE, At, Figure, Own, Range
from oak_lever.figures.rows import RATED
from oak_lever.judge.house import ARM_BUSH_MM
from oak_lever.judge.places import Place
from oak_lever.motion.mechanism import Floats, Ints


@dataclass(frozen=True)
class Measure:
    """A figure of D designs: `value` (D,), NaN where it does not exist, infinite where it is beyond measure; `pose`
    (D,) the pose where it is worst (-1: no matter of a pose), `part` (D,) which of `parts` it is about (-1: none);
    `limit` (D,), where the part itself has one: past it it will not work; `faces` (D, K), where it is the largest of
    values that go their own ways: those; `at` (D, 2) the travel (mm) and articulation (degrees) where it is worst,
    where that lies between the poses that were solved, in the place of `pose`."""

    value: Floats
    pose: Ints
    part: Ints
    parts: tuple[tuple[str, ...], ...] = ()
    limit: Floats | None = None
    faces: Floats | None = None
    at: Floats | None = None

    def place(self, swept: Swept, design: int = 0) -> Place:
        """Where it is so in one of the designs."""
        pose, part = int(self.pose[design]), int(self.part[design])
        poses = swept.traced.poses
        parts = self.parts[part] if part >= 0 else ()
        if self.at is not None and not np.isnan(self.at[design, 0]):
            return Place(float(self.at[design, 0]), float(self.at[design, 1]), parts)
        if pose < 0:
            return Place(parts=parts)
        return Place(float(poses.travel_mm[pose]), float(poses.articulation_deg[pose]), parts)


Measures = dict[str, Measure]


def measures(swept: Swept, only: Collection[str] | None = None) -> Measures:
    """Every registered figure that designs of this layout have, by its id, or `only` those. All NaN for a design that
    is loose."""
    end = swept.design.axle.end
    asked = (figure for figure in AXLE if figure.end in (None, end) and (only is None or figure.id in only))
    found = {figure.id: _measured(figure, swept) for figure in asked}
    return {name: measure for name, measure in found.items() if measure is not None}


def _measured(figure: Figure, swept: Swept) -> Measure | None:
    if isinstance(figure.how, At):
        return _at_ride(RATED if figure.how.rated else figure.how.column, swept)
    if isinstance(figure.how, Range):
        return _range(figure.how, swept)
    assert isinstance(figure.how, Own)
    return _OWN[figure.how.name](swept)


def _plain(value: Floats, pose: Ints | int = -1, parts: tuple[str, ...] = ()) -> Measure:
    count = len(value)
    poses = _filled(count, pose) if isinstance(pose, int) else pose
    return Measure(value, poses, _filled(count, 0 if parts else -1), (parts,) if parts else ())


@lru_cache(maxsize=64)
def _filled(count: int, value: int) -> Ints:
    """One for all measures: nobody writes into them."""
    found = np.full(count, value)
    found.flags.writeable = False
    return found


def _located(swept: Swept) -> NDArray[np.bool_]:
    """(D,) which designs the links hold at ride at all."""
    located: NDArray[np.bool_] = swept.traced.reached[:, 0]
    return located


def _at_ride(column: str, swept: Swept) -> Measure:
    value = swept.column(column, swept.places.ride)[:, 0]
    if column == "ic_length":
        value = np.where(_located(swept) & np.isnan(value), np.inf, value)
    return _plain(value)


def _range(how: Range, swept: Swept) -> Measure:
    """Highest less lowest; worst where farthest from the middle. Over articulation: at the travel where it is most."""
    if how.sweep == "articulation":
        return _twisted_range(swept.column(how.column, np.arange(swept.table.shape[2])), swept)
    rows = swept.places.heave
    values = swept.column(how.column, rows)
    known = ~np.isnan(values)
    high, low = (np.where(known, values, fill) for fill in (-np.inf, np.inf))
    value = np.where(known.any(1), high.max(1) - low.min(1), np.nan)
    return _plain(value, rows[np.where(known, np.abs(values), -1.0).argmax(1)])


def _twisted_range(values: Floats, swept: Swept) -> Measure:
    """Of values (D, P): highest less lowest from one twist to the other, at ride and at each travel of the map, as far
    as stops and straps let it twist there."""
    rows = [values[:, cells] for cells in swept.fan_cells]
    found = [fan.spreads(one) for fan, one in zip(swept.fans, rows, strict=True)]
    faces = np.concatenate([spread for spread, _ in found], axis=1)
    if len(swept.left):
        found.append(swept.fans[1].between.spreads(between(rows[1])))
    spread, at = (np.concatenate(parts, axis=1) for parts in zip(*found, strict=True))
    row, every = spread.argmax(1), np.arange(len(values))
    value = np.where(spread[every, row] < 0, np.nan, spread[every, row])
    return replace(_plain(value), faces=faces, at=at[every, row])


def _worst_anywhere(swept: Swept, values: Floats) -> tuple[Floats, Floats]:
    """Of values (D, P, K) the largest of each over the poses that stops and straps allow and where these come to their
    ends between them, (D, K), -inf where nothing is; and (D, K, 2) the travel and articulation where it is so."""
    poses, at = swept.traced.poses, swept.places.every
    pose = np.stack([poses.travel_mm, poses.articulation_deg], axis=-1)
    pose = np.broadcast_to(pose, (len(values), *pose.shape))
    found, places = np.where(swept.allowed[:, at, None], values[:, at], np.nan), pose[:, at]
    if len(swept.left):
        found = np.concatenate([found, swept.edges.values(values)], axis=1)
        places = np.concatenate([places, swept.edges.values(pose)], axis=1)
    found = np.where(np.isnan(found), -np.inf, found)
    worst = found.argmax(1)
    value: Floats = np.take_along_axis(found, worst[:, None], 1)[:, 0]
    return value, np.take_along_axis(places, worst[..., None], 1)


def _anti_squat_fall(swept: Swept) -> Measure | None:
    """At ride less at the lowest travel that is reached; none where droop is none."""
    at = swept.places.heave[swept.traced.poses.travel_mm[swept.places.heave] < 0]
    if len(at) == 0:
        return None
    reached = swept.traced.reached[:, at]
    lowest = at[reached.argmax(1)]
    rated = swept.column(RATED, np.arange(swept.table.shape[2]))
    fall = rated[:, 0] - rated[np.arange(len(rated)), lowest]
    return _plain(np.where(reached.any(1), fall, np.nan), lowest)


def _worst_of(names: tuple[str, ...], values: Floats) -> Measure:
    """The largest of (B, D) values, one for each name."""
    part = np.where(np.isnan(values), -np.inf, values).argmax(0)
    value = values[part, np.arange(values.shape[1])]
    return Measure(value, np.full(len(value), -1), part, tuple((name,) for name in names))


def _lower_angle(swept: Swept) -> Measure | None:
    bars = swept.mechanism.layout.bars
    lowers = [b for b, bar in enumerate(bars) if bar.kind == "lower"]
    if not lowers:
        return None
    steep = np.abs(link_angles(swept.mechanism)[1][lowers])
    return _worst_of(tuple(bars[b].name for b in lowers), np.where(_located(swept), steep, np.nan))


def _separation(end: int) -> Callable[[Swept], Measure | None]:
    def measured(swept: Swept) -> Measure | None:
        apart = separations(swept.mechanism)
        if apart is None:
            return None
        joints = [bar.name for bar in swept.mechanism.layout.bars if bar.kind in ("lower", "upper")]
        parts = tuple(f"{name}.{('axle', 'frame')[end]}" for name in joints)
        return _plain(np.where(_located(swept), apart[end], np.nan), parts=parts)

    return measured


def _panhard_slope(swept: Swept) -> Measure | None:
    bars = swept.mechanism.layout.bars
    found = [b for b, bar in enumerate(bars) if bar.kind == "panhard"]
    if not found:
        return None
    heads, tails = (ends[:, found[0]] for ends in swept.mechanism.ends)
    slope = np.degrees(np.arctan2(tails[:, 2] - heads[:, 2], np.abs(tails[:, 1] - heads[:, 1])))
    return _plain(np.where(_located(swept), slope, np.nan), parts=(bars[found[0]].name,))


def _length_ratio(swept: Swept) -> Measure | None:
    upper, lower = (_of_kind(swept, kind) for kind in ("upper", "lower"))
    if not upper or not lower:
        return None
    long = link_angles(swept.mechanism)[0]
    return _plain(long[upper].mean(0) / long[lower].mean(0))


def _of_kind(swept: Swept, kind: str) -> list[int]:
    return [b for b, bar in enumerate(swept.mechanism.layout.bars) if bar.kind == kind]


def _plan_sum(swept: Swept) -> Measure | None:
    """Of the left and of the right, by the side of the frame's joint or, on the centerline, of the axle's."""
    plan, sides = link_angles(swept.mechanism)[2], _sides(swept)
    found = []
    for side in (1.0, -1.0):
        both = [[b for b in _of_kind(swept, kind) if sides[b] == side] for kind in ("upper", "lower")]
        if all(both):
            found.append(sum(plan[kind].mean(0) for kind in both))
    return _plain(np.min(found, axis=0)) if found else None


def _sides(swept: Swept) -> list[float]:
    heads, tails = swept.mechanism.ends
    return [float(np.sign(tails[0, b, 1] or heads[0, b, 1])) for b in range(heads.shape[1])]


def _included(kind: str) -> Callable[[Swept], Measure | None]:
    def measured(swept: Swept) -> Measure | None:
        """Between the first of the left and the first of the right, as lines: 0 to 90 degrees."""
        sides = _sides(swept)
        both = [[b for b in _of_kind(swept, kind) if sides[b] == side] for side in (1.0, -1.0)]
        if not all(both):
            return None
        pair = [side[0] for side in both]
        span = (swept.mechanism.ends[1] - swept.mechanism.ends[0])[:, pair, :2]
        one, other = (np.degrees(np.arctan2(span[:, n, 1], span[:, n, 0])) for n in (0, 1))
        between = np.abs((one - other + 180.0) % 360.0 - 180.0)
        return _plain(np.minimum(between, 180.0 - between))

    return measured


def _ic_of_wheelbase(swept: Swept) -> Measure:
    ahead = swept.column("ic_x", swept.places.ride)[:, 0] * (1.0 if swept.design.axle.end == "rear" else -1.0)
    return _plain(ahead / swept.design.vehicle.wheelbase)


def _ic_of_cg(swept: Swept) -> Measure:
    return _plain(swept.column("ic_height", swept.places.ride)[:, 0] / swept.design.vehicle.cg_height)


def _side_force(swept: Swept) -> Measure | None:
    """The largest in any link or bar."""
    names, force = swept.side_load
    return _worst_of(names, np.where(_located(swept), force, np.nan)) if names else None


def _side_give(swept: Swept) -> Measure | None:
    """By the same forces: with ends of one stiffness, a side load does half its square over that stiffness in work for
    each unit of give, and the ends store half of each force's square over it (Castigliano)."""
    names, force = swept.side_load
    return _plain(np.where(_located(swept), (force**2).sum(0), np.nan)) if names else None


def _joint_angle(swept: Swept) -> Measure | None:
    """Of the joint that comes nearest to its limit, or farthest past it, over all poses."""
    if not swept.joint_names:
        return None
    limits = np.array([_limit(swept, name) for name in swept.joint_names])
    past, places = _worst_anywhere(swept, (swept.turned - limits[:, None, None]).transpose(1, 2, 0))
    joint, every = past.argmax(1), np.arange(len(past))
    value = np.where(_located(swept), past[every, joint] + limits[joint], np.nan)
    parts = tuple((name,) for name in swept.joint_names)
    return Measure(value, _filled(len(past), -1), joint, parts, limits[joint], at=places[every, joint])


def _limit(swept: Swept, joint: str) -> float:
    return float(joint_kind(swept.design, swept.joint_entries[joint]).limit)


def _swing(swept: Swept) -> Measure | None:
    """Between the ends of the straight travel that is reached."""
    at = swept.places.heave
    reached = swept.traced.reached[:, at]
    first, last = at[reached.argmax(1)], at[len(at) - 1 - reached[:, ::-1].argmax(1)]
    every = np.arange(len(reached))
    ends = np.stack([swept.traced.state[every, first], swept.traced.state[every, last]], axis=1)
    names, turned = swing(swept.mechanism, ends)
    return _worst_of(names, turned) if names else None


def _bind(swept: Swept) -> Measure:
    """Constraint using most of its allowed give, over all poses: what it is asked to give, mm."""
    rows, count = swept.mechanism.layout.rows, len(swept.mechanism.mounts)
    if swept.strained is None:
        return _plain(np.where(_located(swept), np.zeros(count), np.nan))
    give = gives(swept)
    least = np.maximum(give, _HARD_MM)
    part, places = _worst_anywhere(swept, np.abs(swept.strained.errors) / least[:, None])
    row, every = part.argmax(1), np.arange(count)
    most = part[every, row]
    asked = np.where(np.isneginf(most) | ~_located(swept), np.nan, most * least[every, row])
    parts = tuple((row.name,) for row in rows)
    return Measure(asked, _filled(count, -1), row, parts, give[every, row], at=places[every, row])


_HARD_MM = 0.1
"""What ends that give nothing are taken to give, beside others."""


def gives(swept: Swept) -> Floats:
    """(D, M) what each constraint may be asked to give, mm: its joints' bushings; at a radius arm's eye also what its
    axle bushes give by its leverage."""
    mechanism, design = swept.mechanism, swept.design
    bars = {bar.name: (b, bar) for b, bar in enumerate(mechanism.layout.bars)}
    found = np.empty((len(mechanism.mounts), len(mechanism.layout.rows)))
    for n, row in enumerate(mechanism.layout.rows):
        if row.name not in bars:  # a slider: its shoe, and what carries it
            found[:, n] = 2.0 * UNSAID.give
            continue
        b, bar = bars[row.name]
        if bar.rigid:
            apart = np.linalg.norm(mechanism.mounts[:, bar.axle.first] - mechanism.mounts[:, bar.axle.second], axis=-1)
            long = np.linalg.norm(mechanism.ends[0][:, b] - mechanism.ends[1][:, b], axis=-1)
            own = joint_kind(design, bar.frame.joint).give if bar.frame.joint else 0.0
            found[:, n] = 2.0 * ARM_BUSH_MM * long / apart + own
        else:
            found[:, n] = sum(joint_kind(design, end.joint).give for end in (bar.axle, bar.frame))
    return found


def _fight(swept: Swept) -> Measure | None:
    """Half of all that the constraints spend, sideways, on holding against each other: in a pose of least give their
    forces balance, so what one pushes to the left another pushes to the right. The two that push most, by the pose
    that was solved nearest to there."""
    rows, poses = swept.mechanism.layout.rows, swept.traced.poses
    if swept.strained is None:
        return None
    push = np.nan_to_num(swept.strained.errors * swept.strained.sideways)
    worst, places = _worst_anywhere(swept, 0.5 * np.abs(push).sum(-1)[..., None])
    off = np.abs(poses.travel_mm - places[:, 0, :1]) + np.abs(poses.articulation_deg - places[:, 0, 1:])
    near = push[np.arange(len(push)), np.where(swept.traced.reached, off, np.inf).argmin(1)]
    pair = near.argmax(1) * len(rows) + near.argmin(1)
    pairs = tuple((one.name, other.name) for one in rows for other in rows)
    value = np.where(_located(swept) & np.isfinite(worst[:, 0]), worst[:, 0], np.nan)
    return Measure(value, _filled(len(value), -1), pair, pairs, at=places[:, 0])


_OWN: dict[str, Callable[[Swept], Measure | None]] = {
    "anti_squat_fall": _anti_squat_fall,
    "lower_angle": _lower_angle,
    "separation_axle": _separation(0),
    "separation_frame": _separation(1),
    "panhard_slope": _panhard_slope,
    "length_ratio": _length_ratio,
    "plan_sum": _plan_sum,
    "plan_upper": _included("upper"),
    "plan_lower": _included("lower"),
    "ic_of_wheelbase": _ic_of_wheelbase,
    "ic_of_cg": _ic_of_cg,
    "side_force": _side_force,
    "side_give": _side_give,
    "fight": _fight,
    "joint_angle": _joint_angle,
    "swing": _swing,
    "bind": _bind,
}
