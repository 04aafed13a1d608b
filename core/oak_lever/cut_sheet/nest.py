"""What is cut from which stock: bars by first fit decreasing, plates by their outlines.

A plate is placed by its support (how far it reaches along each of 72 normals): two plates are `gap` apart where along
one of these normals one ends that much before the other begins. That is so of their hulls and so of them; a hollow is
not used. Places looked at are those where it touches the sheet's edges and the plates that lie there already.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from oak_lever.cut_sheet.bars import CutBar
from oak_lever.design.cutting import PlateStock, Stock, TubeStock
from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.brackets import Plate

_NORMALS = 72
_TURNS = 24
_SAME_MM = 0.01
"""Diameters, walls and thicknesses within this are the same."""
_SPARE_MM = 1e-3
"""Kept beyond the gap, for outlines that are measured by their corners."""
_OFF_MM = 0.002
MOST_SHEETS = 200
"""Sheets that are looked at, of all counts together."""


def read_stock(text: str | bytes) -> Stock:
    """The stock in a file's text (UTF-8 JSON).

    Raises:
        Refused: with every fault of the file.
    """
    data = parse(text)
    if not isinstance(data, dict):
        raise Refused([Fault("", "not a stock file: the outermost value must be an object")])
    if too_deep(data):
        raise Refused(too_deep(data))
    return validated(Stock, data, list(not_finite(data, "")))


@dataclass(frozen=True)
class CutTube:
    """One length of the stock at that index: the bars cut from it, and what is left of it, mm."""

    stock: int
    pieces: tuple[str, ...]
    rest: float


@dataclass(frozen=True)
class Placed:
    """Where a plate's origin comes to lie on its sheet, mm, and how far it is turned, degrees."""

    part: str
    at: tuple[float, float]
    turn: float


@dataclass(frozen=True)
class CutSheet:
    """One sheet of the stock at that index."""

    stock: int
    parts: tuple[Placed, ...]


@dataclass(frozen=True)
class Nest:
    """What is cut from what, and what found no place, each with why."""

    bars: tuple[CutTube, ...]
    plates: tuple[CutSheet, ...]
    left_over: tuple[tuple[str, str], ...]

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "bars": [{"stock": one.stock, "pieces": list(one.pieces), "rest": one.rest} for one in self.bars],
            "plates": [
                {
                    "stock": one.stock,
                    "parts": [{"part": p.part, "at": list(p.at), "turn": p.turn} for p in one.parts],
                }
                for one in self.plates
            ],
            "left_over": [{"part": part, "why": why} for part, why in self.left_over],
        }


def nested(bars: Sequence[CutBar], plates: Sequence[Plate], stock: Stock) -> Nest:
    """Bars and plates on the stock."""
    tubes, no_tube = _bars(bars, stock)
    sheets, no_sheet = _plates(plates, stock)
    return Nest(tubes, sheets, (*no_tube, *no_sheet))


Left = list[tuple[str, str]]


def _bars(bars: Sequence[CutBar], stock: Stock) -> tuple[tuple[CutTube, ...], Left]:
    """First fit decreasing: each bar, the longest first, from the first length that has room for it and the saw."""
    lengths = [(n, one) for n, one in enumerate(stock.tubes) for _ in range(one.count)]
    rest = [one.length for _, one in lengths]
    pieces: list[list[str]] = [[] for _ in lengths]
    left: Left = []
    for bar in sorted(bars, key=lambda one: -(one.stock_length or 0.0)):
        if bar.stock_length is None:
            left.append((bar.id, "how its ends are made is not known, so its length is not"))
            continue
        fits = [k for k, (_, one) in enumerate(lengths) if fitting(bar, one)]
        need = bar.stock_length + stock.kerf
        k = next((k for k in fits if rest[k] >= need), None)
        if k is None:
            left.append((bar.id, _no_tube(bar, [lengths[k][1].length for k in fits], stock.kerf)))
            continue
        rest[k] -= need
        pieces[k].append(bar.id)
    used = [CutTube(lengths[k][0], tuple(found), rest[k]) for k, found in enumerate(pieces) if found]
    return tuple(used), left


def fitting(bar: CutBar, stock: TubeStock) -> bool:
    """Whether a tube in stock is of the bar's size, and of its material or of any."""
    tube = bar.tube
    alike = abs(tube.diameter - stock.diameter) <= _SAME_MM and abs(tube.wall - stock.wall) <= _SAME_MM
    return alike and stock.material in (None, tube.material)


def _no_tube(bar: CutBar, lengths: list[float], kerf: float) -> str:
    tube, need = bar.tube, (bar.stock_length or 0.0) + kerf
    if not lengths:
        of = f" of {tube.material}" if tube.material else ""
        return f"no tube of {tube.diameter:g} by {tube.wall:g} mm{of} is in stock"
    if max(lengths) < need:
        return f"it takes {need:.1f} mm with the saw's cut, and the longest tube is {max(lengths):g} mm"
    return f"it takes {need:.1f} mm with the saw's cut, and what the other bars leave is shorter"


@dataclass
class _Sheet:
    """A sheet with what lies on it: each plate's reach along the normals and where its origin is."""

    stock: int
    size: tuple[float, float]
    of: PlateStock
    parts: list[Placed] = field(default_factory=list)
    reach: list[Floats] = field(default_factory=list)
    at: list[Floats] = field(default_factory=list)


