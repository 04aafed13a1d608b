"""Where the axle stands at ride once mounts have moved and every bar has kept its length.

The constraints are those of the cycle (see `oak_lever.motion.mechanism`), at travel 0 and articulation 0; unknown are
the axle's x, y, pitch and yaw, and a bell crank's angle. The pose is followed from the file's own ride pose while
mounts go in a straight line, all together, to their new places: by Newton's method, in steps that shorten where the
links come near to going over center (Allgower, chapter 2). With more constraints than unknowns it is the least of the
sum of squared errors, followed while it stays a minimum.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever import tolerances as tol
from oak_lever.design.parts import DISTANCE, SIDEWAYS
from oak_lever.motion.mechanism import Floats, Layout, Mechanism
from oak_lever.motion.trace import RIDE, Traced, trace

_STEP_MM = 12.0
"""How far the farthest mount goes in one step at first."""
_LEAST = 1e-5
"""A step shorter than this part of the way is none: there the pose comes to its end."""
_MOST_SHORTENED = 60
"""So it does where steps had to be shortened more often than this."""
_ROUNDS = 12
_NEAR = 0.5
"""A pose lies this near to where it was expected, of the step; farther, it is another one."""
_PART = 1e-4
"""So much of the way either side the equations are taken at for their slope along it."""
_NUDGE_MM, _NUDGE_RAD = 1e-3, 1e-6
_TOGETHER = 4000
"""Designs followed at once: more would only fill the memory."""


@dataclass(frozen=True, eq=False)
class _Rows:
    """Constraint rows of D designs: `body` and `frame` (D, M, 3), each row's point on the axle from its center at ride,
    and on the frame; `target` (D, M) the lengths; `arm`, `tilt`, `radius` (D,)."""

    layout: Layout
    body: Floats
    frame: Floats
    target: Floats
    arm: Floats
    tilt: Floats
    radius: Floats

    def some(self, which: NDArray[np.bool_]) -> "_Rows":
        return _Rows(self.layout, *(v[which] for v in (
            self.body, self.frame, self.target, self.arm, self.tilt, self.radius
        )))  # fmt: skip


def kept_poses(
    mechanism: Mechanism, mounts: Floats, lengths: Floats | None = None, made: Floats | None = None
) -> Traced:  # fmt: skip
    """Poses at ride of one design's bars between other mounts, (D, K, 3) mm, every bar as long as in the file, or
    longer by `lengths` (D, M) mm, a column a row of the layout; as `Traced` (D, 1): not reached where the pose cannot
    be followed, or the design is loose.

    A radius arm's eye keeps its place on the axle, a slider's guide its y, a bell crank its arm and tilt. With `made`
    (1, K, 3) eye and guide go, with the rest, from where the mechanism has them to where those mounts are.
    """
    parts = [
        _followed(mechanism, mounts[n : n + _TOGETHER], None if lengths is None else lengths[n : n + _TOGETHER], made)
        for n in range(0, len(mounts), _TOGETHER)
    ]
    together = (np.concatenate([getattr(one, name) for one in parts]) for name in _FIELDS)
    return Traced(RIDE, *together)


_FIELDS = ("state", "heave", "rolling", "bind", "reached", "ended")


def _rows_between(mechanism: Mechanism, mounts: Floats, more: Floats, own: Floats) -> _Rows:
    """The file's rows between mounts (D, K, 3), lengths longer by `more` (D, M); eyes and guides as `own` (D, K, 3) has
    them."""
    layout, count = mechanism.layout, len(mounts)
    on_axle, on_frame = ([getattr(row, name) for row in layout.rows] for name in ("on_axle", "on_frame"))
    guide = layout.axis == SIDEWAYS
    eye = (layout.axis != DISTANCE) & ~guide
    body = np.where(eye[:, None], own[:, on_axle], mounts[:, on_axle]) - mechanism.center[:, None, :]
    frame = np.where(guide[:, None], own[:, on_frame], mounts[:, on_frame])
    arm, tilt, radius = (np.repeat(v, count) for v in (mechanism.arm, mechanism.tilt, mechanism.radius))
    return _Rows(layout, body, frame, mechanism.target + more, arm, tilt, radius)


def _measured(rows: _Rows, q: Floats, z: Floats, art: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """Errors (D, M) at q (D, 5: x, y, pitch, yaw, crank), travel z (D,) and articulation (D,) radians, their slopes by
    q (D, M, 5), by travel and by articulation (D, M).

    For s turned about an axis a: d(s)/d(angle) = a x s, so d(error)/d(angle) = a . (s x n).
    """
    layout = rows.layout
    sp, cp, sy, cy = np.sin(q[:, 2]), np.cos(q[:, 2]), np.sin(q[:, 3]), np.cos(q[:, 3])
    sr = np.sin(art) / cp
    cr = np.sqrt(np.maximum(1.0 - sr * sr, 0.0))
    turn = np.empty((len(q), 3, 3))
    turn[:, 0, 0], turn[:, 0, 1], turn[:, 0, 2] = cy * cp, cy * sp * sr - sy * cr, cy * sp * cr + sy * sr
    turn[:, 1, 0], turn[:, 1, 1], turn[:, 1, 2] = sy * cp, sy * sp * sr + cy * cr, sy * sp * cr - cy * sr
    turn[:, 2, 0], turn[:, 2, 1], turn[:, 2, 2] = -sp, cp * sr, cp * cr
    swung = layout.hand * rows.arm[:, None]
    angle = (rows.tilt + q[:, 4])[:, None]
    crank = np.stack([np.zeros_like(swung), -swung * np.sin(angle), swung * np.cos(angle)], axis=-1)
    by_crank = np.stack([np.zeros_like(swung), -crank[..., 2], crank[..., 1]], axis=-1)
    on_axle = layout.crank_on == "axle"
    body = rows.body + crank if on_axle else rows.body
    frame = rows.frame if on_axle else rows.frame + crank
    s = body @ np.swapaxes(turn, 1, 2)
    center = np.stack([q[:, 0], q[:, 1], rows.radius + z], axis=-1)
    d = center[:, None, :] + s - frame
    long = np.maximum(np.sqrt((d * d).sum(-1)), tol.NO_LENGTH_MM)
    distance = layout.axis == DISTANCE
    plain = np.eye(3)[np.where(distance, 0, layout.axis)]
    n = np.where(distance[:, None], d / long[..., None], plain)
    error = np.where(distance, long - rows.target, (d * plain).sum(-1))
    c = np.cross(s, n)
    by_roll = np.einsum("dmi,di->dm", c, turn[:, :, 0])
    by_pitch = cy[:, None] * c[..., 1] - sy[:, None] * c[..., 0]
    by_pitch = by_pitch + by_roll * (sr / cr * sp / cp)[:, None]
    moved = by_crank @ np.swapaxes(turn, 1, 2) if on_axle else -by_crank
    slopes = np.stack([n[..., 0], n[..., 1], by_pitch, c[..., 2], (moved * n).sum(-1)], axis=-1)
    return error, slopes, n[..., 2], by_roll * (np.cos(art) / (cp * cr))[:, None]


class _Solver:
    """The pose's equations for one set of rows: as many errors as unknowns, or the gradient of their squares."""

    def __init__(self, rows: _Rows) -> None:
        self.rows, self.size = rows, rows.layout.unknowns
        self.gives = rows.layout.gives

    def gradient(self, q: Floats, z: Floats, art: Floats) -> Floats:
        """(D, U) of half the sum of squared errors."""
        error, slopes, _, _ = _measured(self.rows, q, z, art)
        along: Floats = np.einsum("dmu,dm->du", slopes[..., : self.size], error)
        return along

    def value(self, q: Floats) -> Floats:
        """What is to vanish (D, U)."""
        zero = np.zeros(len(q))
        return self.gradient(q, zero, zero) if self.gives else _measured(self.rows, q, zero, zero)[0]

    def nearly(self, q: Floats) -> tuple[Floats, Floats]:
        """What is to vanish (D, U), and its slopes by the unknowns (D, U, U), of squares without what the errors
        themselves add: good enough to come to rest by (Gauss and Newton)."""
        zero = np.zeros(len(q))
        error, slopes, _, _ = _measured(self.rows, q, zero, zero)
        slopes = slopes[..., : self.size]
        if not self.gives:
            return error, slopes
        across = np.swapaxes(slopes, 1, 2)
        return (across @ error[..., None])[..., 0], across @ slopes

    def slopes(self, q: Floats) -> Floats:
        """(D, U, U) of what is to vanish, exactly."""
        if not self.gives:
            return self.nearly(q)[1]
        zero, slopes = np.zeros(len(q)), np.empty((len(q), self.size, self.size))
        for u, nudge in enumerate(_NUDGES[: self.size]):
            ahead, back = q.copy(), q.copy()
            ahead[:, u] += nudge
            back[:, u] -= nudge
            slopes[..., u] = (self.gradient(ahead, zero, zero) - self.gradient(back, zero, zero)) / (2.0 * nudge)
        both: Floats = (slopes + np.swapaxes(slopes, 1, 2)) / 2.0
        return both

    def by_travel_and_articulation(self, q: Floats) -> Floats:
        """(D, U, 2) how the unknowns go with travel (per mm) and with articulation (per radian)."""
        zero = np.zeros(len(q))
        slopes = self.slopes(q)
        if self.gives:
            moved = np.stack([
                (self.gradient(q, *_nudged(zero, way, by)) - self.gradient(q, *_nudged(zero, way, -by))) / (2.0 * by)
                for way, by in ((0, _NUDGE_MM), (1, _NUDGE_RAD))
            ], axis=-1)  # fmt: skip
        else:
            _, _, by_travel, by_articulation = _measured(self.rows, q, zero, zero)
            moved = np.stack([by_travel, by_articulation], axis=-1)
        return np.asarray(-np.linalg.solve(slopes, moved), dtype=np.float64)


