"""Keep-outs from files of other programs: a shape (STL) as the hull of its corners, outlines (DXF) drawn out."""

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from io import BytesIO
from itertools import islice
from math import ceil, dist, isfinite
from typing import Any, Literal

import numpy as np

from oak_lever.clearance.hull import hull_corners
from oak_lever.clearance.stl import corners_of
from oak_lever.clearance.within import outside
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.room import Hull, Prism
from oak_lever.motion.mechanism import Floats
from oak_lever.tolerances import LARGEST_MM

FileUnit = Literal["mm", "in"]
MM: dict[FileUnit, float] = {"mm": 1.0, "in": 25.4}
MOST_CORNERS = 400
"""A hull of more corners is slower to keep clear of than it is truer."""
_NOTHING_MM = 0.05
SIMPLER_MM = 0.5
"""An outline's corners that stand off the line between their neighbors by no more than this are left out."""
_DEEPEST, _MOST_ENTITIES = 8, 20_000
"""How deep blocks in blocks are opened, and how many entities are read in all."""
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
class Imported:
    """What a file gave, and in words how it was simplified and what was left out."""

    shapes: tuple[Shape, ...]
    said: tuple[str, ...]


def from_stl(data: bytes, name: str, unit: FileUnit) -> Imported:
    """The convex hull of a shape, in the file's own axes, to `SIMPLER_MM`, with as many corners at most.

    Raises:
        Refused: for what is no STL, holds no triangle, or has no thickness.
    """
    points = _points(data) * MM[unit]
    if not len(points):
        raise _no("holds no triangle")
    if not np.isfinite(points).all() or np.abs(points).max() > LARGEST_MM:
        raise _no("has corners that are no places on a truck; is its unit the one that was said?")
    corners, lost = hull_corners(
        points, SIMPLER_MM, MOST_CORNERS, lambda kept, others: outside(_hull(points[kept]), others)
    )
    try:
        solid = _hull(points[corners])
    except ValueError as error:
        raise _no("lies in a plane, or has fewer than four corners: it keeps nothing out") from error
    size = " by ".join(f"{v:.0f}" for v in np.ptp(points, axis=0))
    taken = f"Taken as the hull of {len(corners)} corners of its {len(points) // 3} triangles, {size} mm"
    said = [f"{taken}: its hollows are filled."]
    if lost > _NOTHING_MM:
        said.append(f"What else it has stands up to about {ceil(lost * 12.0) / 10.0:.1f} mm outside that.")
    return Imported((Shape(name, solid.model_dump()),), tuple(said))


def _no(words: str) -> Refused:
    return Refused([Fault("file", words)])


def _points(data: bytes) -> Floats:
    """(N, 3) every triangle's corners, in the file's unit."""
    try:
        return np.concatenate([np.empty((0, 3)), *corners_of(data)])
    except ValueError as error:
        raise _no("can't be read as STL") from error


def _hull(points: Floats) -> Hull:
    return Hull(kind="hull", points=tuple((float(x), float(y), float(z)) for x, y, z in points))


def from_dxf(
    data: bytes, name: str, along: Literal["x", "y", "z"], start: float, end: float, unit: FileUnit
) -> Imported:
    """Every closed outline drawn out along an axis from `start` to `end` mm. The file's unit counts where it says one;
    its x and y are the two other axes, in the order (y, z), (x, z), (x, y).

    Raises:
        Refused: for what is no DXF, or has no closed outline; for a start that is not below the end.
    """
    if start >= end:
        raise _no("must be drawn out from somewhere to somewhere farther")
    drawing, removed = _drawing(data)
    said_unit = _DXF_UNITS.get(int(drawing.header.get("$INSUNITS", 0)))
    scale = MM[unit] if said_unit is None else said_unit
    shapes, said = [], []
    read = _Outlines(drawing, scale, removed)
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
    said.append(
        f"{count}, curves as chords to {_FLAT_MM:g} mm, corners within {SIMPLER_MM:g} mm of the line left out; {what}."
    )
    said += read.dropped()
    return Imported(tuple(shapes), tuple(said))


