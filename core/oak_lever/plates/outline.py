"""Outlines of plates, exact: convex hulls of circles, ellipses and points, with an ellipse or a half plane taken off.

A rounded shape is an affine image of the unit circle, center + M (cos t, sin t). The hull's boundary at each normal
(cos p, sin p) belongs to the shape that reaches farthest along it (its support, center.n + |M'n|); where two reach as
far, the boundary runs straight from one to the other (de Berg, Computational Geometry, chapter 11, on supports).
Areas are by Green's theorem, piece by piece. Plane axes u to the right and v up, mm; outlines run counterclockwise.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import acos, atan2, ceil, cos, hypot, pi, sin, sqrt, tan

import numpy as np

from oak_lever.motion.mechanism import Floats

_NORMALS = 1440
_HALVINGS = 60
_SAME_MM = 1e-9
_DEPTH_MM = 0.02
_MOST_BULGE = pi
"""An arc of more than a half turn is written as two."""
Flat = tuple[float, float]
Turn = tuple[tuple[float, float], tuple[float, float]]


@dataclass(frozen=True)
class Round:
    """A circle, an ellipse or (M all zeros) a point."""

    center: Flat
    m: Turn

    def at(self, t: float) -> Flat:
        """The point of its boundary at t, radians."""
        (a, b), (c, d) = self.m
        x, y = cos(t), sin(t)
        return self.center[0] + a * x + b * y, self.center[1] + c * x + d * y

    def support(self, n: Floats) -> Floats:
        """How far it reaches along each of the unit normals (N, 2)."""
        m = np.array(self.m)
        out: Floats = n @ np.array(self.center) + np.sqrt(((n @ m) ** 2).sum(-1))
        return out

    def reach(self, angle: float) -> float:
        """How far it reaches along one normal, by its angle."""
        x, y = cos(angle), sin(angle)
        (a, b), (c, d) = self.m
        return self.center[0] * x + self.center[1] * y + hypot(a * x + c * y, b * x + d * y)

    def touches(self, angle: float) -> float:
        """Where on it, t in radians, the boundary's normal has that angle."""
        x, y = cos(angle), sin(angle)
        (a, b), (c, d) = self.m
        return atan2(b * x + d * y, a * x + c * y)

    @property
    def spans(self) -> float:
        """The determinant of M: its area over pi."""
        (a, b), (c, d) = self.m
        return a * d - b * c

    @property
    def radius(self) -> float | None:
        """Of a circle; None of an ellipse."""
        (a, b), (c, d) = self.m
        return a if b == c == 0.0 and a == d else None


def circle(center: Flat, radius: float) -> Round:
    return Round(center, ((radius, 0.0), (0.0, radius)))


@dataclass(frozen=True)
class Line:
    a: Flat
    b: Flat

    @property
    def start(self) -> Flat:
        return self.a

    @property
    def end(self) -> Flat:
        return self.b

    @property
    def swept(self) -> float:
        """Half of the integral of u dv - v du."""
        return (self.a[0] * self.b[1] - self.a[1] * self.b[0]) / 2.0


@dataclass(frozen=True)
class Arc:
    """A part of a rounded shape from t0 to t1, radians, whichever is greater."""

    of: Round
    t0: float
    t1: float

    @property
    def start(self) -> Flat:
        return self.of.at(self.t0)

    @property
    def end(self) -> Flat:
        return self.of.at(self.t1)

    @property
    def swept(self) -> float:
        """Half of the integral of u dv - v du."""
        (x, y), (u0, v0), (u1, v1) = self.of.center, self.start, self.end
        return (x * (v1 - v0) - y * (u1 - u0) + self.of.spans * (self.t1 - self.t0)) / 2.0


Piece = Line | Arc


@dataclass(frozen=True)
class Outline:
    """A closed outline, piece by piece, each from where the last one ends."""

    pieces: tuple[Piece, ...]

    @property
    def area(self) -> float:
        """mm^2."""
        return sum(piece.swept for piece in self.pieces)

    def depth(self, at: Flat) -> float:
        """How far inside it a point lies from its edge, mm, to 0.02 mm; below 0 outside."""
        corners = np.array(self.points(_DEPTH_MM))
        start, along = corners - at, np.roll(corners, -1, axis=0) - corners
        part = np.clip(-(start * along).sum(-1) / np.maximum((along**2).sum(-1), _SAME_MM), 0.0, 1.0)
        off = float(np.hypot(*(start + part[:, None] * along).T).min())
        (u, v), (w, z) = start.T, (start + along).T
        crossed = ((v > 0.0) != (z > 0.0)) & ((u * z - w * v) * np.sign(z - v) > 0.0)
        return off if crossed.sum() % 2 else -off

    def points(self, off: float) -> list[Flat]:
        """Corners of a polygon that is nowhere farther than `off` mm from the outline."""
        return [at for at, _ in self.bulged(off, arcs=False)]

    def bulged(self, off: float, arcs: bool = True) -> list[tuple[Flat, float]]:
        """Corners, each with the bulge (the tangent of a quarter of the arc's turn) of what leads to the next: circles
        as arcs where `arcs`, all else as lines within `off` mm."""
        found: list[tuple[Flat, float]] = []
        for piece in self.pieces:
            if isinstance(piece, Line):
                found.append((piece.a, 0.0))
                continue
            whole = piece.t1 - piece.t0
            exact = arcs and piece.of.radius is not None
            many = ceil(abs(whole) / (_MOST_BULGE if exact else _step(piece.of, off))) or 1
            bulge = tan(whole / many / 4.0) if exact else 0.0
            found += [(piece.of.at(piece.t0 + whole * k / many), bulge) for k in range(many)]
        return found

    def clipped(self, m: Flat, least: float) -> "Outline | None":
        """What of a convex outline lies where m.q is `least` or more, m a unit normal; None where nothing does."""
        kept = [part for piece in self.pieces for part in _clip(piece, m, least)]
        return Outline(tuple(joined(kept))) if kept else None


