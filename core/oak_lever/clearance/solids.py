"""Solids as convex pieces: what the kernel measures between."""

import functools
import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, hypot

import numpy as np

from oak_lever.design.room import Box, Hull, Prism, RoundPath
from oak_lever.motion.mechanism import Floats

POINTS, CYLINDER = 0, 1
"""Kinds of a piece, as the kernel tells them."""


@dataclass(frozen=True, eq=False)
class Piece:
    """A convex core grown by `round` mm: `points` (N, 3), or a cylinder about its own y of `size` (radius, half its
    width). In the axes of the body that carries it."""

    round: float
    points: Floats
    size: tuple[float, float] = (0.0, 0.0)

    @property
    def kind(self) -> int:
        return POINTS if len(self.points) else CYLINDER

    @functools.cached_property
    def ball(self) -> tuple[float, float, float, float]:
        """The middle of a ball about its core, and that ball's radius."""
        if self.kind == CYLINDER:
            return 0.0, 0.0, 0.0, hypot(*self.size)
        middle = (self.points.min(0) + self.points.max(0)) / 2.0
        x, y, z = middle.tolist()
        return x, y, z, float(np.sqrt(((self.points - middle) ** 2).sum(1).max()))


SEGMENT = np.array([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0]])
"""The core of a tube between two points, before the body that carries it stretches it from one to the other."""


def ball(at: Sequence[float], diameter: float) -> Piece:
    return Piece(diameter / 2.0, np.array([at], dtype=float))


def tube(a: Sequence[float], b: Sequence[float], diameter: float) -> Piece:
    """All points within half the diameter of a segment."""
    return Piece(diameter / 2.0, np.array([a, b], dtype=float))


def tire(radius: float, width: float, shoulder: float) -> Piece:
    """All points within its shoulder of a cylinder about its own y."""
    return Piece(shoulder, np.empty((0, 3)), (radius - shoulder, width / 2.0 - shoulder))


_A_GROUP = 12
"""So many pieces are passed over together where the ball about them is far off."""


@functools.lru_cache(maxsize=512)
def groups_of(solid: Box | RoundPath | Prism | Hull) -> tuple[tuple[Piece, ...], ...]:
    """A solid as convex pieces, those near each other together."""
    return tuple(map(tuple, _grouped(_pieces(solid))))


def pieces_of(solid: Box | RoundPath | Prism | Hull) -> tuple[Piece, ...]:
    return tuple(itertools.chain.from_iterable(groups_of(solid)))


def _grouped(pieces: list[Piece]) -> list[list[Piece]]:
    if len(pieces) <= _A_GROUP:
        return [pieces]
    middles = np.array([piece.ball[:3] for piece in pieces])
    order = middles[:, np.ptp(middles, axis=0).argmax()].argsort(kind="stable")
    half = len(order) // 2
    return [group for part in (order[:half], order[half:]) for group in _grouped([pieces[n] for n in part])]


def _pieces(solid: Box | RoundPath | Prism | Hull) -> list[Piece]:
    if isinstance(solid, Box):
        half = np.array(solid.size) / 2.0
        corners = np.array([[x, y, z] for x in (-1, 1) for y in (-1, 1) for z in (-1, 1)]) * half
        return [Piece(0.0, corners @ _turned(solid.turn).T + np.array(solid.center))]
    if isinstance(solid, RoundPath):
        return [tube(a, b, solid.diameter) for a, b in zip(solid.path, solid.path[1:], strict=False)]
    if isinstance(solid, Prism):
        return [_drawn_out(solid, part) for part in convex_parts(solid.outline)]
    return [Piece(0.0, np.array(solid.points))]


def _turned(degrees: Sequence[float]) -> Floats:
    """(3, 3) Rz Ry Rx."""
    (cx, cy, cz), (sx, sy, sz) = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    about_x = np.array([[1, 0, 0], [0, cx, -sx], [0, sx, cx]])
    about_y = np.array([[cy, 0, sy], [0, 1, 0], [-sy, 0, cy]])
    turned: Floats = np.array([[cz, -sz, 0], [sz, cz, 0], [0, 0, 1]]) @ about_y @ about_x
    return turned


def _drawn_out(solid: Prism, outline: Sequence[tuple[float, float]]) -> Piece:
    axis = "xyz".index(solid.along)
    others = [n for n in range(3) if n != axis]
    points = np.empty((2 * len(outline), 3))
    points[:, others] = np.tile(np.array(outline), (2, 1))
    points[: len(outline), axis], points[len(outline) :, axis] = solid.from_, solid.to
    return Piece(0.0, points)


Corner = tuple[float, float]


def convex_parts(outline: Sequence[Corner]) -> list[list[Corner]]:
    """A simple polygon as convex ones that cover it: itself where it is convex, else triangles by clipping ears."""
    corners = list(outline)
    if sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)) < 0.0:
        corners.reverse()
    if all(_left(*three) >= 0.0 for three in _threes(corners)) and _turns_once(corners):
        return [corners]
    from oak_lever.clearance import kernel

    xs, ys = np.array(corners).T.copy()
    left, ears = np.arange(len(corners)), np.empty((len(corners), 3), dtype=np.int64)
    found = kernel.clip_ears(xs, ys, left, np.empty(len(corners)), ears)
    rest = left[: ears[-1, 0]]
    return [[corners[n] for n in part] for part in (*ears[:found].tolist(), rest.tolist())]


def _threes(corners: Sequence[Corner]) -> list[tuple[Corner, Corner, Corner]]:
    return [(corners[n - 1], corners[n], corners[(n + 1) % len(corners)]) for n in range(len(corners))]


def _left(a: Corner, b: Corner, c: Corner) -> float:
    """Above 0 where the way from a over b to c turns left."""
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])


def _turns_once(corners: Sequence[Corner]) -> bool:
    total = sum(
        atan2(_left(a, b, c), (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]))
        for a, b, c in _threes(corners)
    )
    return abs(total) < 7.0
