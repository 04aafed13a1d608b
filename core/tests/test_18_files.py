"""Shapes brought in from other programs, the room as a drawing, and a suspension copied onto another housing."""

import re
import subprocess
import sys
from io import StringIO
from math import hypot
from typing import Any

import ezdxf
import numpy as np
import pytest
import trimesh
from designs import DEMO, changed, measured

from oak_lever.api import (
    WHOLE,
    Onto,
    Refused,
    Titles,
    cycle,
    design_from,
    from_dxf,
    from_stl,
    onto_housing,
    parts_of,
    read_design,
    room_dxf,
)  # fmt: skip
from oak_lever.clearance.imports import MOST_CORNERS
from oak_lever.clearance.within import outside
from oak_lever.design.room import Hull

FELL = read_design((DEMO / "fell-tender-rear.json").read_bytes())
SAME = Onto(939.8, 444.5, 317.5, 1682.75, 88.9, 317.5, 38.1, 9.0)


def stl(mesh: Any, text: bool = False) -> bytes:
    out = mesh.export(file_type="stl_ascii" if text else "stl")
    return out.encode() if isinstance(out, str) else bytes(out)


def dxf(draw: Any, units: int = 4) -> bytes:
    drawing = ezdxf.new("R2010", units=units)  # type: ignore[attr-defined]
    draw(drawing.modelspace())
    out = StringIO()
    drawing.write(out)
    return out.getvalue().encode()


# shapes


@pytest.mark.parametrize("text", [False, True])
def test_a_shape_becomes_the_hull_of_its_corners(text: bool) -> None:
    box = trimesh.creation.box((2.0, 4.0, 6.0))
    box.apply_translation((10.0, 0.0, 30.0))
    brought = from_stl(stl(box, text), "Oil pan", "in")
    (shape,) = brought.shapes
    points = np.array(shape.solid["points"])
    assert shape.name == "Oil pan"
    np.testing.assert_allclose(points.min(0), np.array([9.0, -2.0, 27.0]) * 25.4, atol=1e-3)
    np.testing.assert_allclose(points.max(0), np.array([11.0, 2.0, 33.0]) * 25.4, atol=1e-3)
    said = "Taken as the hull of 8 corners of its 12 triangles, 51 by 102 by 152 mm: its hollows are filled."
    assert brought.said == (said,)


def lost_of(brought: Any, corners: Any) -> tuple[float, float]:
    """How far the farthest of the corners stands outside the hull that was taken, and how far that is said to be."""
    (shape,) = brought.shapes
    hull = Hull(kind="hull", points=tuple(tuple(point) for point in shape.solid["points"]))
    said = re.search(r"up to about ([\d.]+) mm", " ".join(brought.said))
    return float(outside(hull, np.array(corners)).max()), float(said[1]) if said else 0.0


def test_a_shape_of_many_corners_keeps_so_many_and_says_what_that_lost() -> None:
    ball = trimesh.creation.icosphere(subdivisions=5, radius=100.0)
    brought = from_stl(stl(ball), "Ball", "mm")
    assert len(brought.shapes[0].solid["points"]) == MOST_CORNERS
    lost, said = lost_of(brought, ball.vertices)
    assert 0.5 < lost <= said < 2.0


@pytest.mark.parametrize("seed", range(6))
def test_a_hull_holds_every_corner_to_half_a_millimeter_where_so_many_corners_do(seed: int) -> None:
    """Clouds stretched and bent, plates with a low boss, needles: none of their corners stands out of what is kept."""
    rng = np.random.default_rng(seed)
    cloud = rng.normal(size=(900, 3)) * rng.uniform(2.0, 300.0, 3)
    if seed % 3 == 1:  # a wide plate with a boss that rises from it by a few millimeters
        cloud[:, 2] = rng.uniform(0.0, 0.1, 900)
        cloud[0] = [3.0, 5.0, 9.0]
    if seed % 3 == 2:
        cloud[:, 2] = 0.001 * cloud[:, 0] ** 2
    soup = trimesh.Trimesh(cloud, np.arange(900).reshape(-1, 3), process=False)
    brought = from_stl(stl(soup), "Soup", "mm")
    lost, said = lost_of(brought, cloud)
    kept = {tuple(point) for point in brought.shapes[0].solid["points"]}
    assert kept <= {tuple(point) for point in cloud.astype(np.float32).astype(float).tolist()}
    assert lost <= max(0.55, said)