_REMOVED = re.compile(r"Removed ([A-Z]+)\b")


def _drawing(data: bytes) -> tuple[Any, list[str]]:
    """The drawing, and what its reader has thrown out of it as broken, by kind."""
    from ezdxf import recover

    try:
        drawing, audit = recover.read(BytesIO(data))
    except Exception as error:  # whatever a reader makes of a broken file
        raise _no("can't be read as DXF") from error
    told = (_REMOVED.search(str(one.message)) for one in (*audit.errors, *audit.fixes))
    return drawing, [f"{one[1].lower()} that is broken" for one in told if one]


class _Outlines:
    """What of a drawing is an outline: closed curves by themselves, and loops of lines and arcs whose ends meet within
    `meet` (in the drawing's unit), blocks opened; and what is none, counted by what it is. Each entity is looked at by
    itself: a broken one costs none of the others."""

    def __init__(self, drawing: Any, scale: float, removed: Iterable[str]) -> None:
        self._scale, self._meet = scale, _MEET_MM / scale
        self.closed: list[tuple[str, list[tuple[float, float]]]] = []
        self._dropped: Counter[str] = Counter(removed)
        self._read = 0
        open_ones = [entity for entity in self._opened(drawing.modelspace(), 0) if not self._by_itself(entity)]
        self._loops(open_ones)

    def dropped(self) -> list[str]:
        """What was left out, in words; nothing where all was taken."""
        if not self._dropped:
            return []
        what = ", ".join(f"{count} {kind}" for kind, count in sorted(self._dropped.items()))
        return [f"Left out, as no closed outline: {what}."]

    def _opened(self, entities: Iterable[Any], depth: int) -> Iterator[Any]:
        """Every entity, those of blocks where they are put, to a bound on both."""
        for entity in entities:
            self._read += 1
            if self._read > _MOST_ENTITIES:
                self._dropped[f"rest of the drawing after its first {_MOST_ENTITIES} entities"] = 1
                return
            if entity.dxftype() != "INSERT":
                yield entity
            elif depth >= _DEEPEST:
                self._dropped[f"block that is more than {_DEEPEST} deep in others"] += 1
            else:
                yield from self._inside(entity, depth)

    def _inside(self, insert: Any, depth: int) -> Iterator[Any]:
        try:
            one = list(islice(insert.virtual_entities(), _MOST_ENTITIES))
            put = [insert] if insert.mcount <= 1 else list(islice(insert.multi_insert(), _MOST_ENTITIES))
            every = one if len(put) == 1 else [entity for each in put for entity in each.virtual_entities()]
        except Exception:  # whatever is wrong with the block, or with how it is put there
            self._dropped["block that can't be opened"] += 1
            return
        yield from self._opened(every, depth + 1)

    def _by_itself(self, entity: Any) -> bool:
        """Whether it needs no others: taken where it is a closed curve, or left out where it is no curve at all."""
        from ezdxf import path

        kind = entity.dxftype().lower()
        try:
            way = path.make_path(entity)
            reach = [abs(v) * self._scale for point in way.control_vertices() for v in (point.x, point.y)]
            closed = bool(way.is_closed)
        except Exception:  # words, points, dimensions; or a curve that is broken in whatever way
            self._dropped[kind] += 1
            return True
        if not reach or not all(map(isfinite, reach)) or max(reach) > LARGEST_MM:
            self._dropped[f"{kind} that is broken, or reaches beyond any truck"] += 1
            return True
        if closed:
            self._take(str(entity.dxf.layer), way, kind)
        return closed

    def _take(self, layer: str, way: Any, kind: str) -> None:
        try:
            flat = _simpler(_flat(way, self._meet, self._scale), SIMPLER_MM / self._scale)
        except Exception:  # a curve that no chords follow
            flat = []
        if not 3 <= len(flat) <= _OUTLINE or not _is_outline(flat):
            self._dropped[f"{kind} that encloses nothing, or crosses itself"] += 1
        else:
            self.closed.append((layer, flat))

    def _loops(self, open_ones: list[Any]) -> None:
        from ezdxf import edgeminer, edgesmith

        loose = "line or arc whose ends meet nothing"
        edges: list[Any] = []
        for entity in open_ones:
            try:
                own = list(edgesmith.edges_from_entities_2d([entity], gap_tol=self._meet))
            except Exception:  # no edge can be made of it
                own = []
            edges += own
            self._dropped[loose] += 0 if own else 1
        try:
            chains = (
                list(edgeminer.find_all_simple_chains(edgeminer.Deposit(edges, gap_tol=self._meet))) if edges else []
            )
        except Exception:  # ends that the search gets lost in
            self._dropped[loose] += len(edges)
            chains = []
        for chain in chains:
            self._chain(chain, loose)
        self._dropped += Counter()  # what there is none of

    def _chain(self, chain: Any, loose: str) -> None:
        from ezdxf import edgeminer, edgesmith

        try:
            if edgeminer.is_loop(chain, gap_tol=self._meet):
                way = edgesmith.path2d_from_chain(chain)
                way.close()
                self._take(str(chain[0].payload.dxf.layer), way, "loop")
                return
        except Exception:  # two lines on one another, arcs of no length: no way round
            pass
        self._dropped[loose] += len(chain)