def _step(of: Round, off: float) -> float:
    """The longest step of t whose chord is within `off` mm."""
    (a, b), (c, d) = of.m
    largest = max(hypot(a, c), hypot(b, d), off)
    return 2.0 * acos(max(1.0 - off / largest, 0.0))


def _clip(piece: Piece, m: Flat, least: float) -> list[Piece]:
    def above(at: Flat) -> float:
        return m[0] * at[0] + m[1] * at[1] - least

    if isinstance(piece, Line):
        one, other = above(piece.a), above(piece.b)
        if one >= -_SAME_MM and other >= -_SAME_MM:
            return [piece]
        if one <= 0.0 and other <= 0.0:
            return []
        s = one / (one - other)
        cut = (piece.a[0] + s * (piece.b[0] - piece.a[0]), piece.a[1] + s * (piece.b[1] - piece.a[1]))
        return [Line(piece.a, cut) if one > 0.0 else Line(cut, piece.b)]
    (a, b), (c, d) = piece.of.m
    along, across = a * m[0] + c * m[1], b * m[0] + d * m[1]
    far, goal = hypot(along, across), -above(piece.of.center)
    if abs(goal) >= far:
        return [piece] if goal <= -far or above(piece.start) >= -_SAME_MM else []
    mid, half = atan2(across, along), acos(goal / far)
    cuts = sorted(
        t for turn in range(-3, 4) for t in (mid - half + 2 * pi * turn, mid + half + 2 * pi * turn)
        if piece.t0 < t < piece.t1
    )  # fmt: skip
    ends = [piece.t0, *cuts, piece.t1]
    return [
        Arc(piece.of, t0, t1) for t0, t1 in pairwise(ends)
        if above(piece.of.at((t0 + t1) / 2.0)) >= -_SAME_MM
    ]  # fmt: skip


def joined(pieces: Sequence[Piece]) -> list[Piece]:
    """Pieces in order, with a line wherever one does not start where the last one ends."""
    found: list[Piece] = []
    for n, piece in enumerate(pieces):
        found.append(piece)
        at, to = piece.end, pieces[(n + 1) % len(pieces)].start
        if hypot(to[0] - at[0], to[1] - at[1]) > _SAME_MM:
            found.append(Line(at, to))
    return found


@dataclass(frozen=True)
class Run:
    """A stretch of a hull's boundary that belongs to one shape, from one angle of the normal to another."""

    owner: int
    t0: float
    t1: float


def hull_runs(shapes: Sequence[Round]) -> list[Run]:
    """Whose the boundary of the convex hull is, in turn, counterclockwise."""
    angles = np.linspace(0.0, 2.0 * pi, _NORMALS, endpoint=False)
    normals = np.stack([np.cos(angles), np.sin(angles)], axis=-1)
    owner = np.argmax(np.stack([shape.support(normals) for shape in shapes]), axis=0)
    changes = [k for k in range(_NORMALS) if owner[k] != owner[k - 1]]
    if not changes:
        return [Run(int(owner[0]), 0.0, 2.0 * pi)]
    at = [
        _equal(shapes[owner[k - 1]], shapes[owner[k]], angles[k] - 2.0 * pi / _NORMALS, float(angles[k]))
        for k in changes
    ]
    found: list[tuple[int, float, float]] = []
    for n, k in enumerate(changes):
        start, wide = at[n], (at[(n + 1) % len(at)] - at[n]) % (2.0 * pi)
        if not _NOTHING < wide < 2.0 * pi - _NOTHING and len(changes) > 1:
            continue  # at that one normal two reach as far as a third: rounding decides
        if found and found[-1][0] == owner[k]:
            found[-1] = (found[-1][0], found[-1][1], found[-1][2] + wide)
        else:
            found.append((int(owner[k]), start, wide))
    if len(found) > 1 and found[0][0] == found[-1][0]:
        last = found.pop()
        found[0] = (last[0], last[1], last[2] + found[0][2])
    return [_run(shapes, *one) for one in found]


_NOTHING = 1e-7
"""A stretch of normals narrower than this, radians, is none."""


