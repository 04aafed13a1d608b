"""ROOM: zones and holes, what brings parts apart, the travel budget, tires, stations, tubes and ground."""

from itertools import product
from math import asin, atan2, degrees, hypot, sqrt
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lever.api import (
    Wanted,
    cures,
    cycle,
    design_from,
    findings,
    findings_on,
    parts_of,
    placed,
    pull,
    read_design,
    settle,
)
from oak_lever.clearance.clearances import clearances, gaps_of, two_of
from oak_lever.clearance.standing import envelopes, stations, tubes, under, with_station
from oak_lever.clearance.travel import budget
from oak_lever.clearance.within import nearest_place, outside
from oak_lever.clearance.zones import left_zones, unknown_mounts
from oak_lever.design.room import Box, Holes, Hull, Prism, RoundPath
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.buildable import in_the_way
from oak_lever.move.clearing import clearing
from oak_lever.move.zones import ranked

STEP = 5.0
TENDER = read_design((DEMO / "fell-tender-rear.json").read_bytes()).rewritten(room=None, corners=None)
FULL = read_design((DEMO / "fell-tender-rear.json").read_bytes())
VAN = read_design((DEMO / "tarn-van-rear.json").read_bytes())
FRONT = read_design((DEMO / "fell-tender-front.json").read_bytes())
GHYLL = read_design((DEMO / "ghyll-special-rear.json").read_bytes())


def with_room(design: Any, **room: Any) -> Any:
    return changed(design, lambda data: data.update(room=room))


def a_box(center: Any, size: Any, **more: Any) -> dict[str, Any]:
    return {"id": "thing", "on": "frame", "solid": {"kind": "box", "center": center, "size": size}, **more}


# how far outside


@settings(deadline=None)
@given(st.tuples(*[st.floats(-60, 60)] * 3))
def test_outside_a_box_is_the_closed_form(point: Any) -> None:
    box = Box(kind="box", center=(5.0, -3.0, 2.0), size=(20.0, 40.0, 10.0))
    over = [max(abs(p - c) - s / 2, 0.0) for p, c, s in zip(point, box.center, box.size, strict=True)]
    assert outside(box, np.array([point]))[0] == pytest.approx(sqrt(sum(v * v for v in over)), abs=1e-6)
    near = nearest_place(box, point)
    assert np.linalg.norm(near - point) == pytest.approx(outside(box, np.array([point]))[0], abs=1e-6)
    assert outside(box, near[None])[0] == pytest.approx(0.0, abs=1e-6)


@settings(max_examples=30, deadline=None)
@given(st.tuples(*[st.floats(-30, 30)] * 3))
def test_outside_other_solids_is_what_points_all_over_them_say(point: Any) -> None:
    path = RoundPath(kind="tube", path=((0.0, 0.0, 0.0), (10.0, 0.0, 0.0), (10.0, 10.0, 0.0)), diameter=4.0)
    along = np.linspace(0.0, 1.0, 400)[:, None]
    line = np.concatenate([along * [10.0, 0.0, 0.0], [10.0, 0.0, 0.0] + along * [0.0, 10.0, 0.0]])
    by_hand = max(float(np.linalg.norm(line - point, axis=1).min()) - 2.0, 0.0)
    assert outside(path, np.array([point]))[0] == pytest.approx(by_hand, abs=0.05)
    corners = tuple((float(x), float(y), float(z)) for x, y, z in product((0, 8), (0, 6), (0, 4)))
    hull = Hull(kind="hull", points=corners)
    inside = np.array([min(max(p, 0.0), top) for p, top in zip(point, (8.0, 6.0, 4.0), strict=True)])
    assert outside(hull, np.array([point]))[0] == pytest.approx(float(np.linalg.norm(inside - point)), abs=1e-6)


