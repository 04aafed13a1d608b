"""What is said of what is kept: stored texts and what the core reads in them, without a detour through models."""

import shutil
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

import orjson
from django.db import DatabaseError
from django.db.models import OuterRef, Q, Subquery
from django.http import HttpResponse

from builds import workers
from builds.actions import as_stored, newest_truck, on_truck, standing_now
from builds.long_work import Look
from builds.models import Build, Design, Notice, Revision, Sealed, Stored, StoredQuerySet, TruckRevision, fetched
from builds.packing import Damaged
from builds.questions.asking import JSON, json_bytes
from builds.store import places
from oak_lever.api import (
    BRIEF,
    COLUMNS,
    CURE_WITHIN_MM,
    FIGURES,
    GATES,
    JOB_STEPS,
    JOINTS,
    PULL_WITHIN_MM,
    SCHOOLS,
    TRUCK_FIGURES,
    USES,
    Change,
    Difference,
    Titles,
    additions,
    changed_figures,
    changes,
    design_data,
    guessed_figures,
    overlays,
    read_truck,
    table,
    truck_data,
)  # fmt: skip
from oak_lever.api import Design as Document


def answer(data: Any, status: int = 200) -> HttpResponse:
    """JSON bytes."""
    return HttpResponse(json_bytes(data), status=status, content_type=JSON)


BUILDS_A_PAGE = 20
LINES_A_PAGE = 50


def builds_page(find: str, before: int | None) -> dict[str, Any]:
    """Builds, the newest first: those with `find` in their words or a design's name, older than build `before`."""
    builds = Build.objects.filter(deleted_at=None).order_by("-pk")
    if find:
        named = newest_revisions().filter(name__icontains=find).values("design__build")
        builds = builds.filter(Q(name__icontains=find) | Q(notes__icontains=find) | Q(pk__in=named))
    if before is not None:
        builds = builds.filter(pk__lt=before)
    found, lost = fetched(builds[: BUILDS_A_PAGE + 1])
    page, last = found[:BUILDS_A_PAGE], len(found) + len(lost) <= BUILDS_A_PAGE
    notices = [{"id": one.pk, "words": one.words, "at": one.created_at} for one in Notice.objects.all()]
    return {
        "builds": builds_data([one for one in page if one.is_sound]),
        "before": None if last else min([one.pk for one in page] or lost),
        "notices": notices,
        "unreadable": unreadable("build", lost, page),
    }


def unreadable(kind: str, lost: Sequence[int], found: Sequence[Sealed]) -> list[str]:
    """In words, the rows that can't be fetched, and those that are not as they were written."""
    return [f"{kind} {one}" for one in sorted({*lost, *(row.pk for row in found if not row.is_sound)})]


def builds_data(builds: Sequence[Build]) -> list[dict[str, Any]]:
    """Builds, each with its truck's number and a line for each of its designs."""
    newest = TruckRevision.objects.filter(build=OuterRef("build")).order_by("-number").values("number")[:1]
    trucks = TruckRevision.objects.readable().filter(build__in=builds, number=Subquery(newest))
    of_build = {truck.build_id: truck for truck in fetched(trucks)[0]}
    lines: dict[int, list[dict[str, Any]]] = {}
    heads = newest_revisions().filter(design__build__in=builds).select_related("design").order_by("design")
    for head in fetched(heads)[0]:
        lines.setdefault(head.design.build_id, []).append(_line(head))
    return [
        {
            "id": build.pk,
            "number": build.number,
            "name": build.name,
            "notes": build.notes,
            "truck": of_build[build.pk].number if build.pk in of_build else None,
            "known": _known(of_build.get(build.pk)),
            "designs": lines.get(build.pk, []),
        }
        for build in builds
    ]


def bin_data() -> dict[str, Any]:
    """What was deleted and can be brought back, the last first."""
    binned = Build.objects.exclude(deleted_at=None).order_by("-deleted_at")
    gone = Design.objects.exclude(deleted_at=None).filter(build__deleted_at=None).select_related("build")
    (builds, lost), (designs, lost_designs) = fetched(binned), fetched(gone.order_by("-deleted_at"))
    return {
        "builds": [{"id": one.pk, "name": one.name, "deleted_at": one.deleted_at} for one in builds if one.is_sound],
        "designs": [
            {"id": one.pk, "name": _last_name(one), "build": one.build.name, "deleted_at": one.deleted_at}
            for one in designs
            if one.is_sound and one.build.is_sound
        ],
        "unreadable": unreadable("build", lost, builds) + unreadable("design", lost_designs, designs),
    }


def _last_name(design: Design) -> str:
    """What a design was called last, as far as that can be read."""
    names = design.revisions.order_by("-number").values_list("name", flat=True)
    try:
        return str(names.first() or design)
    except DatabaseError:
        return str(design)


def _known(truck: TruckRevision | None) -> list[str]:
    """Which of a start's measures nobody needs to be asked."""
    try:
        document = None if truck is None else orjson.loads(truck.text)
    except Damaged:
        document = None
    if document is None:
        return []
    rails = ["rail_underside", "rail_width"] if document.get("rails") else []
    return ["tire_diameter", "track", "wheelbase", *rails]


def newest_revisions() -> StoredQuerySet:
    """The newest revision of every design that has not been deleted."""
    newest = Revision.objects.filter(design=OuterRef("design")).order_by("-number").values("number")[:1]
    return Revision.objects.readable().filter(design__deleted_at=None, number=Subquery(newest))


