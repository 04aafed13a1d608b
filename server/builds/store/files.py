"""Everything in the store as open files, and back: builds, trucks, designs, every revision of them."""

import json
from pathlib import Path
from typing import Any

from django.db import transaction
from django.utils.dateparse import parse_datetime

from builds.actions import as_stored, bare_text
from builds.models import Build, Design, Revision, TruckRevision
from builds.packing import Damaged
from oak_lever.api import Fault, Refused, read_design, read_truck, write_design

FORMAT, VERSION = "oak-lever-build", 1
_BARE = ".bare.json"

_README = f"""Everything that was in an Oak Lever store, as open files.

A folder for each build:
  build.json               its name, its notes, when it was started; when it was deleted, if it was
  truck/rNNNNNN.json       each revision of its truck file
  designs/*/rNNNNNN.json   each revision of a design, on the truck that it was stored on: a file that stands alone
  .../history.json         when each revision was stored, a design's on which revision of the truck; when the design was
                           deleted, if it was

rNNNNNN{_BARE} is a design that no longer reads as one: its text as it is kept, without the truck's figures.
All of it is read in again by: make import-all FROM=this-folder
"""


def write_all(folder: Path) -> list[str]:
    """Write everything to a folder, which must be empty or not there yet.

    Returns:
        what could not be read, in words.

    Raises:
        FileExistsError.
    """
    if folder.exists() and any(folder.iterdir()):
        raise FileExistsError(f"{folder} is not empty")
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "README.txt").write_text(_README)
    lost: list[str] = []
    for build in Build.objects.order_by("pk"):
        place = folder / _name(build.pk, build.name)
        dates = _dates(build)
        about = {"format": FORMAT, "version": VERSION, "name": build.name, "notes": build.notes, **dates}
        _write(place / "build.json", about)
        _write_trucks(place / "truck", build, lost)
        for design in build.designs.order_by("pk"):
            _write_design(place / "designs" / _name(design.pk, design.head().name), design, lost)
    return lost


def _name(number: int, name: str) -> str:
    """A folder's name: the number keeps the order, the words are for people."""
    plain = "".join(char if char.isalnum() else "-" for char in name.lower()).strip("-")[:60]
    return f"{number:06}-{plain}"


def _write(file: Path, data: Any) -> None:
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_text(json.dumps(data, indent=2, ensure_ascii=False) + "\n")


def _write_trucks(place: Path, build: Build, lost: list[str]) -> None:
    history = []
    for row in build.trucks.readable().order_by("number").iterator():
        try:
            text = row.text
        except Damaged:
            lost.append(f"{build.name}: truck revision {row.number}")
            continue
        history.append({"number": row.number, "stored_at": row.created_at.isoformat()})
        place.mkdir(parents=True, exist_ok=True)
        (place / f"r{row.number:06}.json").write_text(text)
    _write(place / "history.json", {"revisions": history})


def _write_design(place: Path, design: Design, lost: list[str]) -> None:
    place.mkdir(parents=True)
    history = []
    for row in design.revisions.readable().select_related("design").order_by("number").iterator():
        try:
            file, text = _standing_alone(row)
        except (Damaged, TruckRevision.DoesNotExist):
            lost.append(f"{row.name}: revision {row.number}")
            continue
        history.append({"number": row.number, "stored_at": row.created_at.isoformat(), "truck": row.truck})
        (place / file).write_text(text)
    _write(place / "history.json", {**_dates(design), "revisions": history})


def _dates(kept: Build | Design) -> dict[str, str | None]:
    dates = {"created_at": kept.created_at, "deleted_at": kept.deleted_at}
    return {name: at.isoformat() if at else None for name, at in dates.items()}


def _standing_alone(row: Revision) -> tuple[str, str]:
    try:
        return f"r{row.number:06}.json", write_design(as_stored(row))
    except Refused:
        return f"r{row.number:06}{_BARE}", row.text


