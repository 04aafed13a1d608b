"""MOVE IT: what may move, what each move does, cures, results pulled, bands met all at once, what changed."""

from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, column_slopes, links_of, measured, moved
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lever.api import (
    Known,
    NoCrossing,
    Refused,
    Wanted,
    all_effects,
    changes,
    cures,
    cycle,
    effects,
    findings,
    holes,
    mount_names,
    mounts_of,
    parts_of,
    placed,
    pull,
    read_design,
    settle,
    starting_design,
)  # fmt: skip
from oak_lever.design.gallery import FREE, LAYOUTS, layout
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.buildable import in_the_way
from oak_lever.move.coordinates import coordinates, spots
from oak_lever.move.settle import _shortest
from oak_lever.move.slopes import slopes

EIGHTH = 3.175
TENDER = read_design((DEMO / "fell-tender-rear.json").read_bytes()).rewritten(room=None)


@pytest.mark.parametrize("name", LAYOUTS)
def test_spots_are_the_mechanisms_mounts(name: str) -> None:
    design = layout(name)
    assert tuple(spot.name for spot in spots(design)) == mount_names(design)
    np.testing.assert_array_equal([spot.at for spot in spots(design)], mounts_of(design))


@pytest.mark.parametrize("name", LAYOUTS)
def test_moving_a_pair_keeps_a_symmetric_design_symmetric(name: str) -> None:
    design = layout(name)
    for coordinate in coordinates(design):
        there, at = moved(design, coordinate.directions * 7.0)
        assert set(at) == set(coordinate.mounts)
        if len(coordinate.mounts) == 2:
            left, right = (np.array(at[mount]) for mount in coordinate.mounts)
            np.testing.assert_allclose(left * [1, -1, 1], right)
        back, _ = moved(there, coordinate.directions * -7.0)
        np.testing.assert_allclose(mounts_of(back), mounts_of(design), atol=1e-9)


def test_locks_and_unpaired_mounts_are_respected() -> None:
    locked = changed(TENDER, lambda data: data.update(locks={"upper-left.frame": "xz"}, unpaired=["lower-left.axle"]))
    found = {(c.axis, c.mounts) for c in coordinates(locked)}
    assert ("y", ("upper-left.frame", "upper-right.frame")) in found
    assert not any(axis in "xz" and "upper-right.frame" in mounts for axis, mounts in found)
    assert ("z", ("lower-left.axle",)) in found
    assert ("z", ("lower-right.axle",)) in found
    assert len(coordinates(TENDER)) == 12


def test_a_mount_on_the_centerline_stays_on_it() -> None:
    watts = layout("parallel and watts on axle")
    assert not any(c.axis == "y" and "watts.pivot" in c.mounts for c in coordinates(watts))


@pytest.mark.parametrize("figure", ["roll_center", "anti_squat", "ic_length", "roll_axis"])
def test_effects_are_the_slopes_times_the_increment(figure: str) -> None:
    column = {"roll_center": "roll_center_height", "roll_axis": "roll_axis_angle"}.get(figure, figure)
    slopes = column_slopes(TENDER, column)
    for effect in effects(TENDER, figure, 0.1):
        coordinate = next(c for c in coordinates(TENDER) if (c.axis, c.mounts) == (effect.axis, effect.mounts))
        assert effect.change == pytest.approx(0.1 * (slopes * coordinate.directions).sum(), rel=1e-3, abs=1e-6)


def test_effects_come_strongest_first() -> None:
    sizes = [abs(effect.change) for effect in effects(TENDER, "pinion_change", EIGHTH)]
    assert sizes == sorted(sizes, reverse=True)
    assert effects(TENDER, "caster_change", EIGHTH) == []


@pytest.mark.parametrize("finding", ["roll_center", "pinion_change", "anti_squat_fall", "swing"])
def test_cures_cure_in_whole_increments(finding: str) -> None:
    found = cures(TENDER, finding, EIGHTH)
    assert found
    for cure in found:
        (shift,) = cure.shifts
        steps = shift.by / EIGHTH
        assert steps == pytest.approx(round(steps), abs=1e-9)
        assert cure.meets
        after = {f.id: f for f in findings(cycle(placed(TENDER, cure.at)))}
        assert after[finding].severity == "good"
        assert cure.figures[finding] == pytest.approx(after[finding].value)
        assert finding in cure.cures
        one_less = placed(TENDER, {n: _less(TENDER, n, cure, p) for n, p in cure.at.items()})
        blocked = set(in_the_way(one_less, mechanism_of(one_less))) - set(in_the_way(TENDER, mechanism_of(TENDER)))
        assert blocked or {f.id: f for f in findings(cycle(one_less))}[finding].severity != "good"


