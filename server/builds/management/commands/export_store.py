"""Everything as open files."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from builds.store import files, opening, places


class Command(BaseCommand):
    help = "Write every build, truck and design, with all their revisions, as open files."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folder", type=Path, help="a folder that is empty or not there yet")

    def handle(self, *args: Any, folder: Path, **options: Any) -> None:
        try:
            opening.refuse_other_make(places.store())
            lost = files.write_all(folder)
        except (opening.OtherMake, OSError) as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"Everything is in {folder}.")
        if lost:
            raise CommandError("But this could not be read: " + "; ".join(lost))
