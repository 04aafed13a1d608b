"""Everything in the store as open files, and back: builds, trucks, designs, every revision of them."""

import json
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import datetime
from pathlib import Path
from typing import Any, TypeVar

from django.db import DatabaseError, transaction
from django.db.models import DateTimeField, QuerySet
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from builds.actions import bare_text, on_truck
from builds.models import Build, Design, Revision, Sealed, Stored, TruckRevision, fetched
from builds.packing import Damaged
from oak_lever.api import Fault, Refused, read_design, read_truck, write_design

FORMAT, VERSION = "oak-lever-build", 1
_BARE = ".bare.json"
_Kept = TypeVar("_Kept", bound=Sealed)
_Text = TypeVar("_Text", bound=Stored)

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
    for number in Build.objects.order_by("pk").values_list("pk", flat=True):
        build = _found(Build, number, lost)
        if build is None:
            continue
        place = folder / _name(build.pk, str(build.name))
        about = {"format": FORMAT, "version": VERSION, "name": build.name, "notes": build.notes, **_dates(build)}
        _write(place / "build.json", about)
        trucks = _write_trucks(place / "truck", build, lost)
        for design in build.designs.order_by("pk").values_list("pk", flat=True):
            _write_design(place / "designs", design, trucks, lost)
    return lost


def _found(kind: type[_Kept], number: int, lost: list[str], words: str = "") -> _Kept | None:
    """A row, with this moment for a date of it that cannot be read; one that is not as it was written is named."""
    words = words or f"{kind._meta.verbose_name} {number}"
    dates = [one.attname for one in kind._meta.concrete_fields if isinstance(one, DateTimeField)]
    for undated in ([], dates):
        with suppress(ValueError, DatabaseError):
            row: _Kept = kind._base_manager.defer(*undated).get(pk=number)
            if undated or not row.is_sound:
                lost.append(f"{words} is not as it was written")
            for name in undated:
                setattr(row, name, timezone.now() if name == "created_at" else None)
            return row
    lost.append(f"{words}, and all that belongs to it")
    return None


def _name(number: int, name: str) -> str:
    """A folder's name: the number keeps the order, the words are for people."""
    plain = "".join(char if char.isalnum() else "-" for char in name.lower()).strip("-")[:60]
    return f"{number:06}-{plain}"


def _write(file: Path, data: Any) -> None:
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_text(json.dumps(data, indent=2, ensure_ascii=False) + "\n")


def _rows(query: QuerySet[_Text], whose: str, lost: list[str]) -> list[_Text]:
    """The revisions of a document, those that are not as they were written among them, named."""
    rows, bad = fetched(query.order_by("number"))
    kind = query.model
    again = [_found(kind, one, lost, f"{whose}: {kind._meta.verbose_name} in row {one}") for one in bad]
    return sorted([*rows, *(row for row in again if row)], key=lambda row: row.number)


def _write_trucks(place: Path, build: Build, lost: list[str]) -> dict[int, TruckRevision]:
    """Write a build's trucks: those that could be, by their numbers."""
    trucks = {}
    for row in _rows(build.trucks.readable(), str(build.name), lost):
        try:
            text = row.text
        except Damaged:
            lost.append(f"{build.name}: truck revision {row.number}")
            continue
        trucks[row.number] = row
        place.mkdir(parents=True, exist_ok=True)
        (place / f"r{row.number:06}.json").write_text(text)
    history = [{"number": row.number, "stored_at": row.created_at.isoformat()} for row in trucks.values()]
    _write(place / "history.json", {"revisions": history})
    return trucks


def _write_design(folder: Path, number: int, trucks: dict[int, TruckRevision], lost: list[str]) -> None:
    design = _found(Design, number, lost)
    if design is None:
        return
    rows = _rows(design.revisions.readable(), f"design {number}", lost)
    place = folder / _name(number, str(rows[-1].name) if rows else "")
    place.mkdir(parents=True)
    history = []
    for row in rows:
        try:
            file, text = _standing_alone(row, trucks[row.truck])
        except (Damaged, KeyError):
            lost.append(f"{row.name}: revision {row.number}")
            continue
        history.append({"number": row.number, "stored_at": row.created_at.isoformat(), "truck": row.truck})
        (place / file).write_text(text)
    _write(place / "history.json", {**_dates(design), "revisions": history})


