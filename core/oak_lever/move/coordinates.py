"""What may be moved: each mount, or mirrored pair, along each axis that is not locked."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design, Point, RadiusArm, Slider, Watts
from oak_lever.motion.mechanism import Floats

PAIR_MM = 0.01
"""Mounts nearer than this to each other's mirror image are a pair: less than a tape shows, more than rounding."""

AXES = "xyz"
Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Spot:
    """A mount: its name (`upper-left.frame`), its place in the file, where it is, and what it may pair with."""

    name: str
    path: Path
    at: Point
    kind: str


@dataclass(frozen=True)
class Coordinate:
    """One thing to move: an axis ("x", "y", "z") of a mount, and of its mirror image, which goes the other way in y."""

    axis: str
    mounts: tuple[str, ...]
    directions: Floats
    """(K, 3) what one mm of it does to each of the design's mounts."""


def spots(design: Design) -> list[Spot]:
    """Every mount in the order of `mount_names`."""
    found: list[Spot] = []
    for n, link in enumerate(design.links):
        if isinstance(link, RadiusArm):
            for b, bolt in enumerate(link.axle.at):
                found.append(Spot(f"{link.id}.axle.{b}", ("links", n, "axle", "at", b), bolt, f"arm.axle.{b}"))
        else:
            found.append(Spot(f"{link.id}.axle", ("links", n, "axle", "at"), link.axle.at, f"{link.kind}.axle"))
        found.append(Spot(f"{link.id}.frame", ("links", n, "frame", "at"), link.frame.at, f"{link.kind}.frame"))
    return found + _of_lateral(design)


def _of_lateral(design: Design) -> list[Spot]:
    lateral = design.lateral
    if lateral is None:
        return []
    if isinstance(lateral, Slider):
        return [Spot("slider.axle", ("lateral", "axle", "at"), lateral.axle.at, "slider")]
    names = ("pivot", "left", "right") if isinstance(lateral, Watts) else ("axle", "frame")
    return [
        Spot(f"{lateral.kind}.{name}", ("lateral", name, "at"), getattr(lateral, name).at, f"{lateral.kind}.{name}")
        for name in names
    ]


def twin_of(spot: Spot, among: Iterable[Spot]) -> Spot | None:
    """The mount of the same kind that stands at this one's mirror image, if it stands off the centerline."""
    x, y, z = spot.at
    if abs(y) < PAIR_MM:
        return None
    for other in among:
        near = max(abs(other.at[0] - x), abs(other.at[1] + y), abs(other.at[2] - z)) < PAIR_MM
        if other.name != spot.name and other.kind == spot.kind and near:
            return other
    return None


def coordinates(design: Design) -> list[Coordinate]:
    """Everything that may be moved: locks and unpaired mounts of the design respected, a pair counted once.

    A mount on the truck's centerline stays on it.
    """
    every = spots(design)
    alone, locks = set(design.unpaired or ()), design.locks or {}
    index = {spot.name: n for n, spot in enumerate(every)}
    found: list[Coordinate] = []
    done: set[str] = set()
    for spot in every:
        if spot.name in done:
            continue
        twin = None if spot.name in alone else twin_of(spot, every)
        if twin and twin.name in alone:
            twin = None
        names = (spot.name,) if twin is None else (spot.name, twin.name)
        done.update(names)
        for a, axis in enumerate(AXES):
            if any(axis in locks.get(name, "") for name in names) or (axis == "y" and abs(spot.at[1]) < PAIR_MM):
                continue
            directions = np.zeros((len(every), 3))
            directions[index[spot.name], a] = 1.0
            if twin is not None:
                directions[index[twin.name], a] = -1.0 if axis == "y" else 1.0
            found.append(Coordinate(axis, names, directions))
    return found


def placed(design: Design, at: Mapping[str, Point]) -> Design:
    """The design with mounts elsewhere, by name, mm.

    Raises:
        DesignRefused: where that makes no design (two ends at one point, say).
    """
    data = design_data(design)
    paths = {spot.name: spot.path for spot in spots(design)}
    for name, point in at.items():
        *way, last = paths[name]
        part: Any = data
        for step in way:
            part = part[step]
        part[last] = [float(v) for v in point]
    return design_from(data)


def moved(design: Design, by: Floats) -> tuple[Design, dict[str, Point]]:
    """The design with its mounts moved by (K, 3) mm, and where those that moved now are."""
    at = {
        spot.name: (spot.at[0] + float(d[0]), spot.at[1] + float(d[1]), spot.at[2] + float(d[2]))
        for spot, d in zip(spots(design), by, strict=True)
        if np.any(d != 0.0)
    }
    return placed(design, at), at
