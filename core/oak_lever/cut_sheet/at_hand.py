"""Whether the tubes at hand are long enough, and enough, for all bars of a design: what a search for places may ask."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.cut_sheet.bars import bars_made
from oak_lever.cut_sheet.nest import fitting, nested
from oak_lever.design.cutting import Stock
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats


@dataclass(frozen=True)
class TubesAtHand:
    """Tubes in stock, each bar to be cut from one of its own size. A bar whose ends' making is not known can't be told
    how long its tube is."""

    stock: Stock

    def short(self, design: Design, names: Sequence[str]) -> Callable[[Floats], Floats]:
        """Of designs with other lengths between the joints of these bars, (N, B) mm: (N,) how much tube they lack, mm,
        cut in the order of `nest`. A bent bar is as much longer as its joints are farther apart.

        Raises:
            Refused: for a bar with no tube of its size at hand, or whose ends' making is not known, each said.
        """
        tubes = [one for one in self.stock.tubes for _ in range(one.count)]
        bars = [bar for bar in bars_made(design)[0] if bar.id in names]
        faults, takes = list[Fault](), list[float]()
        for bar in bars:
            if bar.stock_length is None:
                words = f"{bar.id}: how its ends are made is not known, so no tube can be told for it"
                faults.append(Fault("stock", words))
                continue
            takes.append(bar.stock_length - bar.center_to_center + self.stock.kerf)
            if not any(fitting(bar, one) for one in tubes):
                size = f"{bar.tube.diameter:g} by {bar.tube.wall:g} mm"
                faults.append(Fault("stock", f"{bar.id}: no tube of {size} is at hand"))
        if faults:
            raise Refused(faults)
        own = [[k for k, one in enumerate(tubes) if fitting(bar, one)] for bar in bars]
        columns = [names.index(bar.id) for bar in bars]

        def lacking(lengths: Floats) -> Floats:
            needs = (lengths[:, columns] + takes).tolist()
            return np.array([_lacking(need, own, [one.length for one in tubes]) for need in needs])

        return lacking

    def lacks(self, design: Design) -> list[str]:
        """What can't be cut from it, a line each; nothing where all bars can."""
        bars, faults = bars_made(design)
        nest = nested(bars, (), self.stock)
        return [*(one.message for one in faults), *(f"{bar}: {why}" for bar, why in nest.left_over)]


def _lacking(needs: Sequence[float], own: Sequence[Sequence[int]], rest: list[float]) -> float:
    """What the bars lack, mm: each, the longest first, from the first tube of its own that has room."""
    lacks = 0.0
    for n in sorted(range(len(needs)), key=lambda n: -needs[n]):
        k = next((k for k in own[n] if rest[k] >= needs[n]), None)
        if k is None:
            lacks += needs[n] - max(rest[k] for k in own[n])
        else:
            rest[k] -= needs[n]
    return lacks
