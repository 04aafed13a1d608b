"""A damaged store: what can be read of it, and of its newest backup, makes a sound one; what is lost is named."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, suppress
from datetime import datetime
from pathlib import Path
from typing import Any

from builds import seals
from builds.store import copies, places

_MOST_AT_ONCE = 512
_OWNERS = ("builds_build", "builds_design")

Row = tuple[Any, ...]


def salvage(store: Path) -> str:
    """Put a damaged store aside, and a sound one in its place, made of what can be read and, row by row, of what its
    newest sound backup has: revisions are written once, so those are exact.

    Returns:
        What became of it, in words.

    Raises:
        copies.Unsound: nothing can be read, and there is no backup.
    """
    backups = [file for file in places.newest_backups() if not copies.verify(file)]
    schema = next((found for found in map(_schema, [store, *backups]) if found), None)
    if schema is None:
        raise copies.Unsound(store, ["nothing in it can be read, and there is no sound backup"])
    part = store.with_name("salvaging.part")
    part.unlink(missing_ok=True)
    part.touch(mode=0o600)
    with closing(sqlite3.connect(part)) as made:
        for statement in schema:
            made.execute(statement)
        last, unsealed = _take_over(made, store)
        helped = next((backup for backup in backups if _filled(made, backup)), None)
        older = _there(made, unsealed)
        doubtful = _take_as_they_are(made, unsealed) + _put_on_a_truck(made)
        _take_off_orphans(made)
        lost = _missing(made, last)
        made.commit()
    faults = copies.verify(part)
    if faults:
        raise copies.Unsound(part, faults)
    aside = copies.put_aside(store)
    copies.put(part, store)
    said = [f"not to be read any more: {', '.join(lost)}" if lost else "nothing is missing as far as can be told"]
    said += [f"as it was when it was backed up, without what changed since: {', '.join(older)}"] if older else []
    said += [f"kept, but not all as it was written: {', '.join(doubtful)}"] if doubtful else []
    also = f" and of the backup {helped.name}" if helped else ""
    saved = f"All that can be read of it{also} was saved; {'; '.join(said)}."
    return f"The store was damaged. It lies as it was at {aside}. {saved}"


def _schema(source: Path) -> list[str]:
    """The statements that made a store's tables; none where even that cannot be read."""
    try:
        with closing(copies.reading(source)) as store:
            rows = store.execute("SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite_%'")
            return [sql for (sql,) in rows]
    except sqlite3.DatabaseError:
        return []


def _tables(made: sqlite3.Connection) -> list[str]:
    return sorted(copies.tables_of(made) - {"sqlite_sequence"})


def _documents(made: sqlite3.Connection) -> list[tuple[str, str]]:
    """The tables of packed texts that this make of the store has, and whose each is."""
    return [(table, owner) for table, owner in copies.DOCUMENTS.items() if "packed" in copies.columns_of(made, table)]


def _take_over(made: sqlite3.Connection, source: Path) -> tuple[dict[str, int], dict[str, list[Row]]]:
    """Take every row of a store that can be read, has what its columns say, is as it was sealed, and has a text that is
    the one written.

    Returns:
        The last id that each table gave out, where that can be read; and the rows of each that are not as sealed.
    """
    last: dict[str, int] = {}
    unsealed: dict[str, list[Row]] = {}
    with closing(copies.reading(source)) as store:
        for table in _tables(made):
            columns = copies.columns_of(made, table)
            kinds = [(kind, needed) for _, _, kind, needed, *_ in made.execute(f"PRAGMA table_info({table})")]
            sealed = seals.sealed_columns(made, table)
            rows = [row for row in _rows(store, table, columns) if _fits(row, kinds)]
            whole = [not sealed or seals.is_sealed(row, sealed) for row in rows]
            doubtful = [row for row, sound in zip(rows, whole, strict=True) if not sound]
            unsealed |= {table: doubtful} if doubtful else {}
            _insert(made, table, [row for row, sound in zip(rows, whole, strict=True) if sound])
            with suppress(sqlite3.DatabaseError):
                for (number,) in store.execute("SELECT seq FROM sqlite_sequence WHERE name = ?", (table,)):
                    last[table] = number
    _take_off_unreadable(made)
    return last, unsealed


