"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import dist
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Cycle, Sweep, cycle
from oak_lever.design.types import Design, RadiusArm
from oak_lever.judge.house import (
    ARM_BUSH_MM,
    DEFAULT_SCHOOL,
    DEFAULT_USE,
    FIGURES,
    JOINT_LIMIT_DEG,
    MOST_GIVE_MM,
    SCHOOLS,
    USES,
    Figure,
    Limits,
    Severity,
    Unit,
)  # fmt: skip
from oak_lever.judge.measures import Measure, SweepName, measures
from oak_lever.motion.freedom import free_directions, gives_most, going_loose, is_held
from oak_lever.motion.mechanism import mechanism_of

Bands = Mapping[str, Limits]
Verdict = Literal["inside", "low", "high", "open"]
GRAVITY: tuple[Severity, ...] = ("stop", "fix", "consider", "good")


@dataclass(frozen=True)
class Finding:
    """One judgment. `value` in `unit` (None: beyond measure), `worst_at` the travel (mm) or articulation (deg) along
    `sweep`; `place` names the bars (`lower-left`) or mounts (`lower-left.axle`) it is about; `low` and `high` the band,
    and `source` where the band comes from."""

    id: str
    severity: Severity
    figure: str
    value: float | None
    unit: Unit | None
    sweep: SweepName | None
    worst_at: float | None
    place: tuple[str, ...]
    low: float | None
    high: float | None
    source: str
    verdict: Verdict
    title: str
    message: str
    remedy: str
    disagrees: str

    def data(self) -> dict[str, Any]:
        return dict(vars(self))


def findings(cycled: Cycle, bands: Bands | None = None) -> list[Finding]:
    """Every finding, the gravest first. `bands` replace the house's and the design's own, one by one."""
    taken = measures(cycled)
    found = [*_loose(cycled), *_ends_short(cycled), *_located_twice(cycled, taken)]
    found += [_judged(cycled.design, figure, taken, bands or {}) for figure in FIGURES if figure.id in taken]
    return sorted(found, key=lambda finding: GRAVITY.index(finding.severity))


def compared(before: Mapping[str, Finding], after: Mapping[str, Finding]) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Ids of the findings that a change makes less grave, and of those it makes graver; one not there is good."""

    def grave(found: Mapping[str, Finding], name: str) -> int:
        return -GRAVITY.index(found[name].severity if name in found else "good")

    names = sorted({*before, *after})
    better = tuple(name for name in names if grave(after, name) < grave(before, name))
    return better, tuple(name for name in names if grave(after, name) > grave(before, name))


def band_of(design: Design, figure: Figure, bands: Bands, taken: Mapping[str, Measure]) -> tuple[Limits, str]:
    """The band a figure is held against, and where it comes from."""
    for given, source in ((bands, "set for this build"), (design.bands or {}, "set in this design")):
        if figure.id in given:
            return given[figure.id], source
    use, school = design.use or DEFAULT_USE, SCHOOLS[design.school or DEFAULT_SCHOOL]
    if figure.id in school.bands:
        limits, source = school.bands[figure.id], f"school: {school.name.lower()}"
    else:
        limits, source = figure.bands[use], f"house value for {USES[use].lower()}"
    unit = _scale(design, figure, taken)
    low, high = (None if end is None else end * unit for end in limits)
    return (low, high), source


def _scale(design: Design, figure: Figure, taken: Mapping[str, Measure]) -> float:
    if figure.scale == "tire_radius":
        return design.axle.tire_radius_loaded
    if figure.scale == "tire_diameter":
        return design.axle.tire_diameter
    return taken["separation_axle"].value if figure.scale == "axle_separation" else 1.0


_ROUNDING = 1e-6
"""A figure that stands on its band's edge but for rounding is inside."""


def _verdict(value: float, band: Limits) -> Verdict:
    low, high = band
    if low is None and high is None:
        return "open"
    if low is not None and value < low - _ROUNDING:
        return "low"
    return "high" if high is not None and value > high + _ROUNDING else "inside"


def _judged(design: Design, figure: Figure, taken: Mapping[str, Measure], bands: Bands) -> Finding:
    measure = taken[figure.id]
    band, source = band_of(design, figure, bands, taken)
    verdict = _verdict(measure.value, band)
    severity: Severity = "good" if verdict in ("inside", "open") else _severity(design, figure, measure)
    message = {"low": figure.why_low, "high": figure.why_high}.get(verdict, figure.meaning)
    return Finding(
        figure.id, severity, figure.id, measure.value if np.isfinite(measure.value) else None, figure.unit,
        measure.sweep, measure.worst_at, measure.place, *band, source, verdict, figure.name, message,
        "" if severity == "good" else _remedy(figure.id, measure, verdict), figure.disagrees,
    )  # fmt: skip


def _severity(design: Design, figure: Figure, measure: Measure) -> Severity:
    if figure.id == "joint_angle" and measure.value > JOINT_LIMIT_DEG:
        return "stop"
    if figure.id in ("pinion_change", "caster_change") and _arms(design):
        return "consider"  # an arm turns the housing by the travel over its length, whatever is moved: it is the layout
    return "stop" if figure.id == "bind" and measure.value > _most_give(design) else figure.severity


def _arms(design: Design) -> list[RadiusArm]:
    return [link for link in design.links if isinstance(link, RadiusArm)]


def _most_give(design: Design) -> float:
    """What bushed ends may be asked for, mm; at a radius arm's eye, what its axle bushes give by the arm's leverage."""
    levers = [
        2.0 * ARM_BUSH_MM * dist(middle, arm.frame.at) / dist(*arm.axle.at)
        for arm in _arms(design)
        for middle in [tuple((a + b) / 2 for a, b in zip(*arm.axle.at, strict=True))]
    ]
    return min(levers, default=MOST_GIVE_MM)


