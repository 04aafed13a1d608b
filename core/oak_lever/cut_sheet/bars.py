"""Links, panhard bars and Watts rods as they are made: lengths, threads, bends, mass."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import acos, atan2, degrees, tan
from typing import Any

import numpy as np

from oak_lever.cut_sheet.ends import Made, end_made
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.links import BentTube, Mount, RadiusArm, Tube, Watts
from oak_lever.design.loads import JointKind, Threaded, per_turn
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.plates.brackets import bolts_of
from oak_lever.strength.members import section_of

_STRAIGHT = 1e-9
"""A corner of a smaller turn, radians, is none."""


@dataclass(frozen=True)
class Bend:
    """As a bender needs it: straight before it, tangent to tangent, mm; its angle, degrees; and the turn of its plane
    from the one before about the way the tube runs, right-handed, degrees."""

    straight: float
    angle: float
    rotation: float


@dataclass(frozen=True)
class CutBar:
    """A bar as it is made, mm and kg; None where it is not known how an end is made. `adjust`: how much shorter and how
    much longer its threads let it become; `ends`: the entries of the joint catalog at axle and frame."""

    id: str
    center_to_center: float
    developed: float
    cut_length: float | None
    stock_length: float | None
    adjust: tuple[float, float] | None
    per_turn: float | None
    hands: dict[str, str | None]
    bends: tuple[Bend, ...]
    last_straight: float
    mass: float | None
    tube: Tube
    ends: tuple[str | None, str | None]
    guessed: bool
    """Whether its tube is the standard one because the file says none."""

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "id": self.id, "center_to_center": self.center_to_center, "developed": self.developed,
            "cut_length": self.cut_length, "stock_length": self.stock_length,
            "adjust": list(self.adjust) if self.adjust else None, "per_turn": self.per_turn, "hands": self.hands,
            "bends": [{"straight": b.straight, "angle": b.angle, "rotation": b.rotation} for b in self.bends],
            "last_straight": self.last_straight, "mass": self.mass,
        }  # fmt: skip


@dataclass(frozen=True)
class _Drawn:
    """A bar of the file: where in it, its tube, and its two mounts; a crank's end is made as the other end."""

    id: str
    path: str
    tube: BentTube | Tube | None
    axle: Mount | None
    frame: Mount | None


def bars_made(design: Design) -> tuple[list[CutBar], list[Fault]]:
    """Every bar that can be made as drawn, in the file's order, and what is wrong with each other one."""
    mechanism = mechanism_of(design)
    at = {f"{bar.name}.{end}": mechanism.ends[n][0, b] for b, bar in enumerate(mechanism.layout.bars) for n, end in enumerate(("axle", "frame"))}  # fmt: skip  # noqa: E501
    found: list[CutBar] = []
    faults: list[Fault] = []
    bolts = bolts_of(design)
    for drawn in _drawn(design):
        try:
            found.append(_made(design, drawn, (at[f"{drawn.id}.axle"], at[f"{drawn.id}.frame"]), bolts))
        except Refused as refusal:
            faults += refusal.faults
    return found, faults


def _drawn(design: Design) -> list[_Drawn]:
    found = [
        _Drawn(link.id, f"links[{n}]", link.tube, link.axle, link.frame)
        for n, link in enumerate(design.links) if not isinstance(link, RadiusArm)
    ]  # fmt: skip
    lateral = design.lateral
    if isinstance(lateral, Watts):
        for name, mount in (("watts-left", lateral.left), ("watts-right", lateral.right)):
            ends = (None, mount) if lateral.pivot.on == "axle" else (mount, None)
            found.append(_Drawn(name, "lateral", lateral.tube, *ends))
    elif lateral is not None and lateral.kind == "panhard":
        found.append(_Drawn("panhard", "lateral", lateral.tube, lateral.axle, lateral.frame))
    return found


