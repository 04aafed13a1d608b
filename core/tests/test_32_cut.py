"""Bars and brackets, worked out again in three dimensions and by counting; nests, drawings and the command."""

import csv
import io
import json
import zipfile
from itertools import pairwise
from math import acos, cos, degrees, hypot, pi, radians, sin, sqrt
from pathlib import Path
from typing import Any

import ezdxf
import numpy as np
import pytest
from designs import DEMO, changed, run
from random_designs import random_designs

from oak_lever.api import (
    PAPERS,
    Cut,
    Design,
    Refused,
    Titles,
    cut,
    cut_said,
    files_of,
    read_design,
    read_stock,
    shop_archive,
    write_design,
)
from oak_lever.cut_sheet.alike import alike
from oak_lever.cut_sheet.brackets import Plate
from oak_lever.cut_sheet.outline import Arc, circle, hull, saddle
from oak_lever.cut_sheet.templates import _tiles, cope_depth
from oak_lever.design.gallery import layout
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.sheet.page import THIN, Stroke

THREADED = {"kind": "threaded", "shank": 76.0, "shoulder": 21.0, "nut": 11.0, "least_in": 28.0, "pitch": 1.5875, "flange": 6.35}  # fmt: skip
JOINTS = {
    "rod": {"limit": 30, "give": 0, "width": 50.0, "bolt": 12.7, "end": THREADED},
    "eye": {"limit": 20, "give": 1, "width": 50.0, "bolt": 12.7, "end": {"kind": "sleeve", "outside": 60.0}},
}  # fmt: skip
TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
STOCK = {
    "tubes": [{"diameter": 50.8, "wall": 6.35, "length": 3000.0, "count": 4}], "kerf": 3.0,
    "plates": [{"thickness": 6.35, "size": [600.0, 300.0], "count": 2}], "gap": 6.0,
}  # fmt: skip


def jointed(design: Design, axle: str = "rod", frame: str = "rod") -> Design:
    """With these joints at every bar, and no bends and bolts of its own."""

    def change(data: Any) -> None:
        data["joints"] = JOINTS
        for part in [*data["links"], *([data["lateral"]] if data["lateral"] else [])]:
            for end, joint in (("axle", axle), ("frame", frame), ("left", frame), ("right", frame)):
                if isinstance(part.get(end), dict) and part.get("kind") not in ("radius_arm", "slider"):
                    part[end]["joint"] = joint
                    part[end].pop("bolt", None)

    return changed(design, change)


def line_of(design: Design) -> tuple[Any, Any]:
    """The joints of its first link."""
    link: Any = design.links[0]
    return link.axle.at, link.frame.at


def bracketed(design: Design, *brackets: dict[str, Any]) -> Design:
    every = [
        {"base": {"kind": "tube"}, "plate": 6.35, "edge": 22.0, "id": f"b{n}", **one}
        for n, one in enumerate(brackets, 1)
    ]
    return changed(design, lambda data: data.update(brackets=every))


def faces(design: Design, n: int = 0, **more: Any) -> dict[str, Any]:
    """A bracket of a link's frame mount, under a rail above it."""
    x, y, z = design.links[n].frame.at
    base = {"kind": "face", "at": [x + 5.0, y, z + 40.0], "normal": [0.0, 0.0, -2.0]}
    return {"mounts": [f"{design.links[n].id}.frame"], "base": base, "foot": 90.0, **more}


# Bars


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


# Brackets


def plates_of(design: Design) -> list[Plate]:
    found = cut(design)
    assert not found.faults, found.faults
    return found.plates


def corner_cloud(plate: Plate, design: Design, rounds: list[Any]) -> np.ndarray:
    """The hull of what a plate is drawn about, by gift wrapping of many points of it."""
    points = np.concatenate(rounds)
    order = points[np.lexsort((points[:, 1], points[:, 0]))]

    def half(run: np.ndarray) -> list[Any]:
        kept: list[Any] = []
        for at in run:
            while len(kept) > 1 and (kept[-1][0] - kept[-2][0]) * (at[1] - kept[-2][1]) <= (kept[-1][1] - kept[-2][1]) * (at[0] - kept[-2][0]):  # fmt: skip
                kept.pop()
            kept.append(at)
        return kept[:-1]

    return np.array(half(order) + half(order[::-1]))


