"""The fit-up on paper: gates, what to read with what was designed and how near it must come, bolts, runs; filled in as
far as it has come, and with blanks for the rest."""

from collections.abc import Iterator
from datetime import date
from math import isnan
from textwrap import shorten, wrap

from oak_lever.cycle import look
from oak_lever.design.faults import Refused
from oak_lever.design.fit import AnyStoodReading, Apart, FitRecord, GapRead, PinionRead, StrutRead
from oak_lever.design.parts import part_said, parts_of, said
from oak_lever.design.types import Design
from oak_lever.figures.links import link_figures
from oak_lever.fit_up.gates import GATES, gates_of, left_out, mark_of
from oak_lever.fit_up.on_weight import on_weight, stood_mm, strut_columns
from oak_lever.fit_up.plan import plan
from oak_lever.fit_up.readings import bar_names, in_mm
from oak_lever.fit_up.welding import weld_order
from oak_lever.judge.complaints import COMPLAINTS
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.sheet.links import Titles, framed, table_pages
from oak_lever.sheet.page import PAPERS, Mark, Paper
from oak_lever.sheet.tables import Table, exact_of, within
from oak_lever.strength.bolts import joint_bolts
from oak_lever.strength.loads import reckoned
from oak_lever.units import Units, length, torque

_BLANK = "________"
_RESULTS = {"passed": "passed", "failed": "FAILED", "reason": "passed with a reason"}
_BLANK_RUNS = 3
_LINE = 66
"""Letters in a line beside a blank."""
_WAITED, _WHOM = 52, 20
"""Letters that have room beside what else stands in the line."""


def fit_sheet(
    design: Design, record: FitRecord, units: Units, titles: Titles, paper: Paper = "a4", today: date | None = None
) -> list[list[Mark]]:  # fmt: skip
    """Pages of tables, within `PAPERS[paper]`, with the plan as of `today` where that is given. The same design, record
    and day give the same marks."""
    planned = [] if today is None else [_waited(record), _by_days(record, today)]
    tables = [one for one in (*_tables(design, record, units), *planned) if one.rows]
    pages = [*table_pages(tables, PAPERS[paper])]
    for n, page in enumerate(pages, 1):
        page.extend(framed(design, units, titles, "Fit-up, not to scale", paper, (n, len(pages)), None))
    return pages


def _tables(design: Design, record: FitRecord, units: Units) -> Iterator[Table]:
    yield _gates(record)
    yield from _mounts(design, record, units)
    yield _bars(design, record, units)
    yield _apart(design, record, units)
    yield _weight(design, record, units)
    yield _stood(design, record, units)
    yield from _welds(design)
    yield _bolts(design, units)
    yield _runs(record)


def _gates(record: FitRecord) -> Table:
    rows = []
    for gate in gates_of(record):
        mark = mark_of(record, gate.id)
        result = _RESULTS[mark.result] if mark else _BLANK
        rows.append((gate.name, result, mark.by if mark and mark.by else _BLANK, mark.at[:10] if mark else _BLANK))
        if mark and mark.reason:
            rows.append((f"   {mark.reason}", "", "", ""))
    own = record.gate_order
    if own is not None:
        rows.append((f"   Order of this build: {own.reason}", "", own.by, own.at[:10]))
    rows += [(f"   {gate.name}: left out of this build", "", "", "") for gate in left_out(record)]
    return Table(
        "Gates, in the order of the work", ("Gate", "how", "who", "when"), tuple(rows), (0.0, 0.66, 0.84, 1.0),
        "A gate is passed, failed, or passed with a reason that is written down.",
    )  # fmt: skip


def _waited(record: FitRecord) -> Table:
    """What is not here yet."""
    names = {gate.id: gate.name for gate in GATES}
    rows = [
        (
            shorten(f"{one.count} x {one.what}" if one.count > 1 else one.what, _WAITED, placeholder="…"),
            shorten(one.of, _WHOM, placeholder="…") or "-",
            names[one.gate] if one.gate else "-", one.due or _BLANK,
        )
        for one in record.orders if not one.here
    ]  # fmt: skip
    return Table("Waited for", ("", "of", "waits for it", "due"), tuple(rows), (0.0, 0.6, 0.85, 1.0))


def _by_days(record: FitRecord, today: date) -> Table:
    found = plan(record, today)
    rows = [
        (one.name, f"{one.hours:g}{' guessed' if one.guessed else ''}", one.starts or "not known", one.ends or "")
        for one in found.steps
    ]
    return Table(
        f"By days, as of {today.isoformat()}", ("Gate", "hours", "from", "to"), tuple(rows), (0.0, 0.6, 0.8, 1.0),
        "A plan, not a promise: each gate once what it waits for is here; what is late is taken to come today.",
    )  # fmt: skip


def _mounts(design: Design, record: FitRecord, units: Units) -> Iterator[Table]:
    """Where each mount is designed, how near it must come, and what was read of it."""
    may = exact_of(design)
    for kind, axis, title in (
        ("height", 2, "Off the floor, chassis blocked at ride height"),
        ("ahead", 0, "Ahead of the axle's center"), ("left", 1, "Left of the centerline"),
    ):  # fmt: skip
        rows = [
            (
                f"{said(design, spot.part)}, {spot.words}", length(spot.at[axis], units),
                within(may[spot.name], units) if spot.name in may else "-",
                _read(record, kind, spot.name, units),
            )
            for spot in parts_of(design).spots if spot.holds
        ]  # fmt: skip
        yield Table(title, ("Mount", "designed", "within", "read"), tuple(rows), (0.0, 0.62, 0.8, 1.0))


