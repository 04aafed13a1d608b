"""Where brackets go, as a shop marks it: stations and angles on the axle tube, stations and heights on a face, the
spacers to weld over, and distances between holes to jig by and to check with. At ride height, mm and degrees.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import atan2, degrees, dist, hypot
from typing import Literal

import numpy as np

from oak_lever.design.cutting import Bracket, FaceBase
from oak_lever.design.faults import Fault
from oak_lever.design.parts import Spot, across, parts_of
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.brackets import CutBracket, Plate, brackets_made, foot_of, in_chassis
from oak_lever.plates.truss import truss_feet, truss_made


@dataclass(frozen=True)
class Spotted:
    """A point to mark. `clock`: its angle about the axle tube's line, from straight up, + ahead (None on a face);
    `wheel`, `housing`: how far it is along the tube from the wheel's mounting face and from where the tube leaves the
    housing, where these are known; `under`: how far above the rail's underside, where rails are known (face)."""

    at: Point
    clock: float | None
    wheel: float | None
    housing: float | None
    under: float | None


@dataclass(frozen=True)
class PlateMarks:
    """A plate: both ends of its foot, on the face that is turned to the other plate; the one farther ahead, or higher,
    first."""

    part: str
    ends: tuple[Spotted, Spotted]


@dataclass(frozen=True)
class BracketMarks:
    """A bracket: its spacer, as long as the plates are apart when they are welded, and the joint's width after; the
    hole of its first mount, and how far its center is from the tube's line or from the face."""

    id: str
    mounts: tuple[str, ...]
    on: Literal["tube", "face"]
    spacer: float
    width: float
    hole: Spotted
    off: float
    plates: tuple[PlateMarks, PlateMarks]


@dataclass(frozen=True)
class HolesApart:
    """Two mounts by their names, and how far their holes are apart, mm."""

    a: str
    b: str
    apart: float


@dataclass(frozen=True)
class MarkOut:
    """Everything to mark; `pinion`: its angle, nose up, with which straight up is meant. `axle`, `frame`: holes of one
    body, to jig by. `truss`: the outsides of its sides at both its ends, right behind, right ahead, left behind, left
    ahead. `square`: between axle and frame, each pair of crossed diagonals in turn, alike on a truck that is
    square. `faults`: brackets and truss that can't be made as drawn."""

    brackets: tuple[BracketMarks, ...]
    pinion: float
    axle: tuple[HolesApart, ...]
    frame: tuple[HolesApart, ...]
    square: tuple[HolesApart, ...]
    truss: tuple[Spotted, ...]
    faults: tuple[Fault, ...]


def mark_out(design: Design) -> MarkOut:
    """Where everything goes that is welded."""
    made, faults = brackets_made(design)
    drawn = {one.id: one for one in design.brackets or ()}
    spots = _bolted(design)
    axle, frame = (tuple(_jig([spot for spot in spots if spot.on == on])) for on in ("axle", "frame"))
    return MarkOut(
        tuple(_bracket(design, one, drawn[one.id]) for one in made), design.axle.pinion.angle, axle,
        frame, tuple(_square(design, spots)), tuple(_spotted(design, at, True) for at in truss_feet(design)),
        (*faults, *truss_made(design)[1]),
    )  # fmt: skip


def _bolted(design: Design) -> list[Spot]:
    return [spot for spot in parts_of(design).spots if spot.holds]


def _jig(spots: Sequence[Spot]) -> Iterator[HolesApart]:
    return (HolesApart(a.name, b.name, dist(a.at, b.at)) for a, b in combinations(spots, 2))


def _square(design: Design, spots: Sequence[Spot]) -> Iterator[HolesApart]:
    """Of each link that has a mirror image: its axle end to the other's frame end, and the other way."""
    by_name, done = {spot.name: spot for spot in spots}, set[str]()
    for one, other in across(design).items():
        ends = [by_name.get(f"{name}.{end}") for name in (one, other) for end in ("axle", "frame")]
        if one in done or other == one or any(end is None for end in ends):
            continue
        done.add(other)
        a, b, c, d = (end for end in ends if end is not None)
        yield HolesApart(a.name, d.name, dist(a.at, d.at))
        yield HolesApart(c.name, b.name, dist(c.at, b.at))


def _bracket(design: Design, made: CutBracket, drawn: Bracket) -> BracketMarks:
    first = np.array(next(spot.at for spot in _bolted(design) if made.mounts[0] in (spot.name, spot.was)))
    apart = made.plates[1].origin - made.plates[0].origin
    inward = apart / np.linalg.norm(apart)
    ends = [_ends(design, plate, drawn, way * inward) for plate, way in zip(made.plates, (1.0, -1.0), strict=True)]
    face = drawn.base if isinstance(drawn.base, FaceBase) else None
    if face is None:
        off = hypot(first[0], first[2] - design.axle.tire_radius_loaded)
    else:
        normal = np.array(face.normal) / np.linalg.norm(face.normal)
        off = float(normal @ (first - np.array(face.at)))
    return BracketMarks(
        made.id, made.mounts, "tube" if face is None else "face", made.gap,
        made.gap - 2.0 * drawn.washer - drawn.shrink, _spotted(design, first, face is None), off, (ends[0], ends[1]),
    )  # fmt: skip


def _ends(design: Design, plate: Plate, drawn: Bracket, inward: Floats) -> PlateMarks:
    """`inward`: the unit way to the other plate."""
    face = drawn.base if isinstance(drawn.base, FaceBase) else None
    one, other = foot_of(plate, drawn.base)
    corners = [in_chassis(plate, flat) + plate.thickness / 2.0 * inward for flat in (one, other)]
    corners.sort(key=lambda at: (-round(at[0], 3), -at[2]))
    first, last = (_spotted(design, at, face is None) for at in corners)
    return PlateMarks(plate.part, (first, last))


def _spotted(design: Design, at: Floats, on_tube: bool) -> Spotted:
    x, y, z = (float(value) for value in at)
    axle, rails = design.axle, design.rails
    if not on_tube:
        return Spotted((x, y, z), None, None, None, z - rails.underside if rails else None)
    clock = degrees(atan2(x, z - axle.tire_radius_loaded))
    wheel = axle.wheel_faces / 2.0 - abs(y) if axle.wheel_faces is not None else None
    leaves = axle.housing_left if y > 0.0 else axle.housing_right
    housing = abs(y) - leaves if leaves is not None else None
    return Spotted((x, y, z), clock, wheel, housing, None)
