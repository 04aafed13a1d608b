"""ROOM: distances against closed forms and brute force that shares no code; which pairs are looked at; the command."""

import json
from itertools import combinations
from typing import Any

import numpy as np
import pytest
from designs import DEMO, run

from oak_lever.clearance.clearances import Gap, Table, clearances, gaps_here
from oak_lever.clearance.parts import Body, Pair, Solid
from oak_lever.clearance.solids import Piece, convex_parts, groups_of, pieces_of, tire
from oak_lever.cycle import cycle, look
from oak_lever.design.faults import Refused
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import Prism, move_solid
from oak_lever.design.types import Design
from oak_lever.motion.trace import Plan

# the kernel


def apart(a: Piece, b: Piece, turn: Any = None, shift: Any = (0.0, 0.0, 0.0)) -> tuple[float, np.ndarray, np.ndarray]:
    """Gap of two pieces, the second one turned and moved, and the nearest points."""
    turned = Body(np.array([np.eye(3) if turn is None else turn], dtype=float), np.array([shift], dtype=float))
    found = least(((a,),), STILL, ((b,),), turned)
    none = (np.nan, np.nan, np.nan)
    return found.gap, np.array(found.at_a or none), np.array(found.at_b or none)


STILL = Body(np.eye(3)[None], np.zeros((1, 3)))


def least(a: Any, body_a: Body, b: Any, body_b: Body, poses: int = 1) -> Gap:
    """The least gap of two parts of groups of pieces."""
    one, other = (
        Solid(name, "keep-out", tuple((group, body) for group in groups))
        for name, groups, body in (("a", a, body_a), ("b", b, body_b))
    )
    plan = Plan()
    plan.heave(np.arange(1.0, poses))
    pair = Pair(one, other, 25.0)
    return Table(plan.poses(), [pair]).least([pair], np.arange(poses))[0]


def on_triangle(p: np.ndarray, a: np.ndarray, b: np.ndarray, c: np.ndarray) -> float:
    """Distance of a point from a triangle: least squares within it, else along its edges."""
    edges = np.column_stack([b - a, c - a])
    (u, v), *_ = np.linalg.lstsq(edges, p - a, rcond=None)
    found = [segment_apart(p, p, x, y) for x, y in ((a, b), (b, c), (c, a))]
    if min(u, v, 1 - u - v) >= 0:
        found.append(float(np.linalg.norm(a + edges @ (u, v) - p)))
    return float(min(found))


def segment_apart(p: np.ndarray, q: np.ndarray, a: np.ndarray, b: np.ndarray) -> float:
    """Distance of two segments: where both lines' feet lie on them, else from an end to the other."""

    def foot(x: np.ndarray, s: np.ndarray, e: np.ndarray) -> float:
        square = (e - s) @ (e - s)
        t = min(max((x - s) @ (e - s) / square, 0.0), 1.0) if square else 0.0
        return float(np.linalg.norm(s + t * (e - s) - x))

    found = [foot(p, a, b), foot(q, a, b), foot(a, p, q), foot(b, p, q)]
    both = np.column_stack([q - p, a - b])
    if np.linalg.matrix_rank(both) == 2:
        (s, t), *_ = np.linalg.lstsq(both, a - p, rcond=None)
        if 0 <= s <= 1 and 0 <= t <= 1:
            found.append(float(np.linalg.norm(p + s * (q - p) - a - t * (b - a))))
    return min(found)


def brute(a: np.ndarray, b: np.ndarray) -> float:
    """Distance of two convex hulls that do not meet: of every triangle and edge of their points with every other."""
    found = [on_triangle(p, *three) for p in a for three in combinations(b, 3)]
    found += [on_triangle(p, *three) for p in b for three in combinations(a, 3)]
    found += [segment_apart(*one, *other) for one in combinations(a, 2) for other in combinations(b, 2)]
    return min(found)


def jagged(rng: np.random.Generator, corners: int) -> Prism:
    """An outline in and out of a circle, drawn out along an axis."""
    angles = np.linspace(0.0, 2.0 * np.pi, corners, endpoint=False)
    far = 100.0 * (1.0 + 0.1 * rng.standard_normal(corners))
    outline = [(float(x), float(y)) for x, y in zip(far * np.cos(angles), far * np.sin(angles), strict=True)]
    along = rng.choice(["x", "y", "z"])
    return Prism.model_validate({"kind": "prism", "along": along, "from": -20.0, "to": 20.0, "outline": outline})


