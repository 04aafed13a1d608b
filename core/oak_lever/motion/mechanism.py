"""A design as constraint rows: what each row measures, from which mounts, for one design or many.

A row is an error in mm that is zero at ride:

* a *distance* row: the length between a point of the axle and a point of the frame, less its length at ride
  (a link, a panhard bar, a rod of a Watts link);
* a *coordinate* row: one coordinate of a point of the axle, less its value at ride (sideways for a slider;
  fore-aft and up-down for the frame joint of a radius arm, whose bushing gives sideways).

A Watts link adds one unknown, the angle of its bell crank, and two distance rows that end on the crank.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oak_lever import tolerances as tol
from oak_lever.design.links import AnyLink, Lateral, Watts
from oak_lever.design.parts import DISTANCE, Body, End, bars_of, parts_of
from oak_lever.design.types import Design

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


class Row(NamedTuple):
    """One constraint: its name, what it measures, and the mounts (by index) it is measured between.

    `hand` is +1 or -1 where an end of the row sits on the upper or lower end of the bell crank, else 0;
    the mount of that end is then the crank's pivot.
    """

    name: str
    axis: int
    on_axle: int
    on_frame: int
    hand: int = 0


class BarEnd(NamedTuple):
    """An end of a bar: the mounts it lies midway between (one twice, mostly); `hand`, as in `Row`, for a crank end;
    the axis of its bolt at ride, of no certain length, and its joint's catalog entry, where the file has them."""

    first: int
    second: int
    hand: int
    bolt: tuple[float, float, float] | None
    joint: str | None


class Bar(NamedTuple):
    """A link, arm, bar or rod between two joints; `rigid`: bolted to the axle (a radius arm)."""

    name: str
    kind: str
    rigid: bool
    axle: BarEnd
    frame: BarEnd


@dataclass(frozen=True)
class Layout:
    """What designs of one kind share: mount names, rows, bars, and on which body the bell crank turns (None: none)."""

    mounts: tuple[str, ...]
    rows: tuple[Row, ...]
    bars: tuple[Bar, ...]
    crank_on: str | None

    @property
    def unknowns(self) -> int:
        """Freedoms left once travel and articulation are given: x, y, pitch, yaw, and the crank's angle."""
        return 4 if self.crank_on is None else 5

    @property
    def gives(self) -> bool:
        """More constraints than freedoms: solved for the least give."""
        return len(self.rows) > self.unknowns

    @cached_property
    def axis(self) -> Ints:
        return np.array([row.axis for row in self.rows], dtype=np.int64)

    @cached_property
    def hand(self) -> Floats:
        return np.array([row.hand for row in self.rows], dtype=float)