_NUDGES = (_NUDGE_MM, _NUDGE_MM, _NUDGE_RAD, _NUDGE_RAD, _NUDGE_RAD)


def _nudged(zero: Floats, way: int, by: float) -> tuple[Floats, Floats]:
    return (zero + by, zero) if way == 0 else (zero, zero + by)


def _signs(slopes: Floats, gives: bool) -> Floats:
    """(D,) what must stay along a path: the determinant's sign; of a least, 1 while it is a minimum, else 0."""
    if not gives:
        sign: Floats = np.asarray(np.linalg.slogdet(slopes)[0], dtype=float)
        return sign
    least = np.linalg.eigvalsh(_scaled(slopes))[:, 0]
    return np.where(least > 0.0, 1.0, 0.0)


def _scaled(slopes: Floats) -> Floats:
    """With a unit diagonal, so that turns count as lengths do."""
    size = np.sqrt(np.maximum(np.abs(np.diagonal(slopes, axis1=1, axis2=2)), tol.NO_LENGTH_MM))
    scaled: Floats = slopes / (size[:, :, None] * size[:, None, :])
    return scaled


def _followed(mechanism: Mechanism, mounts: Floats, lengths: Floats | None, made: Floats | None) -> Traced:
    layout, count = mechanism.layout, len(mounts)
    ride = trace(mechanism, RIDE)
    q = np.zeros((count, 5))
    reached = np.full(count, bool(ride.reached[0, 0]))
    if reached.any():
        more = np.zeros((count, len(layout.rows))) if lengths is None else lengths
        own = np.repeat(mechanism.mounts if made is None else made, count, axis=0)
        q, reached = _Way(mechanism, mounts, more, own).walked()
        final = _rows_between(mechanism, mounts, more, own)
        return _traced(_Solver(final), q, reached)
    return _nothing(count)


