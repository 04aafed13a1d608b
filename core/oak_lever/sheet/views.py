"""The three views of a design at ride, in projection on paper, and the parts in them as they stand on the floor."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import cos, pi, sin, sqrt
from typing import Literal

import numpy as np

from oak_lever.design.axle import Rails
from oak_lever.design.parts import Body, Spot, parts_of
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.plates.brackets import Plate, brackets_made, in_chassis
from oak_lever.plates.truss import truss_made
from oak_lever.sheet.page import (
    CENTER,
    HAIR,
    HEAVY,
    HIDDEN,
    MEDIUM,
    PHANTOM,
    THIN,
    Mark,
    Ring,
    Stroke,
    Xy,
    area,
    hull,
    line,
)

Name = Literal["side", "top", "rear"]
TITLES: dict[Name, str] = {"side": "SIDE, FROM THE LEFT", "top": "TOP", "rear": "REAR, LOOKING FORWARD"}
STEEL, DEEP, RUBBER, WHITE = 0.9, 0.8, 0.95, 1.0
_RAIL_WALL = 7.0
_CRANK = 26.0


@dataclass(frozen=True)
class View:
    """One projection: the front of the truck is to the left in the side and the top view. `box`: left, top, right and
    bottom of its room on the page, mm."""

    name: Name
    to: Callable[[Point], Xy]
    scale: float
    box: tuple[float, float, float, float]


_KEPT = 0.3
"""How much of the tires the top view keeps, from their inner faces, before they are broken off."""


def top_half(design: Design) -> float:
    """How far out the top view reaches: to where its tires are broken off, or to the outermost mount."""
    axle = design.axle
    tires = axle.track / 2 + (_KEPT - 0.5) * axle.tire_width
    return max([tires, *(abs(spot.at[1]) + 60 for spot in parts_of(design).spots)])


def extent_of(design: Design) -> tuple[Point, Point]:
    """The lowest and highest corner of all that is drawn, mm in the chassis."""
    axle, r = design.axle, design.axle.tire_diameter / 2
    half = axle.track / 2 + axle.tire_width / 2 + 20
    points = [spot.at for spot in parts_of(design).spots]
    rails = rails_of(design)
    top = max([axle.tire_radius_loaded + r, *(p[2] + 60 for p in points), rails.underside + rails.depth])
    bottom = min([0.0, *(p[2] - 60 for p in points)])
    along = [(p[0] - 130, p[0] + 130) for p in points]
    across = max([half, *(abs(p[1]) + 60 for p in points)])
    behind = min([-r - 30, *(low for low, _ in along)])
    return (behind, -across, bottom), (max([r + 30, *(high for _, high in along)]), across, top + 20)


def rails_of(design: Design) -> Rails:
    """The design's rails; without any, rails where its frame mounts would need them."""
    if design.rails is not None:
        return design.rails
    high = design.axle.tire_radius_loaded + design.travel.bump + design.axle.tube_diameter
    return Rails(outside_width=860.0, depth=140.0, flange=60.0, underside=min(high, 650.0))


def drawn(design: Design, view: View) -> Iterator[Mark]:
    """Everything that stands in a view, the far things first."""
    if view.name != "top":
        yield from _ground(design, view)
    yield from _centerlines(design, view)
    yield from _rails(design, view)
    if view.name == "side":
        yield from _tires(design, view)
    if view.name == "rear":
        yield from _bodies(design, view, ahead=True)
        yield from _tires(design, view)
    if view.name == "top":
        yield from _tires(design, view)
    yield from _brackets(design, view)
    yield from _housing(design, view)
    yield from _bodies(design, view, ahead=False if view.name == "rear" else None)
    if view.name == "rear":
        yield from _behind_the_housing(design, view)
    for spot in mounts(design):
        x, y = view.to(spot.at)
        yield line((x - 1.6, y), (x + 1.6, y), width=HAIR)
        yield line((x, y - 1.6), (x, y + 1.6), width=HAIR)


def _ground(design: Design, view: View) -> Iterator[Mark]:
    left, _, right, _ = view.box
    y = view.to((0.0, 0.0, 0.0))[1]
    yield line((left, y), (right, y), width=HEAVY)
    for n in range(int((right - left) / 4)):
        yield line((left + 4 * n + 2.4, y + 0.4), (left + 4 * n, y + 2.4), width=HAIR)


