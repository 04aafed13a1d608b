"""Patterns on paper at full size: plates on tiled pages, and wraps that mark a tube's cope."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import ceil, cos, pi, sin, sqrt

from oak_lever.caution import BRIEF
from oak_lever.plates.brackets import Plate
from oak_lever.sheet.page import HAIR, HEAVY, MEDIUM, PAPERS, THIN, Mark, Paper, Words, Xy, line
from oak_lever.sheet.writers import pdf, svg

BAR_MM = 100.0
_MARGIN_MM = 12.0
_FOOT_MM = 26.0
_OFF_MM = 0.01
_CIRCLE = 120
_AROUND = 180


def templates_pdf(plates: Sequence[Plate], paper: Paper, title: str) -> bytes:
    """Every plate that is not cut like an earlier one, at full size, on as many pages as it takes; the same plates give
    the same bytes. Without a plate, one page that says so."""
    size = PAPERS[paper]
    pages = [page for plate in plates if plate.same_as is None for page in _tiles(plate, size)]
    if not pages:
        pages = [[Words("No brackets are drawn.", (_MARGIN_MM, _MARGIN_MM + 6.0), 5.0), *_foot(size)]]
    return pdf(pages, size, title)


def template_svg(plate: Plate) -> str:
    """A plate at full size on a sheet of its own size, with a bar to measure."""
    corners = plate.outline.points(_OFF_MM)
    left, top = min(u for u, _ in corners), max(v for _, v in corners)
    wide = max(max(u for u, _ in corners) - left, BAR_MM + 70.0) + 2.0 * _MARGIN_MM
    high = top - min(v for _, v in corners) + 2.0 * _MARGIN_MM + _FOOT_MM
    paths = [_closed(corners), *(path for hole in plate.holes for path in _hole(hole))]
    marks: list[Mark] = [line(*(_on_page(at, (left, top)) for at in path), width=THIN) for path in paths]
    marks += [Words(f"{plate.part}: {plate.thickness:g} mm plate", (_MARGIN_MM, _MARGIN_MM - 4.0), 4.0, bold=True)]
    return svg([[*marks, *_bar((_MARGIN_MM, high - _MARGIN_MM - 8.0))]], (wide, high), f"template of {plate.part}")


def _tiles(plate: Plate, size: Xy) -> Iterator[list[Mark]]:
    """A plate's pages: those that meet share a line, with crosses at their corners to lay one on the other by."""
    corners = plate.outline.points(_OFF_MM)
    left, top = min(u for u, _ in corners) - 2.0, max(v for _, v in corners) + 2.0
    wide, high = max(u for u, _ in corners) + 2.0 - left, top - (min(v for _, v in corners) - 2.0)
    cell = (size[0] - 2.0 * _MARGIN_MM, size[1] - 2.0 * _MARGIN_MM - _FOOT_MM)
    columns, rows = ceil(wide / cell[0]), ceil(high / cell[1])
    paths = [_closed(corners), *(path for hole in plate.holes for path in _hole(hole))]
    for row in range(rows):
        for column in range(columns):
            corner = (left + column * cell[0], top - row * cell[1])
            marks: list[Mark] = [
                line(*(_on_page(at, corner) for at in part), width=THIN)
                for path in paths for part in _within(path, corner, cell)
            ]  # fmt: skip
            marks += _crosses(cell)
            where = f", page {row * columns + column + 1} of {rows * columns}" if rows * columns > 1 else ""
            of = f" of {plate.material}" if plate.material else ""
            words = f"{plate.part}: {plate.thickness:g} mm plate{of}{where}"
            yield [*marks, Words(words, (_MARGIN_MM, _MARGIN_MM - 4.0), 4.0, bold=True), *_foot(size)]


def _on_page(at: Xy, corner: Xy) -> Xy:
    return at[0] - corner[0] + _MARGIN_MM, corner[1] - at[1] + _MARGIN_MM


def _closed(corners: Sequence[Xy]) -> list[Xy]:
    return [*corners, corners[0]]


def _hole(hole: tuple[float, float, float]) -> Iterator[list[Xy]]:
    """Its circle, and a cross at its center to punch by."""
    u, v, across = hole
    r = across / 2.0
    around = (2.0 * pi * k / _CIRCLE for k in range(_CIRCLE + 1))
    yield [(u + r * cos(t), v + r * sin(t)) for t in around]
    yield [(u - r, v), (u + r, v)]
    yield [(u, v - r), (u, v + r)]