def _dates(kept: Build | Design) -> dict[str, str | None]:
    dates = {"created_at": kept.created_at, "deleted_at": kept.deleted_at}
    return {name: at.isoformat() if at else None for name, at in dates.items()}


def _standing_alone(row: Revision, truck: TruckRevision) -> tuple[str, str]:
    try:
        return f"r{row.number:06}.json", write_design(on_truck(row, truck))
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


class _Malformed(Exception):
    """What is wrong with a file, in words."""


class _Files:
    """Reading files of a folder, and their faults."""

    def __init__(self, root: Path, faults: list[Fault]) -> None:
        self.root, self.faults = root, faults

    def fault(self, file: Path, message: str) -> None:
        self.faults.append(Fault(str(file.relative_to(self.root)), message))

    @contextmanager
    def naming(self, file: Path) -> Iterator[None]:
        """What is found malformed here is a fault of that file."""
        try:
            yield
        except _Malformed as why:
            self.fault(file, str(why))

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


def _moment(keys: dict[str, Any], name: str, *, needed: bool = True) -> datetime | None:
    """A date and time with its zone."""
    text = keys.get(name)
    if text is None and not needed:
        return None
    with suppress(ValueError, TypeError):
        at = parse_datetime(str(text))
        if at is not None and at.tzinfo is not None:
            return at
    raise _Malformed(f"{name} must be a date and time like 2026-01-31T08:00:00+00:00")


def _count(keys: dict[str, Any], name: str) -> int:
    number = keys.get(name)
    if not isinstance(number, int) or isinstance(number, bool) or not 1 <= number < _FAR:
        raise _Malformed(f"{name} must be a whole number, 1 or more")
    return number


_FAR = 10**6
"""No document has so many revisions."""


def _entries(history: dict[str, Any], *names: str) -> list[dict[str, Any]]:
    """The revisions of a history, each with its number once."""
    entries = history["revisions"]
    if not isinstance(entries, list) or not all(isinstance(one, dict) and set(names) <= set(one) for one in entries):
        raise _Malformed(f"revisions must be a list of objects with {', '.join(names)}")
    numbers = [_count(one, "number") for one in entries]
    if len(set(numbers)) < len(numbers):
        raise _Malformed("a revision is there twice")
    return entries


def _read_build(file: Path, root: Path, faults: list[Fault]) -> None:
    files = _Files(root, faults)
    about = files.keys(file, "format", "version", "name", "notes", "created_at", "deleted_at")
    if about is None:
        return
    home = file.parent
    trucks = home / "truck" / "history.json"
    with files.naming(file):
        if (about["format"], about["version"]) != (FORMAT, VERSION):
            raise _Malformed(f"is not {FORMAT} version {VERSION}")
        dates = {"created_at": _moment(about, "created_at"), "deleted_at": _moment(about, "deleted_at", needed=False)}
        build = Build.objects.create(name=str(about["name"])[:200], notes=str(about["notes"]))
        Build.dated(build.pk, **dates)
        history = files.keys(trucks, "revisions")
        with files.naming(trucks):
            for entry in _entries(history, "number", "stored_at") if history else []:
                _read_truck(files, trucks.parent, build, entry)
        for folder in sorted((home / "designs").glob("*/")):
            with files.naming(folder / "history.json"):
                _read_design(files, folder, build)


def _read_truck(files: _Files, place: Path, build: Build, entry: dict[str, Any]) -> None:
    at = _moment(entry, "stored_at")
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
    TruckRevision.dated(made.pk, created_at=at)


def _read_design(files: _Files, place: Path, build: Build) -> None:
    history = files.keys(place / "history.json", "created_at", "deleted_at", "revisions")
    if history is None:
        return
    dates = {"created_at": _moment(history, "created_at"), "deleted_at": _moment(history, "deleted_at", needed=False)}
    entries = _entries(history, "number", "stored_at", "truck")
    if not entries:
        raise _Malformed("has no revision in it")
    trucks = set(build.trucks.values_list("number", flat=True))
    design = Design.objects.create(build=build)
    Design.dated(design.pk, **dates)
    for entry in entries:
        at = _moment(entry, "stored_at")
        if _count(entry, "truck") not in trucks:
            raise _Malformed(f"stands on a truck revision {entry['truck']} that is not there")
        found = _bare(files, place, entry["number"])
        if found is not None:
            name, text = found
            made = Revision.write(text, entry["number"], design=design, name=name, truck=entry["truck"])
            Revision.dated(made.pk, created_at=at)


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
