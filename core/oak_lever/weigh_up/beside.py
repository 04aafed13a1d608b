"""Up to six designs of one axle side by side: every judged figure a row, what each has wrong that the others have not,
and what differs in mounts and parts."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.replaced import replaced
from oak_lever.design.types import Design
from oak_lever.figures.register import Severity, Unit
from oak_lever.figures.register.kinds import Area
from oak_lever.judge.check import SEVERITIES, Check
from oak_lever.judge.findings import findings_on, title_of
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.move.changes import Change, changes
from oak_lever.move.price import SEEN

MOST_BESIDE = 6


@dataclass(frozen=True)
class Loaded:
    """A state of load: the truck's mass, kg, and the share of it on the front axle."""

    name: str
    mass: float
    front_share: float


@dataclass(frozen=True)
class BesideCell:
    """A figure of one design: its value (None: it has none) in the row's unit, how grave it is, and its band."""

    value: float | None
    severity: Severity
    low: float | None
    high: float | None


@dataclass(frozen=True)
class BesideRow:
    """One figure of all designs (None: a design that has no such figure), under the area whose question it answers.
    `best`: which of them stand better on it than the rest, none where they fare alike."""

    id: str
    title: str
    area: Area
    unit: Unit
    cells: tuple[BesideCell | None, ...]
    best: tuple[int, ...]


@dataclass(frozen=True)
class BesideFinding:
    """A finding: how grave it is and its title."""

    severity: Severity
    title: str


@dataclass(frozen=True)
class BesideColumn:
    """A design, or it under a load: how many stops, fixes and considers it has, which of its findings no other design
    has, and what differs in it from the first, in words of a shop."""

    of: int
    load: str
    stops: int
    fixes: int
    considers: int
    alone: tuple[BesideFinding, ...]
    differs: tuple[Change, ...]


@dataclass(frozen=True)
class Beside:
    columns: tuple[BesideColumn, ...]
    rows: tuple[BesideRow, ...]


def beside(designs: Sequence[Design], loads: Sequence[Loaded] = ()) -> Beside:
    """The designs side by side, each under each of the loads too: those change weights and their share, at ride height.

    Raises:
        Refused: for none, for more than `MOST_BESIDE`, and for front and rear axles together.
    """
    if not 1 <= len(designs) <= MOST_BESIDE:
        raise Refused([Fault("designs", f"from one to {MOST_BESIDE} designs stand side by side, not {len(designs)}")])
    if len({one.axle.end for one in designs}) > 1:
        words = "a front and a rear axle are not compared: their bands, and what they must do, are not the same"
        raise Refused([Fault("designs", words)])
    states: list[tuple[int, str, Design]] = [(n, "", one) for n, one in enumerate(designs)]
    states += [(n, load.name, _with(one, load)) for load in loads for n, one in enumerate(designs)]
    found = [findings_on(one) for _, _, one in states]
    columns = []
    for n, (of, load, one) in enumerate(states):
        others = {finding.id for k, them in enumerate(found) if states[k][1] == load and k != n for finding in them}
        alone = (
            tuple(BesideFinding(f.severity, f.title) for f in found[n] if f.severity != "good" and f.id not in others)
            if len(designs) > 1
            else ()
        )
        stops, fixes, considers = (sum(f.severity == level for f in found[n]) for level in ("stop", "fix", "consider"))
        differs = tuple(changes(designs[0], one)) if of and not load else ()
        columns.append(BesideColumn(of, load, stops, fixes, considers, alone, differs))
    return Beside(tuple(columns), tuple(_rows([one for _, _, one in states])))


def _with(design: Design, load: Loaded) -> Design:
    return replaced(design, {("vehicle", "mass"): load.mass, ("vehicle", "front_share"): load.front_share})


def _rows(designs: Sequence[Design]) -> list[BesideRow]:
    by_design = [{one.id: (one, twin) for one, twin in verdicts_on(design).listed} for design in designs]
    order: dict[str, Design] = {}
    for design, listed in zip(designs, by_design, strict=True):
        order |= {name: order.get(name, design) for name in listed}
    rows = []
    for name, design in order.items():
        checks = [listed[name][0] if name in listed else None for listed in by_design]
        first, twin = next(listed[name] for listed in by_design if name in listed)
        if first.figure.unit is None or all(one is None or one.value is None for one in checks):
            continue
        cells = tuple(
            None if one is None else BesideCell(one.value, SEVERITIES[one.grave], one.low, one.high) for one in checks
        )
        title = title_of(design, first, twin is not None)
        rows.append(BesideRow(name, title, first.figure.area, first.figure.unit, cells, _best(checks)))
    return rows


def _best(checks: Sequence[Check | None]) -> tuple[int, ...]:
    """Those less grave than the rest; of equally grave ones outside their band those less far out by what can be
    seen."""
    known = [(n, one) for n, one in enumerate(checks) if one is not None and one.value is not None]
    if len(known) < 2:
        return ()
    rank = {n: (one.grave, one.short if one.grave else 0.0) for n, one in known}
    least = min(rank.values(), default=(0, inf))
    seen = SEEN[known[0][1].figure.unit]
    best = tuple(n for n, (grave, short) in rank.items() if grave == least[0] and short <= least[1] + seen)
    return best if len(best) < len(known) else ()