def _centerlines(design: Design, view: View) -> Iterator[Mark]:
    left, top, right, bottom = view.box
    x, y = view.to((0.0, 0.0, design.axle.tire_radius_loaded))
    yield line((x, top), (x, bottom), width=HAIR, dash=CENTER)
    yield line((left, y), (right, y), width=HAIR, dash=CENTER)


def _tires(design: Design, view: View) -> Iterator[Mark]:
    axle = design.axle
    r, z, half = axle.tire_diameter / 2, axle.tire_radius_loaded, axle.tire_width / 2
    if view.name == "side":
        for part, dash in ((1.0, PHANTOM), (0.56, PHANTOM)):
            flat = -min(z, r) if part == 1.0 else -r * part
            points = [(r * part * sin(n * pi / 60), r * part * -cos(n * pi / 60)) for n in range(121)]
            yield area((view.to((x, 0.0, z + max(y, flat))) for x, y in points), None, THIN, dash)
        return
    place = _across(view, z)
    for hand in (1, -1):
        y = hand * axle.track / 2
        if view.name == "top":
            out, inn = y + hand * half * (2 * _KEPT - 1), y - hand * half
            across = [(r, 0.32), (r * 0.97, 0.0), (-r * 0.97, 0.0), (-r, 0.32)]
            edge = [(-r, 1.0), (-r * 0.2, 1.0), (-r * 0.1, 1.12), (r * 0.1, 0.88), (r * 0.2, 1.0), (r, 1.0)]
            corners = [place(reach, inn + part * (out - inn)) for reach, part in (*across, *edge)]
            grooves = [(-r * 0.985, r * 0.985, inn + 0.62 * (out - inn))]
        else:
            sides = [(r, 0.84), (r * 0.93, 1.0), (-z * 0.9, 1.0), (-z, 0.92)]
            profile = [*sides, *((reach, -part) for reach, part in reversed(sides))]
            corners = [place(reach, y + half * part) for reach, part in profile]
            grooves = [(-z * 0.97, r * 0.985, y + part * half) for part in (-0.5, -0.17, 0.17, 0.5)]
        yield area((view.to(p) for p in corners), RUBBER, MEDIUM)
        for low, high, out in grooves:
            yield line(view.to(place(low, out)), view.to(place(high, out)), width=HAIR)


def _across(view: View, z: float) -> Callable[[float, float], Point]:
    """From a reach (up in the rear view, ahead in the top view) and a distance to the left, to a chassis point."""
    if view.name == "rear":
        return lambda reach, out: (0.0, out, z + reach)
    return lambda reach, out: (reach, out, z)


def _rails(design: Design, view: View) -> Iterator[Mark]:
    rails = rails_of(design)
    (behind, _, _), (ahead, _, _) = extent_of(design)
    under, over = rails.underside, rails.underside + rails.depth
    if view.name == "side":
        yield from _broken(view, behind, ahead, lambda x, w: (x, 0.0, under + w * rails.depth))
        for z in (under + _RAIL_WALL, over - _RAIL_WALL):
            yield line(view.to((behind, 0.0, z)), view.to((ahead, 0.0, z)), width=THIN, dash=HIDDEN)
        return
    for hand in (1, -1):
        y, inside, web = (hand * (rails.outside_width / 2 - d) for d in (0.0, rails.flange, _RAIL_WALL))
        if view.name == "top":
            yield from _broken(view, behind, ahead, lambda x, w, y=y, i=inside: (x, y + w * (i - y), 0.0))  # type: ignore[misc]
            yield line(view.to((behind, web, 0.0)), view.to((ahead, web, 0.0)), width=THIN, dash=HIDDEN)
            continue
        low, high = under + _RAIL_WALL, over - _RAIL_WALL
        section = [(inside, over), (y, over), (y, under), (inside, under), (inside, low), (web, low), (web, high),
                   (inside, high)]  # fmt: skip
        yield area((view.to((0.0, a, b)) for a, b in section), DEEP, HEAVY)


def _broken(view: View, behind: float, ahead: float, at: Callable[[float, float], Point]) -> Iterator[Mark]:
    """A rail between its two edges, its ends broken off."""

    def cut(x: float, edges: tuple[float, float, float, float]) -> list[Xy]:
        points = [view.to(at(x, w)) for w in edges]
        return [(px + shift, py) for (px, py), shift in zip(points, (0.0, -1.2, 1.2, 0.0), strict=True)]

    yield area([*cut(behind, (0.0, 0.4, 0.6, 1.0)), *cut(ahead, (1.0, 0.6, 0.4, 0.0))], STEEL, MEDIUM)


