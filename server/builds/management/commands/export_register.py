"""Print the register that the page is served, as its tests have it: part of the contract."""

import json
from typing import Any

from django.core.management.base import BaseCommand

from builds.answers import answer, register_data


class Command(BaseCommand):
    help = "Print names, figures, parts and limits as the API serves them."

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write(json.dumps(json.loads(answer(register_data()).content), indent=1, ensure_ascii=False))
