"""DRAW: the shop drawing says the design's own figures, at a true scale, and stays on the page."""

import re
from functools import cache
from math import dist
from typing import Any
from xml.etree import ElementTree

import pytest
from designs import DEMO, changed, links_of

from oak_lever.api import cut, read_design
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.sheet.links import Titles, links_sheet
from oak_lever.sheet.page import PAPERS, Mark, Paper, Ring, Stroke, Words, wide
from oak_lever.sheet.placed import spread
from oak_lever.sheet.writers import pdf, svg
from oak_lever.units import STEP_MM, length

TITLES = Titles("Yard truck", 7, "2026-11-23")


@cache
def sheet_of(name: str, units: Any = "in16", paper: Paper = "a3") -> list[list[Mark]]:
    return links_sheet(layout(name), units, TITLES, paper)


def texts_of(pages: list[list[Mark]]) -> list[str]:
    return [mark.text for page in pages for mark in page if isinstance(mark, Words)]


def extent_of(mark: Mark) -> list[tuple[float, float]]:
    """Corners of all that a mark covers, by its own words' size."""
    if isinstance(mark, Stroke):
        return list(mark.points)
    if isinstance(mark, Ring):
        (x, y), r = mark.center, mark.radius
        return [(x - r, y - r), (x + r, y + r)]
    long = wide(mark.text, mark.size, mark.bold)
    start = {"start": 0.0, "middle": -long / 2, "end": -long}[mark.anchor]
    x, y = mark.at
    if mark.upright:
        return [(x - mark.size, y - start), (x, y - start - long)]
    return [(x + start, y - mark.size), (x + start + long, y)]


def box_of(mark: Mark) -> tuple[float, float, float, float]:
    points = extent_of(mark)
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)


@pytest.mark.parametrize("paper", PAPERS)
@pytest.mark.parametrize("name", LAYOUTS)
def test_everything_is_on_the_page(name: str, paper: Paper) -> None:
    for page in sheet_of(name, "in32", paper):
        for mark in page:
            left, top, right, bottom = box_of(mark)
            assert min(left, top) >= 5, mark
            assert right <= PAPERS[paper][0] - 5, mark
            assert bottom <= PAPERS[paper][1] - 5, mark


@pytest.mark.parametrize("paper", PAPERS)
@pytest.mark.parametrize("name", LAYOUTS)
def test_no_words_overprint_and_no_balloon_touches_another_or_any_words(name: str, paper: Paper) -> None:
    for page in sheet_of(name, "in32", paper):
        written = [box_of(mark) for mark in page if isinstance(mark, Words) and not re.fullmatch(r"\d\d?", mark.text)]
        for n, (a, b, c, d) in enumerate(written):
            for e, f, g, h in written[:n]:
                assert min(c, g) - max(a, e) < 0.1 or min(d, h) - max(b, f) < 0.1
        discs = balloons_of(page)
        for n, disc in enumerate(discs):  # numbers of figures in tables are plain
            assert all(dist(disc.center, other.center) >= disc.radius + other.radius for other in discs[:n])
            (x, y), r = disc.center, disc.radius
            assert not any(a < x + r and c > x - r and b < y + r and d > y - r for a, b, c, d in written)


def balloons_of(page: list[Mark]) -> list[Ring]:
    """Rings with a number in their middle."""
    numbers = [mark for mark in page if isinstance(mark, Words) and re.fullmatch(r"\d\d?", mark.text) and mark.bold]
    return [
        ring for ring in page if isinstance(ring, Ring)
        and any(mark.at[0] == ring.center[0] and abs(mark.at[1] - ring.center[1]) < 1.5 for mark in numbers)
    ]  # fmt: skip


@pytest.mark.parametrize("name", LAYOUTS)
def test_balloons_touch_no_part(name: str) -> None:
    """No edge of a part comes into a balloon, by the corners and the points between them."""
    page = sheet_of(name)[0]
    discs = balloons_of(page)
    for mark in page:
        if not isinstance(mark, Stroke) or mark.width < 0.3:
            continue
        ends = list(zip(mark.points, [*mark.points[1:], mark.points[0]], strict=True))
        for (a, b), (c, d) in ends if mark.closed else ends[:-1]:
            for n in range(51):
                p = (a + (c - a) * n / 50, b + (d - b) * n / 50)
                assert all(dist(p, disc.center) > disc.radius for disc in discs)


