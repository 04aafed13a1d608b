"""Worked out another way than the product does it, for tests: poses one by one, plain geometry."""

import math
from typing import Any

import numpy as np

from oak_lever.api import Design, cycle
from oak_lever.motion.trace import rotations


def lengths_of(design: Design, strut: Any, state: Any) -> Any:
    """How long a strut is in poses (P, 7): its lower eye on the axle or on a link, which keeps its frame joint's bolt."""
    turn = rotations(state)
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])

    def on_axle(point: Any) -> Any:
        return state[:, :3] + turn @ (np.array(point) - center)

    link = next((one for one in design.links if one.id == strut.axle.on and one.kind != "radius_arm"), None)
    if link is None:
        return np.linalg.norm(on_axle(strut.axle.at) - np.array(strut.frame.at), axis=-1)
    frame, axle = np.array(link.frame.at), np.array(link.axle.at)
    flat = frame - axle
    bolt = np.array(link.frame.bolt or [-flat[1], flat[0], 0.0])

    def axes(along: Any) -> Any:
        one = along / np.linalg.norm(along, axis=-1, keepdims=True)
        two = bolt - (one @ bolt)[..., None] * one
        two = two / np.linalg.norm(two, axis=-1, keepdims=True)
        return np.stack([one, two, np.cross(one, two)], axis=-1)

    own = axes(axle - frame).T @ (np.array(strut.axle.at) - frame)
    there = frame + axes(on_axle(axle) - frame) @ own
    return np.linalg.norm(there - np.array(strut.frame.at), axis=-1)


def asked(design: Design) -> float:
    """What the shaft asks of the pinion, written out anew."""
    shaft, pinion = design.driveshaft, design.axle.pinion
    assert shaft is not None
    if shaft.kind == "two_joints":
        return shaft.case.angle
    (x, y, z), (a, b, c) = shaft.case.joint, pinion.joint
    return math.degrees(math.asin((z - c) / math.dist((x, y, z), (a, b, c))))


def about_axle(design: Design, point: Any, nose_up: float) -> Any:
    """A point turned about the axle's line: a rear pinion points forward, so its nose goes up against +y."""
    x, y, z = point
    r = design.axle.tire_radius_loaded
    a = math.radians(nose_up) * (1.0 if design.axle.end == "rear" else -1.0)
    return (x * math.cos(a) - (z - r) * math.sin(a), y, r + x * math.sin(a) + (z - r) * math.cos(a))


def far_along(design: Design, way: float) -> tuple[Any, Any]:
    """Straight travel from ride on a way, some beyond what is asked for: how far, mm, and the axle's poses (P, 7)."""
    far = design.travel.rewritten(bump=design.travel.bump + 75.0, droop=design.travel.droop + 75.0)
    swept = cycle(design.rewritten(travel=far), 301).heave
    reached = swept.reached & (way * swept.columns["travel"] >= 0.0)
    order = np.argsort(way * swept.columns["travel"][reached])
    return way * swept.columns["travel"][reached][order], swept.state[reached][order]


def ends_at(design: Design, way: float) -> list[tuple[float, str]]:
    """Where straight travel is ended by each shock, coil, stop and strap, and by the shaft, by its part in
    `part_said`'s names, worked out pose by pose."""
    corners, found = design.corners, []
    assert corners is not None
    along, state = far_along(design, way)
    every: list[tuple[Any, Any]] = [
        *((one, lambda v, one=one: v - one.compressed) for one in corners.shocks if one.sort != "coil"),
        *((one, lambda v, one=one: one.extended - v) for one in corners.shocks if one.sort != "coil"),
        *(
            (one, lambda v, one=one: v - (one.spring.preload + one.extended - one.spring.solid))
            for one in corners.shocks
            if one.spring
        ),
        *((one, lambda v, one=one: v - one.solid) for one in corners.stops),
        *((one, lambda v, one=one: one.length * (1.0 + one.stretch) - v) for one in corners.straps),
    ]
    over = [(strut.id, -left(lengths_of(design, strut, state))) for strut, left in every]
    for name, past in [*over, *shaft_past(design, state)]:
        at = crossed(along, past)
        if at < math.inf:
            found.append((at, name))
    return sorted(found)


def shaft_past(design: Design, state: Any) -> Any:
    """How far the shaft is past each of its limits in poses, degrees and mm; below 0 inside it."""
    shaft, axle = design.driveshaft, design.axle
    if shaft is None:
        return
    turn, a = rotations(state), math.radians(axle.pinion.angle)
    joint, case = np.array(axle.pinion.joint), np.array(shaft.case.joint)
    span = state[:, :3] + turn @ (joint - np.array([0.0, 0.0, axle.tire_radius_loaded])) - case
    slip = np.linalg.norm(span, axis=-1) - math.dist(joint, case)
    ahead = 1.0 if axle.end == "rear" else -1.0
    down, aside = math.radians(shaft.case.angle), math.radians(shaft.case.turn)
    out = [-ahead * math.cos(down) * math.cos(aside), math.cos(down) * math.sin(aside), -math.sin(down)]
    nose = turn @ np.array([ahead * math.cos(a), 0.0, math.sin(a)])

    def between(one: Any, other: Any) -> Any:
        cosine = (one * other).sum(axis=-1) / np.linalg.norm(span, axis=-1)
        return np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))

    yield "case_joint", between(np.array(out), span) - shaft.joint_limit.case
    yield "pinion_joint", between(-nose, span) - shaft.joint_limit.pinion
    yield "slip_out", slip - shaft.slip.out
    yield "slip_in", -slip - shaft.slip.in_


def crossed(along: Any, past: Any) -> float:
    """Where something first comes past 0; infinite where it never does."""
    n = next((n for n in range(1, len(past)) if past[n] > 0.0 >= past[n - 1]), None)
    if n is None:
        return math.inf
    return float(along[n - 1] - past[n - 1] * (along[n] - along[n - 1]) / (past[n] - past[n - 1]))


def first_at(design: Design, strut: Any, level: float, longer: bool, way: float) -> float:
    """How far on a way from ride (1: bump, -1: droop) a strut first grows longer, or shorter, than a length, mm."""
    along, state = far_along(design, way)
    return crossed(along, (lengths_of(design, strut, state) - level) * (1.0 if longer else -1.0))
