"""Brackets as pairs of plates: outline, holes, saddle, area, mass, and which are cut alike."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import acos, cos, degrees, dist, hypot, pi, radians
from typing import Any

import numpy as np

from oak_lever.design.cutting import Base, Bracket, FaceBase
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.loads import JointKind
from oak_lever.design.materials import entry_of
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.plates.alike import alike
from oak_lever.plates.outline import Arc, Flat, Line, Outline, Round, circle, distance, hull, saddle

CLEAR_MM = 0.4
"""A hole is this much wider than its bolt."""
WEB_MM = 2.0
"""The least metal beside a hole's bolt, to the next hole's bolt and to what the plate stands on."""
PLANE_MM = 0.5
_TWICE_MM = 0.05
_UPRIGHT_DEG = 10.0
_ACROSS_DEG = 60.0
MOST_WRAP_DEG = 170.0
_NO_BRACKET = {"radius_arm.axle.0", "radius_arm.axle.1", "watts.pivot", "slider.axle"}
_FLAT = 1e-9
_ON_FACE_MM = 1e-3


@dataclass(frozen=True)
class Plate:
    """One plate in its own axes, mm: its outline and holes (u, v, diameter), area less the holes (mm^2), mass (kg), how
    many degrees of the tube it saddles (None on a face); its origin, u, v and the bolt's way in the chassis at ride."""

    part: str
    outline: Outline
    holes: tuple[tuple[float, float, float], ...]
    thickness: float
    material: str | None
    wrap: float | None
    mass: float
    origin: Floats
    u: Floats
    v: Floats
    same_as: str | None = None

    @property
    def area(self) -> float:
        return self.outline.area - sum(pi * across**2 / 4.0 for _, _, across in self.holes)

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "part": self.part, "area": self.area, "holes": [list(hole) for hole in self.holes], "wrap": self.wrap,
            "mass": self.mass, "quantity": 1, "same_as": self.same_as,
        }  # fmt: skip


@dataclass(frozen=True)
class CutBracket:
    """A bracket's two plates; between them `gap`, and the bolt's `grip` over all, mm. `bolt`: its diameter. `hole_of`:
    which of the plates' holes each mount's is."""

    id: str
    gap: float
    grip: float
    bolt: float
    mounts: tuple[str, ...]
    plates: tuple[Plate, Plate]
    hole_of: tuple[int, ...]

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {"id": self.id, "gap": self.gap, "grip": self.grip, "plates": [one.data() for one in self.plates]}


def bolts_of(design: Design) -> dict[str, Floats]:
    """The unit axis (3,) of every bar's and arm's bolt at ride by its mount's name, given or as it is taken to lie."""
    mechanism = mechanism_of(design)
    return {
        f"{bar.name}.{end}": mechanism.bolts[0, b, n]
        for b, bar in enumerate(mechanism.layout.bars) for n, end in enumerate(("axle", "frame"))
    }  # fmt: skip


def foot_of(plate: Plate, base: Base) -> tuple[Flat, Flat]:
    """The ends of what it stands on, in its own axes: the tips of its saddle, or of the line that lies on the face."""
    if not isinstance(base, FaceBase):
        # the one arc that runs clockwise, for it is cut out
        seat = next(one for one in plate.outline.pieces if isinstance(one, Arc) and one.t1 < one.t0)
        return seat.start, seat.end
    normal = np.array(base.normal) / np.linalg.norm(base.normal)

    def lies(flat: Flat) -> bool:
        return abs(float(normal @ (in_chassis(plate, flat) - np.array(base.at)))) < _ON_FACE_MM

    foot = max(
        (one for one in plate.outline.pieces if isinstance(one, Line) and lies(one.a) and lies(one.b)),
        key=lambda one: dist(one.a, one.b),
    )
    return foot.a, foot.b


def in_chassis(plate: Plate, flat: Flat) -> Floats:
    """A place of the plate's own axes, mm, in the chassis at ride."""
    out: Floats = plate.origin + flat[0] * plate.u + flat[1] * plate.v
    return out


