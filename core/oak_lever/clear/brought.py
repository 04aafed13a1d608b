"""Keep-outs from files of other programs: a shape (STL) as the hull of its corners, outlines (DXF) drawn out."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from io import BytesIO
from math import dist, sqrt
from typing import Any, Literal

import numpy as np

from oak_lever.clear.within import outside
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.room import Hull, Prism
from oak_lever.motion.mechanism import Floats
from oak_lever.tolerances import LARGEST_MM

FileUnit = Literal["mm", "in"]
MM: dict[FileUnit, float] = {"mm": 1.0, "in": 25.4}
MOST_CORNERS = 400
"""A hull of more corners is slower to keep clear of than it is truer."""
_MEET_MM = 0.5
"""Lines and arcs whose ends come this near to each other meet."""
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
    read = _Outlines(drawing, _MEET_MM / scale)
    closed = read.closed
    for n, (layer, outline) in enumerate(closed[:_MOST_OUTLINES]):
        label = name if len(closed) == 1 else f"{name}, {layer}" if layer != "0" else f"{name} {n + 1}"
        corners = [[float(x * scale), float(y * scale)] for x, y in outline]
        shapes.append(Shape(label, {"kind": "prism", "along": along, "from": start, "to": end, "outline": corners}))
    if not shapes:
        raise _no(" ".join(["has no closed outline: join its lines into closed ones.", *read.dropped()]))
    if len(closed) > _MOST_OUTLINES:
        said.append(f"The first {_MOST_OUTLINES} of {len(closed)} outlines were taken.")
    what = "the file says its unit" if said_unit is not None else f"the file says no unit, so {unit} was taken"
    count = "1 closed outline" if len(shapes) == 1 else f"{len(shapes)} closed outlines"
    said.append(f"{count}, curves as chords to {_FLAT_MM:g} mm; {what}.")
    said += read.dropped()
    return Brought(tuple(shapes), tuple(said))


def _drawing(data: bytes) -> Any:
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError

    try:
        drawing, _ = recover.read(BytesIO(data))
    except (DXFError, OSError, ValueError, KeyError, IndexError, UnicodeError) as error:
        raise _no("can't be read as DXF") from error
    return drawing


class _Outlines:
    """What of a drawing is an outline: closed curves by themselves, and loops of lines and arcs whose ends meet within
    `meet` (in the drawing's unit); and what is none, counted by what it is."""

    def __init__(self, drawing: Any, meet: float) -> None:
        self._meet = meet
        self.closed: list[tuple[str, list[tuple[float, float]]]] = []
        self._dropped: Counter[str] = Counter()
        open_ones = [entity for entity in drawing.modelspace() if not self._by_itself(entity)]
        self._loops(open_ones, meet)

    def dropped(self) -> list[str]:
        """What was left out, in words; nothing where all was taken."""
        if not self._dropped:
            return []
        what = ", ".join(f"{count} {kind}" for kind, count in sorted(self._dropped.items()))
        return [f"Left out, as no closed outline: {what}."]

    def _by_itself(self, entity: Any) -> bool:
        """Whether it needs no others: taken where it is a closed curve, or left out where it is no curve at all."""
        from ezdxf import path

        kind = entity.dxftype().lower()
        try:
            way = path.make_path(entity)
        except (TypeError, ValueError, ArithmeticError, IndexError, AttributeError):
            self._dropped[kind] += 1  # words, points, dimensions, or a curve that is broken
            return True
        if way.is_closed:
            self._take(entity.dxf.layer, way, kind)
        return bool(way.is_closed)

    def _take(self, layer: str, way: Any, kind: str) -> None:
        try:
            flat = _flat(way, self._meet)
        except (ValueError, ArithmeticError, IndexError):
            flat = []
        if len(flat) < 3 or not _is_outline(flat):
            self._dropped[f"{kind} that encloses nothing, or crosses itself"] += 1
        else:
            self.closed.append((layer, flat))

    def _loops(self, open_ones: list[Any], meet: float) -> None:
        from ezdxf import edgeminer, edgesmith

        edges = list(edgesmith.edges_from_entities_2d(open_ones, gap_tol=meet))
        if edges:
            deposit = edgeminer.Deposit(edges, gap_tol=meet)
            for chain in edgeminer.find_all_simple_chains(deposit):
                if edgeminer.is_loop(chain, gap_tol=meet):
                    way = edgesmith.path2d_from_chain(chain)
                    way.close()
                    self._take(chain[0].payload.dxf.layer, way, "loop")
                else:
                    self._dropped["line or arc whose ends meet nothing"] += len(chain)
        self._dropped["line or arc whose ends meet nothing"] += len(open_ones) - len(edges)
        self._dropped += Counter()  # what there is none of


def _is_outline(flat: list[tuple[float, float]]) -> bool:
    try:
        Prism.model_validate({"kind": "prism", "along": "y", "from": 0.0, "to": 1.0, "outline": flat})
    except ValueError:
        return False
    return True


def _flat(way: Any, meet: float) -> list[tuple[float, float]]:
    """The curve's corners; ends that meet within `meet` are one."""
    points = [(float(p.x), float(p.y)) for p in way.flattening(_FLAT_MM / 25.4)]
    kept: list[tuple[float, float]] = []
    for point in points:
        if not kept or dist(point, kept[-1]) > meet:
            kept.append(point)
    while len(kept) > 1 and dist(kept[0], kept[-1]) <= meet:
        kept.pop()
    return kept[:: max(1, -(-len(kept) // _OUTLINE))]
