"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass, replace
from math import isfinite, isnan
from typing import Any, Literal

import numpy as np

from oak_lever.clear.zones import IN_MM, Left, left_zones
from oak_lever.cycle import Cycle, Sweep, cycle
from oak_lever.design.parts import parts_of, words_of
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, Severity, SweepName, Unit
from oak_lever.judge.house import UNSAID_WORDS
from oak_lever.judge.judged import ENDS, GOOD, NO_TRAVEL, SEVERITIES, TOGETHER, Judged, judge, judgment
from oak_lever.judge.places import NOWHERE, Place
from oak_lever.judge.running import Check, checks
from oak_lever.motion.freedom import free_directions, going_loose

Verdict = Literal["inside", "low", "high", "open"]
GRAVITY: tuple[Severity, ...] = SEVERITIES[::-1]


@dataclass(frozen=True)
class Finding:
    """One judgment. `value` in `unit` (None: beyond measure), `place` the pose where it is worst and the parts it is
    about; `low` and `high` the band, and `source` where the band comes from."""

    id: str
    severity: Severity
    figure: str
    value: float | None
    unit: Unit | None
    place: Place
    low: float | None
    high: float | None
    source: str
    verdict: Verdict
    title: str
    message: str
    disagrees: str
    guessed: str = ""
    """What was guessed that this verdict hangs on, in words."""

    def data(self) -> dict[str, Any]:
        """As plain values."""
        return asdict(self)


def findings(cycled: Cycle, judged: Judged | None = None) -> list[Finding]:
    """Every finding, the gravest first. The design's own bands replace the house's, one by one. `judged`: the cycle as
    `judge` has it, if it is at hand."""
    judged = judged or judge(cycled.swept)
    if not cycled.located:
        return [_loose(cycled)]
    if judged.grave().get(NO_TRAVEL):
        return [_no_travel(cycled)]
    found = [*_ends_short(cycled), *_together(cycled, judged)]
    found += left_findings(cycled.design)
    found += run_findings(cycled.design, checks(cycled))
    found += [_judged(judged, row) for row, value in enumerate(judged.value[:, 0]) if not isnan(value)]
    return sorted(found, key=lambda finding: GRAVITY.index(finding.severity))


def only_read(judged: Judged) -> dict[str, float | None]:
    """The figures that are measured and not judged, of the first design, by their ids; None for what does not exist."""
    return {
        name: _finite(float(measure.value[0]))
        for name, measure in judged.measured.items()
        if name not in judged.figures
    }


def _judged(judged: Judged, row: int) -> Finding:
    figure = BY_ID[judged.figures[row]]
    verdict = judgment(figure)
    value, low, high = (_finite(values[row, 0]) for values in (judged.value, judged.low, judged.high))
    side = int(judged.side[row, 0])
    said: Verdict = "low" if side < 0 else "high" if side > 0 else "open" if low is None and high is None else "inside"
    return Finding(
        figure.id, SEVERITIES[int(judged.severity[judged.ids.index(figure.id), 0])], figure.id, value, figure.unit,
        judged.measured[figure.id].place(judged.swept), low, high, judged.sources[row], said, figure.name,
        {"low": verdict.why_low, "high": verdict.why_high}.get(said, figure.meaning), verdict.disagrees,
        _guessed(judged, figure.id),
    )  # fmt: skip


