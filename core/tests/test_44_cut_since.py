"""What is made otherwise since an earlier revision, and nested sheets, read back by another library."""

import io
import json
from math import cos, hypot, radians, sin
from typing import Any

import ezdxf
import numpy as np
import pytest
from designs import changed
from making import STOCK, jointed, many_brackets

from oak_lever.api import Design, cut, cut_since, read_stock, sheet_dxf

MADE = jointed(many_brackets())


def since(change: Any, before: Design = MADE) -> list[str]:
    return cut_since(before, changed(before, change), "mm")


def test_nothing_is_said_of_what_is_the_same() -> None:
    assert since(lambda data: data.update(name="Another", notes="x")) == []
    assert since(lambda data: data["travel"].update(bump=data["travel"]["bump"] - 5.0)) == []


@pytest.mark.parametrize("far", [4.0, -3.0])
def test_a_bar_is_as_much_longer_as_its_joints_are_farther_apart(far: float) -> None:
    link = MADE.links[2]
    way = np.array(link.frame.at) - np.array(link.axle.at)
    way /= np.linalg.norm(way)

    def move(data: Any) -> None:
        data["links"][2]["frame"]["at"] = (np.array(link.frame.at) + far * way).tolist()

    (line,) = [one for one in since(move) if one.startswith("Upper left link")]
    assert f"{abs(far):.0f} mm {'longer' if far > 0.0 else 'shorter'}" in line
    was, now = (next(b for b in cut(d).bars if b.id == link.id) for d in (MADE, changed(MADE, move)))
    assert (now.cut_length or 0.0) - (was.cut_length or 0.0) == pytest.approx(far)


def test_each_way_of_being_otherwise_is_named() -> None:
    def tube(data: Any) -> None:
        data["links"][0]["tube"] = {"diameter": 44.45, "wall": 4.78}

    def bent(data: Any) -> None:
        ends = [np.array(data["links"][0][end]["at"]) for end in ("axle", "frame")]
        data["links"][0]["tube"] = {
            "bends": [((ends[0] + ends[1]) / 2.0 + [0.0, 0.0, 40.0]).tolist()],
            "bend_radius": 150.0,
        }

    def bolt(data: Any) -> None:
        data["links"][0]["axle"]["fastener"] = {"diameter": 16.0, "yield": 640.0}

    def cut_short(data: Any) -> None:
        data["joints"]["rod"]["end"]["shank"] = 20.0

    assert any("of tube 44 mm by 5 mm" in line for line in since(tube))
    assert any("bent otherwise" in line for line in since(bent))
    assert any("straight" in line for line in cut_since(changed(MADE, bent), MADE, "mm"))
    assert any("cannot be made as it is drawn" in line for line in since(cut_short))
    assert "Bolt of the lower left link at the axle: 16 mm, 640 MPa (93 ksi), sheared in 2" in since(bolt)


def test_brackets_are_new_gone_thicker_drilled_and_cut_otherwise() -> None:
    first = MADE.brackets[0] if MADE.brackets else None
    assert first is not None

    def put(**more: Any) -> Any:
        return lambda data: data["brackets"][0].update(more)

    def lines(change: Any) -> str:
        return "\n".join(line for line in since(change) if f"racket {first.id}" in line)

    assert "made no more" in lines(lambda data: data["brackets"].pop(0))
    gone = changed(MADE, lambda data: data["brackets"].pop(0))
    assert any(f"racket {first.id}" in line and line.endswith(": new") for line in cut_since(gone, MADE, "mm"))
    assert "plate 12 mm thick" in lines(put(plate=12.0))
    assert "outline otherwise" in lines(put(edge=first.edge + 3.0))


def test_a_nested_sheet_has_each_plate_where_it_lies() -> None:
    stock = read_stock(json.dumps(STOCK))
    made = cut(MADE, stock)
    assert made.nest is not None
    plates = {one.part: one for one in made.plates}
    assert sum(len(one.parts) for one in made.nest.plates) >= 6
    for sheet in made.nest.plates:
        size = stock.plates[sheet.stock].size
        drawing = ezdxf.read(io.StringIO(sheet_dxf(sheet, plates, size)))  # type: ignore[attr-defined]
        assert not drawing.audit().errors
        outlines = drawing.modelspace().query('LWPOLYLINE[layer=="cut"]')
        assert len(outlines) == len(sheet.parts)
        for outline in outlines:
            path = ezdxf.path.make_path(outline)
            assert all(0.0 < at.x < size[0] and 0.0 < at.y < size[1] for at in path.flattening(0.05))
        holes = [(one.dxf.center.x, one.dxf.center.y) for one in drawing.modelspace().query('CIRCLE[layer=="cut"]')]
        wanted = []
        for one in sheet.parts:
            a = radians(one.turn)
            for u, v, _ in plates[one.part].holes:
                wanted.append((one.at[0] + cos(a) * u - sin(a) * v, one.at[1] + sin(a) * u + cos(a) * v))
        assert len(holes) == len(wanted)
        assert all(min(hypot(x - p, y - q) for p, q in holes) < 1e-6 for x, y in wanted)
        names = {one.dxf.text for one in drawing.modelspace().query("TEXT")}
        assert names == {one.part for one in sheet.parts}