AROUND = np.linspace(0.0, 2.0 * pi, 721)
FINE = np.linspace(0.0, 2.0 * pi, 2881)


def counted(plate: Plate, design: Design, edge: float, on_tube: bool) -> tuple[float, float]:
    """Area less the holes, and degrees of saddle, by counting points of the plate's plane that are in the hull and, in
    space, not in the axle tube."""
    normal = np.cross(plate.u, plate.v)
    circles = [np.stack([u + edge * np.cos(AROUND), v + edge * np.sin(AROUND)], axis=-1) for u, v, _ in plate.holes]
    radius, tube_at = design.axle.tube_diameter / 2.0, np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    ring = np.empty((0, 2))
    if on_tube:
        # points of the cylinder, each slid along y into the plate's plane
        wall = tube_at + radius * np.stack([np.cos(FINE), 0.0 * FINE, np.sin(FINE)], axis=-1)
        wall[:, 1] = ((plate.origin - wall) @ normal) / normal[1]
        ring = np.stack([(wall - plate.origin) @ plate.u, (wall - plate.origin) @ plate.v], axis=-1)
        circles.append(ring)
    corners = corner_cloud(plate, design, circles)
    sides = np.roll(corners, -1, axis=0) - corners
    step = 0.6
    low, high = corners.min(axis=0), corners.max(axis=0)
    grid = np.stack(np.meshgrid(np.arange(low[0], high[0], step), np.arange(low[1], high[1], step)), axis=-1).reshape(
        -1, 2
    )

    def inside(at: np.ndarray, deep: float = 0.0) -> np.ndarray:
        found = np.ones(len(at), dtype=bool)
        for corner, side in zip(corners, sides, strict=True):
            found &= side[0] * (at[:, 1] - corner[1]) - side[1] * (at[:, 0] - corner[0]) >= deep * hypot(*side)
        return found

    kept = inside(grid)
    if on_tube:
        space = plate.origin + grid[:, :1] * plate.u + grid[:, 1:] * plate.v - tube_at
        kept &= np.hypot(space[:, 0], space[:, 2]) >= radius
    for u, v, across in plate.holes:
        kept &= np.hypot(grid[:, 0] - u, grid[:, 1] - v) >= across / 2.0
    wrap = 0.0
    if on_tube:
        middle = ring[:-1].mean(axis=0)
        within = inside(ring, 1e-6)
        angles = np.unwrap(np.arctan2(ring[:, 1] - middle[1], ring[:, 0] - middle[0]))
        wrap = float(np.degrees(np.abs(np.diff(angles))[within[1:] & within[:-1]].sum()))
    return kept.sum() * step**2, wrap


def fitting_brackets(seed: int) -> list[tuple[Design, Plate, float]]:
    """Plates on the axle tubes of random designs, of every link whose joint stands far enough off."""
    found = []
    for design in random_designs(seed=seed, many=10):
        shaped = jointed(design)
        for link in design.links:
            one = cut(bracketed(shaped, {"mounts": [f"{link.id}.axle"]}))
            found += [(shaped, plate, 22.0) for plate in one.plates]
    return found


def test_areas_and_saddles_are_those_of_the_points_that_are_counted() -> None:
    found = fitting_brackets(33)
    assert len(found) >= 16
    for design, plate, edge in found[::3][:6]:
        area, wrap = counted(plate, design, edge, on_tube=True)
        assert plate.area == pytest.approx(area, rel=6e-3)
        assert plate.wrap == pytest.approx(wrap, abs=0.4)
        assert plate.mass == pytest.approx(plate.area * 6.35 * 7850e-9)