@remembered(8)
def brackets_made(design: Design) -> tuple[list[CutBracket], list[Fault]]:
    """Every bracket that can be made as drawn, in the file's order, and what is wrong with each other one."""
    found: list[CutBracket] = []
    faults: list[Fault] = []
    cut: list[Plate] = []
    taken: set[str] = set()
    bolts = bolts_of(design) if design.brackets else {}
    for n, bracket in enumerate(design.brackets or ()):
        try:
            if bracket.id in taken:
                raise _refused(n, "id", f'"{bracket.id}" is another bracket\'s id already; give each its own')
            taken.add(bracket.id)
            made = _made(design, bracket, n, bolts)
        except Refused as refusal:
            faults += refusal.faults
            continue
        plates = []
        for plate in made.plates:
            like = next((one.part for one in cut if alike(one, plate)), None)
            plates.append(Plate(**{**vars(plate), "same_as": like}))
            if like is None:
                cut.append(plates[-1])
        found.append(replace(made, plates=(plates[0], plates[1])))
    return found, faults


def _refused(n: int, key: str, words: str) -> Refused:
    return Refused([Fault(f"brackets[{n}].{key}", words)])


@dataclass(frozen=True)
class _Laid:
    """A bracket before its plates are drawn: its mounts, the joint in it, the plates' axes (u, v, and b along the
    bolt), where its first mount is, how far apart the plates are, and its holes in u and v."""

    spots: tuple[Spot, ...]
    kind: JointKind
    u: Floats
    v: Floats
    b: Floats
    first: Floats
    gap: float
    holes: list[Flat]
    every: list[Floats]

    def origins(self, bracket: Bracket) -> Iterator[tuple[int, Floats]]:
        """Where the middle planes of its two plates are."""
        for k, way in ((1, -1.0), (2, 1.0)):
            yield k, self.first + way * (self.gap + bracket.plate) / 2.0 * self.b


def _laid(design: Design, bracket: Bracket, n: int, bolts: dict[str, Floats]) -> _Laid:
    spots = _mounts(design, bracket, n)
    kind = _joint(design, bracket, spots, n)
    assert kind.bolt is not None
    assert kind.width is not None
    b = _turned(bolts[spots[0].name])
    first = np.array(spots[0].at)
    every = [*(np.array(spot.at) for spot in spots), *(np.array(at) for at in bracket.holes)]
    keys = [*(f"mounts[{k}]" for k in range(len(spots))), *(f"holes[{k}]" for k in range(len(bracket.holes)))]
    for at, key in zip(every, keys, strict=True):
        if abs(off := float((at - first) @ b)) > PLANE_MM:
            raise _refused(n, key, f"lies {abs(off):.1f} mm out of the plane square to the bolt of {spots[0].name}")
    gap = kind.width + 2.0 * bracket.washer + bracket.shrink
    v = _up(b)
    u = np.cross(v, b)
    holes = _holes(bracket, [((at - first) @ u, (at - first) @ v) for at in every], keys, kind.bolt, n)
    return _Laid(tuple(spots), kind, u, v, b, first, gap, holes, every)


def _made(design: Design, bracket: Bracket, n: int, bolts: dict[str, Floats]) -> CutBracket:
    laid = _laid(design, bracket, n, bolts)
    bolt = laid.kind.bolt
    assert bolt is not None
    plates = []
    for k, origin in laid.origins(bracket):
        outline, wrap = _outline(design, bracket, laid.holes, bolt, (origin, laid.u, laid.v, laid.b), n)
        across = tuple((*hole, bolt + CLEAR_MM) for hole in laid.holes)
        area = outline.area - sum(pi * d**2 / 4.0 for _, _, d in across)
        density = entry_of(design, bracket.material, f"brackets[{n}].material").density
        mass = area * bracket.plate * density * 1e-9
        name, ways = f"{bracket.id}-{k}", (origin, laid.u, laid.v)
        plates.append(Plate(name, outline, across, bracket.plate, bracket.material, wrap, mass, *ways))
    names = tuple(spot.name for spot in laid.spots)
    hole_of = tuple(
        _nearest(laid.holes, (float((at - laid.first) @ laid.u), float((at - laid.first) @ laid.v)))
        for at in laid.every[: len(laid.spots)]
    )
    return CutBracket(
        bracket.id, laid.gap, laid.gap + 2.0 * bracket.plate, bolt, names, (plates[0], plates[1]), hole_of
    )  # fmt: skip