def _line(revision: Revision) -> dict[str, Any]:
    try:
        document = orjson.loads(revision.text)
        what = {"end": document["axle"]["end"], "layout": _layout(document), "why": _why(document), "damaged": False}
    except Damaged:
        what = {"end": None, "layout": "", "why": "", "damaged": True}
    return {
        "id": revision.design_id,
        "name": revision.name,
        **what,
        "revision": revision.number,
        "changed_at": revision.created_at,
    }


_WHY_LETTERS = 300


def _why(document: dict[str, Any]) -> str:
    """Why there is this design: the first line of its notes."""
    first = (document.get("notes") or "").strip().partition("\n")[0]
    return first if len(first) <= _WHY_LETTERS else first[: _WHY_LETTERS - 1] + "…"


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


def made_data(made: Build | Stored) -> dict[str, Any]:
    """What a change made, or what stands in its way, as it is now."""
    if isinstance(made, Build):
        return builds_data([made])[0]
    if isinstance(made, TruckRevision):
        return truck_answer(made)
    assert isinstance(made, Revision)
    return head_data(made)


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


def since_question(revision: Revision) -> tuple[list[Difference], dict[str, Any]]:
    """What changed on the truck since the revision was stored; and the question what that did to its figures."""
    old, new = revision.stood_on(), newest_truck(revision.design.build)
    before, after = on_truck(revision, old), on_truck(revision, new)
    changed = [] if after.as_found else changed_figures(read_truck(old.text), read_truck(new.text), after.axle.end)
    return changed, {"before": design_data(before), "after": design_data(after)}


def history_page(design: Design, before: int | None) -> dict[str, Any]:
    """Lines of a design's revisions, the newest first, older than revision `before`, each with what it changed."""
    rows = design.revisions.readable().select_related("design").order_by("-number")
    if before is not None:
        rows = rows.filter(number__lt=before)
    found = list(rows[: LINES_A_PAGE + 1])
    page = found[:LINES_A_PAGE]
    on = {row.number: row for row in TruckRevision.objects.readable().filter(
        build=design.build_id, number__in={row.truck for row in found})}  # fmt: skip
    documents = [_readable(row, on.get(row.truck)) for row in found]
    lines = [
        {
            "number": row.number,
            "name": row.name,
            "stored_at": row.created_at,
            "first": n + 1 == len(found),
            "damaged": documents[n] is None,
            "changes": _changes(*documents[n : n + 2]),
        }
        for n, row in enumerate(page)
    ]
    return {"lines": lines, "before": page[-1].number if len(found) > len(page) else None}


def _readable(revision: Revision, truck: TruckRevision | None) -> Document | None:
    try:
        return on_truck(revision, truck) if truck else None
    except Damaged:
        return None


def _changes(new: Document | None, old: Document | None = None) -> list[Change]:
    return changes(old, new) if new and old else []


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
        "additions": additions(),
        "job_steps": JOB_STEPS,
        "gates": GATES,
        "caution": " ".join(BRIEF),
        "cure_within": CURE_WITHIN_MM,
        "pull_within": PULL_WITHIN_MM,
    }


def file_name(name: str, number: int, kind: str) -> str:
    """A file's name from the document's: plain letters, digits and hyphens."""
    plain = "".join(char if char.isalnum() else "-" for char in name.lower()).strip("-")
    return f"{(plain.encode('ascii', 'ignore').decode() or 'design')}-r{number}.{kind}"


def sheet_question(revision: Revision, then: bool = False) -> dict[str, Any]:
    """What the shop drawing of a revision is made from: on the truck as it is now, or as it was `then`."""
    design = revision.design
    guessed = tuple(guessed_figures(read_truck(newest_truck(design.build).text), standing_now(revision).axle.end))
    titles = Titles(design.build.name, revision.number, f"{revision.created_at:%Y-%m-%d}", guessed)
    document = as_stored(revision) if then else standing_now(revision)
    return {"document": design_data(document), "titles": titles}


def fit_question(revision: Revision) -> dict[str, Any]:
    """What the fit-up sheet of a design is made from: with what is kept of its axle's fit-up beside the truck."""
    asked = sheet_question(revision)
    truck = truck_data(read_truck(newest_truck(revision.design.build).text))
    return {**asked, "record": (truck.get("fit_up") or {}).get(asked["document"]["axle"]["end"]) or {}}


def rows_question(revision: Revision) -> dict[str, Any]:
    return {"document": design_data(standing_now(revision))}


def work_data(look: Look) -> dict[str, Any]:
    """Long work as it is now, its result as the bytes that it left."""
    result = None if look.result is None else orjson.Fragment(look.result)
    return {**look._asdict(), "result": result}


def health_data() -> dict[str, Any]:
    """Whether the store can be read, how much it holds and what room is left for it; when it was last backed up; how
    many questions are being worked out."""
    store, newest = places.store(), next(iter(places.newest_backups()), None)
    files = [file for file in (store, *places.beside(store)) if file.exists()]
    return {
        "builds": Build.objects.count(),
        "store_mb": round(sum(file.stat().st_size for file in files) / 1e6, 1),
        "free_mb": round(shutil.disk_usage(store.parent).free / 1e6),
        "backed_up_at": None if newest is None else datetime.fromtimestamp(newest.stat().st_mtime, UTC),
        "notices": Notice.objects.count(),
        "computing": sum(pool.at_work for pool in workers.POOLS.values()),
    }
