"""Everything that changes what is kept: each action checks, then writes, in one transaction."""

import json
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from django.db import transaction
from django.utils import timezone

from builds.models import Build, Design, Revision, Stored, TruckRevision
from builds.packing import Damaged
from builds.quota import refuse_too_much
from oak_lever.api import Design as Document
from oak_lever.api import (
    Difference,
    Fault,
    Known,
    LayoutName,
    Meant,
    Refused,
    School,
    Source,
    Truck,
    Use,
    design_data,
    design_from,
    differences,
    first_truck,
    read_design,
    read_truck,
    resolved,
    split,
    stood_on,
    taken_keep_outs,
    truck_data,
    truck_from,
    with_figures,
    with_radius,
    with_station,
    write_design,
    write_truck,
)  # fmt: skip

End = Literal["front", "rear"]


class Conflict(Exception):
    """A save against a revision that is no longer the newest; `newest` is what stands now."""

    def __init__(self, newest: Stored) -> None:
        super().__init__(f"revision {newest.number} is newer")
        self.newest = newest


class Deleted(Exception):
    """The design has been deleted; its revisions are kept."""

    def __init__(self, design: Design) -> None:
        super().__init__("deleted")
        self.design = design


class BuildChanged(Exception):
    """A build was renamed, deleted or brought back since it was looked at; `newest` is how it stands now."""

    def __init__(self, newest: Build) -> None:
        super().__init__("the build was changed meanwhile")
        self.newest = newest


class Binned(Exception):
    """The build lies in the bin; nothing of it is changed there."""


class TruckDiffers(Exception):
    """A file brought in has figures of the truck otherwise than the build's truck: someone must say which stand."""

    def __init__(self, found: Sequence[Difference]) -> None:
        super().__init__("the file's truck differs")
        self.found = found


@dataclass(frozen=True)
class Measures:
    """What is measured on the first day, mm; None where the build's truck knows it."""

    tire_diameter: float | None = None
    track: float | None = None
    wheelbase: float | None = None
    rail_underside: float | None = None
    rail_width: float | None = None


@dataclass(frozen=True)
class Start:
    """What is to be started: its mounts stand on whole increments, mm."""

    name: str
    layout: LayoutName
    school: School
    use: Use
    end: Any
    increment: float = 1.0


@transaction.atomic
def create_build(name: str, notes: str = "") -> Build:
    return Build.objects.create(name=name, notes=notes)


def import_design(build_id: int, text: str | bytes, take: Collection[str] | None = None) -> Revision:
    """A new design in a build, from a design file's text, split from its truck.

    The first one says what the truck is. Of a later one, the truck takes the figures that `take` names by their paths
    in the file, and keeps its own for the rest.

    Raises:
        Build.DoesNotExist: no such build.
        Refused: the file's faults.
        TruckDiffers: where its figures of the truck differ and `take` is None.
    """
    return _bring(build_id, read_design(text), take)


@transaction.atomic
def _bring(
    build_id: int, document: Document, take: Collection[str] | None, sources: Mapping[str, Source] | None = None
) -> Revision:
    build = live_build(build_id)
    standing = build.truck()
    if standing is None:
        stored = _store_truck(build, 1, _sourced(first_truck(build.name, document), sources))
    else:
        truck = read_truck(standing.text)
        differing = differences(document, truck)
        if differing and take is None:
            raise TruckDiffers(differing)
        taken = taken_keep_outs(with_figures(truck, document, take or ()), document, only_new=True)
        changed = _sourced(taken, sources)
        stored = standing if changed == truck else _store_truck(build, standing.number + 1, changed)
    return _store(Design.objects.create(build=build), 1, document, stored.number)


def _sourced(truck: Truck, sources: Mapping[str, Source] | None) -> Truck:
    """The truck with where figures come from, by their paths."""
    if not sources:
        return truck
    data = truck_data(truck)
    return truck_from({**data, "sources": {**data.get("sources", {}), **sources}})


def start_question(build_id: int, start: Start, sizes: Measures) -> dict[str, Any]:
    """What a new design from a layout is worked out from. What the build's truck knows is taken from it and not asked
    again.

    Raises:
        Build.DoesNotExist: no such build.
        Refused: for measures missing where nothing knows them, or given where the truck does.
    """
    live_build(build_id)
    truck = _truck_of(build_id)
    known = _known(start.end, sizes, truck)
    use = (truck.use if truck else None) or start.use
    asked = {"name": start.name, "layout": start.layout, "school": start.school, "increment": start.increment}
    return {**asked, "known": known, "use": use}


