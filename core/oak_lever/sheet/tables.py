"""The tables of the shop drawing: mounts as they are marked out, the diagonals that prove it square, links, figures."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import combinations
from math import dist, isnan

from oak_lever.clearance.clearances import gaps_of
from oak_lever.cycle import cycle, look
from oak_lever.design.faults import Refused
from oak_lever.design.parts import Body, bars_of, part_said, parts_of, words_of
from oak_lever.design.running_gear import Shock, Stop, Strap
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.links import link_figures
from oak_lever.figures.register import BY_ID
from oak_lever.figures.struts import struts_of
from oak_lever.judge.findings import Finding
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.sheet.page import HAIR, Mark, Words, fitting, line
from oak_lever.sheet.page import wide as room_of
from oak_lever.units import MM_PER_INCH, Units, force, length, pressure, rate, shown
from oak_lever.weigh_up.outcomes import rings

STEP = 3.9
_SIZE, _HEAD = 2.6, 3.2


@dataclass(frozen=True)
class Table:
    """Rows under heads, in columns at `at` (parts of the width): the first stands left, the others end there."""

    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    at: tuple[float, ...]
    note: str = ""

    @property
    def high(self) -> float:
        return STEP * (len(self.rows) + 2 + bool(self.note)) + 4.0


def tables_of(design: Design, found: Sequence[Finding], units: Units) -> list[Table]:
    made = [
        _mounts(design, units), _exact(design, units), _diagonals(design, units), _links(design, units),
        _struts(design, units), _springs(design, units), _clearances(design, units), _figures(found, units),
    ]  # fmt: skip
    return [table for table in made if table.rows]


def lines_of(table: Table, left: float, top: float, wide: float) -> Iterator[Mark]:
    """The table's marks, from its upper left corner."""
    yield Words(table.title, (left, top + 2.6), _HEAD, bold=True)
    ends, first = _ends(table, wide)
    for n, cells in enumerate((table.heads, *table.rows), 1):
        y = top + 2.6 + STEP * n
        for column, (cell, end) in enumerate(zip(cells, ends, strict=True)):
            text = fitting(cell, _SIZE, first) if column == 0 else cell
            yield Words(text, (left + end, y), _SIZE, "end" if column else "start", bold=n == 1)
        yield line((left, y + 1.1), (left + wide, y + 1.1), width=HAIR)
    if table.note:
        yield Words(table.note, (left, top + 2.6 + STEP * (len(table.rows) + 2)), _SIZE)


_APART = 4.0
"""Between columns that are moved together."""


def _ends(table: Table, wide: float) -> tuple[list[float], float]:
    """Where each column ends (the first: begins), and what room its first has; where a name there is longer than that,
    the others are moved together to the right."""
    lines = (table.heads, *table.rows)
    widths = [max(room_of(cells[k], _SIZE, n == 0) for n, cells in enumerate(lines)) for k in range(len(table.at))]
    ends = [part * wide for part in table.at]
    if widths[0] > ends[1] - widths[1] - 2.0:
        for k in range(len(ends) - 2, 0, -1):
            ends[k] = max(ends[k], ends[k + 1] - widths[k + 1] - _APART)
    return ends, ends[1] - widths[1] - 2.0


def holds(table: Table, wide: float) -> bool:
    """Whether a column so wide has room for every name."""
    _, first = _ends(table, wide)
    return all(room_of(cells[0], _SIZE, n == 0) <= first for n, cells in enumerate((table.heads, *table.rows)))


def split(table: Table, rows: int) -> tuple[Table, Table]:
    """The table's first rows, and the rest of it under the same heads; its note goes with the rest."""
    first = Table(table.title, table.heads, table.rows[:rows], table.at)
    return first, Table(f"{table.title}, continued", table.heads, table.rows[rows:], table.at, table.note)


_FRACTION: dict[Units, tuple[str, str]] = {
    "mm": ("1 mm", "0.5 mm"), "inch": ("0.01 in", "0.005 in"), "in16": ("1/16 in", "1/32 in"),
    "in32": ("1/32 in", "1/64 in"),
}  # fmt: skip
"""The nearest mark of a tape, and how far from it an exact place may be."""


