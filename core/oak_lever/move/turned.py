"""A housing turned about the axle's line: the pinion's joint goes along, and with it what is welded to the housing; the
mounts too where it turns on its links, by their adjusters, and not in its brackets."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import cos, dist, radians, sin
from typing import Any, Literal

import numpy as np

from oak_lever.design.loads import per_turn
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.judge.parts import wanted_pinion
from oak_lever.motion.carried import frame_of
from oak_lever.motion.mechanism import Floats, mechanism_of

Ways = Literal["brackets", "links"]
"""`brackets`: the housing is turned in its brackets or perches, which are cut loose and set anew, so that every mount
stays where it is; `links`: the whole housing turns with its brackets, by the links' lengths."""
SOFT_DEG = 1.5
"""How far under its setting a pinion is set where soft mounts let drive turn it up: of the 1 to 3 degrees that shops
use, a mild one."""
SETTING_DEG = 0.05
"""How near to its aim a setting is brought: half of what a gauge shows."""
_ROUNDS = 30


@dataclass(frozen=True)
class Adjusted:
    """A bar whose length makes up for the turn: `by` (mm, + longer), and where the pitch of its ends is known, by how
    many turns of its adjusters."""

    part: str
    words: str
    by: float
    turns: float | None


def can_turn_on_links(design: Design) -> bool:
    """Whether the links' lengths can turn the housing: not where an arm is bolted rigidly to it."""
    return all(link.kind != "radius_arm" for link in design.links)


def turned_housing(design: Design, degrees: float, how: Ways) -> Design:
    """The design with its housing turned about the axle's line by `degrees`, + pinion's nose up, the axle at ride.

    The pinion's joint and angle, a housing that is given, kingpins, knuckle and tie rod, caster (less by as much where
    the nose goes up at a front axle) and keep-outs on the axle go along; by `links` every mount, eye and bolt on the
    axle too. The frame's mounts stay.

    Raises:
        Refused: where that makes no design.
        ValueError: by `links` where a radius arm holds the housing.
    """
    if how == "links" and not can_turn_on_links(design):
        raise ValueError("radius arms are bolted to the housing: set their brackets anew to turn it")
    turn = _Turn(design, degrees)
    data = design_data(design)
    axle = data["axle"]
    axle["pinion"]["joint"] = turn.point(axle["pinion"]["joint"])
    axle["pinion"]["angle"] += degrees
    if axle.get("housing"):
        axle["housing"]["at"] = turn.point(axle["housing"]["at"])
    if axle.get("caster") is not None:
        axle["caster"] += turn.pitch
    for spot in parts_of(design).spots:
        if spot.on == "axle" and (how == "links" or spot.path[0] == "steering"):
            part, last = _holder(data, spot.path)
            part[last] = turn.point(part[last])
            if last == "at" and part.get("bolt"):
                part["bolt"] = turn.direction(part["bolt"])
    for one in (data.get("room") or {}).get("keep_outs", []):
        if one["on"] == "axle":
            one["solid"] = turn.solid(one["solid"])
    turned = design_from(data)
    return _with_links_points(design, turned) if how == "links" else turned


def set_pinion(design: Design, under: float, how: Ways) -> Design:
    """The design with its housing turned to `under` degrees below what its shaft asks for, by iterating: the joint
    moves with the turn, and with it what a shaft with a double joint asks for.

    Raises:
        Refused: where that makes no design.
        ValueError: where no turn gets there.
    """
    turn, last = 0.0, None
    for _ in range(_ROUNDS):
        turned = turned_housing(design, turn, how)
        off = turned.axle.pinion.angle - (wanted_pinion(turned) - under)
        if abs(off) < SETTING_DEG / 100.0:
            return turned
        slope = 1.0 if last is None or turn == last[0] else (off - last[1]) / (turn - last[0])
        last = turn, off
        turn -= off / slope if abs(slope) > 0.1 else off
        if abs(turn) > 90.0:
            break
    raise ValueError("no turn of the housing brings the pinion to what its shaft asks for")


def adjusted(before: Design, after: Design) -> list[Adjusted]:
    """Every bar that is longer or shorter in one design than in another, mm; turns where both its ends' thread is
    known (`end.pitch` in the joint catalog)."""
    was = {body.id: _long(body) for body in parts_of(before).bodies if body.shape == "link"}
    found = []
    for body in parts_of(after).bodies:
        by = _long(body) - was.get(body.id, np.nan)
        if body.id in was and abs(by) >= 0.05:
            pitch = per_turn(after.joints, (body.a.joint, body.b.joint))
            found.append(Adjusted(body.id, body.words, by, by / pitch if pitch else None))
    return found


def _long(body: Any) -> float:
    return dist(body.a.at, body.b.at)