def store_start(build_id: int, data: Any, sources: Mapping[str, Source]) -> Revision:
    """Take in a design that was worked out for a build; rails that its truck had not are the truck's from now on, in
    the way of both axles. `sources`: where the measures come from that were asked for.

    Raises:
        Build.DoesNotExist: no such build.
    """
    design, truck = design_from(data), _truck_of(build_id)
    if truck is not None:
        bare, _ = split(design)
        had = taken_keep_outs(with_figures(truck, design, () if truck.rails else ("rails",)), design, only_new=True)
        design = resolved(bare, had)
    paths = {path: said for measure, said in sources.items() for path in _measured(measure, design.axle.end)}
    return _bring(build_id, design, ("rails",), paths)


def _measured(measure: str, end: End) -> tuple[str, ...]:
    """The truck's figures that a measure asked at a start is."""
    known = {
        "wheelbase": ("axles.front.station", "axles.rear.station"),
        "rail_underside": ("rails.underside",),
        "rail_width": ("rails.outside_width",),
        **{name: (f"axles.{end}.{name}",) for name in ("tire_diameter", "track")},
    }
    if measure not in known:
        raise Refused([Fault(f"sources.{measure}", "is no measure of a start")])
    return known[measure]


def _truck_of(build_id: int) -> Truck | None:
    standing = Build.objects.get(pk=build_id).truck()
    return read_truck(standing.text) if standing else None


def _known(end: Any, sizes: Measures, truck: Truck | None) -> Known:
    knows: dict[str, float] = {}
    if truck is not None:
        axle = truck.axles.front if end == "front" else truck.axles.rear
        knows = {
            "tire_diameter": axle.tire_diameter,
            "track": axle.track,
            "wheelbase": truck.axles.front.station - truck.axles.rear.station,
        }
        if truck.rails is not None:
            knows |= {"rail_underside": truck.rails.underside, "rail_width": truck.rails.outside_width}
    faults, found = [], {}
    for measure, given in vars(sizes).items():
        if given is None and measure not in knows:
            faults.append(Fault(measure, "is missing: nothing says it yet"))
        elif given is not None and measure in knows and given != knows[measure]:
            faults.append(Fault(measure, "is known of this truck; change it there"))
        else:
            found[measure] = knows.get(measure, given)
    if faults:
        raise Refused(faults)
    cg_height = truck.vehicle.cg_height if truck else None
    radius = None if truck is None else getattr(truck.axles, end).tire_radius_loaded
    return Known(end, **found, cg_height=cg_height, tire_radius_loaded=radius)


def add_alternative(design_id: int, name: str, why: str) -> Revision:
    """A copy of a design's newest revision as a design of its own, under another name, with the reason for it.

    Raises:
        Design.DoesNotExist, Deleted: no such design, or no longer.
    """
    data = {**design_data(standing_now(live(design_id).head())), "name": name, "notes": why}
    return _bring(live(design_id).build_id, design_from(data), ())


def standing_now(revision: Revision) -> Document:
    """A revision on the truck as it stands now."""
    return on_truck(revision, newest_truck(revision.design.build))


def as_stored(revision: Revision) -> Document:
    """A revision on the truck that it was stored on: exactly what it was."""
    return on_truck(revision, revision.stood_on())


def on_truck(revision: Revision, truck: TruckRevision) -> Document:
    return resolved(json.loads(revision.text), read_truck(truck.text))


def newest_truck(build: Build) -> TruckRevision:
    """The truck of a build that has designs.

    Raises:
        TruckRevision.DoesNotExist: of one that has none.
    """
    truck = build.truck()
    if truck is None:
        raise TruckRevision.DoesNotExist("Truck of a build without designs")
    return truck


def file_text(revision: Revision) -> str:
    """A revision as a file that stands alone: on the truck as it stands now."""
    return write_design(standing_now(revision))


