"""What is computed, by its name: each job takes plain values and makes the bytes of an answer.

Runs in processes of its own (see `workers`), so nothing here reads or writes what is kept.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any, Literal, NamedTuple

import numpy as np
import orjson

from oak_lever.api import (
    COLUMNS,
    PAPERS,
    UP_SHARES,
    Brackets,
    Cycle,
    Design,
    Fault,
    FileUnit,
    Known,
    LayoutName,
    Load,
    Mechanism,
    Onto,
    Paper,
    Refused,
    School,
    Sitting,
    Sweep,
    Titles,
    Units,
    Use,
    Want,
    Wanted,
    aim,
    all_effects,
    bar_rate,
    budget,
    carried,
    clearances,
    csv_of,
    cures,
    cycle,
    design_data,
    design_from,
    envelopes,
    explained,
    findings,
    findings_on,
    from_dxf,
    from_stl,
    gap_findings,
    gap_map,
    gaps_here,
    hand_check,
    holes,
    instead,
    joint_left,
    joint_rows,
    judge,
    ladder,
    link_figures,
    links_sheet,
    look,
    only_read,
    onto_housing,
    parts_of,
    pdf,
    pull,
    ranked,
    room_dxf,
    run_pull,
    run_slopes,
    school_says,
    separation,
    settle,
    shock_places,
    since,
    slack,
    spaced,
    starting_design,
    stations,
    svg,
    told,
    truck_from,
    tubes,
    turn_by,
    under,
    unknown_mounts,
    variants,
    whole_map,
    with_kind,
    with_link,
    with_locator,
    without_link,
)  # fmt: skip

_DIGITS = 6  # a millionth of a millimeter or degree: far below what is shown, far shorter to send
_STATE_DIGITS = 9
_RUN_DIGITS = 4  # of what runs with the axle there are many columns

JSON = "application/json"


class Done(NamedTuple):
    """An answer: its status, its bytes, and what they are."""

    status: int
    body: bytes
    media: str = JSON


def json_bytes(data: Any) -> bytes:
    """The core's values by their fields, numpy arrays as lists, NaN as null."""
    return orjson.dumps(data, option=orjson.OPT_SERIALIZE_NUMPY | orjson.OPT_UTC_Z)


def refusal_data(refusal: Refused) -> dict[str, Any]:
    return {"message": "; ".join(map(str, refusal.faults)), "faults": refusal.faults}


def done(job: str, given: dict[str, Any]) -> Done:
    """The answer to a job, a refusal among them."""
    try:
        said = JOBS[job](**given)
    except Refused as refusal:
        return Done(422, json_bytes(refusal_data(refusal)))
    return said if isinstance(said, Done) else Done(200, json_bytes(said))


def _cycle(document: Any, travel: float, articulation: float) -> dict[str, Any]:
    return cycle_data(cycle(design_from(document), here=(travel, articulation)))


def _look(document: Any, travel: float, articulation: float) -> dict[str, Any]:
    looked = look(design_from(document), travel, articulation)
    return {
        "links": link_figures(looked.mechanism),
        "here": _sweep(looked.here, _rounded(looked.columns), np.array([-1])),
        "misalignment": _turned(looked.here),
        "carried": _carried(looked.design, looked.mechanism, looked.here),
    }


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


