"""A plate as a DXF drawing at full size, for whoever cuts it."""

from typing import Any

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


def _draw(drawing: Any, plate: Plate) -> None:
    drawing.layers.add("cut", color=1)
    drawing.layers.add("mark", color=5)
    space = drawing.modelspace()
    corners = plate.outline.bulged(OFF_MM)
    space.add_lwpolyline(
        [(u, v, bulge) for (u, v), bulge in corners], format="xyb", close=True, dxfattribs={"layer": "cut"}
    )
    for u, v, across in plate.holes:
        space.add_circle((u, v), across / 2.0, dxfattribs={"layer": "cut"})
    left, low = (min(at[axis] for at, _ in corners) for axis in (0, 1))
    bar = low - 2.0 * _TEXT_MM
    space.add_line((left, bar), (left + BAR_MM, bar), dxfattribs={"layer": "mark"})
    for end in (left, left + BAR_MM):
        space.add_line((end, bar - 2.0), (end, bar + 2.0), dxfattribs={"layer": "mark"})
    for n, words in enumerate((plain(plate.part), f"{BAR_MM:g} mm")):
        at = (left, bar - (n + 1.5) * 1.6 * _TEXT_MM)
        space.add_text(words, height=_TEXT_MM, dxfattribs={"layer": "mark"}).set_placement(at)
