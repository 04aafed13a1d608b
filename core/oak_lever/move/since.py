"""What became of a design's figures when the truck under it changed."""

from dataclasses import dataclass

from oak_lever.cycle import cycle
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, Severity, Unit
from oak_lever.judge.check import SEVERITIES
from oak_lever.judge.judged import Judged, judge
from oak_lever.move.search import MET


@dataclass(frozen=True)
class Moved:
    """A judged figure before and after, None where it does not exist or is beyond measure, and how grave it is now."""

    figure: str
    name: str
    unit: Unit
    before: float | None
    after: float | None
    was: Severity
    severity: Severity


def since(before: Design, after: Design) -> list[Moved]:
    """Every judged figure that is not what it was, or is not judged as it was; the gravest first."""
    old, new = (judge(cycle(design).swept) for design in (before, after))
    was, now = old.values(), new.values()
    found = [
        Moved(name, BY_ID[name].name, BY_ID[name].unit, was.get(name), now[name], _grave(old, name), _grave(new, name))
        for name in now
    ]
    changed = [one for one in found if not _same(one.before, one.after) or one.was != one.severity]
    return sorted(changed, key=lambda one: -SEVERITIES.index(one.severity))


def _grave(judged: Judged, name: str) -> Severity:
    return SEVERITIES[judged.grave().get(name, 0)]


def _same(one: float | None, other: float | None) -> bool:
    return one == other or (one is not None and other is not None and abs(one - other) <= MET)
