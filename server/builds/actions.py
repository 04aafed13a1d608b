"""Everything that changes what is kept: each action checks, then writes, in one transaction."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from builds.models import Build, Design, Revision
from oak_lever.api import FIGURES, DesignRefused, Fault, design_data, design_from, read_design, write_design
from oak_lever.api import Design as Document


class Conflict(Exception):
    """A save against a revision that is no longer the newest; `newest` is what stands now."""

    def __init__(self, newest: Revision) -> None:
        super().__init__(f"revision {newest.number} is newer")
        self.newest = newest


class Deleted(Exception):
    """The design has been deleted; its revisions are kept."""

    def __init__(self, design: Design) -> None:
        super().__init__("deleted")
        self.design = design


@transaction.atomic
def create_build(name: str, notes: str = "") -> Build:
    return Build.objects.create(name=name, notes=notes)


def import_design(build_id: int, text: str | bytes) -> Revision:
    """A new design in a build, from a design file's text.

    Raises:
        Build.DoesNotExist: no such build.
        DesignRefused: the file's faults.
    """
    document = read_design(text)
    with transaction.atomic():
        build = Build.objects.get(pk=build_id)
        return _write(Design.objects.create(build=build), 1, document)


@transaction.atomic
def set_bands(build_id: int, bands: dict[str, Any]) -> Build:
    """The build's own bands, by figure, instead of those it had.

    Raises:
        Build.DoesNotExist: no such build.
        DesignRefused: a figure that nothing is judged by.
    """
    unknown = sorted(set(bands) - {figure.id for figure in FIGURES})
    if unknown:
        raise DesignRefused([Fault(f"bands.{name}", "is not a figure that is judged") for name in unknown])
    build = Build.objects.get(pk=build_id)
    build.bands = bands
    build.save()
    return build


def add_alternative(design_id: int, name: str, why: str) -> Revision:
    """A copy of a design's newest revision as a design of its own, under another name, with the reason for it.

    Raises:
        Design.DoesNotExist, Deleted: no such design, or no longer.
    """
    design = live(design_id)
    data = {**design_data(read_design(design.head().text)), "name": name, "notes": why}
    return import_design(design.build_id, write_design(design_from(data)))


def file_text(revision: Revision) -> str:
    """A revision as a file that stands alone: the build's bands, which it is judged by here, written into it."""
    bands = revision.design.build.bands
    if not bands:
        return revision.text
    data = design_data(read_design(revision.text))
    return write_design(design_from({**data, "bands": {**(data.get("bands") or {}), **bands}}))


def save_revision(design_id: int, base: int, data: Any) -> Revision:
    """Store an edited document made from revision `base`; an unchanged document stores nothing new.

    A save that comes again, its answer having been lost on the way, is answered with what it stored.

    Raises:
        Design.DoesNotExist, Deleted: no such design, or no longer.
        DesignRefused: the document's faults.
        Conflict: when `base` is not the newest revision.
    """
    document = design_from(data)
    with transaction.atomic():
        newest = live(design_id).head()
        if newest.text == write_design(document) and newest.number in (base, base + 1):
            return newest
        if newest.number != base:
            raise Conflict(newest)
        return _write(newest.design, base + 1, document)


def live(design_id: int) -> Design:
    """A design that has not been deleted.

    Raises:
        Design.DoesNotExist, Deleted.
    """
    design = Design.objects.select_related("build").get(pk=design_id)
    if design.deleted_at is not None:
        raise Deleted(design)
    return design


@transaction.atomic
def delete_design(design_id: int) -> None:
    """Take a design off the floor. Its revisions are kept, and it can be brought back."""
    design = live(design_id)
    design.deleted_at = timezone.now()
    design.save()


@transaction.atomic
def restore_design(design_id: int) -> Revision:
    """Bring a deleted design back."""
    design = Design.objects.get(pk=design_id)
    design.deleted_at = None
    design.save()
    return design.head()


def _write(design: Design, number: int, document: Document) -> Revision:
    return Revision.objects.create(design=design, number=number, name=document.name, text=write_design(document))
