"""Upgrade the store and read all of it."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from builds.store import opening, places, rehearsal


class Command(BaseCommand):
    help = "Upgrade the store in OAK_LEVER_DATA, and read every row and document in it."

    def handle(self, *args: Any, **options: Any) -> None:
        lock = places.Lock()
        try:
            if not lock.alone():
                raise CommandError("A server is using the store. End it first (Ctrl-C), then read it.")
            faults = rehearsal.read_everything(places.store())
        except opening.Newer as error:
            raise CommandError(str(error)) from None
        finally:
            lock.close()
        if faults:
            raise CommandError("\n".join(faults))
        self.stdout.write("Everything in the store was read.")
