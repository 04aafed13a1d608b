"""The `oak-lever` command: cycle a design file, or print its findings."""

import argparse
import json
import math
import multiprocessing
import os
import sys
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict
from pathlib import Path
from typing import Any

from oak_lever.api import (
    ERROR_MM,
    GRID,
    MOST_GRID,
    MOST_STEPS,
    SCHOOLS,
    STEPS,
    USES,
    Baseline,
    Cure,
    Cycle,
    Demands,
    Design,
    Fact,
    Fault,
    Finding,
    Refused,
    Stock,
    Sweep,
    TubesAtHand,
    Worsened,
    agreed,
    baseline,
    clearances,
    cures,
    cut,
    cut_said,
    cycle,
    files_of,
    find,
    findings_on,
    fit_said,
    fitted,
    hole_map,
    holes_said,
    loads_said,
    read_design,
    read_fit,
    read_stock,
    read_truck,
    reckoned,
    school_says,
    search_said,
    slack,
    tolerance,
    tolerance_said,
)  # fmt: skip
from oak_lever.caution import BRIEF
from oak_lever.figures.register import BY_ID, COLUMNS, Column
from oak_lever.judge.house import DEFAULT_SCHOOL, DEFAULT_USE
from oak_lever.judge.judged import judgment
from oak_lever.sheet.rows import csv_of
from oak_lever.tolerances import LARGEST_MM