def _bars(design: Design, record: FitRecord, units: Units) -> Table:
    longs = {one.id: one.length for one in link_figures(mechanism_of(design))}
    rows = [
        (
            said(design, name), length(longs[name], units) if name in longs else "-",
            _read(record, "length", name, units),
        )
        for name in bar_names(design)
    ]  # fmt: skip
    return Table("Bars, center to center", ("Bar", "designed", "read"), tuple(rows), (0.0, 0.75, 1.0))


def _apart(design: Design, record: FitRecord, units: Units) -> Table:
    """Distances that were read."""
    at = {spot.name: spot.at for spot in parts_of(design).spots}
    rows = []
    for one in record.readings:
        if isinstance(one, Apart) and not one.left_out and {one.of, one.to} <= set(at):
            far = sum((a - b) ** 2 for a, b in zip(at[one.of], at[one.to], strict=True)) ** 0.5
            rows.append((f"{one.of} to {one.to}", length(far, units), length(in_mm(one)[0], units)))
    return Table("Mount to mount", ("", "designed", "read"), tuple(rows), (0.0, 0.75, 1.0))


def _read(record: FitRecord, kind: str, of: str, units: Units) -> str:
    """What was read last of it and is used, or a blank to write in."""
    found = [one for one in record.readings if not one.left_out and (one.kind, one.of) == (kind, of)]
    return length(in_mm(found[-1])[0], units) if found else _BLANK


def _designed(value: float, units: Units) -> str:
    return "not known" if isnan(value) else length(max(value, 0.0), units)


_STANCES = {"weight": "on its weight", "bump": "held at bump", "droop": "held at droop"}


def _weight(design: Design, record: FitRecord, units: Units) -> Table:
    nose, drawn = design.axle.pinion.angle, look(design, 0.0, 0.0).columns
    read = {
        one.of: stood_mm(one) for one in record.stood
        if isinstance(one, StrutRead) and one.stance == "weight" and not one.left_out
    }  # fmt: skip
    rows = (
        (f"Pinion, nose up (designed {nose:.1f}°)", _BLANK),
        *(
            (
                f"{said(design, strut)} (designed {_designed(float(drawn[column][-1]), units)})",
                length(read[strut], units) if strut in read else _BLANK,
            )
            for strut, column in strut_columns(design).items()
        ),
        *((f"Rail over the {end} axle, {side}", _BLANK) for end in ("front", "rear") for side in ("left", "right")),
        ("Wheelbase, left", _BLANK), ("Wheelbase, right", _BLANK),
    )  # fmt: skip
    return Table("On its weight, all weight on the tires", ("", "read"), rows, (0.0, 1.0))


def _stood_of(design: Design, reading: AnyStoodReading) -> str:
    if isinstance(reading, PinionRead):
        return "pinion, nose up"
    if isinstance(reading, GapRead):
        return f"{part_said(design, reading.of)} to {part_said(design, reading.to)}"
    return said(design, reading.of)


def _stood(design: Design, record: FitRecord, units: Units) -> Table:
    """What was read with the axle standing, beside what it should be at that height."""
    by_id = {one.id: one for one in record.stood}
    rows = []
    for one in on_weight(design, record).beside if record.stood else ():
        reading, wanted = by_id[one.reading], one.drawn if one.built is None else one.built

        def told(value: float, unit: str = one.unit) -> str:
            return length(value, units) if unit == "mm" else f"{value:.1f}°"

        words = f"{_stood_of(design, reading)}, {_STANCES[reading.stance]}"
        rows.append((
            shorten(words, _WAITED, placeholder="…"), told(one.read),
            "-" if wanted is None else told(wanted), "DIFFERS" if one.differs else "",
        ))  # fmt: skip
    return Table(
        "Read as it stands, beside what it should be at that height", ("", "read", "should be", ""), tuple(rows),
        (0.0, 0.7, 0.88, 1.0), "A bar's angle is from level, + with its end at the frame the higher.",
    )  # fmt: skip


def _welds(design: Design) -> Iterator[Table]:
    rows = list[tuple[str, str]]()
    for n, one in enumerate(weld_order(design), 1):
        rows.append((f"{n}. {one.words}", _BLANK))
        told = [part for words in (one.pulls, f"then measure {one.then}") for part in wrap(words, _LINE)]
        rows += [(f"   {part}", "") for part in told]
    yield Table(
        "Welding out", ("Bracket", "done"), tuple(rows), (0.0, 1.0),
        "Short runs, left and right in turn, cooled between; spacers stay in.",
    )  # fmt: skip


def _bolts(design: Design, units: Units) -> Table:
    try:
        bolts = joint_bolts(design, reckoned(design))
    except Refused:
        bolts = []
    rows, names = [], {spot.name: f"{said(design, spot.part)}, {spot.words}" for spot in parts_of(design).spots}
    for one in bolts:
        tight = "-" if one.torque is None else torque(one.torque, units)
        height = "-" if one.bush is None else "at ride height" if one.bush else "any height"
        rows.append((names.get(one.mount, one.mount), tight, height, _BLANK, _BLANK))
    heads = ("Bolt at", "tighten with", "", "torqued", "after the first drive")
    return Table("Bolts", heads, tuple(rows), (0.0, 0.4, 0.58, 0.76, 1.0))


def _runs(record: FitRecord) -> Table:
    rows: list[tuple[str, str, str, str]] = []
    for one in record.drives:
        felt = ", ".join(COMPLAINTS[what].lower() for what in one.felt)
        rows.append((one.setting or "setting not said", felt or "nothing amiss", one.than_before or "-", one.at[:10]))
    rows += [(_BLANK * 3, _BLANK * 2, _BLANK, _BLANK)] * _BLANK_RUNS
    heads = ("Run: its setting", "felt", "than before", "when")
    return Table("Runs", heads, tuple(rows), (0.0, 0.66, 0.84, 1.0))
