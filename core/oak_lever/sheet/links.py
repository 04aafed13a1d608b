"""The shop drawing of a design: three views at ride, as large as the paper lets them be, with mark-out figures,
numbered mounts, title block and caution; the tables beside them, and on a second page what has no room there."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oak_lever.caution import WHOLE
from oak_lever.design.parts import parts_of
from oak_lever.design.types import Design
from oak_lever.figures.register import USES
from oak_lever.judge.findings import findings_on
from oak_lever.judge.house import DEFAULT_USE
from oak_lever.sheet.page import (
    HEAVY,
    MEDIUM,
    PAPER_NAMES,
    PAPERS,
    THIN,
    Mark,
    Paper,
    Words,
    Xy,
    box,
    fitting,
    line,
    wrapped,
)
from oak_lever.sheet.placed import LADDER, Rung, balloons, dimension, ladder
from oak_lever.sheet.tables import STEP, Table, holds, lines_of, split, tables_of
from oak_lever.sheet.views import TITLES, View, drawn, extent_of, top_half
from oak_lever.units import Units, length

SCALES = (1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 16, 20, 24, 25, 30, 32, 40, 48, 50, 60, 75, 100, 150, 200, 500, 1000)
_MARGIN = 9.0
_AIR = 3.0
INSIDE = _MARGIN + _AIR
"""Of a page's edge, mm: where what is drawn on it may begin."""
_HEAD = 6.0
_TRACK = 6.0
_TITLE = (92.0, 41.0)
_CAUTION = 2.5
_LEAST_TABLE = 122.0
_BESIDE = 8.0
"""Between columns of tables."""
_BAR_MM: dict[Units, float] = {"mm": 250.0, "inch": 254.0, "in16": 254.0, "in32": 254.0}


@dataclass(frozen=True)
class Titles:
    """What the title block says beside the design's own name."""

    build: str
    revision: int
    date: str
    guessed: tuple[str, ...] = ()
    """What of the truck and this axle nobody has measured or looked up."""


@dataclass(frozen=True)
class _Laid:
    """The views at the scale that fills the paper; `corner`: the left and top of the room below the rear view."""

    scale: int
    views: tuple[View, View, View]
    corner: Xy


def links_sheet(design: Design, units: Units, titles: Titles, paper: Paper = "a3") -> list[list[Mark]]:
    """The marks of each page, within `PAPERS[paper]`. The same design gives the same marks."""
    laid = _laid(design, PAPERS[paper])
    first: list[Mark] = []
    for view in laid.views:
        seen = list(drawn(design, view))
        written = list(_measured(design, view, units))
        first += [*seen, *written, *balloons(design, view, seen, written), *_named(view)]
    rest = tables_of(design, findings_on(design), units)
    left, top = laid.corner
    wide, high = PAPERS[paper][0] - _MARGIN - left - _AIR, _foot(PAPERS[paper], left) - top
    if wide >= _LEAST_TABLE:
        while rest and rest[0].high <= high:
            table, *rest = rest
            first += lines_of(table, left, top, wide)
            top, high = top + table.high, high - table.high
    first += _scale_bar(laid, left, _foot(PAPERS[paper], left) + 2.0, units)
    pages = [first, *table_pages(rest, PAPERS[paper])]
    for n, page in enumerate(pages, 1):
        page.extend(framed(design, units, titles, f"1:{laid.scale}", paper, (n, len(pages)), left))
    return pages


def _laid(design: Design, size: Xy) -> _Laid:
    low, high = extent_of(design)
    long, wide, tall = (h - lo for lo, h in zip(low, high, strict=True))
    half = top_half(design)
    room = size[0] - 2 * (_MARGIN + _AIR) - 2 * LADDER - 2 * _AIR
    heights = size[1] - 2 * (_MARGIN + _AIR) - 2 * (LADDER + _HEAD)
    beside = _TITLE[0] - LADDER
    fits = (
        s for s in SCALES
        if max(wide / s, beside) + long / s <= room and (tall + 2 * half) / s <= heights
        and 2 * half / s + LADDER >= _TITLE[1] + 30.0
    )  # fmt: skip
    scale = next(fits, SCALES[-1])
    left, upper = _MARGIN + _AIR + LADDER, _MARGIN + _AIR + _HEAD
    until, floor = left + long / scale, upper + tall / scale
    right, below = until + 2 * _AIR, floor + LADDER + _HEAD
    last, bottom = right + max(wide / scale, beside), below + 2 * half / scale
    inset = (last - right - wide / scale) / 2
    side, top, rear = (
        View("side", lambda p: (left + (high[0] - p[0]) / scale, floor - (p[2] - low[2]) / scale), scale,
             (left, upper, until, floor)),
        View("top", lambda p: (left + (high[0] - p[0]) / scale, below + (p[1] + half) / scale), scale,
             (left, below, until, bottom)),
        View("rear", lambda p: (right + inset + (high[1] - p[1]) / scale, floor - (p[2] - low[2]) / scale), scale,
             (right, upper, last, floor)),
    )  # fmt: skip
    return _Laid(scale, (side, top, rear), (right + _AIR, floor + LADDER + _TRACK + _AIR))


