"""Turning a pinion to what its shaft asks for: from what a gauge read to what to turn, which way, and what then is."""

from dataclasses import dataclass
from math import dist, isnan
from typing import Any, Literal

from oak_lever.cycle import cycle, look
from oak_lever.design.reader import design_data
from oak_lever.design.types import Design
from oak_lever.judge.parts import wanted_pinion
from oak_lever.move.turned import SETTING_DEG, SOFT_DEG, Adjusted, Ways, adjusted, set_pinion, turned_housing


@dataclass(frozen=True)
class Aim:
    """What the shaft's kind asks of the pinion at ride, nose up (degrees), as the pinion's joint stands now, and
    why."""

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
    """`read`: the pinion at ride by the gauge, nose up; turn the housing by `turn`, + nose up; and what the angles are
    then. `moved`: how far the pinion's joint goes with it, mm. `soft`: how much of the setting is for soft mounts, and
    why. `lengths`: what it takes of the links, where they turn it. `as_read`, `document`: the design with its pinion as
    it was read, and as it is to be."""

    read: float
    turn: float
    way: str
    before: Angles
    after: Angles
    moved: float
    soft: str
    lengths: tuple[Adjusted, ...]
    as_read: dict[str, Any]
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
    wanted, aside = wanted_pinion(design), design.driveshaft.case.turn
    if design.driveshaft.kind == "two_joints":
        said = "Parallel to the case's output, seen from the side: the shaft's two joints then stand at like angles"
        if abs(aside) < SETTING_DEG:
            return Aim(wanted, f"{said} and cancel.")
        return Aim(
            wanted, f"{said} there; {abs(aside):.1f} degrees in plan stay, which no turn of the housing takes out."
        )
    return Aim(wanted, "Along the shaft, toward the case: the double joint there drives steadily, and the pinion's own "
                       "joint should stand straight.")  # fmt: skip


def turn_by(
    design: Design, value: float, zero: Zero, face: Face, points: Literal["up", "down"], frame_pitch: float = 0.0,
    travel: float = 0.0, soft: float = SOFT_DEG, how: Ways = "brackets",
) -> TurnBy:  # fmt: skip
    """From a reading to what to turn. A gauge zeroed level on a face along the shaft, or plumb on one square to it,
    reads the angle; else it reads 90 degrees less it. `frame_pitch`: how far the frame stands nose up. Read at `travel`
    mm, it is brought to ride by what the pinion turns on the way there. `how`: in its brackets, or on its links.

    The housing turns about the axle's line and takes its joint along, both as it was read and as it is set.

    Raises:
        ValueError: without a driveshaft, where the links do not reach that travel, where no turn gets there, or on its
            links where a radius arm holds the housing."""
    shaft = aim(design)
    straight = (zero, face) in (("level", "along"), ("plumb", "square"))
    read = (value if straight else 90.0 - value) * (1.0 if points == "up" else -1.0)
    read += -frame_pitch if design.axle.end == "rear" else frame_pitch
    if travel:
        seen = look(design, travel, 0.0).here
        if not seen.reached[0]:
            raise ValueError("the links do not reach that travel")
        read -= float(seen.columns["pinion_change"][0])
    before = turned_housing(design, read - design.axle.pinion.angle, how)
    after = set_pinion(before, soft, how)
    turn = after.axle.pinion.angle - read
    way = "its nose up" if turn > 0 else "its nose down"
    return TurnBy(
        read, turn, way, _angles(before), _angles(after),
        dist(before.axle.pinion.joint, after.axle.pinion.joint), _soft_said(shaft, soft),
        tuple(adjusted(before, after)), design_data(before), design_data(after),
    )  # fmt: skip


def _soft_said(shaft: Aim, soft: float) -> str:
    if abs(soft) < SETTING_DEG:
        return f"Set to just that, {shaft.wanted:.1f} degrees: firm mounts."
    way = "under" if soft > 0 else "over"
    return (
        f"Set {abs(soft):.1f} degrees {way} that at rest"
        + (": soft mounts let drive turn the nose up by about as much. Shops use 1 to 3; with firm ends type 0."
           if soft > 0 else ".")
    )  # fmt: skip


def _angles(design: Design) -> Angles:
    cycled = cycle(design)
    row = cycled.ride.rows()[0]
    over = [one for one in cycled.heave.running_gear.columns["shaft_unsteady"].tolist() if not isnan(one)]
    return Angles(
        design.axle.pinion.angle, row["case_joint"], row["pinion_joint"], row["case_joint"] - row["pinion_joint"],
        row["shaft_unsteady"], max(over, default=None), design.axle.caster,
    )  # fmt: skip