def _housing(design: Design, view: View) -> Iterator[Mark]:
    axle, z, s = design.axle, design.axle.tire_radius_loaded, view.scale
    t, bowl = axle.tube_diameter / 2, min(axle.tire_diameter * 0.17, z * 0.42)
    joint = axle.pinion.joint
    center: Point = (0.0, joint[1], z)
    nose: Point = tuple(c + 0.86 * (j - c) for c, j in zip(center, joint, strict=True))  # type: ignore[assignment]
    c, flange = view.to(center), axle.track / 2 - axle.tire_width * 0.62
    if view.name == "side":
        yield area(hull(c, bowl * 0.72 / s, view.to(nose), t * 0.85 / s), STEEL)
        yield Ring(c, bowl / s, MEDIUM, fill=STEEL)
        yield Ring(c, bowl * 0.82 / s, HAIR)
        yield Ring(c, t / s, MEDIUM, fill=DEEP)
        yield from _yoke(view, joint)
        return
    place = _across(view, z)
    for low, high, half in (
        (-flange, flange, t),
        *((h * flange - 14, h * flange + 14, max(t * 1.9, 70)) for h in (1, -1)),
    ):
        tube = ((half, low), (half, high), (-half, high), (-half, low))
        yield area((view.to(place(a, b)) for a, b in tube), STEEL if half == t else DEEP)
    if view.name == "top":
        yield area(hull(c, bowl * 0.72 / s, view.to(nose), t * 0.85 / s), STEEL)
    yield Ring(c, bowl / s, MEDIUM, fill=STEEL)
    if view.name == "top":
        yield from _yoke(view, joint)
        return
    yield Ring(c, bowl * 0.8 / s, HAIR)
    for n in range(10):
        turn = n * pi / 5
        yield Ring((c[0] + bowl * 0.9 / s * cos(turn), c[1] + bowl * 0.9 / s * sin(turn)), 0.35, HAIR, fill=0.0)


def _yoke(view: View, joint: Point) -> Iterator[Mark]:
    (x, y), r = view.to(joint), 38.0 / view.scale
    yield Ring((x, y), r, MEDIUM, fill=WHITE)
    yield line((x - r, y), (x + r, y), width=HAIR)
    yield line((x, y - r), (x, y + r), width=HAIR)


def _brackets(design: Design, view: View) -> Iterator[Mark]:
    """From the joints of links and bars to the steel that holds them: plates and truss where they are drawn."""
    made, _ = brackets_made(design)
    held = {mount for bracket in made for mount in bracket.mounts}
    truss, _ = truss_made(design)
    for plate in (*truss, *(plate for bracket in made for plate in bracket.plates)):
        yield from _plate(view, plate)
    parts, axle, rails = parts_of(design), design.axle, rails_of(design)
    ends = {body.id for body in parts.bodies if body.shape in ("link", "arm")}
    for spot in parts.spots:
        if not spot.holds or spot.part not in ends or held & {spot.name, spot.was}:
            continue
        on_axle = spot.on == "axle"
        steel: Point = (0.0, spot.at[1], axle.tire_radius_loaded) if on_axle else _on_rail(spot.at, rails)
        large = axle.tube_diameter * 0.5 if on_axle else min(rails.depth * 0.42, 60.0)
        yield area(hull(view.to(spot.at), 36 / view.scale, view.to(steel), large / view.scale), DEEP, HAIR)


_OFF_MM = 0.5
"""Plates are drawn in lines within this of their outline."""


def _plate(view: View, plate: Plate) -> Iterator[Mark]:
    """Both its faces."""
    across = np.cross(plate.u, plate.v) * plate.thickness / 2.0
    corners = [in_chassis(plate, flat) for flat in plate.outline.points(_OFF_MM)]
    for side in (-1.0, 1.0):
        yield area([view.to(tuple((at + side * across).tolist())) for at in corners], DEEP, HAIR)


def _on_rail(at: Point, rails: Rails) -> Point:
    low, high = (rails.underside + rails.depth * part for part in (0.42, 0.58))
    side = -1.0 if at[1] < 0 else 1.0
    return at[0], side * (rails.outside_width / 2 - rails.flange / 2), min(max(at[2], low), high)


