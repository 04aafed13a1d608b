"""Put a backup in the store's place."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from builds.store import copies, opening, places, rehearsal


class Command(BaseCommand):
    help = "Put a backup in the store's place. What was there is kept."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("source", type=Path, help="the backup")

    def handle(self, *args: Any, source: Path, **options: Any) -> None:
        try:
            before = rehearsal.restore(source)
        except places.InUse:
            raise CommandError("A server is using the store. End it first (Ctrl-C), then restore.") from None
        except (copies.Unsound, opening.Newer, OSError) as error:
            raise CommandError(f"Nothing was changed: {error}") from None
        self.stdout.write(f"Restored from {source}.")
        if before is not None:
            self.stdout.write(f"What was there before: {before}")
