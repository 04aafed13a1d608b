"""A store is opened and read to its last document, beside the one in use, before it takes that one's place."""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from django.apps import apps
from django.conf import settings
from django.core.exceptions import ObjectDoesNotExist
from django.core.management import call_command
from django.db import connection

from builds.actions import as_stored
from builds.models import Design, Revision, Stored, TruckRevision
from builds.packing import Damaged
from builds.store import copies, opening, places
from oak_lever.api import Refused


def restore(source: Path) -> Path | None:
    """Put a backup in the store's place. What was there is backed up first, or put aside where it is damaged.

    Returns:
        where the store as it was lies now; None if there was none.

    Raises:
        copies.Unsound: the backup is not sound, or cannot be opened and read to its last document.
        opening.Newer: it is of a newer program than this one.
        places.InUse: a server uses the store.
    """
    if not source.is_file():
        raise FileNotFoundError(f"there is no file {source}")
    faults = copies.verify(source)
    if faults:
        raise copies.Unsound(source, faults)
    opening.refuse_newer(source)
    with places.alone(), rehearsed(source) as copy:
        store, before = places.store(), None
        if store.exists():
            before = places.backup_place(places.RESTORE)
            try:
                copies.back_up(store, before)
                places.remove_old(places.RESTORE)
            except copies.Unsound:
                before = copies.put_aside(store)
        copy.chmod(0o600)
        for file in places.beside(store):
            file.unlink(missing_ok=True)
        copies.put(copy, store)
    return before


@contextmanager
def rehearsed(source: Path) -> Iterator[Path]:
    """A copy of a store, upgraded and read to its last document by a process of its own; gone afterwards.

    Raises:
        copies.Unsound: what is wrong with it.
    """
    with tempfile.TemporaryDirectory(prefix="rehearsal-", dir=settings.DATA) as folder:
        copy = Path(folder) / places.store().name
        shutil.copyfile(source, copy)
        done = subprocess.run(
            [sys.executable, str(Path(settings.ROOT) / "server" / "manage.py"), "read_store"],
            env={**os.environ, "OAK_LEVER_DATA": folder}, capture_output=True, text=True, check=False,
        )  # fmt: skip
        if done.returncode:
            said = done.stderr.strip().removeprefix("CommandError:").strip()
            raise copies.Unsound(source, said.splitlines() or [f"reading it ended with {done.returncode}"])
        yield copy


def read_everything(store: Path) -> list[str]:
    """Upgrade this program's store and read every row and document of it: in words, whatever cannot be.

    Raises:
        opening.Newer.
    """
    faults = copies.verify(store)
    if faults:
        return faults
    opening.refuse_newer(store)
    call_command("migrate", verbosity=0)
    faults = _of_another_make(store) or copies.verify(store)
    if not faults:
        faults = [*_unread(TruckRevision), *_unread(Revision), *_unopened()]
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA journal_mode=DELETE")  # one file, to be put where it is wanted
    connection.close()
    return faults


def _of_another_make(store: Path) -> list[str]:
    """The tables that have other columns than this program writes, in words."""
    with closing(copies.reading(store)) as opened:
        return [
            f"{kind._meta.db_table} has not the columns of this program's make"
            for kind in apps.get_app_config("builds").get_models()
            if set(copies.columns_of(opened, kind._meta.db_table)) != {one.column for one in kind._meta.concrete_fields}
        ]


def _unread(kind: type[Stored]) -> Iterator[str]:
    for row in kind.objects.readable().order_by(kind.OWNER, "number").iterator():
        try:
            if not isinstance(json.loads(row.text), dict):
                raise ValueError
        except (Damaged, ValueError):
            yield f"{row.in_words} of {kind.OWNER} {getattr(row, f'{kind.OWNER}_id')} is no document"


def _unopened() -> Iterator[str]:
    """The designs that cannot be opened as they stand, but for those that this program's rules refuse: of such a one
    its revisions can be looked at still."""
    for design in Design.objects.select_related("build").iterator():
        try:
            as_stored(design.head())
        except Refused:
            continue
        except (Damaged, ObjectDoesNotExist, ValueError, TypeError, KeyError) as why:
            yield f"design {design.pk} cannot be opened: {why}"
