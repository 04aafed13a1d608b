"""The engineer's sheet: all of it on the paper, every case and factor on it, every guess called one."""

import io
import zipfile
from collections import Counter
from itertools import pairwise
from math import dist
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import PAPERS, Design, Titles, engineers_sheet, part_loads, read_design, reckoned, shop_archive
from oak_lever.caution import WHOLE
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.sheet.page import Mark, Ring, Stroke, Words
from oak_lever.strength.judged import case_words

TITLES = Titles("Yard truck", 3, "2026-11-30", ("mass of the axle",))
TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
RUNNER = read_design((DEMO / "scree-runner-rear.json").read_text())


def texts(page: list[Mark]) -> list[str]:
    return [mark.text for mark in page if isinstance(mark, Words)]


def places(page: list[Mark]) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for mark in page:
        if isinstance(mark, Stroke):
            found += mark.points
        elif isinstance(mark, Ring):
            x, y = mark.center
            found += [(x - mark.radius, y - mark.radius), (x + mark.radius, y + mark.radius)]
        else:
            found.append(mark.at)
    return found


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_all_of_it_is_on_the_paper_and_every_page_has_the_caution(paper: Any) -> None:
    wide, high = PAPERS[paper]
    for design in [*map(layout, LAYOUTS), *random_designs(seed=35, many=3), TENDER, RUNNER]:
        pages = engineers_sheet(design, "in16", TITLES, paper)
        for page in pages:
            for x, y in places(page):
                assert 9.0 - 1e-6 <= x <= wide - 9.0 + 1e-6
                assert 9.0 - 1e-6 <= y <= high - 9.0 + 1e-6
            assert " ".join(WHOLE)[:40] in " ".join(texts(page))


@pytest.mark.parametrize("units", ["mm", "in16"])
def test_every_case_and_every_factor_is_on_it(units: Any) -> None:
    for design in (TENDER, RUNNER, *random_designs(seed=36, many=2)):
        found = reckoned(design)
        pages = engineers_sheet(design, units, TITLES)
        every = Counter(text for page in pages for text in texts(page))
        heads = [text for text in every if ", at " in text]
        for one in found.cases:
            words = case_words(one.case.id)
            assert any(text.lower() == words.lower() for text in every), words
            if one.pushes:
                assert any(text.lower().startswith(f"{words}, at ".lower()) for text in heads), words
        for part in part_loads(design, found):
            for factor in part.factors:
                if factor.factor is not None:
                    assert every[f"{factor.factor:.2f}"]


def test_the_drawn_arrows_are_the_forces() -> None:
    """Their lengths on the page, in each view, by one scale for all of a case: what the view shows of each force."""
    looked_at = 0
    for design in (TENDER, *random_designs(seed=37, many=2)):
        cases = [one for one in reckoned(design).cases if one.pushes]
        pages = engineers_sheet(design, "mm", TITLES)[-len(cases) :]
        for one, page in zip(cases, pages, strict=True):
            forces = np.array([push.force for push in one.pushes])
            most = np.linalg.norm(forces, axis=1).max()
            thin = [(mark, head) for mark, head in pairwise(page) if isinstance(mark, Stroke) and len(mark.points) == 2]
            lengths = [dist(*mark.points) for mark, _ in thin]
            headed = [
                long for long, (_, head) in zip(lengths, thin, strict=True)
                if isinstance(head, Stroke) and len(head.points) == 3
            ]  # fmt: skip
            due = {
                round(17.0 / most * float(np.hypot(*force[list(axes)])), 6)
                for force in forces if np.linalg.norm(force) >= 0.02 * most for axes in ((0, 2), (0, 1), (1, 2))
            }  # fmt: skip
            due = {long for long in due if long >= 2.0}
            assert headed
            for long in headed:
                assert min(abs(long - other) for other in due) < 1e-5
            for long in due:  # of two on one line, the head is drawn once
                assert min(abs(long - other) for other in lengths) < 1e-5
                looked_at += 1
    assert looked_at > 60


def test_what_fails_what_is_guessed_and_what_was_not_looked_at_is_said() -> None:
    def thin(data: Any) -> None:
        data["links"][0]["tube"] = {"diameter": 20.0, "wall": 1.5}
        del data["links"][1]["tube"]
        data["loads"] = {"grip": 0.7}

    weak = changed(TENDER, thin)
    first = [words for page in engineers_sheet(weak, "in16", TITLES) for words in texts(page)]
    assert "FAILS" in first
    assert first[first.index("Grip fore-aft") + 1 : first.index("Grip fore-aft") + 3] == ["0.7", "said"]
    assert first[first.index("Grip sideways") + 2] == "house value, a guess"
    assert "Tube of the lower right link" in first
    assert "Tube of the lower left link" not in first
    assert "Mass of the axle" in first
    every = [text for page in engineers_sheet(weak, "in16", TITLES) for text in texts(page)]
    assert "Brackets that are not drawn, and what brackets and their welds stand on" in every
    assert any("rating across its bolt" in text for text in every)
    pulls = any(force < 0.0 for one in reckoned(weak).cases for force in (one.springs or {}).values())
    assert pulls == any("a spring would have to pull" in text for text in every)
    assert pulls


def test_it_goes_with_the_archive_and_where_loads_cannot_be_reckoned_that_is_said() -> None:
    def spring_behind(data: Any) -> None:
        data["loads"] = {"cases": [one("a"), one("a")]}

    def one(name: str) -> dict[str, Any]:
        return {"id": name, "left": [0.0, 0.0, 1.0], "right": [0.0, 0.0, 1.0]}

    def archive(design: Design) -> dict[str, bytes]:
        with zipfile.ZipFile(io.BytesIO(shop_archive(design, TITLES, "in16"))) as found:
            return {name: found.read(name) for name in found.namelist()}

    whole = archive(TENDER)
    assert whole["engineers-sheet.pdf"].startswith(b"%PDF")
    assert whole["bolts.csv"].startswith(b"mount,")
    assert "engineers-sheet.pdf: loads" in whole["contents.txt"].decode()
    without = archive(changed(TENDER, spring_behind))
    assert "engineers-sheet.pdf" not in without
    assert "NOT in here, for loads can't be reckoned" in without["contents.txt"].decode()
    assert set(whole) - set(without) == {"engineers-sheet.pdf", "bolts.csv"}