def _measured(design: Design, view: View, units: Units) -> Iterator[Mark]:
    """Every mount's place off the floor, ahead of the axle and out from center, by what the view shows of it."""
    axle = design.axle
    center = (0.0, 0.0, axle.tire_radius_loaded)
    places = [spot.at for spot in parts_of(design).spots]
    if view.name != "top":
        heights = [Rung(p[2], p) for p in (*places, center)]
        yield from ladder(view, "left" if view.name == "side" else "right", heights, "off the floor", units)
    else:
        yield from ladder(view, "left", [Rung(abs(p[1]), p) for p in places], "out from center", units)
    if view.name != "rear":
        ahead = [Rung(p[0], p) for p in places if abs(p[0]) > 0.5]
        yield from ladder(view, "below", ahead, "ahead of the axle (behind: minus)", units)
        return
    yield from ladder(view, "below", [Rung(abs(p[1]), p) for p in places], "out from center", units)
    ends = [view.to((0.0, hand * axle.track / 2, 0.0))[0] for hand in (1, -1)]
    y = view.box[3] + LADDER + _TRACK - 2.0
    yield from dimension((ends[0], y), (ends[1], y), f"track {length(axle.track, units)}")


def _named(view: View) -> Iterator[Mark]:
    left, top, _, _ = view.box
    yield Words(TITLES[view.name], (left, top - 2.0), 3.2, bold=True)


def _foot(size: Xy, left: float) -> float:
    """Where the scale bar, caution and title block begin, from the page's top."""
    lines = len(_cautions(size, left))
    return size[1] - _MARGIN - _TITLE[1] - lines * _CAUTION * 1.3 - 14.0


def _cautions(size: Xy, left: float) -> list[str]:
    return wrapped(" ".join(WHOLE), _CAUTION, size[0] - _MARGIN - _AIR - left)


def _scale_bar(laid: _Laid, left: float, top: float, units: Units) -> Iterator[Mark]:
    """A bar of true lengths, so that a print can be checked with a tape: 0, 250, 500 mm or 0, 10, 20 in."""
    unit = _BAR_MM[units] / laid.scale
    unit = unit if 2 * unit < 60 else unit / 5
    said = (250 if units == "mm" else 10) // (1 if unit == _BAR_MM[units] / laid.scale else 5)
    for n in range(2):
        yield box(left + n * unit, top + 3.0, unit, 1.6, THIN, fill=0.0 if n == 0 else 1.0)
    for n in range(3):
        yield Words(f"{n * said}", (left + n * unit, top + 1.8), 2.6, "middle")
    word = "mm" if units == "mm" else "in"
    yield Words(f"{word}, scale 1:{laid.scale}", (left + 2 * unit + 4.0, top + 4.6), 2.6)


def table_pages(tables: Sequence[Table], size: Xy) -> list[list[Mark]]:
    """The tables in columns that cut no name off, over as few pages as they take, as wide as those allow."""
    most = max(1, int((size[0] - 2 * INSIDE + _BESIDE) / (_LEAST_TABLE + _BESIDE)))
    whole = [n for n in range(1, most + 1) if all(holds(table, _column(size, n)) for table in tables)]
    laid = [list(_in_columns(tables, size, columns)) for columns in whole or range(1, most + 1)]
    return min(laid, key=len)


def _column(size: Xy, columns: int) -> float:
    """How wide each is."""
    return (size[0] - 2 * INSIDE - _BESIDE * (columns - 1)) / columns


