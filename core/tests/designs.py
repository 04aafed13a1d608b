"""Shared helpers: designs as plain data, to change."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

from oak_lever.api import Design, design_data, design_from

DEMO = Path(__file__).resolve().parents[2] / "server" / "builds" / "demo"


def changed(design: Design, change: Callable[[Any], None]) -> Design:
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
