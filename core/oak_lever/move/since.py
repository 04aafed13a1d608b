"""What became of all that is judged of a design when the truck under it changed."""

from dataclasses import dataclass

from oak_lever.design.types import Design
from oak_lever.figures.register import Severity, Unit
from oak_lever.judge.check import SEVERITIES, Check
from oak_lever.judge.findings import title_of
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.move.search import MET


@dataclass(frozen=True)
class Moved:
    """Something judged, before and after, by its finding's id and title: its value in the unit, None where it has none,
    does not exist or is beyond measure; and how grave it was and is, good where it is not there."""

    figure: str
    name: str
    unit: Unit | None
    before: float | None
    after: float | None
    was: Severity
    severity: Severity


def since(before: Design, after: Design) -> list[Moved]:
    """Everything judged that is not what it was, or is not judged as it was, rules that bind too; the gravest first."""
    old, new = verdicts_on(before), verdicts_on(after)
    titles = {
        check.id: title_of(all_of.design, check, twin is not None)
        for all_of in (old, new) for check, twin in all_of.listed
    }  # fmt: skip
    found = []
    for name, title in titles.items():
        was, now = old.by_id.get(name), new.by_id.get(name)
        unit = next(check.figure.unit for check in (now, was) if check)
        one = Moved(name, title, unit, _value(was), _value(now), _grave(was), _grave(now))
        if not _same(one.before, one.after) or one.was != one.severity:
            found.append(one)
    return sorted(found, key=lambda one: -SEVERITIES.index(one.severity))


def _value(check: Check | None) -> float | None:
    return None if check is None else check.value


def _grave(check: Check | None) -> Severity:
    return SEVERITIES[0 if check is None else check.grave]


def _same(one: float | None, other: float | None) -> bool:
    return one == other or (one is not None and other is not None and abs(one - other) <= MET)
