"""The shop drawing of a design: three views at ride to a round scale, mounts numbered, tables, title block, caution."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import hypot
from textwrap import wrap

from oak_lever.caution import WHOLE
from oak_lever.cycle import cycle
from oak_lever.design.parts import Spot, bars_of, parts_of, words_of
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.links import link_figures
from oak_lever.figures.register import USES
from oak_lever.judge.findings import Finding, findings
from oak_lever.judge.house import DEFAULT_USE
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.sheet.page import (
    A3_LANDSCAPE,
    CENTER,
    HAIR,
    HEAVY,
    HIDDEN,
    MEDIUM,
    THIN,
    Mark,
    Ring,
    Stroke,
    Words,
    Xy,
    box,
    line,
)  # fmt: skip
from oak_lever.units import Units, length

MARGIN = 10.0
SCALES = (5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 75, 100)
_DIMENSION_STEP = 5.0
_VIEWS = (252.0, 250.0)
"""Room for the three views, mm wide and high; the tables stand to the right of it."""


@dataclass(frozen=True)
class Titles:
    """What the title block says beside the design's own name."""

    build: str
    revision: int
    date: str


View = Callable[[Point], Xy]


def links_sheet(design: Design, units: Units, titles: Titles) -> list[Mark]:
    """Every mark of the sheet, on `A3_LANDSCAPE`."""
    scale, side, top, rear = _projections(design)
    found = findings(cycle(design))
    marks: list[Mark] = [box(MARGIN, MARGIN, A3_LANDSCAPE[0] - 2 * MARGIN, A3_LANDSCAPE[1] - 2 * MARGIN, HEAVY)]
    for view in (side, top, rear):
        marks += [*_wheels(design, view), *_rails(design, view), *_axle(design, view), *_links(design, view)]
    marks += [*_ground(design, side, rear), *_centerlines(design, side, top, rear), *_numbers(design, side, top, rear)]
    marks += _dimensions(design, side, rear, units)
    marks += [*_names(design, side, top, rear), *_scale_bar(scale, units)]
    marks += [
        *_mount_table(design, units),
        *_link_table(design, units),
        *_figure_table(_after(len(parts_of(design).spots), len(bars_of(parts_of(design)))), found, units),
    ]
    return [*marks, *_title_block(design, scale, titles), *_caution()]


def _projections(design: Design) -> tuple[int, "_View", "_View", "_View"]:
    low, high = _extent(design)
    long, wide, tall = (h - lo for lo, h in zip(low, high, strict=True))
    beside, under = 10.0, 12.0 + _DIMENSION_STEP * (1 + len(_stations(design)))
    fits = (s for s in SCALES if (long + wide) / s + beside <= _VIEWS[0] and (tall + wide) / s + under <= _VIEWS[1])
    scale = next(fits, SCALES[-1])
    left, upper = MARGIN + 6.0, MARGIN + 10.0
    right, floor = left + long / scale + beside, upper + tall / scale
    below = floor + under
    return (
        scale,
        _View("side", lambda p: (left + (high[0] - p[0]) / scale, floor - (p[2] - low[2]) / scale), scale),
        _View("top", lambda p: (left + (high[0] - p[0]) / scale, below + (p[1] - low[1]) / scale), scale),
        _View("rear", lambda p: (right + (high[1] - p[1]) / scale, floor - (p[2] - low[2]) / scale), scale),
    )


def _stations(design: Design) -> list[float]:
    """How far ahead of the axle's centerline the frame mounts stand, each once, mm."""
    ahead = {round(spot.at[0]): spot.at[0] for spot in parts_of(design).spots if spot.name.endswith(".frame")}
    return [x for x in ahead.values() if abs(x) > 20.0]


@dataclass(frozen=True)
class _View:
    """The front of the truck is to the left in side and top view; the rear view looks forward."""

    name: str
    to: View
    scale: float


