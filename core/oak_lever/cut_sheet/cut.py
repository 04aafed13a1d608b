"""Everything a design is cut and drilled from, and what stock it is cut from."""

from dataclasses import dataclass, replace
from typing import Any

from oak_lever.cut_sheet.bars import CutBar, bars_made
from oak_lever.cut_sheet.nest import Nest, nested
from oak_lever.design.cutting import Stock
from oak_lever.design.faults import Fault
from oak_lever.design.types import Design
from oak_lever.plates.brackets import CutBracket, Plate, brackets_made
from oak_lever.plates.truss import truss_made


@dataclass(frozen=True)
class Cut:
    """What can be made as drawn, and what is wrong with all else."""

    design: str
    bars: tuple[CutBar, ...]
    brackets: tuple[CutBracket, ...]
    truss: tuple[Plate, ...]
    nest: Nest | None
    faults: tuple[Fault, ...]

    @property
    def plates(self) -> list[Plate]:
        """Every plate of every bracket, and the truss's."""
        return [*(plate for bracket in self.brackets for plate in bracket.plates), *self.truss]

    def data(self) -> dict[str, Any]:
        """As the file format has it; the truss's plates where there is one."""
        truss = {"truss": {"plates": [one.data() for one in self.truss]}} if self.truss else {}
        return {
            "format": "oak-lever-cut", "version": 1, "design": self.design,
            "nest": self.nest.data() if self.nest else None,
            "bars": [one.data() for one in self.bars], "brackets": [one.data() for one in self.brackets],
            **truss,
        }  # fmt: skip


def cut(design: Design, stock: Stock | None = None) -> Cut:
    """Bars, brackets and truss of a design, nested on the stock where one is given."""
    bars, bars_wrong = bars_made(design)
    brackets, brackets_wrong = brackets_made(design)
    truss, truss_wrong = truss_made(design)
    wrong = (*bars_wrong, *brackets_wrong, *truss_wrong)
    made = Cut(design.name, tuple(bars), tuple(brackets), truss, None, wrong)
    return made if stock is None else replace(made, nest=nested(bars, made.plates, stock))
