"""A page as a list of marks, in mm from its upper left corner, y down; what writes it out draws these and no more."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from math import acos, cos, hypot, pi, sin
from typing import Literal, get_args

Xy = tuple[float, float]
Paper = Literal["a3", "a4", "11x17", "letter"]
PAPERS: dict[Paper, Xy] = {
    "a3": (420.0, 297.0), "a4": (297.0, 210.0), "11x17": (431.8, 279.4), "letter": (279.4, 215.9),
}  # fmt: skip
"""Width and height as they lie to be read, mm: ISO 216, ANSI Y14.1."""
PAPER_NAMES: dict[Paper, str] = {"a3": "A3", "a4": "A4", "11x17": "11x17", "letter": "Letter"}
assert set(PAPERS) == set(PAPER_NAMES) == set(get_args(Paper))

HEAVY, MEDIUM, THIN, HAIR = 0.5, 0.35, 0.25, 0.13
"""Line widths, mm: ISO 128. Frames, the ground and what is cut; visible edges; hidden ones; dimensions and leaders."""


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
    """Text with its baseline at `at`; `size` is the height of the letters' body, mm. `upright`: it reads upward, turned
    a quarter about `at`."""

    text: str
    at: Xy
    size: float = 3.0
    anchor: Literal["start", "middle", "end"] = "start"
    bold: bool = False
    upright: bool = False


Mark = Stroke | Ring | Words
CENTER = (6.0, 1.2, 1.2, 1.2)
HIDDEN = (2.0, 1.0)
PHANTOM = (6.0, 1.2, 1.2, 1.2, 1.2, 1.2)


def line(*points: Xy, width: float = MEDIUM, dash: Sequence[float] = ()) -> Stroke:
    return Stroke(tuple(points), width, tuple(dash))


def box(left: float, top: float, wide: float, high: float, width: float = MEDIUM, fill: float | None = None) -> Stroke:
    corners = ((left, top), (left + wide, top), (left + wide, top + high), (left, top + high))
    return Stroke(corners, width, closed=True, fill=fill)


def area(points: Iterable[Xy], fill: float | None, width: float = MEDIUM, dash: Sequence[float] = ()) -> Stroke:
    return Stroke(tuple(points), width, tuple(dash), closed=True, fill=fill)


def hull(a: Xy, ra: float, b: Xy, rb: float) -> tuple[Xy, ...]:
    """The outline around two circles: a bracket, a tapered tube."""
    apart = hypot(b[0] - a[0], b[1] - a[1])
    if apart <= abs(ra - rb) + 1e-9:
        (x, y), r = (a, ra) if ra > rb else (b, rb)
        return tuple((x + r * cos(n * pi / 12), y + r * sin(n * pi / 12)) for n in range(24))
    ux, uy = (b[0] - a[0]) / apart, (b[1] - a[1]) / apart
    lean = acos((ra - rb) / apart)

    def arc(c: Xy, r: float, start: float, end: float) -> Iterator[Xy]:
        for n in range(9):
            turn = start + (end - start) * n / 8
            yield c[0] + r * (ux * cos(turn) - uy * sin(turn)), c[1] + r * (uy * cos(turn) + ux * sin(turn))

    return (*arc(a, ra, lean, 2 * pi - lean), *arc(b, rb, -lean, lean))


_NARROW, _BROAD = frozenset("ijlI.,:;'|!ft()/ 1-"), frozenset("mwMW@%")


def wide(text: str, size: float, bold: bool = False) -> float:
    """What the words take in either font, mm: never less than they do."""
    parts = sum(0.36 if c in _NARROW else 0.9 if c in _BROAD else 0.72 if c.isupper() else 0.58 for c in text)
    return parts * size * (1.06 if bold else 1.0)


def fitting(text: str, size: float, room: float, bold: bool = False) -> str:
    """The words, cut short where they would leave their room (mm)."""
    if wide(text, size, bold) <= room:
        return text
    while text and wide(text + "…", size, bold) > room:
        text = text[:-1]
    return text.rstrip() + "…"


def wrapped(text: str, size: float, room: float) -> list[str]:
    """The words in lines no wider than their room (mm)."""
    lines = [""]
    for word in text.split():
        longer = f"{lines[-1]} {word}".strip()
        if wide(longer, size) <= room:
            lines[-1] = longer
        else:
            lines.append(word)
    return lines