_ANGLES = np.linspace(0.0, 2.0 * np.pi, _NORMALS, endpoint=False)
_WAYS: Floats = np.stack([np.cos(_ANGLES), np.sin(_ANGLES)], axis=-1)
_RIGHT, _UP, _LEFT, _DOWN = 0, _NORMALS // 4, _NORMALS // 2, 3 * _NORMALS // 4


def _plates(plates: Sequence[Plate], stock: Stock) -> tuple[tuple[CutSheet, ...], Left]:
    """The largest first, each on the first sheet that has a place, as near its start as it goes."""
    every = [(n, one) for n, one in enumerate(stock.plates) for _ in range(one.count)][:MOST_SHEETS]
    sheets = [_Sheet(n, one.size, one) for n, one in every]
    left: Left = []
    for plate in sorted(plates, key=lambda one: -one.area):
        corners = np.array(plate.outline.points(_OFF_MM))
        reach = (_WAYS @ corners.T).max(axis=1) + _SPARE_MM / 2.0
        fits = [one for one in sheets if _cut_of(plate, one.of)]
        if not fits:
            of = f" of {plate.material}" if plate.material else ""
            left.append((plate.part, f"no plate {plate.thickness:g} mm thick{of} is in stock"))
        elif not any(_laid(plate, reach, sheet, stock.gap) for sheet in fits):
            left.append((plate.part, "no sheet has room for it with the gap that is wanted"))
    return tuple(CutSheet(one.stock, tuple(one.parts)) for one in sheets if one.parts), left


def _cut_of(plate: Plate, stock: PlateStock) -> bool:
    return abs(plate.thickness - stock.thickness) <= _SAME_MM and stock.material in (None, plate.material)


def _laid(plate: Plate, reach: Floats, sheet: _Sheet, gap: float) -> bool:
    """Whether the plate found a place on the sheet, where it now lies."""
    best: tuple[float, float, int, Floats] | None = None
    for k in range(_TURNS):
        own = np.roll(reach, k * _NORMALS // _TURNS)
        most = np.inf if best is None else best[0] - _SAME_MM - float(own[_RIGHT])
        at = _place(own, sheet, gap, most)
        if at is not None:
            score = (float(at[0] + own[_RIGHT]), float(at[1] + own[_UP]))
            if best is None or score < (best[0] - _SAME_MM, best[1]):
                best = (*score, k, at)
    if best is None:
        return False
    _, _, k, at = best
    sheet.parts.append(Placed(plate.part, (float(at[0]), float(at[1])), 360.0 / _TURNS * k))
    sheet.reach.append(np.roll(reach, k * _NORMALS // _TURNS))
    sheet.at.append(at)
    return True


_AT_ONCE = 64
"""Places that are held against the plates there together; mostly one of the first is free."""


def _place(own: Floats, sheet: _Sheet, gap: float, most: float) -> Floats | None:
    """Where the origin of a plate that reaches so far may lie, the place nearest the sheet's start; None: nowhere that
    is `most` or less from it."""
    edge = gap + _SPARE_MM
    low = np.array([edge + own[_LEFT], edge + own[_DOWN]])
    high = np.array([sheet.size[0] - edge - own[_RIGHT], sheet.size[1] - edge - own[_UP]])
    if (high < low).any():
        return None
    # keep[j, k]: how far along normal k the origin must be from plate j's for both to be `gap` apart along it
    opposite = np.roll(own, _NORMALS // 2)
    keep = np.array([reach + opposite + gap + _SPARE_MM for reach in sheet.reach]).reshape(-1, _NORMALS)
    at = np.array(sheet.at).reshape(-1, 2)
    least = at @ _WAYS.T + keep - 1e-7
    places = np.concatenate([low[None], *_touching(keep, at, low, high)])
    inside = ((places >= low - 1e-9) & (places <= high + 1e-9)).all(axis=1) & (places[:, 0] <= most)
    places = places[inside]
    places = places[np.lexsort((places[:, 1], np.round(places[:, 0], 3)))]
    for first in range(0, len(places), _AT_ONCE):
        some = places[first : first + _AT_ONCE]
        free = np.flatnonzero(((some @ _WAYS.T)[:, None] >= least).any(axis=-1).all(axis=-1))
        if len(free):
            out: Floats = some[free[0]]
            return out
    return None


def _touching(keep: Floats, at: Floats, low: Floats, high: Floats) -> Iterator[Floats]:
    """Places where a plate touches another one at two normals, or one and an edge of the sheet."""
    following, after = np.roll(_WAYS, -1, axis=0), np.roll(keep, -1, axis=1)
    cross = _WAYS[:, 0] * following[:, 1] - _WAYS[:, 1] * following[:, 0]
    x = (keep * following[:, 1] - after * _WAYS[:, 1]) / cross
    y = (after * _WAYS[:, 0] - keep * following[:, 0]) / cross
    yield (at[:, None] + np.stack([x, y], axis=-1)).reshape(-1, 2)
    for axis in (0, 1):
        steep = np.abs(_WAYS[:, 1 - axis]) > 1e-9
        ways = _WAYS[steep]
        for edge in (low[axis], high[axis]):
            along = (keep[:, steep] - ways[:, axis] * (edge - at[:, axis, None])) / ways[:, 1 - axis]
            place = np.empty((*along.shape, 2))
            place[..., axis], place[..., 1 - axis] = edge, at[:, 1 - axis, None] + along
            yield place.reshape(-1, 2)
