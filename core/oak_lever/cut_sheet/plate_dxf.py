"""A plate as a DXF drawing at full size, for whoever cuts it."""

from collections.abc import Callable, Mapping
from math import cos, radians, sin
from typing import Any

from oak_lever.cut_sheet.nest import CutSheet, Placed
from oak_lever.plates.brackets import Plate
from oak_lever.sheet.dxf import drawing_text
from oak_lever.sheet.plain import plain

OFF_MM = 0.002
"""What is no arc is drawn in lines that are within this of it."""
BAR_MM = 100.0
_TEXT_MM = 5.0


def plate_dxf(plate: Plate) -> str:
    """Millimeters, 1:1, in the plate's own axes. Layer `cut`: one closed outline, arcs as arcs, and the holes as
    circles; layer `mark`: its name, and a bar of 100 mm to measure. The same plate gives the same text."""
    return drawing_text(lambda drawing: _draw(drawing, plate))


def sheet_dxf(sheet: CutSheet, plates: Mapping[str, Plate], size: tuple[float, float]) -> str:
    """A sheet of stock with its plates where they lie, mm, 1:1, its corner at the origin. Layer `cut` as of one plate;
    layer `mark`: each plate's name at its first hole (or corner), and the sheet's edge, which is not cut."""
    return drawing_text(lambda drawing: _draw_sheet(drawing, sheet, plates, size))


def _draw_sheet(drawing: Any, sheet: CutSheet, plates: Mapping[str, Plate], size: tuple[float, float]) -> None:
    space = _space(drawing)
    edge = [(0.0, 0.0), (size[0], 0.0), size, (0.0, size[1])]
    space.add_lwpolyline(edge, close=True, dxfattribs={"layer": "mark"})
    for one in sheet.parts:
        plate, turn = plates[one.part], radians(one.turn)
        across, up = cos(turn), sin(turn)

        def lie(u: float, v: float, one: Placed = one, across: float = across, up: float = up) -> tuple[float, float]:
            return one.at[0] + across * u - up * v, one.at[1] + up * u + across * v

        _cut(space, plate, lie)
        u, v = plate.holes[0][:2] if plate.holes else plate.outline.points(OFF_MM)[0]
        space.add_text(plain(one.part), height=_TEXT_MM, dxfattribs={"layer": "mark"}).set_placement(lie(u, v))


def _space(drawing: Any) -> Any:
    drawing.layers.add("cut", color=1)
    drawing.layers.add("mark", color=5)
    return drawing.modelspace()


def _cut(space: Any, plate: Plate, lie: Callable[[float, float], tuple[float, float]]) -> None:
    """A plate's outline and its holes, where each of its places comes to lie; a turn changes no bulge."""
    corners = [(*lie(u, v), bulge) for (u, v), bulge in plate.outline.bulged(OFF_MM)]
    space.add_lwpolyline(corners, format="xyb", close=True, dxfattribs={"layer": "cut"})
    for u, v, across in plate.holes:
        space.add_circle(lie(u, v), across / 2.0, dxfattribs={"layer": "cut"})


def _draw(drawing: Any, plate: Plate) -> None:
    space = _space(drawing)
    _cut(space, plate, lambda u, v: (u, v))
    corners = plate.outline.bulged(OFF_MM)
    left, low = (min(at[axis] for at, _ in corners) for axis in (0, 1))
    bar = low - 2.0 * _TEXT_MM
    space.add_line((left, bar), (left + BAR_MM, bar), dxfattribs={"layer": "mark"})
    for end in (left, left + BAR_MM):
        space.add_line((end, bar - 2.0), (end, bar + 2.0), dxfattribs={"layer": "mark"})
    for n, words in enumerate((plain(plate.part), f"{BAR_MM:g} mm")):
        at = (left, bar - (n + 1.5) * 1.6 * _TEXT_MM)
        space.add_text(words, height=_TEXT_MM, dxfattribs={"layer": "mark"}).set_placement(at)
