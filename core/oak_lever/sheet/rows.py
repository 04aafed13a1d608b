"""The rows of a cycle as CSV (RFC 4180): for a spreadsheet, and for whoever has a better plot in mind."""

import csv
import io
from collections.abc import Sequence

from oak_lever.cycle import Sweep
from oak_lever.figures.register import COLUMNS


def csv_of(sweeps: Sequence[Sweep]) -> str:
    """Every figure of every row, mm and degrees, a head line first; what does not exist is left empty."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    joints = list(sweeps[0].joints)
    figures = ["reached", *(column.id for column in COLUMNS if column.id not in ("travel", "articulation"))]
    lines.writerow(["travel", "articulation", *figures, *(f"misalignment {joint}" for joint in joints)])
    for row in (row for sweep in sweeps for row in sweep.rows()):
        turned = row["misalignment"] or {}
        values = [row[name] for name in ("travel", "articulation", *figures)] + [turned.get(joint) for joint in joints]
        lines.writerow(["" if v is None else str(v).lower() if isinstance(v, bool) else v for v in values])
    return out.getvalue()
