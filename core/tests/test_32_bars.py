"""Bars as they are sawn, threaded and bent, against sums by hand and a bender that follows them."""

from itertools import pairwise
from math import cos, pi, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, jointed, line_of
from random_designs import random_designs

from oak_lever.api import (
    Design,
    cut,
)
from oak_lever.design.gallery import layout


def test_a_threaded_bar_by_hand() -> None:
    bar = cut(jointed(TENDER)).bars[0]
    apart = sqrt(sum((a - b) ** 2 for a, b in zip(*line_of(TENDER), strict=True)))
    x = (21.0 + 11.0 + 76.0 - 28.0) / 2.0
    assert bar.center_to_center == pytest.approx(apart, abs=1e-9)
    assert bar.cut_length == pytest.approx(apart - 2.0 * (x + 6.35), abs=1e-9)
    assert bar.stock_length == bar.cut_length
    assert bar.adjust is not None
    assert list(bar.adjust) == pytest.approx([2.0 * (x - 32.0), 2.0 * (48.0 - x)])
    assert bar.per_turn == pytest.approx(3.175)
    assert bar.hands == {"axle": "left", "frame": "right"}
    assert bar.mass == pytest.approx(7850e-9 * pi / 4.0 * (50.8**2 - 38.1**2) * (apart - 92.7), rel=1e-9)


def test_a_sleeve_takes_half_its_outside_and_the_cope_is_added_to_the_stock() -> None:
    bar = cut(jointed(TENDER, axle="eye")).bars[0]
    assert bar.cut_length == pytest.approx(bar.center_to_center - 30.0 - 46.35)
    assert bar.stock_length == pytest.approx((bar.cut_length or 0.0) + 30.0 - sqrt(900.0 - 25.4**2))
    assert bar.hands == {"axle": None, "frame": "right"}
    wide = changed(
        jointed(TENDER, axle="eye"), lambda data: data["links"][0].update(tube={"diameter": 70.0, "wall": 5.0})
    )
    found = cut(wide).bars[0]
    assert found.stock_length == pytest.approx((found.cut_length or 0.0) + 30.0)


def test_without_ends_there_is_no_cut_length_and_a_lone_thread_is_right() -> None:
    bar = cut(jointed(TENDER, axle="unheard-of")).bars[0]
    assert (bar.cut_length, bar.stock_length, bar.adjust, bar.per_turn, bar.mass) == (None,) * 5
    assert bar.hands == {"axle": None, "frame": "right"}
    assert bar.center_to_center > 0.0


def test_a_watts_rod_s_crank_end_is_made_as_its_other_end() -> None:
    found = {bar.id: bar for bar in cut(jointed(layout("three links and watts"))).bars}
    for name in ("watts-left", "watts-right"):
        assert found[name].hands == {"axle": "left", "frame": "right"}
        assert found[name].cut_length == pytest.approx(found[name].center_to_center - 92.7)


def bent(design: Design, rng: np.random.Generator, many: int) -> Design:
    """Its first link with corners off its line, and a radius that fits them."""
    head, tail = (np.array(at) for at in line_of(design))
    corners = [
        (head + (tail - head) * (k + 1) / (many + 1) + rng.uniform(-60.0, 60.0, 3)).tolist() for k in range(many)
    ]
    tube = {"diameter": 44.45, "wall": 4.8, "bends": corners, "bend_radius": 60.0}
    return changed(design, lambda data: data["links"][0].update(tube=tube))


def followed(bar: Any, radius: float) -> tuple[list[np.ndarray], float]:
    """A tube bent by what the bender is told: its corners from the axle end, and how long it is along the middle."""
    at, way, plane = np.zeros(3), np.array([1.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0])
    corners, long, before = [at], 0.0, 0.0
    for bend in bar.bends:
        turn, roll = radians(bend.angle), radians(bend.rotation)
        tangent = radius * np.tan(turn / 2.0)
        plane = plane * cos(roll) + np.cross(way, plane) * sin(roll)
        at = at + way * (before + bend.straight + tangent)
        corners.append(at)
        way = way * cos(turn) + np.cross(plane, way) * sin(turn)
        long += bend.straight + radius * turn
        before = tangent
    corners.append(at + way * (before + bar.last_straight))
    return corners, long + bar.last_straight


def test_a_bender_that_follows_the_bends_makes_the_tube_that_is_drawn() -> None:
    rng, looked = np.random.default_rng(4), 0
    for design in random_designs(seed=32, many=12):
        if design.links[0].kind == "radius_arm":
            continue
        shaped = bent(design, rng, int(rng.integers(1, 4)))
        bar = next(one for one in cut(shaped).bars if one.id == design.links[0].id)
        link = shaped.links[0]
        drawn = [np.array(at) for at in (link.axle.at, *link.tube.bends, link.frame.at)]  # type: ignore[union-attr]
        made, long = followed(bar, 60.0)
        for a in range(len(drawn)):
            for b in range(a):
                assert np.linalg.norm(made[a] - made[b]) == pytest.approx(
                    float(np.linalg.norm(drawn[a] - drawn[b])), abs=1e-6
                )
        # hands: the corners turn the same way about each other
        if len(drawn) > 3:
            frames = [np.linalg.det(np.stack([c[1] - c[0], c[2] - c[0], c[3] - c[0]])) for c in (drawn, made)]
            assert frames[0] == pytest.approx(frames[1], rel=1e-6, abs=1e-3)
        assert bar.developed == pytest.approx(long, abs=1e-9)
        assert bar.center_to_center < bar.developed < sum(np.linalg.norm(b - a) for a, b in pairwise(drawn))
        looked += 1
    assert looked >= 6
