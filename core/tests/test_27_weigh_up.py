"""Holes and tolerances, against geometry worked out anew: lengths of bars in the pose they lead to, the same suspension
drawn where it then stands and cycled, whole frames moved, bars made longer."""

import json
import math
from fractions import Fraction
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, run
from random_designs import random_designs

from oak_lever.api import Design, Refused, cycle, design_data, design_from, hole_map, parts_of, read_design, tolerance
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import rotations
from oak_lever.sheet.tables import tables_of, within
from oak_lever.weigh_up import kept
from oak_lever.weigh_up.kept import kept_poses
from oak_lever.weigh_up.outcomes import outcomes, rings
from oak_lever.weigh_up.racks import sites_of

GHYLL = read_design((DEMO / "ghyll-special-rear.json").read_text())
EVERY = [*(layout(name) for name in LAYOUTS), *random_designs(seed=27, many=10)]
SOUND = [one for one in EVERY if cycle(one).located]
RNG = np.random.default_rng(27)


def moved_about(design: Design, by: float) -> Any:
    """(12, K, 3) its mounts, each a few mm elsewhere; a slider and the bolts of radius arms too."""
    mounts = mechanism_of(design).mounts
    return mounts + RNG.uniform(-by, by, (12, *mounts.shape[1:]))


def ends_in(design: Design, mounts: Any, state: Any) -> dict[str, float]:
    """Every bar's length with the axle in a pose, joint to joint: axle-side mounts turned about the axle's center."""
    mechanism, turn = mechanism_of(design), rotations(state)
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    crank = design.lateral if getattr(design.lateral, "kind", "") == "watts" else None
    found = {}
    for bar in mechanism.layout.bars:
        if bar.rigid:
            continue
        ends = [mounts[bar.axle.first].copy(), mounts[bar.frame.first].copy()]
        for end, hand in enumerate((bar.axle.hand, bar.frame.hand)):
            if hand:
                angle = np.radians(crank.tilt) + state[6]  # type: ignore[union-attr]
                ends[end] = ends[end] + hand * crank.arm * np.array([0.0, -np.sin(angle), np.cos(angle)])  # type: ignore[union-attr]
        on_axle = state[:3] + turn @ (ends[0] - center)
        found[bar.name] = float(np.linalg.norm(on_axle - ends[1]))
    return found


@pytest.mark.parametrize("design", SOUND, ids=lambda one: one.name)
def test_every_bar_keeps_its_length_where_the_axle_then_stands(design: Design) -> None:
    mechanism, mounts = mechanism_of(design), moved_about(design, 6.0)
    found = kept_poses(mechanism, mounts)
    own = ends_in(design, mechanism.mounts[0], np.array([0.0, 0.0, design.axle.tire_radius_loaded, 0, 0, 0, 0]))
    assert found.reached.sum() > 8
    for n in np.flatnonzero(found.reached[:, 0]):
        lengths = ends_in(design, mounts[n], found.state[n, 0])
        off = max((abs(lengths[name] - own[name]) for name in own), default=0.0)
        assert off == pytest.approx(0.0, abs=1e-7) if not mechanism.layout.gives else off <= found.bind[n, 0] + 1e-7


@pytest.mark.parametrize("design", [one for one in SOUND if one.links and all(
    link.kind != "radius_arm" for link in one.links
) and getattr(one.lateral, "kind", "") in ("", "panhard")], ids=lambda one: one.name)  # fmt: skip
def test_figures_there_are_those_of_the_same_suspension_drawn_where_it_stands(design: Design) -> None:
    """Only frame mounts move, by mirrored amounts or not; the axle side is drawn anew in the pose that it came to."""
    mechanism = mechanism_of(design)
    frames = [n for n, name in enumerate(mechanism.layout.mounts) if name.endswith(".frame")]
    mounts = np.repeat(mechanism.mounts, 6, axis=0)
    mounts[3:, frames] += RNG.uniform(-8.0, 8.0, (3, len(frames), 3))
    for kind in ("lower", "upper"):  # the first three stay alike left and right, so that the axle stands square
        ends = [mechanism.layout.mounts.index(f"{link.id}.frame") for link in design.links if link.kind == kind]
        mounts[:3, ends] += RNG.uniform(-8.0, 8.0, (3, 1, 3)) * [1.0, 0.0, 1.0]
    found = kept_poses(mechanism, mounts)
    compared = square = 0
    for n in np.flatnonzero(found.reached[:, 0] & (found.bind[:, 0] == 0.0)).tolist():
        state = found.state[n, 0]
        ride = cycle(drawn_there(design, mounts[n], state)).ride.rows()[0]
        figures = kept_row(design, found, n)
        straight = abs(state[5]) < 1e-9  # seen from the side of a turned axle, figures are others
        compared, square = compared + 1, square + straight
        for name in ("anti_squat", "anti_dive", "ic_length", "ic_height"):
            if ride[name] is not None and straight:
                assert figures[name] == pytest.approx(ride[name], rel=1e-6, abs=1e-6), name
    assert compared >= 4 or mechanism.layout.gives
    assert square >= 2 or mechanism.layout.gives or design.lateral is not None


