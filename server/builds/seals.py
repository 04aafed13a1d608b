"""A checksum on every row of what is kept: its words, numbers, dates and its id.

It comes out the same from what SQLite holds and from what Django makes of it: each value counts as it is stored.
"""

import sqlite3
import zlib
from collections.abc import Iterator, Mapping
from contextlib import suppress
from datetime import datetime
from typing import Any

COLUMN = "seal"


def seal_of(row: Mapping[str, Any]) -> int:
    """The checksum (CRC-32) of a row's values by the names of their columns, but for the seal itself."""
    seal = 0
    for name in sorted(row):
        value = row[name]
        if name != COLUMN:
            kept = bytes(value) if isinstance(value, bytes | memoryview) else repr(value).encode()
            seal = zlib.crc32(b"%s=%s;" % (name.encode(), kept), seal)
    return seal


def sealed_columns(store: sqlite3.Connection, table: str) -> dict[str, str]:
    """The columns of a table with what each is declared to hold; none where its rows carry no seal yet."""
    kinds = {name: kind for _, name, kind, *_ in store.execute(f"PRAGMA table_info({table})")}
    return kinds if COLUMN in kinds else {}


def broken_rows(store: sqlite3.Connection, table: str, which: str = "") -> Iterator[int]:
    """The id of each row that is not as it was sealed; `which`: a condition that picks rows."""
    kinds = sealed_columns(store, table)
    if kinds:
        for row in store.execute(f"SELECT {', '.join(kinds)} FROM {table}{which}"):
            if not is_sealed(row, kinds):
                yield row[list(kinds).index("id")]


def is_sealed(row: tuple[Any, ...], kinds: Mapping[str, str]) -> bool:
    """Whether a row as SQLite gives it, of these columns, is as it was sealed."""
    values = _as_stored(row, kinds)
    return bool(values[COLUMN] == seal_of(values))


def seal_again(store: sqlite3.Connection, table: str, which: str = "") -> None:
    """Seal rows as they stand: those that were just made or mended here, by a condition that picks them."""
    kinds = sealed_columns(store, table)
    if kinds:
        as_they_are = ", ".join(f"+{name}" for name in kinds)  # as values: no connection makes dates of them
        rows = [_as_stored(row, kinds) for row in store.execute(f"SELECT {as_they_are} FROM {table}{which}")]
        store.executemany(f"UPDATE {table} SET {COLUMN} = ? WHERE id = ?", [(seal_of(row), row["id"]) for row in rows])


def _as_stored(row: tuple[Any, ...], kinds: Mapping[str, str]) -> dict[str, Any]:
    values = zip(kinds.items(), row, strict=True)
    return {name: _moment(value) if kind == "datetime" else value for (name, kind), value in values}


def _moment(value: Any) -> Any:
    """A date as Django would write it: an older program or a mended row may have left off its zeros."""
    with suppress(ValueError, TypeError):
        return str(datetime.fromisoformat(value))
    return value
