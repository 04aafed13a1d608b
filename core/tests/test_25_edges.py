"""Figures judged anywhere are those at the very edge of what stops and straps allow: held against a fine map, each pose
solved by itself, with each stop's and strap's length worked out another way."""

from typing import Any

import numpy as np
import pytest
from anew import lengths_of
from random_designs import random_designs

from oak_lever.api import Design, cycle, findings
from oak_lever.batch import figures_of_many, mounts_of
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.figures.joints import joint_names, misalignment
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, trace

FINE = (61, 45)
BEHIND_MM = 100.0


def left_of(design: Design, stop: Any, state: Any) -> Any:
    """How far a pad is from solid, mm; below 0 too once it has gone past its plate without meeting it squarely. How far
    it still stands ahead is told by two lengths: to the plate, and to a point behind it."""
    way = np.array(stop.axle.at) - np.array(stop.frame.at)
    behind = np.array(stop.frame.at) - BEHIND_MM * way / np.linalg.norm(way)
    farther = stop.rewritten(frame=stop.frame.rewritten(at=tuple(behind.tolist())))
    length = lengths_of(design, stop, state)
    ahead = (lengths_of(design, farther, state) ** 2 - length**2 - BEHIND_MM**2) / (2.0 * BEHIND_MM)
    return np.where(ahead > 0.0, length - stop.solid, -1.0)


def held_finely(design: Design) -> tuple[Any, Any, Any]:
    """The poses of a fine map (T, A), their states, and which of them no stop and no strap keeps the axle from."""
    plan, reach = Plan(), design.travel
    places = plan.grid(np.linspace(-reach.droop, reach.bump, FINE[0]), np.linspace(-1, 1, FINE[1]) * reach.articulation)
    traced = trace(mechanism_of(design), plan.poses())
    state = traced.state[0]
    allowed = traced.reached[0].copy()
    corners = design.corners
    assert corners
    left = [left_of(design, stop, state) for stop in corners.stops]
    left += [strap.length * (1.0 + strap.stretch) - lengths_of(design, strap, state) for strap in corners.straps]
    for one in left:
        if one[0] >= 0.0:  # one that is past its end at ride holds nothing
            allowed &= one >= 0.0
    return plan, places, allowed


DESIGNS = [design for design in random_designs(31, 18) if design.corners and design.corners.stops]


@pytest.mark.parametrize("design", DESIGNS, ids=lambda design: design.name)
def test_what_is_worst_anywhere_is_what_it_is_at_the_edge(design: Design) -> None:
    plan, places, allowed = held_finely(design)
    poses = plan.poses()
    found = {one.figure: one for one in findings(cycle(design))}
    yaw = figures_of_many(design, mounts_of(design)[None], poses, ("yaw",))[0]["yaw"][0]
    rows = np.where(allowed[places], yaw[places], np.nan)
    kept = ~np.isnan(rows).all(1)
    worst = float((np.nanmax(rows[kept], axis=1) - np.nanmin(rows[kept], axis=1)).max())
    said = found["rear_steer" if design.axle.end == "rear" else "front_steer"].value
    # a fine map's own step stays short of the edge by a part of what it changes in one
    assert said == pytest.approx(worst, rel=0.04, abs=0.03)

    mechanism = mechanism_of(design)
    turned = misalignment(mechanism, trace(mechanism, poses).state)[:, 0]
    entries = {
        f"{bar.name}.{end}": getattr(bar, end).joint for bar in mechanism.layout.bars for end in ("axle", "frame")
    }
    limits = np.array([joint_kind(design, entries[name]).limit for name in joint_names(mechanism)])
    most = float((turned[:, allowed] - limits[:, None]).max())
    joint = found["joint_angle"]
    (name,) = joint.place.parts
    assert joint.value is not None
    assert joint.value - joint_kind(design, entries[name]).limit == pytest.approx(most, abs=0.35)


def test_enough_of_them_are_held_by_stops_and_straps() -> None:
    kept = [held_finely(design)[2].mean() for design in DESIGNS]
    assert len(kept) >= 12
    assert sum(share < 0.95 for share in kept) >= 6