def test_a_shape_of_a_quarter_million_triangles_takes_no_more_than_its_corners_do() -> None:
    done = subprocess.run([sys.executable, "-c", """
import resource, sys
from oak_lever.clearance.imports import from_stl
from oak_lever.clearance.within import outside
import numpy as np
from oak_lever.design.room import Hull
outside(Hull(kind="hull", points=((0, 0, 0), (1, 0, 0), (0, 1, 0), (0, 0, 1))), np.zeros((1, 3)))
data = sys.stdin.buffer.read()
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
from_stl(data, "Ball", "mm")
print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024)
"""], input=many_triangles(250_000), capture_output=True, check=True)  # fmt: skip
    assert float(done.stdout) < 200.0  # MB


def many_triangles(count: int) -> bytes:
    rng = np.random.default_rng(1)
    one = np.zeros(count, np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")]))
    corners = rng.normal(size=(count, 3, 3))
    one["corners"] = corners / np.linalg.norm(corners, axis=-1, keepdims=True) * 150.0
    return b"\0" * 80 + count.to_bytes(4, "little") + one.tobytes()


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "holds no triangle"),
        (b"\x89PNG and so on", "can't be read as STL"),
        (b"\0" * 80 + (5).to_bytes(4, "little") + b"\0" * 60, "can't be read as STL"),
        (b"solid x\nvertex 1 2 nan\nvertex 4 5 6\nvertex 7 8 9\n", "no places on a truck"),
        (b"solid x\nvertex 1 2 blue\nvertex 4 5 6\nvertex 7 8 9\n", "can't be read as STL"),
        (b"solid nothing\nendsolid nothing\n", "holds no triangle"),
        (stl(trimesh.Trimesh([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]])), "lies in a plane"),
        (stl(trimesh.creation.box((1e9, 1.0, 1.0))), "no places on a truck"),
    ],
)
def test_what_is_no_shape_is_refused(data: bytes, why: str) -> None:
    with pytest.raises(Refused, match=why):
        from_stl(data, "Pan", "mm")


# outlines


def test_closed_outlines_are_drawn_out_and_open_ones_left() -> None:
    def draw(space: Any) -> None:
        corners = [(0, 0), (10, 0), (10, 5), (0, 5)]
        for a, b in zip(corners, corners[1:] + corners[:1], strict=True):
            space.add_line(a, b, dxfattribs={"layer": "tank"})
        space.add_circle((20, 0), 2, dxfattribs={"layer": "hole"})
        space.add_lwpolyline([(30, 0), (31, 0), (31, 1)])
        space.add_text("not an outline")

    brought = from_dxf(dxf(draw, units=1), "Side", "y", -50.0, 60.0, "mm")
    by_name = {shape.name: shape.solid for shape in brought.shapes}
    assert set(by_name) == {"Side, tank", "Side, hole"}
    tank = by_name["Side, tank"]
    assert (tank["kind"], tank["along"], tank["from"], tank["to"]) == ("prism", "y", -50.0, 60.0)
    assert {tuple(corner) for corner in tank["outline"]} == {(0.0, 0.0), (254.0, 0.0), (254.0, 127.0), (0.0, 127.0)}
    away = [hypot(x - 508.0, z) for x, z in by_name["Side, hole"]["outline"]]
    assert max(away) == pytest.approx(50.8, abs=0.05)  # corners lie on the circle, nearly: it is read as a curve
    assert min(away) == pytest.approx(50.8, abs=0.05)
    assert "the file says its unit" in brought.said[0]
    assert "no unit, so in was taken" in from_dxf(dxf(draw, units=0), "Side", "y", 0.0, 1.0, "in").said[0]


