"""Answers as bytes: the core's arrays and stored texts, written without a detour through objects."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np
import orjson
from django.http import HttpResponse

from builds.models import Build, Design, Revision
from oak_lever.api import (
    FIGURES,
    SCHOOLS,
    USES,
    Cure,
    Cycle,
    DesignRefused,
    Effect,
    Pulled,
    Sweep,
    changes,
    findings,
    read_design,
)  # fmt: skip
from oak_lever.figures.links import link_figures, separation
from oak_lever.figures.rows import COLUMNS
from oak_lever.judge.findings import Bands
from oak_lever.sheet.links import Titles, links_sheet
from oak_lever.sheet.page import A3_LANDSCAPE
from oak_lever.sheet.writers import pdf, svg
from oak_lever.units import Units

_DIGITS = 6  # a millionth of a millimeter or degree: far below what is shown, far shorter to send


def answer(data: Any, status: int = 200) -> HttpResponse:
    """JSON bytes; numpy arrays as lists, NaN as null."""
    body = orjson.dumps(data, option=orjson.OPT_SERIALIZE_NUMPY | orjson.OPT_UTC_Z)
    return HttpResponse(body, status=status, content_type="application/json")


def build_data(build: Build, heads: dict[int, Revision]) -> dict[str, Any]:
    """A build with a line for each of its designs; `heads` are newest revisions by design."""
    return {
        "id": build.pk,
        "name": build.name,
        "notes": build.notes,
        "bands": build.bands,
        "designs": [_line(heads[design.pk]) for design in build.designs.all() if design.pk in heads],
    }


def newest_revisions() -> dict[int, Revision]:
    """The newest revision of every design that has not been deleted."""
    found = {}
    for revision in Revision.objects.filter(design__deleted_at=None).order_by("number"):
        found[revision.design_id] = revision
    return found


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


def revision_data(revision: Revision) -> dict[str, Any]:
    design: Design = revision.design
    return {
        "design": design.pk,
        "build": design.build_id,
        "build_name": design.build.name,
        "bands": design.build.bands,
        "number": revision.number,
        "stored_at": revision.created_at,
        "document": orjson.Fragment(revision.text),
    }


def refusal_data(refusal: DesignRefused) -> dict[str, Any]:
    faults = [{"path": fault.path, "message": fault.message} for fault in refusal.faults]
    return {"message": "; ".join(map(str, refusal.faults)), "faults": faults}


def history_data(revisions: Sequence[Revision]) -> list[dict[str, Any]]:
    """A line for each of `revisions` (the oldest first), the newest first, with what changed since the one before."""
    documents = [read_design(revision.text) for revision in revisions]
    lines = [
        {
            "number": revision.number,
            "name": revision.name,
            "stored_at": revision.created_at,
            "changes": [asdict(change) for change in changes(documents[n - 1], documents[n])] if n else [],
        }
        for n, revision in enumerate(revisions)
    ]
    return lines[::-1]


def effects_data(found: Sequence[Effect]) -> list[dict[str, Any]]:
    return [asdict(effect) for effect in found]


def cures_data(found: Sequence[Cure]) -> list[dict[str, Any]]:
    return [asdict(cure) for cure in found]


def pull_data(pulled: Pulled) -> dict[str, Any]:
    return {
        "at": pulled.at, "got": pulled.got, "met": pulled.met, "farthest": pulled.farthest, "free": pulled.free,
    }  # fmt: skip


def house_data() -> dict[str, Any]:
    return {
        "uses": [{"id": key, "name": name} for key, name in USES.items()],
        "schools": [{"id": key, "name": school.name, "buys": school.buys} for key, school in SCHOOLS.items()],
        "figures": [
            {"id": f.id, "name": f.name, "unit": f.unit, "meaning": f.meaning, "disagrees": f.disagrees}
            for f in FIGURES
        ],
    }


def cycle_data(cycled: Cycle, bands: Bands) -> dict[str, Any]:
    here = cycled.here or cycled.ride
    return {
        "located": cycled.located,
        "links": link_figures(cycled.design),
        "separation": separation(cycled.design),
        "stops": cycled.stops,
        "findings": [finding.data() for finding in findings(cycled, bands)],
        "ride": _sweep(cycled.ride),
        "here": _sweep(here),
        "heave": _sweep(cycled.heave),
        "articulation": _sweep(cycled.articulation),
        "misalignment": {name: float(values[0]) for name, values in here.joints.items()},
    }


def _sweep(sweep: Sweep) -> dict[str, Any]:
    return {
        "columns": dict(zip(COLUMNS, np.ascontiguousarray(np.round(sweep.table, _DIGITS)), strict=True)),
        "reached": sweep.reached,
        "state": np.ascontiguousarray(np.round(sweep.state, 9)),
    }


def file_name(revision: Revision, kind: str) -> str:
    """A file's name from the design's: plain letters, digits and hyphens."""
    plain = "".join(char if char.isalnum() else "-" for char in revision.name.lower()).strip("-")
    return f"{(plain.encode('ascii', 'ignore').decode() or 'design')}-r{revision.number}.{kind}"


def sheet_of(revision: Revision, kind: str, units: Units) -> tuple[str | bytes, str]:
    """The shop drawing of a revision, and its media type."""
    build = revision.design.build
    titles = Titles(build.name, revision.number, f"{revision.created_at:%Y-%m-%d}")
    marks = links_sheet(read_design(revision.text), units, titles, build.bands)
    title = f"{revision.name}, revision {revision.number}"
    if kind == "pdf":
        return pdf(marks, A3_LANDSCAPE, title), "application/pdf"
    return svg(marks, A3_LANDSCAPE, title), "image/svg+xml"
