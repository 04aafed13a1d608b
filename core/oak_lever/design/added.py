"""What can be added to a design: parts of a size that suits its travel, and what mostly stands about an axle.

All of it comes in where there mostly is room. Places and sizes are guesses, to be moved and typed to what is there.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import radians, sin
from typing import Any, Literal

from oak_lever.design.axle import HOUSING_TUBES, Rails
from oak_lever.design.cross_checks import BAR_IDS, FIXED_IDS
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import GAP_MM, MOVING_GAP_MM
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.units import GRAVITY

Data = dict[str, Any]
Area = Literal["corners", "room", "cut"]
STOP_MM = (100.0, 40.0)
"""A common bump stop, free and solid."""
STRETCH = 0.08
"""A limit strap's stretch over its length where nobody knows it."""
_BODY_MM = 180.0
"""What a shock is longer closed than its stroke."""
_STROKE_OVER_TRAVEL = 1.35
_STRAP_OVER_MM = 300.0
"""How high over the tube a strap's upper bolt comes."""
_WEB_MM = 6.0
_GAP_RAILS_MM, _GAP_EXHAUST_MM = 12.7, 40.0


@dataclass(frozen=True)
class Addition:
    """Something that can be added: its id, what a shop calls it, and to which area it belongs."""

    id: str
    words: str
    area: Area


def additions() -> list[Addition]:
    """Everything that can be added, in the order in which it is offered."""
    return [one for one, _ in _ADDITIONS.values()]


def added(design: Design, what: str) -> Design:
    """A design with that added: a pair, a bar, or keep-outs, under ids that nothing has.

    Raises:
        Refused: for what cannot be added to this design.
        ValueError: for an id that nothing has.
    """
    if what not in _ADDITIONS:
        raise ValueError(f"nothing that can be added is called {what}")
    data = design_data(design)
    _ADDITIONS[what][1](design, data)
    return design_from(data)


def _free(data: Data, base: str, ends: tuple[str, ...] = ("",)) -> str:
    """A name of which nothing is called so with any of the ends: "coilover", "coilover-2"."""
    corners, room = data.get("corners") or {}, data.get("room") or {}
    lists = (data["links"], *(corners.get(name) or () for name in _STRUTS), room.get("keep_outs") or ())
    taken = {one["id"] for ones in lists for one in ones} | {*FIXED_IDS, *BAR_IDS}
    n = 1
    while True:
        name = base if n == 1 else f"{base}-{n}"
        if not any(f"{name}{end}" in taken for end in ends):
            return name
        n += 1


# at the corners

_STRUTS = ("shocks", "stops", "straps")


@dataclass(frozen=True)
class _Beside:
    """Beside the frame, inside the tires: how far out, the top of the tube, away from the chassis' middle."""

    out: float
    top: float
    behind: float

    @classmethod
    def of(cls, design: Design) -> "_Beside":
        axle = design.axle
        half = (axle.track - axle.tire_width) / 2.0
        top = axle.tire_radius_loaded + axle.tube_diameter / 2.0
        return cls(0.72 * half, top, -100.0 if axle.end == "rear" else 100.0)


def _pair(data: Data, listed: str, base: str, upper: Point, lower: Point, sizes: Data) -> None:
    """A left one and its mirror image, between points of the left."""
    corners = data["corners"] = data.get("corners") or {}
    name = _free(data, base, ("-left", "-right"))
    corners.setdefault(listed, [])
    for side, hand in (("left", 1.0), ("right", -1.0)):
        frame, axle = ([round(x, 1), hand * round(y, 1), round(z, 1)] for x, y, z in (upper, lower))
        corners[listed].append(
            {"id": f"{name}-{side}", "frame": {"at": frame}, "axle": {"on": "axle", "at": axle}, **sizes}
        )


def _carried(design: Design) -> float:
    """Half of what this axle's springs carry, N."""
    vehicle, axle = design.vehicle, design.axle
    share = vehicle.front_share if axle.end == "front" else 1.0 - vehicle.front_share
    return max(vehicle.mass * share - axle.mass, 50.0) * GRAVITY / 2.0


