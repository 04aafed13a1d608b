"""Answers as bytes: the core's arrays, values and stored texts, written without a detour through models."""

from collections.abc import Sequence
from typing import Any

import numpy as np
import orjson
from django.db.models import OuterRef, Subquery
from django.http import HttpResponse

from builds.actions import as_stored, newest_truck, on_truck, standing_now
from builds.models import Build, Revision, TruckRevision
from oak_lever.api import (
    A3_LANDSCAPE,
    BRIEF,
    COLUMNS,
    CURE_WITHIN_MM,
    FIGURES,
    JOINTS,
    PULL_WITHIN_MM,
    SCHOOLS,
    TRUCK_FIGURES,
    USES,
    Cycle,
    Refused,
    Sweep,
    Titles,
    Units,
    carried,
    changed_figures,
    changes,
    design_data,
    findings,
    judge,
    link_figures,
    links_sheet,
    only_read,
    overlays,
    parts_of,
    pdf,
    read_truck,
    separation,
    since,
    svg,
    table,
    truck_data,
)  # fmt: skip
from oak_lever.api import Design as Document

_DIGITS = 6  # a millionth of a millimeter or degree: far below what is shown, far shorter to send
_STATE_DIGITS = 9


def answer(data: Any, status: int = 200) -> HttpResponse:
    """JSON bytes; the core's values by their fields, numpy arrays as lists, NaN as null."""
    body = orjson.dumps(data, option=orjson.OPT_SERIALIZE_NUMPY | orjson.OPT_UTC_Z)
    return HttpResponse(body, status=status, content_type="application/json")


def build_data(build: Build, heads: dict[int, Revision]) -> dict[str, Any]:
    """A build with a line for each of its designs; `heads` are newest revisions by design."""
    truck = build.truck()
    return {
        "id": build.pk,
        "name": build.name,
        "notes": build.notes,
        "truck": truck.number if truck else None,
        "known": _known(truck),
        "designs": [_line(heads[design.pk]) for design in build.designs.all() if design.pk in heads],
    }


def _known(truck: TruckRevision | None) -> list[str]:
    """Which of a start's measures nobody needs to be asked."""
    if truck is None:
        return []
    rails = ["rail_underside", "rail_width"] if read_truck(truck.text).rails else []
    return ["tire_diameter", "track", "wheelbase", *rails]


def newest_revisions() -> dict[int, Revision]:
    """The newest revision of every design that has not been deleted."""
    newest = Revision.objects.filter(design=OuterRef("design")).order_by("-number").values("number")[:1]
    heads = Revision.objects.filter(design__deleted_at=None, number=Subquery(newest))
    return {revision.design_id: revision for revision in heads}


def _line(revision: Revision) -> dict[str, Any]:
    document = orjson.loads(revision.text)
    return {
        "id": revision.design_id,
        "name": revision.name,
        "end": document["axle"]["end"],
        "layout": _layout(document),
        "revision": revision.number,
        "changed_at": revision.created_at,
    }


_COUNTS = {1: "one link", 2: "two links", 3: "three links", 4: "four links", 5: "five links", 6: "six links"}
_LATERAL = {"panhard": "panhard bar", "watts": "Watts link", "slider": "wishbone slider"}


def _layout(document: dict[str, Any]) -> str:
    """In the shop's words: "three links and a panhard bar"."""
    arms = sum(link["kind"] == "radius_arm" for link in document["links"])
    count = len(document["links"]) - arms
    parts = ["radius arms"] if arms else []
    parts += [_COUNTS.get(count, f"{count} links")] if count else []
    parts += [f"a {_LATERAL[document['lateral']['kind']]}"] if document["lateral"] else []
    return " and ".join(parts)


def head_data(revision: Revision) -> dict[str, Any]:
    """A design's newest revision, on the truck as it stands now."""
    return _revision(revision, standing_now(revision), newest_truck(revision.design.build).number)


def stored_data(revision: Revision) -> dict[str, Any]:
    """A revision exactly as it was, on the truck that it was stored on."""
    return _revision(revision, as_stored(revision), revision.truck)


def _revision(revision: Revision, document: Document, truck: int) -> dict[str, Any]:
    build = revision.design.build
    return {
        "design": revision.design_id,
        "build": build.pk,
        "build_name": build.name,
        "number": revision.number,
        "truck": truck,
        "stored_on": revision.truck,
        "stored_at": revision.created_at,
        "document": design_data(document),
    }


