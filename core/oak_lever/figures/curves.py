"""Which curves of the whole cycle answer which question of a shop, for one design."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from oak_lever.design.parts import across, words_of
from oak_lever.design.types import Design

Quantity = Literal["length", "angle", "percent"]
LEAST_GAP = "gap_spare"
"""The column of the map of gaps: the least that any gap has to spare."""
_TURN_LEFT_DEG = 3.0
"""A joint nearer to its end than this is as good as at it: a house value."""


@dataclass(frozen=True)
class Curve:
    """A column over travel and twist. `judged`: the figure whose band it is held against; `low`,
    `high`: ends that it must stay within, where the part itself has them (mm, degrees or percent, as the column)."""

    column: str
    name: str
    quantity: Quantity
    judged: str | None = None
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True)
class Asked:
    """A question in words, and the curves that answer it."""

    asks: str
    curves: tuple[Curve, ...]


def curves_of(design: Design) -> list[Asked]:
    """Every question that this design has curves for, in the order in which a shop would ask."""
    return [one for one in _all(design) if one.curves]


def _all(design: Design) -> Iterator[Asked]:
    rear = design.axle.end == "rear"
    yield (
        Asked("Does the pinion hold?", (Curve("pinion_change", "Pinion, nose up", "angle"),)) if rear
        else Asked("Does the caster hold?", (Curve("caster_change", "Caster, more", "angle"),))
    )  # fmt: skip
    yield Asked("Where does the axle go?", (
        Curve("axle_x", "Forward", "length"),
        Curve("axle_y", "To the left", "length"),
        Curve("yaw", "Turned in plan", "angle"),
    ))  # fmt: skip
    yield Asked("Does it squat or dive?", (
        Curve("anti_squat", "Anti-squat", "percent", "anti_squat") if rear
        else Curve("anti_dive", "Anti-dive", "percent", "anti_dive"),
        Curve("roll_center_height", "Roll center", "length", "roll_center"),
    ))  # fmt: skip
    yield Asked("Does the shaft live?", tuple(_of_shaft(design)))
    steers = (Curve("bump_steer", "Knuckle turns left", "angle"),)
    yield Asked("Does it steer?", steers if design.steering else ())
    yield Asked("Does it bind?", (
        Curve("joint_left", "Joint nearest its limit has left", "angle", low=_TURN_LEFT_DEG),
        Curve("bind", "Give needed", "length", "bind"),
    ))  # fmt: skip
    yield Asked("Do the shocks fit?", tuple(_of_shocks(design)))
    yield Asked("Does it hit?", (Curve(LEAST_GAP, "Least gap has to spare", "length", low=0.0),))


def _of_shaft(design: Design) -> Iterator[Curve]:
    shaft = design.driveshaft
    if shaft is None:
        return
    yield Curve("shaft_slip", "Slip drawn out", "length", low=-shaft.slip.in_, high=shaft.slip.out)
    yield Curve("case_joint", "Joint at the case", "angle", high=shaft.joint_limit.case)
    yield Curve("pinion_joint", "Joint at the pinion", "angle", high=shaft.joint_limit.pinion)
    yield Curve("shaft_unsteady", "Unsteadiness", "angle", "unsteady")


def _of_shocks(design: Design) -> Iterator[Curve]:
    """Of a pair the left one: over travel and twist both ways the right one's is its mirror image."""
    pairs = across(design)
    for shock in design.corners.shocks if design.corners else ():
        if shock.id not in pairs or shock.axle.at[1] > 0.0:
            stroke = shock.extended - shock.compressed
            yield Curve(
                f"shock {shock.id} to_shut", f"{words_of(shock.id)}, stroke left", "length", low=0.0, high=stroke
            )
