"""Where the store and its copies lie, and who may touch them."""

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path

from django.conf import settings

DAILY, UPGRADE, RESTORE, BY_HAND = "daily", "before-upgrade", "before-restore", "by-hand"
KEPT = {DAILY: 14, UPGRADE: 5, RESTORE: 5}
"""How many automatic backups of each kind are kept; those taken by hand are nobody's to remove."""


class InUse(Exception):
    """A server is using the store."""


def store() -> Path:
    return Path(settings.DATA) / "oak-lever.sqlite3"


def backups() -> Path:
    return _own_folder("backups")


def damaged() -> Path:
    """Where damaged stores are put aside."""
    return _own_folder("damaged")


def _own_folder(name: str) -> Path:
    folder = Path(settings.DATA) / name
    folder.mkdir(mode=0o700, exist_ok=True)
    return folder


def stamp() -> str:
    """This moment, in a file's name."""
    return f"{datetime.now():%Y-%m-%d-%H%M%S}"


def backup_place(kind: str, when: str | None = None) -> Path:
    return backups() / f"{kind}-{when or stamp()}.sqlite3"


def daily_place() -> Path:
    return backup_place(DAILY, f"{datetime.now():%Y-%m-%d}")


def newest_backups() -> list[Path]:
    """Every backup, the newest first."""
    return sorted(backups().glob("*.sqlite3"), key=lambda file: file.stat().st_mtime, reverse=True)


def remove_old(kind: str) -> None:
    """Keep the bound on automatic backups."""
    for file in sorted(backups().glob(f"{kind}-*.sqlite3"), reverse=True)[KEPT[kind] :]:
        file.unlink()


def beside(path: Path) -> list[Path]:
    """The files that SQLite keeps beside a store in use."""
    return [path.with_name(path.name + ending) for ending in ("-wal", "-shm", "-journal")]


def close_to_others() -> None:
    """What is kept is its owner's to read, also where an older program left it open."""
    os.umask(0o077)
    os.umask(0o077)
    for file in (store(), *beside(store()), Path(settings.DATA) / "secret"):
        if file.exists():
            file.chmod(0o600)


class Lock:
    """The right to use the store: many servers at once, or one that changes it as a whole."""

    def __init__(self) -> None:
        self._file = os.open(Path(settings.DATA) / "lock", os.O_WRONLY | os.O_CREAT, 0o600)

    def alone(self) -> bool:
        """Take it for oneself, if nobody else has it."""
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return False
        return True

    def share(self) -> None:
        fcntl.flock(self._file, fcntl.LOCK_SH)

    def close(self) -> None:
        os.close(self._file)


@contextmanager
def alone() -> Iterator[None]:
    """Nobody else uses the store meanwhile.

    Raises:
        InUse.
    """
    lock = Lock()
    try:
        if not lock.alone():
            raise InUse
        yield
    finally:
        lock.close()