def _extent(design: Design) -> tuple[Point, Point]:
    axle, r = design.axle, design.axle.tire_diameter / 2
    half = axle.track / 2 + axle.tire_width / 2 + 20
    points = [spot.at for spot in parts_of(design).spots]
    rails = design.rails
    top = max(
        [axle.tire_radius_loaded + r, *(p[2] + 40 for p in points), (rails.underside + rails.depth) if rails else 0.0]
    )
    ahead = max([r, *(p[0] + 120 for p in points)])
    behind = min([-r, *(p[0] - 120 for p in points)])
    return (behind, -half, -30.0), (ahead, half, top + 20)


def _wheels(design: Design, view: _View) -> Iterator[Mark]:
    axle = design.axle
    r, z, w = axle.tire_diameter / 2, axle.tire_radius_loaded, axle.tire_width / 2
    if view.name == "side":
        yield Ring(view.to((0.0, 0.0, z)), r / view.scale, THIN, HIDDEN)
        return
    for hand in (1, -1):
        y = hand * axle.track / 2
        corners = [(r, y + w), (r, y - w), (-r, y - w), (-r, y + w)] if view.name == "top" else []
        points: list[Point] = [(a, b, z) for a, b in corners] or [
            (0.0, y + w, z + r), (0.0, y - w, z + r), (0.0, y - w, 0.0), (0.0, y + w, 0.0),
        ]  # fmt: skip
        yield Stroke(tuple(view.to(p) for p in points), THIN, closed=True, fill=0.96)


def _rails(design: Design, view: _View) -> Iterator[Mark]:
    rails = design.rails
    if rails is None:
        return
    (behind, _, _), (ahead, _, _) = _extent(design)
    under, over = rails.underside, rails.underside + rails.depth
    for hand in (1, -1):
        y, inside = hand * rails.outside_width / 2, hand * (rails.outside_width / 2 - rails.flange)
        points: list[Point] = {
            "side": [(behind, y, under), (ahead, y, under), (ahead, y, over), (behind, y, over)],
            "top": [(behind, y, under), (ahead, y, under), (ahead, inside, under), (behind, inside, under)],
            "rear": [(0.0, y, under), (0.0, y, over), (0.0, inside, over), (0.0, inside, under)],
        }[view.name]
        yield Stroke(tuple(view.to(p) for p in points), THIN, closed=True, fill=0.93 if view.name != "rear" else None)


def _axle(design: Design, view: _View) -> Iterator[Mark]:
    axle, z = design.axle, design.axle.tire_radius_loaded
    t, half = axle.tube_diameter / 2, axle.track / 2 - axle.tire_width / 2
    if view.name != "side":
        ends: list[Point] = (
            [(t, half, z), (t, -half, z), (-t, -half, z), (-t, half, z)]
            if view.name == "top"
            else [(0.0, half, z + t), (0.0, -half, z + t), (0.0, -half, z - t), (0.0, half, z - t)]
        )
        yield Stroke(tuple(view.to(p) for p in ends), MEDIUM, closed=True, fill=0.88)
    joint = axle.pinion.joint
    center = view.to((0.0, joint[1], z))
    if view.name != "rear":
        yield line(center, view.to(joint), width=MEDIUM)
        yield Ring(view.to(joint), 30.0 / view.scale, THIN, fill=1.0)
    yield Ring(center, 1.7 * t / view.scale if view.name == "side" else 3.2 * t / view.scale, MEDIUM, fill=0.88)


def _links(design: Design, view: _View) -> Iterator[Mark]:
    for body in parts_of(design).bodies:
        yield from _tube(view.to(body.a.at), view.to(body.b.at), body.diameter / 2 / view.scale)


def _tube(a: Xy, b: Xy, half: float) -> Iterator[Mark]:
    long = hypot(b[0] - a[0], b[1] - a[1])
    if long > 1e-6:
        nx, ny = -(b[1] - a[1]) / long * half, (b[0] - a[0]) / long * half
        sides = ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny))
        yield Stroke(sides, MEDIUM, closed=True, fill=1.0)
    for end in (a, b):
        yield Ring(end, half * 1.5, MEDIUM, fill=1.0)
        yield Ring(end, half * 0.5, THIN, fill=0.0)