@dataclass(frozen=True)
class Space:
    """What a bracket takes up: what carries it, its mounts' places, and of each plate points whose convex hull covers
    it, mm, chassis axes at ride: on a tube the slice of the tube that it saddles too."""

    id: str
    on_axle: bool
    mounts: tuple[Floats, ...]
    plates: tuple[Floats, ...]


_ROUND = 36
"""Corners about a circle, outside of it by less than 0.4 percent of its radius."""


def bracket_spaces(design: Design) -> list[Space]:
    """Of every bracket that can be laid out, quickly: for what moves past it."""
    found: list[Space] = []
    bolts = bolts_of(design) if design.brackets else {}
    turns = np.linspace(0.0, 2.0 * pi, _ROUND, endpoint=False)
    about = np.stack([np.cos(turns), np.sin(turns)], axis=-1) / cos(pi / _ROUND)
    for n, bracket in enumerate(design.brackets or ()):
        try:
            laid = _laid(design, bracket, n, bolts)
            plates = tuple(_covering(design, bracket, laid, origin, about, n) for _, origin in laid.origins(bracket))
        except Refused:
            continue
        places = tuple(np.array(spot.at) for spot in laid.spots)
        found.append(Space(bracket.id, laid.spots[0].on == "axle", places, plates))
    return found


@dataclass(frozen=True)
class BoltWay:
    """The bolt at one of a bracket's mounts: where its middle is, its unit axis, chassis axes at ride; its diameter;
    from its middle to the outside of a plate, mm. `part`: what is bolted there."""

    bracket: str
    mount: str
    part: str
    at: Floats
    along: Floats
    diameter: float
    half: float


def bolt_ways(design: Design) -> list[BoltWay]:
    """Every bolt of every bracket that can be laid out, in the file's order."""
    found: list[BoltWay] = []
    bolts = bolts_of(design) if design.brackets else {}
    for n, bracket in enumerate(design.brackets or ()):
        try:
            laid = _laid(design, bracket, n, bolts)
        except Refused:
            continue
        assert laid.kind.bolt is not None
        half = laid.gap / 2.0 + bracket.plate
        found += [
            BoltWay(bracket.id, spot.name, spot.part, at, laid.b, laid.kind.bolt, half)
            for spot, at in zip(laid.spots, laid.every, strict=False)
        ]
    return found


def _covering(
    design: Design, bracket: Bracket, laid: _Laid, origin: Floats, about: Floats, n: int
) -> Floats:  # fmt: skip
    axes = (origin, laid.u, laid.v, laid.b)
    flat = np.concatenate([np.array(hole) + bracket.edge * about for hole in laid.holes])
    if isinstance(bracket.base, FaceBase):
        m, least, ends = _face_line(bracket, bracket.base, laid.holes, axes, n)
        behind = np.minimum(flat @ m - least, 0.0)
        flat = np.concatenate([flat - behind[:, None] * m, ends])
    else:
        tube = _tube_cut(design, axes, n)
        flat = np.concatenate([flat, np.array(tube.center) + about @ np.array(tube.m).T])
    at = origin + flat[:, :1] * laid.u + flat[:, 1:] * laid.v
    half = bracket.plate / 2.0 * laid.b
    out: Floats = np.concatenate([at - half, at + half])
    return out


