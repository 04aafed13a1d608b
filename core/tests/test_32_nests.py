"""Nests of plates on sheets and bars in stock: apart, within, each once."""

import json
from math import cos, radians, sin

import numpy as np
import pytest
from making import AXLE, STOCK, TENDER, apart, bracketed, jointed, many_brackets

from oak_lever.api import (
    Cut,
    cut,
    read_stock,
)


def placed_polygons(found: Cut) -> dict[tuple[int, int], list[np.ndarray]]:
    assert found.nest
    shapes = {plate.part: np.array(plate.outline.points(0.01)) for plate in found.plates}
    sheets: dict[tuple[int, int], list[np.ndarray]] = {}
    for n, sheet in enumerate(found.nest.plates):
        for part in sheet.parts:
            c, s = cos(radians(part.turn)), sin(radians(part.turn))
            sheets.setdefault((n, sheet.stock), []).append(shapes[part.part] @ np.array([[c, s], [-s, c]]) + part.at)
    return sheets


def test_plates_lie_within_their_sheets_and_apart_and_each_once() -> None:
    found = cut(many_brackets(), read_stock(json.dumps(STOCK)))
    assert found.nest
    assert found.nest.left_over == ()
    assert sorted(part.part for sheet in found.nest.plates for part in sheet.parts) == sorted(
        one.part for one in found.plates
    )
    for polygons in placed_polygons(found).values():
        for n, one in enumerate(polygons):
            assert (one >= 6.0).all()
            assert (one <= np.array([600.0, 300.0]) - 6.0).all()
            for other in polygons[:n]:
                assert apart(one, other) >= 6.0
    used = sum(one.outline.area for one in found.plates)
    right = max(float(one[:, 0].max()) for polygons in placed_polygons(found).values() for one in polygons)
    assert len(found.nest.plates) == 1
    assert used / (right * 300.0) > 0.4


def test_a_plate_that_just_fits_is_placed_and_one_that_does_not_is_left_over_with_why() -> None:
    design = bracketed(jointed(TENDER), {"mounts": [AXLE]})
    shape = np.array(cut(design).plates[0].outline.points(0.001))
    wide, high = shape.max(axis=0) - shape.min(axis=0)
    for more, left in ((12.01, 0), (11.9, 1)):
        stock = {
            "plates": [
                {"thickness": 6.35, "size": [wide + more, high + more], "count": 1},
                {"thickness": 6.35, "size": [500.0, 500.0], "count": 1},
            ]
        }
        if left:
            stock["plates"] = stock["plates"][:1]
        found = cut(design, read_stock(json.dumps(stock))).nest
        assert found
        whys = dict(found.left_over)
        assert ("b1-1" in whys) == bool(left)
    other = cut(design, read_stock('{"plates": [{"thickness": 8, "size": [500, 500]}]}')).nest
    assert other
    assert "6.35 mm thick" in dict(other.left_over)["b1-1"]


def test_bars_are_first_fit_decreasing_with_the_saw_s_cut() -> None:
    design = jointed(TENDER)
    found = cut(design, read_stock(json.dumps(STOCK)))
    assert found.nest
    lengths = {bar.id: bar.stock_length or 0.0 for bar in found.bars}
    bins: list[list[str]] = []
    for name in sorted(lengths, key=lambda one: -lengths[one]):
        room = next((b for b in bins if 3000.0 - sum(lengths[one] + 3.0 for one in b) >= lengths[name] + 3.0), None)
        if room is None:
            bins.append([name])
        else:
            room.append(name)
    assert [list(tube.pieces) for tube in found.nest.bars] == bins
    for tube in found.nest.bars:
        assert tube.rest == pytest.approx(3000.0 - sum(lengths[one] + 3.0 for one in tube.pieces))
    only = json.loads(json.dumps(STOCK))
    only["tubes"][0].update(count=1, material="seamless-mild")
    none = cut(design, read_stock(json.dumps(only))).nest
    assert none
    assert {name for name, _ in none.left_over} == set(lengths)