class _Way:
    """Mounts and lengths of D designs on their way from the file's own, all of them together."""

    def __init__(self, mechanism: Mechanism, mounts: Floats, more: Floats, own: Floats) -> None:
        self.mechanism, self.goal, self.more, self.own = mechanism, mounts, more, own
        far = np.maximum.reduce([
            np.abs(mounts - mechanism.mounts).max(axis=(1, 2), initial=0.0),
            np.abs(own - mechanism.mounts).max(axis=(1, 2), initial=0.0), np.abs(more).max(axis=1),
        ])  # fmt: skip
        self.step = np.minimum(1.0, _STEP_MM / np.maximum(far, 1e-9))
        self.far = far

    def rows(self, part: Floats, which: NDArray[np.bool_]) -> _Rows:
        start, along = self.mechanism.mounts, part[which, None, None]
        mounts, own = (start + along * (end[which] - start) for end in (self.goal, self.own))
        return _rows_between(self.mechanism, mounts, part[which, None] * self.more[which], own)

    def walked(self) -> tuple[Floats, NDArray[np.bool_]]:
        """Where they come to (D, 5), and which come to the end."""
        count = len(self.goal)
        q, done, step = np.zeros((count, 5)), np.zeros(count), self.step.copy()
        everything = np.ones(count, dtype=bool)
        gives = self.mechanism.layout.gives
        slopes = _Solver(self.rows(done, everything)).slopes(q)
        signs, tangent = _signs(slopes, gives), self._tangent(q, done, everything, slopes)
        scale = np.where(np.arange(5) < 2, 1.0, self.mechanism.reach[0])
        stuck, shortened = np.zeros(count, dtype=bool), np.zeros(count, dtype=np.int64)
        while True:
            going = (done < 1.0) & ~stuck
            if not going.any():
                return q, ~stuck
            part = np.where(done + step > 1.0 - 1e-12, 1.0, done + step)
            by = (part - done)[going]
            ahead = tangent[going] * by[:, None]
            found, sound = self._solved(q[going] + ahead, part, going)
            slopes = _Solver(self.rows(part, going)).slopes(found)
            sound &= _signs(slopes, gives) == signs[going]
            off = (np.abs(found - q[going] - ahead) * scale).max(axis=1)
            sound &= off <= _NEAR * ((np.abs(ahead) * scale).max(axis=1) + by * self.far[going]) + 1e-9
            places = np.flatnonzero(going)
            good, bad = places[sound], places[~sound]
            q[good], done[good] = found[sound], part[good]
            chosen = np.zeros(count, dtype=bool)
            chosen[good] = True
            tangent[good] = self._tangent(q, done, chosen, slopes[sound])
            step[good] = np.minimum(2.0 * step[good], self.step[good])
            step[bad] *= 0.5
            shortened[bad] += 1
            stuck[bad[(step[bad] < _LEAST) | (shortened[bad] > _MOST_SHORTENED)]] = True

    def _tangent(self, q: Floats, done: Floats, which: NDArray[np.bool_], slopes: Floats) -> Floats:
        """(D, 5) how the unknowns go with the part of the way that is done; `slopes` (D, U, U) of the equations."""
        ahead, back = (_Solver(self.rows(done + by, which)).value(q[which]) for by in (_PART, -_PART))
        out = np.zeros((len(ahead), 5))
        out[:, : slopes.shape[-1]] = -np.linalg.solve(slopes, ((ahead - back) / (2.0 * _PART))[..., None])[..., 0]
        return out

    def _solved(self, start: Floats, part: Floats, going: NDArray[np.bool_]) -> tuple[Floats, NDArray[np.bool_]]:
        """Newton from `start`: where it comes to, and whether it came to rest."""
        solver = _Solver(self.rows(part, going))
        q, reach = start.copy(), self.mechanism.reach[0]
        size, rest = solver.size, np.zeros(len(start), dtype=bool)
        for _ in range(_ROUNDS):
            value, slopes = solver.nearly(q)
            singular = np.linalg.slogdet(_scaled_rows(slopes))[1] < _SINGULAR
            slopes[singular] = np.eye(size)
            change = -np.linalg.solve(slopes, value[..., None])[..., 0]
            change[singular] = np.nan
            q[:, :size] += change
            size_mm = np.abs(change * np.where(np.arange(size) < 2, 1.0, reach)).max(axis=1)
            rest = size_mm < _RESTS_MM
            if (rest | ~np.isfinite(size_mm)).all():
                break
        sound = rest & np.isfinite(q).all(axis=1) & (np.abs(q[:, 2]) < 1.5)
        return np.where(sound[:, None], q, 0.0), sound


