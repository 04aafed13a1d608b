"""The registered figures, measured off swept designs, all at once: each with the pose and the parts where it is so."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever.cycle import Swept
from oak_lever.design.links import Link
from oak_lever.figures.joints import swing
from oak_lever.figures.links import link_angles, separations
from oak_lever.figures.register import FIGURES, At, Figure, Range
from oak_lever.figures.rows import RATED
from oak_lever.figures.statics import side_load
from oak_lever.judge.places import Place
from oak_lever.motion.mechanism import Floats, Ints


@dataclass(frozen=True)
class Measure:
    """A figure of D designs: `value` (D,), NaN where it does not exist, infinite where it is beyond measure; `pose`
    (D,) the pose where it is worst (-1: no matter of a pose), `part` (D,) which of `parts` it is about (-1: none)."""

    value: Floats
    pose: Ints
    part: Ints
    parts: tuple[tuple[str, ...], ...] = ()

    def place(self, swept: Swept, design: int = 0) -> Place:
        """Where it is so in one of the designs."""
        pose, part = int(self.pose[design]), int(self.part[design])
        poses = swept.traced.poses
        parts = self.parts[part] if part >= 0 else ()
        if pose < 0:
            return Place(parts=parts)
        return Place(float(poses.travel_mm[pose]), float(poses.articulation_deg[pose]), parts)


Measures = dict[str, Measure]


def measures(swept: Swept) -> Measures:
    """Every registered figure that designs of this layout have, by its id. All NaN for a design that is loose."""
    end = swept.design.axle.end
    found = {figure.id: _measured(figure, swept) for figure in FIGURES if figure.end in (None, end)}
    return {name: measure for name, measure in found.items() if measure is not None}


def _measured(figure: Figure, swept: Swept) -> Measure | None:
    if isinstance(figure.how, At):
        return _at_ride(RATED if figure.how.rated else figure.how.column, swept)
    if isinstance(figure.how, Range):
        return _range(figure.how, swept)
    return _OWN[figure.how.name](swept)


def _plain(value: Floats, pose: Ints | int = -1, parts: tuple[str, ...] = ()) -> Measure:
    count = len(value)
    poses = np.full(count, pose) if isinstance(pose, int) else pose
    return Measure(value, poses, np.full(count, 0 if parts else -1), (parts,) if parts else ())


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
    """Highest less lowest; worst where it is farthest from ride."""
    at = swept.places.heave if how.sweep == "heave" else swept.places.articulation
    values = swept.column(how.column, at)
    known = ~np.isnan(values)
    high, low = (np.where(known, values, fill) for fill in (-np.inf, np.inf))
    spread = np.where(known.any(1), high.max(1) - low.min(1), np.nan)
    farthest = np.where(known, np.abs(values), -1.0).argmax(1)
    return _plain(spread, at[farthest])


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


def _side_force(swept: Swept) -> Measure | None:
    """Where the links' angles alone hold the axle sideways."""
    design = swept.design
    if design.lateral is not None or not all(isinstance(link, Link) for link in design.links) or not design.links:
        return None
    names, force = side_load(swept.mechanism)
    return _worst_of(names, np.where(_located(swept), force, np.nan))


def _joint_angle(swept: Swept) -> Measure | None:
    """The largest of any joint over all poses, the corners included."""
    places = swept.places
    at = np.concatenate([places.heave, places.articulation, places.corners])
    if not swept.joint_names:
        return None
    turned = np.where(swept.traced.reached[:, at], swept.turned[:, :, at], -1.0)
    flat = turned.transpose(1, 0, 2).reshape(turned.shape[1], -1)
    joint, pose = np.divmod(flat.argmax(1), len(at))
    value = np.where(_located(swept), flat.max(1), np.nan)
    return Measure(value, at[pose], joint, tuple((name,) for name in swept.joint_names))


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
    """The most over both sweeps."""
    at = np.concatenate([swept.places.heave, swept.places.articulation])
    values = swept.column("bind", at)
    worst = np.where(np.isnan(values), -1.0, values).argmax(1)
    return _plain(values[np.arange(len(values)), worst], at[worst])


_OWN: dict[str, Callable[[Swept], Measure | None]] = {
    "anti_squat_fall": _anti_squat_fall,
    "lower_angle": _lower_angle,
    "separation_axle": _separation(0),
    "separation_frame": _separation(1),
    "side_force": _side_force,
    "joint_angle": _joint_angle,
    "swing": _swing,
    "bind": _bind,
}
