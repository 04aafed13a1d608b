"""What every part carries in every load case, and how strong it is."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.links import BentTube, Mount, RadiusArm, Tube, Watts
from oak_lever.design.loads import JointKind
from oak_lever.design.types import Design
from oak_lever.figures.links import link_figures
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.vectors import cross
from oak_lever.strength.cases import Case, axle_weight, cases_of, loads_of
from oak_lever.strength.members import (
    Pressed,
    Section,
    Strength,
    bolt_factor,
    euler_of,
    joint_factor,
    section_of,
    shank_factor,
    tube_strength,
)
from oak_lever.strength.statics import Balance, Bar, Posed, Spring, balance, length_of, posed, poses_of, spring_at_joint

_ENDS = ("axle", "frame")
_LEAST = 1e-9


@dataclass(frozen=True)
class Push:
    """A force to draw, N, chassis axes, and where it acts in the case's pose, mm: of the ground on a tire, of a spring
    on what it stands on, of a bar on the axle or on the frame."""

    part: str
    on: str
    at: tuple[float, float, float]
    force: tuple[float, float, float]


@dataclass(frozen=True)
class Carried:
    """A case with what it does: `forces` by part, N; `strength` by bar. None of all three where nothing balances."""

    case: Case
    bind: float | None
    springs: dict[str, float] | None
    forces: dict[str, dict[str, float]] | None
    strength: dict[str, Strength] | None
    pushes: tuple[Push, ...] = ()
    turn: Floats | None = None
    """(3, 3) how the axle is turned in the case's pose."""

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        case = self.case
        return {
            "id": case.id, "travel": case.travel, "articulation": case.articulation, "abuse": case.abuse,
            "balanced": self.forces is not None, "bind": self.bind, "left": list(case.left), "right": list(case.right),
            "springs": self.springs, "forces": self.forces, "strength": self.strength,
        }  # fmt: skip


@dataclass(frozen=True)
class Reckoned:
    """All cases of a design, and the links and arms dropped on a rock: moment (N mm) and yield by name."""

    design: str
    cases: tuple[Carried, ...]
    rock: dict[str, dict[str, float]]

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "format": "oak-lever-loads", "version": 1, "design": self.design,
            "cases": [one.data() for one in self.cases], "rock": self.rock,
        }  # fmt: skip


@dataclass(frozen=True)
class _Made:
    """A bar as it is made: its tube and corners, mm, at ride, and its two mounts (None: a crank's end)."""

    section: Section
    bends: tuple[Floats, ...]
    off: float
    mounts: tuple[Mount | None, Mount | None]


def reckoned(design: Design, only: str | None = None) -> Reckoned:
    """Every case in its pose, every bar in every case; or `only` one case, by its id.

    Raises:
        Refused: for what the file says that cannot be: a case's id twice, a material that is not there, a spring behind
            a radius arm's eye, no room for the springs that are taken where none is drawn.
    """
    cases = [one for one in cases_of(design) if only in (None, one.id)]
    traced, places = poses_of(design, cases)
    made = _made(design)
    poses = {place: posed(design, traced, place) for place in dict.fromkeys(places)}
    found = []
    for case, place in zip(cases, places, strict=True):
        where = poses[place]
        held = balance(design, where, case)
        if held is None:
            found.append(Carried(case, where.bind, None, None, None))
        else:
            forces, strength, pushes = _parts(design, where, held, made)
            pushes = [*_outside(design, case, where, held), *pushes]
            found.append(Carried(case, where.bind, held.springs, forces, strength, tuple(pushes), where.turn))
    return Reckoned(design.name, tuple(found), _rock(design))


def _made(design: Design) -> dict[str, _Made]:
    found = {}
    for n, link in enumerate(design.links):
        if not isinstance(link, RadiusArm):
            found[link.id] = _bar_made(design, link.tube, (link.axle, link.frame), f"links[{n}]")
    lateral = design.lateral
    if isinstance(lateral, Watts):
        for name, mount in (("watts-left", lateral.left), ("watts-right", lateral.right)):
            own = (None, mount) if lateral.pivot.on == "axle" else (mount, None)
            found[name] = _Made(section_of(design, lateral.tube, "lateral"), (), 0.0, own)
    elif lateral is not None and lateral.kind == "panhard":
        found["panhard"] = _bar_made(design, lateral.tube, (lateral.axle, lateral.frame), "lateral")
    return found