def drawn_there(design: Design, mounts: Any, state: Any) -> Design:
    """The suspension with its axle side as it stands in a pose, in the axle's own axes."""
    x, y, yaw = state[0], state[1], state[5]
    back = np.array([[np.cos(yaw), np.sin(yaw), 0], [-np.sin(yaw), np.cos(yaw), 0], [0, 0, 1]])
    center, turn = np.array([0.0, 0.0, design.axle.tire_radius_loaded]), rotations(state)
    names = mechanism_of(design).layout.mounts

    def there(data: Any) -> None:
        data.update(locks=None, unpaired=None, room=None, corners=None, driveshaft=None, steering=None, hand=None)
        data["vehicle"]["wheelbase"] -= x if design.axle.end == "rear" else -x
        for bar in [*data["links"], *([data["lateral"]] if data["lateral"] else [])]:
            bar.pop("tube", None)
            bar["axle"]["at"] = (back @ turn @ (np.array(bar["axle"]["at"]) - center) + center).tolist()
            frame = mounts[names.index(f"{bar.get('id', 'panhard')}.frame")] - np.array([x, y, 0.0])
            bar["frame"]["at"] = (back @ frame).tolist()

    return changed(design, there)


def kept_row(design: Design, found: Any, n: int) -> dict[str, float]:
    from oak_lever.figures.rows import KEPT, setting_of, table

    return dict(zip(KEPT, table(found, setting_of(design))[:, n, 0], strict=True))


@pytest.mark.parametrize("design", SOUND, ids=lambda one: one.name)
def test_a_whole_frame_moved_takes_the_axle_along_and_turns_nothing(design: Design) -> None:
    found = tolerance(design, 1.0)
    assert found.mounts is not None
    frames = [
        spot.name for spot in parts_of(design).spots if spot.holds and spot.on == "frame" and spot.name in found.mounts
    ]
    axles = [
        spot.name for spot in parts_of(design).spots if spot.holds and spot.on == "axle" and spot.name in found.mounts
    ]
    arms = any(link.kind == "radius_arm" for link in design.links)
    slides = getattr(design.lateral, "kind", "") == "slider"
    for axis, figure in (("x", "axle_x"), ("y", "axle_y")):
        if slides and axis == "y":
            continue  # the guide stays where it is
        together = sum(found.mounts[name][axis][figure] or 0.0 for name in frames)
        turned = sum(found.mounts[name][axis]["pinion_change"] or 0.0 for name in frames)
        assert together == pytest.approx(1.0, abs=1e-5)
        assert turned == pytest.approx(0.0, abs=1e-5)
        if not arms:  # a radius arm's eye keeps its place on the axle
            assert sum(found.mounts[name][axis][figure] or 0.0 for name in axles) == pytest.approx(-1.0, abs=1e-5)


@pytest.mark.parametrize("design", SOUND, ids=lambda one: one.name)
def test_a_longer_bar_does_what_its_mount_moved_along_it_does(design: Design) -> None:
    """To first order a bar made longer is the same as its frame mount moved away along it; and all slopes are those of
    a plain difference at another step."""
    found, mechanism = tolerance(design, 1.0), mechanism_of(design)
    assert found.mounts is not None
    assert found.lengths is not None
    seen = 0
    for b, bar in enumerate(mechanism.layout.bars):
        if bar.rigid or bar.frame.hand or mechanism.layout.gives:
            continue
        along = mechanism.ends[1][0, b] - mechanism.ends[0][0, b]
        along /= np.linalg.norm(along)
        name = mechanism.layout.mounts[bar.frame.first]
        if sum(one.frame.first == bar.frame.first for one in mechanism.layout.bars) > 1:
            continue
        for figure in ("pinion_change", "axle_x", "axle_y", "yaw"):
            away = sum((found.mounts[name][axis][figure] or 0.0) * along[a] for a, axis in enumerate("xyz"))
            assert found.lengths[bar.name][figure] == pytest.approx(-away, abs=1e-6)
            seen += 1
    assert seen or mechanism.layout.gives or not found.lengths or design.lateral is not None