def test_a_plate_on_a_face_by_hand() -> None:
    """Its bolt made square to the face's plane: a half circle on a trapezoid."""
    design = changed(jointed(TENDER), lambda data: data["links"][0]["frame"].update(bolt=[0.0, -1.0, 0.0]))
    first, second = plates_of(bracketed(design, faces(design, edge=20.0, foot=40.0)))
    # foot as wide as the circle: a rectangle of 40 by 40 and half a circle
    assert first.area == pytest.approx(40.0 * 40.0 + pi * 20.0**2 / 2.0 - pi * 13.1**2 / 4.0, rel=1e-9)
    assert second.same_as == first.part
    assert first.wrap is None
    at = design.links[0].frame.at
    out = (50.0 + 0.8 + 6.35) / 2.0
    assert first.origin == pytest.approx((at[0], at[1] - out, at[2]))
    assert second.origin == pytest.approx((at[0], at[1] + out, at[2]))
    leaning = plates_of(bracketed(design, faces(design, edge=50.0, foot=20.0, base={"kind": "face", "at": [at[0], at[1], at[2] + 30.0], "normal": [0.0, 0.0, -1.0]})))[0]  # fmt: skip
    # an edge that reaches past the face is cut off at it
    part = 50.0**2 * acos(30.0 / 50.0) - 30.0 * sqrt(50.0**2 - 30.0**2)
    assert leaning.area == pytest.approx(pi * 2500.0 - part - pi * 13.1**2 / 4.0, rel=1e-9)


def test_a_plate_square_to_the_tube_by_hand() -> None:
    """Bolt along y, the hole straight above: two tangents from the hole's circle to the tube's."""
    design = changed(jointed(TENDER), lambda data: data["links"][0]["axle"].update(bolt=[0.0, 1.0, 0.0]))
    radius, edge = design.axle.tube_diameter / 2.0, 25.0
    away = design.axle.tire_radius_loaded + radius + 12.0
    design = changed(design, lambda data: data["links"][0]["axle"].update(at=[0.0, 533.4, away]))
    plate = plates_of(bracketed(design, {"mounts": [f"{design.links[0].id}.axle"], "edge": edge}))[0]
    far = radius + 12.0
    lean = acos((radius - edge) / far)
    assert plate.wrap == pytest.approx(degrees(2.0 * lean), abs=1e-4)
    tangent = sqrt(far**2 - (radius - edge) ** 2)
    around = (radius + edge) * tangent - radius**2 * lean + edge**2 * lean
    assert plate.area == pytest.approx(around - pi * 13.1**2 / 4.0, rel=1e-7)


def test_a_mirrored_pair_is_cut_alike_and_a_wider_one_is_not() -> None:
    shaped = jointed(TENDER)
    names = [f"{link.id}.axle" for link in shaped.links[:2]]
    found = cut(bracketed(shaped, {"mounts": [names[0]]}, {"mounts": [names[1]]}, {"mounts": [names[1]], "edge": 22.2}))
    assert [plate.same_as for plate in found.plates] == [None, None, "b1-2", "b1-1", None, None]
    thick = cut(bracketed(shaped, {"mounts": [names[0]]}, {"mounts": [names[1]], "plate": 8.0}))
    assert [plate.same_as for plate in thick.plates] == [None] * 4


def test_likeness_holds_turned_and_over_and_ends_at_a_twentieth() -> None:
    def plate(turn: float, over: bool, more: float = 0.0) -> Plate:
        def at(u: float, v: float) -> tuple[float, float]:
            v = -v if over else v
            return u * cos(turn) - v * sin(turn) + 7.0, u * sin(turn) + v * cos(turn) - 3.0

        holes = [at(0.0, 0.0), at(60.0, 10.0), at(5.0, 35.0 + more)]
        shape = hull([circle(hole, 15.0 + k) for k, hole in enumerate(holes)])
        across = tuple((*hole, 10.0) for hole in holes)
        return Plate("p", shape, across, 6.0, None, None, 0.0, np.zeros(3), np.zeros(3), np.zeros(3))

    first = plate(0.0, False)
    for turn in (0.3, 1.9, 4.4):
        assert alike(first, plate(turn, False))
        assert alike(first, plate(turn, True))
        assert alike(first, plate(turn, True, 0.04))
        assert not alike(first, plate(turn, True, 0.2))