@pytest.mark.parametrize("seed", range(12))
def test_parts_of_many_pieces_are_as_far_apart_as_the_nearest_two_of_them(seed: int) -> None:
    """Over poses that come near, touch and leave: every two pieces in every pose, one by one."""
    rng = np.random.default_rng(seed)
    poses = 5
    one, other = (groups_of(jagged(rng, int(n))) for n in rng.integers(16, 32, 2))
    assert max(map(len, (one, other))) > 1
    turns = np.linalg.qr(rng.standard_normal((poses, 3, 3)))[0]
    way = rng.standard_normal(3)
    way /= np.linalg.norm(way)
    start = 150.0 if seed % 3 else 260.0
    shifts = way * (start + 40.0 * np.linspace(-1.0, 1.0, poses)[:, None] ** 2)
    still = Body(np.tile(np.eye(3), (poses, 1, 1)), np.zeros((poses, 3)))
    found = least(one, still, other, Body(turns, shifts), poses)
    every = [
        min(apart(p, q, turns[n], shifts[n])[0] for group in one for p in group for rest in other for q in rest)
        for n in range(poses)
    ]
    assert found.gap == pytest.approx(min(every), abs=1e-6)
    assert found.travel == next(n for n, gap in enumerate(every) if gap <= min(every) + 0.01)
    if found.gap > 0.0:
        there = np.array(found.at_a) - np.array(found.at_b)
        assert np.linalg.norm(there) == pytest.approx(every[int(found.travel)], abs=1e-5)


def test_a_room_full_of_fine_outlines_is_answered() -> None:
    """As many corners as a room may have: of every pair it is told what the outlines alone give."""
    rng = np.random.default_rng(5)
    data = design_data(layout("three links and panhard"))
    many = [jagged(rng, 600).model_dump(by_alias=True) for _ in range(33)]
    outs: list[dict[str, Any]] = [
        {"id": f"o{n}", "name": f"O{n}", "on": "axle" if n % 3 else "frame", "gap": 12.7, "except": [], "solid": solid}
        for n, solid in enumerate(many)
    ]
    for one in outs:
        move_solid(one["solid"], tuple(rng.uniform((-900.0, -500.0, 400.0), (900.0, 500.0, 900.0)).tolist()))
    data["room"] = {"keep_outs": outs}
    whole = {(gap.a, gap.b): gap for gap in gaps_here(design_from(data), 20.0, 1.0)}
    assert len(whole) > 300
    for pair in list(whole)[:: len(whole) // 12]:
        alone = {**data, "room": {"keep_outs": [one for one in outs if one["id"] in pair]}}
        (gap,) = (one for one in gaps_here(design_from(alone), 20.0, 1.0) if (one.a, one.b) == pair)
        assert gap.gap == whole[pair].gap


@pytest.mark.parametrize("seed", range(25))
def test_hulls_of_points_are_as_far_apart_as_brute_force_finds(seed: int) -> None:
    chance = np.random.default_rng(seed)
    a = chance.normal(size=(6, 3)) * chance.uniform(1, 300, 3)
    way = chance.normal(size=3)
    way /= np.linalg.norm(way)
    b = chance.normal(size=(5, 3)) * chance.uniform(1, 300, 3)
    b += way * ((a @ way).max() - (b @ way).min() + chance.uniform(0.001, 200))
    grown = chance.uniform(0, 20, 2)
    gap, at_a, at_b = apart(Piece(grown[0], a), Piece(grown[1], b))
    want = max(brute(a, b) - grown.sum(), 0.0)
    assert gap == pytest.approx(want, abs=1e-5)
    if gap > 0:
        assert np.linalg.norm(at_a - at_b) == pytest.approx(gap, abs=1e-5)


@pytest.mark.parametrize("seed", range(10))
def test_hulls_that_share_a_point_have_no_gap(seed: int) -> None:
    chance = np.random.default_rng(seed)
    a, b = chance.normal(size=(7, 3)) * 80, chance.normal(size=(7, 3)) * 80
    b += a.mean(axis=0) - b.mean(axis=0)
    assert apart(Piece(0.0, a), Piece(0.0, b))[0] == 0.0


def test_closed_forms() -> None:
    ball = Piece(30.0, np.array([[0.0, 0.0, 0.0]]))
    assert apart(ball, Piece(20.0, np.array([[300.0, 400.0, 0.0]])))[0] == pytest.approx(450.0, abs=1e-6)
    crossing = Piece(10.0, np.array([[-500.0, 0.0, 70.0], [500.0, 0.0, 70.0]]))
    assert apart(crossing, Piece(15.0, np.array([[0.0, -9.0, 0.0], [0.0, 800.0, 0.0]])))[0] == pytest.approx(
        45.0, abs=1e-6
    )


@pytest.mark.parametrize("seed", range(30))
def test_a_tire_is_a_cylinder_grown_by_its_shoulder(seed: int) -> None:
    """To a point, in the tire's own section: across its width and out from its axis."""
    chance = np.random.default_rng(seed)
    piece = tire(470.0, 315.0, 47.0)
    at = chance.normal(size=3) * 600
    out, across = np.hypot(at[0], at[2]) - (470.0 - 47.0), abs(at[1]) - (157.5 - 47.0)
    want = max(np.hypot(max(out, 0.0), max(across, 0.0)) - 47.0, 0.0)
    assert apart(piece, Piece(0.0, at[None]))[0] == pytest.approx(want, abs=1e-5)


@pytest.mark.parametrize("seed", range(12))
def test_a_tire_and_a_bar(seed: int) -> None:
    """To a segment: the least over so many of its points."""
    chance = np.random.default_rng(seed)
    a, b = (chance.normal(size=3) * 400 + (900.0, 0.0, 0.0) for _ in range(2))
    points = a + np.linspace(0, 1, 20_001)[:, None] * (b - a)
    out, across = np.hypot(points[:, 0], points[:, 2]) - 423.0, np.abs(points[:, 1]) - 110.5
    want = max((np.hypot(np.maximum(out, 0), np.maximum(across, 0)) - 47.0).min() - 20.0, 0.0)
    assert apart(tire(470.0, 315.0, 47.0), Piece(20.0, np.array([a, b])))[0] == pytest.approx(want, abs=1e-3)


@pytest.mark.parametrize("seed", range(10))
def test_a_distance_does_not_hang_on_where_the_two_stand(seed: int) -> None:
    chance = np.random.default_rng(seed)
    a, b = chance.normal(size=(6, 3)) * 90, chance.normal(size=(6, 3)) * 90 + 400
    turn = np.linalg.qr(chance.normal(size=(3, 3)))[0]
    shift = chance.normal(size=3) * 500
    moved = Piece(3.0, a @ turn.T + shift), Piece(5.0, b @ turn.T + shift)
    assert apart(*moved)[0] == pytest.approx(apart(Piece(3.0, a), Piece(5.0, b))[0], abs=1e-5)


# solids

L_SHAPE = [(0.0, 0.0), (300.0, 0.0), (300.0, 60.0), (60.0, 60.0), (60.0, 200.0), (0.0, 200.0)]


def area(outline: Any) -> float:
    return float(
        abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(outline, [*outline[1:], outline[0]], strict=True))) / 2
    )