def _finite(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def _guessed(judged: Judged, figure: str) -> str:
    """That a joint is not said, where the verdict is held against what that joint could do."""
    if figure not in ("joint_angle", "bind", "fight", "side_give"):
        return ""
    parts = [part for name in judged.measured[figure].place(judged.swept).parts for part in (name, *_both_ends(name))]
    entries = judged.swept.joint_entries
    unsaid = [name for name in parts if name in entries and entries[name] is None]
    return f"No one has said what kind of joints these are: {UNSAID_WORDS}." if unsaid else ""


def _both_ends(name: str) -> tuple[str, str]:
    return f"{name}.axle", f"{name}.frame"


def _stop(name: str, figure: str, title: str, message: str, **more: Any) -> Finding:
    nothing = {"value": None, "unit": None, "place": NOWHERE}
    rest = {"low": None, "high": None, "source": "", "verdict": "high", "disagrees": "Nobody."}
    return Finding(name, "stop", figure, title=title, message=message, **(nothing | rest | more))


def said(design: Design, name: str) -> str:
    """A body's name as words: "upper left link", "panhard bar", "left rod of the Watts link"."""
    return next((body.words for body in parts_of(design).bodies if body.id == name), words_of(name))


ZONE = "zone "
"""What the ids of findings on mounts outside their zones begin with; the mount's name follows."""


def left_findings(design: Design) -> Iterator[Finding]:
    """Mounts outside their zones; a mirror image that is as far outside its own is said with the first."""
    parts = parts_of(design)
    said: set[str] = set()
    every = list(left_zones(design))
    for left in every:
        spot, zone = left.spot, left.zone
        both = [one.spot.name for one in every if _mirrors(one, left)]
        if spot.name in said:
            continue
        said.update(both)
        body = next((body.words for body in parts.bodies if body.id == spot.part), words_of(spot.part))
        what = "in none of its holes" if zone.region.kind == "holes" else "not in its zone"
        title = f"{body[:1].upper()}{body[1:]}, {spot.words}{', and its mirror image' if both else ''}: {what}"
        yield Finding(
            f"{ZONE}{spot.name}", "fix", "zone", left.by, "mm", Place(0.0, 0.0, (spot.name, *both)), None, 0.0,
            f"zone: {zone.name or words_of(zone.id)}", "high", title,
            "There is nothing there to bolt or weld it to, by what was said of the places that there are.",
            "Nobody: move the mount, or the zone if there is room after all.",
        )  # fmt: skip


def _mirrors(one: Left, other: Left) -> bool:
    (x, y, z), (a, b, c) = one.spot.at, other.spot.at
    near = max(abs(x - a), abs(y + b), abs(z - c), abs(one.by - other.by)) < IN_MM
    return near and one.spot.name != other.spot.name and one.spot.kind == other.spot.kind


def run_findings(design: Design, every: Sequence[Check]) -> Iterator[Finding]:
    """What is judged of the parts that run with the axle; a part and its mirror image that fare alike are said once."""
    done: set[str] = set()
    for check in every:
        figure, verdict = check.figure, check.figure.verdict
        if verdict is None or check.id in done:
            continue
        alike = [one for one in every if one is not check and one.figure is figure and _fares_alike(one, check)]
        twin = next((one for one in alike if _sides(one.part, check.part)), None)
        done.update((check.id, *([twin.id] if twin else [])))
        side: Verdict = "low" if check.side < 0 else "high" if check.side > 0 else "inside"
        if check.low is None and check.high is None:
            side = "open"
        said = {"low": verdict.why_low, "high": verdict.why_high}.get(side, figure.meaning)
        parts = (*check.place.parts, *(twin.place.parts if twin else ()))
        yield Finding(
            check.id, SEVERITIES[check.grave], figure.id, check.value, figure.unit, replace(check.place, parts=parts),
            check.low, check.high, check.source, side, _run_title(design, check, twin is not None),
            " ".join(filter(None, (said, check.said))), verdict.disagrees, check.guessed,
        )  # fmt: skip


def grave_of_runs(design: Design, every: Sequence[Check]) -> dict[str, int]:
    """How grave each finding on what runs with the axle is, as it is listed; what is good is left out."""
    listed = ((one.id, SEVERITIES.index(one.severity)) for one in run_findings(design, every))
    return {name: grave for name, grave in listed if grave > GOOD}


@remembered(16)
def runs_of(design: Design) -> dict[str, int]:
    """How grave each finding on what runs with the axle is."""
    if not (design.corners or design.driveshaft or design.steering):
        return {}
    return grave_of_runs(design, checks(cycle(design)))


def _fares_alike(one: Check, other: Check) -> bool:
    if one.value is None or other.value is None:
        return one.value == other.value
    return one.grave == other.grave and abs(one.value - other.value) < 1e-3


def _sides(one: str, other: str) -> bool:
    """Whether two names are of one thing on both sides: "coilover-left" and "coilover-right"."""
    return one != other and one.replace("left", "right") == other.replace("left", "right")


def _run_title(design: Design, check: Check, both: bool) -> str:
    """ "Coilover left, and its mirror image: stroke left in bump"."""
    if check.figure.of in ("axle", "shaft", "steering", "bar"):
        return check.figure.name
    words = said(design, check.part)
    name = f"{words[:1].upper()}{words[1:]}{', and its mirror image' if both else ''}"
    return f"{name}: {check.figure.name[:1].lower()}{check.figure.name[1:]}"


def _loose(cycled: Cycle) -> Finding:
    ways = " and ".join(free_directions(cycled.swept.mechanism))
    return _stop("loose", "freedom", "Axle loose", f"Nothing holds the axle {ways}.", verdict="low")


def _no_travel(cycled: Cycle) -> Finding:
    way, link = going_loose(cycled.swept.mechanism, cycled.ride.state[0])
    return _stop(
        NO_TRAVEL, "travel", "No travel at all",
        f"The links go together at ride and in no other pose: the {said(cycled.design, link)} runs out of length at "
        f"once, and past it nothing would hold the axle {way}.",
        value=0.0, unit="mm", place=Place(0.0, 0.0, (link,)),
    )  # fmt: skip


def _ends_short(cycled: Cycle) -> Iterator[Finding]:
    sweeps: tuple[tuple[SweepName, Sweep, tuple[str, ...]], ...] = (
        ("heave", cycled.heave, ENDS[:2]),
        ("articulation", cycled.articulation, ENDS[2:]),
    )
    for name, sweep, ends in sweeps:
        for at, end in zip(cycled.stops[name], ends, strict=True):
            if at is not None:
                place = Place(at, 0.0) if name == "heave" else Place(0.0, at)
                yield _runs_out(
                    cycled, f"ends-short-{end.replace(' ', '-')}", f"Stops short of full {end}", place, sweep
                )  # fmt: skip


def _together(cycled: Cycle, judged: Judged) -> Iterator[Finding]:
    """Travel and articulation are each reached alone, and not together: where it comes the least far."""
    if not judged.grave().get(TOGETHER):
        return
    traced, poses = cycled.swept.traced, cycled.swept.traced.poses
    least: tuple[float, Place] | None = None
    for pose in cycled.swept.places.map.ravel():
        if not traced.reached[0, pose] and not isnan(traced.ended[0, pose]):
            start = poses.articulation_deg[poses.parent[pose]]
            at = float(start + traced.ended[0, pose] * (poses.articulation_deg[pose] - start))
            if least is None or abs(at) < least[0]:
                least = abs(at), Place(float(poses.travel_mm[pose]), at)
    if least is not None:
        yield _runs_out(cycled, TOGETHER, "Stops short of full travel and articulation together", least[1])


_HAIR = 1e-6
"""How much short of the end of the travel the last pose is taken, of the way there: past it there is none."""


def _runs_out(cycled: Cycle, name: str, title: str, place: Place, sweep: Sweep | None = None) -> Finding:
    """The stop where a travel ends at `place`: which link, and what would go free."""
    travel, articulation = place.travel or 0.0, place.articulation or 0.0
    way, link = going_loose(cycled.swept.mechanism, _last_pose(cycled, travel, articulation, sweep))
    straight = name != TOGETHER and articulation == 0.0 and "wheel" not in name
    return _stop(
        name, "travel" if straight else "articulation", title,
        f"The {said(cycled.design, link)} runs out of length or goes over center there, and past it nothing would hold "
        f"the axle {way}.",
        value=travel if straight else articulation, unit="mm" if straight else "deg",
        place=Place(travel, articulation, (link,)),
    )  # fmt: skip


def _last_pose(cycled: Cycle, travel: float, articulation: float, sweep: Sweep | None) -> Any:
    """The axle's pose a hair short of the end of its travel; or the sweep's last one, should that not be reached."""
    short = 1.0 - _HAIR
    straight = articulation == 0.0
    here = cycle(cycled.design, 2, (travel * short if straight else travel, articulation * short)).here
    if here is not None and here.reached[0]:
        return here.state[0]
    reached = np.flatnonzero(sweep.reached).tolist() if sweep is not None else []
    last = 0 if travel + articulation < 0 else -1
    return sweep.state[reached[last]] if sweep is not None and len(reached) else cycled.ride.state[0]
