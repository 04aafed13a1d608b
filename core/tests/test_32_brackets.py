"""Brackets' plates, against points that are counted, closed forms and mirror images."""

from math import acos, cos, degrees, hypot, pi, sin, sqrt
from typing import Any

import numpy as np
import pytest
from designs import changed
from making import AROUND, AXLE, TENDER, bracketed, faces, fitting_brackets, jointed, line_of

from oak_lever.api import (
    Design,
    cut,
)
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.plates.alike import alike
from oak_lever.plates.brackets import Plate
from oak_lever.plates.outline import circle, hull


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
