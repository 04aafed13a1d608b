"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.motion.freedom import free_directions
from oak_lever.motion.mechanism import mechanism_of

Severity = Literal["stop", "fix", "consider", "good"]


@dataclass(frozen=True)
class Finding:
    """One judgment. `value` in `unit` (mm, deg), `worst_at` the travel (mm) or articulation (deg) along `sweep`."""

    id: str
    severity: Severity
    figure: str
    value: float | None
    unit: Literal["mm", "deg"] | None
    sweep: Literal["heave", "articulation"] | None
    worst_at: float | None
    message: str
    remedy: str

    def data(self) -> dict[str, Any]:
        return asdict(self)


def findings(cycled: Cycle) -> list[Finding]:
    """Every finding, in the order of the rules: the gravest first."""
    return [finding for rule in RULES for finding in rule(cycled)]


def _loose(cycled: Cycle) -> Iterator[Finding]:
    if cycled.located:
        return
    ways = " and ".join(free_directions(mechanism_of(cycled.design)))
    yield Finding(
        "loose", "stop", "freedom", None, None, None, None,
        f"Nothing holds the axle {ways}.",
        "Add a locator that way, or move mounts so that the links converge.",
    )  # fmt: skip


def _ends_short(cycled: Cycle) -> Iterator[Finding]:
    if not cycled.located:
        return
    for sweep, ends in (("heave", ("droop", "bump")), ("articulation", ("right wheel up", "left wheel up"))):
        for at, end in zip(cycled.stops[sweep], ends, strict=True):
            if at is not None:
                yield Finding(
                    f"ends-short-{end.replace(' ', '-')}", "stop", "travel" if sweep == "heave" else "articulation",
                    at, "mm" if sweep == "heave" else "deg", "heave" if sweep == "heave" else "articulation", at,
                    f"The axle stops short of full {end}: a link runs out of length or goes over center there.",
                    "Lengthen that link, or set its mounts so that it lies flatter through the travel.",
                )  # fmt: skip


def _binds(cycled: Cycle) -> Iterator[Finding]:
    for sweep, rows, along in (
        ("heave", cycled.heave, "travel"),
        ("articulation", cycled.articulation, "articulation"),
    ):
        give = rows.columns["bind"]
        if not np.nanmax(give, initial=0.0) > 0.0:
            continue
        worst = int(np.nanargmax(give))
        yield Finding(
            f"binds-{sweep}", "stop", "bind", float(give[worst]), "mm",
            "heave" if sweep == "heave" else "articulation", float(rows.columns[along][worst]),
            "The links fight each other: bushings or steel must give this much.",
            "Leave out one locator, or use bushed ends that can give it.",
        )  # fmt: skip


RULES: tuple[Callable[[Cycle], Iterator[Finding]], ...] = (_loose, _ends_short, _binds)