def test_the_notch_of_a_concave_prism_is_outside() -> None:
    notched = Prism(
        **{
            "kind": "prism",
            "along": "x",
            "from": 0.0,
            "to": 10.0,
            "outline": ((0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (5.0, 2.0), (0.0, 10.0)),
        }
    )
    # the notch's sides run from (5, 2) to (10, 10): as far as a point from that line
    assert outside(notched, np.array([[5.0, 5.0, 8.0]]))[0] == pytest.approx(
        abs(8.0 * 0.0 - 5.0 * 6.0) / hypot(5.0, 8.0)
    )
    assert outside(notched, np.array([[5.0, 1.0, 8.0], [5.0, 5.0, 1.0]])).tolist()[1] == 0.0


def test_of_holes_the_nearest_counts() -> None:
    rack = Holes(kind="holes", at=((0.0, 0.0, 0.0), (0.0, 0.0, 25.0)))
    assert outside(rack, np.array([[0.0, 0.0, 15.0]]))[0] == pytest.approx(10.0)
    assert nearest_place(rack, (0.0, 0.0, 15.0)).tolist() == [0.0, 0.0, 25.0]


# zones


def zoned(by: float) -> Any:
    """The uppers' frame ends `by` mm outside, in y, of a zone each."""

    def zone(side: str, sign: float) -> dict[str, Any]:
        center = [774.7, sign * (419.1 - by - 30.0), 631.825]
        return {
            "id": f"z-{side}",
            "mounts": [f"upper-{side}.frame"],
            "region": {"kind": "box", "center": center, "size": [80.0, 60.0, 80.0]},
        }

    return with_room(TENDER, zones=[zone("left", 1.0), zone("right", -1.0)])


def test_a_mount_that_left_its_zone_says_so_and_is_brought_back_with_its_mirror_image() -> None:
    assert not list(left_zones(zoned(0.0)))
    out = zoned(12.0)
    assert [(left.spot.name, round(left.by, 6)) for left in left_zones(out)] == [
        ("upper-left.frame", 12.0),
        ("upper-right.frame", 12.0),
    ]
    said = [finding for finding in findings(cycle(out)) if finding.figure == "zone"]
    assert [one.severity for one in said] == ["fix"]  # both sides in one
    assert [one.value for one in said] == pytest.approx([12.0])
    assert said[0].place.parts == ("upper-left.frame", "upper-right.frame")
    lopsided = placed(out, {"upper-right.frame": (774.7, -440.0, 631.825)})
    apart = [finding.id for finding in findings(cycle(lopsided)) if finding.figure == "zone"]
    assert apart == ["zone upper-left.frame", "zone upper-right.frame"]
    (cure, *_) = cures(out, "zone upper-left.frame", STEP)
    assert cure.words == "Upper link frame ends inward 15 mm"  # whole increments, so that it is inside
    assert "zone upper-left.frame" in cure.cures
    assert not list(left_zones(design_from(cure.document)))


def test_a_zone_for_a_mount_that_is_not_there_is_kept_and_named() -> None:
    odd = with_room(
        TENDER,
        zones=[
            {"id": "z", "mounts": ["upper-left.frame", "nobody.frame"], "region": {"kind": "holes", "at": [[0, 0, 0]]}}
        ],
    )
    assert [(zone.id, name) for zone, name in unknown_mounts(odd)] == [("z", "nobody.frame")]


def test_what_is_offered_stays_in_the_zones() -> None:
    tight = with_room(
        TENDER,
        zones=[
            {
                "id": "z",
                "mounts": ["upper-left.frame"],
                "region": {"kind": "box", "center": [774.7, 419.1, 631.825], "size": [30.0, 30.0, 30.0]},
            }
        ],
    )
    for finding in ("roll_center", "rear_steer", "pinion_change"):
        for cure in cures(tight, finding, STEP):
            assert not list(left_zones(design_from(cure.document)))
    goal = cycle(tight, 3).ride.columns["roll_center_height"][0] - 25.0
    pulled = pull(tight, [Wanted("roll_center_height", 0.0, 0.0, goal)])
    assert not list(left_zones(placed(tight, pulled.at)))
    settled = settle(tight, STEP)
    assert settled is None or not list(left_zones(placed(tight, settled.at)))


def test_in_a_row_of_holes_mounts_go_from_hole_to_hole() -> None:
    holes = {zone.id: zone.region.at for zone in GHYLL.room.zones}  # type: ignore[union-attr]
    found = [cure for finding in ("anti_squat", "rear_steer", "pinion_change") for cure in cures(GHYLL, finding, STEP)]
    assert found
    moved = 0
    for cure in found:
        for spot in parts_of(design_from(cure.document)).spots:
            if spot.name in ("lower-left.frame", "upper-left.frame"):
                rack = holes["lower-rack-left" if spot.name.startswith("lower") else "upper-rack-left"]
                assert min(np.linalg.norm(np.array(hole) - spot.at) for hole in rack) < 1e-6
                moved += spot.at != parts_of(GHYLL).spot(spot.name).at
    assert moved


def test_places_are_ranked_by_what_the_design_then_asks_for() -> None:
    found = ranked(GHYLL, "upper-left.frame", STEP)
    assert {round(one.at["upper-left.frame"][2], 2) for one in found} == {298.45, 330.2, 361.95, 393.7}
    order = [(one.stops, one.fixes, one.considers, one.far) for one in found]
    assert order == sorted(order)
    for one in found:
        grave = [f.severity for f in findings_on(placed(GHYLL, one.at)) if f.severity in ("stop", "fix", "consider")]
        assert (one.stops, one.fixes, one.considers) == tuple(grave.count(word) for word in ("stop", "fix", "consider"))
        assert one.at["upper-right.frame"][1] == -one.at["upper-left.frame"][1]
    spread = ranked(zoned(-5.0), "upper-left.frame", STEP)
    assert len(spread) > 4
    assert all(abs((one.at["upper-left.frame"][2] - 631.825) / STEP % 1.0) < 1e-9 for one in spread)
    with pytest.raises(ValueError, match="no zone"):
        ranked(TENDER, "upper-left.frame", STEP)


def test_no_place_is_ranked_where_parts_would_meet_that_do_not_now() -> None:
    zone = {"id": "z", "name": "Upper left", "mounts": ["upper-left.frame"], "region": {
        "kind": "box", "center": [774.7, 419.1, 660.0], "size": [60.0, 60.0, 160.0], "turn": [0, 0, 0]
    }}  # fmt: skip
    free = changed(TENDER, lambda data: data.update(room={"gap": 12.7, "except": [], "keep_outs": [], "zones": [zone]}))
    low, high = (TENDER.links[2].frame.at[2] + by for by in (60.0, 90.0))
    over = {
        "id": "floor", "name": "Floor", "on": "frame", "gap": 5.0, "except": [],
        "solid": {"kind": "box", "center": [730.0, 0.0, (low + high) / 2], "size": [30.0, 1400.0, high - low], "turn": [0, 0, 0]},
    }  # fmt: skip
    roofed = changed(free, lambda data: data["room"].update(keep_outs=[over]))
    kept, all_of_them = (ranked(one, "upper-left.frame", STEP, most=200) for one in (roofed, free))
    assert len(all_of_them) > len(kept) > 3
    was = {(g.a, g.b) for g in clearances(roofed, shocks=True, allowed=True).pairs if g.gap <= 0.0}
    for one in kept:
        now = clearances(placed(roofed, one.at), shocks=True, allowed=True).pairs
        assert {(g.a, g.b) for g in now if g.gap <= 0.0} <= was


def test_nothing_is_offered_inside_a_keep_out() -> None:
    above = with_room(TENDER, keep_outs=[a_box([774.7, 419.1, 720.0], [200.0, 100.0, 60.0])])
    assert not [words for words in in_the_way(above, mechanism_of(above)) if "thing" in words]
    higher = placed(above, {"upper-left.frame": (774.7, 419.1, 670.0)})
    assert [words for words in in_the_way(higher, mechanism_of(higher)) if "thing" in words] == [
        "upper-left.frame: inside thing"
    ]
    bolted = changed(higher, lambda data: data["room"]["keep_outs"][0].update({"except": ["upper-left"]}))
    assert not [words for words in in_the_way(bolted, mechanism_of(bolted)) if "thing" in words]


# what brings parts apart


@pytest.mark.parametrize(
    ("a", "b", "design"),
    [("upper-left", "rail-left", FULL), ("upper-right", "tank", VAN), ("panhard", "housing", FRONT)],
)
def test_what_is_too_near_is_moved_apart_by_as_little_as_does_it(a: str, b: str, design: Any) -> None:
    offered = clearing(design, a, b, STEP)
    assert offered
    for cure in offered:
        there = design_from(cure.document)
        (gap,) = gaps_of(there, two_of(a, b))
        assert gap.gap >= gap.wanted - 1e-6
        for shift in cure.shifts:
            less: dict[str, Any] = {}
            for name in shift.mounts:
                at = list(parts_of(there).spot(name).at)
                axis = "xyz".index(shift.axis)
                was = parts_of(design).spot(name).at[axis]
                at[axis] -= STEP * np.sign(at[axis] - was)
                less[name] = (at[0], at[1], at[2])
            (short,) = gaps_of(placed(there, less), two_of(a, b))
            assert short.gap < short.wanted
        before = {(one.a, one.b): one for one in gaps_of(design)}
        for one in gaps_of(there):
            assert one.gap >= min(before[one.a, one.b].gap, one.wanted) - 0.51


def test_a_link_is_bent_round_what_is_in_its_way_with_the_least_offset() -> None:
    """A block just above the middle of the left lower link: bent down, and its mirror image with it."""
    blocked = with_room(TENDER, keep_outs=[a_box([527.05, 430.2125, 520.0], [60.0, 30.0, 40.0], gap=20.0)])
    (gap,) = gaps_of(blocked, two_of("lower-left", "thing"))
    assert gap.gap < 20.0
    bends = [cure for cure in clearing(blocked, "lower-left", "thing", STEP, most=20) if cure.words.startswith("Bend")]
    (bend,) = bends
    assert "and its mirror image" in bend.words
    assert "must keep it from rolling over" in bend.price
    there = design_from(bend.document)
    (after,) = gaps_of(there, two_of("lower-left", "thing"))
    assert after.gap >= 20.0
    left, right = (link.tube.bends[0] for link in there.links[:2])  # type: ignore[union-attr]
    assert (left[0], left[1], left[2]) == pytest.approx((right[0], -right[1], right[2]))


def test_in_a_row_of_holes_what_is_too_near_is_moved_to_another_hole() -> None:
    """A beam over the upper links' hole: a lower hole clears it, and nothing between holes is offered."""

    def beam(data: Any) -> None:
        data["room"]["keep_outs"] = [a_box([430.0, 457.2, 436.0], [40.0, 60.0, 40.0], gap=25.0)]

    blocked = changed(GHYLL, beam)
    (gap,) = gaps_of(blocked, two_of("upper-left", "thing"))
    assert gap.gap < 25.0
    moved = [cure for cure in clearing(blocked, "upper-left", "thing", STEP, most=20) if cure.shifts]
    assert moved
    rack = next(zone.region.at for zone in GHYLL.room.zones if zone.id == "upper-rack-left")  # type: ignore[union-attr]
    for cure in moved:
        at = parts_of(design_from(cure.document)).spot("upper-left.frame").at
        assert min(np.linalg.norm(np.array(hole) - at) for hole in rack) < 1e-6
        (after,) = gaps_of(design_from(cure.document), two_of("upper-left", "thing"))
        assert after.gap >= 25.0


def test_what_is_far_enough_apart_has_no_cure() -> None:
    assert clearing(FULL, "tire-left", "tank", STEP) == []
    assert clearing(FULL, "tire-left", "no such thing", STEP) == []


# the travel budget


def test_the_budget_finds_the_height_at_which_the_tire_meets_a_beam() -> None:
    """Straight up: a beam right above the tire is met when the tire's top has risen to it."""
    beam = a_box([0.0, 841.375, 444.5 + 469.9 + 150.0 + 10.0], [100.0, 100.0, 20.0], gap=25.0)
    found = budget(with_room(TENDER, keep_outs=[beam])).ends[0]
    assert (found.way, found.unit, found.asked) == ("bump", "mm", 120.65)
    by = {(limit.why, limit.a): limit.at for limit in found.limits}
    # the cycle's travel is of the axle's middle; the axle also moves a little fore-aft on its arc
    assert by["meets", "tire-left"] == pytest.approx(150.0, abs=1.5)
    assert by["near", "tire-left"] == pytest.approx(125.0, abs=1.5)
    assert found.margin == pytest.approx(150.0 - 120.65, abs=1.5)


def test_what_meets_at_ride_already_is_said_to_meet_and_leaves_nothing() -> None:
    bump = budget(FULL).ends[0]
    assert (bump.limits[0].why, bump.limits[0].at) == ("meets", 0.0)
    assert not [one for one in bump.limits if one.why == "near" and (one.a, one.b) == ("upper-left", "rail-left")]
    assert bump.margin == pytest.approx(-120.65)


def test_the_budget_of_the_open_truck_is_its_links_alone() -> None:
    found = budget(TENDER)
    assert found.up_share == pytest.approx(120.65 / (120.65 + 171.45))
    assert [end.way for end in found.ends] == [
        "bump",
        "droop",
        "bump, left wheel up",
        "bump, right wheel up",
        "droop, left wheel up",
        "droop, right wheel up",
    ]
    assert all(end.margin is None or end.margin > 0.0 for end in found.ends)


def test_the_budget_counts_a_stop_and_links_that_run_out() -> None:
    def short(data: Any) -> None:
        data["travel"]["droop"] = 150.0
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [330.0, side * 300.0, 680.0]
        stop = {
            "id": "bump-left",
            "frame": {"at": [0.0, 450.0, 700.0]},
            "axle": {"on": "axle", "at": [0.0, 450.0, 500.0]},
            "free": 150.0,
            "solid": 110.0,
        }
        data["corners"] = {"shocks": [], "stops": [stop], "straps": []}

    bump, droop, *_ = budget(changed(TENDER, short)).ends
    assert (bump.limits[0].why, bump.limits[0].a) == ("corner", "bump-left")
    assert bump.limits[0].at == pytest.approx(90.0, abs=1.0)
    assert any(limit.why == "links" for limit in droop.limits)


# tires and stations


def test_a_tires_envelope_at_ride_is_the_tire() -> None:
    still = changed(TENDER, lambda data: data["travel"].update(bump=0.0, droop=0.0, articulation=0.0))
    left, right = envelopes(still)
    assert left.low == pytest.approx((-469.9, 841.375 - 158.75, 444.5 - 469.9))
    assert left.high == pytest.approx((469.9, 841.375 + 158.75, 444.5 + 469.9))
    assert right.low[1] == pytest.approx(-left.high[1])
    moving = envelopes(TENDER)[0]
    assert moving.high[2] > left.high[2] + 120.65


def test_another_station_is_the_same_as_moving_all_that_stands_on_the_frame_back() -> None:
    tank = with_room(TENDER, keep_outs=[a_box([-760.0, 841.375, 600.0], [200.0, 100.0, 300.0])])
    found = {one.by: one for one in stations(tank, (-50.0, 0.0, 50.0))}
    assert {by: one.wheelbase for by, one in found.items()} == {-50.0: 2700.0, 0.0: 2650.0, 50.0: 2600.0}
    gaps = [one.gap for by in (-50.0, 0.0, 50.0) for one in (found[by].tire,) if one is not None]
    assert gaps[0] < gaps[1] < gaps[2]
    assert gaps[1] == pytest.approx(min(p.gap for p in clearances(tank).pairs if {p.a, p.b} == {"tire-left", "thing"}))
    assert with_station(tank, 50.0).room.keep_outs[0].solid.center == (-810.0, 841.375, 600.0)  # type: ignore[union-attr]
    shaft = changed(
        tank,
        lambda data: data.update(
            driveshaft={
                "kind": "two_joints",
                "case": {"joint": [1317.5, 0.0, 482.6], "angle": 0.0},
                "diameter": 76.0,
                "slip": {"in": 40.0, "out": 50.0},
                "joint_limit": {"pinion": 25.0, "case": 25.0},
            }
        ),
    )
    farther = stations(shaft, (-30.0,))[0]
    assert farther.shaft_length == pytest.approx(1030.0)
    assert farther.shaft_longer == pytest.approx(30.0)


# tube and ground


def test_the_bare_tube_runs_from_the_housing_to_the_tire() -> None:
    left, right = tubes(TENDER)
    ball, half = 3.2 * 88.9 / 2.0, 88.9 / 2.0
    assert left.inner == pytest.approx(sqrt(ball**2 - half**2))
    assert left.outer == pytest.approx((1682.75 - 317.5) / 2.0)
    assert [(b.mounts, b.what) for b in left.brackets] == [(("lower-left.axle",), "fits")]
    assert left.spare == pytest.approx(left.outer - left.inner - 76.0)
    assert right.spare == pytest.approx(left.spare)


@pytest.mark.parametrize(("out", "what", "over"), [(150.0, "housing", None), (660.0, "end", 660.0 + 38.0 - 682.625)])
def test_brackets_that_do_not_fit_say_why(out: float, what: str, over: float | None) -> None:
    moved = placed(TENDER, {"lower-left.axle": (69.85, out, 396.875)})
    (bracket,) = tubes(moved)[0].brackets
    assert bracket.what == what
    assert bracket.over == pytest.approx(over if over is not None else tubes(moved)[0].inner - (out - 38.0))


def test_an_offset_housing_leaves_one_side_less() -> None:
    offset = changed(TENDER, lambda data: data["axle"].update(housing={"at": [0.0, 150.0, 444.5], "diameter": 280.0}))
    left, right = tubes(offset)
    assert right.outer - right.inner == pytest.approx(left.outer - left.inner + 300.0)


def test_the_lowest_points_and_the_angles_by_hand() -> None:
    skid = with_room(
        TENDER,
        keep_outs=[
            a_box([1325.0, 0.0, 420.0], [2.0, 700.0, 20.0]),
            {**a_box([-900.0, 0.0, 510.0], [200.0, 500.0, 20.0]), "id": "tow"},
        ],
    )
    found = under(skid)
    low = {one.name: one for one in found.low}
    assert low["thing"].ride == pytest.approx(410.0)
    assert low["thing"].bump == pytest.approx(410.0 - 120.65)  # the frame comes down by the travel
    assert low["axle-tube"].ride == pytest.approx(444.5 - 44.45)
    assert low["axle-tube"].bump == pytest.approx(low["axle-tube"].ride, abs=1e-6)
    assert [one.ride for one in found.low] == sorted(one.ride for one in found.low)

    def off_the_ground(x: float, z: float) -> float:
        """The line from a point that touches the tire's loaded circle from below."""
        far = hypot(x, z - 444.5)
        return degrees(atan2(z - 444.5, x) + asin(444.5 / far))

    assert found.departure_by == "tow"
    assert found.departure == pytest.approx(off_the_ground(1000.0, 500.0))
    assert found.breakover_by == "thing"
    assert found.breakover == pytest.approx(
        min(off_the_ground(x, 410.0) + off_the_ground(2650.0 - x, 410.0) for x in (1324.0, 1326.0))
    )


def test_the_budget_says_where_links_run_out_in_twist_too_and_nothing_of_a_loose_axle() -> None:
    def short(data: Any) -> None:
        data["travel"].update(bump=60.0, droop=150.0, articulation=75.0)
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [330.0, side * 300.0, 680.0]

    ends = budget(changed(TENDER, short)).ends
    out = [(end, limit.at) for end in ends[2:] for limit in end.limits if limit.why == "links"]
    assert out
    for end, at in out:
        travel, sign = -150.0 if "droop" in end.way else 60.0, 1.0 if "left" in end.way else -1.0
        for by, reached in ((-2.0, True), (2.0, False)):
            here = cycle(changed(TENDER, short), 3, (travel, sign * min(at + by, 89.0))).here
            assert here is not None
            assert bool(here.reached[0]) is reached
    loose = changed(TENDER, lambda data: data.update(links=data["links"][:2]))
    assert budget(loose).ends == ()
    low = {
        one.name: one
        for one in under(with_room(loose, keep_outs=[a_box([1000.0, 0.0, 400.0], [10.0, 10.0, 10.0])])).low
    }
    assert low["axle-tube"].bump is None
    assert low["thing"].bump == pytest.approx(395.0 - 120.65)