def _ground(design: Design, *views: _View) -> Iterator[Mark]:
    (behind, right, _), (ahead, left, _) = _extent(design)
    for view in views:
        ends = ((ahead, 0.0, 0.0), (behind, 0.0, 0.0)) if view.name == "side" else ((0.0, left, 0.0), (0.0, right, 0.0))
        yield line(view.to(ends[0]), view.to(ends[1]), width=HEAVY)


def _centerlines(design: Design, side: _View, top: _View, rear: _View) -> Iterator[Mark]:
    low, high = _extent(design)
    z = design.axle.tire_radius_loaded
    yield line(side.to((0.0, 0.0, low[2])), side.to((0.0, 0.0, high[2])), width=HAIR, dash=CENTER)
    yield line(top.to((low[0], 0.0, z)), top.to((high[0], 0.0, z)), width=HAIR, dash=CENTER)
    yield line(top.to((0.0, low[1], z)), top.to((0.0, high[1], z)), width=HAIR, dash=CENTER)
    yield line(rear.to((0.0, 0.0, low[2])), rear.to((0.0, 0.0, high[2])), width=HAIR, dash=CENTER)


def _numbers(design: Design, *views: _View) -> Iterator[Mark]:
    """Each mount's number on a leader, set off from the joint away from the view's middle; near ones share a leader."""
    for view in views:
        groups: dict[tuple[int, int], list[int]] = {}
        taken: list[Xy] = []
        for number, spot in enumerate(parts_of(design).spots, 1):
            x, y = view.to(spot.at)
            groups.setdefault((round(x / 2.5), round(y / 2.5)), []).append(number)
        for (gx, gy), numbers in groups.items():
            at = (gx * 2.5, gy * 2.5)
            spot_at = view.to(parts_of(design).spots[numbers[0] - 1].at)
            text = ", ".join(map(str, numbers))
            lift = -9.0 if (numbers[0] + gx) % 2 else -6.5
            end = (at[0] + 5.0, at[1] + lift)
            while any(abs(end[0] - x) < 7.0 and abs(end[1] - y) < 3.5 for x, y in taken):
                end = (end[0], end[1] - 3.6)
            taken.append(end)
            yield line(spot_at, end, width=HAIR)
            yield Words(text, (end[0] + 0.6, end[1] - 0.3), 2.9, bold=True)


def _dimensions(design: Design, side: _View, rear: _View, units: Units) -> Iterator[Mark]:
    """Frame mounts ahead of the axle's centerline, the axle's height, the track."""
    floor = side.to((0.0, 0.0, 0.0))[1]
    for n, x in enumerate(_stations(design)):
        y = floor + 6.0 + _DIMENSION_STEP * n
        for station in (x, 0.0):
            across = side.to((station, 0.0, 0.0))[0]
            yield line((across, floor + 1.0), (across, y + 1.0), width=HAIR)
        yield from _dimension((side.to((x, 0.0, 0.0))[0], y), (side.to((0.0, 0.0, 0.0))[0], y), length(abs(x), units))
    half = design.axle.track / 2
    left, right = (rear.to((0.0, y, 0.0))[0] for y in (half, -half))
    yield from _dimension((left, floor + 6.0), (right, floor + 6.0), f"track {length(2 * half, units)}")
    at = side.to((-design.axle.tire_diameter / 2 + 40.0, 0.0, 0.0))[0]
    top = side.to((0.0, 0.0, design.axle.tire_radius_loaded))[1]
    yield from _dimension((at, top), (at, floor), length(design.axle.tire_radius_loaded, units))


