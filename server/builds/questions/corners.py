"""Springs, shocks, stops and straps. Lengths mm, N, N/mm, Hz, kPa."""

from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import Anywhere, Document, Increment, Named, Payload, question, refusing
from oak_lever.api import (
    SEATS_MM,
    TURN_MM,
    CornerPulled,
    Cure,
    Effect,
    Filled,
    Inflated,
    Instead,
    Load,
    Offered,
    Rungs,
    Sits,
    Sitting,
    SliderStop,
    Spaced,
    Turned,
    Units,
    Want,
    bar_rate,
    corner_slopes,
    design_from,
    instead,
    ladder,
    pull_corner,
    shock_places,
    spaced,
)


class LoadIn(Payload):
    """A state of the truck: its mass, kg, and the share of it on the front axle."""

    name: Named
    mass: Annotated[float, Field(gt=0, le=1e6)]
    front_share: Annotated[float, Field(ge=0, le=1)]


class CornersIn(Payload):
    """What ends the travel, how does it sit with each of these loads, which springs would carry it with the axle at the
    travel `wanted`, what does one `turn` of a seat do, and a `spacer` under a bump stop?
    Which pressure has it stand at each step of `height`?"""

    document: Document
    loads: Annotated[list[LoadIn], Field(max_length=20, default_factory=list)]
    wanted: Anywhere = 0.0
    turn: Annotated[float, Field(gt=0, le=100)] = TURN_MM
    spacer: Annotated[float, Field(gt=0, le=100)] = 6.0
    height: Annotated[float, Field(gt=0, le=100)] = 25.0


class CornersOut(Payload):
    """`sits`: as the truck stands, then each load; `seats`: how much longer an open shock is guessed to be than between
    its spring's seats, mm; `bar_rate`: of the anti-roll bar at a wheel, N/mm, if any."""

    ladder: list[Rungs]
    sits: list[Sits]
    turns: list[Turned]
    sliders: list[SliderStop]
    springs: list[Offered]
    instead: list[Instead]
    inflated: list[Inflated]
    filled: list[Filled]
    spacers: dict[str, list[Spaced]]
    seats: float = SEATS_MM
    bar_rate: float | None = None


@question("corners", CornersOut)
def corners(asked: CornersIn) -> Any:
    design = design_from(asked.document)
    rungs = ladder(design)
    if not rungs or design.corners is None:
        return {"ladder": rungs, "sits": [], "turns": [], "sliders": [], "springs": [], "instead": [], "inflated": [],
                "filled": [], "spacers": {}}  # fmt: skip
    sitting = Sitting(design)
    coils = [one.id for one in design.corners.shocks if one.spring]
    aired = sorted({0.0, *(one.air.pressure * part for one in design.corners.shocks if one.air for part in (1.0, 1.6))})
    loads = [Load(one.name, one.mass, one.front_share) for one in asked.loads]
    spacers = [n * asked.spacer for n in range(-2, 5)]
    return {
        "ladder": rungs,
        "sits": [sitting.sits(), *(sitting.sits(load) for load in loads)],
        "turns": sitting.turns(asked.turn),
        "sliders": sitting.sliders(),
        "springs": sitting.offered(coils, asked.wanted) if coils else [],
        "instead": instead(sitting, coils, asked.wanted),
        "filled": sitting.filled_at([n * asked.height for n in range(-3, 4)]) if len(aired) > 1 else [],
        "inflated": sitting.inflated(aired) if len(aired) > 1 else [],
        "spacers": {one.id: spaced(design, one.id, spacers) for one in design.corners.stops},
        "bar_rate": bar_rate(design),
    }


class ShockPlacesIn(Payload):
    """Where does this shock go, as it is?"""

    document: Document
    shock: Named
    increment: Increment
    units: Units = "mm"


@question("shocks/places", list[Cure], name="shock_places")
def places_for_a_shock(asked: ShockPlacesIn) -> Any:
    design = design_from(asked.document)
    with refusing("shock"):
        return shock_places(design, asked.shock, asked.increment, asked.units)


class WantIn(Payload):
    """A figure of what runs with the axle, by its finding's id, and the value wanted of it."""

    check: Named
    value: Anywhere


class CornerPullIn(Payload):
    """Which places of the part's free points give it these values?"""

    document: Document
    wanted: Annotated[list[WantIn], Field(min_length=1, max_length=6)]
    increment: Increment | None = None


@question("runs/pull", CornerPulled, name="pull_corner")
def pull_a_part(asked: CornerPullIn) -> Any:
    design = design_from(asked.document)
    with refusing("wanted"):
        return pull_corner(design, [Want(one.check, one.value) for one in asked.wanted], asked.increment)


class CornerEffectsIn(Payload):
    """What does each free point of the part do to this figure, by an increment?"""

    document: Document
    check: Named
    increment: Increment


@question("runs/effects", list[Effect], name="run_effects")
def what_moves_a_part(asked: CornerEffectsIn) -> Any:
    return [
        {"axis": shift.axis, "mounts": shift.mounts, "change": change}
        for shift, change in corner_slopes(design_from(asked.document), asked.check, asked.increment)
    ]