def _mounts(design: Design, units: Units) -> Table:
    rows = []
    for number, spot in enumerate(parts_of(design).spots, 1):
        x, y, z = spot.at
        side = "" if abs(y) < 0.5 else "  L" if y > 0 else "  R"
        said = f"{number}  {words_of(spot.part)}, {spot.words}"
        rows.append((said, length(z, units), length(x, units), length(abs(y), units) + side))
    heads = ("Mount, at ride", "off the floor", "ahead of the axle", "out from center")
    nearest, off = _FRACTION[units]
    note = f"Each to the nearest {nearest}: up to {off} from the exact place."
    return Table("Mounts, joint centers", heads, tuple(rows), (0.0, 0.52, 0.75, 1.0), note)


def _exact(design: Design, units: Units) -> Table:
    """How far each hole may be off, holes alike together, the most exact first."""
    may, holes = exact_of(design), dict[str, list[str]]()
    numbered = [(n, spot.name) for n, spot in enumerate(parts_of(design).spots, 1) if spot.name in may]
    for number, name in sorted(numbered, key=lambda one: may[one[1]]):
        holes.setdefault(within(may[name], units), []).append(str(number))
    rows = tuple((said, ", ".join(sorted(mounts, key=int))) for said, mounts in holes.items())
    note = "Any way, the others off by theirs as chance has it, before a figure leaves its band."
    return Table("How exact each hole must be", ("Within", "mounts"), rows, (0.0, 1.0), note)


def exact_of(design: Design) -> dict[str, float]:
    """How far each mount's hole may be off, mm; nothing of an axle that nothing holds."""
    try:
        return {name: one.by for name, one in rings(design).items()}
    except Refused:
        return {}


_STEPS_IN = (1 / 64, 1 / 32, 1 / 16, 3 / 32, 1 / 8, 3 / 16, 1 / 4, 3 / 8, 1 / 2)
_STEPS_MM = (0.2, 0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0)


def within(mm: float, units: Units) -> str:
    """An error that may be made, never more than it is: ``±1/16 in``, ``±1.5 mm``."""
    if units == "mm":
        least = [one for one in _STEPS_MM if one <= mm]
        return f"±{least[-1]:g} mm" if least else f"under {_STEPS_MM[0]:g} mm"
    small = [one for one in _STEPS_IN if one * MM_PER_INCH <= mm]
    return f"±{Fraction(small[-1])} in" if small else "under 1/64 in"


def _diagonals(design: Design, units: Units) -> Table:
    """Across each pair of like links, joint center to joint center; and what a tape finds there once every mount stands
    at its rounded figures."""
    parts = parts_of(design)
    number = {spot.name: n for n, spot in enumerate(parts.spots, 1)}
    rows = []
    for left, right in combinations([b for b in bars_of(parts) if b.a.name in number and b.b.name in number], 2):
        if not _pair(left, right):
            continue
        for one, other in ((left.a, right.b), (right.a, left.b)):
            exact = dist(one.at, other.at)
            rounded = dist(_marked(one.at, units), _marked(other.at, units))
            rows.append((
                f"{number[one.name]} to {number[other.name]}", length(exact, units), length(rounded, units),
                _more(rounded - exact, units),
            ))  # fmt: skip
    heads = ("Diagonal", "exact", "from rounded marks", "rounding adds")
    note = "Where the design is alike left and right, the two of a pair are equal when it stands square."
    return Table("Diagonals that prove it square", heads, tuple(rows), (0.0, 0.52, 0.8, 1.0), note)


def _more(mm: float, units: Units) -> str:
    """A difference too small for a tape: ``+0.4 mm``, ``-0.016 in``."""
    if units == "mm":
        return f"{round(mm, 1) + 0.0:+.1f} mm"
    return f"{round(mm / MM_PER_INCH, 3) + 0.0:+.3f} in"


def _pair(a: Body, b: Body) -> bool:
    """Two links of a kind on either side of the centerline."""
    sides = [body.a.at[1] + body.b.at[1] for body in (a, b)]
    return a.kind == b.kind and sides[0] * sides[1] < 0


def _marked(at: Point, units: Units) -> tuple[float, ...]:
    return tuple(shown(value, units) for value in at)


def _links(design: Design, units: Units) -> Table:
    rows = tuple(
        (
            words_of(bar.id), length(bar.length, units),
            "end on" if bar.side_angle is None else f"{bar.side_angle:.1f} deg",
            "end on" if bar.plan_angle is None else f"{bar.plan_angle:.1f} deg",
        )
        for bar in link_figures(mechanism_of(design))
    )  # fmt: skip
    heads = ("Link", "center to center", "from the side", "in plan")
    return Table("Links", heads, rows, (0.0, 0.52, 0.8, 1.0))