def _corners(
    document: Any, loads: list[Load], wanted: float, turn: float, spacer: float, height: float
) -> dict[str, Any]:
    design = design_from(document)
    rungs = ladder(design)
    if not rungs or design.corners is None:
        return {"ladder": rungs, "sits": [], "turns": [], "sliders": [], "springs": [], "instead": [], "inflated": [],
                "filled": [], "spacers": {}}  # fmt: skip
    sitting = Sitting(design)
    coils = [one.id for one in design.corners.shocks if one.spring]
    aired = sorted({0.0, *(one.air.pressure * part for one in design.corners.shocks if one.air for part in (1.0, 1.6))})
    return {
        "ladder": rungs,
        "sits": [sitting.sits(), *(sitting.sits(load) for load in loads)],
        "turns": sitting.turns(turn),
        "sliders": sitting.sliders(),
        "springs": sitting.offered(coils, wanted) if coils else [],
        "instead": instead(sitting, coils, wanted),
        "filled": sitting.filled_at([n * height for n in range(-3, 4)]) if len(aired) > 1 else [],
        "inflated": sitting.inflated(aired) if len(aired) > 1 else [],
        "spacers": {one.id: spaced(design, one.id, [n * spacer for n in range(-2, 5)]) for one in design.corners.stops},
        "bar_rate": bar_rate(design),
    }


def _shock_places(document: Any, shock: str, increment: float, units: Units) -> Any:
    design = design_from(document)
    with _refusing("shock"):
        return shock_places(design, shock, increment, units)


def _run_pull(document: Any, wanted: list[Want], increment: float | None) -> Any:
    design = design_from(document)
    with _refusing("wanted"):
        return run_pull(design, wanted, increment)


def _run_effects(document: Any, check: str, increment: float) -> Any:
    return [
        {"axis": shift.axis, "mounts": shift.mounts, "change": change}
        for shift, change in run_slopes(design_from(document), check, increment)
    ]


def _turn(document: Any, **read: Any) -> Any:
    design = design_from(document)
    with _refusing("driveshaft"):
        return {"aim": aim(design), "turned": turn_by(design, **read)}


def _map(document: Any, gaps: bool) -> Any:
    found = gap_map(design_from(document)) if gaps else whole_map(design_from(document))
    fields = {name: np.ascontiguousarray(np.round(values, 3)) for name, values in found.fields.items()}
    return {
        "travel": found.travel, "articulation": found.articulation, "fields": fields,
        "allowed": np.ascontiguousarray(found.allowed),
    }  # fmt: skip


def _schools(document: Any, units: Units) -> Any:
    return variants(design_from(document), units)


def _joints(document: Any) -> Any:
    rows, softer = joint_rows(cycle(design_from(document)))
    return {"joints": rows, "softer": softer}


def _hand(document: Any, units: Units) -> Any:
    return hand_check(design_from(document), units)


def _complaints(document: Any) -> Any:
    design = design_from(document)
    return explained(design, findings_on(design))


def _effects(document: Any, increment: float) -> Any:
    return all_effects(design_from(document), increment)


def _cures(document: Any, finding: str, increment: float, units: Units) -> Any:
    return cures(design_from(document), finding, increment, units)


def _slack(document: Any, finding: str, inputs: list[str] | None) -> Any:
    design = design_from(document)
    with _refusing("finding"):
        return slack(design, finding, inputs)


def _school(document: Any, units: Units) -> Any:
    return {"says": school_says(design_from(document), units)}


def _settle(document: Any, increment: float) -> Any:
    return settle(design_from(document), increment)


def _pull(document: Any, wanted: list[Wanted], within: float, increment: float | None) -> Any:
    design = design_from(document)
    with _refusing("wanted"):
        return pull(design, wanted, within, increment)


def _converge(document: Any, kind: Literal["lower", "upper"], point: tuple[float, float], station: float) -> Any:
    design = design_from(document)
    with _refusing("point"):
        return holes(design, kind, point, station)


def _layout(document: Any, change: dict[str, Any], increment: float) -> dict[str, Any]:
    design, what = design_from(document), dict(change)
    do = what.pop("do")
    if do == "leave_out":
        changed = without_link(design, **what)
    elif do == "kind":
        changed = with_kind(design, **what)
    else:
        changed = (with_locator if do == "locator" else with_link)(design, **what, increment_mm=increment)
    return {"document": design_data(changed)}


def _clear(document: Any) -> Any:
    design = design_from(document)
    return clearances(design, shocks=True, allowed=True).data() | {"findings": gap_findings(design)}


