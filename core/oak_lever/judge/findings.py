"""Findings on a cycled design: values that a screen, a sheet or a terminal can show."""

from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Cycle, cycle
from oak_lever.motion.freedom import free_directions, gives_most, going_loose
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


_SHORT_OF = 1.0 - 1e-6  # of the travel at which it stops: there the axle still stands


def said(name: str) -> str:
    """A constraint's id as words: "upper left link", "panhard bar", "left rod of the Watts link"."""
    words = name.replace("-", " ").replace("_", " ").strip()
    if name in ("watts-left", "watts-right"):
        return f"{words.split()[1]} rod of the Watts link"
    return {"panhard": "panhard bar", "slider": "slider"}.get(name, words if "link" in words else f"{words} link")


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
                pose = cycle(
                    cycled.design, 2, (at * _SHORT_OF, 0.0) if sweep == "heave" else (0.0, at * _SHORT_OF)
                ).here
                assert pose is not None
                way, link = going_loose(mechanism_of(cycled.design), pose.state[0])
                yield Finding(
                    f"ends-short-{end.replace(' ', '-')}", "stop", "travel" if sweep == "heave" else "articulation",
                    at, "mm" if sweep == "heave" else "deg", "heave" if sweep == "heave" else "articulation", at,
                    f"The axle stops short of full {end}: the {said(link)} runs out of length or goes over center there, "
                    f"and past it nothing would hold the axle {way}.",
                    f"Lengthen the {said(link)}, or set its mounts so that it lies flatter through the travel.",
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
        most = said(gives_most(mechanism_of(cycled.design), rows.state[worst]))
        yield Finding(
            f"binds-{sweep}", "stop", "bind", float(give[worst]), "mm",
            "heave" if sweep == "heave" else "articulation", float(rows.columns[along][worst]),
            f"The links fight each other: bushings or steel must give this much, most of it at the {most}.",
            "Leave out one locator, or use bushed ends that can give it.",
        )  # fmt: skip


RULES: tuple[Callable[[Cycle], Iterator[Finding]], ...] = (_loose, _ends_short, _binds)