def _mounts(design: Design, bracket: Bracket, n: int) -> list[Spot]:
    found: list[Spot] = []
    for k, name in enumerate(bracket.mounts):
        spot = next((one for one in parts_of(design).spots if name in (one.name, one.was) and one.holds), None)
        if spot is None:
            raise _refused(n, f"mounts[{k}]", f'no mount of a link or of the lateral locator is called "{name}"')
        if spot.kind in _NO_BRACKET:
            raise _refused(n, f"mounts[{k}]", f"{name} takes no bracket of two plates")
        if found and spot.on != found[0].on:
            raise _refused(n, f"mounts[{k}]", f"{name} is on the {spot.on}, {found[0].name} on the {found[0].on}")
        if not isinstance(bracket.base, FaceBase) and spot.on != "axle":
            raise _refused(n, "base", f"{name} is on the frame; only what is on the axle saddles its tube")
        found.append(spot)
    return found


def _joint(design: Design, bracket: Bracket, spots: list[Spot], n: int) -> JointKind:
    """The entry of the first mount's joint, as wide and with the bolt of all others."""
    entry = _entry(design, spots[0])
    if entry is None or entry.bolt is None or entry.width is None:
        words = f"the joint at {spots[0].name} says no width and bolt; say them in the joint catalog"
        raise _refused(n, "mounts[0]", words)
    if bracket.edge <= (entry.bolt + CLEAR_MM) / 2.0:
        raise _refused(n, "edge", f"must be more than the hole's radius, {(entry.bolt + CLEAR_MM) / 2.0:g} mm")
    for k, spot in enumerate(spots[1:], 1):
        other = _entry(design, spot)
        if other is None or (other.width, other.bolt) != (entry.width, entry.bolt):
            raise _refused(n, f"mounts[{k}]", f"the joint at {spot.name} is not as wide, or has another bolt")
    return entry


def _entry(design: Design, spot: Spot) -> JointKind | None:
    part: Any = design
    for step in spot.path[:-1]:
        part = part[step] if isinstance(step, int) else getattr(part, step)
    return (design.joints or {}).get(part.joint or "")


def _turned(b: Floats) -> Floats:
    """The bolt's way, to the left; of one that lies fore and aft, ahead."""
    _, y, _ = b
    flip = y < -_FLAT or (abs(y) <= _FLAT and b[0] < -_FLAT)
    return -b if flip else b


def _up(b: Floats) -> Floats:
    steep = abs(b[2]) >= cos(radians(_UPRIGHT_DEG))
    way = np.array([1.0, 0.0, 0.0]) if steep else np.array([0.0, 0.0, 1.0])
    v = way - (way @ b) * b
    out: Floats = v / np.linalg.norm(v)
    return out


def _holes(bracket: Bracket, at: list[Any], keys: list[str], bolt: float, n: int) -> list[Flat]:
    found: list[Flat] = []
    for (u, v), key in zip(at, keys, strict=True):
        apart = min((hypot(u - a, v - b) for a, b in found), default=np.inf)
        if apart <= _TWICE_MM:
            continue
        if apart < bolt + WEB_MM:
            raise _refused(n, key, f"its hole is {apart:.1f} mm from another; {bolt + WEB_MM:g} mm is the least")
        found.append((float(u), float(v)))
    return found


def _nearest(holes: list[Flat], at: tuple[float, float]) -> int:
    return min(range(len(holes)), key=lambda n: hypot(holes[n][0] - at[0], holes[n][1] - at[1]))


Axes = tuple[Floats, Floats, Floats, Floats]


