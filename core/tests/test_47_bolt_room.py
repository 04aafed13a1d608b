"""Room for bolts and wrenches: held against points that lie on a bolt's own line, and on a ring about it."""

import random
from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, bracketed, jointed
from random_designs import random_designs

from oak_lever.api import Design, findings_on
from oak_lever.clearance.bolts import HEAD, SOCKET, SOCKET_LONG, SPARE, bolt_rooms
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.plates.brackets import bolt_ways, brackets_made

MOUNT = {"mounts": ["lower-left.axle"], "id": "b1"}
PLAIN = bracketed(jointed(TENDER), MOUNT)


def alone(design: Design) -> Design:
    """With nothing in the way that moves, but for the axle."""
    return changed(design, lambda data: data.update(room=None, driveshaft=None, corners=None, steering=None))


def with_point(design: Design, at: Any, across: float = 2.0) -> Design:
    """With a small ball on the frame."""
    solid = {
        "kind": "tube",
        "path": [list(map(float, at)), [float(at[0]), float(at[1]), float(at[2]) + 0.5]],
        "diameter": across,
    }
    out = {"id": "pin", "name": "Pin", "on": "frame", "gap": 0.0, "solid": solid}
    return changed(design, lambda data: data.update(room={"keep_outs": [out]}))


def ring(way: Any, far: float, turn: float, reach: float) -> Any:
    """A place `far` from the bolt's line, `reach` beyond the outside of its plate at the left end."""
    x = np.cross(way.along, [0.0, 0.0, 1.0])
    x /= np.linalg.norm(x)
    z = np.cross(x, way.along)
    return way.at + (way.half + reach) * way.along + far * (np.cos(turn) * x + np.sin(turn) * z)


def free(design: Design, mount: str = "lower-left.axle") -> float:
    return next(one.free for one in bolt_rooms(design) if one.mount == mount)


def test_the_way_of_a_bolt_is_that_of_the_bracket_that_is_cut() -> None:
    (way,) = bolt_ways(PLAIN)
    (made,), _ = brackets_made(PLAIN)
    assert 2.0 * way.half == pytest.approx(made.grip)
    assert np.linalg.norm(way.along) == pytest.approx(1.0)


@pytest.mark.parametrize("seed", range(12))
def test_a_pin_beside_the_socket_is_as_near_as_it_stands(seed: int) -> None:
    """Ahead of and behind the plate there is nothing else: the gap is the pin's distance less both radii."""
    chance = random.Random(seed)
    plain = alone(PLAIN)
    (way,) = bolt_ways(plain)
    far = way.diameter * SOCKET + chance.uniform(2.0, 10.0)
    pin = ring(way, far, chance.uniform(0.0, 6.28), chance.uniform(0.3, 0.7) * SOCKET_LONG * way.diameter)
    near = free(with_point(plain, pin, 2.0))
    assert near <= far - SOCKET * way.diameter - 1.0 + 0.3  # the pin is half a millimeter long
    assert near >= min(far - SOCKET * way.diameter - 1.5, free(plain)) - 1e-6


def test_a_bolt_that_one_end_is_shut_to_comes_out_at_the_other() -> None:
    plain = alone(PLAIN)
    (way,) = bolt_ways(plain)
    beyond = SOCKET_LONG * way.diameter + 40.0  # past the socket, in the bolt's way
    assert beyond < 2.0 * way.half + SPARE * way.diameter
    shut = way.at + (way.half + beyond) * way.along
    assert 0.0 < free(with_point(plain, shut)) <= free(plain)
    other = way.at - (way.half + beyond) * way.along
    both = changed(
        with_point(plain, shut),
        lambda data: data["room"]["keep_outs"].append(
            {**data["room"]["keep_outs"][0], "id": "other", "solid": {
                "kind": "tube", "path": [other.tolist(), (other + np.array([0.0, 0.0, 0.5])).tolist()], "diameter": 2.0}}
        ),
    )  # fmt: skip
    assert free(both) == 0.0
    assert {one.against for one in bolt_rooms(both)} <= {"pin", "other"}


@pytest.mark.parametrize("turn", [0.5, 2.0, 4.0])
def test_something_on_the_socket_is_in_the_way_and_said(turn: float) -> None:
    plain = alone(PLAIN)
    (way,) = bolt_ways(plain)
    shut = with_point(plain, ring(way, HEAD * way.diameter, turn, way.diameter))
    assert free(shut) == 0.0
    found = [one for one in findings_on(shut) if one.figure == "bolt_room"]
    assert [(one.severity, one.value) for one in found] == [("fix", 0.0)]
    assert "Pin" in found[0].message
    assert not [one for one in findings_on(plain) if one.figure == "bolt_room" and "Pin" in one.message]


def test_mirror_images_have_the_same_room() -> None:
    pairs = 0
    for design in random_designs(seed=47, many=8):
        shaped = alone(jointed(design))
        names = {f"{link.id}.axle" for link in shaped.links}
        for left in sorted(names):
            right = left.replace("left", "right")
            if left == right or right not in names:
                continue
            both = bracketed(shaped, {"mounts": [left]}, {"mounts": [right]})
            rooms = {one.mount: one.free for one in bolt_rooms(both)}
            if len(rooms) == 2 and mirrored(both, left, right):
                assert rooms[left] == pytest.approx(rooms[right], abs=0.05)
                pairs += 1
    assert pairs >= 5


def mirrored(design: Design, left: str, right: str) -> bool:
    ways = {one.mount: one for one in bolt_ways(design)}
    a, b = ways[left], ways[right]
    flip = np.array([1.0, -1.0, 1.0])
    same = np.allclose(a.at, b.at * flip, atol=0.01)
    return bool(same and np.allclose(np.abs(a.along), np.abs(b.along * flip), atol=1e-4))


def test_a_design_without_brackets_says_nothing_of_bolts() -> None:
    assert bolt_rooms(TENDER) == ()
    assert verdicts_on(TENDER).bolts == ()