def _gaps(document: Any, travel: float, articulation: float) -> Any:
    return gaps_here(design_from(document), travel, articulation)


def _baseline(truck: Any, designs: list[Any], units: Units) -> Any:
    standing = [design_from(one) for one in designs]
    return told(truck_from(truck), {one.axle.end: one for one in standing}, units)


def _since(before: Any, after: Any) -> Any:
    return since(design_from(before), design_from(after))


def _start(name: str, layout: LayoutName, school: School, known: Known, use: Use, increment: float) -> dict[str, Any]:
    return design_data(starting_design(name, layout, school, known, use, increment))


def _sheet(document: Any, kind: Literal["svg", "pdf"], units: Units, titles: Titles, paper: Paper) -> Done:
    design = design_from(document)
    pages = links_sheet(design, units, titles, paper)
    title = f"{design.name}, revision {titles.revision}"
    if kind == "pdf":
        return Done(200, pdf(pages, PAPERS[paper], title), "application/pdf")
    return Done(200, svg(pages, PAPERS[paper], title).encode(), "image/svg+xml")


@contextmanager
def _refusing(field: str) -> Iterator[None]:
    """What the core says is wrong with one field of the question, as a refusal at that field."""
    try:
        yield
    except Refused:
        raise
    except ValueError as error:
        raise Refused([Fault(field, str(error))]) from None


def _rows(document: Any) -> Done:
    cycled = cycle(design_from(document))
    return Done(200, csv_of([cycled.heave, cycled.articulation]).encode(), "text/csv; charset=utf-8")


def _places(document: Any, mount: str, increment: float) -> Any:
    design = design_from(document)
    with _refusing("mount"):
        return ranked(design, mount, increment)


def _room(document: Any, bracket: float) -> dict[str, Any]:
    design = design_from(document)
    low, high, why = UP_SHARES[design.use or "trail"]
    return {
        "budget": budget(design),
        "up_share": {"low": low, "high": high, "why": why},
        "tires": envelopes(design),
        "stations": stations(design),
        "tubes": tubes(design, bracket),
        "under": under(design),
        "unknown": [{"zone": zone.name or zone.id, "mount": name} for zone, name in unknown_mounts(design)],
    }


def _stations(document: Any, moved: list[float]) -> Any:
    return stations(design_from(document), moved)


def _bring(
    kind: Literal["stl", "dxf"], data: bytes, name: str, unit: FileUnit, along: Literal["x", "y", "z"], start: float,
    end: float,
) -> Any:  # fmt: skip
    return from_stl(data, name, unit) if kind == "stl" else from_dxf(data, name, along, start, end, unit)


def _copy(document: Any, onto: Onto, brackets: Brackets, units: Units) -> Any:
    return onto_housing(design_from(document), onto, brackets, units)


def _drawing(document: Any, titles: Titles) -> Done:
    return Done(200, room_dxf(design_from(document), titles).encode(), "image/vnd.dxf")


JOBS: dict[str, Callable[..., Any]] = {
    "cycle": _cycle,
    "look": _look,
    "effects": _effects,
    "corners": _corners,
    "turn": _turn,
    "map": _map,
    "schools": _schools,
    "joints": _joints,
    "hand": _hand,
    "complaints": _complaints,
    "shock_places": _shock_places,
    "run_pull": _run_pull,
    "run_effects": _run_effects,
    "cures": _cures,
    "slack": _slack,
    "school": _school,
    "settle": _settle,
    "pull": _pull,
    "converge": _converge,
    "baseline": _baseline,
    "clear": _clear,
    "gaps": _gaps,
    "layout": _layout,
    "since": _since,
    "start": _start,
    "sheet": _sheet,
    "rows": _rows,
    "places": _places,
    "room": _room,
    "stations": _stations,
    "bring": _bring,
    "copy": _copy,
    "drawing": _drawing,
}
