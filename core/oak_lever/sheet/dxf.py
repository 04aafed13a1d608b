"""The room as a DXF drawing: every solid's outline and every mount, in side, top and rear view at full size, mm."""

from collections.abc import Callable, Iterator, Sequence
from io import StringIO
from typing import Any

import numpy as np

from oak_lever.caution import WHOLE
from oak_lever.clearance.parts import Stage
from oak_lever.clearance.solids import CYLINDER, Piece, pieces_of
from oak_lever.design.parts import parts_of
from oak_lever.design.room import Holes
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.sheet.links import Titles
from oak_lever.sheet.plain import plain

_APART_MM = 400.0
_TEXT_MM = 18.0
_MOUNT_MM = 8.0
_LAYERS = {"keep-out": ("KEEP_OUTS", 1), "zone": ("ZONES", 3), "mount": ("MOUNTS", 5), "words": ("WORDS", 7)}
_MOVING = ("PARTS", 8)
Flat = tuple[float, float]


def room_dxf(design: Design, titles: Titles) -> str:
    """The drawing as text. Front of the truck to the left; the top view below the side view, the rear view beside it,
    as on the floor; the axle's middle on the ground is the side view's origin."""
    return drawing_text(lambda drawing: _draw_room(drawing, design, titles))


def _draw_room(drawing: Any, design: Design, titles: Titles) -> None:
    for layer, color in (*_LAYERS.values(), _MOVING):
        drawing.layers.add(layer, color=color)
    space = drawing.modelspace()
    for view in _views(design):
        _draw(space, design, view)
    lines = (
        f"{titles.build}, {design.name}, revision {titles.revision}, {titles.date}. Full size, mm, at ride.",
        *WHOLE,
    )
    for n, words in enumerate(lines):
        space.add_text(plain(words), height=_TEXT_MM, dxfattribs={"layer": "WORDS"}).set_placement(
            (-2000.0, -2600.0 - 30.0 * n)
        )


def drawing_text(draw: Callable[[Any], None]) -> str:
    """The text of a drawing in millimeters that `draw` draws, without a date or a number of its own: what is drawn the
    same gives the same text."""
    import ezdxf

    was = ezdxf.options.write_fixed_meta_data_for_testing  # type: ignore[attr-defined]
    ezdxf.options.write_fixed_meta_data_for_testing = True  # type: ignore[attr-defined]
    try:
        drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
        draw(drawing)
        out = StringIO()
        drawing.write(out)
    finally:
        ezdxf.options.write_fixed_meta_data_for_testing = was  # type: ignore[attr-defined]
    return out.getvalue()


View = tuple[str, Floats, Floats]
"""Its name; (2, 3) from chassis to paper; (2,) where its origin stands on the paper."""


def _views(design: Design) -> Iterator[View]:
    far = design.vehicle.wheelbase / 2.0 + _APART_MM
    wide = design.axle.track / 2.0 + design.axle.tire_width + _APART_MM
    yield "SIDE, FROM THE LEFT", np.array([[-1.0, 0.0, 0.0], [0.0, 0.0, 1.0]]), np.zeros(2)
    yield "TOP", np.array([[-1.0, 0.0, 0.0], [0.0, -1.0, 0.0]]), np.array([0.0, -wide])
    yield "REAR", np.array([[0.0, -1.0, 0.0], [0.0, 0.0, 1.0]]), np.array([far + wide, 0.0])


def _draw(space: Any, design: Design, view: View) -> None:
    name, flat, origin = view
    _words(space, name, (float(origin[0]) - 300.0, float(origin[1]) - 120.0), "WORDS")
    plan = Plan()
    stage = Stage(design, plan.poses())
    for part in (*stage.moving(), *stage.keep_outs()):
        layer = _LAYERS["keep-out"][0] if part.sort == "keep-out" else _MOVING[0]
        for piece, body in part.pieces:
            _outline(space, piece, body.turn[0], body.shift[0], view, layer)
    still, nowhere = np.eye(3), np.zeros(3)
    for zone in design.room.zones if design.room else ():
        if isinstance(zone.region, Holes):
            for hole in zone.region.at:
                space.add_circle(tuple(flat @ hole + origin), _MOUNT_MM, dxfattribs={"layer": "ZONES"})
        else:
            for piece in pieces_of(zone.region):
                _outline(space, piece, still, nowhere, view, "ZONES")
    for spot in parts_of(design).spots:
        at = flat @ np.array(spot.at) + origin
        space.add_circle(tuple(at), _MOUNT_MM, dxfattribs={"layer": "MOUNTS"})
        _words(space, spot.name, (float(at[0]) + _MOUNT_MM, float(at[1]) + _MOUNT_MM), "MOUNTS")


def _words(space: Any, words: str, at: Flat, layer: str) -> None:
    space.add_text(plain(words), height=_TEXT_MM, dxfattribs={"layer": layer}).set_placement(at)


def _outline(space: Any, piece: Piece, turn: Floats, shift: Floats, view: View, layer: str) -> None:
    _, flat, origin = view
    points = (piece.points if piece.kind != CYLINDER else _rims(piece)) @ turn.T + shift
    corners = _hull([(float(x), float(y)) for x, y in points @ flat.T + origin])
    attributes = {"layer": layer}
    if piece.kind == CYLINDER or piece.round <= 0.0:
        space.add_lwpolyline(corners, close=True, dxfattribs=attributes)
    elif len(corners) == 1:
        space.add_circle(corners[0], piece.round, dxfattribs=attributes)
    else:
        space.add_lwpolyline(_grown(corners, piece.round), format="xyb", close=True, dxfattribs=attributes)


def _rims(piece: Piece) -> Floats:
    """(N, 3) round both rims of a tire's cylinder, grown by its shoulder."""
    turns = np.linspace(0.0, 2.0 * np.pi, 96, endpoint=False)
    r, half = piece.size[0] + piece.round, piece.size[1] + piece.round
    rims = [np.stack([r * np.cos(turns), np.full_like(turns, y), r * np.sin(turns)], axis=-1) for y in (-half, half)]
    return np.concatenate(rims)


def _hull(points: Sequence[Flat]) -> list[Flat]:
    """Convex, counterclockwise (Andrew's chain)."""
    ordered = sorted({(round(x, 4), round(y, 4)) for x, y in points})
    if len(ordered) < 3:
        return ordered

    def half(way: Sequence[Flat]) -> list[Flat]:
        kept: list[Flat] = []
        for p in way:
            while len(kept) > 1 and _left(kept[-2], kept[-1], p) <= 0.0:
                kept.pop()
            kept.append(p)
        return kept[:-1]

    return [*half(ordered), *half(ordered[::-1])]


def _left(a: Flat, b: Flat, c: Flat) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def _grown(corners: Sequence[Flat], by: float) -> list[tuple[float, float, float]]:
    """Corners with bulges of the outline that far outside a convex one: edges moved out, round arcs between them."""
    found = []
    count = len(corners)
    for n, (a, b) in enumerate(zip(corners, [*corners[1:], corners[0]], strict=True)):
        along = np.array(b) - a
        out = np.array([along[1], -along[0]]) / np.linalg.norm(along) * by
        after = np.array(corners[(n + 2) % count]) - b
        turn = np.arctan2(along[0] * after[1] - along[1] * after[0], float(along @ after))
        turn = np.pi if count == 2 else turn
        found += [
            (float(a[0] + out[0]), float(a[1] + out[1]), 0.0),
            (float(b[0] + out[0]), float(b[1] + out[1]), float(np.tan(turn / 4.0))),
        ]
    return found