def test_gap_grip_and_holes() -> None:
    shaped = jointed(TENDER)
    x, y, z = line_of(shaped)[0]
    bolt = mechanism_of(shaped).bolts[0, 0, 0]
    up = np.array([0.0, 0.0, 1.0])
    more = (np.array([x, y, z]) + 30.0 * up).tolist()
    again = (np.array([x, y, z]) + 0.03 * up + 0.3 * bolt).tolist()
    one = {"mounts": [f"{shaped.links[0].id}.axle"], "washer": 2.0, "shrink": 1.0, "holes": [more, again]}
    found = cut(bracketed(shaped, one))
    assert not found.faults
    (bracket,) = found.brackets
    assert bracket.gap == pytest.approx(55.0)
    assert bracket.grip == pytest.approx(55.0 + 12.7)
    assert [len(plate.holes) for plate in bracket.plates] == [2, 2]
    assert bracket.plates[0].holes[0] == pytest.approx((0.0, 0.0, 13.1), abs=1e-9)
    assert hypot(*bracket.plates[0].holes[1][:2]) == pytest.approx(30.0)


AXLE = "lower-left.axle"


@pytest.mark.parametrize(
    ("bracket", "words"),
    [
        ({"mounts": ["nobody.axle"]}, "no mount"),
        ({"mounts": ["lower-left.frame"]}, "only what is on the axle"),
        ({"mounts": [AXLE, "lower-left.frame"]}, "on the frame"),
        ({"mounts": [AXLE, "upper-left.axle"]}, "out of the plane"),
        ({"mounts": [AXLE], "edge": 6.0}, "hole's radius"),
        ({"mounts": [AXLE], "edge": 46.0}, "170"),
        ({"mounts": [AXLE], "holes": [[69.85, 517.525, 388.875]]}, "from another"),
        ({"mounts": [AXLE], "material": "unheard-of"}, "no material"),
        (
            {"mounts": [AXLE], "base": {"kind": "face", "at": [0, 0, 0], "normal": [174.625, 914.4, 0]}, "foot": 50.0},
            "face",
        ),
        ({"mounts": [AXLE], "base": {"kind": "face", "at": [0, 0, 380], "normal": [0, 0, -1]}, "foot": 50.0}, "behind"),
        ({"mounts": [AXLE], "base": {"kind": "face", "at": [0, 0, 390], "normal": [0, 0, 1]}, "foot": 50.0}, "least"),
    ],
)
def test_a_bracket_that_cannot_be_made_is_told_at_its_place_and_the_rest_is_made(
    bracket: dict[str, Any], words: str
) -> None:
    shaped = jointed(TENDER)
    found = cut(bracketed(shaped, bracket, {"mounts": ["lower-right.axle"]}))
    assert [one.id for one in found.brackets] == ["b2"]
    assert len(found.bars) == 4
    assert all(fault.path.startswith("brackets[0].") and "tube" not in fault.path for fault in found.faults)
    assert any(fault.path.startswith("brackets[0]") and words in fault.message for fault in found.faults), found.faults


def test_a_tube_inside_the_hull_or_between_two_holes_leaves_no_plate() -> None:
    shaped = changed(jointed(TENDER), lambda data: data["links"][0]["axle"].update(bolt=[0.0, 1.0, 0.0]))
    x, y, z = line_of(shaped)[0]
    across = [-x, y, 2.0 * shaped.axle.tire_radius_loaded - z]
    for one in ({"holes": [across]}, {"edge": 800.0}):
        (fault,) = cut(bracketed(shaped, {"mounts": [AXLE], **one})).faults
        assert "falls into two" in fault.message


def test_ends_that_leave_no_tube_bends_that_overlap_and_bolts_off_square_are_told() -> None:
    def told(design: Design) -> list[str]:
        found = cut(design)
        assert len(found.bars) == 3
        return [fault.message for fault in found.faults]

    head, tail = (np.array(at) for at in line_of(TENDER))
    middle = ((head + tail) / 2.0 + [0.0, 0.0, 200.0]).tolist()
    long = changed(jointed(TENDER), lambda data: data["joints"]["rod"]["end"].update(shoulder=900.0, shank=1200.0))
    assert len(cut(long).faults) == 4
    assert "leave no tube" in cut(long).faults[0].message
    short = changed(jointed(TENDER), lambda data: data["joints"]["rod"]["end"].update(shoulder=50.0))
    assert "longer shank" in cut(short).faults[0].message
    for tube, words in (
        ({"bends": [middle]}, "radius of its bends"),
        ({"bends": [middle], "bend_radius": 3000.0}, "past a joint"),
    ):
        link = jointed(TENDER).links[0].rewritten(tube=tube)
        shaped = jointed(TENDER).rewritten(links=(link, *jointed(TENDER).links[1:]))
        assert words in told(shaped)[0]
    off = changed(jointed(TENDER, axle="eye"), lambda data: data["links"][0]["axle"].update(bolt=[0.3, 1.0, 0.0]))
    assert "off square" in told(off)[0]


