"""The `oak-lever` command: cycle a design file, or print its findings."""

import os

os.environ.setdefault("OAK_LEVER_COMPILED", "0")  # one file: loading the compiler would take longer than the sums

import argparse
import csv
import io
import json
import math
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from oak_lever.api import (
    MOST_STEPS,
    SCHOOLS,
    STEPS,
    USES,
    Cycle,
    Design,
    DesignRefused,
    Fault,
    Finding,
    Sweep,
    cycle,
    findings,
    read_design,
)  # fmt: skip
from oak_lever.figures.rows import COLUMNS
from oak_lever.judge.house import DEFAULT_SCHOOL, DEFAULT_USE
from oak_lever.tolerances import LARGEST_MM

CAUTION = (
    "An estimate from the figures entered, not an approval. Have the design and the welds checked by a qualified\n"
    "engineer or inspector; vehicle modifications fall under local law."
)
REFUSED = 2


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns its exit status: 0, or 2 for what is refused."""
    asked = _parser().parse_args(arguments)
    try:
        sys.stdout.write(asked.run(asked, _read(asked.design)))
        sys.stdout.flush()
    except DesignRefused as refusal:
        for fault in refusal.faults:
            print(f"oak-lever: {asked.design}: {_one_line(fault)}", file=sys.stderr)
        return REFUSED
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


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
    checking = commands.add_parser("check", help="print the findings on a design")
    _takes_design(checking)
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


def _read(name: str) -> Design:
    try:
        return read_design(sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes())
    except OSError as error:
        raise DesignRefused([Fault("", f"cannot be read: {error.strerror or error}")]) from None


def _one_line(fault: Fault) -> str:
    return " ".join(str(fault).split())


def _cycle(asked: argparse.Namespace, design: Design) -> str:
    cycled = cycle(design, asked.steps, _pose(asked))
    if asked.json:
        return json.dumps(_data(cycled), ensure_ascii=False, allow_nan=False) + "\n"
    sweeps = [cycled.here] if cycled.here else [cycled.heave, cycled.articulation]
    return _csv(sweeps) if asked.csv else _table(cycled, sweeps)


def _pose(asked: argparse.Namespace) -> tuple[float, float] | None:
    if asked.travel is None and asked.articulation is None:
        return None
    if asked.articulation is not None and not -90 < asked.articulation < 90:
        raise DesignRefused([Fault("--articulation", "must lie between -90 and 90 degrees")])
    return asked.travel or 0.0, asked.articulation or 0.0


def _data(cycled: Cycle) -> dict[str, Any]:
    """The cycle; with the one pose that was asked for, if any, as `pose`."""
    return {**cycled.data(), **({"pose": cycled.here.rows()[0]} if cycled.here else {})}


def _csv(sweeps: Sequence[Sweep]) -> str:
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    joints = list(sweeps[0].joints)
    figures = ["reached", *(name for name in COLUMNS if name not in ("travel", "articulation"))]
    lines.writerow(["travel", "articulation", *figures, *(f"misalignment {joint}" for joint in joints)])
    for row in (row for sweep in sweeps for row in sweep.rows()):
        turned = row["misalignment"] or {}
        values = [row[name] for name in ("travel", "articulation", *figures)] + [turned.get(joint) for joint in joints]
        lines.writerow(["" if v is None else str(v).lower() if isinstance(v, bool) else v for v in values])
    return out.getvalue()


_SHOWN = (
    ("travel", "travel", "mm"), ("articulation", "artic.", "deg"), ("axle_x", "ahead", "mm"), ("axle_y", "left", "mm"),
    ("yaw", "yaw", "deg"), ("pinion_change", "pinion", "deg"), ("caster_change", "caster", "deg"),
    ("ic_x", "IC x", "mm"), ("ic_height", "IC high", "mm"), ("anti_squat", "squat", "%"), ("anti_dive", "dive", "%"),
    ("roll_center_height", "roll c.", "mm"), ("roll_axis_angle", "roll axis", "deg"), ("bind", "bind", "mm"),
)  # fmt: skip


def _table(cycled: Cycle, sweeps: Sequence[Sweep]) -> str:
    rows = [sweep.rows() for sweep in sweeps]
    shown = [column for column in _SHOWN if any(row[column[0]] is not None for sweep in rows for row in sweep)]
    lines = [cycled.design.name, ""]
    lines.append("".join(f"{title:>10}" for _, title, _ in shown))
    lines.append("".join(f"{unit:>10}" for _, _, unit in shown))
    for sweep in rows:
        lines += ["", *("".join(f"{_cell(row[name]):>10}" for name, _, _ in shown) for row in sweep)]
    for name, ends in cycled.stops.items():
        lines += [f"{name} ends at {_cell(end)}" for end in ends if end is not None]
    return "\n".join([*lines, "", CAUTION, ""])


def _cell(value: float | None) -> str:
    return "-" if value is None else f"{round(value, 1) + 0.0:.1f}"


_SIGNS = {"mm": " mm", "deg": " deg", "percent": " %", "ratio": " times"}


def _check(asked: argparse.Namespace, design: Design) -> str:
    found = findings(cycle(design))
    use, school = USES[design.use or DEFAULT_USE], SCHOOLS[design.school or DEFAULT_SCHOOL].name
    lines = [design.name, f"judged for: {use.lower()}; school: {school.lower()}", ""]
    for finding in found:
        if finding.severity == "good":
            continue
        lines.append(
            f"{finding.severity}: {finding.title}{_value(finding)}. {finding.message} {finding.remedy}".rstrip()
        )
        lines += [f"  {note}" for note in (_band(finding), _where(finding)) if note]
        lines.append(f"  who would disagree: {finding.disagrees}")
    good = [f"{finding.title}{_value(finding)}" for finding in found if finding.severity == "good"]
    if good:
        lines += ["", "good: " + "; ".join(good)]
    return "\n".join([*lines, "", CAUTION, ""])


def _value(finding: Finding) -> str:
    return "" if finding.value is None or finding.unit is None else f" {_amount(finding.value, finding.unit)}"


def _amount(value: float, unit: str) -> str:
    return f"{_cell(value)}{_SIGNS[unit]}"


def _band(finding: Finding) -> str:
    ends = [
        f"{word} {_amount(end, finding.unit)}"
        for word, end in (("from", finding.low), ("up to", finding.high))
        if end is not None and finding.unit is not None
    ]
    return f"wanted: {' '.join(ends)} ({finding.source})" if ends else ""


def _where(finding: Finding) -> str:
    where = "" if finding.worst_at is None else f"at {_cell(finding.worst_at)} {_ALONG[finding.sweep or 'heave']}"
    parts = ", ".join(finding.place)
    return f"worst {' '.join(filter(None, (where, f'({parts})' if parts else '')))}" if where or parts else ""


_ALONG = {"heave": "mm of travel", "articulation": "deg of articulation"}
