"""Random designs that somebody might build: the demo's, every mount, eye and joint of them moved, sizes changed."""

import os
from typing import Any

import numpy as np
from designs import DEMO

from oak_lever.api import Design, Refused, cycle, design_data, design_from, parts_of, read_design

FILES = sorted(path for path in DEMO.glob("*.json") if "truck" not in path.name)
MANY = int(os.environ.get("OAK_LEVER_DESIGNS", "4"))
"""How many of them a test looks at; `make validate` looks at more."""


def random_designs(seed: int, many: int = MANY) -> list[Design]:
    """So many different designs, each held by its links and reached through all its travel."""
    rng = np.random.default_rng(seed)
    found: list[Design] = []
    while len(found) < many:
        base = read_design(FILES[(seed + len(found)) % len(FILES)].read_text())
        try:
            design = _moved(base, rng)
        except Refused:
            continue
        if cycle(design, 11).swept.traced.reached.all():
            found.append(design)
    return found


def _moved(base: Design, rng: np.random.Generator) -> Design:
    data = design_data(base)
    shifts: dict[tuple[str, float, float], Any] = {}
    for spot in parts_of(base).spots:
        part: Any = data
        for step in spot.path[:-1]:
            part = part[step]
        x, y, z = spot.at
        # a mirror image goes along, the other way sideways
        key = (spot.kind, round(x, 2), round(z, 2))
        dx, dy, dz = shifts.setdefault(key, rng.uniform(-18.0, 18.0, 3))
        part[spot.path[-1]] = [x + dx, y + np.sign(y) * dy, z + dz]
    pinion = data["axle"]["pinion"]
    pinion["angle"] += float(rng.uniform(-5.0, 5.0))
    if data["axle"].get("caster") is not None:
        data["axle"]["caster"] += float(rng.uniform(-3.0, 3.0))
    if data.get("driveshaft"):
        data["driveshaft"]["kind"] = str(rng.choice(["two_joints", "double_at_case"]))
        data["driveshaft"]["case"]["angle"] += float(rng.uniform(-3.0, 3.0))
    for strap in (data.get("corners") or {}).get("straps", []):
        strap["length"] += float(rng.uniform(0.0, 40.0))
    for name in ("room", "locks", "unpaired"):
        data.pop(name, None)
    return design_from(data)