def _less(design: Any, name: str, cure: Any, point: Any) -> Any:
    """The point one increment short of the cure's move."""
    was = next(spot.at for spot in spots(design) if spot.name == name)
    return [w + (p - w) * (1 - EIGHTH / abs(cure.shifts[0].by)) for w, p in zip(was, point, strict=True)]


def test_cures_respect_locks_and_there_are_none_for_what_is_good() -> None:
    everything = {spot.name: "xyz" for spot in spots(TENDER)}
    assert cures(changed(TENDER, lambda data: data.update(locks=everything)), "roll_center", EIGHTH) == []
    assert cures(TENDER, "anti_squat", EIGHTH) == []
    assert cures(TENDER, "no such finding", EIGHTH) == []


def test_pulled_instant_center_is_where_it_was_wanted() -> None:
    wanted = [Wanted("ic_x", 0, 0, 2400.0), Wanted("ic_height", 0, 0, 520.0)]
    pulled = pull(TENDER, wanted)
    assert pulled.met
    ride = cycle(placed(TENDER, pulled.at), 3).ride.columns
    assert ride["ic_x"][0] == pytest.approx(2400.0, abs=1e-3)
    assert ride["ic_height"][0] == pytest.approx(520.0, abs=1e-3)
    left, right = pulled.at["upper-left.frame"], pulled.at["upper-right.frame"]
    assert left == pytest.approx((right[0], -right[1], right[2]))


def test_pull_is_the_least_movement_to_first_order() -> None:
    """At the answer the moves lie along the figure's own slopes there: nothing shorter reaches as far."""
    ends = {f"lower-{side}.axle": (69.85, y, 340.0) for side, y in (("left", 517.525), ("right", -517.525))}
    clear = placed(TENDER, ends)  # low enough that nothing is in any mount's way
    pulled = pull(
        clear, [Wanted("roll_center_height", 0, 0, cycle(clear, 3).ride.columns["roll_center_height"][0] - 9)]
    )
    after = placed(clear, pulled.at)
    slopes = column_slopes(after, "roll_center_height")
    free = coordinates(clear)
    change = mounts_of(after) - mounts_of(clear)
    moves = np.array([(change * c.directions).sum() / (c.directions**2).sum() for c in free])
    pulls = np.array([(slopes * c.directions).sum() for c in free])
    cosine = moves @ pulls / np.linalg.norm(moves) / np.linalg.norm(pulls)
    assert abs(cosine) == pytest.approx(1.0, abs=1e-6)


@settings(max_examples=15, deadline=None)
@given(st.sampled_from(FREE), st.floats(-15, 15), st.sampled_from([-80.0, 0.0, 60.0]))
def test_what_is_pulled_within_reach_is_met(name: str, by: float, travel: float) -> None:
    design = layout(name)
    here = cycle(design, 3, (travel, 0.0)).here
    assert here is not None
    goal = float(here.columns["roll_center_height"][0]) + by
    pulled = pull(design, [Wanted("roll_center_height", travel, 0.0, goal)])
    assert pulled.met
    there = cycle(placed(design, pulled.at), 3, (travel, 0.0)).here
    assert there is not None
    assert there.columns["roll_center_height"][0] == pytest.approx(goal, abs=1e-3)


def test_pull_stays_within_its_bound_and_says_what_it_could_not_reach() -> None:
    pulled = pull(TENDER, [Wanted("anti_squat", 0, 0, 900.0)], within_mm=40.0)
    assert not pulled.met
    assert pulled.farthest <= 40.0 + 1e-9
    reached = cycle(placed(TENDER, pulled.at), 3).ride.columns["anti_squat"][0]
    assert pulled.got[0] == pytest.approx(reached, rel=1e-9)
    assert reached > cycle(TENDER, 3).ride.columns["anti_squat"][0]


def test_pull_with_nothing_free_moves_nothing() -> None:
    locked = changed(TENDER, lambda data: data.update(locks={spot.name: "xyz" for spot in spots(TENDER)}))
    pulled = pull(locked, [Wanted("anti_squat", 0, 0, 80.0)])
    assert (pulled.free, pulled.met, pulled.at) == (0, False, {})
    assert cures(locked, "roll_center", EIGHTH) == []
    assert settle(locked, EIGHTH) is None


def test_pull_refuses_a_figure_that_is_none() -> None:
    with pytest.raises(ValueError, match="not a figure"):
        pull(TENDER, [Wanted("beauty", 0, 0, 1.0)])


