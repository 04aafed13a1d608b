"""What the axle does with mounts as built and bars as made, beside what was designed."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.design.fit import FitLog, Long
from oak_lever.design.links import Mount, RadiusArm, Watts
from oak_lever.design.loads import per_turn
from oak_lever.design.types import Design
from oak_lever.figures.rows import ROW_OF, setting_of, table
from oak_lever.fit_up.as_built import SURE_MM, AsBuilt, Suspect, as_built
from oak_lever.fit_up.readings import bar_names, in_mm
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import RIDE, Traced, trace
from oak_lever.weigh_up.kept import kept_poses
from oak_lever.weigh_up.racks import plain

FIGURES = (
    "pinion_change", "axle_x", "axle_y", "yaw", "anti_squat", "anti_dive", "ic_length", "roll_center_height",
    "roll_axis_angle",
)  # fmt: skip
Figures = dict[str, float | None]


@dataclass(frozen=True)
class Built:
    """A mount as built: where it is at ride and how sure of that, mm; how far that is from the design; whether anything
    was read that says so."""

    at: tuple[float, ...]
    sigma: tuple[float, ...]
    off: tuple[float, ...]
    measured: bool


@dataclass(frozen=True)
class BarLength:
    """A bar's length, mm: designed, as made, and needed between the mounts as built with the axle at ride as drawn;
    `turns` of its adjusters from made to needed, + longer; None where no turn is known to change it."""

    designed: float
    made: float
    needed: float
    turns: float | None


@dataclass(frozen=True)
class Fitted:
    """`as_made`: the axle's place and figures with mounts as built and bars as made; None where it cannot be followed
    there, or is loose. `designed`: the same of the design."""

    design: str
    mounts: dict[str, Built]
    suspect: tuple[Suspect, ...]
    lengths: dict[str, BarLength]
    as_made: Figures | None
    designed: Figures | None

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "format": "oak-lever-fit-figures", "version": 1, "design": self.design,
            "mounts": {
                name: {"at": list(one.at), "sigma": list(one.sigma), "off": list(one.off), "measured": one.measured}
                for name, one in self.mounts.items()
            },
            "suspect": [{"reading": one.reading, "off": one.off} for one in self.suspect],
            "lengths": {name: vars(one) for name, one in self.lengths.items()},
            "as_made": self.as_made, "designed": self.designed,
        }  # fmt: skip


def fitted(design: Design, log: FitLog) -> Fitted:
    """The log's readings worked out."""
    built = as_built(design, log)
    lengths = _lengths(design, log, built.at)
    ride = trace(mechanism_of(design), RIDE)
    held = bool(ride.reached[0, 0])
    as_made = _as_made(design, built.at, lengths) if held else None
    designed = _figures(design, ride) if held else None
    return Fitted(design.name, _mounts(design, built), built.suspect, lengths, as_made, designed)


def _mounts(design: Design, built: AsBuilt) -> dict[str, Built]:
    designed = mechanism_of(design).mounts[0]
    found = {}
    for k, name in enumerate(built.names):
        own = built.covariance[3 * k : 3 * k + 3, 3 * k : 3 * k + 3]
        least = float(np.linalg.eigvalsh(own)[0])
        found[name] = Built(
            tuple(built.at[k].tolist()), tuple(np.sqrt(np.diag(own)).tolist()),
            tuple((built.at[k] - designed[k]).tolist()), least < SURE_MM**2,
        )  # fmt: skip
    return found


def _lengths(design: Design, log: FitLog, at: Floats) -> dict[str, BarLength]:
    mechanism = mechanism_of(design)
    spans: dict[str, list[float]] = {}
    for one in (mechanism, mechanism.with_mounts(at[None])):
        heads, tails = one.ends
        for b, bar in enumerate(one.layout.bars):
            spans.setdefault(bar.name, []).append(float(np.linalg.norm(heads[0, b] - tails[0, b])))
    found = {}
    for name in bar_names(design):
        read = [in_mm(r)[0] for r in log.readings if isinstance(r, Long) and r.of == name and not r.left_out]
        designed, needed = spans[name]
        made = sum(read) / len(read) if read else designed
        turn = per_turn(design.joints, joints_of(design, name))
        found[name] = BarLength(designed, made, needed, (needed - made) / turn if turn else None)
    return found


def joints_of(design: Design, name: str) -> list[str | None]:
    """The entries of the joint catalog at a bar's two ends."""
    return [mount.joint for mount in _mounts_of(design, name)]


def _mounts_of(design: Design, name: str) -> tuple[Mount, Mount]:
    """A bar's two ends; a Watts rod's crank end is made as its other end."""
    for link in design.links:
        if link.id == name and not isinstance(link, RadiusArm):
            return link.axle, link.frame
    lateral = design.lateral
    if isinstance(lateral, Watts):
        mount = lateral.left if name == "watts-left" else lateral.right
        return mount, mount
    assert lateral is not None
    assert lateral.kind == "panhard"
    return lateral.axle, lateral.frame


def _as_made(design: Design, at: Floats, lengths: dict[str, BarLength]) -> Figures | None:
    """Followed from the axle at ride as drawn, bars at needed lengths."""
    mechanism = mechanism_of(design)
    start = mechanism.with_mounts(at[None])
    more = np.array([
        lengths[row.name].made - lengths[row.name].needed if row.name in lengths else 0.0
        for row in mechanism.layout.rows
    ])  # fmt: skip
    traced = kept_poses(start, at[None], more[None], mechanism.mounts)
    return _figures(design, traced) if traced.reached[0, 0] else None


def _figures(design: Design, traced: Traced) -> Figures:
    found = table(traced, setting_of(design))
    return {name: plain(found[ROW_OF[name], 0, 0]) for name in FIGURES}