@pytest.mark.parametrize("name", LAYOUTS)
def test_every_mount_stands_in_the_table_and_in_each_view(name: str) -> None:
    pages = sheet_of(name)
    rows = [text for text in texts_of(pages) if re.match(r"\d+  ", text)]
    numbered = [
        mark.text for mark in pages[0] if isinstance(mark, Words) and mark.bold and re.fullmatch(r"\d+", mark.text)
    ]
    assert rows
    for n in range(1, len(rows) + 1):
        assert numbered.count(str(n)) == 3


@pytest.mark.parametrize("units", ["mm", "in16"])
def test_each_view_says_where_every_mount_is(units: Any) -> None:
    """Off the floor twice, ahead twice, out twice: in the two views that show it, figure by figure."""
    design = layout("double triangulated")
    ladders = [m for m in sheet_of("double triangulated", units)[0] if isinstance(m, Words) and m.size == 2.5]
    for link in links_of(design):
        for mount in (link.axle.at, link.frame.at):
            for value in (mount[0], abs(mount[1]), mount[2]):
                said = length(value, units).rsplit(" ", 1)[0]
                assert sum(m.text == said for m in ladders) >= 2


@pytest.mark.parametrize("paper", PAPERS)
def test_title_block_scale_bar_caution_and_the_reason(paper: Paper) -> None:
    design = layout("double triangulated").model_copy(update={"notes": "Uppers lower, for the tank.\nMore."})
    pages = links_sheet(design, "mm", TITLES, paper)
    texts = texts_of(pages)
    for wanted in ("Yard truck", "Revision 7, 2026-11-23", "Uppers lower, for the tank."):
        assert texts.count(wanted) == len(pages)
    assert sum("not an approval" in text for text in texts) == len(pages)
    assert any(re.match(r"mm, scale 1:\d+", text) for text in texts)


def scale_of(pages: list[list[Mark]]) -> int:
    return next(int(m[1]) for text in texts_of(pages) if (m := re.match(r"1:(\d+) on ", text)))


def test_drawing_is_to_scale() -> None:
    """Distance of two joints on the sheet, times the scale said, is that of the mounts in the side view."""
    design = layout("double triangulated")
    pages = sheet_of("double triangulated", "mm")
    seen = {(round(m.center[0], 6), round(m.center[1], 6)) for m in pages[0] if isinstance(m, Ring) and m.fill == 0.0}
    axle, frame = links_of(design)[0].axle.at, links_of(design)[0].frame.at
    away = ((frame[0] - axle[0]) / scale_of(pages), (frame[2] - axle[2]) / scale_of(pages))
    assert any(
        abs(x - p - away[0]) < 1e-5 and abs(y - q - away[1]) < 1e-5
        for x, y in seen
        for p, q in seen
        if (x, y) != (p, q)
    )


def test_the_next_larger_scale_would_not_fit() -> None:
    """The views and their figures reach across the paper, one way or the other, but for less than the next scale."""
    for name in LAYOUTS:
        page = sheet_of(name)[0]
        scale = scale_of([page])
        parts = [box_of(mark) for mark in page if isinstance(mark, Stroke) and mark.width >= 0.3]
        inside = [part for part in parts if part[2] - part[0] < 300 and part[0] > 25]
        bottom = max(part[3] for part in inside if part[0] < 150)
        assert scale <= 15
        assert bottom > 0.75 * PAPERS["a3"][1]


def test_a_large_design_goes_on_over_more_pages_and_loses_no_row() -> None:
    pages = sheet_of("parallel and watts on axle", "in32", "a4")
    assert len(pages) > 1
    texts = texts_of(pages)
    assert {"Mounts, joint centers", "Diagonals that prove it square", "Links", "Figures"} <= set(texts)
    assert all(any(text.endswith(f"sheet {n} of {len(pages)}") for text in texts) for n in range(1, len(pages) + 1))