def _shock(kind: str) -> Callable[[Design, Data], None]:
    def put(design: Design, data: Data) -> None:
        place, travel = _Beside.of(design), design.travel
        stroke = round((travel.bump + travel.droop) * _STROKE_OVER_TRAVEL, 1)
        shut = round(stroke + _BODY_MM, 1)
        ride = shut + stroke * travel.bump / ((travel.bump + travel.droop) or 1.0)
        sizes: Data = {"kind": kind, "extended": shut + stroke, "compressed": shut, "diameter": 63.5}
        if kind == "coilover":
            rate = _carried(design) / (shut + stroke - ride + 20.0)
            sizes["spring"] = {"rate": round(rate, 1), "preload": 20.0, "solid": round(stroke + 60.0, 1)}
        if kind == "air_shock":
            area = 1600.0
            pressure = round(1000.0 * _carried(design) / area, 1)
            sizes["air"] = {"pressure": pressure, "area": [[round(ride, 1), area]], "volume": 250_000.0}
        lower = (place.behind, place.out, place.top - 40.0)
        _pair(data, "shocks", kind.replace("_", "-"), (lower[0], lower[1], lower[2] + ride), lower, sizes)

    return put


def _coil(design: Design, data: Data) -> None:
    place, travel = _Beside.of(design), design.travel
    free = round((travel.bump + travel.droop) * 1.6 + 120.0, 1)
    ride, solid = free - travel.droop - 25.0, round(0.62 * free, 1)
    spring = {"rate": round(_carried(design) / (free - ride), 1), "preload": 0.0, "solid": solid}
    sizes = {
        "kind": "coil", "extended": free, "compressed": round(free - solid - 1.0, 1), "diameter": 130.0,
        "spring": spring,
    }  # fmt: skip
    lower = (0.0, place.out, place.top)
    _pair(data, "shocks", "coil", (0.0, place.out, place.top + ride), lower, sizes)


def _air(design: Design, data: Data) -> None:
    place, (bump, droop) = _Beside.of(design), (design.travel.bump, design.travel.droop)
    ride, area = round(bump + 90.0, 1), 13_000.0
    by_length = [[ride - bump, 15_500.0], [ride, area], [ride + droop, 9_500.0]]
    by_length = [one for n, one in enumerate(by_length) if n == 1 or one[0] != ride]  # no travel that way
    pressure = round(1000.0 * _carried(design) / area, 1)
    sizes = {
        "kind": "air", "extended": round(ride + droop + 25.0, 1), "compressed": 75.0, "diameter": 165.0,
        "air": {"pressure": pressure, "area": by_length, "volume": 900_000.0},
    }  # fmt: skip
    lower = (0.0, place.out, place.top)
    _pair(data, "shocks", "air-spring", (0.0, place.out, place.top + ride), lower, sizes)


def _stops(design: Design, data: Data) -> None:
    place, (free, solid) = _Beside.of(design), STOP_MM
    out, top = 0.85 * place.out, place.top
    sizes = {"kind": "rubber", "free": free, "solid": solid}
    _pair(data, "stops", "bump-stop", (0.0, out, top + design.travel.bump + solid), (0.0, out, top), sizes)


def _straps(design: Design, data: Data) -> None:
    place = _Beside.of(design)
    x, out, high = -place.behind / 2.0, 0.75 * place.out, _STRAP_OVER_MM
    sizes = {"length": round((high + design.travel.droop) / (1.0 + STRETCH), 1), "stretch": STRETCH}
    _pair(data, "straps", "strap", (x, out, place.top + high), (x, out, place.top), sizes)


def _bar(design: Design, data: Data) -> None:
    if design.corners is not None and design.corners.anti_roll is not None:
        raise Refused([Fault("corners.anti_roll", "is there already; leave it out before another comes in")])
    place = _Beside.of(design)
    x, out, up = -1.2 * place.behind, round(0.6 * place.out, 1), round(place.top + 60.0, 1)
    data["corners"] = data.get("corners") or {}
    data["corners"]["anti_roll"] = {
        "on": "frame", "pivot": [-3.5 * place.behind, round(0.5 * place.out, 1), up], "arm": [x, out, up],
        "link": [x, out, round(place.top - 90.0, 1)], "diameter": 25.4,
    }  # fmt: skip


# in the way


