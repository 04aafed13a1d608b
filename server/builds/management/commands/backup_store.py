"""A backup: one file, of one moment, checked; also while the server runs."""

import sqlite3
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from builds.store import copies, opening, places


class Command(BaseCommand):
    help = "Back the store up to one checked file, also while the server runs."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("to", nargs="?", type=Path, help="the file to write; else one among the store's backups")
        parser.add_argument("--daily", action="store_true", help="today's, unless there is one")

    def handle(self, *args: Any, to: Path | None, daily: bool, **options: Any) -> None:
        target = to or places.backup_place(places.BY_HAND)
        if to is not None and to.exists():
            raise CommandError(f"{to} is there already. Nothing was written.")
        try:
            if daily:
                target = places.daily_place()
                opening.daily()
            else:
                copies.back_up(places.store(), target)
        except (copies.Unsound, OSError, sqlite3.Error) as error:
            raise CommandError(f"No backup was made: {error}") from None
        self.stdout.write(f"Backed up and checked: {target}")
