"""What an axle needs of room by standing where it stands: its tires' envelope, other stations, the tube left for
brackets, the ground below."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import asin, atan2, degrees, hypot
from typing import Any, Literal

import numpy as np

from oak_lever.clearance.clearances import GRID, Gap, Wanted, grid_of, tightest
from oak_lever.clearance.parts import Solid, Stage, housing_of
from oak_lever.clearance.solids import CYLINDER, pieces_of
from oak_lever.design.cutting import FaceBase
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import move_solid
from oak_lever.design.types import Design
from oak_lever.motion.trace import Plan
from oak_lever.plates.brackets import brackets_made

BRACKET_MM = 76.0
"""What a bracket takes up along the tube: a joint some 50 mm wide between two plates, and a weld either side."""
UNDER_MM = 32.0
"""How far a bracket reaches below its bolt."""
YOKE_MM = 50.0
"""How far the yoke at the pinion reaches below its joint's middle."""
STATIONS_MM = (-75.0, -50.0, -25.0, 0.0, 25.0, 50.0, 75.0)


# tires


@dataclass(frozen=True)
class Envelope:
    """What a tire sweeps, over the whole travel, twist and steer: the least and the greatest x, y, z, mm, chassis axes;
    and what it comes nearest to."""

    tire: str
    low: tuple[float, float, float]
    high: tuple[float, float, float]
    nearest: Gap | None


def envelopes(design: Design) -> list[Envelope]:
    """Of the left and the right tire, against everything that it is held against."""
    poses, places = grid_of(design, GRID)
    stage = Stage(design, poses)
    at = places[stage.reached[places]]
    near = dict(zip(_TIRES, tightest(design, [_with(name) for name in _TIRES]), strict=True))
    found = []
    for part in stage.moving():
        if part.sort == "tire" and len(at):
            low, high = _extent(part, at)
            found.append(Envelope(part.name, low, high, near[part.name]))
    return found


_TIRES = ("tire-left", "tire-right")


def _with(*names: str) -> Wanted:
    """Pairs with one of these in them."""
    return lambda a, b: a in names or b in names


def _extent(part: Solid, at: Any) -> tuple[Any, Any]:
    """The least and greatest of each axis that a part reaches in those poses."""
    low, high = np.full(3, np.inf), np.full(3, -np.inf)
    for body in {id(body): body for _, body in part.groups}.values():
        turn, shift = body.turn[at], body.shift[at]
        pieces = [piece for piece, carrier in part.pieces if carrier is body]
        for piece in (one for one in pieces if one.kind == CYLINDER):
            reach = piece.size[0] * np.hypot(turn[:, :, 0], turn[:, :, 2]) + piece.size[1] * np.abs(turn[:, :, 1])
            low = np.minimum(low, (shift - reach).min(0) - piece.round)
            high = np.maximum(high, (shift + reach).max(0) + piece.round)
        cores = [one for one in pieces if one.kind != CYLINDER]
        if cores:
            points = np.concatenate([one.points for one in cores])
            grown = np.repeat([one.round for one in cores], [len(one.points) for one in cores])[:, None]
            reached = np.einsum("pij,nj->pni", turn, points) + shift[:, None]
            low = np.minimum(low, (reached - grown).min((0, 1)))
            high = np.maximum(high, (reached + grown).max((0, 1)))
    return tuple(low.tolist()), tuple(high.tolist())


# stations


@dataclass(frozen=True)
class Station:
    """The axle with all its links moved fore-aft by `by` mm (+ forward), what stands on the frame staying: the
    wheelbase then; the nearest that a tire comes to anything, and the pair with the least to spare of all; the shaft's
    length at ride and how far that is from now (+ longer), None without one."""

    by: float
    wheelbase: float
    tire: Gap | None
    least: Gap | None
    shaft_length: float | None
    shaft_longer: float | None


def stations(design: Design, moved_mm: Sequence[float] = STATIONS_MM) -> list[Station]:
    return [_station(design, by) for by in moved_mm]