@dataclass(frozen=True)
class _About:
    """What stands about an axle is sized by: how far the tires reach, which way the chassis' middle lies, the frame's
    underside and the room between the rails."""

    rails: Rails | None
    tire: float
    ahead: float
    under: float
    inside: float

    @classmethod
    def of(cls, design: Design) -> "_About":
        axle, rails = design.axle, design.rails
        under = rails.underside if rails else axle.tire_radius_loaded + design.travel.bump + 60.0
        inside = rails.outside_width - 2.0 * rails.flange if rails else 700.0
        return cls(rails, axle.tire_diameter, 1.0 if axle.end == "rear" else -1.0, under, inside)


Shapes = Iterator[tuple[str, float, Data]]


def _box(x: float, y: float, z: float, *size: float) -> Data:
    return {"kind": "box", "center": [x, y, z], "size": list(size), "turn": [0.0, 0.0, 0.0]}


def _rails(about: _About) -> Rails:
    if about.rails is None:
        raise Refused([Fault("rails", "are not known yet: set them under Truck")])
    return about.rails


def _boxed(_: Design, about: _About) -> Shapes:
    rails = _rails(about)
    out = (rails.outside_width - rails.flange) / 2.0
    for name, hand in (("Left rail", 1.0), ("Right rail", -1.0)):
        middle = rails.underside + rails.depth / 2.0
        yield name, _GAP_RAILS_MM, _box(0.0, hand * out, middle, 3.0 * about.tire, rails.flange, rails.depth)


def _channels(_: Design, about: _About) -> Shapes:
    """An open channel, its web outside, over the axle from as far behind as ahead."""
    rails, half = _rails(about), 1.5 * about.tire
    out, low, high = rails.outside_width / 2.0, rails.underside, rails.underside + rails.depth
    for name, hand in (("Left rail", 1.0), ("Right rail", -1.0)):
        o, i, w = hand * out, hand * (out - rails.flange), hand * (out - _WEB_MM)
        outline = [
            [o, low], [i, low], [i, low + _WEB_MM], [w, low + _WEB_MM], [w, high - _WEB_MM], [i, high - _WEB_MM],
            [i, high], [o, high],
        ]  # fmt: skip
        yield name, _GAP_RAILS_MM, {"kind": "prism", "along": "x", "from": -half, "to": half, "outline": outline}


def _crossmember(_: Design, about: _About) -> Shapes:
    at = about.ahead * 1.35 * about.tire
    yield "Crossmember", GAP_MM, _box(at, 0.0, about.under + 60.0, 90.0, about.inside, 100.0)


def _tank(_: Design, about: _About) -> Shapes:
    at = -about.ahead * 0.95 * about.tire
    yield "Fuel tank", GAP_MM, _box(at, 0.0, about.under - 20.0, 0.6 * about.tire, 0.8 * about.inside, 260.0)


def _pan(_: Design, about: _About) -> Shapes:
    yield "Oil pan", GAP_MM, _box(0.0, 0.1 * about.inside, about.under + 130.0, 700.0, 0.4 * about.inside, 180.0)


def _case(_: Design, about: _About) -> Shapes:
    yield "Transfer case", GAP_MM, _box(about.ahead * 1.75 * about.tire, 0.0, about.under - 40.0, 400.0, 360.0, 320.0)


def _exhaust(design: Design, about: _About) -> Shapes:
    y, z, far = -0.35 * about.inside, about.under - 90.0, -design.axle.track / 2.0
    at = about.ahead * about.tire
    path = [[2.2 * at, y, z], [1.5 * at, y, z], [1.3 * at, far, z - 20.0]]
    yield "Exhaust", _GAP_EXHAUST_MM, {"kind": "tube", "path": path, "diameter": 60.0}


def _openings(design: Design, about: _About) -> Shapes:
    axle, travel = design.axle, design.travel
    twist = axle.track / 2.0 * sin(radians(travel.articulation))
    top = axle.tire_radius_loaded + axle.tire_diameter / 2.0 + travel.bump + twist + 50.0
    size = (axle.tire_diameter + 260.0, axle.tire_width + 60.0, 20.0)
    for name, hand in (("Wheel opening, left", 1.0), ("Wheel opening, right", -1.0)):
        yield name, GAP_MM, _box(0.0, hand * axle.track / 2.0, top, *size)