def _run(shapes: Sequence[Round], owner: int, start: float, wide: float) -> Run:
    t0, t1 = shapes[owner].touches(start), shapes[owner].touches(start + wide)
    return Run(owner, t0, t0 + (t1 - t0) % (2.0 * pi))


def _equal(one: Round, other: Round, low: float, high: float) -> float:
    """The angle at which two shapes reach as far, the first farther at `low`."""
    for _ in range(_HALVINGS):
        mid = (low + high) / 2.0
        if one.reach(mid) >= other.reach(mid):
            low = mid
        else:
            high = mid
    return (low + high) / 2.0


def hull(shapes: Sequence[Round]) -> Outline:
    """The convex hull."""
    return Outline(tuple(joined([_arc(shapes, run) for run in hull_runs(shapes)])))


def _arc(shapes: Sequence[Round], run: Run) -> Piece:
    shape = shapes[run.owner]
    return Line(shape.center, shape.center) if shape.spans == 0.0 else Arc(shape, run.t0, run.t1)


@dataclass(frozen=True)
class Saddled:
    """A hull less an ellipse that is part of it: how many degrees of the ellipse it then sits on, seen from the
    ellipse's center."""

    outline: Outline
    wrap: float


def saddle(shapes: Sequence[Round], on: Round, square: float = 0.0) -> Saddled | None:
    """The hull of shapes and an ellipse, less the ellipse; None where that is not one piece without an opening. Its
    tips run out to nothing; or, where `square` is given, they are cut off square where the metal is that wide, mm.

    Raises:
        ValueError: where no metal between hole and tip is so wide.
    """
    every = [*shapes, on]
    runs = hull_runs(every)
    ours = [n for n, run in enumerate(runs) if run.owner == len(shapes)]
    if len(ours) != 1 or len(runs) == 1:
        return None
    own = runs[ours[0]]
    chain = [_arc(every, runs[(ours[0] + k) % len(runs)]) for k in range(1, len(runs))]
    # the tips run straight to the ellipse and touch it there; back along it, on the side of the holes
    t0, t1 = own.t0, own.t1 - 2.0 * pi
    ends: list[Piece] = []
    if square > 0.0:
        t0, first = _squared(on, t0, chain[-1].end, -1.0, square)
        t1, last = _squared(on, t1, chain[0].start, 1.0, square)
        if t1 >= t0:
            raise ValueError("its tips are narrower than that all along")
        ends = [Line(first, on.at(t0)), Line(on.at(t1), last)]
    seat = Arc(on, t0, t1)
    pieces = [*chain, ends[0], seat, ends[1]] if ends else [*chain, seat]
    return Saddled(Outline(tuple(joined(pieces))), _seen(on, t1, t0))


def _squared(on: Round, tip: float, of: Flat, way: float, wide: float) -> tuple[float, Flat]:
    """Where, going from a tip back along the ellipse (`way` of t), the metal up to the straight edge from `of` to the
    tip is so wide; and the place on that edge square over it."""
    at = on.at(tip)
    long = hypot(at[0] - of[0], at[1] - of[1])
    along = ((at[0] - of[0]) / long, (at[1] - of[1]) / long) if long > _SAME_MM else (0.0, 0.0)

    def off(t: float) -> tuple[float, float]:
        u, v = on.at(t)[0] - at[0], on.at(t)[1] - at[1]
        return abs(along[0] * v - along[1] * u), along[0] * u + along[1] * v

    low, high = 0.0, pi / 2.0
    if off(tip + way * high)[0] < wide:
        raise ValueError("its tips are narrower than that all along")
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (low, middle) if off(tip + way * middle)[0] >= wide else (middle, high)
    back = off(tip + way * high)[1]
    if -back > long:
        raise ValueError("its tips are narrower than that up to the holes")
    return tip + way * high, (at[0] + back * along[0], at[1] + back * along[1])


def _seen(on: Round, t0: float, t1: float) -> float:
    """Degrees from t0 to t1, less than a turn apart, seen from the center."""
    (x, y), (u0, v0), (u1, v1) = on.center, on.at(t0), on.at(t1)
    turn = atan2(v1 - y, u1 - x) - atan2(v0 - y, u0 - x)
    return float(np.degrees(turn % (2.0 * pi)))


def distance(on: Round, at: Flat) -> float:
    """From a point to an ellipse, mm; below 0 inside it."""
    inside = _inside(on, at)
    low, high = 0.0, 2.0 * pi
    for _ in range(6):
        t = np.linspace(low, high, 721)
        (a, b), (c, d) = on.m
        u = on.center[0] + a * np.cos(t) + b * np.sin(t) - at[0]
        v = on.center[1] + c * np.cos(t) + d * np.sin(t) - at[1]
        far = np.hypot(u, v)
        best, step = float(t[int(far.argmin())]), float(t[1] - t[0])
        low, high = best - step, best + step
    least = float(far.min())
    return -least if inside else least


def _inside(on: Round, at: Flat) -> bool:
    (a, b), (c, d) = on.m
    u, v = at[0] - on.center[0], at[1] - on.center[1]
    x, y = (d * u - b * v) / on.spans, (a * v - c * u) / on.spans
    return sqrt(x * x + y * y) < 1.0