@transaction.atomic
def read_all(folder: Path) -> int:
    """Read what `write_all` wrote, as builds beside those that are there: all of it, or nothing.

    Returns:
        how many builds.

    Raises:
        Refused: every fault found, by its file.
    """
    faults: list[Fault] = []
    builds = sorted(folder.glob("*/build.json"))
    if not builds:
        raise Refused([Fault(str(folder), "has no build in it: a folder with a build.json in it")])
    for file in builds:
        _read_build(file, folder, faults)
    if faults:
        raise Refused(faults)
    return len(builds)


class _Files:
    """Reading files of a folder, and their faults."""

    def __init__(self, root: Path, faults: list[Fault]) -> None:
        self.root, self.faults = root, faults

    def fault(self, file: Path, message: str) -> None:
        self.faults.append(Fault(str(file.relative_to(self.root)), message))

    def text(self, file: Path) -> str | None:
        try:
            return file.read_text()
        except (OSError, UnicodeDecodeError) as error:
            self.fault(file, f"cannot be read: {error}")
            return None

    def keys(self, file: Path, *names: str) -> dict[str, Any] | None:
        """An object that has all these keys."""
        try:
            data = json.loads(self.text(file) or "null")
        except json.JSONDecodeError as error:
            self.fault(file, f"is not JSON: {error}")
            return None
        if not isinstance(data, dict) or not set(names) <= set(data):
            self.fault(file, f"must be an object with {', '.join(names)}")
            return None
        return data


def _read_build(file: Path, root: Path, faults: list[Fault]) -> None:
    files = _Files(root, faults)
    about = files.keys(file, "format", "version", "name", "notes", "created_at", "deleted_at")
    if about is None:
        return
    if (about["format"], about["version"]) != (FORMAT, VERSION):
        files.fault(file, f"is not {FORMAT} version {VERSION}")
        return
    build = Build.objects.create(name=str(about["name"])[:200], notes=str(about["notes"]))
    _dated(Build, build.pk, created_at=about["created_at"], deleted_at=about["deleted_at"])
    home = file.parent
    history = files.keys(home / "truck" / "history.json", "revisions")
    for entry in history["revisions"] if history else []:
        _read_truck(files, home / "truck", build, entry)
    for folder in sorted((home / "designs").glob("*/")):
        _read_design(files, folder, build)


def _read_truck(files: _Files, place: Path, build: Build, entry: dict[str, Any]) -> None:
    file = place / f"r{entry['number']:06}.json"
    text = files.text(file)
    if text is None:
        return
    try:
        read_truck(text)
    except Refused as refusal:
        files.fault(file, str(refusal))
        return
    made = TruckRevision.write(text, entry["number"], build=build)
    _dated(TruckRevision, made.pk, created_at=entry["stored_at"])


def _read_design(files: _Files, place: Path, build: Build) -> None:
    history = files.keys(place / "history.json", "created_at", "deleted_at", "revisions")
    if history is None:
        return
    design = Design.objects.create(build=build)
    _dated(Design, design.pk, created_at=history["created_at"], deleted_at=history["deleted_at"])
    for entry in history["revisions"]:
        found = _bare(files, place, entry["number"])
        if found is not None:
            name, text = found
            made = Revision.write(text, entry["number"], design=design, name=name, truck=entry["truck"])
            _dated(Revision, made.pk, created_at=entry["stored_at"])


def _bare(files: _Files, place: Path, number: int) -> tuple[str, str] | None:
    """A design's name, and its text without the truck's figures."""
    bare, whole = (place / f"r{number:06}{ending}" for ending in (_BARE, ".json"))
    if bare.exists():
        text, about = files.text(bare), files.keys(bare, "name")
        return (str(about["name"])[:200], text) if text is not None and about is not None else None
    given = files.text(whole)
    if given is None:
        return None
    try:
        document = read_design(given)
    except Refused as refusal:
        files.fault(whole, str(refusal))
        return None
    return document.name, bare_text(document)


def _dated(kind: Any, pk: int, **dates: str | None) -> None:
    """The dates that it had, not those of its being read in."""
    kind.objects.filter(pk=pk).update(**{name: parse_datetime(at) if at else None for name, at in dates.items()})
