"""Turning a pinion to what its shaft asks for: from what a gauge read to what to turn, which way, and what then is."""

from dataclasses import dataclass
from math import isnan
from typing import Any, Literal

from oak_lever.cycle import cycle, look
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.judge.running import wanted_pinion


@dataclass(frozen=True)
class Aim:
    """What the shaft's kind asks of the pinion at ride, nose up (degrees), and why; less `soft` of it where drive
    turns it up on soft mounts."""

    wanted: float
    reason: str


@dataclass(frozen=True)
class Angles:
    """Of a design at ride: the pinion, nose up; the joints; how they differ; what unsteadiness is left there and at
    most over the straight travel; caster of a front axle. Degrees."""

    pinion: float
    case_joint: float
    pinion_joint: float
    difference: float
    unsteady: float | None
    unsteady_most: float | None
    caster: float | None


@dataclass(frozen=True)
class TurnBy:
    """`read`: the pinion at ride by the gauge, nose up; turn its perches or brackets by `turn`, + nose up; and what the
    angles are then. `document`: the design so."""

    read: float
    turn: float
    way: str
    before: Angles
    after: Angles
    document: dict[str, Any]


Zero = Literal["level", "plumb"]
Face = Literal["along", "square"]


def aim(design: Design) -> Aim:
    """The recommended angle of a design that has a driveshaft.

    Raises:
        ValueError: for one without.
    """
    if design.driveshaft is None:
        raise ValueError("there is no driveshaft to aim at")
    wanted = wanted_pinion(design)
    if design.driveshaft.kind == "two_joints":
        return Aim(
            wanted, "Parallel to the case's output: the shaft's two joints then stand at like angles and cancel."
        )
    return Aim(wanted, "Along the shaft, toward the case: the double joint there drives steadily, and the pinion's own "
                       "joint should stand straight.")  # fmt: skip


def turn_by(
    design: Design, value: float, zero: Zero, face: Face, points: Literal["up", "down"], frame_pitch: float = 0.0,
    travel: float = 0.0, soft: float = 1.5,
) -> TurnBy:  # fmt: skip
    """From a reading to what to turn. A gauge zeroed level on a face along the shaft, or plumb on one square to it,
    reads the angle; else it reads 90 degrees less it. `frame_pitch`: how far the frame stands nose up. Read at `travel`
    mm, it is brought to ride by what the pinion turns on the way there.

    Raises: ValueError: without a driveshaft, or where the links do not reach that travel."""
    wanted = aim(design).wanted - soft
    straight = (zero, face) in (("level", "along"), ("plumb", "square"))
    read = (value if straight else 90.0 - value) * (1.0 if points == "up" else -1.0)
    read += -frame_pitch if design.axle.end == "rear" else frame_pitch
    if travel:
        seen = look(design, travel, 0.0).here
        if not seen.reached[0]:
            raise ValueError("the links do not reach that travel")
        read -= float(seen.columns["pinion_change"][0])
    turn = wanted - read
    before, after = (_set(design, angle) for angle in (read, wanted))
    caster = design.axle.caster
    sign = 1.0 if design.axle.end == "rear" else -1.0
    turned = None if caster is None else caster - sign * turn
    way = "its nose up" if turn > 0 else "its nose down"
    return TurnBy(
        read, turn, way, _angles(before, caster), _angles(after, turned), design_data(after)
    )  # fmt: skip


def _set(design: Design, angle: float) -> Design:
    data = design_data(design)
    data["axle"]["pinion"]["angle"] = angle
    return design_from(data)


def _angles(design: Design, caster: float | None) -> Angles:
    cycled = cycle(design)
    row = cycled.ride.rows()[0]
    over = [one for one in cycled.heave.running.columns["shaft_unsteady"].tolist() if not isnan(one)]
    return Angles(
        design.axle.pinion.angle, row["case_joint"], row["pinion_joint"], row["case_joint"] - row["pinion_joint"],
        row["shaft_unsteady"], max(over, default=None), caster,
    )  # fmt: skip