# Nests


def many_brackets() -> Design:
    shaped = jointed(TENDER)
    some = [{"mounts": [f"{link.id}.axle"], "edge": 22.0} for link in shaped.links if "lower" in link.id]
    return bracketed(shaped, *some, *(faces(shaped, n, foot=60.0 + 7.0 * n) for n in range(4)))


def placed_polygons(found: Cut) -> dict[tuple[int, int], list[np.ndarray]]:
    assert found.nest
    shapes = {plate.part: np.array(plate.outline.points(0.01)) for plate in found.plates}
    sheets: dict[tuple[int, int], list[np.ndarray]] = {}
    for n, sheet in enumerate(found.nest.plates):
        for part in sheet.parts:
            c, s = cos(radians(part.turn)), sin(radians(part.turn))
            sheets.setdefault((n, sheet.stock), []).append(shapes[part.part] @ np.array([[c, s], [-s, c]]) + part.at)
    return sheets


def apart(one: np.ndarray, other: np.ndarray) -> float:
    """Least distance of two outlines, corner to side."""
    least = np.inf
    for a, b in ((one, other), (other, one)):
        way = np.roll(b, -1, axis=0) - b
        span = a[:, None] - b
        s = np.clip((span * way).sum(-1) / np.maximum((way**2).sum(-1), 1e-30), 0.0, 1.0)
        least = min(least, float(np.linalg.norm(span - s[..., None] * way, axis=-1).min()))
    return least


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


# Files


def test_drawings_have_the_outline_and_the_holes_at_full_size(tmp_path: Path) -> None:
    design = many_brackets()
    found = cut(design)
    files = files_of(design, found)
    assert files == files_of(design, cut(design))
    assert set(files) >= {"templates.pdf", "parts.csv"} | {f"{one.part}.dxf" for one in found.plates if not one.same_as}
    for plate in found.plates:
        if plate.same_as:
            assert f"{plate.part}.dxf" not in files
            continue
        drawing = ezdxf.read(io.StringIO(files[f"{plate.part}.dxf"].decode()))  # type: ignore[attr-defined]
        assert drawing.units == 4
        outline: Any
        (outline,) = drawing.modelspace().query('LWPOLYLINE[layer=="cut"]')
        assert outline.closed
        path = ezdxf.path.make_path(outline)
        corners = np.array([(at.x, at.y) for at in path.flattening(0.001)])
        x, y = corners[:, 0], corners[:, 1]
        area = float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum() / 2.0)
        holes = [
            (one.dxf.center.x, one.dxf.center.y, 2.0 * one.dxf.radius)
            for one in drawing.modelspace().query('CIRCLE[layer=="cut"]')
        ]
        assert area - sum(pi * d**2 / 4.0 for *_, d in holes) == pytest.approx(plate.area, rel=2e-4)
        assert np.array(holes) == pytest.approx(np.array(plate.holes))
        bar = max(one.dxf.start.distance(one.dxf.end) for one in drawing.modelspace().query('LINE[layer=="mark"]'))
        assert bar == pytest.approx(100.0)


def test_an_outline_is_smooth_where_its_pieces_meet() -> None:
    """Every arc runs into its line without a corner, but for the tips on the tube, whose edges touch it."""
    for _, plate, _ in fitting_brackets(34)[:8]:
        pieces = plate.outline.pieces
        for one, other in zip(pieces, (*pieces[1:], pieces[0]), strict=True):
            assert hypot(one.end[0] - other.start[0], one.end[1] - other.start[1]) < 1e-6
            ways = [np.array(at) for at in (tangent(one, True), tangent(other, False))]
            assert abs(float(ways[0] @ ways[1])) == pytest.approx(1.0, abs=1e-6)


