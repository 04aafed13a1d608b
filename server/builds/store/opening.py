"""Before a store is used: is it sound, is it of our make, does it want upgrading? And each day: a copy of it."""

import logging
import os
import sqlite3
import subprocess
import sys
import threading
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from builds.models import Notice
from builds.store import copies, places
from builds.store.salvage import salvage

_LOOK_S = 600
_log = logging.getLogger("oak_lever")


class OtherMake(Exception):
    """The store is of another make than this program, and is not upgraded here."""


class Newer(OtherMake):
    """The store was written by a newer Oak Lever than this one."""

    def __init__(self, path: Path) -> None:
        super().__init__(
            f"{path} was written by a newer Oak Lever, which this one cannot read. Run that one; or restore a backup "
            f"of this one's from {places.backups()} (make restore FROM=...)."
        )


class MustBeAlone(Exception):
    """Another server is using a store that has to be upgraded first."""

    def __init__(self) -> None:
        super().__init__("The store has to be upgraded first, and another server is using it. End that one.")


def open_store(lock: places.Lock) -> None:
    """Mend the store if it is damaged, back it up and upgrade it if it is of an older make, and hold it open for many.

    Raises:
        Newer, MustBeAlone; copies.Unsound: nothing can be read of it and nothing put in its place.
    """
    places.close_to_others()
    store = places.store()
    alone, words = lock.alone(), []
    begun = store.exists() and not copies.is_blank(store)
    if begun:
        faults = copies.verify_quickly(store) if alone else []
        if faults:
            _log.error("the store is damaged: %s", "; ".join(faults))
            words.append(salvage(store))
        refuse_newer(store)
    if wants_upgrading(store):
        if not alone:
            raise MustBeAlone
        if begun:
            copies.back_up(store, places.backup_place(places.UPGRADE))
            places.remove_old(places.UPGRADE)
        call_command("migrate", verbosity=0)
        if connection.vendor == "sqlite":
            with connection.cursor() as cursor:
                cursor.execute("VACUUM")  # what an older make took up is given back
    lock.share()
    for one in words:
        _log.error("%s", one)
        Notice.objects.create(words=one)


def refuse_newer(path: Path) -> None:
    """
    Raises:
        Newer.
    """
    if _applied(path) - _ours():
        raise Newer(path)


def refuse_other_make(path: Path) -> None:
    """
    Raises:
        OtherMake.
    """
    refuse_newer(path)
    if wants_upgrading(path):
        raise OtherMake(f"{path} is of an older make. Start the server once: it is backed up and upgraded then.")


def wants_upgrading(path: Path) -> bool:
    return bool(_ours() - _applied(path))


def _ours() -> set[str]:
    return {name for app, name in MigrationLoader(None).disk_migrations if app == "builds"}


def _applied(path: Path) -> set[str]:
    if not path.exists():
        return set()
    with closing(copies.reading(path)) as store:
        if "django_migrations" not in copies.tables_of(store):
            return set()
        return {name for (name,) in store.execute("SELECT name FROM django_migrations WHERE app = 'builds'")}


def daily() -> None:
    """Today's backup, unless there is one.

    Raises:
        copies.Unsound, OSError, sqlite3.Error: there is none, and why.
    """
    if not places.daily_place().exists():
        copies.back_up(places.store(), places.daily_place())
        places.remove_old(places.DAILY)


def keep_daily(stop: threading.Event) -> None:
    """Look now and then whether today's backup is there; another process makes it, and gives way to everything else."""
    while True:
        if not places.daily_place().exists():
            made = subprocess.run(
                [sys.executable, str(Path(settings.ROOT) / "server" / "manage.py"), "backup_store", "--daily"],
                stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True, check=False, preexec_fn=_give_way,
            )  # fmt: skip
            if made.returncode:
                _say_once(f"Today's backup could not be made. {made.stderr.strip()}")
        if stop.wait(_LOOK_S):
            return


def _give_way() -> None:
    os.nice(15)


def _say_once(words: str) -> None:
    _log.error("%s", words)
    try:
        Notice.objects.get_or_create(words=words)
    except sqlite3.Error:
        _log.exception("nor could it be said")