REFUSED = 2
_DIGITS = 16
NOT_WRITTEN = 1


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns its exit status: 0, 2 for what is refused, 1 for what could not be written."""
    asked = _parser().parse_args(arguments)
    try:
        said = asked.run(asked)
    except _Faulty as faulty:
        for name, refusal in faulty.files:
            for fault in refusal.faults:
                line = _tame(f"oak-lever: {name}: {' '.join(str(fault).split())}")
                print(_plain(line, sys.stderr), file=sys.stderr)
        return REFUSED
    except OSError as error:
        print(_plain(_tame(f"oak-lever: not written: {error}"), sys.stderr), file=sys.stderr)
        return NOT_WRITTEN
    return _write(said)


class _Faulty(Exception):
    """Files that are refused, each by its name."""

    def __init__(self, files: list[tuple[str, Refused]]) -> None:
        super().__init__()
        self.files = files


def _write(said: str) -> int:
    """To standard output. Whoever stops reading has read enough; a full disk is said."""
    try:
        sys.stdout.write(said if said.isascii() else _plain(said, sys.stdout))
        sys.stdout.flush()
    except BrokenPipeError:
        _let_go()
    except OSError as error:
        _let_go()
        print(f"oak-lever: not written: {error.strerror or error}", file=sys.stderr)
        return NOT_WRITTEN
    return 0


def _let_go() -> None:
    """What is still held back for an output that takes no more must not be tried again as Python ends."""
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _plain(text: str, out: Any) -> str:
    """As the terminal can show it, each letter that it has no code for as its escape."""
    code = out.encoding or "ascii"
    return text.encode(code, "backslashreplace").decode(code)


def _tame(name: str) -> str:
    """A name of the file without what a terminal would obey: control codes as their escapes."""
    return "".join(char if char.isprintable() else char.encode("unicode_escape").decode() for char in name)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="oak-lever", description="What a link suspension will do, before steel is cut."
    )
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    cycling = commands.add_parser("cycle", help="cycle a design through its travel and articulation")
    _takes_design(cycling)
    cycling.add_argument("--json", action="store_true", help="one JSON object with every figure of every row")
    cycling.add_argument(
        "--steps", type=_steps, default=STEPS, metavar="N", help=f"rows of each sweep (default {STEPS})"
    )
    cycling.add_argument("--csv", action="store_true", help="every figure of every row as CSV")
    cycling.add_argument("--travel", type=_number, metavar="MM", help="one pose: this travel, + is bump")
    cycling.add_argument("--articulation", type=_number, metavar="DEG", help="one pose: this much, + is left wheel up")
    cycling.set_defaults(run=_cycle)
    taking = commands.add_parser("truck", help="work out what a truck's readings come to, and which to take again")
    taking.add_argument("truck", metavar="TRUCK.json", help="a truck file; - reads standard input")
    taking.add_argument("--json", action="store_true", help="one JSON object with every figure and its sigma")
    taking.add_argument(
        "--design", action="append", default=[], metavar="DESIGN.json", help="an axle's design; one for each end"
    )
    taking.set_defaults(run=_truck)
    clearing = commands.add_parser("clear", help="how near everything that moves comes to everything else")
    _takes_design(clearing)
    clearing.add_argument("--json", action="store_true", help="one JSON object with every pair and where it is nearest")
    clearing.add_argument("--grid", default="x".join(map(str, GRID)), metavar="TxA", help="travels by articulations")
    clearing.add_argument("--shocks", action="store_true", help="the bodies of shocks and springs among the parts")
    clearing.set_defaults(run=_clear)
    holing = commands.add_parser("holes", help="what every combination of the holes in the racks would do")
    _takes_design(holing)
    holing.add_argument("--json", action="store_true", help="one JSON object with every combination")
    holing.add_argument("--steps", type=_steps, default=STEPS, metavar="N", help=f"rows of travel (default {STEPS})")
    holing.set_defaults(run=_holes)
    tolerating = commands.add_parser("tolerance", help="how exact each hole and each length must be")
    _takes_design(tolerating)
    tolerating.add_argument("--json", action="store_true", help="one JSON object with every slope")
    tolerating.add_argument(
        "--error", type=_above_zero, default=ERROR_MM, metavar="MM", help=f"how far each may be off ({ERROR_MM})"
    )
    tolerating.set_defaults(run=_tolerance)
    loading = commands.add_parser("loads", help="what links, joints and bolts carry in every load case")
    _takes_design(loading)
    loading.add_argument("--json", action="store_true", help="one JSON object with every force and factor")
    loading.set_defaults(run=_loads)
    cutting = commands.add_parser("cut", help="what bars and brackets are cut from, and the files for the shop")
    _takes_design(cutting)
    cutting.add_argument("--json", action="store_true", help="one JSON object with every bar and plate")
    cutting.add_argument("--stock", metavar="STOCK.json", help="tubes and sheets to cut from; - reads standard input")
    cutting.add_argument("--out", metavar="DIR", help="write drawings, patterns and the list there")
    cutting.set_defaults(run=_cut)
    fitting = commands.add_parser("fit", help="where mounts came to stand by a fit-up log, and what the axle then does")
    _takes_design(fitting)
    fitting.add_argument("log", metavar="FIT.json", help="a fit-up log; - reads standard input")
    fitting.add_argument("--json", action="store_true", help="one JSON object with every mount, length and figure")
    fitting.set_defaults(run=_fit)
    finding = commands.add_parser("find", help="find places for all mounts at once, inside every band and zone")
    _takes_design(finding)
    finding.add_argument("--json", action="store_true", help="one JSON object with every find")
    finding.add_argument("--seconds", type=_above_zero, default=20.0, metavar="S", help="look for so long (20)")
    finding.add_argument("--seed", type=_whole, default=1, metavar="N", help="where the search begins (1)")
    finding.add_argument(
        "--tries", type=_whole, metavar="N", help="end after so many tries: the same seed, the same finds"
    )
    finding.add_argument("--longest", type=_above_zero, default=math.inf, metavar="MM", help="no longer link")
    finding.add_argument("--shortest", type=_above_zero, default=0.0, metavar="MM", help="no shorter link")
    finding.add_argument(
        "--error", type=_above_zero, default=ERROR_MM, metavar="MM", help=f"how far each may be off ({ERROR_MM})"
    )
    finding.add_argument("--stock", metavar="STOCK.json", help="only what can be cut from its tubes")
    finding.set_defaults(run=_find)
    checking = commands.add_parser("check", help="print the findings on a design, or on several")
    checking.add_argument("designs", nargs="+", metavar="DESIGN.json", help="design files; - reads standard input")
    checking.set_defaults(run=_check)
    return parser


def _takes_design(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("design", metavar="DESIGN.json", help="a design file; - reads standard input")


def _steps(text: str) -> int:
    try:
        steps = int(text)
    except ValueError:
        steps = 0
    if not 2 <= steps <= MOST_STEPS:
        raise argparse.ArgumentTypeError(f"must be a whole number from 2 to {MOST_STEPS}, not {text!r}")
    return steps


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or abs(value) > LARGEST_MM:
        raise argparse.ArgumentTypeError(f"must be a number, not {text!r}")
    return value


def _above_zero(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not (math.isfinite(value) and value > 0.0):
        raise argparse.ArgumentTypeError(f"must be a number above 0, not {text!r}")
    return value


def _whole(text: str) -> int:
    if not (text.isascii() and text.isdigit() and len(text) < _DIGITS):
        raise argparse.ArgumentTypeError(f"must be a whole number, 0 or more, not {text!r}")
    return int(text)


def _file(name: str) -> bytes:
    try:
        return sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()
    except OSError as error:
        raise Refused([Fault("", f"cannot be read: {error.strerror or error}")]) from None


def _design(name: str) -> Design:
    try:
        return read_design(_file(name))
    except Refused as refusal:
        raise _Faulty([(name, refusal)]) from None


def _truck(asked: argparse.Namespace) -> str:
    faulty: list[tuple[str, Refused]] = []
    truck, designs = None, dict[str, Design]()
    try:
        truck = read_truck(_file(asked.truck))
    except Refused as refusal:
        faulty.append((asked.truck, refusal))
    for name in asked.design:
        try:
            design = read_design(_file(name))
            if design.axle.end in designs:
                raise Refused(
                    [Fault("axle.end", f"another {design.axle.end} design is given already; one for each end")]
                )
            designs[design.axle.end] = design
        except Refused as refusal:
            faulty.append((name, refusal))
    if truck is None or faulty:
        raise _Faulty(faulty)
    taken, held_out = baseline(truck, designs), agreed(truck, designs, "mm").held_out
    if asked.json:
        beside = {"held_out": [{"reading": name, "why": why} for name, why in held_out.items()]}
        return _object(taken.data() | beside)
    return _baseline_table(taken, held_out)


_BASELINE_UNITS = {"mass": "kg", "front_share": "", "left_share": "", "wheelbase_left": "mm", "wheelbase_right": "mm"}


def _baseline_table(taken: Baseline, held_out: dict[str, str]) -> str:
    lines = []
    for name, figure in taken.figures.items():
        length = name.endswith(("fore_aft", "offset")) or name.startswith("cg_")
        unit = _BASELINE_UNITS.get(name, "mm" if length else "deg")
        places = 4 if name.endswith("share") else 1 if unit in ("mm", "kg") else 2
        lines.append(f"{name:<20} {figure.value:>10.{places}f} +- {figure.sigma:.{places}f} {unit}".rstrip())
    if not lines:
        lines.append("The readings give no figure yet.")
    for reading, off in taken.placed.suspect:
        lines.append(f"take again: {_tame(reading)}, off by {off:.1f} of its sigma")
    lines += [_tame(f"{reading}: {why}") for reading, why in held_out.items()]
    if held_out:
        lines.append("The figures above are of all readings, those too.")
    return "\n".join([*lines, "", *BRIEF]) + "\n"


def _clear(asked: argparse.Namespace) -> str:
    try:
        rows, columns = (int(part) for part in asked.grid.split("x"))
        grid = (rows, columns) if min(rows, columns) >= 2 and max(rows, columns) <= MOST_GRID else None
    except ValueError:
        grid = None
    if grid is None:
        said = f"must be two whole numbers from 2x2 to {MOST_GRID}x{MOST_GRID}, not {asked.grid!r}"
        raise _Faulty([(asked.design, Refused([Fault("--grid", said)]))])
    design = _design(asked.design)
    try:
        found = clearances(design, grid, asked.shocks)
    except Refused as refusal:
        raise _Faulty([(asked.design, refusal)]) from None
    if asked.json:
        return _object(found.data())
    lines = [_tame(found.design), "", f"{'between':<44} {'gap mm':>8} {'wanted':>8} {'travel':>8} {'twist':>7}"]
    lines += [
        f"{_tame(f'{pair.a} and {pair.b}'):<44} {pair.gap:>8.1f} {pair.wanted:>8.1f} {pair.travel:>8.1f} "
        f"{pair.articulation:>7.2f}{'  too near' if pair.gap < pair.wanted else ''}"
        for pair in found.pairs
    ]
    return "\n".join([*lines, "", *BRIEF]) + "\n"


def _holes(asked: argparse.Namespace) -> str:
    try:
        found = hole_map(_design(asked.design), asked.steps)
    except Refused as refusal:
        raise _Faulty([(asked.design, refusal)]) from None
    return _object(found.data()) if asked.json else _lines(holes_said(found))


def _tolerance(asked: argparse.Namespace) -> str:
    found = tolerance(_design(asked.design), asked.error)
    return _object(found.data()) if asked.json else _lines(tolerance_said(found))


def _loads(asked: argparse.Namespace) -> str:
    design = _design(asked.design)
    try:
        found = reckoned(design)
    except Refused as refusal:
        raise _Faulty([(asked.design, refusal)]) from None
    return _object(found.data()) if asked.json else _lines(loads_said(found))


def _one_from_input(one: str, other: str | None) -> None:
    if one == other == "-":
        raise _Faulty([("-", Refused([Fault("", "standard input holds one file; give the other by its name")]))])


def _cut(asked: argparse.Namespace) -> str:
    _one_from_input(asked.design, asked.stock)
    design = _design(asked.design)
    found = cut(design, _stock(asked.stock))
    if found.faults:
        raise _Faulty([(asked.design, Refused(list(found.faults)))])
    if asked.out is not None:
        folder = Path(asked.out)
        folder.mkdir(parents=True, exist_ok=True)
        for name, what in files_of(design, found).items():
            (folder / name).write_bytes(what)
    return _object(found.data()) if asked.json else _lines(cut_said(found))


def _stock(name: str | None) -> Stock | None:
    try:
        return read_stock(_file(name)) if name else None
    except Refused as refusal:
        raise _Faulty([(name or "", refusal)]) from None


def _fit(asked: argparse.Namespace) -> str:
    _one_from_input(asked.design, asked.log)
    design = _design(asked.design)
    try:
        log = read_fit(_file(asked.log), design)
    except Refused as refusal:
        raise _Faulty([(asked.log, refusal)]) from None
    found = fitted(design, log)
    return _object(found.data()) if asked.json else _lines(fit_said(found))


def _find(asked: argparse.Namespace) -> str:
    _one_from_input(asked.design, asked.stock)
    design = _design(asked.design)
    try:
        stock = _stock(asked.stock)
        at_hand = None if stock is None else TubesAtHand(stock)
        demands = Demands(asked.longest, asked.shortest, asked.error, at_hand=at_hand)
        *_, found = find(design, asked.seconds, asked.seed, demands, asked.tries)
    except Refused as refusal:
        raise _Faulty([(asked.design, refusal)]) from None
    head = {"format": "oak-lever-find", "version": 1, "design": design.name, "seed": asked.seed}
    return _object(head | asdict(found)) if asked.json else _lines(search_said(design.name, found))


def _object(data: dict[str, Any]) -> str:
    return json.dumps(data, ensure_ascii=not _takes_all(sys.stdout), allow_nan=False) + "\n"


def _lines(said: Iterator[str]) -> str:
    return "\n".join([*map(_tame, said), "", *BRIEF]) + "\n"


def _cycle(asked: argparse.Namespace) -> str:
    design = _design(asked.design)
    cycled = cycle(design, asked.steps, _pose(asked))
    if asked.json:
        # JSON has escapes of its own for what the terminal can't show
        return _object(_data(cycled))
    sweeps = [cycled.here] if cycled.here else [cycled.heave, cycled.articulation]
    return csv_of(sweeps) if asked.csv else _table(cycled, sweeps)


def _pose(asked: argparse.Namespace) -> tuple[float, float] | None:
    if asked.travel is None and asked.articulation is None:
        return None
    if asked.articulation is not None and not -90 < asked.articulation < 90:
        fault = Fault("--articulation", "must lie between -90 and 90 degrees")
        raise _Faulty([(asked.design, Refused([fault]))])
    return asked.travel or 0.0, asked.articulation or 0.0


def _data(cycled: Cycle) -> dict[str, Any]:
    """The cycle; with the one pose that was asked for, if any, as `pose`."""
    return {**cycled.data(), **({"pose": cycled.here.rows()[0]} if cycled.here else {})}


def _table(cycled: Cycle, sweeps: Sequence[Sweep]) -> str:
    rows = [sweep.rows() for sweep in sweeps]
    shown = [column for column in COLUMNS if not column.rare and _is_there(column, rows)]
    lines = [_tame(cycled.design.name), ""]
    lines.append("".join(f"{column.title:>10}" for column in shown))
    lines.append("".join(f"{_SIGNS[column.unit].strip():>10}" for column in shown))
    for sweep in rows:
        lines += ["", *("".join(f"{_cell(row[column.id]):>10}" for column in shown) for row in sweep)]
    for name, ends in cycled.stops.items():
        lines += [f"{name} ends at {_cell(end)}" for end in ends if end is not None]
    return "\n".join([*lines, "", *BRIEF, ""])


def _is_there(column: Column, sweeps: Sequence[Sequence[dict[str, Any]]]) -> bool:
    return any(row[column.id] is not None for rows in sweeps for row in rows)


def _cell(value: float | None) -> str:
    return "-" if value is None else f"{round(value, 1) + 0.0:.1f}"


_SIGNS = {"mm": " mm", "deg": " deg", "percent": " %", "ratio": " times", "hz": " Hz", "n": " N", "n_mm": " N/mm"}


def _takes_all(out: Any) -> bool:
    return (out.encoding or "").lower().replace("-", "") == "utf8"


def _check(asked: argparse.Namespace) -> str:
    designs = [_design(name) for name in asked.designs]
    if len(designs) == 1:
        said = [_checked(designs[0], _on_every_core)]
    else:
        # findings on one design share much of what is worked out: of several designs each is one process's, whole
        said = _on_every_core(_checked, [(design,) for design in designs])
    return "\n\n".join(said) + "\n\n" + "\n".join([*BRIEF, ""])


def _in_turn(work: Callable[..., Any], asked: Sequence[tuple[Any, ...]]) -> list[Any]:
    return [work(*one) for one in asked]


def _checked(design: Design, each: Callable[..., list[Any]] = _in_turn) -> str:
    use, school = USES[design.use or DEFAULT_USE], SCHOOLS[design.school or DEFAULT_SCHOOL].name
    intent = f"judged for: {use.lower()}; school: {school.lower()}"
    lines = [*filter(None, (_tame(design.name), intent, school_says(design))), ""]
    found = findings_on(design)
    bad = [finding for finding in found if finding.severity != "good"]
    notes = iter(each(_note, [(kind, design, finding) for finding in bad for kind in (_hangs_on, _remedies)]))
    for finding in bad:
        lines.append(_tame(f"{finding.severity}: {finding.title}{_value(finding)}. {finding.message}"))
        own = (_band(finding), _where(finding), *map(_fact, finding.facts), finding.guessed, *next(notes), *next(notes))
        lines += [f"  {_tame(note)}" for note in own if note]
        lines.append(f"  who would disagree: {finding.disagrees}")
    good = [f"{finding.title}{_value(finding)}" for finding in found if finding.severity == "good"]
    return "\n".join([*lines, *(["", "good: " + "; ".join(good)] if good else [])])


def _note(kind: Callable[[Design, Finding], list[str]], design: Design, finding: Finding) -> list[str]:
    return kind(design, finding)


_SHARED: list[tuple[Callable[..., Any], Sequence[tuple[Any, ...]]]] = []


def _on_every_core(work: Callable[..., Any], asked: Sequence[tuple[Any, ...]]) -> list[Any]:
    """What comes of each that is asked, in their order, worked out by processes that have all that is loaded here."""
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else 1
    if cores < 2 or len(asked) < 2:
        return _in_turn(work, asked)
    _SHARED[:] = [(work, asked)]
    with ProcessPoolExecutor(min(cores, len(asked)), multiprocessing.get_context("fork")) as pool:
        return list(pool.map(_shared, range(len(asked))))


def _shared(n: int) -> Any:
    ((work, asked),) = _SHARED
    return work(*asked[n])


_STEP_MM = 1.0
_MOST_REMEDIES = 2


def _remedies(design: Design, finding: Finding) -> list[str]:
    """What would cure it, worked out for this design, with its price."""
    if judgment(BY_ID[finding.figure]).to_look_up:
        return []
    found = cures(design, finding.id, _STEP_MM, "mm", _MOST_REMEDIES)
    return [_remedy(cure, finding) for cure in found] or [
        "no move of a free mount within reach, and nothing else, helps"
    ]


def _remedy(cure: Cure, finding: Finding) -> str:
    value = cure.figures.get(finding.id)
    then = "" if value is None or finding.unit is None else f", then {_amount(value, finding.unit)}"
    worse = ", ".join(_worse(one) for one in cure.worsens)
    said = f"{'to cure it' if cure.meets else 'to help it'}: {cure.words[:1].lower()}{cure.words[1:]}{then}."
    return " ".join(filter(None, (said, cure.price, f"Worse then: {worse}." if worse else "")))


def _worse(one: Worsened) -> str:
    figure = BY_ID[one.figure]
    return f"{figure.name.lower()} {_amount(one.before, figure.unit)} to {_amount(one.after, figure.unit)}"


def _hangs_on(design: Design, finding: Finding) -> list[str]:
    """How far each figure of the truck that it rests on may be off before this verdict is another."""
    if BY_ID[finding.figure].area == "loads":
        return []  # a second's work each: the page does it for the one that is looked at
    said = []
    for one in slack(design, finding.id):
        ends = [
            f"{word} {_input(end, one.unit)}"
            for word, end in (("above", one.low), ("below", one.high))
            if end is not None
        ]
        if ends:
            said.append(f"the {one.words} (now {_input(one.value, one.unit)}) is {' and '.join(ends)}")
    return [f"holds while {'; while '.join(said)}"] if said else []


def _input(value: float, unit: str) -> str:
    return f"{value:.2f}" if unit == "share" else f"{value:.0f} {unit}"


def _value(finding: Finding) -> str:
    return "" if finding.value is None or finding.unit is None else f" {_amount(finding.value, finding.unit)}"


def _amount(value: float, unit: str) -> str:
    shown = f"{value:.2f}" if unit == "ratio" else _cell(value)
    return f"{shown}{_SIGNS[unit]}"


def _band(finding: Finding) -> str:
    ends = [
        f"{word} {_amount(end, finding.unit)}"
        for word, end in (("from", finding.low), ("up to", finding.high))
        if end is not None and finding.unit is not None
    ]
    return f"wanted: {' '.join(ends)} ({finding.source})" if ends else ""


def _fact(fact: Fact) -> str:
    return f"{fact.words[:1].lower()}{fact.words[1:]} {_amount(fact.value, fact.unit)}"


def _where(finding: Finding) -> str:
    place = finding.place
    at = [
        f"{_cell(value)} {words}"
        for value, words in ((place.travel, "mm of travel"), (place.articulation, "deg of articulation"))
        if value
    ]
    parts = f"({', '.join(place.parts)})" if place.parts else ""
    where = " ".join(filter(None, ("at " + ", ".join(at) if at else "", parts)))
    return f"worst {where}" if where else ""
