"""All figures that a truck's readings give, and which readings to take again."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from oak_lever.baseline.angles import angle_figures
from oak_lever.baseline.frame import frame_figures
from oak_lever.baseline.placement import Placed, place
from oak_lever.baseline.spread import Spread
from oak_lever.baseline.weights import weight_figures
from oak_lever.design.types import Design
from oak_lever.truck.types import Truck


@dataclass(frozen=True)
class Baseline:
    """`figures` by name: mm, degrees, kg, parts of 1. What the readings do not give is not there."""

    figures: dict[str, Spread]
    placed: Placed

    def data(self) -> dict[str, Any]:
        """The figures as plain JSON values."""
        return {
            "format": "oak-lever-truck-figures",
            "version": 1,
            "figures": {name: {"value": f.value + 0.0, "sigma": f.sigma} for name, f in self.figures.items()},
            "suspect": [{"reading": name, "off": off} for name, off in self.placed.suspect],
        }


def baseline(truck: Truck, designs: Mapping[str, Design]) -> Baseline:
    """What the readings come to. `designs` by end (`rear`, `front`): what converts a pinion read away from ride."""
    frame, placed = frame_figures(truck), place(truck)
    angles = angle_figures(truck, frame.get("frame_pitch"), designs)
    return Baseline({**frame, **placed.figures, **angles, **weight_figures(truck)}, placed)
