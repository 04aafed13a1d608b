"""What springs, shocks, stops, straps and the anti-roll bar do in every pose, beyond the rows of the file: what
stroke is left, how hard springs push, how eyes stand, whether an arm wants to roll over."""

from collections.abc import Iterator

import numpy as np

from oak_lever.design.links import default_bolt
from oak_lever.design.running_gear import AntiRoll, Shock, Stop, Strap
from oak_lever.design.types import Design
from oak_lever.figures.forces import pushed, sprung, stopped
from oak_lever.figures.struts import LISTED, Eyes, eyes_in, through
from oak_lever.motion.mechanism import Floats, Ints, Mechanism, mechanism_of
from oak_lever.motion.trace import Plan, Traced, trace

SHEAR_N_MM2 = 79_300.0
"""Steel's shear modulus."""

Columns = dict[str, Floats]


def corner_columns(
    design: Design, mechanism: Mechanism, traced: Traced, straight: Ints, only: str | None = None
) -> Columns:
    """Every column (P,) by its name, "shock coilover-left to_shut": mm, degrees, N, N/mm; NaN where there is none.

    `straight`: the poses of the straight travel in order, from which the change of a ratio is taken.
    `only`: of this part alone.
    """
    if design.corners is None:
        return {}
    found: Columns = {}
    with np.errstate(invalid="ignore", divide="ignore"):
        eyes = eyes_in(mechanism, traced)
        shocks, stops, straps = (
            [one for one in getattr(design.corners, listed) if only in (None, one.id)] for listed in LISTED
        )
        for shock in shocks:
            found |= {f"shock {shock.id} {name}": values for name, values in _shock(eyes, shock)}
        for stop in stops:
            found |= {f"stop {stop.id} {name}": values for name, values in _stop(eyes, stop)}
        for strap in straps:
            found |= {f"strap {strap.id} {name}": values for name, values in _strap(eyes, strap)}
        for strut in shocks:
            if strut.spring or strut.air:
                rate = wheel_rate(strut, found[f"shock {strut.id} length"], found[f"shock {strut.id} ratio"],
                                  traced.poses.travel_mm, straight)  # fmt: skip
                twisted = np.abs(traced.poses.articulation_deg) > 0.0
                found[f"shock {strut.id} wheel_rate"] = np.where(twisted, np.nan, rate)
        if design.corners.anti_roll and only in (None, "anti-roll"):
            found |= {f"bar {name}": values for name, values in _bar(eyes, design.corners.anti_roll)}
    return found


def _span(eyes: Eyes, strut: Shock | Stop | Strap) -> Floats:
    """(P, 3) from the axle-side point to the frame's."""
    out: Floats = np.array(strut.frame.at) - eyes.on(strut.axle.on, strut.axle.at).at
    return out


def _shock(eyes: Eyes, shock: Shock) -> Iterator[tuple[str, Floats]]:
    span = _span(eyes, shock)
    moved = through(eyes, shock)
    length = moved.length
    yield "length", length
    yield "ratio", -moved.by_travel
    yield "to_shut", length - shock.compressed
    yield "to_open", shock.extended - length
    yield "lean_side", np.degrees(np.arctan2(span[:, 0], span[:, 2]))
    yield "lean_rear", np.degrees(np.arctan2(span[:, 1], span[:, 2]))
    way = span / length[:, None]
    rest = default_bolt(shock.axle.at, shock.frame.at)
    yield "eye_frame", _out_of_square(way, np.array(shock.frame.bolt or rest)[None])
    yield "eye_axle", _out_of_square(way, eyes.turned(shock.axle.on, shock.axle.bolt or rest))
    if shock.spring or shock.air:
        yield "force", pushed(shock, length).force
    if shock.spring:
        free = shock.spring.preload + shock.extended
        yield "pressed", free - length
        yield "to_coils", length - (free - shock.spring.solid)
    over = eyes.over(shock.axle.on, shock.axle.at, span)
    if over is not None and (shock.spring or shock.air):
        yield "over", over


def _stop(eyes: Eyes, stop: Stop) -> Iterator[tuple[str, Floats]]:
    span = _span(eyes, stop)
    length = np.linalg.norm(span, axis=-1)
    yield "length", length
    yield "to_touch", length - stop.free
    yield "to_solid", length - stop.solid
    yield "aside_x", -span[:, 0]
    yield "aside_y", -span[:, 1]
    yield "force", stopped(stop, length)


def _strap(eyes: Eyes, strap: Strap) -> Iterator[tuple[str, Floats]]:
    span = _span(eyes, strap)
    length = np.linalg.norm(span, axis=-1)
    yield "length", length
    yield "slack", strap.length - length
    yield "to_end", strap.length * (1.0 + strap.stretch) - length
    yield "side", np.degrees(np.arcsin(np.abs(span[:, 1]) / length))