def star(count: int) -> list[tuple[float, float]]:
    turns = np.linspace(0, 2 * np.pi, 2 * count, endpoint=False)
    far = np.where(np.arange(2 * count) % 2, 100.0, 260.0)
    return [(float(r * np.cos(t)), float(r * np.sin(t))) for r, t in zip(far, turns, strict=True)]


@pytest.mark.parametrize(
    "outline", [L_SHAPE, L_SHAPE[::-1], star(5), star(40), [(0, 0), (9, 0), (9, 9), (4, 9), (0, 9)]]
)
def test_an_outline_is_covered_by_its_convex_parts_and_no_more(outline: Any) -> None:
    parts = convex_parts(outline)
    assert sum(map(area, parts)) == pytest.approx(area(outline), rel=1e-9)
    for part in parts:
        turns = [
            (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
            for a, b, c in zip(part, [*part[1:], part[0]], [*part[2:], *part[:2]], strict=True)
        ]
        assert min(turns) >= -1e-9


def test_a_notch_is_left_open() -> None:
    solid = Prism.model_validate({"kind": "prism", "along": "y", "from": -50.0, "to": 50.0, "outline": L_SHAPE})
    inside = Piece(0.0, np.array([[180.0, 0.0, 130.0]]))
    assert min(apart(piece, inside)[0] for piece in pieces_of(solid)) == pytest.approx(70.0, abs=1e-6)


# the whole


def with_room(name: str = "double triangulated", **room: Any) -> Design:
    return design_from({**design_data(layout(name)), "room": room})


def box(at: Any, size: Any = (80.0, 80.0, 80.0), **more: Any) -> dict[str, Any]:
    return {"id": "tank", "on": "frame", "solid": {"kind": "box", "center": at, "size": size}, **more}


def found(design: Design, **more: Any) -> dict[tuple[str, str], Any]:
    return {(pair.a, pair.b): pair for pair in clearances(design, **more).pairs}


def test_a_link_against_a_box_is_what_its_own_points_say_in_every_pose() -> None:
    """The link's ends from the poses that the cycle gives, its points one by one against the box."""
    center, size = np.array([500.0, 500.0, 640.0]), np.array([200.0, 90.0, 120.0])
    design = with_room(keep_outs=[box(center.tolist(), size.tolist())])
    pair = found(design, grid=(5, 5))["lower-left", "tank"]
    link, r = design_data(design)["links"][0], design.axle.tire_radius_loaded
    least = []
    for travel in np.linspace(-design.travel.droop, design.travel.bump, 5):
        for twist in np.linspace(-design.travel.articulation, design.travel.articulation, 5):
            x, y, z, roll, pitch, yaw, _ = look(design, travel, twist).here.state[0]
            (cr, cp, cy), (sr, sp, sy) = np.cos([roll, pitch, yaw]), np.sin([roll, pitch, yaw])
            rot = np.array([[cy, -sy, 0], [sy, cy, 0], [0, 0, 1]]) @ [[cp, 0, sp], [0, 1, 0], [-sp, 0, cp]]
            rot = rot @ [[1, 0, 0], [0, cr, -sr], [0, sr, cr]]
            a = np.array([x, y, z]) + rot @ (np.array(link["axle"]["at"]) - (0, 0, r))
            points = a + np.linspace(0, 1, 40_001)[:, None] * (np.array(link["frame"]["at"]) - a)
            away = np.linalg.norm(np.maximum(np.abs(points - center) - size / 2, 0), axis=1).min() - 25.4
            least.append((max(float(away), 0.0), travel, twist))
    gap = min(least)[0]
    first = next(one for one in least if one[0] <= gap + 0.01)
    assert pair.gap == pytest.approx(gap, abs=2e-3)
    assert (pair.travel, pair.articulation) == pytest.approx(first[1:], abs=1e-9)
    assert np.linalg.norm(np.subtract(pair.at_a, pair.at_b)) == pytest.approx(pair.gap, abs=0.011)


def test_which_pairs_are_looked_at() -> None:
    pairs = set(found(with_room(keep_outs=[
        box((500.0, 0.0, 900.0)), box((0.0, 300.0, 620.0), id="truss", on="axle", **{"except": ["upper-left"]}),
    ])))  # fmt: skip
    links = ["lower-left", "lower-right", "upper-left", "upper-right"]
    parts = [*links, "axle-tube", "housing", "tire-left", "tire-right"]
    assert {(a, b) for a, b in pairs if b == "tank"} == {(name, "tank") for name in [*parts, "truss"]}
    assert {a for a, b in pairs if b == "truss"} == {"lower-left", "lower-right", "upper-right"}
    among = {(a, b) for a, b in pairs if b not in ("tank", "truss")}
    assert among == {
        *combinations(links, 2), *((link, part) for link in links for part in parts[4:]),
    }  # fmt: skip


def test_what_meets_at_a_joint_or_belongs_together_is_not_held_apart() -> None:
    apex = set(found(layout("single apex")))
    assert ("upper-left", "upper-right") not in apex
    arms = set(found(layout("radius arms and panhard")))
    assert not {("arm-left", "axle-tube"), ("arm-left", "housing"), ("axle-tube", "housing")} & arms
    assert {("arm-left", "panhard"), ("arm-left", "tire-left"), ("panhard", "axle-tube")} <= arms
    watts = set(found(layout("parallel and watts on axle")))
    assert {("watts-left", "watts-right"), ("lower-left", "watts-left"), ("watts-left", "housing")} <= watts
    excepted = with_room(
        "parallel and watts on axle", **{"except": [["housing", "watts-left"], ["gone", "watts-left"]]}
    )
    assert ("watts-left", "housing") not in found(excepted)


def test_wanted_gaps() -> None:
    near = with_room(gap=8.0, keep_outs=[
        box((500.0, 0.0, 900.0)), box((0.0, 0.0, 1200.0), id="truss", on="axle", gap=40.0),
    ])  # fmt: skip
    pairs = found(near)
    assert pairs["lower-left", "upper-left"].wanted == 8.0
    assert pairs["lower-left", "tank"].wanted == 25.0
    assert pairs["truss", "tank"].wanted == 40.0
    assert found(layout("single apex"))["lower-left", "lower-right"].wanted == 12.7
    spare = [pair.gap - pair.wanted for pair in clearances(near).pairs]
    assert spare == sorted(spare)


@pytest.mark.parametrize("name", [name for name in LAYOUTS if "watts" not in name])
def test_mirrored_designs_have_mirrored_gaps(name: str) -> None:
    """A design and its mirror image: every pair's counterpart is as near, on the other side. (A Watts link's upper rod
    is the left one by definition: its mirror image is no design.)"""
    given = design_data(layout(name))
    image = json.loads(json.dumps(given))

    def flip(value: Any) -> None:
        if isinstance(value, list) and value and isinstance(value[0], float):
            value[1] = -value[1]
        else:
            for one in value.values() if isinstance(value, dict) else value if isinstance(value, list) else ():
                flip(one)

    for part in (image["links"], image["axle"]["pinion"]["joint"], image["lateral"]):
        flip(part)
    swap = {"tire-left": "tire-right", "tire-right": "tire-left"}
    theirs = {frozenset(pair): gap.gap for pair, gap in found(design_from(image)).items()}
    for (a, b), pair in found(design_from(given)).items():
        assert theirs[frozenset((swap.get(a, a), swap.get(b, b)))] == pytest.approx(pair.gap, abs=1e-6)


def test_bent_links_carry_their_bends_and_arms_their_eyes() -> None:
    given = design_data(layout("double triangulated"))
    straight = found(design_from(given))["lower-left", "axle-tube"].gap
    given["links"][0]["tube"] = {"diameter": 40.0, "wall": 5.0, "bends": [[-20.0, 500.0, 250.0], [400.0, 430.0, 250.0]]}
    assert found(design_from(given))["lower-left", "axle-tube"].gap >= straight
    low = with_room(keep_outs=[box((400.0, 430.0, 100.0), (50.0, 50.0, 50.0))])
    bent = design_from({**design_data(low), "links": given["links"]})
    here = {(p.a, p.b): p for p in gaps_here(bent, 0.0, 0.0)}["lower-left", "tank"]
    assert here.gap == pytest.approx(250.0 - 20.0 - 125.0, abs=1e-6)


FRONT: dict[str, Any] = json.loads((DEMO / "fell-tender-front.json").read_text())
FRONT = {key: value for key, value in FRONT.items() if key not in ("corners", "driveshaft", "steering")}
STEERING = {
    "pitman": [180.0, 420.0, 620.0], "knuckle": [170.0, -620.0, 560.0],
    "kingpin": {"at": [0.0, -690.0, 444.5], "inclination": 8.0}, "lock": 30.0,
    "tie_rod": [[-160.0, 640.0, 430.0], [-160.0, -640.0, 430.0]],
}  # fmt: skip
SHAFT = {
    "kind": "two_joints", "case": {"joint": [-1200.0, 150.0, 560.0], "angle": 2.0}, "diameter": 76.2,
    "slip": {"in": 40.0, "out": 50.0}, "joint_limit": {"pinion": 25.0, "case": 25.0},
}  # fmt: skip


def test_shaft_drag_link_and_tie_rod_move_and_belong_where_they_do() -> None:
    design = design_from({**FRONT, "steering": STEERING, "driveshaft": SHAFT})
    pairs = found(design, grid=(5, 3))
    assert not {("housing", "shaft"), ("axle-tube", "shaft"), ("tire-left", "tie-rod"), ("drag-link", "tie-rod")} & set(
        pairs
    )
    assert {
        ("lower-left", "shaft"),
        ("tire-right", "shaft"),
        ("panhard", "drag-link"),
        ("axle-tube", "tie-rod"),
    } <= set(pairs)


def test_a_steered_tire_comes_as_near_as_at_any_of_five_angles() -> None:
    """A box ahead of the left tire's outer edge: the tire turned about its kingpin, point by point of its edge."""
    at = np.array([520.0, 900.0, 444.5])
    room = {"keep_outs": [box(at.tolist(), (2.0, 2.0, 2.0))]}
    still = found(design_from({**FRONT, "room": room}), grid=(2, 2))["tire-left", "tank"].gap
    steered = design_from({**FRONT, "room": room, "steering": STEERING})
    pair = next(p for p in gaps_here(steered, 0.0, 0.0) if (p.a, p.b) == ("tire-left", "tank"))
    axle = steered.axle
    pin, lean = np.array([0.0, 690.0, 444.5]), np.array([-np.tan(np.radians(6.0)), -np.tan(np.radians(8.0)), 1.0])
    lean /= np.linalg.norm(lean)
    shoulder = 0.15 * axle.tire_width
    least = []
    for angle in np.radians([-30.0, -15.0, 0.0, 15.0, 30.0]):
        turned = at - pin  # the point turned back about the pin, by Rodrigues' formula for a vector
        c, s = np.cos(-angle), np.sin(-angle)
        turned = turned * c + np.cross(lean, turned) * s + lean * (lean @ turned) * (1 - c)
        p = turned + pin - (0.0, axle.track / 2, axle.tire_radius_loaded)
        out = np.hypot(p[0], p[2]) - (axle.tire_diameter / 2 - shoulder)
        across = abs(p[1]) - (axle.tire_width / 2 - shoulder)
        least.append(np.hypot(max(out, 0.0), max(across, 0.0)) - shoulder)
    assert pair.gap == pytest.approx(min(least), abs=2.0)  # the box is 2 mm, not a point
    assert pair.gap < still + 2.0


def test_poses_that_are_not_reached_are_left_out() -> None:
    loose = design_data(layout("double triangulated"))
    loose["links"] = loose["links"][:3]
    assert clearances(design_from(loose)).pairs == ()
    given = design_data(layout("double triangulated"))
    given["travel"] = {"bump": 2500.0, "droop": 100.0, "articulation": 5.0}
    short = design_from(given)
    stop = cycle(short).stops["heave"][1]
    assert stop is not None
    assert all(pair.travel <= stop for pair in clearances(short).pairs)


def test_tires_as_wide_as_the_track_are_refused_here_only() -> None:
    given = design_data(layout("double triangulated"))
    given["axle"]["track"] = given["axle"]["tire_width"]
    with pytest.raises(Refused, match="more than the tire"):
        clearances(design_from(given))


@pytest.mark.parametrize(
    ("solid", "why"),
    [
        ({"kind": "prism", "along": "x", "from": 0.0, "to": 9.0, "outline": [[0, 0], [9, 9], [9, 0], [0, 9]]}, "crosses itself"),
        ({"kind": "prism", "along": "x", "from": 0.0, "to": 9.0, "outline": [[0, 0], [9, 0], [5, 0], [9, 9]]}, "crosses itself"),
        ({"kind": "prism", "along": "x", "from": 0.0, "to": 9.0, "outline": [[0, 0], [9, 0], [4, 0]]}, "crosses itself"),
        ({"kind": "prism", "along": "x", "from": 0.0, "to": 9.0, "outline": [[0, 0], [9, 0], [9, 9], [0, 0]]}, "crosses itself"),
        ({"kind": "hull", "points": [[0, 0, 0], [9, 0, 0], [0, 9, 0], [9, 9, 0.001]]}, "in a plane"),
    ],
)  # fmt: skip
def test_crossed_outlines_and_flat_hulls_are_refused_by_their_path(solid: Any, why: str) -> None:
    solid = json.loads(json.dumps(solid), parse_int=float)
    with pytest.raises(Refused, match=why) as refused:
        with_room(keep_outs=[{"id": "tank", "on": "frame", "solid": solid}])
    assert "room.keep_outs[0].solid" in str(refused.value)


def test_the_command() -> None:
    text = json.dumps({**design_data(layout("single apex")), "room": {"keep_outs": [box((500.0, 0.0, 900.0))]}})
    said = json.loads(run("clear", "-", "--json", "--grid", "3x5", text=text).stdout)
    assert (said["format"], said["version"], said["design"]) == ("oak-lever-clearances", 1, "Single apex")
    assert (len(said["travel"]), len(said["articulation"])) == (3, 5)
    assert set(said["pairs"][0]) == {"a", "b", "gap", "wanted", "travel", "articulation", "at_a", "at_b"}
    assert "not an approval" in run("clear", "-", text=text).stdout
    for grid in ("1x9", "21x1", "9", "axb", "-3x9", "21x9x3", "500x9"):
        refused = run("clear", "-", f"--grid={grid}", text=text)
        assert (refused.returncode, refused.stdout, len(refused.stderr.splitlines())) == (2, "", 1)