def _station(design: Design, by: float) -> Station:
    there, beside = _with_station(design, by, room=False), (-by, 0.0, 0.0)
    keep_outs = {one.id for one in design.room.keep_outs} if design.room else set()
    tires, fixed = _with(*_TIRES), _with("shaft", *keep_outs)
    tire, least = tightest(there, [lambda a, b: tires(a, b) and fixed(a, b), fixed], beside)
    long, now = _shaft(there), _shaft(design)
    return Station(by, there.vehicle.wheelbase, tire, least, long, None if long is None or now is None else long - now)


def _shaft(design: Design) -> float | None:
    if design.driveshaft is None:
        return None
    return float(np.linalg.norm(np.array(design.axle.pinion.joint) - np.array(design.driveshaft.case.joint)))


def with_station(design: Design, by: float) -> Design:
    """The design with its axle and links so far forward on the frame: what stands on the frame beside them (keep-outs,
    zones of frame mounts, the transfer case) stands so much farther back in its axes."""
    return _with_station(design, by, room=True)


def _with_station(design: Design, by: float, room: bool) -> Design:
    """The same; without `room`, keep-outs and zones as they stand."""
    data = design_data(design)
    ahead = -1.0 if design.axle.end == "rear" else 1.0
    data["vehicle"]["wheelbase"] = design.vehicle.wheelbase + ahead * by
    moved: dict[str, Any] = (data.get("room") or {}) if room else {}
    for one in moved.get("keep_outs", []):
        if one["on"] == "frame":
            move_solid(one["solid"], (-by, 0.0, 0.0))
    frame = {spot.name for spot in parts_of(design).spots if spot.on == "frame"}
    for zone in moved.get("zones", []):
        if frame & set(zone.get("mounts", [])):
            move_solid(zone["region"], (-by, 0.0, 0.0))
    if data.get("driveshaft"):
        data["driveshaft"]["case"]["joint"][0] -= by
    if data.get("steering"):
        data["steering"]["pitman"][0] -= by
    return design_from(data)


# the tube


@dataclass(frozen=True)
class OnTube:
    """A bracket that wants a place on the bare tube: the mounts that it carries, where its middle stands out from the
    centerline, and by how much it does not fit: over the housing (`housing`), past the tube's end (`end`), over the
    next bracket (`beside`), mm."""

    mounts: tuple[str, ...]
    out: float
    over: float
    what: Literal["fits", "housing", "end", "beside"]


@dataclass(frozen=True)
class BareTube:
    """One side's bare tube, from the housing to the inside of the tire: from where to where out from the centerline,
    what its brackets take up in all, and what is left, mm."""

    side: Literal["left", "right"]
    inner: float
    outer: float
    taken: float
    spare: float
    brackets: tuple[OnTube, ...]


def tubes(design: Design, bracket_mm: float = BRACKET_MM) -> list[BareTube]:
    """Each side's. A mount straight above or below the housing stands on it, or on a truss, and takes none of the
    tube; nor does one whose bracket is drawn on a face. Brackets side by side on the tube need their widths, as drawn
    with their welds, or `bracket_mm` where none is drawn; ones above and below each other share a place."""
    return [_tube(design, side, sign, bracket_mm) for side, sign in (("left", 1.0), ("right", -1.0))]  # type: ignore[arg-type]


def _tube(design: Design, side: Literal["left", "right"], sign: float, width: float) -> BareTube:
    center, radius = housing_of(design)
    half = design.axle.tube_diameter / 2.0
    inner = sign * center[1] + (max(radius**2 - half**2, 0.0)) ** 0.5
    outer = (design.axle.track - design.axle.tire_width) / 2.0
    drawn = _drawn_widths(design)
    spots = [
        (sign * spot.at[1], spot)
        for spot in parts_of(design).spots
        if spot.on == "axle" and spot.holds and sign * spot.at[1] > max(inner, 0.0) and drawn.get(spot.name, 1.0) > 0.0
    ]
    brackets: list[tuple[float, list[str]]] = []
    for out, spot in sorted(spots, key=lambda one: one[0]):
        if brackets and abs(out - brackets[-1][0]) < width / 2.0:
            brackets[-1][1].append(spot.name)
        else:
            brackets.append((out, [spot.name]))
    found, before, taken = [], -np.inf, 0.0
    for out, names in brackets:
        own = max(drawn.get(name, width) for name in names)
        taken += own
        low, high = out - own / 2.0, out + own / 2.0
        over, what = max((inner - low, "housing"), (high - outer, "end"), (before - low, "beside"))
        fits = over <= 0.0
        found.append(OnTube(tuple(names), out, 0.0 if fits else over, "fits" if fits else what))  # type: ignore[arg-type]
        before = high
    return BareTube(side, inner, outer, taken, outer - inner - taken, tuple(found))