def _in_columns(tables: Sequence[Table], size: Xy, columns: int) -> Iterator[list[Mark]]:
    left = top = INSIDE
    wide = _column(size, columns)
    bottom = size[1] - _MARGIN - _TITLE[1] - _AIR
    waiting, page, column, y = list(tables), list[Mark](), 0, top
    while waiting:
        table = waiting.pop(0)
        if table.high > bottom - y:
            rows = int((bottom - y - 4.0) / STEP) - 2
            if rows > 2 and y == top:
                table, after = split(table, rows)
                waiting.insert(0, after)
            else:
                waiting.insert(0, table)
                column, y = column + 1, top
                if column == columns:
                    yield page
                    page, column = [], 0
                continue
        page += lines_of(table, left + column * (wide + _BESIDE), y, wide)
        y += table.high
    if page:
        yield page


def framed(
    design: Design, units: Units, titles: Titles, scale: str, paper: Paper, page: tuple[int, int], beside: float | None
) -> Iterator[Mark]:
    """Edge, title block and caution, on every page; `scale` in words. `beside`: where the caution of the first page
    starts, over the title block; None: it stands beside that, as on the others."""
    size = PAPERS[paper]
    yield box(_MARGIN, _MARGIN, size[0] - 2 * _MARGIN, size[1] - 2 * _MARGIN, HEAVY)
    wide = 150.0 if beside is None else min(size[0] - _MARGIN - beside + _AIR, 150.0)
    left, top = size[0] - _MARGIN - wide, size[1] - _MARGIN - _TITLE[1]
    if beside is not None and page[0] == 1:
        lines, at, y = _cautions(size, beside), beside, top - 2.0 - _CAUTION * 1.3 * (len(_cautions(size, beside)) - 1)
    else:
        lines = wrapped(" ".join(WHOLE), _CAUTION, left - _MARGIN - 2 * _AIR)
        at, y = _MARGIN + _AIR, top + 6.0
    for n, text in enumerate(lines):
        yield Words(text, (at, y + n * _CAUTION * 1.3), _CAUTION)
    yield from _title_block(design, units, titles, (left, top, wide), f"{scale} on {PAPER_NAMES[paper]}", page)


def _title_block(
    design: Design, units: Units, titles: Titles, at: tuple[float, float, float], scale: str, page: tuple[int, int]
) -> Iterator[Mark]:
    left, top, wide = at
    room = wide - 6.0
    yield box(left, top, wide, _TITLE[1], MEDIUM)
    for y in (19.5, 27.0):
        yield line((left, top + y), (left + wide, top + y), width=THIN)
    yield Words(fitting(titles.build, 3.0, room - 18.0), (left + 3.0, top + 4.8), 3.0)
    yield Words("Oak Lever", (left + wide - 3.0, top + 4.8), 3.0, "end", bold=True)
    yield Words(fitting(design.name, 4.8, room, bold=True), (left + 3.0, top + 11.2), 4.8, bold=True)
    guessed = f"Guessed, to be measured: {', '.join(titles.guessed)}." if titles.guessed else ""
    yield Words(fitting(_reason(design), 2.6, room), (left + 3.0, top + 15.0), 2.6)
    yield Words(fitting(guessed, 2.3, room), (left + 3.0, top + 18.4), 2.3)
    yield Words(f"Revision {titles.revision}, {titles.date}", (left + 3.0, top + 24.4), 3.0)
    yield Words(f"{scale}, sheet {page[0]} of {page[1]}", (left + wide - 3.0, top + 24.4), 3.0, "end")
    use = USES[design.use or DEFAULT_USE].lower()
    end = "Rear axle" if design.axle.end == "rear" else "Front axle"
    tape = {"mm": "millimeters", "inch": "inches", "in16": "inches to 1/16", "in32": "inches to 1/32"}[units]
    yield Words(f"{end} at ride. Judged for {use}. Figures in {tape}.", (left + 3.0, top + 31.0), 2.6)
    yield Words("Joint centers. Use the figures, do not scale. Front is left.", (left + 3.0, top + 34.8), 2.6)
    yield Words("Drawn by", (left + 3.0, top + 39.2), 2.6)
    yield Words("Checked by", (left + wide / 2, top + 39.2), 2.6)


def _reason(design: Design) -> str:
    """Why there is this design: the first line of its notes."""
    return next(iter(design.notes.strip().splitlines()), "")
