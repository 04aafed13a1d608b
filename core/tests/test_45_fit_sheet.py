"""The fit-up on paper, and the order of welding: what is in them is what was designed, read and passed."""

from datetime import date
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from making import TENDER, bracketed, faces, jointed, many_brackets

from oak_lever.api import (
    GATES,
    PAPERS,
    FitRecord,
    Titles,
    fit_record_from,
    fit_sheet,
    on_weight,
    pdf,
    read_design,
    weld_order,
)
from oak_lever.sheet.page import Ring, Stroke, Words

TITLES = Titles("Fell tender", 3, "2030-01-01", ("mass",))
RECORD = {
    "readings": [
        {"id": "r1", "kind": "height", "of": "lower-left.axle", "value": 16.0, "unit": "in"},
        {"id": "r2", "kind": "height", "of": "lower-left.axle", "value": 15.5, "unit": "in"},
        {"id": "r3", "kind": "height", "of": "lower-left.axle", "value": 30.0, "unit": "in", "left_out": True},
        {"id": "r4", "kind": "length", "of": "upper-left", "value": 700.0, "unit": "mm"},
        {"id": "r5", "kind": "distance", "of": "lower-left.axle", "to": "upper-left.axle", "value": 300.0, "unit": "mm"},
        {"id": "r6", "kind": "distance", "of": "gone.axle", "to": "upper-left.axle", "value": 300.0, "unit": "mm"},
    ],
    "gates": [
        {"gate": "baseline", "result": "failed", "by": "Wren", "at": "2030-01-02T08:00:00Z"},
        {"gate": "baseline", "result": "reason", "reason": "Scales come later", "by": "Wren", "at": "2030-01-03T08:00:00Z"},
    ],
    "drives": [{"id": "d1", "setting": "Upper hole", "felt": ["hops"], "than_before": "worse", "at": "2030-02-01T00:00:00Z"}],
}  # fmt: skip


def written(design: Any, record: FitRecord, units: Any = "in16", paper: Any = "a4") -> list[list[Words]]:
    """The words of each page, all of them on the paper."""
    pages = fit_sheet(design, record, units, TITLES, paper)
    wide, high = PAPERS[paper]
    for mark in (mark for page in pages for mark in page):
        points = mark.points if isinstance(mark, Stroke) else [mark.center if isinstance(mark, Ring) else mark.at]
        assert all(0.0 <= x <= wide and 0.0 <= y <= high for x, y in points)
    assert pdf(pages, PAPERS[paper], "Fit-up").startswith(b"%PDF-")
    return [[mark for mark in page if isinstance(mark, Words)] for page in pages]


def row_of(pages: list[list[Words]], title: str, first: str) -> list[str]:
    """What stands in a row of a table, from left to right."""
    for page in pages:
        for head in (one for one in page if one.text == title):
            below = [one for one in page if one.at[1] > head.at[1] and abs(one.at[0] - head.at[0]) < 0.1]
            starts = [one for one in below if one.text.startswith(first)]
            if starts:
                y = min(starts, key=lambda one: one.at[1]).at[1]
                line = [one for one in page if abs(one.at[1] - y) < 0.1 and one.at[0] >= head.at[0]]
                return [one.text for one in sorted(line, key=lambda one: one.at[0])]
    raise AssertionError(f"no {first} under {title}")


def test_what_was_read_and_passed_is_filled_in_and_the_rest_is_blank() -> None:
    pages = written(TENDER, fit_record_from(RECORD))
    height = row_of(pages, "Off the floor, chassis blocked at ride height", "lower left link, axle")
    assert height[3] == "15 1/2 in"  # the last that is used
    assert set(row_of(pages, "Off the floor, chassis blocked at ride height", "lower right link, axle")[3]) == {"_"}
    assert row_of(pages, "Gates, in the order of the work", "Baseline")[1:4] == [
        "passed with a reason",
        "Wren",
        "2030-01-03",
    ]
    assert set(row_of(pages, "Gates, in the order of the work", "Mounts marked")[1]) == {"_"}
    said = [one.text for page in pages for one in page]
    assert any("Scales come later" in text for text in said)
    assert not any("gone" in text for text in said)
    assert row_of(pages, "Runs", "Upper hole")[1:3] == ["it hops under drive", "worse"]
    assert {gate.name for gate in GATES} <= set(said)


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("file", ["ghyll-special-rear", "tarn-van-rear", "fell-tender-front", "scree-runner-rear"])
def test_every_design_has_one_on_every_paper(file: str, paper: str) -> None:
    design = read_design((DEMO / f"{file}.json").read_text())
    pages = written(design, FitRecord(), "mm", paper)
    assert pages
    assert any("not an approval" in one.text or "qualified" in one.text for one in pages[0])