def save_revision(design_id: int, base: int, truck_number: int, data: Any) -> Revision:
    """Store an edited document made from revision `base`, as it stood on that truck revision; an unchanged document
    stores nothing new.

    A save that comes again, its answer having been lost on the way, is answered with what it stored.

    Raises:
        Design.DoesNotExist, Deleted: no such design, or no longer.
        Refused: the document's faults; figures of the truck that are not that truck's.
        Conflict: when `base` is not the newest revision.
    """
    document = design_from(data)
    with transaction.atomic():
        newest = live(design_id).head()
        _refuse_other_truck(document, newest.design.build, truck_number)
        truck = _with_keep_outs(document, newest, truck_number)
        if newest.text == bare_text(document) and newest.number in (base, base + 1) and truck == truck_number:
            return newest
        if newest.number != base:
            raise Conflict(newest)
        return _store(newest.design, base + 1, document, truck)


def _with_keep_outs(document: Document, head: Revision, number: int) -> int:
    """Keep-outs of the truck that were moved, added or taken away on a design are the truck's: its revision that has
    them so.

    Raises:
        Refused: where a design of the build could not stand on that truck.
        Conflict: where somebody changed the truck's keep-outs otherwise meanwhile.
    """
    build = head.design.build
    if document.as_found:
        return number
    seen = max(number, head.truck)  # what the revision that was edited stood on has its keep-outs
    was = read_truck(TruckRevision.objects.get(build=build, number=seen).text)
    wanted = taken_keep_outs(was, document)
    if wanted == was:
        return seen
    newest = newest_truck(build)
    standing = read_truck(newest.text)
    if standing.room == wanted.room:
        return newest.number
    if standing.room != was.room:
        raise Conflict(head)
    return save_truck(build.pk, newest.number, {**truck_data(standing), "room": truck_data(wanted)["room"]}).number


def _refuse_other_truck(document: Document, build: Build, number: int) -> None:
    """A design's edit does not change the truck in passing."""
    truck = TruckRevision.objects.filter(build=build, number=number).first()
    if truck is None:
        raise Refused([Fault("truck", f"there is no truck revision {number} of this build")])
    differing = differences(document, read_truck(truck.text))
    if differing:
        raise Refused([Fault(one.path, f"the {one.words} belongs to the truck; change it there") for one in differing])


def save_truck(build_id: int, base: int, data: Any) -> TruckRevision:
    """Store an edited truck made from revision `base` (0: the first of this build); an unchanged one is not stored.

    Raises:
        Build.DoesNotExist: no such build.
        Refused: the truck's faults, or those that a design of the build would have on it.
        Conflict: when `base` is not the newest revision.
    """
    truck = truck_from(data)
    with transaction.atomic():
        build = live_build(build_id)
        newest = build.truck()
        if newest is not None and newest.text == write_truck(truck) and newest.number in (base, base + 1):
            return newest
        if newest is not None and newest.number != base:
            raise Conflict(newest)
        for design in build.designs.filter(deleted_at=None):
            resolved(json.loads(design.head().text), truck)
        return _store_truck(build, newest.number + 1 if newest else 1, truck)


def move_axle(build_id: int, base: int, end: End, by: float) -> TruckRevision:
    """Move an axle, with all its links, fore-aft on the frame (mm, + forward): the truck's station, and in each design
    of that axle what stands on the frame beside it. One as found stays as it was found.

    Raises:
        Build.DoesNotExist: no such build, or one without a truck.
        Refused: where that makes no truck, or no design.
        Conflict: when `base` is not the truck's newest revision.
    """

    def moved(truck: Truck) -> Truck:
        data = truck_data(truck)
        data["axles"][end]["station"] += by
        return truck_from(data)

    return _restand(build_id, base, end, moved, lambda design: with_station(design, by))


def set_radius(build_id: int, base: int, end: End, radius: float, meant: Meant, source: Source) -> TruckRevision:
    """Set an axle's loaded radius (mm): as measured, the truck then standing lower or higher on it, links and all; or
    as a slip mended, every height staying. One as found stays as it was found.

    Raises: as `move_axle`.
    """

    def on_it(truck: Truck) -> Truck:
        data = truck_data(with_radius(truck, end, radius, meant))
        data.setdefault("sources", {})[f"axles.{end}.tire_radius_loaded"] = source
        return truck_from(data)

    return _restand(build_id, base, end, on_it, lambda design: stood_on(design, radius, meant))