def _within(path: Sequence[Xy], corner: Xy, cell: Xy) -> Iterator[tuple[Xy, Xy]]:
    """What of a path lies on a page, segment by segment (Liang and Barsky)."""
    low, high = (corner[0], corner[1] - cell[1]), (corner[0] + cell[0], corner[1])
    for a, b in pairwise(path):
        start, end = 0.0, 1.0
        for axis in (0, 1):
            way = b[axis] - a[axis]
            for away, room in ((-way, a[axis] - low[axis]), (way, high[axis] - a[axis])):
                if away == 0.0:
                    start = 2.0 if room < 0.0 else start
                elif away < 0.0:
                    start = max(start, room / away)
                else:
                    end = min(end, room / away)
        if start < end:
            yield tuple((a[0] + s * (b[0] - a[0]), a[1] + s * (b[1] - a[1])) for s in (start, end))  # type: ignore[misc]


def _crosses(cell: Xy) -> Iterator[Mark]:
    for x in (_MARGIN_MM, _MARGIN_MM + cell[0]):
        for y in (_MARGIN_MM, _MARGIN_MM + cell[1]):
            yield line((x - 4.0, y), (x + 4.0, y), width=HAIR)
            yield line((x, y - 4.0), (x, y + 4.0), width=HAIR)


def _foot(size: Xy) -> Iterator[Mark]:
    yield from _bar((_MARGIN_MM, size[1] - _MARGIN_MM - 8.0))
    for n, words in enumerate(BRIEF):
        yield Words(words, (_MARGIN_MM + BAR_MM + 10.0, size[1] - _MARGIN_MM - 10.0 + 4.0 * n), 2.6)


def _bar(at: Xy) -> Iterator[Mark]:
    """A bar of 100 mm, and what to do with it."""
    x, y = at
    yield line((x, y), (x + BAR_MM, y), width=HEAVY)
    for k in range(11):
        tall = 3.0 if k % 5 == 0 else 1.5
        yield line((x + 10.0 * k, y - tall), (x + 10.0 * k, y + tall), width=THIN)
    yield Words("100 mm: measure it on the print before you cut", (x, y + 7.0), 3.0)


def cope_depth(tube: float, outside: float, t: float) -> float:
    """How far from the sleeve's axis the tube's wall ends, mm, t radians around it from the way of the bolt. Both are
    round and square to each other: the wall, tube/2 sin t aside of the sleeve's axis, meets it at
    sqrt((outside/2)^2 - (tube/2 sin t)^2); a wall that passes beside the sleeve ends at its axis."""
    return sqrt(max((outside / 2.0) ** 2 - (tube / 2.0 * sin(t)) ** 2, 0.0))


def cope_svg(bar: str, end: str, tube: float, outside: float) -> str:
    """A wrap about the tube at full size: its lower edge goes square around the tube, its upper edge is the cut."""
    around = pi * tube
    deepest = outside / 2.0
    base = 40.0
    high = deepest + base + 2.0 * _MARGIN_MM + 22.0
    wide = max(around, BAR_MM + 70.0) + 2.0 * _MARGIN_MM
    foot = _MARGIN_MM + deepest + base

    def at(k: int) -> Xy:
        t = 2.0 * pi * k / _AROUND
        # what the wall is longer than at its shortest, up from the base line
        return _MARGIN_MM + around * k / _AROUND, foot - base - (deepest - cope_depth(tube, outside, t))

    cut = [at(k) for k in range(_AROUND + 1)]
    marks: list[Mark] = [line(*cut, width=MEDIUM)]
    marks += [line((_MARGIN_MM, cut[0][1]), (_MARGIN_MM, foot), (_MARGIN_MM + around, foot), cut[-1], width=MEDIUM)]
    for part, words in ((0.0, "bolt"), (0.25, "side"), (0.5, "bolt"), (0.75, "side")):
        x = _MARGIN_MM + around * part
        marks += [line((x, foot), (x, foot - base), width=HAIR), Words(words, (x + 1.0, foot - 2.0), 2.6)]
    marks.append(Words(f"{bar}, {end} end: tube {tube:g}, sleeve {outside:g} mm", (_MARGIN_MM, 6.0), 3.6, bold=True))
    lowest = "Wrap it about the tube: the cut's lowest points lie on the bolt's line."
    marks.append(Words(lowest, (_MARGIN_MM, 10.5), 2.8))
    marks += _bar((_MARGIN_MM, foot + 10.0))
    return svg([marks], (wide, high), f"cope of {bar}, {end} end")