def _struts(design: Design, units: Units) -> Table:
    """How long each shock, stop and strap is, between its points, at the ends of the travel and of the twist."""
    reach = design.travel
    poses = ((reach.bump, 0.0), (0.0, 0.0), (-reach.droop, 0.0), (0.0, reach.articulation), (0.0, -reach.articulation))
    rows = []
    looked = [look(design, *pose).here for pose in poses] if design.corners else []
    for strut in struts_of(design):
        listed = "shocks" if isinstance(strut, Shock) else "stops" if isinstance(strut, Stop) else "straps"
        lengths = [here.running_gear.struts[listed][strut.id]["length"][0] for here in looked]  # type: ignore[index]
        said = ["not reached" if isnan(mm) else length(mm, units) for mm in lengths]
        rows.append((words_of(strut.id), *said))
    heads = ("Shock, stop, strap", "at bump", "at ride", "at droop", "left wheel up", "right wheel up")
    note = "Between bolt centers, by the figures entered: measure before a strap is cut or a tower drilled."
    return Table("Shocks, stops and straps", heads, tuple(rows), (0.0, 0.32, 0.47, 0.62, 0.81, 1.0), note)


def _springs(design: Design, units: Units) -> Table:
    """What is ordered and set: of each shock its own lengths and its spring; of stops and straps theirs."""
    rows = []
    for strut in struts_of(design):
        if isinstance(strut, Stop):
            said = f"free {length(strut.free, units)}", f"solid {length(strut.solid, units)}", ""
        elif isinstance(strut, Strap):
            said = f"bolt centers {length(strut.length, units)}", f"stretch {100.0 * strut.stretch:.0f} %", ""
        else:
            spring = strut.spring
            push = f"{rate(spring.rate, units)}, preload {length(spring.preload, units)}" if spring else ""
            if strut.air:
                push = pressure(strut.air.pressure, units)
            ends = f"open {length(strut.extended, units)}", f"closed {length(strut.compressed, units)}"
            said = (*ends, push)
        rows.append((words_of(strut.id), *said))
    heads = ("Part", "size", "size", "spring")
    note = "Springs, air bags and gas shocks hold energy: compress and release them only in the tools made for it."
    return Table("What is ordered and set", heads, tuple(rows), (0.0, 0.48, 0.76, 1.0), note)


_MOST_CLEARANCES = 8


def _clearances(design: Design, units: Units) -> Table:
    """The pairs of parts with the least to spare."""
    located = cycle(design).located
    gaps = sorted(gaps_of(design), key=lambda gap: gap.gap - gap.wanted)[:_MOST_CLEARANCES] if located else []
    rows = tuple(
        (
            f"{part_said(design, gap.a)} to {part_said(design, gap.b)}",
            length(gap.gap, units) if gap.gap > 0.0 else "they meet", length(gap.wanted, units),
        )
        for gap in gaps
    )  # fmt: skip
    note = "Anywhere in travel and articulation that stops and straps allow."
    return Table("Tightest clearances", ("Between", "least", "wanted"), rows, (0.0, 0.8, 1.0), note)


def _figures(found: Sequence[Finding], units: Units) -> Table:
    figures = [f for f in found if BY_ID[f.figure].how is not None]
    stops = [f for f in found if f not in figures]
    rows = tuple(
        (
            f.title.replace(", and its mirror image", " and its mirror"),
            _amount(f.value, f, units),
            _wanted(f, units),
            _verdict(f),
        )
        for f in (*stops, *figures)
    )
    return Table("Figures", ("Figure", "value", "wanted", "verdict"), rows, (0.0, 0.64, 0.89, 1.0))


def _verdict(finding: Finding) -> str:
    if finding.severity != "good":
        return finding.severity
    return "good" if finding.verdict == "inside" else ""


def _amount(value: float | None, finding: Finding, units: Units) -> str:
    if value is None or finding.unit is None:
        return "none"
    if finding.unit == "mm":
        return length(value, units)
    return {
        "deg": f"{value:.1f} deg", "percent": f"{value:.0f} %", "ratio": f"{value:.2f} x", "hz": f"{value:.2f} Hz",
        "n": force(value, units), "n_mm": rate(value, units),
    }[finding.unit]  # fmt: skip


def _wanted(finding: Finding, units: Units) -> str:
    low, high = (None if v is None else _amount(v, finding, units) for v in (finding.low, finding.high))
    if low and high:
        return f"{low} to {high}"
    return f"{low} or more" if low else f"{high} or less" if high else ""
