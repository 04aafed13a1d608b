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
    Mechanism,
    Onto,
    Paper,
    Refused,
    School,
    Sweep,
    Titles,
    Units,
    Use,
    Wanted,
    all_effects,
    budget,
    carried,
    clearances,
    clearing,
    csv_of,
    cures,
    cycle,
    design_data,
    design_from,
    envelopes,
    findings,
    from_dxf,
    from_stl,
    gaps_here,
    holes,
    judge,
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
    school_says,
    separation,
    settle,
    since,
    slack,
    starting_design,
    stations,
    svg,
    told,
    truck_from,
    tubes,
    under,
    unknown_mounts,
    with_kind,
    with_link,
    with_locator,
    without_link,
)  # fmt: skip

_DIGITS = 6  # a millionth of a millimeter or degree: far below what is shown, far shorter to send
_STATE_DIGITS = 9

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
        "here": _sweep(looked.here),
        "misalignment": _turned(looked.here),
        "carried": _carried(looked.design, looked.mechanism, looked.here),
    }


def cycle_data(cycled: Cycle) -> dict[str, Any]:
    here = cycled.here or cycled.ride
    judged = judge(cycled.swept)
    return {
        "located": cycled.located,
        "links": link_figures(cycled.swept.mechanism),
        "separation": separation(cycled.swept.mechanism),
        "stops": cycled.stops,
        "findings": findings(cycled, judged),
        "read": only_read(judged),
        "ride": _sweep(cycled.ride),
        "here": _sweep(here),
        "heave": _sweep(cycled.heave),
        "articulation": _sweep(cycled.articulation),
        "misalignment": _turned(here),
        "carried": _carried(cycled.design, cycled.swept.mechanism, here),
    }


def _turned(here: Sweep) -> dict[str, float]:
    return {name: float(values[0]) for name, values in here.joints.items()}


def _carried(design: Design, mechanism: Mechanism, here: Sweep) -> dict[str, Any]:
    """What the links that carry something do to it in the pose that is looked at."""
    links = {spot.on for spot in parts_of(design).spots} - {"axle", "frame"}
    if not links or not here.reached[0]:
        return {}
    found = carried(mechanism, links, here.state)
    return {link: {"turn": one.turn[0].copy(), "shift": one.shift[0]} for link, one in found.items()}


def _sweep(sweep: Sweep) -> dict[str, Any]:
    ids = [column.id for column in COLUMNS]
    return {
        "columns": dict(zip(ids, np.ascontiguousarray(np.round(sweep.table, _DIGITS)), strict=False)),
        "reached": sweep.reached,
        "state": np.ascontiguousarray(np.round(sweep.state, _STATE_DIGITS)),
    }


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
    return clearances(design_from(document)).data()


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


def _clearing(document: Any, a: str, b: str, increment: float, units: Units) -> Any:
    return clearing(design_from(document), a, b, increment, units)


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
    "clearing": _clearing,
    "places": _places,
    "room": _room,
    "stations": _stations,
    "bring": _bring,
    "copy": _copy,
    "drawing": _drawing,
}
