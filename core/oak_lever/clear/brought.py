"""Keep-outs from files of other programs: a shape (STL) as the hull of its corners, outlines (DXF) drawn out."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from io import BytesIO
from math import sqrt
from typing import Any, Literal

import numpy as np

from oak_lever.clear.within import outside
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.room import Hull
from oak_lever.motion.mechanism import Floats
from oak_lever.tolerances import LARGEST_MM

FileUnit = Literal["mm", "in"]
MM: dict[FileUnit, float] = {"mm": 1.0, "in": 25.4}
MOST_CORNERS = 400
"""A hull of more corners is slower to keep clear of than it is truer."""
_FLAT_MM = 0.5
"""A curve is followed by chords that stand off it by no more than this."""
_OUTLINE = 1000
_MOST_OUTLINES = 60
_DXF_UNITS: dict[int, float] = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}


@dataclass(frozen=True)
class Shape:
    """A solid of the file format, and what it is called."""

    name: str
    solid: dict[str, Any]


@dataclass(frozen=True)
class Brought:
    """What a file gave, and in words how it was simplified and what was left out."""

    shapes: tuple[Shape, ...]
    said: tuple[str, ...]


def from_stl(data: bytes, name: str, unit: FileUnit) -> Brought:
    """The convex hull of a shape, in the file's own axes.

    Raises:
        Refused: for what is no STL, holds no triangle, or has no thickness.
    """
    corners = _corners(data) * MM[unit]
    if not np.isfinite(corners).all() or np.abs(corners).max() > LARGEST_MM:
        raise _no("has corners that are no places on a truck; is its unit the one that was said?")
    every = np.unique(corners, axis=0)
    kept = every[_outermost(every)] if len(every) > MOST_CORNERS else every
    try:
        solid = Hull(kind="hull", points=tuple((float(x), float(y), float(z)) for x, y, z in kept))
    except ValueError as error:
        raise _no("lies in a plane, or has fewer than four corners: it keeps nothing out") from error
    lost = float(outside(solid, every).max()) if len(kept) < len(every) else 0.0
    size = " by ".join(f"{v:.0f}" for v in np.ptp(every, axis=0))
    said = [f"Taken as the hull of {len(kept)} of its {len(every)} corners, {size} mm: its hollows are filled."]
    if lost > 0.0:
        said.append(f"Corners left out stand no more than {lost:.1f} mm outside it.")
    return Brought((Shape(name, solid.model_dump()),), tuple(said))


def _no(words: str) -> Refused:
    return Refused([Fault("file", words)])


def _corners(data: bytes) -> Floats:
    import trimesh

    try:
        mesh = trimesh.load_mesh(BytesIO(data), file_type="stl", process=False)
        corners: Floats = np.asarray(mesh.vertices, dtype=float)[np.unique(np.asarray(mesh.faces))]
    except Exception as error:  # whatever a reader makes of a broken file
        raise _no("can't be read as STL") from error
    if len(corners) == 0:
        raise _no("holds no triangle")
    return corners


def _outermost(points: Floats) -> Sequence[int]:
    """The corners that lie farthest out, in directions all round (spread by the golden angle)."""
    count = MOST_CORNERS
    z = 1.0 - (2.0 * np.arange(count) + 1.0) / count
    turn = np.pi * (3.0 - sqrt(5.0)) * np.arange(count)
    flat = np.sqrt(1.0 - z * z)
    ways = np.stack([flat * np.cos(turn), flat * np.sin(turn), z])
    kept: list[int] = np.unique((points @ ways).argmax(axis=0)).tolist()
    return kept


def from_dxf(
    data: bytes, name: str, along: Literal["x", "y", "z"], start: float, end: float, unit: FileUnit
) -> Brought:
    """Every closed outline drawn out along an axis from `start` to `end` mm. The file's unit counts where it says one;
    its x and y are the two other axes, in the order (y, z), (x, z), (x, y).

    Raises:
        Refused: for what is no DXF, or has no closed outline; for a start that is not below the end.
    """
    if start >= end:
        raise _no("must be drawn out from somewhere to somewhere farther")
    drawing = _drawing(data)
    said_unit = _DXF_UNITS.get(int(drawing.header.get("$INSUNITS", 0)))
    scale = MM[unit] if said_unit is None else said_unit
    shapes, said = [], []
    closed = list(_outlines(drawing))
    for n, (layer, outline) in enumerate(closed[:_MOST_OUTLINES]):
        label = name if len(closed) == 1 else f"{name}, {layer}" if layer != "0" else f"{name} {n + 1}"
        corners = [[float(x * scale), float(y * scale)] for x, y in outline]
        shapes.append(Shape(label, {"kind": "prism", "along": along, "from": start, "to": end, "outline": corners}))
    if not shapes:
        raise _no("has no closed outline: join its lines into closed ones")
    if len(closed) > _MOST_OUTLINES:
        said.append(f"The first {_MOST_OUTLINES} of {len(closed)} outlines were taken.")
    what = "the file says its unit" if said_unit is not None else f"the file says no unit, so {unit} was taken"
    count = "1 closed outline" if len(shapes) == 1 else f"{len(shapes)} closed outlines"
    said.append(f"{count}, curves as chords to {_FLAT_MM:g} mm; {what}.")
    return Brought(tuple(shapes), tuple(said))


def _drawing(data: bytes) -> Any:
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError

    try:
        drawing, _ = recover.read(BytesIO(data))
    except (DXFError, OSError, ValueError, KeyError, IndexError, UnicodeError) as error:
        raise _no("can't be read as DXF") from error
    return drawing


def _outlines(drawing: Any) -> Iterator[tuple[str, list[tuple[float, float]]]]:
    """Closed curves by themselves, and loops that lines and arcs make together."""
    from ezdxf import edgeminer, edgesmith, path

    open_ones = []
    for entity in drawing.modelspace():
        try:
            way = path.make_path(entity)
        except TypeError:  # words, points, dimensions: no outline
            continue
        if way.is_closed:
            yield entity.dxf.layer, _flat(way)
        else:
            open_ones.append(entity)
    edges = list(edgesmith.edges_from_entities_2d(open_ones))
    if not edges:
        return
    deposit = edgeminer.Deposit(edges)
    for chain in edgeminer.find_all_simple_chains(deposit):
        if edgeminer.is_loop(chain):
            yield chain[0].payload.dxf.layer, _flat(edgesmith.path2d_from_chain(chain))


def _flat(way: Any) -> list[tuple[float, float]]:
    points = [(float(p.x), float(p.y)) for p in way.flattening(_FLAT_MM / 25.4)]
    kept = [p for p, after in zip(points, [*points[1:], points[0]], strict=True) if p != after]
    return kept[:: max(1, -(-len(kept) // _OUTLINE))]
