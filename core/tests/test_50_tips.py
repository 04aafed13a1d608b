"""Saddle tips cut square: held against the feathered outline, corner by corner, on random designs."""

from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, bracketed, jointed
from random_designs import random_designs

from oak_lever.api import Design
from oak_lever.plates.brackets import brackets_made
from oak_lever.plates.outline import Arc, Line


def squared(design: Design) -> Design:
    return changed(design, lambda data: [one.update(tips="square") for one in data["brackets"]])


def seat_of(plate: Any) -> int:
    pieces = plate.outline.pieces
    return next(n for n, one in enumerate(pieces) if isinstance(one, Arc) and one.t1 < one.t0)


def corners_of(plate: Any) -> Any:
    return np.array(plate.outline.points(0.002))


def inside(polygon: Any, at: Any) -> bool:
    x, y = (polygon - at).T
    x1, y1 = np.roll(x, -1), np.roll(y, -1)
    crossed = ((y > 0) != (y1 > 0)) & ((x * y1 - x1 * y) * np.sign(y1 - y) > 0.0)
    return bool(crossed.sum() % 2)


@pytest.mark.parametrize("seed", [50, 51, 52])
def test_each_tip_ends_as_wide_as_the_plate_is_thick_square_to_its_edge(seed: int) -> None:
    looked_at = 0
    shaped = [jointed(design) for design in random_designs(seed=seed, many=5)]
    for design in (bracketed(one, {"mounts": [f"{link.id}.axle"]}) for one in shaped for link in one.links):
        feathered, _ = brackets_made(design)
        cut, faults = brackets_made(squared(design))
        if faults or not cut:
            continue
        for old, new in zip(feathered[0].plates, cut[0].plates, strict=True):
            n = seat_of(new)
            pieces = new.outline.pieces
            for edge, beside in ((pieces[n - 1], pieces[n - 2]), (pieces[n + 1], pieces[(n + 2) % len(pieces)])):
                assert isinstance(edge, Line)
                assert isinstance(beside, Line)
                way, along = np.subtract(edge.b, edge.a), np.subtract(beside.b, beside.a)
                assert np.linalg.norm(way) == pytest.approx(new.thickness, abs=1e-6)
                assert abs(way @ along) < 1e-6 * np.linalg.norm(along) * new.thickness + 1e-6
            assert (new.wrap or 0.0) < (old.wrap or 0.0)
            assert new.area < old.area
            whole = corners_of(old)
            middle = whole.mean(axis=0)
            grown = middle + (whole - middle) * (1.0 + 1e-4)
            assert all(inside(grown, at) or np.linalg.norm(whole - at, axis=1).min() < 0.1 for at in corners_of(new))
            looked_at += 1
    assert looked_at >= 6


def test_what_is_cut_off_are_two_slivers() -> None:
    """Between the edge, the tube and the cut: integrated along the edge."""
    design = bracketed(jointed(TENDER), {"mounts": ["lower-left.axle"]})
    (old,), _ = brackets_made(design)
    (new,), faults = brackets_made(squared(design))
    assert faults == []
    lost = old.plates[0].area - new.plates[0].area
    radius = TENDER.axle.tube_diameter / 2.0
    t = old.plates[0].thickness
    # a circle of that radius, tangent to the edge: at `s` along it the metal is r - sqrt(r^2 - s^2) wide
    end = np.sqrt(radius**2 - (radius - t) ** 2)
    s = np.linspace(0.0, end, 200_001)
    sliver = np.trapezoid(radius - np.sqrt(radius**2 - s**2), s)
    assert lost == pytest.approx(2.0 * sliver, rel=0.03)  # the bolt is a little out of square to the tube: an ellipse


def test_a_plate_too_thick_for_it_is_refused_at_its_place_and_none_is_cut_without_being_asked() -> None:
    thick = bracketed(jointed(TENDER), {"mounts": ["lower-left.axle"], "plate": 60.0, "tips": "square"})
    made, faults = brackets_made(thick)
    assert made == []
    assert faults[0].path == "brackets[0].tips"
    assert "cut square" in faults[0].message
    plain = bracketed(jointed(TENDER), {"mounts": ["lower-left.axle"]})
    said = changed(plain, lambda data: data["brackets"][0].update(tips="feather"))
    assert brackets_made(plain)[0][0].plates[0].area == brackets_made(said)[0][0].plates[0].area