def test_pinion_at_droop_is_pulled() -> None:
    pulled = pull(TENDER, [Wanted("pinion_change", -171.45, 0.0, 1.0)])
    assert pulled.met
    assert cycle(placed(TENDER, pulled.at), 3).heave.columns["pinion_change"][0] == pytest.approx(1.0, abs=1e-3)


def test_settling_leaves_nothing_to_stop_or_fix_for() -> None:
    easy = changed(TENDER, lambda data: data["travel"].update(articulation=10.0))
    settled = settle(easy, EIGHTH)
    assert settled is not None
    assert settled.left == ()
    after = findings(cycle(placed(easy, settled.at)))
    assert not [f.id for f in after if f.severity in ("stop", "fix") and not f.parts]
    for name, point in settled.at.items():
        was = next(spot.at for spot in spots(easy) if spot.name == name)
        for a, b in zip(point, was, strict=True):
            assert (a - b) / EIGHTH == pytest.approx(round((a - b) / EIGHTH), abs=1e-6)


@pytest.mark.parametrize(
    "name",
    ["double_triangulated", "single_triangulated", "single_apex", "three_link_panhard", "parallel_panhard",
     "parallel_watts", "parallel_slider", "radius_arms_panhard", "trailing_arms"],
)  # fmt: skip
@pytest.mark.parametrize("end", ["rear", "front"])
def test_every_start_comes_to_no_stop_and_no_fix(name: Any, end: Any) -> None:
    design = starting_design("Start", name, "numbers_first", Known(end, 940, 1650, 2700, 580, 890))
    for _ in range(4):
        if not [f for f in findings(cycle(design)) if f.severity in ("stop", "fix")]:
            return
        settled = settle(design, EIGHTH)
        assert settled is not None
        design = placed(design, settled.at)
    raise AssertionError([f.id for f in findings(cycle(design)) if f.severity in ("stop", "fix")])


def test_settling_what_is_good_finds_nothing_better() -> None:
    settled = settle(TENDER, EIGHTH)
    assert settled is not None
    again = settle(placed(TENDER, settled.at), EIGHTH)
    if again is not None:
        assert again.cures


def test_shortest_move_by_hand() -> None:
    """Onto a half-plane: along its normal. Between two that contradict: no farther than the caps push."""
    rows = np.array([[3.0, 4.0]]) / 5.0
    np.testing.assert_allclose(_shortest(rows, np.array([-10.0]), [1e6])[0], [-6.0, -8.0])
    np.testing.assert_allclose(_shortest(rows, np.array([1.0]), [1e6])[0], [0.0, 0.0])
    against = np.array([[1.0, 0.0], [-1.0, 0.0]])
    assert np.abs(_shortest(against, np.array([-10.0, -10.0]), [5.0, 5.0])[0]).max() <= 5.0


@pytest.mark.parametrize("value", [55.0, 80.0, 110.0])
@pytest.mark.parametrize("step", [25.4 / 8, 5.0])
def test_a_pull_in_whole_increments_lands_on_them_as_near_as_any_of_its_neighbors(value: float, step: float) -> None:
    want = [Wanted("anti_squat", 0.0, 0.0, value)]
    exact, landed = pull(TENDER, want), pull(TENDER, want, increment_mm=step)
    before = {spot.name: spot.at for spot in spots(TENDER)}
    for name, at in landed.at.items():
        moves = np.subtract(at, before[name]) / step
        np.testing.assert_allclose(moves, np.round(moves), atol=1e-9)
    assert set(landed.at) <= set(exact.at)
    assert landed.met == exact.met

    def short(at: dict[str, Any]) -> float:
        return float(abs(cycle(placed(TENDER, at), 3).ride.columns["anti_squat"][0] - value))

    assert landed.got[0] is not None
    assert short(landed.at) == pytest.approx(abs(landed.got[0] - value), abs=1e-6)
    for name, at in landed.at.items():  # one more increment of any of them leads no nearer
        for axis in range(3):
            for way in (-step, step):
                moved = list(at)
                moved[axis] += way if axis != 1 or at[1] > 0 else -way
                twin = name.replace("left", "right") if "left" in name else name.replace("right", "left")
                there = {**landed.at, name: tuple(moved), twin: (moved[0], -moved[1], moved[2])}
                if abs(exact.at[name][axis] - before[name][axis]) > 1e-3 and twin in landed.at:
                    assert short(there) > short(landed.at) - 3e-3