def _made(design: Design, drawn: _Drawn, ends: tuple[Floats, Floats], bolts: dict[str, Floats]) -> CutBar:
    section = section_of(design, drawn.tube, drawn.path)
    corners = [np.array(at) for at in getattr(drawn.tube, "bends", ())]
    line = [ends[0], *corners, ends[1]]
    developed, bends, last = _bent(line, getattr(drawn.tube, "bend_radius", None), drawn.path, drawn.id)
    tube = drawn.tube or Tube()
    legs = (_unit(line[1] - line[0]), _unit(line[-2] - line[-1]))
    made, entries = _both_ends(design, drawn, tube.diameter, legs, bolts)
    cut = stock = adjust = mass = None
    if made is not None:
        cut = developed - sum(one.takes for one in made)
        if cut <= 0.0:
            raise Refused([Fault(drawn.path, f"{drawn.id}: its ends leave no tube between them ({cut:.1f} mm)")])
        stock = cut + sum(one.cope for one in made)
        adjust = (sum(one.shorter for one in made), sum(one.longer for one in made))
        mass = section.material.density * section.area * cut * 1e-9
    hands, a_turn = _hands(design, entries), per_turn(design.joints, entries)
    return CutBar(
        drawn.id, float(np.linalg.norm(ends[1] - ends[0])), developed, cut, stock, adjust, a_turn, hands, bends, last,
        mass, tube, entries, drawn.tube is None,
    )  # fmt: skip


def _unit(way: Floats) -> Floats:
    out: Floats = way / np.linalg.norm(way)
    return out


def _both_ends(
    design: Design, drawn: _Drawn, tube: float, legs: tuple[Floats, Floats], bolts: dict[str, Floats]
) -> tuple[tuple[Made, Made] | None, tuple[str | None, str | None]]:
    joints = design.joints or {}
    mounts = (drawn.axle or drawn.frame, drawn.frame or drawn.axle)
    names = tuple(mount.joint if mount else None for mount in mounts)
    entries = (names[0], names[1])
    made: list[Made] = []
    known = True
    for end, mount, entry, leg in zip(("axle", "frame"), (drawn.axle, drawn.frame), entries, legs, strict=True):
        kind: JointKind | None = joints.get(entry or "")
        # a crank's pin is square to the rods as the crank is made
        one = end_made(kind, tube, bolts[f"{drawn.id}.{end}"] if mount else None, leg)
        if isinstance(one, str):
            raise Refused([Fault(f"{drawn.path}.{end}", f"{drawn.id}: {one}")])
        known = known and one is not None
        if one is not None:
            made.append(one)
    return ((made[0], made[1]) if known else None), entries


def _hands(design: Design, entries: tuple[str | None, str | None]) -> dict[str, str | None]:
    """Left at the axle and right at the frame where both are threaded; one alone is right."""
    kinds = [(design.joints or {}).get(entry or "") for entry in entries]
    axle, frame = (kind is not None and isinstance(kind.end, Threaded) for kind in kinds)
    return {"axle": ("left" if frame else "right") if axle else None, "frame": "right" if frame else None}


def _bent(line: Sequence[Floats], radius: float | None, path: str, name: str) -> tuple[float, tuple[Bend, ...], float]:
    """Developed length, the bends, and the straight after the last; joint centers are the ends."""
    legs = [other - one for one, other in pairwise(line)]
    long = [float(np.linalg.norm(leg)) for leg in legs]
    if len(legs) == 1:
        return long[0], (), long[0]
    if radius is None:
        raise Refused([Fault(f"{path}.tube.bend_radius", f"{name} is bent; say the radius of its bends' centerline")])
    if min(long) < _STRAIGHT:
        raise Refused([Fault(f"{path}.tube.bends", f"{name}: two corners are at one point, or one is at a joint")])
    ways = [leg / size for leg, size in zip(legs, long, strict=True)]
    turns = [acos(float(np.clip(one @ other, -1.0, 1.0))) for one, other in pairwise(ways)]
    tangents = [0.0, *(radius * tan(turn / 2.0) for turn in turns), 0.0]
    straights = [size - tangents[n] - tangents[n + 1] for n, size in enumerate(long)]
    if min(straights) < 0.0:
        n = straights.index(min(straights))
        where = "past a joint" if n in (0, len(straights) - 1) else "into each other"
        raise Refused(
            [Fault(f"{path}.tube.bends", f"{name}: bends of {radius:g} mm run {-straights[n]:.1f} mm {where}")]
        )
    bends, before = [], None
    for n, turn in enumerate(turns):
        plane = np.cross(ways[n], ways[n + 1]) if turn > _STRAIGHT else None
        rotation = 0.0 if before is None or plane is None else _about(ways[n], before, plane)
        bends.append(Bend(straights[n], degrees(turn), rotation))
        before = plane if plane is not None else before
    developed = sum(straights) + sum(radius * turn for turn in turns)
    return developed, tuple(bends), straights[-1]


def _about(way: Floats, one: Floats, other: Floats) -> float:
    """Degrees from one normal to the other about a unit way, right-handed."""
    return degrees(atan2(float(np.cross(one, other) @ way), float(one @ other)))
