"""Pinion and output angles off a gauge, however it was zeroed, on the frame's axes and at ride."""

from collections.abc import Mapping
from typing import Literal

from oak_lever.baseline.spread import Spread, combined, mean, spread_of
from oak_lever.cycle import look
from oak_lever.design.types import Design
from oak_lever.truck.types import Angle, End, Truck

Shaft = Literal["rear_pinion", "front_pinion", "case_output"]
_UP: dict[Shaft, float] = {"rear_pinion": 1.0, "front_pinion": 1.0, "case_output": -1.0}
"""A pinion's angle is + nose up, an output's + down on its way back."""
_PITCH: dict[Shaft, float] = {"rear_pinion": -1.0, "front_pinion": 1.0, "case_output": -1.0}
"""What a frame that stands nose up adds to what was read, taken off."""
_END: dict[Shaft, End] = {"rear_pinion": "rear", "front_pinion": "front"}


def angle_figures(truck: Truck, pitch: Spread | None, designs: Mapping[str, Design]) -> dict[str, Spread]:
    """`rear_pinion`, `front_pinion`, `case_output`, degrees; several readings of one as their mean.

    `pitch`: the frame's, where it is known. `designs` by end: what a pinion read away from ride turns by on the way
    there; one whose design is not given, or does not reach there, is not used.
    """
    found: dict[Shaft, list[Spread]] = {}
    for reading in truck.readings:
        if isinstance(reading, Angle) and not reading.left_out:
            turned = turned_at(reading, designs)
            if turned is not None:
                found.setdefault(reading.of, []).append(as_read(reading) - turned)
    return {
        of: combined([(1.0, mean(found[of])), (_PITCH[of], pitch or 0.0)]) for of in _UP if of in found
    }  # fmt: skip


def as_read(reading: Angle) -> Spread:
    """The shaft's angle with its sign, from how the gauge was zeroed and which face it stood on."""
    straight = (reading.zero, reading.face) in (("level", "along"), ("plumb", "square"))
    value = spread_of(reading)
    sign = _UP[reading.of] * (1.0 if reading.points == "up" else -1.0)
    return combined([(sign, value)] if straight else [(sign * 90.0, Spread(1.0)), (-sign, value)])


def turned_at(reading: Angle, designs: Mapping[str, Design]) -> float | None:
    """How far a pinion has turned from ride at the travel it was read at; None where nothing says it."""
    if reading.of not in _END or reading.travel == 0.0:
        return 0.0
    design = designs.get(_END[reading.of])
    if design is None:
        return None
    seen = look(design, reading.travel, 0.0).here
    return float(seen.columns["pinion_change"][0]) if seen.reached[0] else None
