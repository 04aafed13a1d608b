"""A design as constraint rows: what each row measures, from which mounts, for one design or many.

A row is an error in mm that is zero at ride:

* a *distance* row: the length between a point of the axle and a point of the frame, less its length at ride
  (a link, a panhard bar, a rod of a Watts link);
* a *coordinate* row: one coordinate of a point of the axle, less its value at ride (sideways for a slider;
  fore-aft and up-down for the frame joint of a radius arm, whose bushing gives sideways).

A Watts link adds one unknown, the angle of its bell crank, and two distance rows that end on the crank.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.types import Design, RadiusArm, Slider, Watts

Floats = NDArray[np.float64]

DISTANCE = -1
FORE_AFT, SIDEWAYS, UPRIGHT = 0, 1, 2


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


@dataclass(frozen=True)
class Layout:
    """What designs of one kind share: mount names, rows, and on which body the bell crank turns (None: none)."""

    mounts: tuple[str, ...]
    rows: tuple[Row, ...]
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
    def axis(self) -> NDArray[np.int64]:
        return np.array([row.axis for row in self.rows], dtype=np.int64)

    @cached_property
    def hand(self) -> Floats:
        return np.array([row.hand for row in self.rows], dtype=float)


@dataclass(frozen=True)
class Mechanism:
    """Designs of one layout, ready to be moved.

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
        return np.ascontiguousarray(points - self._center[:, None, :])

    @cached_property
    def frame(self) -> Floats:
        """(D, M, 3) each row's point on the frame."""
        return np.ascontiguousarray(self.mounts[:, [row.on_frame for row in self.layout.rows]])

    @cached_property
    def target(self) -> Floats:
        """(D, M) length of each distance row at ride, mm; 0 for coordinate rows."""
        span = self.body + self._center[:, None, :] - self.frame
        swing = self.layout.hand[None, :] * self.arm[:, None]
        sign = 1.0 if self.layout.crank_on == "axle" else -1.0
        span[..., 1] -= sign * swing * np.sin(self.tilt)[:, None]
        span[..., 2] += sign * swing * np.cos(self.tilt)[:, None]
        return np.where(self.layout.axis == DISTANCE, np.sqrt((span**2).sum(-1)), 0.0)

    @cached_property
    def reach(self) -> Floats:
        """(D,) the farthest any row pulls from the axle's center, mm: what makes an angle comparable to a length."""
        far: Floats = np.sqrt((self.body**2).sum(-1)).max(axis=1, initial=1.0)
        return far

    @cached_property
    def _center(self) -> Floats:
        return np.stack([np.zeros_like(self.radius), np.zeros_like(self.radius), self.radius], axis=-1)

    def with_mounts(self, mounts: Floats) -> "Mechanism":
        """The first design with other mounts, (D, K, 3); everything else repeated for each."""
        count = len(mounts)
        return Mechanism(self.layout, mounts, *(np.repeat(v[:1], count) for v in (self.radius, self.arm, self.tilt)))


def mechanism_of(design: Design) -> Mechanism:
    """One design as a mechanism (D = 1)."""
    layout, mounts = _Sheet().read(design)
    crank = design.lateral if isinstance(design.lateral, Watts) else None
    return Mechanism(
        layout,
        np.array(mounts, dtype=float).reshape(1, -1, 3),
        np.array([design.axle.tire_radius_loaded]),
        np.array([crank.arm if crank else 0.0]),
        np.array([np.radians(crank.tilt) if crank else 0.0]),
    )


class _Sheet:
    """Collects mounts and rows in the file's order."""

    def __init__(self) -> None:
        self.names: list[str] = []
        self.points: list[tuple[float, float, float]] = []
        self.rows: list[Row] = []

    def read(self, design: Design) -> tuple[Layout, list[tuple[float, float, float]]]:
        for link in design.links:
            if isinstance(link, RadiusArm):
                self._radius_arm(link)
            else:
                self._bar(
                    link.id, self._add(f"{link.id}.axle", link.axle.at), self._add(f"{link.id}.frame", link.frame.at)
                )
        crank_on = self._lateral(design)
        return Layout(tuple(self.names), tuple(self.rows), crank_on), self.points

    def _add(self, name: str, point: tuple[float, float, float]) -> int:
        self.names.append(name)
        self.points.append(point)
        return len(self.names) - 1

    def _bar(self, name: str, on_axle: int, on_frame: int, hand: int = 0) -> None:
        self.rows.append(Row(name, DISTANCE, on_axle, on_frame, hand))

    def _radius_arm(self, arm: RadiusArm) -> None:
        for index, bolt in enumerate(arm.axle.at):
            self._add(f"{arm.id}.axle.{index}", bolt)
        eye = self._add(f"{arm.id}.frame", arm.frame.at)
        self.rows += [Row(arm.id, FORE_AFT, eye, eye), Row(arm.id, UPRIGHT, eye, eye)]

    def _lateral(self, design: Design) -> str | None:
        lateral = design.lateral
        if lateral is None:
            return None
        if isinstance(lateral, Slider):
            eye = self._add("slider.axle", lateral.axle.at)
            self.rows.append(Row("slider", SIDEWAYS, eye, eye))
            return None
        if isinstance(lateral, Watts):
            return self._watts(lateral)
        self._bar("panhard", self._add("panhard.axle", lateral.axle.at), self._add("panhard.frame", lateral.frame.at))
        return None

    def _watts(self, watts: Watts) -> str:
        pivot = self._add("watts.pivot", watts.pivot.at)
        for name, hand, mount in (("left", 1, watts.left), ("right", -1, watts.right)):
            end = self._add(f"watts.{name}", mount.at)
            ends = (pivot, end) if watts.pivot.on == "axle" else (end, pivot)
            self._bar(f"watts-{name}", *ends, hand=hand)
        return watts.pivot.on
