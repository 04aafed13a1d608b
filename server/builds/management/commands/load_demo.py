"""Load the Hollin Fell mountain rescue team's vehicles; what is already there stays as it is."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from builds.actions import create_build, import_design, save_truck
from builds.models import Build
from oak_lever.api import read_truck, truck_data

FOLDER = Path(__file__).resolve().parents[2] / "demo"
BUILDS = {
    "Fell tender": (
        "Hollin Fell mountain rescue: forward-control 4x4, stretcher, ropes and water aboard.",
        "fell-tender-truck",
        ("fell-tender-rear", "fell-tender-rear-short-upper", "bracketed/fell-tender-rear", "fell-tender-front"),
    ),
    "Ghyll special": (
        "Hollin Fell hill-climb car: parallel links in brackets with hole racks, a Watts link on the axle.",
        "ghyll-special-truck",
        ("ghyll-special-rear", "ghyll-special-rear-lower-hole", "bracketed/ghyll-special-rear"),
    ),
    "Tarn van": (
        "Hollin Fell's gear van, on air springs: aired out it stands at full bump.",
        "tarn-van-truck",
        ("tarn-van-rear", "tarn-van-rear-long-uppers"),
    ),
    "Scree runner": (
        "Hollin Fell's fast runner for the high tracks: long trailing arms with the springs on the arms.",
        "scree-runner-truck",
        ("scree-runner-rear", "scree-runner-rear-low-pivots"),
    ),
}


def demo_files() -> list[Path]:
    """Every demo design file, in the order in which they are loaded."""
    return [FOLDER / f"{name}.json" for _, _, names in BUILDS.values() for name in names]


class Command(BaseCommand):
    help = "Load the demo builds, each once."

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        for name, (notes, truck, files) in reversed(BUILDS.items()):  # the newest stands first
            if Build.objects.filter(name=name).exists():
                continue
            build = create_build(name, notes)
            save_truck(build.pk, 0, truck_data(read_truck((FOLDER / f"{truck}.json").read_bytes())))
            for file in files:
                import_design(build.pk, (FOLDER / f"{file}.json").read_bytes())
            self.stdout.write(f"Loaded the {name}: {len(files)} designs.")