def _out_of_square(way: Floats, bolt: Floats) -> Floats:
    across = (way * bolt).sum(-1) / np.linalg.norm(bolt, axis=-1)
    out: Floats = np.degrees(np.arcsin(np.minimum(np.abs(across), 1.0)))
    return out


def wheel_rate(shock: Shock, length: Floats, ratio: Floats, travel: Floats, straight: Ints) -> Floats:
    """(P,) N/mm at the wheel as both rise together: what the spring adds to the lift for a mm of travel, rate times the
    ratio squared and force times the change of the ratio. Gas is shut in at its length at ride."""
    at = straight[~np.isnan(ratio[straight])]
    if len(at) < 3:
        return np.full_like(length, np.nan)
    change = np.gradient(ratio[at], travel[at], edge_order=2)
    push = sprung(shock, length, float(length[0]))
    out: Floats = push.rate * ratio**2 + push.force * np.interp(travel, travel[at], change)
    return out


def _bar(eyes: Eyes, bar: AntiRoll) -> Iterator[tuple[str, Floats]]:
    """Its arms' angle from level seen from the side (0 at the frame's front), its links' from upright, how far it is
    wound up; degrees. `rate`: N/mm at a wheel for a mm between the two wheels, from ride's slope."""
    arms = []
    for side, hand in (("left", 1.0), ("right", -1.0)):
        pivot, arm, link = (np.array(p) * [1.0, hand, 1.0] for p in (bar.pivot, bar.arm, bar.link))
        turn = bar_turn(eyes, bar.on, pivot, arm, link)
        rest = float(np.degrees(np.arctan2(arm[2] - pivot[2], abs(arm[0] - pivot[0]))))
        ahead = float(np.sign(arm[0] - pivot[0])) or 1.0
        yield f"arm_{side}", rest - ahead * np.degrees(turn)
        end, other = bar_link(eyes, bar.on, pivot, arm, link, turn)
        way = other - end
        yield f"link_{side}", np.degrees(np.arccos(np.abs(way[:, 2]) / np.linalg.norm(way, axis=-1)))
        arms.append(turn)
    yield "wound", np.degrees(arms[0] - arms[1])


def bar_stiffness(bar: AntiRoll) -> float:
    """N mm per radian of twist between its arms: G pi d^4 / 32 over its length; the arms taken as stiff."""
    return float(SHEAR_N_MM2 * np.pi * bar.diameter**4 / 32.0 / (2.0 * bar.arm[1]))


def bar_turn(eyes: Eyes, on: str, pivot: Floats, arm: Floats, link: Floats) -> Floats:
    """(P,) radians that an arm has turned about +y from ride so that its link keeps its length; NaN where none does. On
    the side of its dead point where it stands at ride."""
    far = eyes.seen_from(on, link)
    out = arm - pivot
    offset = far - pivot
    long = float((link - arm) @ (link - arm))
    # |R out - offset|^2 = long, with R about y: m - 2 (b cos + c sin)
    b = out[0] * offset[:, 0] + out[2] * offset[:, 2]
    c = out[2] * offset[:, 0] - out[0] * offset[:, 2]
    m = float(out @ out) + (offset**2).sum(-1) - 2.0 * out[1] * offset[:, 1]
    most = np.hypot(b, c)
    part = (m - long) / (2.0 * most)
    top = np.arctan2(c, b)
    hand = 1.0 if np.sin(-top[0]) >= 0.0 else -1.0
    turn = top + hand * np.arccos(np.where(np.abs(part) <= 1.0, part, np.nan))
    turned: Floats = (turn + np.pi) % (2.0 * np.pi) - np.pi
    return turned


def bar_link(eyes: Eyes, on: str, pivot: Floats, arm: Floats, link: Floats, turn: Floats) -> tuple[Floats, Floats]:
    """(P, 3) both: the arm's end and the link's other end, seen from the body that carries the bar."""
    out = arm - pivot
    cosine, sine = np.cos(turn), np.sin(turn)
    end = np.stack(
        [cosine * out[0] + sine * out[2], np.full_like(turn, out[1]), cosine * out[2] - sine * out[0]], axis=-1
    )
    return pivot + end, eyes.seen_from(on, link)


def bar_rate(design: Design) -> float | None:
    """N/mm at each wheel for a mm that the two wheels stand apart in height, at ride; None without an anti-roll bar, or
    where its links do not reach."""
    bar = design.corners.anti_roll if design.corners else None
    if bar is None:
        return None
    mechanism, plan = mechanism_of(design), Plan()
    at = plan.twist(np.array([-0.5, 0.5]))
    traced = trace(mechanism, plan.poses())
    wound = dict(_bar(Eyes(mechanism, traced), bar))["wound"][at]
    apart = 2.0 * np.sin(np.radians(0.5)) * design.axle.track
    per_mm = float(np.radians(wound[1] - wound[0]) / apart)
    return None if np.isnan(per_mm) else bar_stiffness(bar) * per_mm**2
