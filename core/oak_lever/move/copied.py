"""A proven suspension copied onto another housing: shifted by what the new axle changes, and what is left over said."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import dist, hypot
from typing import Any, Literal

from oak_lever.design.parts import Spot, bars_of, parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import move_solid
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.buildable import in_the_way
from oak_lever.move.coordinates import placed
from oak_lever.units import Units, length

_SEEN_MM = 0.5
_SEEN_DEG = 0.05
Brackets = Literal["kept", "remade"]


@dataclass(frozen=True)
class Onto:
    """The axle that it is copied onto, mm and degrees: tires, track and tube; the pinion's joint ahead of the axle's
    middle (+ forward) and above it; the pad, or perch, between tube and brackets thicker by so much."""

    tire_diameter: float
    tire_radius_loaded: float
    tire_width: float
    track: float
    tube_diameter: float
    pinion_ahead: float
    pinion_above: float
    pinion_angle: float
    pad: float = 0.0


@dataclass(frozen=True)
class Copied:
    """The design on the new axle, and what the copy leaves to be done, in words."""

    document: dict[str, Any]
    left_over: tuple[str, ...]


def onto_housing(found: Design, onto: Onto, brackets: Brackets, units: Units = "mm") -> Copied:
    """All points keep their places about the axle's middle and rise with it by the difference of the loaded radii.
    Where the old brackets are kept, their bolts stand farther from the middle by the difference of the tubes' radii and
    the pad; remade ones bring the bolts to where they were.

    Raises:
        Refused: where that makes no design.
    """
    rise = onto.tire_radius_loaded - found.axle.tire_radius_loaded
    grown = (onto.tube_diameter - found.axle.tube_diameter) / 2.0 + onto.pad
    parts = parts_of(found)
    data = _on_axle(found, onto, rise)
    at = {spot.name: _place(found, spot, rise, grown if brackets == "kept" else 0.0) for spot in parts.spots}
    there = placed(design_from(data), at)
    said = _left_over(found, there, onto, rise, grown, brackets, units)
    return Copied(design_data(there), tuple(said))


def _on_axle(found: Design, onto: Onto, rise: float) -> dict[str, Any]:
    data = design_data(found)
    data.pop("as_found", None)
    axle = data["axle"]
    for name in ("tire_diameter", "tire_radius_loaded", "tire_width", "track", "tube_diameter"):
        axle[name] = getattr(onto, name)
    y = axle["pinion"]["joint"][1]
    axle["pinion"] = {
        **axle["pinion"],
        "joint": [onto.pinion_ahead, y, onto.tire_radius_loaded + onto.pinion_above],
        "angle": onto.pinion_angle,
    }
    axle.pop("housing", None)  # the old one's ball: this housing's is not known
    for link in data["links"]:
        if (link.get("tube") or {}).get("bends"):
            link["tube"]["bends"] = [[x, y, z + rise] for x, y, z in link["tube"]["bends"]]
    for listed in ("keep_outs", "zones"):
        for one in (data.get("room") or {}).get(listed, []):
            move_solid(one["solid" if listed == "keep_outs" else "region"], (0.0, 0.0, rise))
    if data.get("rails"):
        data["rails"]["underside"] += rise
    if data.get("driveshaft"):
        data["driveshaft"]["case"]["joint"][2] += rise
    return data


def _place(found: Design, spot: Spot, rise: float, grown: float) -> Point:
    x, y, z = spot.at
    above = z - found.axle.tire_radius_loaded
    far = hypot(x, above)
    if spot.on == "axle" and spot.holds and far > 0.0:
        x, z = x + grown * x / far, z + grown * above / far
    return x, y, z + rise


def _left_over(
    found: Design, there: Design, onto: Onto, rise: float, grown: float, brackets: Brackets, units: Units
) -> Iterator[str]:
    def said(value: float) -> str:
        return length(abs(value), units)

    if abs(rise) > _SEEN_MM:
        way = "higher" if rise > 0.0 else "lower"
        yield f"On these tires the frame, its mounts and all that stands on it are {said(rise)} {way} off the floor."
    if abs(grown) > _SEEN_MM and brackets == "remade":
        way = "shorter" if grown > 0.0 else "longer"
        yield f"The axle brackets must be {said(grown)} {way} between tube and bolt than the old ones."
    if brackets == "kept":
        yield from _lengths(found, there, units)
    before = found.axle.pinion
    turned = onto.pinion_angle - before.angle
    if abs(turned) > _SEEN_DEG:
        yield (
            f"The pinion points {onto.pinion_angle:.1f} degrees up, where it pointed {before.angle:.1f}: turn the "
            f"perches by {abs(turned):.1f} degrees, or check the shaft's joints at the new angle."
        )
    ahead = onto.pinion_ahead - before.joint[0]
    if abs(ahead) > _SEEN_MM:
        longer = (ahead < 0.0) == (found.axle.end == "rear")
        way, shaft = "farther back" if ahead < 0.0 else "farther forward", "longer" if longer else "shorter"
        yield f"The pinion's joint stands {said(ahead)} {way}: the shaft is to be nearly so much {shaft}."
    wider = (onto.track - found.axle.track) / 2.0
    if abs(wider) > _SEEN_MM:
        yield f"Each wheel stands {said(wider)} farther {'out' if wider > 0.0 else 'in'}."
    was = set(in_the_way(found, mechanism_of(found)))
    for words in in_the_way(there, mechanism_of(there)):
        if words not in was:
            yield f"Can't be built so: {words}."


def _lengths(found: Design, there: Design, units: Units) -> Iterator[str]:
    old = {body.id: body for body in bars_of(parts_of(found))}
    for body in bars_of(parts_of(there)):
        longer = _long(body) - _long(old[body.id])
        if abs(longer) > _SEEN_MM:
            way = "longer" if longer > 0.0 else "shorter"
            yield f"The {body.words} is {length(abs(longer), units)} {way} between its joints."


def _long(body: Any) -> float:
    return dist(body.a.at, body.b.at)