def test_what_is_waited_for_and_the_days_stand_on_it_for_the_wall() -> None:
    orders = [
        {"id": "o1", "what": "Springs", "count": 2, "of": "Wren", "due": "2030-01-10", "gate": "cycled"},
        {"id": "o2", "what": "Joints", "here": True},
    ]
    record = fit_record_from({"orders": orders, "pace": {"gates": {"baseline": 8.0}}})
    words = [mark for page in fit_sheet(TENDER, record, "in16", TITLES, "a4", date(2030, 1, 7)) for mark in page]
    pages = [[mark for mark in words if isinstance(mark, Words)]]
    assert row_of(pages, "Waited for", "2 x Springs")[1:4] == ["Wren", "Cycled with springs out", "2030-01-10"]
    days = "By days, as of 2030-01-07"
    assert row_of(pages, days, "Baseline")[1:4] == ["8", "2030-01-07", "2030-01-07"]
    assert row_of(pages, days, "Cycled")[1:4] == ["4 guessed", "2030-01-10", "2030-01-10"]
    assert not [one for one in pages[0] if one.text == "Joints"]


def test_nothing_at_all_has_one() -> None:
    assert written(changed(TENDER, lambda data: data.update(links=[], lateral=None)), FitRecord())


def test_brackets_are_welded_from_the_middle_outward_left_and_right_in_turn_the_axles_first() -> None:
    order = weld_order(many_brackets())
    assert [one.bracket for one in order[:2]] == ["b1", "b2"]
    assert "left" in order[0].words
    assert "right" in order[1].words
    assert len(order) == 6
    assert order[0].pulls == order[1].pulls  # mirror images pull alike
    assert all("onto the steel" in one.pulls for one in order[2:])


@pytest.mark.parametrize(
    ("turn", "ways"),
    [
        (0.0, {"up"}),
        (45.0, {"up", "forward"}),
        (90.0, {"forward"}),
        (180.0, {"down"}),
        (270.0, {"back"}),
        (225.0, {"down", "back"}),
    ],
)
def test_a_weld_draws_the_tubes_ends_to_its_own_side(turn: float, ways: set[str]) -> None:
    """The joint stood round the tube; its bracket's foot lies between it and the tube."""
    radius = TENDER.axle.tire_radius_loaded
    a = np.radians(turn)

    def put(data: Any) -> None:
        y = data["links"][0]["axle"]["at"][1]
        data["links"][0]["axle"]["at"] = [130.0 * np.sin(a), y, radius + 130.0 * np.cos(a)]
        data["links"][0]["axle"]["bolt"] = [0.0, 1.0, 0.0]
        data["unpaired"] = ["lower-left.axle"]

    design = changed(bracketed(jointed(TENDER), {"mounts": ["lower-left.axle"]}, faces(jointed(TENDER), 1)), put)
    (step,) = [one for one in weld_order(design) if one.bracket == "b1"]
    named = {
        way
        for way in ("up", "down", "forward", "back")
        if way in step.pulls.removeprefix("draws the tube's ends ").split()
    }
    assert named == ways
    assert ("toe" in step.then) == bool(ways & {"forward", "back"})
    assert ("camber" in step.then) == bool(ways & {"up", "down"})


def test_what_was_read_as_it_stands_is_beside_what_it_should_be_there() -> None:
    shock = {"kind": "strut", "of": "coilover-left", "value": 27.0, "unit": "in"}
    stood = [
        {"id": "w1", **shock}, {"id": "w2", **shock, "stance": "droop", "value": 33.0},
        {"id": "w3", "kind": "pinion", "value": 3.0},
    ]  # fmt: skip
    pages = written(TENDER, fit_record_from({"stood": stood}))
    assert row_of(pages, "On its weight, all weight on the tires", "coilover left")[1] == "27 in"
    assert set(row_of(pages, "On its weight, all weight on the tires", "coilover right")[1]) == {"_"}
    title = "Read as it stands, beside what it should be at that height"
    beside = {one.reading: one for one in on_weight(TENDER, fit_record_from({"stood": stood})).beside}
    assert row_of(pages, title, "coilover left, held at droop")[1:3] == ["33 in", "33 in"]
    told = row_of(pages, title, "pinion, nose up, on its weight")
    assert told[1:] == ["3.0°", f"{beside['w3'].drawn:.1f}°", "DIFFERS"]


def test_a_builds_own_order_of_gates_is_on_it_with_why_and_with_what_it_leaves_out() -> None:
    own = {"gates": ["tacked", "baseline", "final_weld"], "reason": "Tacked by another shop", "by": "Wren"}
    pages = written(TENDER, fit_record_from({"gate_order": own}))
    words = [one.text for page in pages for one in page]
    places = [words.index(name) for name in ("Tacked", "Baseline accepted", "Final weld")]
    assert places == sorted(places)
    assert any("Tacked by another shop" in one for one in words)
    left = {one.split(":")[0].strip() for one in words if one.endswith("left out of this build")}
    assert left == {gate.name for gate in GATES} - {"Tacked", "Baseline accepted", "Final weld"}
