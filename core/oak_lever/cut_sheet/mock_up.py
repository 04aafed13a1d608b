"""The design as it stands at ride, as a solid for other programs to look at or to print: binary STL, mm."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_lever.clearance.hull import hull_faces
from oak_lever.clearance.parts import Body, Stage
from oak_lever.clearance.solids import CYLINDER, Piece
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.plates.brackets import Plate, brackets_made
from oak_lever.plates.truss import truss_made

_ROUND = 24
"""Corners about a tube; its faces lie within 0.9 percent of its radius."""
_OFF_MM = 0.05
"""A plate's outline is drawn in lines within this of it."""
_HEAD = b"Oak Lever, at ride, mm; front +x, left +y, up +z".ljust(80)
_FACE = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("attribute", "<u2")])

Triangles = NDArray[np.float64]
"""(T, 3, 3) corners, mm, counterclockwise seen from outside."""


def mock_up_stl(design: Design) -> bytes:
    """Every part, what stands in the way, and every bracket and truss that can be made as drawn. The same design gives
    the same bytes."""
    return stl_of(np.concatenate([np.empty((0, 3, 3)), *_parts(design)]))


def stl_of(faces: Triangles) -> bytes:
    """Triangles as a binary STL file."""
    across = np.cross(faces[:, 1] - faces[:, 0], faces[:, 2] - faces[:, 0])
    size = np.linalg.norm(across, axis=1)
    whole = size > 0.0
    rows = np.zeros(int(whole.sum()), dtype=_FACE)
    rows["normal"], rows["corners"] = across[whole] / size[whole, None], faces[whole]
    return _HEAD + np.uint32(len(rows)).tobytes() + rows.tobytes()


def _parts(design: Design) -> Iterator[Triangles]:
    plan = Plan()
    plan.pose(0.0, 0.0)
    stage = Stage(design, plan.poses())
    for solid in (*stage.moving(), *stage.keep_outs()):
        if solid.sort != "bracket":
            yield from (_piece(piece, body) for piece, body in solid.pieces)
    for bracket in brackets_made(design)[0]:
        yield from map(plate_faces, bracket.plates)
    yield from map(plate_faces, truss_made(design)[0])


def _piece(piece: Piece, body: Body) -> Triangles:
    turn, shift = body.turn[0], body.shift[0]
    if piece.kind == CYLINDER:
        half = np.array([0.0, piece.size[1] + piece.round, 0.0])
        wheel: Triangles = drum(-half, half, piece.size[0] + piece.round) @ turn.T + shift
        return wheel
    points = piece.points @ turn.T + shift
    if len(points) == 2 and piece.round > 0.0:
        return drum(points[0], points[1], piece.round)
    if piece.round > 0.0:
        points = (points[:, None] + piece.round * _ball()).reshape(-1, 3)
    out: Triangles = points[np.array(hull_faces(points), dtype=np.int64).reshape(-1, 3)]
    return out


def drum(one: Floats, other: Floats, radius: float) -> Triangles:
    """A round bar with flat ends from one point to another; none where they are the same."""
    long = float(np.linalg.norm(other - one))
    if long == 0.0:
        return np.empty((0, 3, 3))
    way = (other - one) / long
    side = np.cross(way, np.eye(3)[int(np.abs(way).argmin())])
    side /= np.linalg.norm(side)
    turns = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)[:, None]
    rim = radius * (np.cos(turns) * side + np.sin(turns) * np.cross(way, side))
    following = np.roll(rim, -1, axis=0)
    a, b, c, d = one + rim, one + following, other + rim, other + following
    ends = np.broadcast_to(one, a.shape), np.broadcast_to(other, a.shape)
    return np.concatenate(
        [np.stack(each, axis=1) for each in ((a, b, c), (b, d, c), (ends[0], b, a), (ends[1], c, d))]
    )  # fmt: skip


def _ball() -> Floats:
    """Points about a ball of radius 1, at its poles and in rings."""
    across = np.linspace(0.0, np.pi, _ROUND // 2 + 1)[1:-1, None]
    about = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)
    rings = np.stack(
        np.broadcast_arrays(np.sin(across) * np.cos(about), np.sin(across) * np.sin(about), np.cos(across)), axis=-1
    )
    return np.concatenate([[[0.0, 0.0, 1.0], [0.0, 0.0, -1.0]], rings.reshape(-1, 3)])


def plate_faces(plate: Plate) -> Triangles:
    """A plate with its holes, in the chassis at ride."""
    from ezdxf.math.triangulation import mapbox_earcut_2d

    turns = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)
    circle = np.stack([np.cos(turns), np.sin(turns)], axis=-1)
    outline = np.array(plate.outline.points(_OFF_MM))
    holes = [np.array([u, v]) + across / 2.0 * circle for u, v, across in plate.holes]
    faces = [[tuple(at) for at in face] for face in mapbox_earcut_2d(outline, holes)]
    flat = np.array(faces).reshape(-1, 3, 2)  # an outline without an area has none
    flat = np.where((_twice_area(flat) < 0.0)[:, None, None], flat[:, ::-1], flat)
    half = plate.thickness / 2.0
    top, under = (np.dstack([flat, np.full(flat.shape[:2], z)]) for z in (half, -half))
    walls = [_wall(loop, half, way) for loop, way in ((outline, 1), *((hole, -1) for hole in holes))]
    local = np.concatenate([top, under[:, ::-1], *walls])
    axes = np.stack([plate.u, plate.v, np.cross(plate.u, plate.v)])
    out: Triangles = local @ axes + plate.origin
    return out


def _twice_area(faces: Floats) -> Floats:
    one, other = faces[:, 1] - faces[:, 0], faces[:, 2] - faces[:, 0]
    out: Floats = one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0]
    return out


def _wall(loop: Floats, half: float, way: int) -> Triangles:
    """The edge about a loop of corners: seen from outside of an outline (1), from inside of a hole (-1)."""
    x, y = loop.T
    counter = float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) > 0.0
    loop = loop if counter == (way > 0) else loop[::-1]
    low, high = (np.column_stack([loop, np.full(len(loop), z)]) for z in (-half, half))
    ahead, above = np.roll(low, -1, axis=0), np.roll(high, -1, axis=0)
    return np.concatenate([np.stack([low, ahead, above], axis=1), np.stack([low, above, high], axis=1)])