def _dimension(a: Xy, b: Xy, text: str) -> Iterator[Mark]:
    yield line(a, b, width=HAIR)
    long = hypot(b[0] - a[0], b[1] - a[1])
    if long > 6.0:
        ux, uy = (b[0] - a[0]) / long, (b[1] - a[1]) / long
        for (x, y), way in ((a, 1.0), (b, -1.0)):
            wing = [(x + way * 2.4 * ux - s * uy * 0.5, y + way * 2.4 * uy + s * ux * 0.5) for s in (1.0, -1.0)]
            yield Stroke(((x, y), *wing), HAIR, closed=True, fill=0.0)
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    flat = abs(a[1] - b[1]) < abs(a[0] - b[0])
    at = (middle[0], middle[1] - 0.8) if flat else (middle[0] + 1.0, middle[1])
    yield Words(text, at, 2.7, "middle" if flat else "start")


def _names(design: Design, side: _View, top: _View, rear: _View) -> Iterator[Mark]:
    low, high = _extent(design)
    z = design.axle.tire_radius_loaded
    for view, corner, text in (
        (side, (high[0], 0.0, high[2]), "SIDE, FROM THE LEFT"),
        (top, (high[0], low[1], z), "TOP"),
        (rear, (0.0, high[1], high[2]), "REAR"),
    ):
        x, y = view.to(corner)
        yield Words(text, (x, y - 2.0), 3.2, bold=True)


def _scale_bar(scale: int, units: Units) -> Iterator[Mark]:
    """A bar of true lengths, so that a print can be checked with a tape: 0, 250, 500 mm or 0, 10, 20 in."""
    unit, word = (250.0, "mm") if units == "mm" else (254.0, "in")
    left, y = MARGIN + 6.0, A3_LANDSCAPE[1] - MARGIN - 23.0
    for n in range(2):
        yield box(left + n * unit / scale, y, unit / scale, 1.6, THIN, fill=0.0 if n == 0 else 1.0)
    for n in range(3):
        yield Words(f"{n * (250 if units == 'mm' else 10)}", (left + n * unit / scale, y - 1.2), 2.8, "middle")
    yield Words(f"{word}, scale 1:{scale} on A3", (left + 2 * unit / scale + 6.0, y + 1.6), 2.8)


_TABLE_LEFT = 270.0
_RIGHT = A3_LANDSCAPE[0] - MARGIN - 4.0


def _table(
    top: float, title: str, heads: Sequence[str], rows: Sequence[Sequence[str]], at: Sequence[float]
) -> Iterator[Mark]:
    """Columns at `at` mm from the table's left: the first stands left, the others right-aligned there."""
    step = 4.1
    yield Words(title, (_TABLE_LEFT, top), 3.4, bold=True)
    for n, cells in enumerate((heads, *rows)):
        y = top + step * (n + 1) + 0.4
        for column, (cell, x) in enumerate(zip(cells, at, strict=True)):
            yield Words(cell, (_TABLE_LEFT + x, y), 2.7, "end" if column else "start", bold=n == 0)
        yield line((_TABLE_LEFT, y + 1.1), (_RIGHT, y + 1.1), width=HAIR)


def _said(spot: Spot) -> str:
    return f"{words_of(spot.part)}, {spot.words}"


def _both(mm: float, units: Units) -> str:
    inches: Units = "in16" if units == "mm" else units
    return f"{length(mm, inches)} / {length(mm, 'mm')}"


def _mount_table(design: Design, units: Units) -> Iterator[Mark]:
    rows = []
    for number, spot in enumerate(parts_of(design).spots, 1):
        x, y, z = spot.at
        side = "" if abs(y) < 0.5 else "  L" if y > 0 else "  R"
        rows.append([f"{number}  {_said(spot)}", _both(z, units), _both(x, units), _both(abs(y), units) + side])
    heads = ("Mount, at ride", "off the floor", "ahead of the axle", "out from center")
    yield from _table(MARGIN + 8.0, "Mounts", heads, rows, (0.0, 72.0, 102.0, 134.0))