def test_a_hole_no_truck_has_room_for_is_refused() -> None:
    for point, station in (((2600.0, 500.0), -1e16), ((2600.0, 1e9), 760.0)):
        with pytest.raises(NoCrossing, match="nowhere near a truck"):
            holes(TENDER, "upper", point, station)


def test_holes_lie_on_the_line_to_the_point() -> None:
    found = holes(TENDER, "upper", (2600.0, 500.0), 760.0)
    assert {hole.link for hole in found} == {"upper-left", "upper-right"}
    for hole_ in found:
        link, hole, long = hole_.link, hole_.at, hole_.length
        axle = next(bar.axle.at for bar in links_of(TENDER) if bar.id == link)
        assert hole[0] == 760.0
        assert (hole[2] - axle[2]) / (hole[0] - axle[0]) == pytest.approx((500.0 - axle[2]) / (2600.0 - axle[0]))
        assert long == pytest.approx(np.linalg.norm(np.subtract(hole, axle)))


def test_links_put_on_a_point_have_it_for_an_instant_center() -> None:
    """Both pairs toward one point, in a design whose links lie square in plan at both ends, swing about that point."""
    design = layout("parallel and panhard")
    point = (2500.0, 450.0)
    for kind in ("upper", "lower"):
        at = {f"{hole.link}.frame": hole.at for hole in holes(design, kind, point, 900.0)}
        design = placed(design, at)
    level = changed(
        design, lambda data: data["lateral"].update(frame={"at": [-200, 500, 500]}, axle={"at": [-200, -500, 500]})
    )
    ride = cycle(level, 3).ride.columns
    assert ride["ic_x"][0] == pytest.approx(2500.0, rel=1e-6)
    assert ride["ic_height"][0] == pytest.approx(450.0, rel=1e-6)


@pytest.mark.parametrize(("point", "station"), [((28.575, 500.0), 760.0), ((2600.0, 500.0), 28.575)])
def test_lines_that_cross_no_station_are_refused_in_words(point: Any, station: float) -> None:
    with pytest.raises(NoCrossing, match="choose"):
        holes(TENDER, "upper", point, station)


def test_changes_speak_of_pairs_once() -> None:
    up = placed(TENDER, {"upper-left.frame": (774.7, 419.1, 644.525), "upper-right.frame": (774.7, -419.1, 644.525)})
    (change,) = changes(TENDER, up)
    assert (change.what, change.axis) == ("upper frame mounts", "z")
    assert change.by == pytest.approx(12.7)
    out = placed(TENDER, {"lower-left.axle": (69.85, 524.125, 396.875), "lower-right.axle": (69.85, -524.125, 396.875)})
    (change,) = changes(TENDER, out)
    assert (change.what, change.axis) == ("lower axle mounts", "y")
    assert change.by == pytest.approx(6.6)
    one = placed(TENDER, {"upper-right.frame": (774.7, -425.1, 631.825)})
    (change,) = changes(TENDER, one)
    assert (change.what, change.axis) == ("upper right frame mount", "y")
    assert change.by == pytest.approx(6.0)


def test_other_changes_are_named() -> None:
    other = changed(TENDER, lambda data: data.update(name="Other", lateral=None, use="crawling"))
    assert {change.what for change in changes(TENDER, other)} == {"name", "use"}
    without = changed(layout("three links and panhard"), lambda data: data.update(lateral=None))
    assert "links, locators and what else has mounts" in {
        c.what for c in changes(layout("three links and panhard"), without)
    }
    assert changes(TENDER, TENDER) == []

    def turn(data: Any) -> None:
        data["links"][0]["frame"].update(bolt=[0.1, 1.0, 0.0], joint="bushed")

    assert [c.what for c in changes(TENDER, changed(TENDER, turn))] == ["lower left link, frame end: bolt and joint"]


def test_measures_follow_a_placed_mount() -> None:
    higher = placed(
        TENDER, {"upper-left.axle": (28.575, 101.6, 660.875), "upper-right.axle": (28.575, -101.6, 660.875)}
    )
    apart = [measured(cycle(design, 5))["separation_axle"] for design in (higher, TENDER)]
    assert apart[0] - apart[1] == pytest.approx(10.0)


def test_placing_both_ends_at_one_point_is_refused() -> None:
    with pytest.raises(Refused):
        placed(TENDER, {"upper-left.frame": (28.575, 101.6, 650.875)})


