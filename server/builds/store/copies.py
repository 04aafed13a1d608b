"""Copies of the store: taken while it is in use, and each checked to its last revision before it counts."""

import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

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


def restore(source: Path) -> Path | None:
    """Put a backup in the store's place. What was there is backed up first, or put aside where it is damaged.

    Returns:
        where the store as it was lies now; None if there was none.

    Raises:
        Unsound: the backup is not sound.
        places.InUse: a server uses the store.
    """
    if not source.is_file():
        raise FileNotFoundError(f"there is no file {source}")
    faults = verify(source)
    if faults:
        raise Unsound(source, faults)
    with places.alone():
        store, before = places.store(), None
        if store.exists():
            before = places.backup_place(places.RESTORE)
            try:
                back_up(store, before)
                places.remove_old(places.RESTORE)
            except Unsound:
                before = put_aside(store)
        part = store.with_name("restoring.part")
        shutil.copyfile(source, part)
        part.chmod(0o600)
        for file in places.beside(store):
            file.unlink(missing_ok=True)
        put(part, store)
    return before


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
    """What is wrong with a store: its pages, its references, every text in it. None: it is sound."""
    return _faults(path, "integrity_check", "")


def verify_quickly(path: Path) -> list[str]:
    """What is wrong with a store's pages, and with the newest text of each document."""
    newest = " WHERE number = (SELECT max(number) FROM {table} AS o WHERE o.{owner} = {table}.{owner})"
    return _faults(path, "quick_check", newest)


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
            for table, owner in DOCUMENTS.items():
                if table in tables and "packed" in columns_of(store, table):
                    faults += unreadable(store, table, owner, which.format(table=table, owner=owner))
            return faults[:_MOST_FAULTS]
    except sqlite3.DatabaseError as error:
        return [str(error)]


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
