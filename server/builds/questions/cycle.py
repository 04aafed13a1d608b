"""The whole cycle: shaft, map, schools, joints, a hand cycle, complaints. Mm and degrees."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from builds.questions.asking import Anywhere, Document, Payload, question, refusing
from oak_lever.api import (
    Aim,
    Explained,
    HandCheck,
    JointRow,
    Softer,
    TurnBy,
    Units,
    Variant,
    Ways,
    aim,
    cycle,
    design_from,
    explained,
    findings_on,
    gap_map,
    hand_check,
    joint_rows,
    turn_by,
    variants,
    whole_map,
)

Degrees = Annotated[float, Field(ge=-180, le=180)]
_MAP_DIGITS = 3


class OfDocument(Payload):
    document: Document


class InWords(Payload):
    """A document, and the units that what is said of it is said in."""

    document: Document
    units: Units = "mm"


class TurnIn(Payload):
    """A gauge read the pinion: how was it zeroed, on which face did it stand, which way points the nose, how far does
    the frame stand nose up, at which travel? `soft`: how far under its setting it should be at rest; `how`: is the
    housing turned in its brackets, or with them by the links' lengths?"""

    document: Document
    value: Degrees
    zero: Literal["level", "plumb"] = "level"
    face: Literal["along", "square"] = "along"
    points: Literal["up", "down"] = "up"
    frame_pitch: Degrees = 0.0
    travel: Anywhere = 0.0
    soft: Annotated[float, Field(ge=-10, le=10)] = 1.5
    how: Ways = "brackets"


class TurnOut(Payload):
    aim: Aim
    turned: TurnBy


@question("shaft/turn", TurnOut, name="turn_pinion")
def turn(asked: TurnIn) -> Any:
    read = dict(vars(asked))
    design = design_from(read.pop("document"))
    with refusing("driveshaft"):
        return {"aim": aim(design), "turned": turn_by(design, **read)}


class MapIn(Payload):
    """Every figure over travel and twist; or, more coarsely, the least that any gap has to spare."""

    document: Document
    gaps: bool = False


class MapOut(Payload):
    """`fields` by name, rows of travel, columns of articulation."""

    travel: list[float]
    articulation: list[float]
    fields: dict[str, list[list[float | None]]]
    allowed: list[list[bool]]


@question("map", MapOut, name="whole_map")
def over_travel_and_twist(asked: MapIn) -> Any:
    design = design_from(asked.document)
    found = gap_map(design) if asked.gaps else whole_map(design)
    fields = {name: np.ascontiguousarray(np.round(values, _MAP_DIGITS)) for name, values in found.fields.items()}
    return {
        "travel": found.travel, "articulation": found.articulation, "fields": fields,
        "allowed": np.ascontiguousarray(found.allowed),
    }  # fmt: skip


@question("schools", list[Variant])
def schools(asked: InWords) -> Any:
    return variants(design_from(asked.document), asked.units)


class JointsOut(Payload):
    joints: list[JointRow]
    softer: list[Softer]


@question("joints", JointsOut)
def joints(asked: OfDocument) -> Any:
    rows, softer = joint_rows(cycle(design_from(asked.document)))
    return {"joints": rows, "softer": softer}


@question("hand", HandCheck, name="hand_check")
def hand(asked: InWords) -> Any:
    return hand_check(design_from(asked.document), asked.units)


@question("complaints", list[Explained])
def complaints(asked: OfDocument) -> Any:
    design = design_from(asked.document)
    return explained(design, findings_on(design))