def _is_outline(flat: list[tuple[float, float]]) -> bool:
    try:
        Prism.model_validate({"kind": "prism", "along": "y", "from": 0.0, "to": 1.0, "outline": flat})
    except ValueError:
        return False
    return True


def _flat(way: Any, meet: float, scale: float) -> list[tuple[float, float]]:
    """The curve's corners; ends that meet within `meet` are one."""
    points = ((float(p.x), float(p.y)) for p in islice(way.flattening(_FLAT_MM / scale), _MOST_POINTS))
    kept: list[tuple[float, float]] = []
    for point in points:
        if not kept or dist(point, kept[-1]) > meet:
            kept.append(point)
    while len(kept) > 1 and dist(kept[0], kept[-1]) <= meet:
        kept.pop()
    return kept


_MOST_POINTS = 200_000


def _simpler(corners: list[tuple[float, float]], within: float) -> list[tuple[float, float]]:
    """A closed outline without the corners that stand off it by no more than `within` (Douglas and Peucker, from two
    corners far apart); as it was, should that make it cross itself."""
    if len(corners) < 4:
        return corners
    points = np.array(corners)
    far = int(np.linalg.norm(points - points[0], axis=1).argmax())
    ring = np.concatenate([points, points[:1]])
    keep = np.zeros(len(ring), dtype=np.bool_)
    keep[[0, far, len(points)]] = True
    spans = [(0, far), (far, len(points))]
    while spans:
        first, last = spans.pop()
        if last - first < 2:
            continue
        off = _off(ring[first + 1 : last], ring[first], ring[last])
        n = int(off.argmax())
        if off[n] > within:
            middle = first + 1 + n
            keep[middle] = True
            spans += [(first, middle), (middle, last)]
    fewer = [corners[n] for n in np.flatnonzero(keep[:-1])]
    return fewer if len(fewer) >= 3 and _is_outline(fewer) else corners


def _off(points: Floats, a: Floats, b: Floats) -> Floats:
    """(N,) how far points stand from the line between two."""
    along = b - a
    square = float(along @ along)
    part = np.clip((points - a) @ along / square, 0.0, 1.0) if square > 0.0 else np.zeros(len(points))
    apart: Floats = np.linalg.norm(points - a - part[:, None] * along, axis=1)
    return apart