def tangent(piece: Any, end: bool) -> tuple[float, float]:
    if isinstance(piece, Arc):
        t = piece.t1 if end else piece.t0
        one, other = piece.of.at(t - 1e-6), piece.of.at(t + 1e-6)
    else:
        one, other = piece.a, piece.b
    long = hypot(other[0] - one[0], other[1] - one[1])
    return (other[0] - one[0]) / long, (other[1] - one[1]) / long


@pytest.mark.parametrize("turn", [0.0, pi / 2.0, pi / 4.0, 0.3, 2.0 * pi / 1440.0 * 7.0])
@pytest.mark.parametrize("many", [2, 3, 5])
def test_holes_in_line_make_a_stadium_however_they_lie(turn: float, many: int) -> None:
    """Where three reach equally far along one normal, rounding decides whose it is: nothing may hang on that."""
    for radius, spacing in ((20.0, 30.0), (7.3, 11.1)):
        holes = [(k * spacing * cos(turn) + 3.0, k * spacing * sin(turn) - 5.0) for k in range(many)]
        area = hull([circle(hole, radius) for hole in holes]).area
        assert area == pytest.approx(pi * radius**2 + 2.0 * radius * spacing * (many - 1), rel=1e-9)
        shuffled = hull([circle(holes[k], radius) for k in np.random.default_rng(many).permutation(many)]).area
        assert shuffled == pytest.approx(area, rel=1e-9)


def test_a_plate_as_wide_as_the_tube_saddles_half_of_it() -> None:
    for turn in (0.0, pi / 2.0, 1.0):
        found = saddle([circle((60.0 * cos(turn), 60.0 * sin(turn)), 44.45)], circle((0.0, 0.0), 44.45))
        assert found is not None
        assert found.wrap == pytest.approx(180.0, abs=1e-4)
        assert found.outline.area == pytest.approx(2.0 * 44.45 * 60.0, rel=1e-7)


def test_a_coped_wall_lies_on_the_sleeve() -> None:
    for t in np.linspace(0.0, 2.0 * pi, 25):
        aside, along = 20.0 * sin(t), cope_depth(40.0, 60.0, float(t))
        assert hypot(aside, along) == pytest.approx(30.0)
    bar = cut(
        changed(jointed(TENDER, axle="eye"), lambda data: data["links"][0].update(tube={"diameter": 40.0, "wall": 4.0}))
    ).bars[0]
    longest = (bar.cut_length or 0.0) + 30.0 - min(cope_depth(40.0, 60.0, float(t)) for t in AROUND)
    assert bar.stock_length == pytest.approx(longest)


def test_copes_and_the_list_say_every_bar() -> None:
    design = bracketed(jointed(TENDER, axle="eye"), {"mounts": ["lower-right.axle"], "washer": 1.5})
    found = cut(design)
    files = files_of(design, found)
    assert sum(name.startswith("cope-") for name in files) == 4
    rows = list(csv.DictReader(io.StringIO(files["parts.csv"].decode())))
    assert {row["name"] for row in rows if row["kind"] == "bar"} == {bar.id for bar in found.bars}
    counts = {(row["kind"], row["name"]): int(row["count"]) for row in rows}
    assert counts["bung", "rod"] == counts["nut", "rod"] == counts["sleeve", "eye"] == 4
    assert counts["bolt", "b1"] == 1
    assert counts["washer", "b1"] == 2


def test_the_archive_is_whole_says_what_is_missing_and_is_the_same_each_time() -> None:
    design = bracketed(jointed(TENDER, axle="unheard-of"), {"mounts": ["lower-right.frame"]}, faces(jointed(TENDER)))
    titles = Titles("Fell tender", 7, "2026-11-30", ("axle tube",))
    made = shop_archive(design, titles, "mm", "letter")
    assert made == shop_archive(design, titles, "mm", "letter")
    with zipfile.ZipFile(io.BytesIO(made)) as archive:
        assert archive.testzip() is None
        names = set(archive.namelist())
        assert names >= {"contents.txt", "b2-1.dxf", "templates.pdf", "parts.csv", "shop-drawing.pdf", "room.dxf"}
        contents = archive.read("contents.txt").decode()
        assert read_design(archive.read("design.json")) == design
    for words in (
        "Revision 7",
        "NOT in here",
        "brackets[0]",
        "No cut length",
        "Tube guessed",
        "axle tube",
        "not an approval",
    ):
        assert words in contents
    nothing = changed(TENDER, lambda data: data.update(links=[], lateral=None, corners=None, driveshaft=None))
    with pytest.raises(Refused, match="no bar and no bracket"):
        shop_archive(nothing, titles, "mm")


