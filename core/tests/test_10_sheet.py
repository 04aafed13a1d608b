"""DRAW: the shop drawing says the design's own figures, at a true scale, and stays on the page."""

import re
from typing import Any
from xml.etree import ElementTree

import pytest
from designs import links_of

from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.sheet.links import Titles, links_sheet
from oak_lever.sheet.page import A3_LANDSCAPE, Ring, Stroke, Words
from oak_lever.sheet.writers import pdf, svg
from oak_lever.units import length

TITLES = Titles("Yard truck", 7, "2026-11-23")


@pytest.mark.parametrize("name", LAYOUTS)
def test_everything_is_on_the_page(name: str) -> None:
    for mark in links_sheet(layout(name), "in16", TITLES):
        points = mark.points if isinstance(mark, Stroke) else [mark.center if isinstance(mark, Ring) else mark.at]
        for x, y in points:
            assert 0 <= x <= A3_LANDSCAPE[0]
            assert 0 <= y <= A3_LANDSCAPE[1]


@pytest.mark.parametrize("name", LAYOUTS)
def test_every_mount_stands_in_the_table_and_in_each_view(name: str) -> None:
    design = layout(name)
    texts = [mark.text for mark in links_sheet(design, "in16", TITLES) if isinstance(mark, Words)]
    rows = [text for text in texts if re.match(r"\d+  ", text)]
    numbered = [n for text in texts if re.fullmatch(r"\d+(, \d+)*", text) for n in text.split(", ")]
    for n in range(1, len(rows) + 1):
        assert numbered.count(str(n)) >= 3


def test_title_block_scale_bar_and_caution() -> None:
    texts = [mark.text for mark in links_sheet(layout("double triangulated"), "mm", TITLES) if isinstance(mark, Words)]
    for wanted in ("Yard truck", "Revision 7", "Date 2026-11-23"):
        assert wanted in texts
    assert any("not an approval" in text for text in texts)
    assert any(re.match(r"mm, scale 1:\d+ on A3", text) for text in texts)


def test_drawing_is_to_scale() -> None:
    """Distance of two joints on the sheet, times the scale said, is that of the mounts in the side view."""
    design = layout("double triangulated")
    marks = links_sheet(design, "mm", TITLES)
    scale = next(
        int(m[1]) for mark in marks if isinstance(mark, Words) and (m := re.match(r"Scale 1:(\d+)", mark.text))
    )
    eyes = [mark.center for mark in marks if isinstance(mark, Ring) and mark.fill == 0.0]
    (ax, ay), (fx, fy) = eyes[0], eyes[1]
    axle, frame = links_of(design)[0].axle.at, links_of(design)[0].frame.at
    assert (ax - fx) * scale == pytest.approx(frame[0] - axle[0])
    assert (ay - fy) * scale == pytest.approx(frame[2] - axle[2])


def test_written_out_twice_it_is_the_same_and_well_formed() -> None:
    marks = links_sheet(layout("three links and panhard"), "in32", TITLES)
    assert svg(marks, A3_LANDSCAPE, "a < b & c") == svg(marks, A3_LANDSCAPE, "a < b & c")
    assert pdf(marks, A3_LANDSCAPE, "x") == pdf(marks, A3_LANDSCAPE, "x")
    root = ElementTree.fromstring(svg(marks, A3_LANDSCAPE, "a < b & c"))
    assert root.get("width") == "420mm"
    assert pdf(marks, A3_LANDSCAPE, "x").startswith(b"%PDF-")


@pytest.mark.parametrize(
    ("mm", "units", "said"),
    [(234.95, "in16", "9 1/4 in"), (0.0, "in16", "0 in"), (-12.7, "in16", "-1/2 in"), (25.4, "in32", "1 in"),
     (26.19375, "in32", "1 1/32 in"), (234.6, "mm", "235 mm"), (234.95, "inch", "9.25 in"), (-0.2, "mm", "0 mm"),
     (25.3, "in16", "1 in")],
)  # fmt: skip
def test_lengths_as_a_tape_shows_them(mm: float, units: Any, said: str) -> None:
    assert length(mm, units) == said
