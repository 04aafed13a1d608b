"""The load cases: forces of the ground on the tires of one axle, by plain statics of the whole truck."""

from dataclasses import dataclass

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.loads import Loads
from oak_lever.design.types import Design
from oak_lever.units import GRAVITY

Force3 = tuple[float, float, float]
_NONE: Force3 = (0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Case:
    """Forces of the ground on the left and right tire, N, chassis axes, the axle at a travel (mm) and an articulation
    (degrees); `driven`: the shaft's torque acts; `abuse`: less is wanted of a part than in a normal case."""

    id: str
    left: Force3
    right: Force3
    travel: float = 0.0
    articulation: float = 0.0
    driven: bool = False
    abuse: bool = False


def loads_of(design: Design) -> Loads:
    """What the design says of loads; the house's values where it says nothing."""
    return design.loads or Loads()


def axle_weight(design: Design) -> float:
    """What stands on the axle's tires on level ground, N."""
    vehicle = design.vehicle
    share = vehicle.front_share if design.axle.end == "front" else 1.0 - vehicle.front_share
    return vehicle.mass * GRAVITY * share


def cases_of(design: Design) -> list[Case]:
    """Every case, the file's own last.

    Raises:
        Refused: for an id of a case that is there already.
    """
    found = [*_standard(design, loads_of(design))]
    known = {one.id for one in found}
    faults = []
    for n, own in enumerate(loads_of(design).cases):
        if own.id in known:
            faults.append(Fault(f"loads.cases[{n}].id", f'"{own.id}" is a case already; give this one another id'))
        known.add(own.id)
        found.append(Case(own.id, own.left, own.right, own.travel, own.articulation, own.driven, own.abuse))
    if faults:
        raise Refused(faults)
    return found


def _standard(design: Design, loads: Loads) -> list[Case]:
    vehicle, axle = design.vehicle, design.axle
    rear = axle.end == "rear"
    back = 1.0 if rear else -1.0  # weight comes to a rear axle as the truck is driven forward
    weight, whole = axle_weight(design), vehicle.mass * GRAVITY
    lean, radius = vehicle.cg_height / vehicle.wheelbase, axle.tire_radius_loaded
    found = [Case("static", *_even(0.0, weight))]
    if vehicle.drive_share > 0.0:
        for name, way in (("launch", 1.0), ("reverse", -1.0)):
            force = _tractive(design, loads, way)
            moved = way * back * force * lean
            found.append(Case(name, *_even(way * vehicle.drive_share * force, weight + moved), driven=True))
        one = loads.grip * weight
        if loads.torque is not None:
            one = min(one, loads.torque * 1000.0 / radius)
        for side in ("left", "right"):
            left, right = ((one, 0.0, weight), _NONE) if side == "left" else (_NONE, (one, 0.0, weight))
            found.append(Case(f"one_wheel_{side}", left, right, driven=True, abuse=True))
    braking = loads.grip * whole
    stands = max(weight - back * braking * lean, 0.0)
    found.append(Case("brake", *_even(-min(vehicle.brake_share * braking, loads.grip * stands), stands)))
    found += [_corner(design, loads, weight, way, name) for way, name in ((1.0, "left"), (-1.0, "right"))]
    found.append(Case("landing", *_even(0.0, loads.landing * weight), travel=design.travel.bump, abuse=True))
    hit, other = (-loads.strike * weight / 2.0, 0.0, loads.strike * weight / 2.0), (0.0, 0.0, weight / 2.0)
    found += [Case("strike_left", hit, other, abuse=True), Case("strike_right", other, hit, abuse=True)]
    return found


def _even(ahead: float, up: float) -> tuple[Force3, Force3]:
    """The same on both tires."""
    one = (ahead / 2.0, 0.0, up / 2.0)
    return one, one


def _tractive(design: Design, loads: Loads, way: float) -> float:
    """The whole truck's tractive force where this axle's tires slip, or the other axle lifts, or the torque or the grip
    of all tires ends, N."""
    vehicle, axle = design.vehicle, design.axle
    weight, whole = axle_weight(design), vehicle.mass * GRAVITY
    lean, share = vehicle.cg_height / vehicle.wheelbase, vehicle.drive_share
    if (axle.end == "rear") == (way > 0.0):  # weight comes to this axle from the other
        beyond = share - loads.grip * lean
        lifts = (whole - weight) / lean
        force = min(loads.grip * weight / beyond, lifts) if beyond > 0.0 else lifts
    else:
        force = loads.grip * weight / (share + loads.grip * lean)
    force = min(force, loads.grip * whole)
    if loads.torque is not None:
        force = min(force, loads.torque * 1000.0 / (axle.tire_radius_loaded * share))
    return force


def _corner(design: Design, loads: Loads, weight: float, way: float, name: str) -> Case:
    """The truck turning left (`way` 1) or right: the tire outside carries more, and side force as it carries."""
    side = loads.grip_side * weight
    moved = min(weight / 2.0, side * design.vehicle.cg_height / design.axle.track)
    left, right = weight / 2.0 - way * moved, weight / 2.0 + way * moved
    each = way * loads.grip_side
    return Case(f"corner_{name}", (0.0, each * left, left), (0.0, each * right, right))
