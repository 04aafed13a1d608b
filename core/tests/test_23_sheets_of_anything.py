"""Whatever a design holds that is a design at all, its sheets are files that programs can read."""

import csv
import io
import os
import random
from typing import Any
from xml.etree import ElementTree

import ezdxf
import pytest
from designs import DEMO

from oak_lever.api import (
    Design,
    Refused,
    Titles,
    csv_of,
    cycle,
    design_data,
    design_from,
    links_sheet,
    pdf,
    read_design,
    room_dxf,
    svg,
)
from oak_lever.sheet.page import PAPERS, Ring, Stroke, Words

FILES = sorted(path for path in DEMO.glob("*.json") if "truck" not in path.name)
MANY = int(os.environ.get("OAK_LEVER_DESIGNS", "5"))
SEEDS = 4
HUGE = (0.0, 1e-6, -1e-6, 0.5, 10_000.0, -10_000.0, 100_000.0, -100_000.0, 99_999.0, 1.0, 89.9, -89.9)
NAMES = ("a\x00b", "two\nlines", "bell\x07", "\x1b[2Jgone", "<b>&amp;\"'", "\u202egnorw", "\ud83d\ude97", "ünïcødé", "0\nEOF\n0", "-" * 200)  # fmt: skip


def numbers(data: Any, at: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    inner = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    own = [at] if isinstance(data, float | int) and not isinstance(data, bool) and at != ("version",) else []
    return [*own, *(place for key, value in inner for place in numbers(value, (*at, key)))]


def put(data: Any, at: tuple[Any, ...], value: Any) -> None:
    for step in at[:-1]:
        data = data[step]
    data[at[-1]] = value


def extremes(seed: int) -> list[Design]:
    """Designs of the demo's with one to four of their numbers far, tiny or huge, and names that no drawing holds."""
    chance, found = random.Random(seed), list[Design]()
    while len(found) < max(2, MANY // SEEDS):
        data = design_data(read_design(chance.choice(FILES).read_text()))
        places = numbers(data)
        for _ in range(chance.randint(1, 4)):
            put(data, chance.choice(places), chance.choice(HUGE))
        data["name"] = chance.choice(NAMES)
        try:
            found.append(design_from(data))
        except Refused:
            continue
    return found


def bare() -> list[Design]:
    """The least that a design may be: no links, no travel to speak of, nothing beside."""
    data = design_data(read_design(FILES[0].read_text()))
    for part in ("room", "corners", "driveshaft", "steering", "rails", "locks", "unpaired", "hand"):
        data.pop(part, None)
    return [
        design_from({**data, "links": [], "lateral": None}),
        design_from({**data, "travel": {"bump": 0.0, "droop": 0.0, "articulation": 0.0}}),
    ]


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("seed", range(SEEDS))
def test_every_sheet_is_one_that_programs_read(seed: int) -> None:
    for n, design in enumerate([*extremes(seed), *(bare() if seed == 0 else [])]):
        titles = Titles(design.name, 3, "2030-01-01", (design.name, "mass"))
        for paper, size in list(PAPERS.items())[n % 2 :: 2]:
            pages = links_sheet(design, "in16", titles, paper)
            ElementTree.fromstring(svg(pages, size, design.name))
            for mark in (mark for page in pages for mark in page):
                points = (
                    mark.points if isinstance(mark, Stroke) else [mark.center if isinstance(mark, Ring) else mark.at]
                )
                assert all(abs(v) < 1e9 for point in points for v in point), design.name
                assert not isinstance(mark, Words) or "nan" not in mark.text.split()
        assert pdf(pages, size, design.name).startswith(b"%PDF-")
        drawn = ezdxf.read(io.StringIO(room_dxf(design, titles)))  # type: ignore[attr-defined]
        assert not drawn.audit().errors
        cycled = cycle(design)
        rows = list(csv.reader(io.StringIO(csv_of([cycled.heave, cycled.articulation]))))
        assert {len(row) for row in rows} == {len(rows[0])}