def test_worst_and_likely_are_sums_over_all_and_go_with_the_error() -> None:
    one, two = tolerance(GHYLL, 1.0), tolerance(GHYLL, 2.5)
    assert one.worst
    assert one.likely
    assert two.worst
    assert one.mounts
    assert one.lengths
    for figure in ("pinion_change", "axle_y", "anti_squat", "roll_steer"):
        every = [axes[a][figure] for axes in one.mounts.values() for a in "xyz"]
        every += [slopes[figure] for slopes in one.lengths.values()]
        values = np.array(every, dtype=float)
        assert one.worst[figure] == pytest.approx(np.abs(values).sum())
        assert one.likely[figure] == pytest.approx(np.sqrt((values**2).sum()))
        assert two.worst[figure] == pytest.approx(2.5 * one.worst[figure])  # type: ignore[operator]
    assert one.worst["anti_dive"] is None


def test_mirrored_designs_have_mirrored_tolerances() -> None:
    found = tolerance(read_design((DEMO / "fell-tender-rear.json").read_text()), 1.0)
    assert found.mounts
    for end in ("axle", "frame"):
        for axis, hand in (("x", 1.0), ("y", -1.0), ("z", 1.0)):
            left, right = (found.mounts[f"upper-{side}.{end}"][axis] for side in ("left", "right"))
            assert left["pinion_change"] == pytest.approx(hand * right["pinion_change"], abs=1e-7)  # type: ignore[operator]
            assert left["yaw"] == pytest.approx(-hand * right["yaw"], abs=1e-7)  # type: ignore[operator]


class TestHoles:
    def test_every_choice_is_the_design_with_its_mounts_there(self) -> None:
        found = hole_map(GHYLL, 21)
        assert [(site.mounts, len(site.holes)) for site in found.sites] == [
            (("lower-left.frame", "lower-right.frame"), 4), (("upper-left.frame", "upper-right.frame"), 4),
        ]  # fmt: skip
        assert [one.at for one in found.combinations] == [(a, b) for a in range(4) for b in range(4)]
        for one in found.combinations[::3]:
            holes = {
                name: np.array(site.holes[one.at[s]]) * [1.0, 1.0 if name.startswith(("lower-left", "upper-left")) else -1.0, 1.0]
                for s, site in enumerate(found.sites) for name in site.mounts
            }  # fmt: skip

            def there(data: Any, holes: dict[str, Any] = holes) -> None:
                for link in data["links"]:
                    if f"{link['id']}.frame" in holes:
                        link["frame"]["at"] = holes[f"{link['id']}.frame"].tolist()

            cycled = cycle(changed(GHYLL, there), 21)
            ride, rows = cycled.ride.rows()[0], cycled.heave.rows()
            assert one.set
            for name in ("anti_squat", "ic_x", "ic_length", "roll_center_height", "roll_axis_angle", "roll_steer"):
                assert one.set[name] == pytest.approx(ride[name], rel=1e-9, abs=1e-9)
            pinion = [row["pinion_change"] for row in rows if row["pinion_change"] is not None]
            assert one.set["pinion_range"] == pytest.approx(max(pinion) - min(pinion))
            link = next(one for one in GHYLL.links if one.id == "lower-left")
            assert one.lengths["lower-left"] == pytest.approx(np.linalg.norm(holes["lower-left.frame"] - link.axle.at))

    def test_where_it_stands_nothing_changes(self) -> None:
        found = hole_map(GHYLL)
        now = next(one for one in found.combinations if one.at == tuple(site.now for site in found.sites))
        assert now.kept
        assert [now.kept[name] for name in ("pinion_change", "axle_x", "axle_y", "yaw")] == pytest.approx(
            [0.0] * 4, abs=1e-9
        )

    def test_parted_mounts_are_sites_of_their_own_and_no_rack_is_refused(self) -> None:
        parted = changed(GHYLL, lambda data: data.update(unpaired=["upper-right.frame"]))
        assert [site.mounts for site in sites_of(parted)] == [
            ("lower-left.frame", "lower-right.frame"), ("upper-left.frame",), ("upper-right.frame",),
        ]  # fmt: skip
        with pytest.raises(Refused, match="there is no rack"):
            hole_map(changed(GHYLL, lambda data: data["room"].update(zones=[])))
        many = [[600.0, 457.2, 200.0 + 0.5 * n] for n in range(200)]

        def crowded(data: Any) -> None:
            for zone in data["room"]["zones"]:
                zone["region"]["at"] = many

        with pytest.raises(Refused, match="40000 combinations"):
            hole_map(changed(GHYLL, crowded))

    def test_a_hole_on_the_other_end_of_its_bar_is_no_design(self) -> None:
        lower = next(one for one in GHYLL.links if one.id == "lower-left")

        def through(data: Any) -> None:
            for zone in data["room"]["zones"]:
                if "lower-left.frame" in zone["mounts"]:
                    zone["region"]["at"][0] = list(lower.axle.at)

        found = hole_map(changed(GHYLL, through))
        gone = [one for one in found.combinations if one.at[0] == 0]
        assert gone
        assert all(one.set is None and one.kept is None for one in gone)
        assert all(one.set for one in found.combinations if one.at[0] != 0)

    def test_a_loose_design_has_none_of_it(self) -> None:
        loose = changed(GHYLL, lambda data: data.update(lateral=None, links=data["links"][:2], corners=None))
        found = hole_map(loose)
        assert all(one.set and not one.set["reached"] and one.set["anti_squat"] is None for one in found.combinations)
        assert all(one.kept is None for one in found.combinations)
        assert tolerance(loose).worst is None


