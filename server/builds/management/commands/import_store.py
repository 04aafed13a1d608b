"""Read in what was written as open files."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from builds.store import files, opening, places
from oak_lever.api import Refused


class Command(BaseCommand):
    help = "Read in what export_store wrote, beside what is there already: all of it, or nothing."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folder", type=Path)

    def handle(self, *args: Any, folder: Path, **options: Any) -> None:
        lock = places.Lock()
        try:
            opening.open_store(lock)
            count = files.read_all(folder)
        except Refused as refusal:
            faults = "\n".join(f"  {fault}" for fault in refusal.faults)
            raise CommandError(f"Nothing was read in.\n{faults}") from None
        except (opening.Newer, opening.MustBeAlone) as error:
            raise CommandError(str(error)) from None
        finally:
            lock.close()
        self.stdout.write(f"Read in: {count} builds.")
