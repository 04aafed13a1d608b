"""Drawings, patterns, copes, the list, the archive and the command, read back by others."""

import csv
import io
import json
import zipfile
from dataclasses import replace
from itertools import pairwise
from math import cos, hypot, pi, sin
from pathlib import Path
from typing import Any

import ezdxf
import numpy as np
import pytest
from designs import changed, run
from making import (
    AROUND,
    STOCK,
    TENDER,
    bracketed,
    faces,
    fitting_brackets,
    jointed,
    many_brackets,
    tangent,
)

from oak_lever.api import (
    PAPERS,
    Refused,
    Titles,
    cut,
    cut_said,
    files_of,
    parts_list,
    read_design,
    read_stock,
    shop_archive,
    shop_archive_going,
    write_design,
)
from oak_lever.cut_sheet.lists import drilled_with
from oak_lever.cut_sheet.templates import _tiles, cope_depth
from oak_lever.plates.outline import circle, hull, saddle
from oak_lever.sheet.page import THIN, Stroke


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


def test_plates_drilled_stacked_have_their_holes_on_the_same_bolts() -> None:
    """By the places of the holes in the truck for the two of a bracket; by the shape of the holes for those cut alike."""
    design = many_brackets()
    found = cut(design)
    plates = {plate.part: plate for plate in found.plates}
    notes = {one.name: one.note for one in parts_list(design, found) if one.kind == "plate"}
    stacked = {part: note.split("drill stacked with ")[1] for part, note in notes.items() if "drill stacked" in note}
    assert len(stacked) >= 4
    for part, on in stacked.items():
        one, other = plates[part], plates[on]
        spans = [
            sorted(hypot(a[0] - b[0], a[1] - b[1]) for a in plate.holes for b in plate.holes) for plate in (one, other)
        ]
        assert spans[0] == pytest.approx(spans[1], abs=0.1)
        if one.same_as is None:
            assert part.rsplit("-", 1)[0] == on.rsplit("-", 1)[0]
            for here, there in zip(one.holes, other.holes, strict=True):
                off = (one.origin + one.u * here[0] + one.v * here[1]) - (
                    other.origin + other.u * there[0] + other.v * there[1]
                )
                assert abs(off @ one.u) + abs(off @ one.v) < 0.1
    # a hole moved in one of them, and it is not
    (bracket, *rest) = (one for one in found.brackets if one.plates[1].part in stacked)
    first, second = bracket.plates
    (u, v, across), *more = second.holes
    askew = replace(second, holes=((u + 1.0, v, across), *more), same_as=None)
    moved = replace(found, brackets=(replace(bracket, plates=(first, askew)), *rest), truss=())
    assert second.part not in drilled_with(moved)


def test_the_archive_says_how_far_it_is_and_comes_to_the_same() -> None:
    design = many_brackets()
    titles = Titles("Yard truck", 3, "2026-12-01")
    going = shop_archive_going(design, titles, "mm")
    shares = []
    while True:
        try:
            shares.append(next(going))
        except StopIteration as end:
            made = end.value
            break
    assert len(shares) >= 4
    assert shares == sorted(set(shares))
    assert all(0.0 < one < 1.0 for one in shares)
    assert made == shop_archive(design, titles, "mm")


def test_a_bracket_on_a_face_says_its_foot_and_the_words_say_everything() -> None:
    shaped = jointed(TENDER)
    with pytest.raises(Refused, match="foot"):
        bracketed(shaped, faces(shaped, foot=None))
    said = "\n".join(cut_said(cut(many_brackets(), read_stock(json.dumps(STOCK)))))
    for words in ("tube guessed", "threads: left at the axle", "cut like", "sheet of stock 1", "tube of stock 1"):
        assert words in said
