"""A page as a list of marks, in mm from its upper left corner, y down; what writes it out draws these and no more."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

A3_LANDSCAPE = (420.0, 297.0)
Xy = tuple[float, float]
HEAVY, MEDIUM, THIN, HAIR = 0.5, 0.35, 0.2, 0.13
"""Line widths, mm, each about 0.7 of the one before: ISO 128."""


@dataclass(frozen=True)
class Stroke:
    """A polyline; `fill` is a gray from 0 (black) to 1 (white), for a closed one."""

    points: tuple[Xy, ...]
    width: float = MEDIUM
    dash: tuple[float, ...] = ()
    closed: bool = False
    fill: float | None = None


@dataclass(frozen=True)
class Ring:
    center: Xy
    radius: float
    width: float = MEDIUM
    dash: tuple[float, ...] = ()
    fill: float | None = None


@dataclass(frozen=True)
class Words:
    """Text with its baseline at `at`; `size` is the height of the letters' body, mm."""

    text: str
    at: Xy
    size: float = 3.0
    anchor: Literal["start", "middle", "end"] = "start"
    bold: bool = False


Mark = Stroke | Ring | Words
CENTER = (6.0, 1.2, 1.2, 1.2)
HIDDEN = (2.0, 1.0)


def line(*points: Xy, width: float = MEDIUM, dash: Sequence[float] = ()) -> Stroke:
    return Stroke(tuple(points), width, tuple(dash))


def box(left: float, top: float, wide: float, high: float, width: float = MEDIUM, fill: float | None = None) -> Stroke:
    corners = ((left, top), (left + wide, top), (left + wide, top + high), (left, top + high))
    return Stroke(corners, width, closed=True, fill=fill)
