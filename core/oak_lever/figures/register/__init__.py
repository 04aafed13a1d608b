"""The one register of figures: what each is called, means and is measured in, how it is measured and drawn, what is
wanted of it by use, why, and who would disagree. The screen, the command, the sheet and the documents take every name
from here.

Bands are house values: defaults, never truths; a truck's own `bands` replace them by the figure's id. Lengths mm,
angles degrees.
"""

from oak_lever.design.cross_checks import BANDED
from oak_lever.figures.register.axle import AXLE
from oak_lever.figures.register.faults import FAULTS
from oak_lever.figures.register.kinds import (
    COLUMNS,
    USES,
    At,
    Column,
    Construction,
    Figure,
    Judgment,
    Limits,
    Of,
    Own,
    Pull,
    Range,
    Read,
    Scale,
    Severity,
    SweepName,
    Unit,
)
from oak_lever.figures.register.loads import LOADS
from oak_lever.figures.register.parts import PARTS

FIGURES = (*AXLE, *PARTS, *FAULTS, *LOADS)
BY_ID = {figure.id: figure for figure in FIGURES}
BANDED.update(figure.id for figure in (*AXLE, *PARTS) if figure.verdict is not None)

__all__ = [
    "AXLE",
    "BY_ID",
    "COLUMNS",
    "FAULTS",
    "FIGURES",
    "PARTS",
    "USES",
    "At",
    "Column",
    "Construction",
    "Figure",
    "Judgment",
    "Limits",
    "Of",
    "Own",
    "Pull",
    "Range",
    "Read",
    "Scale",
    "Severity",
    "SweepName",
    "Unit",
]
