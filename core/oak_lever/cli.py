"""The `oak-lever` command: cycle a design file, or print its findings."""

import os

os.environ.setdefault("OAK_LEVER_COMPILED", "0")  # one file: loading the compiler would take longer than the sums

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from oak_lever.api import MOST_STEPS, STEPS, Cycle, Design, DesignRefused, Fault, cycle, findings, read_design

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


def _read(name: str) -> Design:
    try:
        return read_design(sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes())
    except OSError as error:
        raise DesignRefused([Fault("", f"cannot be read: {error.strerror or error}")]) from None


def _one_line(fault: Fault) -> str:
    return " ".join(str(fault).split())


def _cycle(asked: argparse.Namespace, design: Design) -> str:
    cycled = cycle(design, asked.steps)
    return json.dumps(cycled.data(), ensure_ascii=False, allow_nan=False) + "\n" if asked.json else _table(cycled)


_SHOWN = (
    ("travel", "travel", "mm"), ("articulation", "artic.", "deg"), ("axle_x", "ahead", "mm"), ("axle_y", "left", "mm"),
    ("yaw", "yaw", "deg"), ("pinion_change", "pinion", "deg"), ("caster_change", "caster", "deg"),
    ("ic_x", "IC x", "mm"), ("ic_height", "IC high", "mm"), ("anti_squat", "squat", "%"), ("anti_dive", "dive", "%"),
    ("roll_center_height", "roll c.", "mm"), ("roll_axis_angle", "roll axis", "deg"), ("bind", "bind", "mm"),
)  # fmt: skip


def _table(cycled: Cycle) -> str:
    shown = [column for column in _SHOWN if _exists(cycled, column[0])]
    lines = [cycled.design.name, ""]
    lines.append("".join(f"{title:>10}" for _, title, _ in shown))
    lines.append("".join(f"{unit:>10}" for _, _, unit in shown))
    for sweep in (cycled.heave, cycled.articulation):
        lines += ["", *("".join(f"{_cell(row[name]):>10}" for name, _, _ in shown) for row in sweep.rows())]
    return "\n".join([*lines, "", CAUTION, ""])


def _exists(cycled: Cycle, name: str) -> bool:
    return any(row[name] is not None for sweep in (cycled.heave, cycled.articulation) for row in sweep.rows())


def _cell(value: float | None) -> str:
    return "-" if value is None else f"{round(value, 1) + 0.0:.1f}"


def _check(asked: argparse.Namespace, design: Design) -> str:
    lines = [design.name, ""]
    for finding in findings(cycle(design)):
        value = "" if finding.value is None else f" ({finding.value:.1f} {finding.unit})"
        lines.append(f"{finding.severity}: {finding.message}{value} {finding.remedy}")
    if len(lines) == 2:
        lines.append("No findings.")
    return "\n".join([*lines, "", CAUTION, ""])
