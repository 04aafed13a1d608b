"""Designs to cut from, and what their plates and bars are measured with."""

from math import hypot, pi
from typing import Any

import numpy as np
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import (
    Design,
    cut,
    read_design,
)
from oak_lever.plates.brackets import Plate
from oak_lever.plates.outline import Arc

THREADED = {"kind": "threaded", "shank": 76.0, "shoulder": 21.0, "nut": 11.0, "least_in": 28.0, "pitch": 1.5875, "flange": 6.35}  # fmt: skip
JOINTS = {
    "rod": {"limit": 30, "give": 0, "width": 50.0, "bolt": 12.7, "end": THREADED},
    "eye": {"limit": 20, "give": 1, "width": 50.0, "bolt": 12.7, "end": {"kind": "sleeve", "outside": 60.0}},
}  # fmt: skip


def untubed(data: Any) -> None:
    """No one has said what its links' tubes are."""
    for link in data["links"]:
        link.pop("tube", None)


TENDER = changed(read_design((DEMO / "fell-tender-rear.json").read_text()), untubed)
STOCK = {
    "tubes": [{"diameter": 50.8, "wall": 6.35, "length": 3000.0, "count": 4}], "kerf": 3.0,
    "plates": [{"thickness": 6.35, "size": [600.0, 300.0], "count": 2}], "gap": 6.0,
}  # fmt: skip


def jointed(design: Design, axle: str = "rod", frame: str = "rod") -> Design:
    """With these joints at every bar, and no bends and bolts of its own."""

    def change(data: Any) -> None:
        data["joints"] = JOINTS
        for part in [*data["links"], *([data["lateral"]] if data["lateral"] else [])]:
            for end, joint in (("axle", axle), ("frame", frame), ("left", frame), ("right", frame)):
                if isinstance(part.get(end), dict) and part.get("kind") not in ("radius_arm", "slider"):
                    part[end]["joint"] = joint
                    part[end].pop("bolt", None)

    return changed(design, change)


def line_of(design: Design) -> tuple[Any, Any]:
    """The joints of its first link."""
    link: Any = design.links[0]
    return link.axle.at, link.frame.at


def bracketed(design: Design, *brackets: dict[str, Any]) -> Design:
    every = [
        {"base": {"kind": "tube"}, "plate": 6.35, "edge": 22.0, "id": f"b{n}", **one}
        for n, one in enumerate(brackets, 1)
    ]
    return changed(design, lambda data: data.update(brackets=every))


def faces(design: Design, n: int = 0, **more: Any) -> dict[str, Any]:
    """A bracket of a link's frame mount, under a rail above it."""
    x, y, z = design.links[n].frame.at
    base = {"kind": "face", "at": [x + 5.0, y, z + 40.0], "normal": [0.0, 0.0, -2.0]}
    return {"mounts": [f"{design.links[n].id}.frame"], "base": base, "foot": 90.0, **more}


AROUND = np.linspace(0.0, 2.0 * pi, 721)


def fitting_brackets(seed: int) -> list[tuple[Design, Plate, float]]:
    """Plates on the axle tubes of random designs, of every link whose joint stands far enough off."""
    found = []
    for design in random_designs(seed=seed, many=10):
        shaped = jointed(design)
        for link in design.links:
            one = cut(bracketed(shaped, {"mounts": [f"{link.id}.axle"]}))
            found += [(shaped, plate, 22.0) for plate in one.plates]
    return found


AXLE = "lower-left.axle"


def many_brackets() -> Design:
    shaped = jointed(TENDER)
    some = [{"mounts": [f"{link.id}.axle"], "edge": 22.0} for link in shaped.links if "lower" in link.id]
    return bracketed(shaped, *some, *(faces(shaped, n, foot=60.0 + 7.0 * n) for n in range(4)))


def apart(one: np.ndarray, other: np.ndarray) -> float:
    """Least distance of two outlines, corner to side."""
    least = np.inf
    for a, b in ((one, other), (other, one)):
        way = np.roll(b, -1, axis=0) - b
        span = a[:, None] - b
        s = np.clip((span * way).sum(-1) / np.maximum((way**2).sum(-1), 1e-30), 0.0, 1.0)
        least = min(least, float(np.linalg.norm(span - s[..., None] * way, axis=-1).min()))
    return least


def tangent(piece: Any, end: bool) -> tuple[float, float]:
    if isinstance(piece, Arc):
        t = piece.t1 if end else piece.t0
        one, other = piece.of.at(t - 1e-6), piece.of.at(t + 1e-6)
    else:
        one, other = piece.a, piece.b
    long = hypot(other[0] - one[0], other[1] - one[1])
    return (other[0] - one[0]) / long, (other[1] - one[1]) / long
