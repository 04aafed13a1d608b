"""The rows of a cycle as CSV (RFC 4180): for a spreadsheet, and for whoever has a better plot in mind."""

import csv
import io
import math
from collections.abc import Sequence

from oak_lever.cycle import Sweep
from oak_lever.figures.register import COLUMNS
from oak_lever.sheet.plain import plain


def csv_of(sweeps: Sequence[Sweep]) -> str:
    """Every figure of every row, mm and degrees, a head line first; what does not exist is left empty."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    joints = list(sweeps[0].joints)
    figures = ["reached", *(column.id for column in COLUMNS if column.id not in ("travel", "articulation"))]
    more = [name for name, _ in sweeps[0].running_gear.flat()]
    named = [plain(name) for name in (*(f"misalignment {joint}" for joint in joints), *more)]
    lines.writerow(["travel", "articulation", *figures, *named])
    for sweep in sweeps:
        runs = [values for _, values in sweep.running_gear.flat()]
        for n, row in enumerate(sweep.rows()):
            turned = row["misalignment"] or {}
            values = [row[name] for name in ("travel", "articulation", *figures)]
            values += [turned.get(joint) for joint in joints] + [_plain(column[n]) for column in runs]
            lines.writerow(["" if v is None else str(v).lower() if isinstance(v, bool) else v for v in values])
    return out.getvalue()


def _plain(value: float) -> float | None:
    return None if math.isnan(value) else float(value) + 0.0