_SINGULAR = -32.0
"""Natural logarithm of a determinant of rows of unit length below which there is no direction left to go."""
_RESTS_MM = 1e-8
"""Newton's last step: the next would be its square over the links' length."""


def _scaled_rows(slopes: Floats) -> Floats:
    scaled: Floats = slopes / np.maximum(np.abs(slopes).max(axis=-1, keepdims=True), tol.NO_LENGTH_MM)
    return scaled


def _nothing(count: int) -> Traced:
    return Traced(
        RIDE, np.full((count, 1, 7), np.nan), np.full((count, 1, 6), np.nan), np.full((count, 1, 6), np.nan),
        np.full((count, 1), np.nan), np.zeros((count, 1), dtype=np.bool_), np.zeros((count, 1)),
    )  # fmt: skip


def _traced(solver: _Solver, q: Floats, reached: NDArray[np.bool_]) -> Traced:
    """Poses as the cycle has them, with the velocities by travel and by roll that figures are made of."""
    out = _nothing(len(q))
    if not reached.any():
        return out
    q, rows = q[reached], solver.rows.some(reached)
    by = _Solver(rows).by_travel_and_articulation(q)
    pitch, yaw = q[:, 2], q[:, 3]
    zero = np.zeros(len(q))
    out.state[reached, 0] = np.stack([q[:, 0], q[:, 1], rows.radius, zero, pitch, yaw, q[:, 4]], axis=-1)
    for kind, into in enumerate((out.heave, out.rolling)):
        roll = zero if kind == 0 else 1.0 / np.cos(pitch)
        x, y, pitched, yawed = (by[:, u, kind] for u in range(4))
        speeds = np.stack([
            x, y, np.full(len(q), 1.0 if kind == 0 else 0.0),
            np.cos(yaw) * np.cos(pitch) * roll - np.sin(yaw) * pitched,
            np.sin(yaw) * np.cos(pitch) * roll + np.cos(yaw) * pitched,
            yawed - np.sin(pitch) * roll,
        ], axis=-1)  # fmt: skip
        if kind == 1:
            speeds = speeds / np.where(np.abs(speeds[:, 3:4]) > tol.SINGULAR, speeds[:, 3:4], np.nan)
        into[reached, 0] = speeds
    error, *_ = _measured(rows, q, zero, zero)
    bind = np.abs(error).max(axis=1) if solver.gives else zero
    out.bind[reached, 0] = np.where(bind > tol.NO_BIND_MM, bind, 0.0)
    out.reached[reached, 0] = True
    return out