@pytest.mark.parametrize(
    ("data", "start", "why"),
    [
        (b"garbage", 0.0, "can't be read"),
        (dxf(lambda space: space.add_line((0, 0), (1, 1))), 0.0, "no closed outline"),
        (dxf(lambda space: space.add_circle((0, 0), 1)), 9.0, "somewhere farther"),
    ],
)
def test_what_is_no_outline_is_refused(data: bytes, start: float, why: str) -> None:
    with pytest.raises(Refused, match=why):
        from_dxf(data, "Side", "x", start, 5.0, "mm")


# the drawing


def test_the_room_is_drawn_at_full_size_in_three_views_with_the_caution() -> None:
    drawing = ezdxf.read(StringIO(room_dxf(FELL, Titles("Fell tender", 3, "2026-11-26"))))  # type: ignore[attr-defined]
    assert drawing.audit().errors == []
    space = list(drawing.modelspace())
    words = [one.dxf.text for one in space if one.dxftype() == "TEXT"]
    assert set(WHOLE) <= set(words)
    assert "Fell tender, Fell tender, rear, revision 3, 2026-11-26. Full size, mm, at ride." in words
    circles = [one for one in space if one.dxftype() == "CIRCLE" and one.dxf.layer == "MOUNTS"]
    assert len(circles) == 3 * len(parts_of(FELL).spots)
    side = {(round(-one.dxf.center.x, 6), round(one.dxf.center.y, 6)) for one in circles[: len(parts_of(FELL).spots)]}
    assert side == {(spot.at[0], spot.at[2]) for spot in parts_of(FELL).spots}
    outlines = [one for one in space if one.dxf.layer == "KEEP_OUTS" and one.dxftype() == "LWPOLYLINE"]
    tank = [(x, y) for one in outlines for x, y, *_ in one.get_points()]  # type: ignore[attr-defined]
    assert (1000.0, 480.0) in tank  # the water tank's lower rear corner, 1000 mm behind the axle
    assert read_back(outlines) > 0


def read_back(outlines: Any) -> int:
    """How many outlines of the side view come back as keep-outs: what goes out can come in."""
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    for one in outlines[:6]:
        drawing.modelspace().add_foreign_entity(one)
    out = StringIO()
    drawing.write(out)
    return len(from_dxf(out.getvalue().encode(), "Back", "y", 0.0, 10.0, "mm").shapes)


# another housing


def test_the_same_axle_leaves_nothing_over() -> None:
    copied = onto_housing(FELL.rewritten(room=None), SAME, "remade")
    assert copied.left_over == ()
    assert design_from(copied.document) == FELL.rewritten(room=None)


def test_bigger_tires_lift_everything_alike() -> None:
    onto = Onto(1000.0, 470.0, 330.0, 1702.75, 88.9, 317.5, 38.1, 9.0)
    copied = onto_housing(FELL, onto, "remade")
    there = design_from(copied.document)
    for spot, was in zip(parts_of(there).spots, parts_of(FELL).spots, strict=True):
        assert spot.at == pytest.approx((was.at[0], was.at[1], was.at[2] + 25.5))
    assert there.room is not None
    assert there.room.keep_outs[3].solid.center[2] == pytest.approx(640.0 + 25.5)  # type: ignore[union-attr]
    assert copied.left_over[0].startswith(
        "On these tires the frame, its mounts and all that stands on it are 26 mm higher"
    )
    assert "Each wheel stands 10 mm farther out." in copied.left_over
    before, after = (cycle(design, 3).heave.columns["pinion_change"] for design in (FELL, there))
    np.testing.assert_allclose(before, after, atol=1e-6)  # the links' own geometry is the proven one


