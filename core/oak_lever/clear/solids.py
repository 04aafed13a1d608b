"""Solids as convex pieces: what the kernel measures between."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, hypot

import numpy as np

from oak_lever.clear.kernel import CYLINDER, POINTS
from oak_lever.design.room import Box, Hull, Prism, RoundPath
from oak_lever.motion.mechanism import Floats


@dataclass(frozen=True)
class Piece:
    """A convex core grown by `round` mm: `points` (N, 3), or a cylinder about its own y of `size` (radius, half its
    width). In the axes of the body that carries it."""

    round: float
    points: Floats
    size: tuple[float, float] = (0.0, 0.0)

    @property
    def kind(self) -> int:
        return POINTS if len(self.points) else CYLINDER


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


def pieces_of(solid: Box | RoundPath | Prism | Hull) -> list[Piece]:
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
    parts, start = [], 0
    while len(corners) > 3:
        count = len(corners)
        at = next((n % count for n in range(start, start + count) if _is_ear(corners, n % count)), None)
        if at is None:  # nothing but corners in line is left
            break
        parts.append([corners[at - 1], corners[at], corners[(at + 1) % count]])
        del corners[at]
        start = max(at - 1, 0)  # what was no ear before its neighbor went may be one now
    return [*parts, corners]


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


def _is_ear(corners: Sequence[Corner], n: int) -> bool:
    """Whether the corner, with its neighbors, is a triangle inside that holds no other corner; or lies in line."""
    a, b, c = corners[n - 1], corners[n], corners[(n + 1) % len(corners)]
    turn = _left(a, b, c)
    if turn < 0.0:
        return False
    if turn == 0.0:
        return hypot(c[0] - a[0], c[1] - a[1]) > 0.0
    others = (p for p in corners if p not in (a, b, c))
    return not any(_left(a, b, p) >= 0.0 and _left(b, c, p) >= 0.0 and _left(c, a, p) >= 0.0 for p in others)
