"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from dataclasses import asdict, dataclass, replace
from math import isfinite
from typing import Any, Literal

from oak_lever.cycle import Cycle
from oak_lever.design.parts import said
from oak_lever.design.types import Design
from oak_lever.figures.register import Severity, Unit
from oak_lever.judge.check import SEVERITIES, Check, Fact
from oak_lever.judge.judged import LOOSE, NO_TRAVEL, Judged, judgment
from oak_lever.judge.places import Place
from oak_lever.judge.verdicts import Verdicts, verdicts_on

Verdict = Literal["inside", "low", "high", "open"]
GRAVEST_FIRST: tuple[Severity, ...] = SEVERITIES[::-1]


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
    guessed: str
    """What was guessed that this verdict hangs on, in words."""
    parts: tuple[str, ...]
    """The part that the figure is of, and its mirror image where that fares alike; none of the design as a whole."""
    facts: tuple[Fact, ...]
    """What else can be told of it in figures."""

    def data(self) -> dict[str, Any]:
        """As plain values."""
        return asdict(self)


def findings(cycled: Cycle, judged: Judged | None = None) -> list[Finding]:
    """Every finding but those on gaps, loads and room for bolts, the gravest first. The design's own bands replace
    the house's, one by one. `judged`: the cycle as `judge` has it, if it is at hand."""
    return found_by(Verdicts(cycled, judged))


def findings_on(design: Design) -> list[Finding]:
    """Every finding on a design, and with them what comes too near to what and what carries too much, the gravest
    first."""
    verdicts = verdicts_on(design)
    return _sorted([*found_by(verdicts), *findings_apart(design)])


def findings_apart(design: Design) -> list[Finding]:
    """What comes nearer to each other than is wanted, or meets, and what carries more than is wanted of it, the gravest
    first: it takes longer than all other findings."""
    return _sorted([_finding(design, *one) for one in verdicts_on(design).apart])


def found_by(verdicts: Verdicts) -> list[Finding]:
    """Every finding of a judged design but those on gaps and loads, the gravest first: of one that nothing holds, or
    that has no travel, that alone."""
    alone = [one for one in verdicts.listed if one[0].figure.id in (LOOSE, NO_TRAVEL)]
    return _sorted([_finding(verdicts.design, *one) for one in alone or verdicts.listed])


def _sorted(found: list[Finding]) -> list[Finding]:
    return sorted(found, key=lambda finding: GRAVEST_FIRST.index(finding.severity))


def _finding(design: Design, check: Check, twin: Check | None) -> Finding:
    figure, verdict = check.figure, judgment(check.figure)
    open_ = check.low is None and check.high is None and figure.how is not None
    which: Verdict = "open" if open_ else "low" if check.side < 0 else "high" if check.side > 0 else "inside"
    words = check.told or {"low": verdict.why_low, "high": verdict.why_high}.get(which) or figure.meaning
    place = replace(check.place, parts=(*check.place.parts, *(twin.place.parts if twin else ())))
    return Finding(
        check.id, SEVERITIES[check.grave], figure.id, check.value,
        None if figure.how is None and check.value is None else figure.unit, place, check.low, check.high,
        check.source, which, title_of(design, check, twin is not None),
        " ".join(filter(None, (words, check.said))), verdict.disagrees, check.guessed,
        tuple(one.part for one in (check, twin) if one and one.part), check.facts,
    )  # fmt: skip


def title_of(design: Design, check: Check, both: bool) -> str:
    """ "Coilover left, and its mirror image: stroke left in bump"; of the design or of its one part of a kind, the
    figure's name alone."""
    if check.title or check.figure.of not in ("shock", "stop", "strap"):
        return check.title or check.figure.name
    words = said(design, check.part)
    name = f"{words[:1].upper()}{words[1:]}{', and its mirror image' if both else ''}"
    return f"{name}: {check.figure.name[:1].lower()}{check.figure.name[1:]}"


def only_read(judged: Judged) -> dict[str, float | None]:
    """The figures that are measured and not judged, of the first design, by their ids; None for what does not exist."""
    return {
        name: float(measure.value[0]) if isfinite(measure.value[0]) else None
        for name, measure in judged.measured.items()
        if name not in judged.figures
    }
