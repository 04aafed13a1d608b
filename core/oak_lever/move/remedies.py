"""What a shop does about a finding beside moving a mount: a bolt turned, ends bushed, a link lengthened, a locator left
out or added, less travel. Each is proposed here as a design; whether it helps is judged elsewhere.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import atan2, degrees, floor, hypot
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Swept, cycle
from oak_lever.design.axle import HOUSING_TUBES
from oak_lever.design.faults import Refused
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.design.links import TUBE_MM
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.figures.joints import spans
from oak_lever.judge.check import GOOD, Check
from oak_lever.judge.joint_table import bolt_axis
from oak_lever.judge.judged import NO_TRAVEL, SHORT, TOGETHER, judge
from oak_lever.judge.places import Place
from oak_lever.judge.verdicts import Verdicts
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import rotations
from oak_lever.move.buildable import EYE_MM, builds, in_the_way
from oak_lever.move.coordinates import Shift, spots, twin_of
from oak_lever.move.layout import forget
from oak_lever.units import Units, length

Data = dict[str, Any]
_LONGER = (1.1, 1.2, 1.35, 1.5)
_BEHIND_MM = 25.0
"""How far clear of the axle tube and of the housing an added bar's tube stands: the housing turns under it."""
_HAIR = 1e-9
TravelKey = Literal["bump", "droop", "articulation"]
_TURN_DEG = 0.5
"""Bolts are set to the nearest half degree."""


@dataclass(frozen=True)
class Remedy:
    """A changed design, what was done in words, and its price; the shifts of mounts, where it is nothing else."""

    words: str
    price: str
    design: Design
    shifts: tuple[Shift, ...] = ()


def remedies(before: Verdicts, check: Check, increment_mm: float, units: Units) -> Iterator[Remedy]:
    """Everything that might help, in the order in which a shop would think of it."""
    asked = _Asked(before, check, increment_mm, units)
    for propose, against in _PROPOSALS.items():
        if check.figure.id in against:
            yield from propose(asked)


@dataclass(frozen=True)
class _Asked:
    before: Verdicts
    check: Check
    increment_mm: float
    units: Units

    @property
    def design(self) -> Design:
        return self.before.design

    @property
    def swept(self) -> Swept:
        return self.before.cycled.swept

    @property
    def place(self) -> Place:
        return self.check.place

    def changed(self, words: str, price: str, change: Callable[[Data], None]) -> Iterator[Remedy]:
        """The design changed as plain values; nothing where that makes no design."""
        data = design_data(self.design)
        change(data)
        try:
            yield Remedy(words, price, design_from(data))
        except (Refused, KeyError):
            return


def _part(data: Data, path: tuple[str | int, ...]) -> Any:
    found: Any = data
    for step in path:
        found = found[step]
    return found


def _mount_path(design: Design, joint: str) -> tuple[str | int, ...] | None:
    """The path of the mount that is that joint; None for the middle of an arm's bolts, or a crank's end."""
    spot = next((spot for spot in spots(design) if spot.name == joint), None)
    return spot.path[:-1] if spot is not None and spot.path[-1] == "at" else None


def _with_twin(design: Design, joint: str) -> list[str]:
    every = spots(design)
    spot = next(spot for spot in every if spot.name == joint)
    alone = {spot.name, spot.was} & set(design.unpaired or ())
    twin = None if alone else twin_of(spot, every)
    return [joint] if twin is None else [joint, twin.name]


def _joint_words(design: Design, joint: str) -> str:
    parts = parts_of(design)
    body = next((body.words for body in parts.bodies if body.id == joint.rpartition(".")[0]), joint)
    return f"the {body}, {parts.spot(joint).words}"


# a bolt turned


def _turned_bolt(asked: _Asked) -> Iterator[Remedy]:
    """To where the link, through all that it does, stays as nearly square to it as one direction can be: the direction
    in which the link's own directions reach least (least squares, the smallest singular vector)."""
    joint = asked.place.parts[0]
    name, _, end = joint.rpartition(".")
    path = _mount_path(asked.design, joint)
    swept = asked.swept
    bar = next(b for b, bar in enumerate(swept.mechanism.layout.bars) if bar.name == name)
    if path is None or swept.mechanism.layout.bars[bar].rigid:
        return
    reached = swept.traced.reached[0]
    state = swept.traced.state[:, reached]
    along = spans(swept.mechanism, state)[0, :, bar]
    if end == "axle":
        along = np.einsum("pji,pj->pi", rotations(state[0]), along)
    along /= np.linalg.norm(along, axis=-1, keepdims=True)
    bolt = np.linalg.svd(along, full_matrices=False)[2][-1]
    now = swept.mechanism.bolts[0, bar, 0 if end == "axle" else 1]
    across = abs(now[1]) >= abs(now[0])
    was, then = (_angles(one, across) for one in (now, bolt))
    turn = [_TURN_DEG * round((new - old) / _TURN_DEG) for old, new in zip(was, then, strict=True)]
    if not any(turn):
        return
    set_to = bolt_axis(was[0] + turn[0], was[1] + turn[1], across)

    def change(data: Data) -> None:
        for n, one in enumerate(_with_twin(asked.design, joint)):
            to = _mount_path(asked.design, one)
            assert to is not None
            _part(data, to)["bolt"] = [set_to[0], -set_to[1] if n else set_to[1], set_to[2]]

    yield from asked.changed(
        f"turn the bolt of {_joint_words(asked.design, joint)}{_both(asked.design, joint)} by "
        f"{_turn_words(turn, across)}",
        "The bracket's ears must be set to that angle.", change,
    )  # fmt: skip


