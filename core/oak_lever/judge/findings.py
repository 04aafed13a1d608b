"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from collections.abc import Iterator
from dataclasses import asdict, dataclass
from math import isfinite, isnan
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Cycle, Sweep, cycle
from oak_lever.design.parts import parts_of, words_of
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, Severity, SweepName, Unit
from oak_lever.judge.judged import ENDS, SEVERITIES, Judged, judge, judgment
from oak_lever.judge.places import NOWHERE, Place
from oak_lever.motion.freedom import free_directions, gives_most, going_loose

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
    remedy: str
    disagrees: str

    def data(self) -> dict[str, Any]:
        """As plain values."""
        return asdict(self)


def findings(cycled: Cycle) -> list[Finding]:
    """Every finding, the gravest first. The design's own bands replace the house's, one by one."""
    judged = judge(cycled.swept)
    if not cycled.located:
        return [_loose(cycled)]
    found = [*_ends_short(cycled), *_located_twice(cycled, judged)]
    found += [_judged(judged, row) for row, value in enumerate(judged.value[:, 0]) if not isnan(value)]
    return sorted(found, key=lambda finding: GRAVITY.index(finding.severity))


def _judged(judged: Judged, row: int) -> Finding:
    figure = BY_ID[judged.figures[row]]
    verdict = judgment(figure)
    value, low, high = (_finite(values[row, 0]) for values in (judged.value, judged.low, judged.high))
    side = int(judged.side[row, 0])
    said: Verdict = "low" if side < 0 else "high" if side > 0 else "open" if low is None and high is None else "inside"
    return Finding(
        figure.id, SEVERITIES[int(judged.severity[judged.ids.index(figure.id), 0])], figure.id, value, figure.unit,
        judged.measured[figure.id].place(judged.swept), low, high, judged.sources[row], said, figure.name,
        {"low": verdict.why_low, "high": verdict.why_high}.get(said, figure.meaning),
        {"low": verdict.remedy_low, "high": verdict.remedy_high}.get(said, ""), verdict.disagrees,
    )  # fmt: skip


def _finite(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def _stop(name: str, figure: str, title: str, message: str, remedy: str, **more: Any) -> Finding:
    nothing = {"value": None, "unit": None, "place": NOWHERE}
    rest = {"low": None, "high": None, "source": "", "verdict": "high", "disagrees": "Nobody."}
    return Finding(name, "stop", figure, title=title, message=message, remedy=remedy, **(nothing | rest | more))


def said(design: Design, name: str) -> str:
    """A body's name as words: "upper left link", "panhard bar", "left rod of the Watts link"."""
    return next((body.words for body in parts_of(design).bodies if body.id == name), words_of(name))


def _loose(cycled: Cycle) -> Finding:
    ways = " and ".join(free_directions(cycled.swept.mechanism))
    return _stop(
        "loose", "freedom", "Axle loose", f"Nothing holds the axle {ways}.",
        "Add a locator that way, or move mounts so that the links converge.", verdict="low",
    )  # fmt: skip


def _ends_short(cycled: Cycle) -> Iterator[Finding]:
    sweeps: tuple[tuple[SweepName, Sweep, tuple[str, ...]], ...] = (
        ("heave", cycled.heave, ENDS[:2]),
        ("articulation", cycled.articulation, ENDS[2:]),
    )
    for name, sweep, ends in sweeps:
        for at, end in zip(cycled.stops[name], ends, strict=True):
            if at is not None:
                way, link = going_loose(cycled.swept.mechanism, _last_pose(cycled, sweep, name, at))
                words = said(cycled.design, link)
                place = Place(at, 0.0, (link,)) if name == "heave" else Place(0.0, at, (link,))
                yield _stop(
                    f"ends-short-{end.replace(' ', '-')}", "travel" if name == "heave" else "articulation",
                    f"Stops short of full {end}",
                    f"The {words} runs out of length or goes over center there, and past it nothing would hold the "
                    f"axle {way}.",
                    f"Lengthen the {words}, or set its mounts so that it lies flatter through the travel.",
                    value=at, unit="mm" if name == "heave" else "deg", place=place,
                )  # fmt: skip


_HAIR = 1e-6
"""How much short of the end of the travel the last pose is taken, of the way there: past it there is none."""


def _last_pose(cycled: Cycle, sweep: Sweep, name: SweepName, at: float) -> Any:
    """The axle's pose a hair short of the end of its travel; or the sweep's last one, should that not be reached."""
    short = at * (1.0 - _HAIR)
    here = cycle(cycled.design, 2, (short, 0.0) if name == "heave" else (0.0, short)).here
    if here is not None and here.reached[0]:
        return here.state[0]
    reached = np.flatnonzero(sweep.reached)
    return sweep.state[reached[0 if at < 0 else -1]] if len(reached) else cycled.ride.state[0]


def _located_twice(cycled: Cycle, judged: Judged) -> Iterator[Finding]:
    lateral = cycled.design.lateral
    if lateral is None or not judged.grave().get("located-twice"):
        return
    worst, swept = judged.measured["bind"], judged.swept
    most = gives_most(swept.mechanism, swept.traced.state[0, worst.pose[0]])
    place = worst.place(swept)
    yield _stop(
        "located-twice", "bind", "Located sideways twice",
        f"The links hold the axle sideways by themselves and the {_LOCATORS[lateral.kind]} holds it again: two paths, "
        f"one axle. Most of the give is asked of the {said(cycled.design, most)}.",
        "Leave out one of the two.",
        value=float(worst.value[0]), unit="mm", place=Place(place.travel, place.articulation, (most,)),
    )  # fmt: skip


_LOCATORS = {"panhard": "panhard bar", "watts": "Watts link", "slider": "slider"}