def test_a_cure_may_go_just_as_far_as_the_bound() -> None:
    """Separation at the axle grows by what the uppers are raised: a band's edge exactly 200 mm away is cured, one beyond not."""
    bare = changed(TENDER, lambda data: data.pop("corners"))
    apart = measured(cycle(bare, 5))["separation_axle"]
    for beyond, there in ((0.0, True), (1.0, False)):
        wanting = bare.rewritten(bands={"separation_axle": (apart + 200.0 + beyond, None)})
        single = [c.shifts[0] for c in cures(wanting, "separation_axle", 10.0) if c.meets and len(c.shifts) == 1]
        found = [shift for shift in single if shift.mounts[0] == "upper-left.axle"]
        assert bool(found) is there
        if found:
            assert found[0].by == pytest.approx(200.0)


def test_where_no_single_move_cures_two_together_do() -> None:
    apart = measured(cycle(TENDER, 5))["separation_axle"]
    wanting = TENDER.rewritten(bands={"separation_axle": (apart + 230.0, None)})
    cure = cures(wanting, "separation_axle", 10.0)[0]
    assert cure.meets
    assert {shift.mounts[0] for shift in cure.shifts} == {"upper-left.axle", "lower-left.axle"}
    assert " and " in cure.words


def test_where_nothing_cures_it_what_helps_most_is_offered_as_that() -> None:
    wanting = TENDER.rewritten(bands={"separation_axle": (900.0, None)})
    found = cures(wanting, "separation_axle", 10.0)
    assert found
    for cure in found:
        assert not cure.meets
        value = cure.figures["separation_axle"]
        assert value is not None
        assert value > measured(cycle(TENDER, 5))["separation_axle"] + 50


def test_cures_that_cure_more_come_before_shorter_ones_up_to_a_point() -> None:
    found = cures(TENDER, "pinion_change", EIGHTH, most=20)
    cost = [(len(c.worse), abs(c.shifts[0].by) - 50.0 * len(c.cures)) for c in found]
    assert cost == sorted(cost)
    assert len(cures(TENDER, "pinion_change", EIGHTH, most=2)) == 2


def test_a_cure_of_a_figure_below_its_band_raises_it() -> None:
    low = changed(TENDER, lambda data: data.update(bands={"anti_squat": [100.0, 120.0]}))
    for cure in cures(low, "anti_squat", EIGHTH):
        value = cure.figures["anti_squat"]
        assert value is not None
        assert 100.0 <= value <= 120.0


def test_all_effects_are_those_of_each_figure() -> None:
    every = all_effects(TENDER, EIGHTH)
    assert set(every) > {"anti_squat", "roll_center", "fore_aft"}
    for figure in ("roll_center", "joint_angle"):
        assert every[figure] == effects(TENDER, figure, EIGHTH)


def test_slopes_are_central_differences_over_the_step_asked_for() -> None:
    def cubes(moves: Any) -> Any:
        return np.stack([moves[:, 0] ** 3, moves[:, 0] * moves[:, 1]], axis=-1)

    here, found = slopes(cubes, np.array([2.0, 5.0]), 0.5)
    np.testing.assert_allclose(here, [8.0, 10.0])
    np.testing.assert_allclose(found, [[12.0 + 0.25, 0.0], [5.0, 2.0]], atol=1e-12)


@given(st.floats(-60, 60), st.floats(-60, 60))
@settings(max_examples=12, deadline=None)
def test_far_pulls_of_the_instant_center_get_there(ahead: float, up: float) -> None:
    ride = cycle(TENDER, 3).ride.columns
    wanted = [
        Wanted("ic_x", 0, 0, float(ride["ic_x"][0]) + 10 * ahead),
        Wanted("ic_height", 0, 0, float(ride["ic_height"][0]) + up),
    ]
    pulled = pull(TENDER, wanted)
    assert pulled.met
    there = cycle(placed(TENDER, pulled.at), 3).ride.columns
    assert there["ic_x"][0] == pytest.approx(wanted[0].value, abs=1e-3)


def test_a_pulls_farthest_is_the_longest_way_of_any_coordinate() -> None:
    pulled = pull(TENDER, [Wanted("roll_center_height", 0, 0, 650.0)])
    moves = [
        abs(a - b) for name, at in pulled.at.items() for a, b in zip(at, parts_of(TENDER).spot(name).at, strict=True)
    ]
    assert pulled.farthest == pytest.approx(max(moves))
    assert pulled.free == 12


def test_settling_stays_within_its_bound() -> None:
    far = changed(TENDER, lambda data: data.update(bands={"separation_axle": [900.0, None]}))
    for within in (20.0, 60.0):
        settled = settle(far, 5.0, within_mm=within)
        if settled is not None:
            for name, at in settled.at.items():
                assert max(abs(a - b) for a, b in zip(at, parts_of(TENDER).spot(name).at, strict=True)) <= within + 1e-9