def _insert(made: sqlite3.Connection, table: str, rows: list[Row]) -> None:
    columns = copies.columns_of(made, table)
    made.executemany(
        f"INSERT OR IGNORE INTO {table} ({', '.join(columns)}) VALUES ({', '.join('?' * len(columns))})", rows
    )


def _take_off_unreadable(made: sqlite3.Connection) -> None:
    for table, owner in _documents(made):
        bad = [(row,) for row, *_ in copies.unreadable_rows(made, table, owner)]
        made.executemany(f"DELETE FROM {table} WHERE id = ?", bad)


def _there(made: sqlite3.Connection, unsealed: dict[str, list[Row]]) -> list[str]:
    """In words, which of those rows a backup had: as they were then, but for revisions, which never change."""
    words = []
    for table in sorted(set(unsealed) - set(copies.DOCUMENTS)):
        there = {row for (row,) in made.execute(f"SELECT id FROM {table}")}
        words += [_one(table, row) for row in sorted(there & _ids(made, table, unsealed[table]))]
    return words


def _ids(made: sqlite3.Connection, table: str, rows: list[Row]) -> set[int]:
    at = copies.columns_of(made, table).index("id")
    return {row[at] for row in rows}


def _one(table: str, row: int) -> str:
    return f"{table.removeprefix('builds_')} {row}"


def _take_as_they_are(made: sqlite3.Connection, unsealed: dict[str, list[Row]]) -> list[str]:
    """Take the rows that are not as sealed and that no backup has: a wrong date costs no edit. Which, in words."""
    kept: dict[str, set[int]] = {}
    for table, rows in unsealed.items():
        before = {row for (row,) in made.execute(f"SELECT id FROM {table}")}
        _insert(made, table, rows)
        kept[table] = _ids(made, table, rows) - before
    _take_off_unreadable(made)
    words = []
    for table, ids in kept.items():
        chosen = f" WHERE id IN ({', '.join(map(str, sorted(ids)))})"
        seals.seal_again(made, table, chosen)
        words += [_one(table, row) for (row,) in made.execute(f"SELECT id FROM {table}{chosen} ORDER BY id")]
    return words


def _put_on_a_truck(made: sqlite3.Connection) -> list[str]:
    """Put each revision whose truck is lost on the newest of its build. Which, in words."""
    if "builds_truckrevision" not in copies.tables_of(made):
        return []
    of = "SELECT build_id FROM builds_design WHERE id = ?"
    newest = f"SELECT max(number) FROM builds_truckrevision WHERE build_id = ({of})"
    words = []
    for row, design in made.execute(f"SELECT id, design_id {copies.ON_NO_TRUCK}").fetchall():
        (truck,) = made.execute(newest, (design,)).fetchone()
        if truck is None:
            made.execute("DELETE FROM builds_revision WHERE id = ?", (row,))
        else:
            made.execute("UPDATE builds_revision SET truck = ? WHERE id = ?", (truck, row))
            seals.seal_again(made, "builds_revision", f" WHERE id = {row}")
            words.append(_one("builds_revision", row))
    return words


def _rows(store: sqlite3.Connection, table: str, columns: list[str]) -> Iterator[Row]:
    """The rows that can be read, by their ids: halved where a page among them cannot."""
    highest = 0
    for ask in (f"SELECT max(id) FROM {table}", f"SELECT seq FROM sqlite_sequence WHERE name = '{table}'"):
        with suppress(sqlite3.DatabaseError):
            row = store.execute(ask).fetchone()
            highest = max(highest, row[0] or 0 if row else 0)
    ask = f"SELECT {', '.join(columns)} FROM {table} WHERE id BETWEEN ? AND ? ORDER BY id"
    for start in range(1, min(highest, _FAR) + 1, _MOST_AT_ONCE):
        waiting = [(start, start + _MOST_AT_ONCE - 1)]
        while waiting:
            low, high = waiting.pop()
            try:
                yield from store.execute(ask, (low, high)).fetchall()
            except (sqlite3.DatabaseError, UnicodeDecodeError):
                if low < high:
                    middle = (low + high) // 2
                    waiting += [(middle + 1, high), (low, middle)]


