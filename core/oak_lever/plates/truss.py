"""A truss over the axle tube and its housing: two sides, the strips of its top, and its ends, cut from plate."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import acos, asin, dist, hypot, pi, sqrt

import numpy as np

from oak_lever.design.axle import HOUSING_TUBES
from oak_lever.design.cutting import Truss
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.materials import entry_of
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.alike import alike
from oak_lever.plates.brackets import Plate
from oak_lever.plates.outline import Arc, Flat, Line, Outline, Piece, circle, joined

WEB_THICK = 2.0
"""The least metal over the tube and over the housing, in thicknesses of its plate."""
_X, _Y, _Z = np.eye(3)


@remembered(8)
def truss_made(design: Design) -> tuple[tuple[Plate, ...], tuple[Fault, ...]]:
    """Its plates: sides (behind, ahead), top strips and ends (from right to left); or what is wrong with it. Neither
    where there is none."""
    if design.truss is None:
        return (), ()
    try:
        plates = list(_plates(design, design.truss))
    except Refused as refused:
        return (), tuple(refused.faults)
    found: list[Plate] = []
    for plate in plates:
        like = next((one.part for one in found if one.same_as is None and alike(one, plate)), None)
        found.append(replace(plate, same_as=like))
    return tuple(found), ()


def truss_feet(design: Design) -> list[Floats]:
    """Where the outsides of its sides come down on the tube at its ends, mm, chassis axes at ride: right behind, right
    ahead, left behind, left ahead. None where it can't be made."""
    plates, _ = truss_made(design)
    truss = design.truss
    if not plates or truss is None:
        return []
    seat = _seat(design)
    x = [truss.ahead + side * truss.width / 2.0 for side in (-1.0, 1.0)]
    return [
        np.array([at, y, seat.z + sqrt(seat.tube**2 - at**2)]) for y in (truss.top[0][0], truss.top[-1][0]) for at in x
    ]  # fmt: skip


def truss_spaces(design: Design) -> list[Floats]:
    """Corners (8, 3) about each bay between two corners of its top, from the tube's middle up to the outside of the
    strip, mm, chassis axes at ride."""
    truss = design.truss
    if truss is None:
        return []
    z = design.axle.tire_radius_loaded
    x = [truss.ahead + side * truss.width / 2.0 for side in (-1.0, 1.0)]
    found = []
    for one, other in pairwise(truss.top):
        thick = truss.plate * dist(one, other) / (other[0] - one[0])
        bay = [(y, up) for y, high in (one, other) for up in (z, high + thick)]
        found.append(np.array([(at, y, up) for at in x for y, up in bay]))
    return found


@dataclass(frozen=True)
class _Seat:
    """What it stands on: the tube's radius and the height of its middle, the housing's middle and radius."""

    tube: float
    z: float
    housing: tuple[float, float, float]
    radius: float


def _seat(design: Design) -> _Seat:
    axle = design.axle
    z, tube = axle.tire_radius_loaded, axle.tube_diameter / 2.0
    if axle.housing:
        return _Seat(tube, z, axle.housing.at, axle.housing.diameter / 2.0)
    return _Seat(tube, z, (0.0, axle.pinion.joint[1], z), HOUSING_TUBES * tube)


def _refused(key: str, words: str) -> Refused:
    return Refused([Fault(f"truss.{key}" if key else "truss", words)])


def _plates(design: Design, truss: Truss) -> Iterator[Plate]:
    seat = _seat(design)
    density = entry_of(design, truss.material, "truss.material").density

    def plate(part: str, outline: Outline, origin: Sequence[float], u: Floats, v: Floats) -> Plate:
        mass = outline.area * truss.plate * density * 1e-9
        return Plate(part, outline, (), truss.plate, truss.material, None, mass, np.array(origin), u, v)

    if truss.width <= 2.0 * truss.plate:
        raise _refused("width", "must be more than the truss's two sides are thick")
    for n, way in enumerate((-1.0, 1.0), 1):
        x = truss.ahead + way * (truss.width - truss.plate) / 2.0
        yield plate(f"truss-side-{n}", _side(truss, seat, x), (x, 0.0, seat.z), _Y, _Z)
    for n, (one, other) in enumerate(pairwise(truss.top), 1):
        along = np.array([0.0, other[0] - one[0], other[1] - one[1]])
        long = float(np.linalg.norm(along))
        half = truss.width / 2.0
        corners = [(0.0, -half), (long, -half), (long, half), (0.0, half)]
        v = np.cross(_X, along / long)  # out of the strip, upward
        yield plate(
            f"truss-top-{n}", _closed([Line(a, b) for a, b in _around(corners)]),
            (np.array([truss.ahead, *one]) + v * truss.plate / 2.0).tolist(), along / long, -_X,
        )  # fmt: skip
    for n, (y, high) in enumerate((truss.top[0], truss.top[-1]), 1):
        inward = truss.plate / 2.0 if n == 1 else -truss.plate / 2.0
        origin = (truss.ahead, y + inward, seat.z)
        yield plate(f"truss-end-{n}", _end(truss, seat, high), origin, _X, _Z)