def test_patterns_are_at_full_size_on_both_papers() -> None:
    """Lines of the pages' own marks, before they are written: a bar of 100 mm on each, and the whole outline on all."""
    design = bracketed(jointed(TENDER), faces(jointed(TENDER), foot=420.0))
    plate = cut(design).plates[0]
    around = sum(
        hypot(b[0] - a[0], b[1] - a[1])
        for a, b in pairwise([*plate.outline.points(0.01), plate.outline.points(0.01)[0]])
    )
    for size in (PAPERS["a4"], PAPERS["letter"]):
        pages = list(_tiles(plate, size))
        assert len(pages) == 2
        drawn = 0.0
        for page in pages:
            lines = [mark for mark in page if isinstance(mark, Stroke)]
            assert any(abs(line.points[0][0] - line.points[-1][0]) == pytest.approx(100.0) for line in lines)
            assert all(0.0 <= x <= size[0] and 0.0 <= y <= size[1] for line in lines for x, y in line.points)
            drawn += sum(
                hypot(line.points[1][0] - line.points[0][0], line.points[1][1] - line.points[0][1])
                for line in lines
                if line.width == THIN and len(line.points) == 2
            )
        ticks = 2 * (3 * 6.0 + 8 * 3.0)
        holes = pi * 13.1 + 2 * 13.1
        assert drawn == pytest.approx(around + holes + ticks, rel=2e-3)


# The command


def test_the_command_prints_and_writes(tmp_path: Path) -> None:
    design = many_brackets()
    (tmp_path / "d.json").write_text(write_design(design))
    (tmp_path / "s.json").write_text(json.dumps(STOCK))
    asked = (
        "cut",
        str(tmp_path / "d.json"),
        "--json",
        "--stock",
        str(tmp_path / "s.json"),
        "--out",
        str(tmp_path / "shop"),
    )
    done = run(*asked)
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert (said["format"], said["version"], said["design"]) == ("oak-lever-cut", 1, design.name)
    assert said == json.loads(json.dumps(cut(design, read_stock(json.dumps(STOCK))).data()))
    assert {one.name for one in (tmp_path / "shop").iterdir()} == set(files_of(design, cut(design)))


def test_the_command_refuses_at_the_place_and_writes_nothing(tmp_path: Path) -> None:
    design, file, stock = many_brackets(), tmp_path / "d.json", tmp_path / "s.json"
    file.write_text(write_design(design))
    stock.write_text('{"kerf": -1, "tubes": [{"diameter": 1}]}')
    refused = run("cut", str(file), "--stock", str(stock))
    assert refused.returncode == 2
    assert "kerf" in refused.stderr
    assert "tubes[0].wall" in refused.stderr
    nowhere = run("cut", str(file), "--out", str(stock))
    assert nowhere.returncode == 1
    assert "not written" in nowhere.stderr
    bad = write_design(bracketed(design, {"mounts": ["nobody.axle"]}, {"mounts": ["nobody.frame"]}))
    refused = run("cut", "-", "--out", str(tmp_path / "none"), text=bad)
    assert refused.returncode == 2
    assert refused.stderr.count("brackets[") == 2
    assert not (tmp_path / "none").exists()
    with pytest.raises(Refused, match="outermost"):
        read_stock("[]")


def test_a_bracket_on_a_face_says_its_foot_and_the_words_say_everything() -> None:
    shaped = jointed(TENDER)
    with pytest.raises(Refused, match="foot"):
        bracketed(shaped, faces(shaped, foot=None))
    said = "\n".join(cut_said(cut(many_brackets(), read_stock(json.dumps(STOCK)))))
    for words in ("tube guessed", "threads: left at the axle", "cut like", "sheet of stock 1", "tube of stock 1"):
        assert words in said
