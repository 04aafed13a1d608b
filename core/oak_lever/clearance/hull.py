"""The convex hull of a great many points, to a tolerance and with no more than so many corners."""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from heapq import heappop, heappush

import numpy as np
from numpy.typing import NDArray

from oak_lever.motion.mechanism import Floats

_FLAT = 1e-9
"""Points as near to a plane as this part of their reach lie in it."""
_FEW = 4_000
"""So many points can be looked at one by one."""
Indices = NDArray[np.int64]


@dataclass
class _Face:
    """Three corners, counterclockwise seen from outside; its plane; the points outside it that no other face has; and
    of these the one that stands farthest off it (-1: none), and how far."""

    number: int
    corners: tuple[int, int, int]
    normal: Floats
    offset: float
    points: Indices
    top: int
    farthest: float

    def edges(self) -> list[tuple[int, int]]:
        a, b, c = self.corners
        return [(a, b), (b, c), (c, a)]


def hull_corners(
    points: Floats, within: float, most: int, outside: Callable[[Sequence[int], Floats], Floats]
) -> tuple[list[int], float]:
    """Which of the points (N, 3) span a hull that all others are inside of or within `within`, and how far the farthest
    stands outside it, of those farthest from its faces: farther than `within` only where `most` corners do not suffice.
    `outside(corners, others)` tells how far points are from the hull of those corners. None for points in a plane.

    Quickhull (Barber, Dobkin, Huhdanpaa 1996), stopped at the tolerance: the point farthest from its face comes next.
    """
    build = _Hull(points)
    if not build.faces:
        return [], 0.0
    within = min(within, build.thickness / 10.0)
    while True:
        full = build.count >= most
        face = build.farthest()
        if not full and face is not None and face.farthest > within:
            build.add(face, face.top)
            continue
        # past a sharp edge a point stands farther off the hull than off the planes of its faces
        corners, doubtful = build.corners(), build.doubtful()
        if not doubtful:
            return corners, 0.0
        apart = outside(corners, points[[top for _, top in doubtful]])
        if full or apart.max() <= within:
            return corners, float(apart.max())
        for n in np.argsort(-apart)[: most - build.count].tolist():
            face, top = doubtful[n]
            if apart[n] > within and face.number in build.faces:
                build.add(face, top)


class _Hull:
    def __init__(self, points: Floats) -> None:
        self._points = points
        self.faces: dict[int, _Face] = {}
        self._by_edge: dict[tuple[int, int], _Face] = {}
        self._order: list[tuple[float, int]] = []
        self._numbers = itertools.count()
        self.thickness = 0.0
        self.count = 4
        first = self._first()
        if first is None:
            return
        a, b, c, d = first
        self._middle = points[list(first)].mean(axis=0)  # stays inside however the hull grows
        left = np.arange(len(points))
        for corners in ((a, b, c), (a, d, b), (b, d, c), (c, d, a)):
            left = self._face(corners, left)

    def corners(self) -> list[int]:
        return sorted({corner for face in self.faces.values() for corner in face.corners})

    def farthest(self) -> _Face | None:
        """The face that has a point farthest outside it; None where none has any."""
        while self._order and self._order[0][1] not in self.faces:
            heappop(self._order)
        return self.faces[self._order[0][1]] if self._order else None

    def doubtful(self) -> list[tuple[_Face, int]]:
        """Points outside a face, each with it: all where they are few; or of each face that farthest off its plane and
        that farthest from its middle."""
        some = [face for face in self.faces.values() if face.top >= 0]
        if sum(len(face.points) for face in some) <= _FEW:
            return [(face, int(n)) for face in some for n in face.points]
        found = []
        for face in some:
            away = self._points[face.points] - self._points[list(face.corners)].mean(axis=0)
            aside = int(face.points[(away**2).sum(axis=1).argmax()])
            found += [(face, top) for top in {face.top, aside}]
        return found

    def _first(self) -> tuple[int, int, int, int] | None:
        """Four points far apart; None where all lie in a plane."""
        points = self._points
        if len(points) < 4:
            return None
        a = int(points[:, np.ptp(points, axis=0).argmax()].argmin())
        b = int(((points - points[a]) ** 2).sum(axis=1).argmax())
        along = points[b] - points[a]
        reach = float(np.linalg.norm(along))
        if reach == 0.0:
            return None
        off = np.linalg.norm(np.cross(points - points[a], along / reach), axis=1)
        c = int(off.argmax())
        normal = np.cross(along, points[c] - points[a])
        size = float(np.linalg.norm(normal))
        if size <= (_FLAT * reach) * reach:
            return None
        height = np.abs((points - points[a]) @ (normal / size))
        d = int(height.argmax())
        self.thickness = float(height[d])
        return None if self.thickness <= _FLAT * reach else (a, b, c, d)

    def _face(self, corners: tuple[int, int, int], among: Indices) -> Indices:
        """Add a face with those of the points that stand outside it; the others, for the next one."""
        a, b, c = corners
        at = self._points[a]
        normal = np.cross(self._points[b] - at, self._points[c] - at)
        normal /= np.linalg.norm(normal)
        if normal @ (self._middle - at) > 0.0:
            corners, normal = (a, c, b), -normal
        offset = float(normal @ at)
        off = self._points[among] @ normal - offset
        mine = off > 0.0
        own = among[mine]
        far = int(off.argmax()) if len(own) else -1
        face = _Face(
            next(self._numbers),
            corners,
            normal,
            offset,
            own,
            int(among[far]) if len(own) else -1,
            float(off[far]) if len(own) else 0.0,
        )
        for edge in face.edges():
            self._by_edge[edge] = face
        self.faces[face.number] = face
        if len(own):
            heappush(self._order, (-face.farthest, face.number))
        return among[~mine]

    def add(self, face: _Face, top: int) -> None:
        """A point outside a face becomes a corner: what it sees of the hull gives way to faces to it."""
        at = self._points[top]
        seen, look, rim = {face.number: face}, [face], list[tuple[int, int]]()
        while look:
            for a, b in look.pop().edges():
                beside = self._by_edge[b, a]
                if beside.number in seen:
                    continue
                if beside.normal @ at > beside.offset:
                    seen[beside.number] = beside
                    look.append(beside)
                else:
                    rim.append((a, b))
        left = np.concatenate([one.points for one in seen.values()])
        left = left[left != top]
        for one in seen.values():
            del self.faces[one.number]
            for edge in one.edges():
                del self._by_edge[edge]
        for a, b in rim:
            left = self._face((a, b, top), left)
        self.count += 1


def hull_faces(points: Floats) -> list[tuple[int, int, int]]:
    """The faces of the hull of the points (N, 3), each by its corners' indices, counterclockwise seen from outside.
    None for points in a plane."""
    build = _Hull(points)
    while (face := build.farthest()) is not None and face.farthest > _FLAT * float(np.ptp(points, axis=0).max()):
        build.add(face, face.top)
    return [face.corners for face in build.faces.values()]
