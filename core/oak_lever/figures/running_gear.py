"""What runs with the axle and constrains nothing, in every pose: driveshaft, steering, shocks, stops, straps."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.design.types import Design
from oak_lever.figures.driveline import driveline
from oak_lever.figures.steer import Knuckle
from oak_lever.figures.struts import Listed, strut_columns
from oak_lever.motion.mechanism import Floats, Ints, Mechanism
from oak_lever.motion.trace import Poses, Traced, finely, trace

FINE_MM, FINE_DEG = 10.0, 1.0
"""How closely the drag link's knuckle is followed: it must not change over to the other side of its dead point."""


@dataclass(frozen=True)
class RunningGear:
    """`columns` (P,) of single figures by name; `struts` by list, id and figure, (P,) each. NaN stands for none."""

    columns: dict[str, Floats]
    struts: dict[Listed, dict[str, dict[str, Floats]]]

    def at(self, places: Ints) -> "RunningGear":
        """The same in some of the poses."""
        return RunningGear(
            {name: values[places] for name, values in self.columns.items()},
            {
                listed: {id_: {key: values[places] for key, values in one.items()} for id_, one in all_.items()}
                for listed, all_ in self.struts.items()
            },
        )

    def row(self, n: int, reached: bool) -> dict[str, Any]:
        """What a row of the file has of it: null where it is not reached."""
        plain = {name: _plain(values[n]) for name, values in self.columns.items()}
        struts = {
            str(listed): {id_: {key: _plain(values[n]) for key, values in one.items()} for id_, one in all_.items()}
            if reached
            else None
            for listed, all_ in self.struts.items()
        }
        return {**plain, **struts}

    def flat(self) -> Iterator[tuple[str, Floats]]:
        """Every column with a name of its own: "shock coilover-left length"."""
        yield from self.columns.items()
        for listed, all_ in self.struts.items():
            for id_, one in all_.items():
                for key, values in one.items():
                    yield f"{listed[:-1]} {id_} {key}", values


def _plain(value: float) -> float | None:
    return None if np.isnan(value) else float(value) + 0.0


def running_gear(design: Design, mechanism: Mechanism, traced: Traced, only: str | None = None) -> RunningGear:
    """Of the mechanism's first design, in the traced poses; `only`: of the shaft or of the drag link alone."""
    columns: dict[str, Floats] = {}
    with np.errstate(invalid="ignore", divide="ignore"):
        if design.driveshaft and only in (None, "shaft"):
            columns |= driveline(design, traced.state[0])
        if design.steering and only in (None, "drag-link"):
            columns["bump_steer"] = bump_steer(design, mechanism, traced.poses)
        struts = strut_columns(design, mechanism, traced) if design.corners and only is None else {}
    return RunningGear(columns, struts)


def bump_steer(design: Design, mechanism: Mechanism, poses: Poses) -> Floats:
    """(P,) degrees that the steered knuckle has turned about its kingpin, + to the left; NaN from where the drag link
    keeps it no more."""
    assert design.steering is not None
    close, place = finely(poses, FINE_MM, FINE_DEG)
    traced = trace(mechanism, close)
    turned = Knuckle(design.axle, design.steering).follow(close, traced.state[0], traced.reached[0])
    return np.degrees(turned[place])