def test_a_thicker_tube_moves_kept_brackets_out_and_makes_remade_ones_shorter() -> None:
    onto = Onto(939.8, 444.5, 317.5, 1682.75, 108.9, 317.5, 38.1, 11.0, pad=2.0)
    kept = onto_housing(FELL, onto, "kept")
    there = parts_of(design_from(kept.document)).spot("lower-left.axle").at
    was = parts_of(FELL).spot("lower-left.axle").at
    far = [hypot(at[0], at[2] - 444.5) for at in (there, was)]
    assert far[0] - far[1] == pytest.approx(12.0)
    assert any("lower left link is" in words and "between its joints" in words for words in kept.left_over)
    remade = onto_housing(FELL, onto, "remade")
    assert "The axle brackets must be 12 mm shorter between tube and bolt than the old ones." in remade.left_over
    assert any(
        "from 9.0" in words or "where it pointed 9.0: turn the perches by 2.0 degrees" in words
        for words in remade.left_over
    )
    assert measured(cycle(design_from(remade.document)))["separation_axle"] == pytest.approx(
        measured(cycle(FELL))["separation_axle"]
    )


def test_a_pinion_farther_back_asks_for_a_longer_shaft() -> None:
    onto = Onto(939.8, 444.5, 317.5, 1682.75, 88.9, 297.5, 38.1, 9.0)
    assert any(
        "20 mm farther back: the shaft is to be nearly so much longer" in w
        for w in onto_housing(FELL, onto, "remade").left_over
    )


def test_what_can_not_be_built_on_the_new_axle_is_said() -> None:
    narrow = Onto(939.8, 444.5, 317.5, 1300.0, 88.9, 317.5, 38.1, 9.0)
    assert any(
        words.startswith("Can't be built so: lower-left.axle: inside a tire")
        for words in onto_housing(FELL, narrow, "remade").left_over
    )


def test_what_was_found_keeps_its_own_tires_whatever_the_truck_has() -> None:
    from oak_lever.truck.resolve import differences, first_truck, resolved, split, with_figures

    found = changed(FELL, lambda data: data.update(as_found=True))
    truck = with_figures(
        first_truck("Fell", FELL),
        changed(FELL, lambda data: data["axle"].update(tire_diameter=1000.0)),
        ["axle.tire_diameter"],
    )
    bare, figures = split(found)
    assert figures == {}
    assert resolved(bare, truck).axle.tire_diameter == 939.8
    assert differences(found, truck) == []
    assert resolved(split(FELL)[0], truck).axle.tire_diameter == 1000.0
    assert "as_found" not in onto_housing(found, SAME, "kept").document


def test_lines_that_nearly_meet_are_an_outline_and_what_is_none_is_counted() -> None:
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    space = drawing.modelspace()
    corners = [(0.0, 600.0), (400.0, 600.0), (400.0, 800.0), (0.0, 800.0)]
    for n, (x, y) in enumerate(corners):
        a, b = corners[(n + 1) % 4]
        space.add_line((x + 0.2, y), (a - 0.2, b))
    space.add_line((0.0, 900.0), (400.0, 900.0))
    space.add_text("plate")
    out = StringIO()
    drawing.write(out)
    brought = from_dxf(out.getvalue().encode(), "plate", "y", -4.0, 4.0, "mm")
    (shape,) = brought.shapes
    outline = np.array(shape.solid["outline"])
    assert len(outline) == 4
    for corner in corners:
        assert np.linalg.norm(outline - corner, axis=1).min() < 0.5
    assert "1 line or arc whose ends meet nothing, 1 text" in brought.said[-1]
    wide = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    for n, (x, y) in enumerate(corners):
        a, b = corners[(n + 1) % 4]
        wide.modelspace().add_line((x + 0.4, y), (a - 0.4, b))
    out = StringIO()
    wide.write(out)
    with pytest.raises(Refused, match="no closed outline"):
        from_dxf(out.getvalue().encode(), "plate", "y", -4.0, 4.0, "mm")


def hostile(space: Any) -> None:
    """What a drawing that was sent may hold, each with something wrong; and one good outline."""
    space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)
    space.add_lwpolyline([(0, 0), (9, 0)], close=True)
    space.add_lwpolyline([(0, 0, 0, 0, 1e9), (9, 0, 0, 0, 1e9)], close=True)
    space.add_lwpolyline([(0, 0), (1e12, 0), (1e12, 1e12)], close=True)
    space.add_lwpolyline([(0, 0), (50, 50), (50, 0), (0, 50)], close=True)
    space.add_spline([(0, 0, 0)], degree=3)
    spline = space.add_spline(degree=3)
    spline.control_points = [(0, 0, 0), (1, 1, 0)]
    spline.knots = [0.0, 0.0, 5.0, -3.0]
    space.add_circle((0, 0), 0.0)
    space.add_arc((5, 5), 3.0, 20.0, 20.0)
    space.add_line((200, 0), (200, 0))
    space.add_line((300, 0), (310, 0))
    space.add_line((300, 0), (310, 0))
    space.add_line((400, 0), (410, 0))
    space.add_text("words")


