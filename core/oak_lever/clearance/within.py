"""How far points are outside a solid, or from the nearest of some places."""

import functools
from collections.abc import Sequence

import numpy as np

from oak_lever.clearance.solids import Piece, pieces_of
from oak_lever.design.room import Box, Holes, Hull, Prism, RoundPath
from oak_lever.motion.mechanism import Floats

Region = Box | RoundPath | Prism | Hull | Holes


def outside(region: Region, points: Floats) -> Floats:
    """(P,) of points (P, 3): mm to the solid, 0 within it; of holes, to the nearest of them."""
    return _nearest(region, points)[0]


def nearest_place(region: Region, point: Sequence[float]) -> Floats:
    """(3,) the point of the region that is nearest to a point; itself where it lies within."""
    at: Floats = _nearest(region, np.array([point], dtype=float))[1][0]
    return at


def _nearest(region: Region, points: Floats) -> tuple[Floats, Floats]:
    if isinstance(region, Holes):
        places = np.array(region.at)
        apart = np.linalg.norm(points[:, None] - places, axis=-1)
        nearest: Floats = places[apart.argmin(axis=1)]
        return apart.min(axis=1), nearest
    return _from_pieces(pieces_of(region), np.ascontiguousarray(points))


@functools.lru_cache(maxsize=256)
def bounds_of_solid(solid: Box | RoundPath | Prism | Hull) -> tuple[Floats, Floats]:
    """(3,) each: the least and the greatest x, y, z of a solid, mm."""
    pieces = pieces_of(solid)
    low: Floats = np.min([piece.points.min(0) - piece.round for piece in pieces], axis=0)
    high: Floats = np.max([piece.points.max(0) + piece.round for piece in pieces], axis=0)
    return low, high


def _from_pieces(pieces: Sequence[Piece], points: Floats) -> tuple[Floats, Floats]:
    from oak_lever.clearance import kernel

    every = [*pieces, Piece(0.0, np.zeros((1, 3)))]
    counts = np.array([len(piece.points) for piece in every])
    found, at = np.empty(len(points)), np.empty((len(points), 3))
    four, three = np.zeros((4, 3)), np.zeros(3)
    kernel.each(
        np.array([piece.kind for piece in every]), np.concatenate([[0], np.cumsum(counts)[:-1]]), counts,
        np.array([piece.size for piece in every]), np.array([piece.round for piece in every]),
        np.concatenate([piece.points for piece in every]), points, np.eye(3), three.copy(), four, four.copy(),
        four.copy(), np.zeros(4), three, np.zeros(2), three.copy(), three.copy(), three.copy(), found, at,
    )  # fmt: skip
    return found, at