def _around(corners: Sequence[Flat]) -> Iterator[tuple[Flat, Flat]]:
    return zip(corners, [*corners[1:], corners[0]], strict=True)


def _closed(pieces: Sequence[Piece]) -> Outline:
    return Outline(tuple(joined(pieces)))


def _side(truss: Truss, seat: _Seat, x: float) -> Outline:
    """In y and height over the tube's middle: its top as drawn, coped to the tube, and to the housing where its plane
    meets that."""
    if abs(x) + truss.plate / 2.0 >= seat.tube:
        raise _refused("width", "the truss's sides stand beside the tube; they must come down on it")
    low = sqrt(seat.tube**2 - x**2)
    top = [(y, z - seat.z) for y, z in truss.top]
    least = WEB_THICK * truss.plate
    for n, (_, z) in enumerate(top):
        if z - low < least:
            over = f"{z - low:.1f} mm over" if z > low else "below the top of"
            raise _refused(
                f"top[{n}]", f"the truss's corner {n + 1} stands {over} the tube; {least:g} mm over it is the least"
            )
    (right, left), (at_x, at_y, at_z) = (top[0][0], top[-1][0]), seat.housing
    off = abs(x - at_x)
    foot: list[Piece] = [Line((right, low), (left, low))]
    if off < seat.radius:
        radius, middle = sqrt(seat.radius**2 - off**2), (at_y, at_z - seat.z)
        _clear_of(top, middle, radius, least)
        foot = list(_coped(right, left, low, middle, radius))
    down = [(left, top[-1][1]), *reversed(top[:-1]), (right, low)]
    edges = [Line(a, b) for a, b in pairwise([(left, low), *down])]
    return _closed([*foot, *edges])


def _coped(right: float, left: float, low: float, middle: Flat, radius: float) -> Iterator[Piece]:
    """The foot from right to left, over the housing where that stands above the tube."""
    y, z = middle
    rise = low - z
    if rise >= radius:
        yield Line((right, low), (left, low))
        return
    half = radius if rise < 0.0 else sqrt(radius**2 - rise**2)
    start, end = y - half, y + half
    if not (right < start and end < left):
        raise _refused("top", "the truss ends on the housing; let it reach past it onto the tube at both sides")
    turn = asin(max(rise / radius, 0.0))
    arc = Arc(circle(middle, radius), pi - turn, turn)  # over the housing, cut out of the plate
    yield Line((right, low), (start, low))
    if rise < 0.0:
        yield Line((start, low), arc.start)
    yield arc
    if rise < 0.0:
        yield Line(arc.end, (end, low))
    yield Line((end, low), (left, low))


def _clear_of(top: Sequence[Flat], middle: Flat, radius: float, least: float) -> None:
    """The top stays over the housing."""
    for n, (a, b) in enumerate(pairwise(top)):
        along = (b[0] - a[0], b[1] - a[1])
        long = hypot(*along)
        part = ((middle[0] - a[0]) * along[0] + (middle[1] - a[1]) * along[1]) / long**2
        share = min(max(part, 0.0), 1.0)
        near = (a[0] + share * along[0], a[1] + share * along[1])
        over = a[0] <= middle[0] <= b[0] and (middle[1] - a[1]) * along[0] > (middle[0] - a[0]) * along[1]
        if over or dist(near, middle) - radius < least:
            raise _refused(
                f"top[{n}]", f"the truss's top comes nearer to the housing than {least:g} mm, or goes through it"
            )


def _end(truss: Truss, seat: _Seat, high: float) -> Outline:
    """Between the sides, in x from its middle and height over the tube's middle: coped to the tube."""
    half = truss.width / 2.0 - truss.plate
    up = high - seat.z
    tube = circle((-truss.ahead, 0.0), seat.tube)
    from_, to = (acos((x + truss.ahead) / seat.tube) for x in (-half, half))
    corners = [(half, up), (-half, up)]
    seat_arc = Arc(tube, from_, to)
    return _closed([seat_arc, Line(seat_arc.end, corners[0]), Line(*corners), Line(corners[1], seat_arc.start)])