def _restand(
    build_id: int, base: int, end: End, change: Callable[[Truck], Truck], along: Callable[[Document], Document]
) -> TruckRevision:
    """Change the truck and, with it, every design of one axle, in one transaction."""
    with transaction.atomic():
        build = live_build(build_id)
        newest = newest_truck(build)
        if newest.number != base:
            raise Conflict(newest)
        truck = change(read_truck(newest.text))
        heads = [design.head() for design in build.designs.filter(deleted_at=None)]
        moved = [
            (head, along(document))
            for head in heads
            if (document := on_truck(head, newest)).axle.end == end and not document.as_found
        ]
        for head in heads:
            resolved(json.loads(head.text), truck)
        stored = _store_truck(build, newest.number + 1, truck)
        for head, document in moved:
            if bare_text(document) != head.text:
                _store(head.design, head.number + 1, document, stored.number)
        return stored


def live_build(build_id: int, base: int | None = None) -> Build:
    """A build that is not in the bin; `base`: as it was when it was looked at.

    Raises:
        Build.DoesNotExist, Binned, Damaged.
        BuildChanged: where it is another since.
    """
    build = Build.objects.get(pk=build_id)
    if not build.is_sound:
        raise Damaged(build.in_words)
    if build.deleted_at is not None:
        raise Binned
    if base is not None and build.number != base:
        raise BuildChanged(build)
    return build


@transaction.atomic
def rename_build(build_id: int, base: int, name: str, notes: str) -> Build:
    """Give a build other words; those that it has already are no change.

    Raises: as `live_build`.
    """
    build = live_build(build_id)
    if (build.name, build.notes) == (name, notes) and build.number in (base, base + 1):
        return build
    build = live_build(build_id, base)
    build.name, build.notes = name, notes
    return _next(build)


@transaction.atomic
def delete_build(build_id: int, base: int) -> None:
    """Put a build with all its designs in the bin; nothing of it is lost.

    Raises: as `live_build`.
    """
    build = live_build(build_id, base)
    build.deleted_at = timezone.now()
    _next(build)


@transaction.atomic
def restore_build(build_id: int) -> Build:
    """Bring a build back from the bin; one that is back already stays as it is."""
    build = Build.objects.get(pk=build_id)
    if build.deleted_at is None:
        return build
    build.deleted_at = None
    return _next(build)


def _next(build: Build) -> Build:
    build.number += 1
    build.save()
    return build


def live(design_id: int) -> Design:
    """A design that has not been deleted, by itself or with its build.

    Raises:
        Design.DoesNotExist, Deleted, Damaged.
    """
    design = Design.objects.select_related("build").get(pk=design_id)
    if not design.is_sound:
        raise Damaged(design.in_words)
    if design.deleted_at is not None or design.build.deleted_at is not None:
        raise Deleted(design)
    return design


@transaction.atomic
def rename_design(design_id: int, base: int, name: str) -> Revision:
    """A revision with another name, made from revision `base`.

    Raises:
        Design.DoesNotExist, Deleted, Refused.
        Conflict: when `base` is not the newest revision.
    """
    head = live(design_id).head()
    document = design_from({**design_data(standing_now(head)), "name": name})
    if head.name == name and head.number in (base, base + 1):
        return head
    if head.number != base:
        raise Conflict(head)
    return _store(head.design, base + 1, document, newest_truck(head.design.build).number)


@transaction.atomic
def delete_design(design_id: int, base: int) -> None:
    """Take a design off the floor, as it stood at revision `base`. Its revisions are kept, and it can be brought back.

    Raises:
        Design.DoesNotExist, Deleted.
        Conflict: when `base` is not the newest revision.
    """
    design = live(design_id)
    newest = design.revisions.order_by("-number").values_list("number", flat=True).first()
    if newest != base:
        raise Conflict(design.head())
    design.deleted_at = timezone.now()
    design.save()


@transaction.atomic
def restore_design(design_id: int) -> Revision:
    """Bring a deleted design back, and its build where that was deleted too."""
    design = Design.objects.select_related("build").get(pk=design_id)
    design.deleted_at = None
    design.save()
    if design.build.deleted_at is not None:
        restore_build(design.build_id)
    return design.head()


def bare_text(document: Document) -> str:
    """A design's file as it is kept: without the truck's figures."""
    return json.dumps(split(document)[0], indent=2, ensure_ascii=False, allow_nan=False) + "\n"


def _store(design: Design, number: int, document: Document, truck: int) -> Revision:
    refuse_too_much(document)
    return Revision.write(bare_text(document), number, design=design, name=document.name, truck=truck)


def _store_truck(build: Build, number: int, truck: Truck) -> TruckRevision:
    refuse_too_much(truck)
    return TruckRevision.write(write_truck(truck), number, build=build)
