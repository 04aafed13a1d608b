"""Shared helpers: designs as plain data, to change."""

import io
import json
import math
import sys
from collections.abc import Callable
from pathlib import Path
from types import SimpleNamespace
from typing import Any
from unittest.mock import patch

import numpy as np

from oak_lever.api import (
    Cycle,
    Design,
    design_data,
    design_from,
    figures_of_many,
    mount_names,
    mounts_of,
    parts_of,
    placed,
)  # fmt: skip
from oak_lever.cli import main
from oak_lever.design.parts import bars_of
from oak_lever.judge.measures import measures
from oak_lever.motion.trace import Plan
from oak_lever.move.coordinates import AXES, Coordinate, Space
from oak_lever.move.slopes import slopes

COMMAND = Path(sys.executable).with_name("oak-lever")
DEMO = Path(__file__).resolve().parents[2] / "server" / "builds" / "demo"


def changed(design: Design, change: Callable[[Any], object]) -> Design:
    copy = json.loads(json.dumps(design_data(design)))
    change(copy)
    return design_from(copy)


def every_point(data: Any, move: Callable[[list[float]], list[float]]) -> Any:
    """The data with every chassis point (`at`, `joint` of the pinion) and bolt moved."""
    if isinstance(data, dict):
        return {
            key: _moved(value, move) if key in ("at", "joint") and isinstance(value, list) else every_point(value, move)
            for key, value in data.items()
        }
    return [every_point(item, move) for item in data] if isinstance(data, list) else data


def _moved(value: list[Any], move: Callable[[list[float]], list[float]]) -> list[Any]:
    return [_moved(item, move) for item in value] if isinstance(value[0], list) else move(value)


def bars(design: Design) -> list[Any]:
    """Links, arms, bars and rods with where their joints stand at ride: `id`, `kind`, `axle`, `frame`."""
    found = []
    for body in bars_of(parts_of(design)):
        kind = "watts" if body.kind == "watts" else body.kind
        found.append(SimpleNamespace(id=body.id, kind=kind, axle=body.a.at, frame=body.b.at))
    return found


def measured(cycled: Cycle) -> dict[str, float]:
    """Every registered figure that a cycled design has."""
    found = {name: float(measure.value[0]) for name, measure in measures(cycled.swept).items()}
    return {name: value for name, value in found.items() if not math.isnan(value)}


def column_slopes(design: Design, column: str) -> Any:
    """(K, 3) a column's change at ride per mm of each mount coordinate, each by itself."""
    names = mount_names(design)
    free = []
    for k, name in enumerate(names):
        for a, axis in enumerate(AXES):
            directions = np.zeros((len(names), 3))
            directions[k, a] = 1.0
            free.append(Coordinate(axis, (name,), directions))
    space = Space(design, free)

    def values(moves: Any) -> Any:
        return figures_of_many(design, space.mounts(moves), Plan().poses(), [column])[0][column]

    return slopes(values, np.zeros(len(free)))[1].reshape(len(names), 3)


def moved(design: Design, by: Any) -> tuple[Design, dict[str, Any]]:
    """The design with its mounts moved by (K, 3) mm, and where those that moved now are."""
    names, now = mount_names(design), mounts_of(design) + by
    at: dict[str, Any] = {name: tuple(float(v) for v in now[k]) for k, name in enumerate(names) if np.any(by[k] != 0)}
    return placed(design, at), at


class Terminal(io.TextIOWrapper):
    """A stream as a terminal has it, and what was written to it."""

    def __init__(self, holds: str = "") -> None:
        super().__init__(io.BytesIO(holds.encode()), "utf-8")

    def text(self) -> str:
        self.flush()
        return bytes(self.buffer.getvalue()).decode()  # type: ignore[attr-defined]


def run(*arguments: str, text: str | None = None) -> SimpleNamespace:
    """The command, as a terminal sees it: `returncode`, `stdout`, `stderr`. (A process of its own takes seconds to load
    what is loaded here; what only a process can show has tests with one.)"""
    out, errors = Terminal(), Terminal()
    with patch.multiple(sys, stdin=Terminal(text or ""), stdout=out, stderr=errors):
        try:
            code: object = main(arguments)
        except SystemExit as done:
            code = done.code
    return SimpleNamespace(returncode=code, stdout=out.text(), stderr=errors.text())


def links_of(design: Design) -> list[Any]:
    """The links, whose kinds a test knows and a type checker does not."""
    return list(design.links)