@dataclass(frozen=True, eq=False)
class Mechanism:
    """Designs of one layout, ready to be moved. Each is itself alone: what was worked out of one is remembered by it.

    Shapes: ``mounts`` (D, K, 3) mm in the chassis frame at ride; ``radius`` (D,) height of the axle's center
    at ride, mm; ``arm`` (D,) mm and ``tilt`` (D,) radians of the bell crank (zeros without one).
    """

    layout: Layout
    mounts: Floats
    radius: Floats
    arm: Floats
    tilt: Floats

    @cached_property
    def body(self) -> Floats:
        """(D, M, 3) each row's point on the axle, from the axle's center at ride."""
        points = self.mounts[:, [row.on_axle for row in self.layout.rows]]
        return np.ascontiguousarray(points - self.center[:, None, :])

    @cached_property
    def frame(self) -> Floats:
        """(D, M, 3) each row's point on the frame."""
        return np.ascontiguousarray(self.mounts[:, [row.on_frame for row in self.layout.rows]])

    @cached_property
    def target(self) -> Floats:
        """(D, M) length of each distance row at ride, mm; 0 for coordinate rows."""
        span = self.body + self.center[:, None, :] - self.frame
        sign = 1.0 if self.layout.crank_on == "axle" else -1.0
        span += sign * self.swing(self.layout.hand)
        return np.where(self.layout.axis == DISTANCE, np.sqrt((span**2).sum(-1)), 0.0)

    @cached_property
    def joint_entries(self) -> dict[str, str | None]:
        """The entry of the joint catalog that the file says for each joint of a bar, None where it says none."""
        return {f"{bar.name}.{end}": getattr(bar, end).joint for bar in self.layout.bars for end in ("axle", "frame")}

    @cached_property
    def reach(self) -> Floats:
        """(D,) the farthest any row pulls from the axle's center, mm: what makes an angle comparable to a length."""
        far: Floats = np.sqrt((self.body**2).sum(-1)).max(axis=1, initial=1.0)
        return far

    @cached_property
    def center(self) -> Floats:
        """(D, 3) the axle's center at ride."""
        return np.stack([np.zeros_like(self.radius), np.zeros_like(self.radius), self.radius], axis=-1)

    def swing(self, hand: Floats) -> Floats:
        """(D, len(hand), 3) from the crank's pivot to its end on that hand at ride; nothing where the hand is 0."""
        long = hand * self.arm[:, None]
        sine, cosine = np.sin(self.tilt)[:, None], np.cos(self.tilt)[:, None]
        return np.stack([np.zeros_like(long), -long * sine, long * cosine], axis=-1)

    @cached_property
    def ends(self) -> tuple[Floats, Floats]:
        """(D, B, 3) each: where the bars' joints stand at ride, those on the axle and those on the frame."""
        return self._ends([bar.axle for bar in self.layout.bars]), self._ends([bar.frame for bar in self.layout.bars])

    @cached_property
    def bolts(self) -> Floats:
        """(D, B, 2, 3) unit axes of the bolts at the bars' axle and frame joints at ride; where the file gives none,
        horizontal and square to the link in plan; across, along y, for an upright link."""
        span = self.ends[1] - self.ends[0]
        flat = np.hypot(span[..., 0], span[..., 1])
        plain = np.zeros_like(span)
        upright = flat < tol.PLUMB_MM
        with np.errstate(invalid="ignore", divide="ignore"):
            plain[..., 0], plain[..., 1] = -span[..., 1] / flat, span[..., 0] / flat
        plain[upright] = (0.0, 1.0, 0.0)
        pins = np.repeat(plain[:, :, None, :], 2, axis=2)
        for b, bar in enumerate(self.layout.bars):
            for end, given in enumerate((bar.axle.bolt, bar.frame.bolt)):
                if given is not None:
                    bolt = np.array(given) / max(map(abs, given))
                    pins[:, b, end] = bolt / np.linalg.norm(bolt)
        return pins

    def _ends(self, ends: list[BarEnd]) -> Floats:
        at = self.mounts[:, [end.first for end in ends]]
        if any(end.second != end.first for end in ends):
            at = (at + self.mounts[:, [end.second for end in ends]]) / 2
        if any(end.hand for end in ends):
            at += self.swing(np.array([float(end.hand) for end in ends]))
        return at

    def with_mounts(self, mounts: Floats) -> "Mechanism":
        """The first design with other mounts, (D, K, 3); everything else repeated for each."""
        count = len(mounts)
        return Mechanism(self.layout, mounts, *(np.repeat(v[:1], count) for v in (self.radius, self.arm, self.tilt)))


class _Links:
    """What of a design moves the axle, equal to that of another where the two move alike."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self._key: tuple[tuple[AnyLink, ...], Lateral | None, float] = (
            design.links, design.lateral, design.axle.tire_radius_loaded,
        )  # fmt: skip

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Links) and self._key == other._key


def mechanism_of(design: Design) -> Mechanism:
    """One design as a mechanism (D = 1); the same one for designs that differ only in what does not move the axle."""
    return _mechanism(_Links(design))


@lru_cache(maxsize=64)
def _mechanism(links: _Links) -> Mechanism:
    design = links.design
    parts = parts_of(design)
    spots = [spot for spot in parts.spots if spot.holds]
    crank = design.lateral if isinstance(design.lateral, Watts) else None
    index = {spot.name: n for n, spot in enumerate(spots)}
    layout = Layout(
        tuple(index),
        tuple(_row(hold.name, hold.axis, hold.a, hold.b, index) for hold in parts.holds),
        tuple(_bar(body, index) for body in bars_of(parts)),
        crank.pivot.on if crank else None,
    )
    return Mechanism(
        layout,
        np.array([spot.at for spot in spots], dtype=float).reshape(1, -1, 3),
        np.array([design.axle.tire_radius_loaded]),
        np.array([crank.arm if crank else 0.0]),
        np.array([np.radians(crank.tilt) if crank else 0.0]),
    )


def _row(name: str, axis: int, a: End, b: End, index: dict[str, int]) -> Row:
    return Row(name, axis, index[a.of[0]], index[b.of[0]], a.hand or b.hand)


def _bar(body: Body, index: dict[str, int]) -> Bar:
    ends = (BarEnd(index[end.of[0]], index[end.of[-1]], end.hand, end.bolt, end.joint) for end in (body.a, body.b))
    return Bar(body.id, body.kind, body.shape == "arm", *ends)
