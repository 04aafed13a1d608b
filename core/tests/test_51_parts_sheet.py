"""The list on paper holds what the list holds; the tube's budget takes brackets as they are drawn."""

from dataclasses import replace
from typing import Any

import pytest
from designs import DEMO
from making import TENDER, bracketed, jointed

from oak_lever.api import PAPERS, Design, Titles, cut, parts_list, pdf, read_design, tubes
from oak_lever.clearance.standing import BRACKET_MM
from oak_lever.cut_sheet.parts_sheet import parts_sheet
from oak_lever.sheet.page import Words
from oak_lever.units import length

TITLES = Titles("Fell tender", 3, "2030-01-01")
CUT = read_design((DEMO / "bracketed" / "fell-tender-rear.json").read_text())


@pytest.mark.parametrize("paper", PAPERS)
@pytest.mark.parametrize("units", ["mm", "in16"])
def test_every_line_of_the_list_stands_on_it(units: Any, paper: Any) -> None:
    made = cut(CUT)
    pages = parts_sheet(CUT, made, units, TITLES, paper)
    words = [mark.text for page in pages for mark in page if isinstance(mark, Words)]
    assert pdf(pages, PAPERS[paper], "Parts").startswith(b"%PDF-")
    for plate in made.plates:
        assert any(text.startswith(f"{plate.part}, plate ") for text in words)
    for bar in made.bars:
        assert bar.cut_length is not None
        assert length(bar.cut_length, units) in words
        assert length(bar.center_to_center, units) in words
    items = parts_list(CUT, made)
    assert sum(text == "____" for text in words) == len(items)
    assert any("not an approval" in text for text in words)


def test_a_design_without_brackets_has_one_too() -> None:
    bare = jointed(TENDER)
    (page,) = parts_sheet(bare, replace(cut(bare), brackets=()), "mm", TITLES)
    assert "Plates to cut" not in [mark.text for mark in page if isinstance(mark, Words)]


def side(design: Design, name: str) -> Any:
    return next(one for one in tubes(design) if one.side == name)


def test_the_tube_has_room_for_brackets_as_they_are_drawn() -> None:
    bare = jointed(TENDER)
    drawn = bracketed(bare, {"mounts": ["lower-left.axle"], "plate": 8.0, "weld": 5.0})
    grip = 50.0 + 0.8 + 2.0 * 8.0
    assert side(drawn, "left").taken - side(bare, "left").taken == pytest.approx(grip + 10.0 - BRACKET_MM)
    assert side(drawn, "right").taken == side(bare, "right").taken
    assert side(drawn, "left").spare + side(drawn, "left").taken == pytest.approx(
        side(bare, "left").spare + side(bare, "left").taken
    )
    at = next(link.axle.at for link in bare.links if link.id == "lower-left" and link.kind != "radius_arm")
    face = {"kind": "face", "at": [at[0], at[1], at[2] + 40.0], "normal": [0.0, 0.0, -1.0]}
    hung = bracketed(bare, {"mounts": ["lower-left.axle"], "base": face, "foot": 60.0})
    assert side(hung, "left").taken == pytest.approx(side(bare, "left").taken - BRACKET_MM)