def _bodies(design: Design, view: View, ahead: bool | None) -> Iterator[Mark]:
    """Links, bars, rods, cranks, shocks; of those seen from behind only the ones `ahead` of the axle, or the others."""
    toward = {"side": 1, "top": 2, "rear": 0}[view.name]
    sign = -1.0 if view.name == "rear" else 1.0

    def nearness(body: Body) -> float:
        return sign * (body.a.at[toward] + body.b.at[toward])

    for body in sorted(parts_of(design).bodies, key=nearness):
        if ahead is None or ahead == (body.a.at[0] + body.b.at[0] >= 0):
            yield from _body(design, view, body)


_BODY = 0.58
"""How much of a shock's length its body is, at ride."""


def _body(design: Design, view: View, body: Body) -> Iterator[Mark]:
    a, b, half = view.to(body.a.at), view.to(body.b.at), body.diameter / 2 / view.scale
    if body.shape == "crank":
        yield area(hull(a, _CRANK / view.scale, b, _CRANK / view.scale), DEEP)
        yield Ring(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), 16 / view.scale, MEDIUM, fill=WHITE)
    elif body.shape == "shoe":
        yield from _guide(view, body.a.at)
    elif body.shape == "strut":
        yield area(hull(a, half * 0.6, b, half), WHITE)
        for end in (a, b):
            yield from _eye(end, half * 0.55)
    elif body.shape == "shock":
        out = (b[0] + (a[0] - b[0]) * _BODY, b[1] + (a[1] - b[1]) * _BODY)
        yield area(hull(a, half * 0.35, out, half * 0.35), DEEP)
        yield area(hull(out, half, b, half), WHITE)
        for end in (a, b):
            yield from _eye(end, half * 0.55)
    elif body.shape == "arm":
        spots = {spot.name: spot.at for spot in parts_of(design).spots}
        for bolt in body.a.of:
            yield from _tube(view.to(spots[bolt]), b, half)
    else:
        yield from _tube(a, b, half)


def _guide(view: View, at: Point) -> Iterator[Mark]:
    """A slider's shoe in its upright guide."""
    x, y, z = at
    for side in (1, -1) if view.name != "side" else ():
        ends: list[Point] = [
            (x + s, y + side * 34, z) if view.name == "top" else (x, y + side * 34, z + s) for s in (-150.0, 150.0)
        ]
        yield line(*(view.to(p) for p in ends), width=HEAVY)
    yield Ring(view.to(at), 30 / view.scale, MEDIUM, fill=DEEP)


def _tube(a: Xy, b: Xy, half: float) -> Iterator[Mark]:
    """A tube between two rod ends, each an eye on its bolt, a shank and a jam nut."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    long, eye = sqrt(dx * dx + dy * dy), half * 1.25
    if long > eye * 2:
        ux, uy = dx / long, dy / long

        def bar(start: float, end: float, out: float, fill: float, width: float) -> Stroke:
            sides = ((start, out), (end, out), (end, -out), (start, -out))
            return area(((a[0] + ux * s - uy * o, a[1] + uy * s + ux * o) for s, o in sides), fill, width)

        shank = min(eye * 2.6, long * 0.3)
        yield bar(0.0, long, half * 0.45, WHITE, HAIR)
        yield bar(shank, long - shank, half, WHITE, MEDIUM)
        yield bar(shank - half * 0.55, shank, half * 0.95, DEEP, HAIR)
        yield bar(long - shank, long - shank + half * 0.55, half * 0.95, DEEP, HAIR)
        yield line(
            (a[0] + ux * shank, a[1] + uy * shank),
            (b[0] - ux * shank, b[1] - uy * shank),
            width=HAIR,
            dash=CENTER,
        )
    for end in (a, b):
        yield from _eye(end, eye)


def _eye(at: Xy, radius: float) -> Iterator[Mark]:
    yield Ring(at, radius, MEDIUM, fill=STEEL)
    yield Ring(at, radius * 0.62, HAIR, fill=WHITE)
    yield Ring(at, radius * 0.28, HAIR, fill=0.0)


def _behind_the_housing(design: Design, view: View) -> Iterator[Mark]:
    """What locates the axle sideways and stands ahead of it, seen from behind: hidden edges."""
    links = {link.id for link in design.links}
    for body in parts_of(design).bodies:
        if body.shape == "link" and body.id not in links and body.a.at[0] + body.b.at[0] >= 0:
            half = body.diameter / 2 / view.scale
            yield area(hull(view.to(body.a.at), half, view.to(body.b.at), half), None, THIN, HIDDEN)


def mounts(design: Design) -> tuple[Spot, ...]:
    return parts_of(design).spots
