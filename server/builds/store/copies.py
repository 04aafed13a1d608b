"""Copies of the store: taken while it is in use, and each checked to its last revision before it counts."""

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

from builds import seals
from builds.packing import Damaged, unpack
from builds.store import places

_MOST_FAULTS = 20
DOCUMENTS = {"builds_truckrevision": "build_id", "builds_revision": "design_id"}
"""The tables of packed texts, and whose each is."""


class Unsound(Exception):
    """A file is no sound store; `faults` says what is wrong with it."""

    def __init__(self, path: Path, faults: list[str]) -> None:
        super().__init__(f"{path}: " + "; ".join(faults))
        self.faults = faults


def reading(path: Path) -> sqlite3.Connection:
    """A connection that can't change the file."""
    return sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True, timeout=10)


def back_up(source: Path, target: Path) -> None:
    """A copy of the store as it is at one moment, also while it is being written: one file, checked.

    Raises:
        Unsound: where the copy is not sound, the store itself being damaged; `target` is left as it was.
        FileNotFoundError, OSError: nothing there, no room for it.
    """
    if not source.is_file():
        raise FileNotFoundError(f"there is no store at {source}")
    part = target.with_name(target.name + ".part")
    try:
        part.unlink(missing_ok=True)
        part.touch(mode=0o600)
        try:
            with closing(reading(source)) as live, closing(sqlite3.connect(part)) as copy:
                live.backup(copy)  # in one step, and so of one moment
                copy.execute("PRAGMA journal_mode=DELETE")
        except sqlite3.DatabaseError as error:
            raise Unsound(source, [str(error)]) from None
        faults = verify(part)
        if faults:
            raise Unsound(source, faults)
        put(part, target)
    finally:
        part.unlink(missing_ok=True)


def put(part: Path, target: Path) -> None:
    """Put a written file in a place, whole or not at all."""
    with part.open("rb") as file:
        os.fsync(file.fileno())
    part.replace(target)
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def put_aside(store: Path) -> Path:
    """Move a damaged store, and what SQLite keeps beside it, to a folder of its own: where it lies then."""
    folder = places.damaged() / places.stamp()
    folder.mkdir(mode=0o700, exist_ok=True)
    for file in (store, *places.beside(store)):
        if file.exists():
            file.replace(folder / file.name)
    return folder / store.name


def is_blank(path: Path) -> bool:
    """Whether a store was only about to be made when its first start ended."""
    try:
        with closing(reading(path)) as store:
            return tables_of(store) <= {"django_migrations", "sqlite_sequence"}
    except sqlite3.DatabaseError:
        return False


def verify(path: Path) -> list[str]:
    """What is wrong with a store: its pages, its references, every row and every text in it. None: it is sound."""
    return _faults(path, "integrity_check", "")


def verify_quickly(path: Path) -> list[str]:
    """What is wrong with a store's pages, its rows, and the newest text of each document."""
    return _faults(path, "quick_check", NEWEST)


NEWEST = " WHERE number = (SELECT max(number) FROM {table} AS o WHERE o.{owner} = {table}.{owner})"
"""The condition that picks the newest revision of each document."""


def _faults(path: Path, check: str, which: str) -> list[str]:
    try:
        with closing(reading(path)) as store:
            said = [row[0] for row in store.execute(f"PRAGMA {check}({_MOST_FAULTS})")]
            if said != ["ok"]:
                return said
            tables = tables_of(store)
            if "builds_build" not in tables:
                return ["is no store of builds"]
            dangling = store.execute("PRAGMA foreign_key_check").fetchall()
            faults = [f"a row of {table} refers to nothing" for table, *_ in dangling]
            for table in sorted(tables):
                owner = DOCUMENTS.get(table)
                rows = which.format(table=table, owner=owner) if owner else ""
                bad = seals.broken_rows(store, table, rows)
                faults += [f"{table.removeprefix('builds_')} {row} is not as it was written" for row in bad]
                if owner and "packed" in columns_of(store, table):
                    faults += unreadable(store, table, owner, rows)
            return [*faults, *without_what_they_need(store)][:_MOST_FAULTS]
    except (sqlite3.DatabaseError, UnicodeDecodeError) as error:
        return [str(error)]


def without_what_they_need(store: sqlite3.Connection) -> Iterator[str]:
    """In words, each design without a revision, and each revision without the truck that it names."""
    tables = tables_of(store)
    if "builds_revision" in tables:
        bare = "SELECT id FROM builds_design WHERE id NOT IN (SELECT design_id FROM builds_revision)"
        for (design,) in store.execute(bare):
            yield f"design {design} has no revision"
    if "builds_truckrevision" in tables:
        for design, number, truck in store.execute(f"SELECT design_id, number, truck {ON_NO_TRUCK}"):
            yield f"revision {number} of design {design} stands on a truck revision {truck} that is not there"


ON_NO_TRUCK = (
    "FROM builds_revision r WHERE NOT EXISTS (SELECT 1 FROM builds_truckrevision t JOIN builds_design d "
    "ON d.build_id = t.build_id WHERE d.id = r.design_id AND t.number = r.truck)"
)


def tables_of(store: sqlite3.Connection) -> set[str]:
    return {name for (name,) in store.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}


def columns_of(store: sqlite3.Connection, table: str) -> list[str]:
    return [row[1] for row in store.execute(f"PRAGMA table_info({table})")]


def unreadable(store: sqlite3.Connection, table: str, owner: str, which: str = "") -> Iterator[str]:
    """Each text of a table that cannot be unpacked, in words."""
    for _, whose, number in unreadable_rows(store, table, owner, which):
        yield f"{table.removeprefix('builds_')} {number} of {owner.removesuffix('_id')} {whose} cannot be read"


def unreadable_rows(
    store: sqlite3.Connection, table: str, owner: str, which: str = ""
) -> Iterator[tuple[int, int, int]]:  # fmt: skip
    """The id, the owner's id and the number of each text that cannot be unpacked."""
    known: tuple[int, int] | None = None
    text: str | None = None
    for row, whose, number, base, packed in store.execute(
        f"SELECT id, {owner}, number, base, packed FROM {table}{which} ORDER BY {owner}, number"
    ):
        try:
            if base is not None and known != (whose, base):
                known, text = (whose, base), _whole(store, table, owner, whose, base)
            unpack(packed, None if base is None else text)
        except Damaged:
            yield row, whose, number


def _whole(store: sqlite3.Connection, table: str, owner: str, whose: int, number: int) -> str:
    found = store.execute(f"SELECT packed FROM {table} WHERE {owner} = ? AND number = ?", (whose, number)).fetchone()
    if found is None:
        raise Damaged("what it is kept against is gone")
    return unpack(found[0])