def _drawn_widths(design: Design) -> dict[str, float]:
    """How much of the tube each mount's bracket takes, as it is drawn and welded; 0 for one on a face."""
    drawn = {one.id: one for one in design.brackets or ()}
    found = {}
    for made in brackets_made(design)[0]:
        one = drawn[made.id]
        fillet = one.weld if one.weld is not None else one.plate
        wide = 0.0 if isinstance(one.base, FaceBase) else made.grip + 2.0 * fillet
        found.update(dict.fromkeys(made.mounts, wide))
    return found


# the ground


@dataclass(frozen=True)
class Low:
    """How high above the ground a part's lowest point stands at ride and at full bump, mm; None where that is not
    reached."""

    name: str
    ride: float
    bump: float | None


@dataclass(frozen=True)
class Under:
    """What stands lowest, the lowest at ride first; `breakover` and `departure` (at a front axle: approach) are angles
    in degrees between the ground and what is lowest between the axles, and beyond this one, and what that is."""

    low: tuple[Low, ...]
    breakover: float | None
    breakover_by: str
    departure: float | None
    departure_by: str


def under(design: Design) -> Under:
    """At bump the frame stands lower by the travel, and what the axle carries as high as at ride or higher."""
    plan = Plan()
    at = np.array([0, plan.pose(design.travel.bump, 0.0)])
    stage = Stage(design, plan.poses())
    fall = design.travel.bump
    up = bool(stage.reached[at[1]])
    found = [_low(part, at, fall, up) for part in (*stage.moving(), *stage.keep_outs()) if part.sort != "tire"]
    for spot in parts_of(design).spots:
        if spot.holds:
            height = spot.at[2] - UNDER_MM
            found.append(Low(f"{spot.name} bracket", height, height - (fall if spot.on == "frame" else 0.0)))
    pinion = design.axle.pinion.joint
    at_bump = float(stage.carried(pinion)[at[1]][2]) - fall - YOKE_MM
    found.append(Low("pinion", pinion[2] - YOKE_MM, at_bump if up else None))
    return Under(tuple(sorted(found, key=lambda one: one.ride)), *_angles(design))


def _low(part: Solid, at: Any, fall: float, up: bool) -> Low:
    ride, bump = (float(_extent(part, at[n : n + 1])[0][2]) for n in (0, 1))
    return Low(part.name, ride, bump - fall if up or (part.sort == "keep-out" and not part.on_axle) else None)


def _angles(design: Design) -> tuple[float | None, str, float | None, str]:
    ahead = 1.0 if design.axle.end == "rear" else -1.0
    r, base = design.axle.tire_radius_loaded, design.vehicle.wheelbase
    between: list[tuple[float, str]] = []
    beyond: list[tuple[float, str]] = []
    for name, x, z in _frame_points(design):
        along = ahead * x
        if r < along < base - r:
            between.append((_tangent(along, z, r) + _tangent(base - along, z, r), name))
        elif along < -r:
            beyond.append((_tangent(-along, z, r), name))
    least, last = min(between, default=(None, "")), min(beyond, default=(None, ""))
    return least[0], least[1], last[0], last[1]


def _tangent(x: float, z: float, radius: float) -> float:
    """Degrees off the ground of the line from a point to where it touches a tire from below, from in front of it."""
    far = hypot(x, z - radius)
    return degrees(atan2(z - radius, x) + asin(min(radius / far, 1.0)))


def _frame_points(design: Design) -> Iterator[tuple[str, float, float]]:
    """What the frame carries: low corners of its keep-outs, its mounts' brackets."""
    for one in design.room.keep_outs if design.room else ():
        if one.on == "frame":
            for piece in pieces_of(one.solid):
                for x, _, z in piece.points:
                    yield one.id, float(x), float(z - piece.round)
    for spot in parts_of(design).spots:
        if spot.on == "frame" and spot.holds:
            yield f"{spot.name} bracket", spot.at[0], spot.at[2] - UNDER_MM