def _outline(
    design: Design, bracket: Bracket, holes: list[Flat], bolt: float, axes: Axes, n: int
) -> tuple[Outline, float | None]:
    round_about = [circle(hole, bracket.edge) for hole in holes]
    if isinstance(bracket.base, FaceBase):
        return _on_face(bracket, bracket.base, holes, bolt, axes, n), None
    tube = _tube_cut(design, axes, n)
    for hole in holes:
        if (near := distance(tube, hole)) < bolt / 2.0 + WEB_MM:
            where = f"{near:.1f} mm from the axle tube" if near >= 0.0 else "inside the axle tube"
            raise _refused(n, "edge", f"a hole lies {where}; {bolt / 2.0 + WEB_MM:g} mm is the least")
    try:
        found = saddle(round_about, tube, bracket.plate if bracket.tips == "square" else 0.0)
    except ValueError as why:
        raise _refused(n, "tips", f"can't be cut square at the plate's thickness: {why}") from None
    if found is None:
        raise _refused(n, "holes", "the plate goes round the axle tube or falls into two; keep to one side of it")
    if found.wrap > MOST_WRAP_DEG:
        words = f"the plate saddles {found.wrap:.1f} degrees of the tube; {MOST_WRAP_DEG:g} is the most that goes on"
        raise _refused(n, "edge", words)
    return found.outline, found.wrap


def _tube_cut(design: Design, axes: Axes, n: int) -> Round:
    """The ellipse in which the plate's plane cuts the axle tube."""
    origin, u, v, b = axes
    if abs(b[1]) < cos(radians(_ACROSS_DEG)):
        off = degrees(acos(min(abs(float(b[1])), 1.0)))
        raise _refused(n, "base", f"the bolt lies {off:.0f} degrees from the axle tube's line; 60 is the most")
    axle = design.axle
    middle = np.array([0.0, float((origin - [0.0, 0.0, axle.tire_radius_loaded]) @ b) / b[1], axle.tire_radius_loaded])
    center = (float((middle - origin) @ u), float((middle - origin) @ v))
    m = axle.tube_diameter / 2.0 * np.linalg.inv(np.array([[u[0], v[0]], [u[2], v[2]]]))
    if np.linalg.det(m) < 0.0:
        m = m * np.array([1.0, -1.0])
    return Round(center, ((float(m[0, 0]), float(m[0, 1])), (float(m[1, 0]), float(m[1, 1]))))


def _on_face(
    bracket: Bracket, base: FaceBase, holes: list[Flat], bolt: float, axes: Axes, n: int
) -> Outline:  # fmt: skip
    m, least, feet = _face_line(bracket, base, holes, axes, n)
    for hole in holes:
        if (near := float(m @ np.array(hole)) - least) < bolt / 2.0 + WEB_MM:
            where = f"{near:.1f} mm from its face" if near >= 0.0 else "behind its face"
            raise _refused(n, "base", f"a hole lies {where}; {bolt / 2.0 + WEB_MM:g} mm is the least")
    ends = [Round((float(at[0]), float(at[1])), ((0.0, 0.0), (0.0, 0.0))) for at in feet]
    whole = hull([*(circle(hole, bracket.edge) for hole in holes), *ends])
    cut = whole.clipped((float(m[0]), float(m[1])), least)
    assert cut is not None, "holes lie before the face"
    return cut


def _face_line(
    bracket: Bracket, base: FaceBase, holes: list[Flat], axes: Axes, n: int
) -> tuple[Floats, float, Floats]:  # fmt: skip
    """The line in which a plate meets its face, as the unit normal m and the least m.q of the plate; and the two ends
    of its foot (2, 2)."""
    origin, u, v, _ = axes
    assert bracket.foot is not None
    normal = np.array(base.normal) / np.linalg.norm(base.normal)
    flat = np.array([normal @ u, normal @ v])
    size = float(np.linalg.norm(flat))
    if size < _FLAT:
        raise _refused(n, "base.normal", "the face lies as the plates do; they can't stand on it")
    m = flat / size
    least = float(normal @ (np.array(base.at) - origin)) / size
    first = np.array(holes[0])
    foot = first - (float(m @ first) - least) * m
    along = np.array([-m[1], m[0]]) * bracket.foot / 2.0
    return m, least, np.stack([foot - along, foot + along])