@pytest.mark.parametrize("arguments", [("holes",), ("tolerance",), ("tolerance", "--error", "1")])
def test_the_commands_print_one_object_or_a_table_with_the_caution(arguments: tuple[str, ...]) -> None:
    file = str(DEMO / "ghyll-special-rear.json")
    said = run(arguments[0], file, *arguments[1:], "--json")
    data = json.loads(said.stdout)
    assert (data["format"], data["version"], data["design"]) == (f"oak-lever-{arguments[0]}", 1, GHYLL.name)
    table = run(arguments[0], file, *arguments[1:])
    assert "qualified engineer" in table.stdout
    assert run("tolerance", file, "--error", "0").returncode == 2
    assert design_from(design_data(GHYLL)) == GHYLL


@pytest.mark.parametrize("design", SOUND[::5], ids=lambda one: one.name)
def test_far_moves_end_where_fine_steps_end_or_nowhere(design: Design, monkeypatch: pytest.MonkeyPatch) -> None:
    """No jump to another way of assembling it: finer steps come to the same poses, and to an end in the same places."""
    mechanism, mounts = mechanism_of(design), moved_about(design, 90.0)
    coarse = kept_poses(mechanism, mounts)
    monkeypatch.setattr(kept, "_STEP_MM", 4.0)
    fine = kept_poses(mechanism, mounts)
    both = coarse.reached[:, 0] & fine.reached[:, 0]
    assert (coarse.reached == fine.reached).mean() > 0.9
    assert both.sum() >= 3
    assert np.abs(coarse.state[both] - fine.state[both]).max() < 1e-5


def test_links_that_cannot_reach_are_not_followed() -> None:
    mounts = mechanism_of(GHYLL).mounts.copy()
    names = mechanism_of(GHYLL).layout.mounts
    for name in ("upper-left.frame", "upper-right.frame"):
        mounts[0, names.index(name)] += [3000.0, 0.0, 2500.0]
    assert not kept_poses(mechanism_of(GHYLL), mounts).reached.any()


@pytest.mark.parametrize("design", random_designs(seed=271, many=3), ids=lambda one: one.name)
def test_the_shop_drawing_says_of_each_hole_what_the_rings_say(design: Design) -> None:
    """Never more than the ring, and of the rings that the trucks by chance were drawn with."""
    drawn, by_chance = rings(design), {one.mount: one for one in outcomes(design).rings}
    assert drawn == by_chance
    (listed,) = [one for one in tables_of(design, [], "in32") if one.title == "How exact each hole must be"]
    spots, seen = [spot.name for spot in parts_of(design).spots], list[str]()
    for said, mounts in listed.rows:
        for name in (spots[int(number) - 1] for number in mounts.split(", ")):
            seen.append(name)
            if not said.startswith("±"):
                assert drawn[name].by < 25.4 / 64.0
                continue
            may = float(Fraction(said.removeprefix("±").removesuffix(" in"))) * 25.4
            assert may <= drawn[name].by < (2.0 * may if may < 12.7 else math.inf)
    assert sorted(seen) == sorted(drawn)
    assert within(1.9, "mm") == "±1.5 mm"
    assert within(0.1, "mm") == "under 0.2 mm"
