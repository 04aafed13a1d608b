"""The links: the cycle and what is found of it, what moves a figure, what cures it; results pulled, layouts changed."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from builds.questions.asking import Anywhere, Document, Increment, InPose, Payload, question, refusing
from oak_lever.api import (
    COLUMNS,
    PULL_WITHIN_MM,
    Asked,
    Cure,
    Cycle,
    Design,
    Effect,
    Finding,
    Hole,
    LinkFigures,
    LinkKind,
    Locator,
    Mechanism,
    Pulled,
    Separation,
    Settled,
    Side,
    Slack,
    Sweep,
    Units,
    Wanted,
    all_effects,
    carried,
    cures,
    curves_of,
    cycle,
    design_data,
    design_from,
    findings,
    holes,
    joint_left,
    judge,
    link_figures,
    look,
    only_read,
    parts_of,
    pull,
    school_says,
    separation,
    settle,
    slack,
    with_kind,
    with_link,
    with_locator,
    without_link,
)

_DIGITS = 6  # a millionth of a millimeter or degree: far below what is shown, far shorter to send
_STATE_DIGITS = 9
_RUN_DIGITS = 4  # of what runs with the axle there are many columns


Numbers = list[float | None]
Vector = tuple[float, float, float]


class SweepOut(Payload):
    """Columns by name, one entry a row; state holds x, y, z (mm) and roll, pitch, yaw, crank (radians) a row."""

    columns: dict[str, Numbers]
    reached: list[bool]
    state: list[Numbers]


class StopsOut(Payload):
    heave: tuple[float | None, float | None]
    articulation: tuple[float | None, float | None]


class CarriedOut(Payload):
    """What a link does to its own points, chassis frame: turn (rows) times the point, plus shift (mm)."""

    turn: tuple[Vector, Vector, Vector]
    shift: Vector


class AllowedOut(Payload):
    """Which part of the map of travel and twist is judged over, and the stops and straps that leave it."""

    share: float
    by: list[str]


class CycleOut(Payload):
    """`read`: the figures that are read and not judged, by their ids. Columns of sweeps hold what runs with the axle
    too, as "shock coilover-left to_shut"; `curves`: which of them answer which question."""

    located: bool
    links: list[LinkFigures]
    separation: Separation
    stops: StopsOut
    findings: list[Finding]
    read: dict[str, float | None]
    ride: SweepOut
    here: SweepOut
    heave: SweepOut
    articulation: SweepOut
    misalignment: dict[str, float | None]
    carried: dict[str, CarriedOut]
    allowed: AllowedOut
    curves: list[Asked]


@question("cycle", CycleOut, "hand")
def whole_cycle(asked: InPose) -> Any:
    return cycle_data(cycle(design_from(asked.document), here=(asked.travel, asked.articulation)))


def cycle_data(cycled: Cycle) -> dict[str, Any]:
    here = cycled.here or cycled.ride
    judged = judge(cycled.swept)
    places, more = cycled.swept.places, _rounded(cycled.columns)
    over = more | _rounded({"joint_left": joint_left(cycled.swept)})
    return {
        "located": cycled.located,
        "links": link_figures(cycled.swept.mechanism),
        "separation": separation(cycled.swept.mechanism),
        "stops": cycled.stops,
        "findings": findings(cycled, judged),
        "read": only_read(judged),
        "ride": _sweep(cycled.ride, more, places.ride),
        "here": _sweep(here, more, np.array([-1]) if cycled.here else places.ride),
        "heave": _sweep(cycled.heave, over, places.heave),
        "articulation": _sweep(cycled.articulation, over, places.articulation),
        "misalignment": _turned(here),
        "carried": _carried(cycled.design, cycled.swept.mechanism, here),
        "allowed": _allowed(cycled),
        "curves": curves_of(cycled.design),
    }


def _rounded(columns: dict[str, Any]) -> dict[str, Any]:
    return {name: np.round(values, _RUN_DIGITS) for name, values in columns.items()}


def _allowed(cycled: Cycle) -> dict[str, Any]:
    """What part of the map of travel and twist stops and straps let it come to, and which of them hold it."""
    swept, corners = cycled.swept, cycled.design.corners
    cells = swept.places.map.ravel()
    reached = swept.traced.reached[0, cells]
    share = float(swept.allowed[0, cells][reached].mean()) if reached.any() else 1.0
    return {"share": share, "by": [one.id for one in (*corners.stops, *corners.straps)] if corners else []}


def _turned(here: Sweep) -> dict[str, float]:
    return {name: float(values[0]) for name, values in here.joints.items()}


def _carried(design: Design, mechanism: Mechanism, here: Sweep) -> dict[str, Any]:
    """What the links that carry something do to it in the pose that is looked at."""
    links = {spot.on for spot in parts_of(design).spots} - {"axle", "frame"}
    if not links or not here.reached[0]:
        return {}
    found = carried(mechanism, links, here.state)
    return {link: {"turn": one.turn[0].copy(), "shift": one.shift[0]} for link, one in found.items()}


def _sweep(sweep: Sweep, more: dict[str, Any], at: Any) -> dict[str, Any]:
    """A sweep's columns, and those of what runs with the axle at its poses."""
    ids = [column.id for column in COLUMNS]
    columns = dict(zip(ids, np.ascontiguousarray(np.round(sweep.table, _DIGITS)), strict=False))
    return {
        "columns": columns | {name: np.ascontiguousarray(values[at]) for name, values in more.items()},
        "reached": sweep.reached,
        "state": np.ascontiguousarray(np.round(sweep.state, _STATE_DIGITS)),
    }