def _both(design: Design, joint: str) -> str:
    return ", and its mirror image" if len(_with_twin(design, joint)) > 1 else ""


def _angles(bolt: Any, across: bool) -> tuple[float, float]:
    """Degrees in plan from square across (or, of a bolt that lies along, from straight ahead), and up from level."""
    x, y, z = (float(v) for v in bolt)
    if (y if across else x) < 0:
        x, y, z = -x, -y, -z
    flat = hypot(x, y)
    return degrees(atan2(x, y) if across else atan2(y, x)), degrees(atan2(z, flat))


def _turn_words(turn: list[float], across: bool) -> str:
    end, ways = ("left end", ("forward", "back")) if across else ("front end", ("to the left", "to the right"))
    said = [f"{abs(turn[0]):g} degrees in plan, its {end} {ways[turn[0] < 0]}"] if turn[0] else []
    said += [f"{abs(turn[1]):g} degrees from level, its {end} {('up', 'down')[turn[1] < 0]}"] if turn[1] else []
    return " and ".join(said)


# other ends


def _other_joint(asked: _Asked) -> Iterator[Remedy]:
    """A joint that turns farther than the one that runs out."""
    joint = asked.place.parts[0]
    path = _mount_path(asked.design, joint)
    had = joint_kind(asked.design, asked.swept.joint_entries.get(joint))
    new = joint_kind(asked.design, "spherical_spaced")
    if path is not None and new.limit > had.limit:
        yield from _jointed(
            asked, [joint], "spherical_spaced",
            f"put a spherical end with misalignment spacers at {_joint_words(asked.design, joint)}",
            "It needs a wider bracket, passes on noise and wants grease.",
        )  # fmt: skip


def _bushed(asked: _Asked) -> Iterator[Remedy]:
    """Bushed ends on the link that is asked for more than it gives."""
    for name in asked.place.parts[:1]:
        ends = [f"{name}.{end}" for end in ("axle", "frame") if _mount_path(asked.design, f"{name}.{end}")]
        words = next((body.words for body in parts_of(asked.design).bodies if body.id == name), name)
        if ends:
            yield from _jointed(
                asked, ends, "bushed", f"put rubber bushed ends on the {words} and its mirror image",
                "The axle then wanders by that give under load, and the bushes wear.",
            )  # fmt: skip


def _jointed(asked: _Asked, joints: list[str], entry: str, words: str, price: str) -> Iterator[Remedy]:
    def change(data: Data) -> None:
        for joint in joints:
            for one in _with_twin(asked.design, joint):
                path = _mount_path(asked.design, one)
                if path is not None:
                    _part(data, path)["joint"] = entry

    yield from asked.changed(words, price, change)


# links


def _longer(asked: _Asked) -> Iterator[Remedy]:
    """The link that runs out, lengthened along its own line at its frame end."""
    found = next(iter(asked.place.parts), "")
    link = next(
        (n for n, link in enumerate(asked.design.links) if link.id == found and link.kind != "radius_arm"), None
    )
    if link is None:
        return
    names = {one.rpartition(".")[0] for one in _with_twin(asked.design, f"{found}.frame")}
    words = next(body.words for body in parts_of(asked.design).bodies if body.id == found)
    for factor in _LONGER:
        grown: list[float] = []

        def change(data: Data, factor: float = factor, grown: list[float] = grown) -> None:
            for part in data["links"]:
                if part["id"] in names:
                    head, tail = (np.array(part[end]["at"]) for end in ("axle", "frame"))
                    long = float(np.linalg.norm(tail - head))
                    by = asked.increment_mm * round((factor - 1.0) * long / asked.increment_mm)
                    part["frame"]["at"] = [float(v) for v in tail + by * (tail - head) / long]
                    grown.append(by)

        for other in asked.changed("", "", change):
            now, moved = mechanism_of(asked.design), mechanism_of(other.design)
            if not builds(asked.design, now, moved)[0]:
                continue
            said = f"lengthen the {words} by {length(grown[0], asked.units)}"
            both = " and its mirror image" if len(names) > 1 else ""
            yield Remedy(
                said + both + ", its frame mount farther along its own line", "Room is needed there.", other.design
            )
            if asked.check.id not in judge(cycle(other.design).swept).grave():
                return