_REMEDIES: dict[str, tuple[str, str]] = {
    "anti_squat": (
        "Slope the lowers up toward the frame, or the uppers down.",
        "Lower the lowers' frame mounts, or raise the uppers'.",
    ),
    "anti_squat_fall": ("Longer uppers, or less convergence.", "Longer links."),
    "ic_length": ("Bring the links nearer to parallel.", "Let the links converge sooner."),
    "roll_center": ("Raise what locates the axle sideways.", "Lower what locates the axle sideways."),
    "roll_axis": (
        "Raise the frame end of the lowers' apex, or lower the uppers'.",
        "Level the links that locate it sideways.",
    ),
    "rear_steer": ("", "Bring the roll axis nearer to level."),
    "pinion_change": ("", "Bring uppers and lowers nearer to parallel in the side view."),
    "caster_change": ("", "Bring uppers and lowers nearer to parallel in the side view."),
    "lower_angle": ("", "Lower the frame mounts or raise the axle mounts of the lowers."),
    "lateral_drift": ("", "A longer panhard bar, level at ride or at mid travel."),
    "separation_axle": ("Raise the upper mounts on the axle, or lower the lower ones.", ""),
    "separation_frame": ("Spread the frame mounts in height.", "Bring the frame mounts closer in height."),
    "side_force": ("", "Spread the links: wider at one end, closer at the other."),
    "joint_angle": ("", "Turn that mount's bolt square to its link at mid travel, or fit a joint that turns farther."),
    "swing": ("", "Longer links, or less travel."),
    "bind": ("", "Bushed ends with that much give, or a layout that does not need it."),
}  # fmt: skip


def _remedy(name: str, measure: Measure, verdict: Verdict) -> str:
    return _REMEDIES[name][0 if verdict == "low" else 1]


def _stop(name: str, figure: str, title: str, message: str, remedy: str, **more: Any) -> Finding:
    nothing = {"value": None, "unit": None, "sweep": None, "worst_at": None, "place": ()}
    rest = {"low": None, "high": None, "source": "", "verdict": "high", "disagrees": "Nobody."}
    return Finding(name, "stop", figure, title=title, message=message, remedy=remedy, **(nothing | rest | more))


def said(name: str) -> str:
    """A constraint's id as words: "upper left link", "panhard bar", "left rod of the Watts link"."""
    words = name.replace("-", " ").replace("_", " ").strip()
    if name in ("watts-left", "watts-right"):
        return f"{words.split()[1]} rod of the Watts link"
    return {"panhard": "panhard bar", "slider": "slider"}.get(name, words if "link" in words else f"{words} link")


def _loose(cycled: Cycle) -> Iterator[Finding]:
    if cycled.located:
        return
    ways = " and ".join(free_directions(mechanism_of(cycled.design)))
    yield _stop(
        "loose", "freedom", "Axle loose", f"Nothing holds the axle {ways}.",
        "Add a locator that way, or move mounts so that the links converge.", verdict="low",
    )  # fmt: skip


def _ends_short(cycled: Cycle) -> Iterator[Finding]:
    if not cycled.located:
        return
    sweeps: tuple[tuple[SweepName, Sweep, tuple[str, str]], ...] = (
        ("heave", cycled.heave, ("droop", "bump")),
        ("articulation", cycled.articulation, ("right wheel up", "left wheel up")),
    )
    for name, sweep, ends in sweeps:
        for at, end in zip(cycled.stops[name], ends, strict=True):
            if at is not None:
                way, link = going_loose(mechanism_of(cycled.design), _last_pose(cycled, sweep, name, at))
                yield _stop(
                    f"ends-short-{end.replace(' ', '-')}", "travel" if name == "heave" else "articulation",
                    f"Stops short of full {end}",
                    f"The {said(link)} runs out of length or goes over center there, and past it nothing would hold "
                    f"the axle {way}.",
                    f"Lengthen the {said(link)}, or set its mounts so that it lies flatter through the travel.",
                    value=at, unit="mm" if name == "heave" else "deg", sweep=name, worst_at=at, place=(link,),
                )  # fmt: skip


def _last_pose(cycled: Cycle, sweep: Sweep, name: SweepName, at: float) -> Any:
    """The axle's pose a hair short of the end of its travel; or the sweep's last one, should that not be reached."""
    short = at * (1.0 - 1e-6)
    here = cycle(cycled.design, 2, (short, 0.0) if name == "heave" else (0.0, short)).here
    if here is not None and here.reached[0]:
        return here.state[0]
    reached = np.flatnonzero(sweep.reached)
    return sweep.state[reached[0 if at < 0 else -1]] if len(reached) else cycled.ride.state[0]


def _located_twice(cycled: Cycle, taken: Mapping[str, Measure]) -> Iterator[Finding]:
    """Links that hold the axle by themselves, and a locator that holds it again: it must follow both."""
    design = cycled.design
    if design.lateral is None or not taken or not is_held(mechanism_of(design.rewritten(lateral=None))):
        return
    worst = taken["bind"]
    sweep = cycled.heave if worst.sweep == "heave" else cycled.articulation
    row = int(np.nanargmax(sweep.columns["bind"]))
    most = gives_most(mechanism_of(design), sweep.state[row])
    yield _stop(
        "located-twice", "bind", "Located sideways twice",
        f"The links hold the axle sideways by themselves and the {said(design.lateral.kind)} holds it again: two "
        f"paths, one axle. Most of the give is asked of the {said(most)}.",
        "Leave out one of the two.",
        value=worst.value, unit="mm", sweep=worst.sweep, worst_at=worst.worst_at, place=(most,),
    )  # fmt: skip