_FAR = 50_000_000
"""An id beyond this is damage, not the shop's fifty millionth edit."""


def _fits(row: Row, kinds: list[tuple[str, int]]) -> bool:
    """Whether each value is what its column holds: damage seldom makes a date."""
    return all(_fits_one(value, kind, needed) for value, (kind, needed) in zip(row, kinds, strict=True))


def _fits_one(value: Any, kind: str, needed: int) -> bool:
    if value is None:
        return not needed
    if kind == "datetime":
        with suppress(ValueError, TypeError):
            return bool(datetime.fromisoformat(value))
        return False
    return isinstance(value, bytes if kind == "BLOB" else int if "int" in kind.lower() else str)


def _filled(made: sqlite3.Connection, backup: Path) -> bool:
    """Fill up from a backup, if it is one of this very store: all that both have is the same."""
    made.commit()
    made.execute("ATTACH ? AS backup", (str(backup),))
    try:
        held = {name for (name,) in made.execute("SELECT name FROM backup.sqlite_master WHERE type = 'table'")}
        columns = {table: copies.columns_of(made, table) for table in _tables(made) if table in held}
        for table, names in columns.items():
            if names != [row[1] for row in made.execute(f"PRAGMA backup.table_info({table})")]:
                return False  # of another make
        for table, owner in _documents(made):
            differing = made.execute(
                f"SELECT count(*) FROM {table} a JOIN backup.{table} b USING (id) "
                f"WHERE a.packed != b.packed OR a.number != b.number OR a.{owner} != b.{owner}"
            )
            if differing.fetchone() != (0,):
                return False  # taken before another one was restored
        for table in columns:
            how = "REPLACE" if table in copies.DOCUMENTS else "IGNORE"
            made.execute(f"INSERT OR {how} INTO {table} SELECT * FROM backup.{table}")
        made.commit()
        return True
    finally:
        made.execute("DETACH backup")


def _take_off_orphans(made: sqlite3.Connection) -> None:
    """Take off what has lost all that it was, or what it belongs to; a build that designs are left of is made again."""
    made.execute(
        "INSERT INTO builds_build (id, number, name, notes, created_at) "
        "SELECT DISTINCT build_id, 1, 'Found again ' || build_id, '', datetime() FROM builds_design "
        "WHERE build_id NOT IN (SELECT id FROM builds_build)"
    )
    seals.seal_again(made, "builds_build", " WHERE name LIKE 'Found again %'")
    for table, owner in _documents(made):
        whose = f"builds_{owner.removesuffix('_id')}"
        made.execute(f"DELETE FROM {table} WHERE {owner} NOT IN (SELECT id FROM {whose})")
    made.execute("DELETE FROM builds_design WHERE id NOT IN (SELECT design_id FROM builds_revision)")


def _missing(made: sqlite3.Connection, last: dict[str, int]) -> list[str]:
    """What ought to be there by its numbers, which run without a gap, in words."""
    words = []
    for table in _OWNERS:
        there = {number for (number,) in made.execute(f"SELECT id FROM {table}")}
        gone = set(range(1, max(last.get(table, 0), *there, 0) + 1)) - there
        words += [f"{table.removeprefix('builds_')} {number}" for number in sorted(gone)]
    for table, owner in _documents(made):
        what = "truck" if "truck" in table else "design"
        counts = made.execute(
            f"SELECT {owner}, max(number) - min(number) + 1, count(*) FROM {table} GROUP BY {owner}"
        ).fetchall()
        for whose, ought, count in counts:
            name = _name(made, owner, whose)
            words += [f"{ought - count} older revisions of the {what} {name}"] if ought > count else []
        rows, highest = made.execute(f"SELECT count(*), max(id) FROM {table}").fetchone()
        gone_in_all = max(last.get(table, 0), highest or 0) - rows
        words += [f"{gone_in_all} revisions of {what}s in all"] if gone_in_all else []
    return words


def _name(made: sqlite3.Connection, owner: str, whose: int) -> str:
    table, key = ("builds_build", "id") if owner == "build_id" else ("builds_revision", "design_id")
    (name,) = made.execute(f"SELECT name FROM {table} WHERE {key} = ? ORDER BY id DESC", (whose,)).fetchone()
    return f"“{name}”"