def _left_out(asked: _Asked) -> Iterator[Remedy]:
    """One of the two that hold the axle sideways: only where the other does it well by itself."""
    lateral = asked.design.lateral
    ids = {link.id for link in asked.design.links}
    if lateral is not None:
        words = {"panhard": "panhard bar", "watts": "Watts link", "slider": "slider"}[lateral.kind]
        yield from _sound(
            asked, asked.changed(f"leave out the {words}", _ALONE, lambda data: data.update(lateral=None))
        )
    for name in asked.place.parts:
        if name in ids:
            words = next(body.words for body in parts_of(asked.design).bodies if body.id == name)

            def change(data: Data, name: str = name) -> None:
                data["links"] = [link for link in data["links"] if link["id"] != name]
                forget(data, name)

            yield from _sound(asked, asked.changed(f"leave out the {words}", _ALONE, change))


_ALONE = "What stays then holds the axle sideways alone."


def _sound(asked: _Asked, found: Iterator[Remedy]) -> Iterator[Remedy]:
    """Those that leave the axle held: its side load and side give no finding."""
    for other in found:
        grave = judge(cycle(other.design).swept).grave()
        if not {"loose", "side_force", "side_give"} & set(grave):
            yield other


def _bar_added(asked: _Asked) -> Iterator[Remedy]:
    """A panhard bar behind the axle tube, level, as long as the room between the tires lets it be."""
    design = asked.design
    if design.lateral is not None:
        return
    axle = design.axle
    back = -1.0 if axle.end == "rear" else 1.0
    ball = axle.housing.diameter if axle.housing else HOUSING_TUBES * axle.tube_diameter
    x = back * (ball / 2.0 + TUBE_MM / 2.0 + _BEHIND_MM)
    z = axle.tire_radius_loaded + 0.1 * axle.tire_diameter
    half = (axle.track - axle.tire_width) / 2.0 - 3.0 * EYE_MM
    if design.rails is not None:
        half = min(half, design.rails.outside_width / 2.0 - design.rails.flange - EYE_MM)
    at = [[float(round(v)) for v in (x, side * half, z)] for side in (-1, 1)]
    bar = {"kind": "panhard", "axle": {"at": at[0]}, "frame": {"at": at[1]}}
    ends = ", ".join(
        f"{where} {length(abs(point[1]), asked.units)} {side}"
        for where, point, side in (("at the axle", at[0], "right"), ("at the frame", at[1], "left"))
    )
    words = (
        f"add a panhard bar {length(abs(x), asked.units)} {'behind' if back < 0 else 'ahead of'} the axle, level at "
        f"{length(z, asked.units)} off the floor, {ends}"
    )
    for other in asked.changed(
        words, "It moves the axle sideways on its arc, and needs room there.", lambda data: data.update(lateral=bar)
    ):
        if not any(name.startswith("panhard") for name in in_the_way(other.design, mechanism_of(other.design))):
            yield other


# less travel


def _less_travel(asked: _Asked) -> Iterator[Remedy]:
    """As much of bump, droop or articulation as leaves the finding less grave; whichever it hangs on."""
    place = asked.place
    keys: list[TravelKey] = ["articulation"] if place.articulation else []
    if place.travel:
        keys.append("bump" if place.travel > 0 else "droop")
    for key in keys:
        step = _TURN_DEG if key == "articulation" else asked.increment_mm
        most = _most_travel(asked, key, step)
        if most:
            amounts = (most * step, float(getattr(asked.design.travel, key)))
            said, had = (f"{v:g} degrees" if key == "articulation" else length(v, asked.units) for v in amounts)
            words = {"bump": "bump travel", "droop": "droop travel", "articulation": "articulation"}[key]
            yield Remedy(
                f"ask for less {words}: {said} instead of {had}", "Stops or straps must hold it there.",
                _travelling(asked.design, key, most * step),
            )  # fmt: skip


def _travelling(design: Design, key: TravelKey, amount: float) -> Design:
    return design.rewritten(travel=design.travel.rewritten(**{key: amount}))


def _most_travel(asked: _Asked, key: TravelKey, step: float) -> int:
    """The most whole steps, below what is asked for, at which the finding is less grave, by halving; 0 where not even a
    quarter of it helps."""
    was = asked.check.grave

    def better(count: int) -> bool:
        swept = cycle(_travelling(asked.design, key, count * step)).swept
        return judge(swept).grave().get(asked.check.id, GOOD) < was

    high = floor(float(getattr(asked.design.travel, key)) / step - _HAIR)
    low = max(1, high // 4)
    if high < 1 or not better(low):
        return 0
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if better(middle) else (low, middle - 1)
    return low


_PROPOSALS: dict[Callable[[_Asked], Iterator[Remedy]], tuple[str, ...]] = {
    _turned_bolt: ("joint_angle",),
    _other_joint: ("joint_angle",),
    _left_out: ("fight",),
    _bar_added: ("loose", "side_force", "side_give"),
    _longer: (*SHORT, TOGETHER, NO_TRAVEL),
    _bushed: ("bind",),
    _less_travel: (
        *SHORT,
        TOGETHER,
        "bind",
        "fight",
        "joint_angle",
        "rear_steer",
        "pinion_change",
        "caster_change",
        "swing",
    ),
}  # fmt: skip
"""What might help against which findings."""