class _Turn:
    """Points and directions turned about the axle's line at ride."""

    def __init__(self, design: Design, degrees: float) -> None:
        # nose up is -pitch at a rear axle, whose pinion points forward, and +pitch at a front one
        about_y = -degrees if design.axle.end == "rear" else degrees
        self.pitch = -about_y
        """What it adds to a front axle's caster: the top leaning back is -pitch."""
        c, s = cos(radians(about_y)), sin(radians(about_y))
        self._turn = np.array([[c, 0.0, s], [0.0, 1.0, 0.0], [-s, 0.0, c]])
        self._about = np.array([0.0, 0.0, design.axle.tire_radius_loaded])

    def point(self, at: Sequence[float]) -> list[float]:
        return [float(v) for v in self._about + self._turn @ (np.array(at) - self._about)]

    def direction(self, along: Sequence[float]) -> list[float]:
        return [float(v) for v in self._turn @ np.array(along)]

    def solid(self, solid: dict[str, Any]) -> dict[str, Any]:
        """A solid turned; a prism, which lies along an axis, becomes the hull of its corners where it must: never
        smaller than it was."""
        kind = solid["kind"]
        if kind == "box":
            turn = self._turn @ _from_angles(solid.get("turn") or (0.0, 0.0, 0.0))
            return {**solid, "center": self.point(solid["center"]), "turn": _to_angles(turn)}
        if kind == "tube":
            return {**solid, "path": [self.point(at) for at in solid["path"]]}
        if kind == "hull":
            return {**solid, "points": [self.point(at) for at in solid["points"]]}
        return self._prism(solid)

    def _prism(self, solid: dict[str, Any]) -> dict[str, Any]:
        axis = "xyz".index(solid["along"])
        corners = [self.point(np.insert(np.array(c, dtype=float), axis, end).tolist())
                   for end in (solid["from"], solid["to"]) for c in solid["outline"]]  # fmt: skip
        if axis == 1:
            half = len(solid["outline"])
            return {**solid, "outline": [[x, z] for x, _, z in corners[:half]]}
        kept = {k: v for k, v in solid.items() if k not in ("along", "from", "to", "outline")}
        return {**kept, "kind": "hull", "points": corners}


def _from_angles(turn: Sequence[float]) -> Floats:
    """Rz Ry Rx of degrees about x, y, z."""
    (cx, cy, cz), (sx, sy, sz) = ([f(radians(v)) for v in turn] for f in (cos, sin))
    x = np.array([[1, 0, 0], [0, cx, -sx], [0, sx, cx]])
    y = np.array([[cy, 0, sy], [0, 1, 0], [-sy, 0, cy]])
    z = np.array([[cz, -sz, 0], [sz, cz, 0], [0, 0, 1]])
    out: Floats = z @ y @ x
    return out


def _to_angles(turn: Floats) -> list[float]:
    about_y = np.arcsin(np.clip(-turn[2, 0], -1.0, 1.0))
    if abs(turn[2, 0]) > 1.0 - 1e-12:  # about x and z turn the same way there: all of it is taken as about x
        about_x, about_z = np.arctan2(-turn[1, 2], turn[1, 1]), 0.0
    else:
        about_x, about_z = np.arctan2(turn[2, 1], turn[2, 2]), np.arctan2(turn[1, 0], turn[0, 0])
    return [float(v) for v in np.degrees([about_x, about_y, about_z])]


def _with_links_points(before: Design, after: Design) -> Design:
    """With what links carry (bends, eyes) gone along: each keeps its place from the link's frame joint."""
    carry = dict(_carriers(before, after))
    data = design_data(after)
    for body, part in _bent(data):
        turn, shift = carry[body]
        part["tube"]["bends"] = [_carried(turn, shift, at) for at in part["tube"]["bends"]]
    for listed in ("shocks", "stops", "straps"):
        for one in (data.get("corners") or {}).get(listed, []):
            if one["axle"]["on"] in carry:
                turn, shift = carry[one["axle"]["on"]]
                one["axle"]["at"] = _carried(turn, shift, one["axle"]["at"])
    return design_from(data)


def _carried(turn: Floats, shift: Floats, at: Sequence[float]) -> list[float]:
    return [float(v) for v in turn @ np.array(at) + shift]


def _carriers(before: Design, after: Design) -> Iterator[tuple[str, tuple[Floats, Floats]]]:
    """How each link has turned about its frame joint from one design to the other."""
    names = [bar.name for bar in mechanism_of(before).layout.bars]
    (axle, frame), (now, _) = (mechanism_of(one).ends for one in (before, after))
    for b, name in enumerate(names):
        bolt = mechanism_of(before).bolts[0, b, 1]
        turn = frame_of((now[0, b] - frame[0, b])[None], bolt)[0] @ frame_of(
            (axle[0, b] - frame[0, b])[None], bolt
        )[0].T  # fmt: skip
        yield name, (turn, frame[0, b] - turn @ frame[0, b])


def _bent(data: dict[str, Any]) -> Iterator[tuple[str, dict[str, Any]]]:
    lateral = data.get("lateral") or {}
    for name, part in [(link["id"], link) for link in data["links"]] + [(str(lateral.get("kind")), lateral)]:
        if (part.get("tube") or {}).get("bends"):
            yield name, part


def _holder(data: Any, path: Sequence[str | int]) -> tuple[Any, Any]:
    for step in path[:-1]:
        data = data[step]
    return data, path[-1]