class LookOut(Payload):
    """What a hand on the drawing looks at first: one pose, and the links."""

    links: list[LinkFigures]
    here: SweepOut
    misalignment: dict[str, float | None]
    carried: dict[str, CarriedOut]


@question("look", LookOut, "hand")
def one_pose(asked: InPose) -> Any:
    looked = look(design_from(asked.document), asked.travel, asked.articulation)
    return {
        "links": link_figures(looked.mechanism),
        "here": _sweep(looked.here, _rounded(looked.columns), np.array([-1])),
        "misalignment": _turned(looked.here),
        "carried": _carried(looked.design, looked.mechanism, looked.here),
    }


class EffectsIn(Payload):
    """What moves each figure? By `increment` mm of each free mount."""

    document: Document
    increment: Increment


@question("effects", dict[str, list[Effect]])
def effects(asked: EffectsIn) -> Any:
    return all_effects(design_from(asked.document), asked.increment)


class CuresIn(Payload):
    """What would cure this finding? Mounts in whole increments (mm); lengths said in `units`."""

    document: Document
    finding: str
    increment: Increment
    units: Units = "mm"


@question("cures", list[Cure])
def what_cures(asked: CuresIn) -> Any:
    return cures(design_from(asked.document), asked.finding, asked.increment, asked.units)


class SlackIn(Payload):
    """How far may what this finding rests on be off before its verdict changes? Of the inputs named, by their paths."""

    document: Document
    finding: str
    inputs: Annotated[list[str], Field(max_length=20)] | None = None


@question("slack", list[Slack])
def how_far_off(asked: SlackIn) -> Any:
    design = design_from(asked.document)
    with refusing("finding"):
        return slack(design, asked.finding, asked.inputs)


class SchoolIn(Payload):
    """What does the design's school come to in this design?"""

    document: Document
    units: Units = "mm"


class SchoolOut(Payload):
    says: str


@question("school", SchoolOut)
def school(asked: SchoolIn) -> Any:
    return {"says": school_says(design_from(asked.document), asked.units)}


class SettleIn(Payload):
    """What least movement of all free mounts, in whole increments (mm), brings every figure into its band?"""

    document: Document
    increment: Increment


@question("settle", Settled | None)
def settle_all(asked: SettleIn) -> Any:
    return settle(design_from(asked.document), asked.increment)


class WantedIn(Payload):
    """A figure of the cycle in one pose, and the value it should have."""

    figure: str
    travel: Anywhere = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0
    value: Anywhere


class PullIn(Payload):
    """What least movement of the free mounts, none beyond `within`, gives these figures? In whole increments, where one
    is given (mm)."""

    document: Document
    wanted: Annotated[list[WantedIn], Field(min_length=1, max_length=6)]
    within: Annotated[float, Field(gt=0, le=1000)] = PULL_WITHIN_MM
    increment: Increment | None = None


@question("pull", Pulled, "result")
def pull_a_result(asked: PullIn) -> Any:
    design = design_from(asked.document)
    wanted = [Wanted(**vars(one)) for one in asked.wanted]
    with refusing("wanted"):
        return pull(design, wanted, asked.within, asked.increment)


class ConvergeIn(Payload):
    """The links of a kind toward a point (x, z), their frame holes at station x; mm."""

    document: Document
    kind: Literal["lower", "upper"]
    point: tuple[float, float]
    station: float


@question("converge", list[Hole])
def converge(asked: ConvergeIn) -> Any:
    design = design_from(asked.document)
    with refusing("point"):
        return holes(design, asked.kind, asked.point, asked.station)


class LocatorIn(Payload):
    """Another locator in the place of the one there is, or none."""

    do: Literal["locator"]
    kind: Locator


class AddIn(Payload):
    """A link more."""

    do: Literal["add"]
    kind: LinkKind
    side: Side


class LeaveOutIn(Payload):
    do: Literal["leave_out"]
    link: Annotated[str, Field(max_length=200)]


class KindIn(Payload):
    """A link as another kind."""

    do: Literal["kind"]
    link: Annotated[str, Field(max_length=200)]
    kind: LinkKind


class LayoutIn(Payload):
    """The design with its layout changed, what is added standing on whole increments (mm)."""

    document: Document
    change: Annotated[LocatorIn | AddIn | LeaveOutIn | KindIn, Field(discriminator="do")]
    increment: Increment


class LayoutOut(Payload):
    document: Document


@question("layout", LayoutOut, name="change_layout")
def layout(asked: LayoutIn) -> Any:
    design, what = design_from(asked.document), asked.change.model_dump()
    do = what.pop("do")
    if do == "leave_out":
        changed = without_link(design, **what)
    elif do == "kind":
        changed = with_kind(design, **what)
    else:
        changed = (with_locator if do == "locator" else with_link)(design, **what, increment_mm=asked.increment)
    return {"document": design_data(changed)}