def test_a_broken_entity_costs_none_of_the_others() -> None:
    brought = from_dxf(dxf(hostile), "Sent", "y", -5.0, 5.0, "mm")
    outlines = [{tuple(c) for c in shape.solid["outline"]} for shape in brought.shapes]
    assert {(0.0, 0.0), (100.0, 0.0), (100.0, 50.0), (0.0, 50.0)} in outlines
    said = brought.said[-1]
    for what in ("spline", "beyond any truck", "encloses nothing, or crosses itself", "meet nothing", "1 text"):
        assert what in said


def test_curves_in_blocks_and_in_blocks_within_them_are_taken_where_they_are_put() -> None:
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    inner, outer, endless = (drawing.blocks.new(name) for name in ("INNER", "OUTER", "ENDLESS"))
    inner.add_circle((0, 0), 10.0)
    outer.add_blockref("INNER", (100, 0))
    outer.add_line((0, 0), (5, 0))
    endless.add_blockref("ENDLESS", (1, 0))
    space = drawing.modelspace()
    space.add_blockref("INNER", (0, 300))
    space.add_blockref("OUTER", (1000, 0), dxfattribs={"xscale": 2.0, "yscale": 2.0})
    space.add_blockref("NOWHERE", (0, 0))
    space.add_blockref("ENDLESS", (0, 0))
    out = StringIO()
    drawing.write(out)
    brought = from_dxf(out.getvalue().encode(), "Plate", "y", -5.0, 5.0, "mm")
    found = {
        (round(float(np.mean([c[0] for c in o]))), round(float(np.mean([c[1] for c in o]))), round(float(np.ptp([c[0] for c in o]))))
        for o in (shape.solid["outline"] for shape in brought.shapes)
    }  # fmt: skip
    assert found == {(0, 300, 20), (1200, 0, 40)}
    assert "deep in others" in brought.said[-1]


def test_a_block_put_a_million_times_is_read_to_a_bound() -> None:
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    for n in range(7):
        block = drawing.blocks.new(f"B{n}")
        for k in range(12):
            if n:
                block.add_blockref(f"B{n - 1}", (k * 40.0, 0))
            else:
                block.add_circle((k * 3.0, 0), 1.0)
    drawing.modelspace().add_blockref("B6", (0, 0))
    out = StringIO()
    drawing.write(out)
    brought = from_dxf(out.getvalue().encode(), "Bomb", "y", -5.0, 5.0, "mm")
    assert len(brought.shapes) == 60
    assert "after its first 20000 entities" in brought.said[-1]


def test_an_outline_is_simplified_to_half_a_millimeter_and_stays_where_it_was() -> None:
    turns = np.linspace(0.0, 2.0 * np.pi, 1000, endpoint=False)
    round_one = [(300.0 * np.cos(t) * (1.0 + 0.1 * np.sin(9.0 * t)), 200.0 * np.sin(t)) for t in turns]
    brought = from_dxf(dxf(lambda space: space.add_lwpolyline(round_one, close=True)), "Tank", "y", -5.0, 5.0, "mm")
    (shape,) = brought.shapes
    kept = np.array(shape.solid["outline"])
    assert len(kept) < 200
    assert "corners within 0.5 mm of the line left out" in brought.said[0]
    along = np.roll(kept, -1, axis=0) - kept
    for point in np.array(round_one):
        part = np.clip(((point - kept) * along).sum(1) / (along**2).sum(1), 0.0, 1.0)
        assert np.linalg.norm(point - kept - part[:, None] * along, axis=1).min() <= 0.5 + 1e-6