def _bar_made(design: Design, tube: BentTube | None, mounts: tuple[Mount, Mount], path: str) -> _Made:
    bends = tuple(np.array(at) for at in tube.bends) if tube else ()
    head, tail = (np.array(mount.at) for mount in mounts)
    way = (tail - head) / np.linalg.norm(tail - head)
    off = max((float(np.linalg.norm((at - head) - ((at - head) @ way) * way)) for at in bends), default=0.0)
    return _Made(section_of(design, tube, path), bends, off, mounts)


def _parts(
    design: Design, where: Posed, held: Balance, made: dict[str, _Made]
) -> tuple[dict[str, dict[str, float]], dict[str, Strength], list[Push]]:
    forces: dict[str, dict[str, float]] = {}
    strength: dict[str, Strength] = {}
    pushes: list[Push] = []
    for name in where.rows:
        if name in where.bars:
            forces[name], strength[name], whole = _bar(design, name, where, held, made[name])
            bar = where.bars[name]
            pushes += [_push(name, "axle", bar.axle, whole["axle"]), _push(name, "frame", bar.frame, -whole["frame"])]
        elif name in where.arms:
            forces[name], strength[name] = _arm(design, name, where, held)
            eye, held_by = where.arms[name][0], held.forces[name]
            pushes.append(_push(name, "frame", eye, -np.array([held_by[0], 0.0, held_by[1]])))
        else:
            forces[name] = {"side": float(held.forces[name][0])}
    if where.crank_ways:
        both = sum(held.forces[name][0] * way for name, way in where.crank_ways.items())
        forces["watts.pivot"] = {"at": length_of(both)}
    return forces, strength, pushes


def _push(part: str, on: str, at: Floats, force: Floats) -> Push:
    return Push(part, on, *((float(v[0]), float(v[1]), float(v[2])) for v in (at, force)))


def _outside(design: Design, case: Case, where: Posed, held: Balance) -> list[Push]:
    """Of the ground on the tires, and of the springs on what they stand on."""
    found = []
    down = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    for side, way, force in (("left", 0.5, case.left), ("right", -0.5, case.right)):
        wheel = where.center + where.turn @ np.array([0.0, way * design.axle.track, 0.0])
        found.append(_push(f"tire-{side}", "axle", wheel - down, np.array(force)))
        found += [
            _push(f"spring-{side}", "axle", one.at, one.part * held.springs[side] * one.way)
            for one in where.springs[side]
        ]
    return found


def _on(where: Posed, held: Balance, name: str) -> list[tuple[Spring, float]]:
    """The springs on a link or an arm, each with what it pushes with, N."""
    return [
        (one, one.part * held.springs[side])
        for side, springs in where.springs.items() for one in springs if one.on == name
    ]  # fmt: skip


def _bar(
    design: Design, name: str, where: Posed, held: Balance, made: _Made
) -> tuple[dict[str, float], Strength, dict[str, Floats]]:  # fmt: skip
    bar, tension = where.bars[name], float(held.forces[name][0])
    at_axle, at_frame = tension * bar.way, tension * bar.way  # of the bar on the axle; of the frame on the bar
    moment = twist = 0.0
    for spring, push in _on(where, held, name):
        given, taken, along, off = spring_at_joint(bar, spring)
        p = float((spring.at - bar.axle) @ bar.way)
        at_axle = at_axle + push * given
        at_frame = at_frame - push * taken - push * along * bar.way
        across = spring.way - along * bar.way
        moment += abs(push) * max(length_of(given) * abs(p), length_of(taken) * abs(bar.length - p))
        twist += push * float(cross(off, across) @ bar.way)
    ends = {"axle": float(at_axle @ bar.way), "frame": float(at_frame @ bar.way)}
    whole = {"axle": at_axle, "frame": at_frame}
    forces = {
        **ends, "at_axle": length_of(at_axle), "at_frame": length_of(at_frame), "twist": twist,
    }  # fmt: skip
    euler = euler_of(made.section, bar.length)
    places = [Pressed(ends[end], abs(ends[end]) * made.off + moment, euler) for end in _ENDS]
    strength = tube_strength(made.section, places, bar.length)
    legs = _legs(bar, made)
    for end, mount in zip(_ENDS, made.mounts, strict=True):
        strength |= _end(design, end, mount, whole[end], legs[end])
    return forces, _ordered(strength), whole