@pytest.mark.parametrize("units", ["mm", "inch", "in16", "in32"])
def test_diagonals_are_what_a_tape_finds_between_rounded_marks(units: Any) -> None:
    design = layout("double triangulated")
    page = [mark for page in links_sheet(design, units, TITLES) for mark in page]
    at = next(n for n, mark in enumerate(page) if isinstance(mark, Words) and mark.text == "1 to 4")
    _, exact, rounded, adds = [mark.text for mark in page[at : at + 4] if isinstance(mark, Words)]
    left, right = links_of(design)[0], links_of(design)[1]
    step = STEP_MM[units]
    far = dist(left.axle.at, right.frame.at)
    marked = [[round(v / step) * step for v in p] for p in (left.axle.at, right.frame.at)]
    assert exact == length(far, units)
    assert rounded == length(dist(*marked), units)
    more, unit = adds.split()
    one, off = (1.0, 0.051) if unit == "mm" else (25.4, 0.0126)
    assert (unit == "mm") == (units == "mm")
    assert float(more) * one == pytest.approx(dist(*marked) - far, abs=off)


@pytest.mark.parametrize("units", ["mm", "in16"])
@pytest.mark.parametrize("name", ["fell-tender-rear", "tarn-van-rear", "ghyll-special-rear"])
def test_all_lengths_rates_and_pressures_are_of_one_system(name: str, units: Any) -> None:
    design = read_design((DEMO / f"{name}.json").read_text())
    words = " ".join(
        mark.text for page in links_sheet(design, units, TITLES) for mark in page if isinstance(mark, Words)
    )
    words = re.sub(r"[Ff]igures in \w+( to 1/\d+)?", "", words)
    metric, inches = (r"\d (mm|N/mm|N|kPa)\b", r"\d (in|lb/in|lb|psi)\b")
    assert re.search(inches if units == "mm" else metric, words) is None
    assert re.search(metric if units == "mm" else inches, words)


def test_brackets_and_truss_are_drawn_as_they_are_cut() -> None:
    design = read_design((DEMO / "bracketed" / "fell-tender-rear.json").read_text())
    bare = changed(design, lambda data: data.update(brackets=[], truss=None))
    outlines = [
        {mark.points for mark in links_sheet(one, "in16", TITLES)[0] if isinstance(mark, Stroke) and mark.closed}
        for one in (design, bare)
    ]
    made = cut(design).plates
    assert len(outlines[0] - outlines[1]) >= 4 * len(made)


def test_no_name_in_a_table_is_cut_off() -> None:
    for name in ("fell-tender-rear", "scree-runner-rear", "bracketed/fell-tender-rear"):
        design = read_design((DEMO / f"{name}.json").read_text())
        rest = [
            mark.text for page in links_sheet(design, "in16", TITLES)[1:] for mark in page if isinstance(mark, Words)
        ]
        assert [
            text for text in rest if text.endswith("…") and not text.startswith(("Guessed", design.notes[:20]))
        ] == []


def test_labels_are_spread_as_little_as_can_be() -> None:
    assert spread([0.0, 10.0, 20.0], 3.0, 0.0, 30.0) == [0.0, 10.0, 20.0]
    assert spread([9.0, 10.0, 11.0], 3.0, 0.0, 30.0) == pytest.approx([7.0, 10.0, 13.0])
    assert spread([29.0, 30.0], 4.0, 0.0, 30.0) == pytest.approx([26.0, 30.0])
    assert spread([1.0] * 5, 10.0, 0.0, 20.0) == pytest.approx([0.0, 5.0, 10.0, 15.0, 20.0])


def test_written_out_twice_it_is_the_same_and_well_formed() -> None:
    size = PAPERS["11x17"]
    once, again = (links_sheet(layout("three links and panhard"), "in32", TITLES, "11x17") for _ in range(2))
    assert svg(once, size, "a < b & c") == svg(again, size, "a < b & c")
    assert pdf(once, size, "x") == pdf(again, size, "x")
    root = ElementTree.fromstring(svg(once, size, "a < b & c"))
    assert root.get("width") == "431.8mm"
    assert pdf(once, size, "x").count(b"/Type /Page\n") == len(once)
    assert pdf(once, size, "x").startswith(b"%PDF-")


@pytest.mark.parametrize(
    ("mm", "units", "said"),
    [(234.95, "in16", "9 1/4 in"), (0.0, "in16", "0 in"), (-12.7, "in16", "-1/2 in"), (25.4, "in32", "1 in"),
     (26.19375, "in32", "1 1/32 in"), (234.6, "mm", "235 mm"), (234.95, "inch", "9.25 in"), (-0.2, "mm", "0 mm"),
     (25.3, "in16", "1 in")],
)  # fmt: skip
def test_lengths_as_a_tape_shows_them(mm: float, units: Any, said: str) -> None:
    assert length(mm, units) == said
