"""How far two parts that meet are in each other."""

import itertools
from collections.abc import Iterator

import numpy as np

from oak_lever.clearance.clearances import allowed_poses, two_of
from oak_lever.clearance.parts import Body, Pair, Solid, Stage, pairs_of
from oak_lever.clearance.solids import CYLINDER, Piece
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats

_GRID = (11, 7)
_WAYS = 400
_ROUNDS = 4
_AROUND = 24


def deepest(design: Design, a: str, b: str) -> tuple[float, float, float]:
    """How far two parts are in each other where that is most, over a coarse grid of the poses that stops and straps
    allow: mm, at which travel (mm) and articulation (degrees). By how little one would have to be shifted for the two
    to come apart: along the direction in which they overlap least (Cameron, 1997, found by search over directions); of
    parts in several pieces the two that are in each other most. 0 where they do not meet."""
    poses, places = allowed_poses(design, _GRID)
    both = two_of(a, b)
    stage = Stage(design, poses, names=both.names)
    pair = next((one for one in pairs_of(stage) if both(one.a.name, one.b.name)), None)
    looked = places[stage.reached[places]].tolist()
    if pair is None or not looked:
        return 0.0, 0.0, 0.0
    deep = [_depth(pair, place, rounds=0) for place in looked]
    worst = looked[int(np.argmax(deep))]
    return _depth(pair, worst, _ROUNDS), float(poses.travel_mm[worst]), float(poses.articulation_deg[worst])


def _depth(pair: Pair, pose: int, rounds: int) -> float:
    if any(part.there is not None and not part.there[pose] for part in (pair.a, pair.b)):
        return 0.0
    ones, others = (list(_placed(part, pose)) for part in (pair.a, pair.b))
    deep = 0.0
    for one, other in itertools.product(ones, others):
        if _near(one, other):
            deep = max(deep, overlap(one, other, rounds))
    return deep


Placed = tuple[Piece, Floats, Floats]


def _placed(part: Solid, pose: int) -> Iterator[Placed]:
    for piece, body in part.pieces:
        yield piece, _turn(body, pose), body.shift[pose]


def _turn(body: Body, pose: int) -> Floats:
    out: Floats = body.turn[pose]
    return out


def _near(one: Placed, other: Placed) -> bool:
    """Whether the balls about them meet."""
    far, reach = np.zeros(3), 0.0
    for sign, (piece, turn, shift) in ((1.0, one), (-1.0, other)):
        x, y, z, radius = piece.ball
        far += sign * (turn @ np.array([x, y, z]) + shift)
        reach += radius * max(1.0, float(np.linalg.norm(turn, 2))) + piece.round
    return bool(np.linalg.norm(far) < reach)


def overlap(one: Placed, other: Placed, rounds: int = _ROUNDS) -> float:
    """By how much two pieces overlap along the direction in which they do least, mm; 0 where one parts them. Each is
    given with its body's turn and shift; `rounds`: how often it is looked closer about the best direction so far."""
    ways = _SPHERE
    best, along = np.inf, ways[0]
    spread = 2.0 / np.sqrt(_WAYS)
    for n in range(rounds + 1):
        over = _reach(one, ways) + _reach(other, -ways)
        least = int(over.argmin())
        if over[least] < best:
            best, along = float(over[least]), ways[least]
        if best <= 0.0:
            return 0.0
        ways = _about(along, spread / 2.0**n)
    return best


def _reach(placed: Placed, ways: Floats) -> Floats:
    """(W,) how far a piece reaches along each direction (W, 3), from the origin."""
    piece, turn, shift = placed
    own = ways @ turn
    if piece.kind == CYLINDER:
        core = piece.size[0] * np.hypot(own[:, 0], own[:, 2]) + piece.size[1] * np.abs(own[:, 1])
    else:
        core = (own @ piece.points.T).max(1)
    out: Floats = core + ways @ shift + piece.round
    return out


def _sphere(count: int) -> Floats:
    """Directions spread evenly over the sphere, by the golden angle."""
    n = np.arange(count) + 0.5
    z, turn = 1.0 - 2.0 * n / count, np.pi * (1.0 + np.sqrt(5.0)) * n
    flat = np.sqrt(1.0 - z * z)
    return np.stack([flat * np.cos(turn), flat * np.sin(turn), z], axis=-1)


def _about(way: Floats, spread: float) -> Floats:
    """Directions about one, within so many radians of it."""
    across = np.cross(way, [0.0, 0.0, 1.0] if abs(way[2]) < 0.9 else [1.0, 0.0, 0.0])
    across /= np.linalg.norm(across)
    up = np.cross(way, across)
    turn = np.linspace(0.0, 4.0 * np.pi, _AROUND, endpoint=False)[:, None]
    far = spread * np.linspace(0.2, 1.0, _AROUND)[:, None]
    found = way + far * (np.cos(turn) * across + np.sin(turn) * up)
    out: Floats = found / np.linalg.norm(found, axis=-1, keepdims=True)
    return out


_AXES = np.concatenate([np.eye(3), -np.eye(3)])
_SPHERE = np.concatenate([_sphere(_WAYS), _AXES])
