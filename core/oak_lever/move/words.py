"""Moves in the words of a shop: which mounts, which way, how far."""

from collections.abc import Sequence

from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.types import Design
from oak_lever.move.coordinates import PAIR_MM, Axis, Shift
from oak_lever.units import Units, length


def ends_said(design: Design, names: Sequence[str]) -> str:
    """Mounts by their names, a pair said once: "upper frame ends"; those on one joint as that joint."""
    parts = parts_of(design)
    found = [parts.spot(name) for name in names]
    bodies = {body.id: body.words for body in parts.bodies}
    words = bodies.get(found[0].name.partition(".")[0]) or bodies.get(found[0].part, found[0].part)
    if found[0].part == "watts":
        words = "Watts link"
    end = found[0].words
    if len(found) == 1:
        return f"{words} {end}"
    plain = " ".join(word for word in words.split() if word not in ("left", "right"))
    end = " ".join(word for word in end.split() if word not in ("left", "right"))
    return f"{plain} {end}s"


def way_said(first: Spot, paired: bool, axis: Axis, by: float) -> str:
    """ "up", "down", "forward", "back"; "outward", "inward", or from the centerline "to the left", "to the right"."""
    if axis == "z":
        return "up" if by > 0 else "down"
    if axis == "x":
        return "forward" if by > 0 else "back"
    if not paired and abs(first.at[1]) < PAIR_MM:
        return "to the left" if by > 0 else "to the right"
    return "outward" if by * first.at[1] > 0 else "inward"


def shift_said(design: Design, shift: Shift, units: Units) -> str:
    """ "upper link frame ends up 7/8 in"."""
    first = parts_of(design).spot(shift.mounts[0])
    way = way_said(first, len(shift.mounts) > 1, shift.axis, shift.by)
    return f"{ends_said(design, shift.mounts)} {way} {length(abs(shift.by), units)}"


def shifts_said(design: Design, shifts: Sequence[Shift], units: Units) -> str:
    """ "coilover frame eyes up 1 in and inward 1/2 in, and coilover lower eyes back 2 in"."""
    said: dict[tuple[str, ...], str] = {}
    for shift in shifts:
        first = parts_of(design).spot(shift.mounts[0])
        if shift.mounts in said:
            way = way_said(first, len(shift.mounts) > 1, shift.axis, shift.by)
            said[shift.mounts] += f" and {way} {length(abs(shift.by), units)}"
        else:
            said[shift.mounts] = shift_said(design, shift, units)
    return ", and ".join(said.values())


def sentence(words: str) -> str:
    """With a capital."""
    return words[:1].upper() + words[1:]