def _floor(design: Design, about: _About) -> Shapes:
    top = about.under + (about.rails.depth if about.rails else 140.0) + 60.0
    yield "Floor", GAP_MM, _box(0.0, 0.0, top, 3.0 * about.tire, 0.7 * design.axle.track, 40.0)


def _kept_out(shapes: Callable[[Design, _About], Shapes]) -> Callable[[Design, Data], None]:
    def put(design: Design, data: Data) -> None:
        made = list(shapes(design, _About.of(design)))
        room = data["room"] = data.get("room") or {"gap": MOVING_GAP_MM}
        kept = room["keep_outs"] = room.get("keep_outs") or []
        for name, gap, solid in made:
            kept.append({"id": _free(data, _slug(name)), "name": name, "on": "frame", "gap": gap, "solid": solid})

    return put


# to be cut

_TRUSS_PLATE_MM = 4.8
_OVER_MM = 30.0
"""A truss's top over the housing, and its ends over the tube."""
_UNDER_MOUNT_MM = 40.0
"""A mount over a truss stands so far above its top, on a bracket."""


def _truss(design: Design, data: Data) -> None:
    """As wide as comes down on the tube, over the housing, below the links' mounts there, out toward the tires."""
    if data.get("truss"):
        raise Refused([Fault("truss", "there is one already")])
    axle = design.axle
    z, tube = axle.tire_radius_loaded, axle.tube_diameter
    given = axle.housing
    middle, radius = (given.at, given.diameter / 2.0) if given else ((0.0, 0.0, z), HOUSING_TUBES * tube / 2.0)
    least = middle[2] + radius + 2.0 * _TRUSS_PLATE_MM + 1.0
    over = [
        link.axle.at[2] for link in design.links
        if link.kind != "radius_arm" and link.axle.at[2] > z and abs(link.axle.at[1] - middle[1]) < radius
    ]  # fmt: skip
    high = max(least, min([middle[2] + radius + _OVER_MM, *(up - _UNDER_MOUNT_MM for up in over)]))
    out, flat = 0.35 * (axle.track - axle.tire_width), radius + 10.0
    ends = z + tube / 2.0 + _OVER_MM
    right, left = min(-out, middle[1] - flat - 60.0), max(out, middle[1] + flat + 60.0)
    top = [(right, ends), (middle[1] - flat, high), (middle[1] + flat, high), (left, ends)]
    data["truss"] = {
        "top": [[round(y), round(up, 1)] for y, up in top], "width": round(0.7 * tube), "plate": _TRUSS_PLATE_MM,
    }  # fmt: skip


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")


Putting = Callable[[Design, Data], None]
_OFFERED: tuple[tuple[str, str, Area, Putting], ...] = (
    ("coilover", "Coilovers", "corners", _shock("coilover")),
    ("damper", "Plain dampers", "corners", _shock("damper")),
    ("bypass", "Bypass shocks", "corners", _shock("bypass")),
    ("air_shock", "Air shocks", "corners", _shock("air_shock")),
    ("coil", "Coils on their own seats", "corners", _coil),
    ("air", "Air springs", "corners", _air),
    ("stop", "Bump stops", "corners", _stops),
    ("strap", "Limit straps", "corners", _straps),
    ("bar", "Anti-roll bar", "corners", _bar),
    ("rails", "Both frame rails, boxed", "room", _kept_out(_boxed)),
    ("channels", "Both frame rails, open C section", "room", _kept_out(_channels)),
    ("crossmember", "A crossmember", "room", _kept_out(_crossmember)),
    ("tank", "A fuel tank", "room", _kept_out(_tank)),
    ("pan", "An engine oil pan over the axle", "room", _kept_out(_pan)),
    ("case", "A transfer case", "room", _kept_out(_case)),
    ("exhaust", "An exhaust, out to a side", "room", _kept_out(_exhaust)),
    ("openings", "Both wheel openings", "room", _kept_out(_openings)),
    ("floor", "A floor over the axle", "room", _kept_out(_floor)),
    ("truss", "A truss over the axle tube", "cut", _truss),
)
_ADDITIONS = {name: (Addition(name, words, area), put) for name, words, area, put in _OFFERED}