def truck_answer(truck: TruckRevision) -> dict[str, Any]:
    """A truck revision, and what its designs take from it, by axle."""
    read = read_truck(truck.text)
    return {
        "build": truck.build_id,
        "number": truck.number,
        "stored_at": truck.created_at,
        "document": truck_data(read),
        "overlays": overlays(read),
    }


def since_data(revision: Revision) -> dict[str, Any]:
    """What changed on the truck since the revision was stored, and what that did to its figures."""
    old, new = revision.stood_on(), newest_truck(revision.design.build)
    if old.number == new.number:
        return {"changes": [], "figures": []}
    before, after = on_truck(revision, old), on_truck(revision, new)
    end = after.axle.end
    changed = changed_figures(read_truck(old.text), read_truck(new.text), end)
    return {"changes": changed, "figures": since(before, after)}


def refusal_data(refusal: Refused) -> dict[str, Any]:
    return {"message": "; ".join(map(str, refusal.faults)), "faults": refusal.faults}


def history_data(revisions: Sequence[Revision]) -> list[dict[str, Any]]:
    """A line for each of `revisions` (the oldest first), the newest first, with what changed since the one before."""
    documents = [as_stored(revision) for revision in revisions]
    lines = [
        {
            "number": revision.number,
            "name": revision.name,
            "stored_at": revision.created_at,
            "changes": changes(documents[n - 1], documents[n]) if n else [],
        }
        for n, revision in enumerate(revisions)
    ]
    return lines[::-1]


def register_data() -> dict[str, Any]:
    """All that the page needs to know of names, figures, parts and limits; it has none of its own."""
    return {
        "uses": [{"id": key, "name": name} for key, name in USES.items()],
        "schools": [{"id": key, "name": school.name, "buys": school.buys} for key, school in SCHOOLS.items()],
        "figures": FIGURES,
        "columns": COLUMNS,
        "parts": table(),
        "truck": TRUCK_FIGURES,
        "joints": [
            {"id": key, "name": kind.name, "limit": kind.limit, "give": kind.give} for key, kind in JOINTS.items()
        ],
        "caution": " ".join(BRIEF),
        "cure_within": CURE_WITHIN_MM,
        "pull_within": PULL_WITHIN_MM,
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
        "misalignment": {name: float(values[0]) for name, values in here.joints.items()},
        "carried": _carried(cycled, here),
    }


def _carried(cycled: Cycle, here: Sweep) -> dict[str, Any]:
    """What the links that carry something do to it in the pose that is looked at."""
    links = {spot.on for spot in parts_of(cycled.design).spots} - {"axle", "frame"}
    if not links or not here.reached[0]:
        return {}
    found = carried(cycled.swept.mechanism, links, here.state)
    return {link: {"turn": one.turn[0].copy(), "shift": one.shift[0]} for link, one in found.items()}


def _sweep(sweep: Sweep) -> dict[str, Any]:
    ids = [column.id for column in COLUMNS]
    return {
        "columns": dict(zip(ids, np.ascontiguousarray(np.round(sweep.table, _DIGITS)), strict=False)),
        "reached": sweep.reached,
        "state": np.ascontiguousarray(np.round(sweep.state, _STATE_DIGITS)),
    }


def file_name(name: str, number: int, kind: str) -> str:
    """A file's name from the document's: plain letters, digits and hyphens."""
    plain = "".join(char if char.isalnum() else "-" for char in name.lower()).strip("-")
    return f"{(plain.encode('ascii', 'ignore').decode() or 'design')}-r{number}.{kind}"


def sheet_of(revision: Revision, kind: str, units: Units) -> tuple[str | bytes, str]:
    """The shop drawing of a revision, and its media type."""
    build = revision.design.build
    titles = Titles(build.name, revision.number, f"{revision.created_at:%Y-%m-%d}")
    marks = links_sheet(standing_now(revision), units, titles)
    title = f"{revision.name}, revision {revision.number}"
    if kind == "pdf":
        return pdf(marks, A3_LANDSCAPE, title), "application/pdf"
    return svg(marks, A3_LANDSCAPE, title), "image/svg+xml"