def _link_table(design: Design, units: Units) -> Iterator[Mark]:
    rows = [
        [
            words_of(bar.id), _both(bar.length, units),
            "end on" if bar.side_angle is None else f"{bar.side_angle:.1f} deg",
            "end on" if bar.plan_angle is None else f"{bar.plan_angle:.1f} deg",
        ]
        for bar in link_figures(mechanism_of(design))
    ]  # fmt: skip
    heads = ("Link", "center to center", "from the side", "in plan")
    yield from _table(_after(len(parts_of(design).spots)), "Links", heads, rows, (0.0, 72.0, 102.0, 134.0))


def _after(*rows: int) -> float:
    return MARGIN + 8.0 + sum(4.1 * (n + 1) + 8.0 for n in rows)


def _figure_table(top: float, found: Sequence[Finding], units: Units) -> Iterator[Mark]:
    figures = [f for f in found if f.id == f.figure]
    stops = [f for f in found if f.id != f.figure]
    rows = [[f.title, _amount(f.value, f, units), _wanted(f, units), _verdict(f)] for f in (*stops, *figures)]
    yield from _table(top, "Figures", ("Figure", "value", "wanted", "verdict"), rows, (0.0, 62.0, 112.0, 134.0))


def _verdict(finding: Finding) -> str:
    if finding.severity != "good":
        return finding.severity
    return "good" if finding.verdict == "inside" else ""


def _amount(value: float | None, finding: Finding, units: Units) -> str:
    if value is None or finding.unit is None:
        return "none"
    if finding.unit == "mm":
        return length(value, units)
    return {"deg": f"{value:.1f} deg", "percent": f"{value:.0f} %", "ratio": f"{value:.2f} x"}[finding.unit]


def _wanted(finding: Finding, units: Units) -> str:
    low, high = (None if v is None else _amount(v, finding, units) for v in (finding.low, finding.high))
    if low and high:
        return f"{low} to {high}"
    return f"{low} or more" if low else f"{high} or less" if high else ""


def _title_block(design: Design, scale: int, titles: Titles) -> Iterator[Mark]:
    left, top, wide, high = _TABLE_LEFT - 4.0, A3_LANDSCAPE[1] - MARGIN - 46.0, 144.0, 46.0
    yield box(left, top, wide, high, MEDIUM)
    for n, y in enumerate((17.0, 27.0)):
        yield line((left, top + y), (left + wide, top + y), width=THIN if n else MEDIUM)
    yield Words("Oak Lever", (left + wide - 3.0, top + 5.5), 3.2, "end", bold=True)
    yield Words(_fitting(design.name, 46), (left + 3.0, top + 13.0), 5.4, bold=True)
    yield Words(_fitting(titles.build, 60), (left + 3.0, top + 5.5), 3.2)
    yield Words(f"Revision {titles.revision}", (left + 3.0, top + 23.5), 3.4)
    yield Words(f"Date {titles.date}", (left + 44.0, top + 23.5), 3.4)
    yield Words(f"Scale 1:{scale}", (left + wide - 3.0, top + 23.5), 3.4, "end")
    use = USES[design.use or DEFAULT_USE].lower()
    end = "Rear axle" if design.axle.end == "rear" else "Front axle"
    yield Words(
        f"{end}, at ride height. Judged for {use}. Front of the truck to the left.", (left + 3.0, top + 33.0), 3.0
    )
    yield Words("Mounts are joint centers. Do not scale the drawing: use the figures.", (left + 3.0, top + 38.0), 3.0)
    yield Words("Drawn by", (left + 3.0, top + 43.5), 3.0)
    yield Words("Checked by", (left + wide / 2, top + 43.5), 3.0)


def _fitting(text: str, most: int) -> str:
    return text if len(text) <= most else text[: most - 1] + "…"


def _caution() -> Iterator[Mark]:
    for n, text in enumerate(wrap(" ".join(WHOLE), 112)):
        yield Words(text, (MARGIN + 6.0, A3_LANDSCAPE[1] - MARGIN - 15.0 + n * 4.0), 2.9)