def _legs(bar: Bar, made: _Made) -> dict[str, Floats]:
    """The way of the bar's leg at each end: of a bent one as it lies to the line of its joints at ride."""
    if not made.bends or made.mounts[0] is None or made.mounts[1] is None:
        return {"axle": bar.way, "frame": bar.way}
    head, tail = (np.array(mount.at) for mount in made.mounts if mount is not None)
    rest = (tail - head) / np.linalg.norm(tail - head)
    turn = _turning(rest, bar.way)
    ways = {"axle": made.bends[0] - head, "frame": made.bends[-1] - tail}
    return {end: turn @ (way / np.linalg.norm(way)) for end, way in ways.items()}


def _turning(one: Floats, other: Floats) -> Floats:
    """The least turn that brings one way into another (Rodrigues)."""
    axis, cosine = np.cross(one, other), float(one @ other)
    if length_of(axis) < _LEAST:
        return np.eye(3)
    skew = np.array([[0.0, -axis[2], axis[1]], [axis[2], 0.0, -axis[0]], [-axis[1], axis[0], 0.0]])
    out: Floats = np.eye(3) + skew + skew @ skew / (1.0 + cosine)
    return out


def _kind(design: Design, mount: Mount | None) -> JointKind | None:
    return (design.joints or {}).get(mount.joint) if mount is not None and mount.joint is not None else None


def _end(design: Design, end: str, mount: Mount | None, force: Floats, leg: Floats) -> Strength:
    kind, size = _kind(design, mount), length_of(force)
    return {
        f"joint_{end}": joint_factor(kind, size),
        f"bolt_{end}": bolt_factor(mount.fastener if mount else None, size),
        f"shank_{end}": shank_factor(kind, force, leg),
    }


_ORDER = (
    "stress", "yield", "buckling", "joint_axle", "joint_frame", "bolt_axle", "bolt_frame", "shank_axle", "shank_frame",
)  # fmt: skip


def _ordered(strength: Strength) -> Strength:
    return {name: strength.get(name) for name in _ORDER}


def _arm(design: Design, name: str, where: Posed, held: Balance) -> tuple[dict[str, float], Strength]:
    """A radius arm: part of the axle, a cantilever from its nearer bolt."""
    n = next(n for n, link in enumerate(design.links) if link.id == name)
    link = design.links[n]
    assert isinstance(link, RadiusArm)
    eye, first, second = where.arms[name]
    push = np.array([held.forces[name][0], 0.0, held.forces[name][1]])
    way = (first + second) / 2.0 - eye
    way = way / np.linalg.norm(way)
    reach = min(float((first - eye) @ way), float((second - eye) @ way))
    section = section_of(design, link.tube, f"links[{n}]")
    springs = sorted(((float((one.at - eye) @ way), one, by) for one, by in _on(where, held, name)), key=lambda s: s[0])
    for place, _, _ in springs:
        if place < 0.0:
            raise Refused([Fault("corners.shocks", f"a spring stands behind the frame joint of {name}")])
    here = [one for one in springs if one[0] < reach]
    stations = [(place, k + after) for k, (place, _, _) in enumerate(here) for after in (0, 1)]
    euler = euler_of(section, 2.0 * reach)
    places = []
    for x, many in [*stations, (reach, len(here))]:
        tension, moment = float(-push @ way), (push - float(push @ way) * way) * x
        for place, spring, by in here[:many]:
            off = spring.at - eye - place * way
            along = by * float(spring.way @ way)
            tension -= along
            moment = moment + (by * spring.way - along * way) * (x - place) + along * off
        places.append(Pressed(tension, length_of(moment), euler))
    strength = tube_strength(section, places, 2.0 * reach)
    strength |= _end(design, "frame", link.frame, push, way)
    forces = {"x": float(push[0]), "z": float(push[2]), "at_frame": length_of(push)}
    return forces, _ordered(strength)


def _rock(design: Design) -> dict[str, dict[str, float]]:
    """Lower links and radius arms dropped on a rock at mid length."""
    load = loads_of(design).rock * axle_weight(design) / 2.0
    lengths = {one.id: one.length for one in link_figures(mechanism_of(design))}
    found = {}
    for n, link in enumerate(design.links):
        if link.kind in ("lower", "radius_arm"):
            tube: Tube | None = link.tube
            section = section_of(design, tube, f"links[{n}]")
            moment = load * lengths[link.id] / 4.0
            if moment > _LEAST:
                found[link.id] = {
                    "moment": moment, "yield": section.material.yield_ * section.inertia / (section.half * moment),
                }  # fmt: skip
    return found
