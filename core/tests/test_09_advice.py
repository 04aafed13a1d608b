"""Properties of judgment and advice over every layout, use and demo design, and the house's bands as given."""

import json
import os
import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, every_point, measured, run

from oak_lever.api import (
    FIGURES,
    SCHOOLS,
    USES,
    Refused,
    Wanted,
    cures,
    cycle,
    design_from,
    effects,
    findings,
    findings_on,
    parts_of,
    placed,
    pull,
    read_design,
    school_says,
    settle,
    slack,
)  # fmt: skip
from oak_lever.design.gallery import GIVING, LAYOUTS, layout
from oak_lever.figures.register import BY_ID
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.buildable import in_the_way
from oak_lever.move.coordinates import Space, spots

FIVE_MM = 5.0
DEMOS = [file for file in sorted(DEMO.glob("*.json")) if not file.stem.endswith("-truck")]
UNITS = {figure.id: figure.unit for figure in FIGURES}


def mirrored(design: Any) -> Any:
    """The design as a mirror shows it: bolts and points on the other side, and the bell crank turned the other way."""

    def flip(data: Any) -> None:
        data.update(every_point(data, lambda p: [p[0], -p[1], p[2]]))
        for end in (end for link in data["links"] for end in (link["axle"], link["frame"])):
            if end.get("bolt"):
                end["bolt"][1] *= -1
        if data["lateral"] and data["lateral"]["kind"] == "watts":
            data["lateral"]["tilt"] *= -1

    return changed(design, flip)


def scaled(design: Any, by: float) -> Any:
    """The same truck in another size: lengths only."""

    def grow(data: Any) -> None:
        data.update(every_point(data, lambda p: [v * by for v in p]))
        for part, names in (
            (data["axle"], ("tire_diameter", "tire_radius_loaded", "tire_width", "track", "tube_diameter")),
            (data["vehicle"], ("wheelbase", "cg_height")),
            (data["travel"], ("bump", "droop")),
            (data["lateral"] or {}, ("arm",)),
        ):
            for name in names:
                if name in part:
                    part[name] *= by

    return changed(design, grow)


@pytest.mark.parametrize("name", [n for n in LAYOUTS if "watts" not in n])
def test_a_mirror_image_is_judged_the_same(name: str) -> None:
    one, other = (measured(cycle(design, 21)) for design in (layout(name), mirrored(layout(name))))
    assert set(one) == set(other)
    for figure, measure in one.items():
        assert other[figure] == pytest.approx(measure, rel=1e-6, abs=1e-6)


@pytest.mark.parametrize("name", LAYOUTS)
@pytest.mark.parametrize("by", [0.25, 3.0])
def test_a_truck_in_another_size_is_judged_the_same(name: str, by: float) -> None:
    one, other = (cycle(design, 21) for design in (layout(name), scaled(layout(name), by)))
    small, large = measured(one), measured(other)
    for figure, measure in small.items():
        factor = by if UNITS[figure] == "mm" else 1.0
        assert large[figure] == pytest.approx(factor * measure, rel=1e-5, abs=1e-5)


@pytest.mark.parametrize("name", LAYOUTS)
def test_wanting_what_is_there_moves_nothing(name: str) -> None:
    design = layout(name)
    ride = cycle(design, 3).ride.columns
    wanted = [Wanted(f, 0, 0, float(ride[f][0])) for f in ("roll_center_height", "axle_x")]
    pulled = pull(design, wanted)
    assert pulled.met
    assert pulled.farthest < 1e-6


GRAVITY = ["good", "consider", "fix", "stop"]


def less_and_more_grave(before: Any, after: Any) -> tuple[set[str], set[str]]:
    change = {
        name: GRAVITY.index(after[name].severity if name in after else "good")
        - GRAVITY.index(before[name].severity if name in before else "good")
        for name in {*before, *after}
    }
    return {name for name, by in change.items() if by < 0}, {name for name, by in change.items() if by > 0}


def check_cures(design: Any, increment_mm: float = FIVE_MM) -> int:
    """Each cure of each finding, done as said: worked out anew by the cycle, with nothing of how it was found. How many
    there were."""
    count = 0
    before = {f.id: f for f in findings(cycle(design))}
    ways = in_the_way(design, mechanism_of(design))
    for name, finding in before.items():
        if finding.severity == "good":
            continue
        for cure in cures(design, name, increment_mm):
            count += 1
            moved = design_from(cure.document)
            after = {f.id: f for f in findings(cycle(moved))}
            assert (set(cure.cures), set(cure.worse)) == less_and_more_grave(before, after)
            assert not [w for w in cure.worse if after[w].severity == "stop"]
            assert set(in_the_way(moved, mechanism_of(moved))) <= set(ways)
            if cure.meets:
                assert name not in after or after[name].severity == "good"
            elif cure.shifts:
                assert nearer(finding, after[name])
            else:
                assert GRAVITY.index(after[name].severity) < GRAVITY.index(finding.severity)
            for one in cure.worsens:
                assert after[one.id].value == pytest.approx(one.after, rel=1e-6, abs=1e-6)
                assert before[one.id].value == pytest.approx(one.before, rel=1e-6, abs=1e-6)
            if cure.shifts:
                follow(design, cure, moved)
    return count


def nearer(before: Any, after: Any) -> bool:
    """Whether the figure has come toward its band."""
    if before.verdict == "low":
        return bool(after.value > before.value)
    return bool(after.value < before.value)


def follow(design: Any, cure: Any, moved: Any) -> None:
    """The words, done as said: up and forward are + in z and x, outward away from the centerline, and no other way."""
    was, now = ({spot.name: spot.at for spot in parts_of(d).spots} for d in (design, moved))
    for shift in cure.shifts:
        first = shift.mounts[0]
        by = [b - a for a, b in zip(was[first], now[first], strict=True)]
        said = cure.words.lower()
        way = {"x": ("forward", "back"), "z": ("up", "down")}.get(shift.axis)
        along = by["xyz".index(shift.axis)]
        if way is None and len(shift.mounts) == 1 and abs(was[first][1]) < 0.01:
            way = ("to the left", "to the right")
        elif way is None:
            way, along = ("outward", "inward"), abs(now[first][1]) - abs(was[first][1])
        assert f"{way[along < 0]} {abs(along):.0f} mm" in said
    assert set(cure.at) == {name for name in was if was[name] != now[name]}


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_cures_of_every_demo_finding_do_what_they_say(file: Path) -> None:
    assert check_cures(read_design(file.read_bytes())) >= 5


@pytest.mark.parametrize("name", LAYOUTS)
def test_cures_of_every_layout_do_what_they_say(name: str) -> None:
    assert check_cures(layout(name)) >= 10
    if name not in GIVING:
        assert check_cures(front_of(layout(name))) >= 3


def front_of(design: Any) -> Any:
    """The same axle at the other end of the truck, its links ahead of it as before: long behind, in front's terms."""

    def turn(data: Any) -> None:
        data["axle"].update(end="front", caster=6.0)
        data["vehicle"]["brake_share"] = 0.63

    return changed(design, turn)


def ordinary(seed: int) -> Any:
    """A layout with its mounts up to 60 mm from where they were, its pairs kept: an axle that somebody might build."""
    rng = np.random.default_rng(seed)
    name = list(LAYOUTS)[seed % len(LAYOUTS)]
    design = layout(name)
    space = Space(design)
    move = rng.uniform(-60.0, 60.0, len(space.free))
    use = list(USES)[int(rng.integers(len(USES)))]
    try:
        return placed(design, space.at(move)).rewritten(use=use)
    except Refused:
        return design


DESIGNS = int(os.environ.get("OAK_LEVER_DESIGNS", "4"))
"""How many designs that somebody might build are tried: `make validate` tries five hundred."""


@pytest.mark.parametrize("seed", range(DESIGNS))
def test_cures_of_designs_that_somebody_might_build_do_what_they_say(seed: int) -> None:
    assert check_cures(ordinary(seed), 6.0) >= 1


@pytest.mark.parametrize("seed", range(1000, 1000 + DESIGNS))
def test_pulls_keep_what_is_sound_sound_and_are_as_near_as_they_say(seed: int) -> None:
    design = ordinary(seed)
    ride = cycle(design, 3).ride.columns
    rng = np.random.default_rng(seed)
    for figure, far in (("roll_center_height", 50.0), ("anti_squat", 20.0), ("ic_height", 60.0)):
        if np.isnan(ride[figure][0]):
            continue
        goal = float(ride[figure][0]) + float(rng.uniform(-far, far))
        pulled = pull(design, [Wanted(figure, 0, 0, goal)])
        moved = placed(design, pulled.at)
        got = float(cycle(moved, 3).ride.columns[figure][0])
        assert got == pytest.approx(pulled.got[0], abs=1e-6)
        assert pulled.met == (abs(got - goal) <= 2e-3)
        stops = [{f.id for f in findings(cycle(d)) if f.severity == "stop"} for d in (design, moved)]
        assert stops[1] <= stops[0]
        ways = [set(in_the_way(d, mechanism_of(d))) for d in (design, moved)]
        assert ways[1] <= ways[0]
        if not pulled.met:
            assert pulled.stops or pulled.farthest > 100 or abs(got - goal) <= far


def test_a_bolt_is_turned_the_way_that_is_said() -> None:
    def skew(data: Any) -> None:
        data["links"][0]["frame"]["bolt"] = [1.0, 1.2, 0.0]
        data["unpaired"] = ["lower-left.frame"]

    design = changed(layout("double triangulated"), skew)
    (turned, *_) = [cure for cure in cures(design, "joint_angle", FIVE_MM) if cure.words.startswith("Turn the bolt")]
    new = turned.document["links"][0]["frame"]["bolt"]
    assert turned.meets
    assert "its left end back" in turned.words  # the left end stood far forward
    assert new[0] / new[1] < 1.0 / 1.2
    assert "lower-left.frame" not in turned.at


def test_what_is_loose_is_given_a_bar_and_what_fights_is_left_out() -> None:
    loose = changed(layout("three links and panhard"), lambda data: data.update(lateral=None))
    (added, *_) = cures(loose, "loose", FIVE_MM)
    assert added.words.startswith("Add a panhard bar")
    assert "loose" not in {f.id for f in findings(cycle(design_from(added.document)))}

    def add_bar(data: Any) -> None:
        data["lateral"] = {"kind": "panhard", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}

    fighting = changed(layout("single triangulated"), add_bar)
    assert "Leave out the panhard bar" in [cure.words for cure in cures(fighting, "fight", FIVE_MM)]
    weak = changed(layout("parallel and panhard"), lambda data: data["links"][0]["frame"]["at"].__setitem__(1, 470.0))
    assert not [cure for cure in cures(weak, "bind", FIVE_MM) if cure.words.startswith("Leave out")]


def test_a_travel_that_ends_short_is_cured_by_a_longer_link_or_less_of_it() -> None:
    def short(data: Any) -> None:
        data["travel"] = {"bump": 100.0, "droop": 230.0, "articulation": 5.0}
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [330.0, side * 300.0, 680.0]

    design = changed(layout("double triangulated"), short)
    found = cures(design, "short_droop", FIVE_MM)
    assert any(cure.words.startswith("Ask for less droop travel") for cure in found)
    assert any(cure.words.startswith("Lengthen the upper") for cure in found)


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_settling_a_demo_design_makes_nothing_graver_than_it_was(file: Path) -> None:
    design = read_design(file.read_bytes())
    settled = settle(design, FIVE_MM)
    if settled is None:
        return
    grave = [
        [sum(f.severity == s for f in findings(cycle(d))) for s in ("stop", "fix", "consider")]
        for d in (design, placed(design, settled.at))
    ]
    assert grave[1] < grave[0]


def test_settling_moves_no_mount_sideways_where_a_locator_stands_beside_the_links() -> None:
    design = read_design((DEMO / "ghyll-special-rear.json").read_bytes())
    settled = settle(design, FIVE_MM)
    assert settled is not None
    for spot in spots(design):
        if spot.name in settled.at:
            assert settled.at[spot.name][1] == spot.at[1]


def test_settling_respects_locks() -> None:
    tender = read_design((DEMO / "fell-tender-rear.json").read_bytes())
    held = {f"upper-{side}.{end}": "xyz" for side in ("left", "right") for end in ("axle", "frame")}
    settled = settle(changed(tender, lambda data: data.update(locks=held)), FIVE_MM)
    assert settled is None or not set(settled.at) & set(held)


@pytest.mark.parametrize("name", LAYOUTS)
def test_effects_of_a_mirrored_design_are_mirrored(name: str) -> None:
    """Outward on the left is outward on the right: a pair's effect does not know left from right."""
    design = layout(name)
    if "watts" in name:
        design = changed(design, lambda data: data["lateral"].update(tilt=0.0))
    one = {(e.axis, frozenset(e.mounts)): e.change for e in effects(design, "roll_center", 1.0)}
    for effect in effects(mirrored(design), "roll_center", 1.0):
        alone = len(effect.mounts) == 1 and effect.axis == "y"
        expected = one[effect.axis, frozenset(effect.mounts)]
        pair = len(effect.mounts) == 2 and effect.axis == "y"
        if alone or pair:
            assert abs(effect.change) == pytest.approx(abs(expected), rel=1e-4, abs=1e-6)
        else:
            assert effect.change == pytest.approx(expected, rel=1e-4, abs=1e-6)


CRAWLING, TRAIL, STREET, STRIP, DESERT = USES
GIVEN: dict[str, list[tuple[float | None, float | None]]] = {
    "anti_squat": [(50, 100), (40, 90), (40, 100), (90, 130), (20, 70)],
    "ic_length": [(1500, None), (1500, None), (1500, None), (1000, 1400), (2500, None)],
    "roll_center": [(1.0, 1.6), (0.8, 1.4), (0.7, 1.2), (0.8, 1.3), (0.8, 1.4)],
    "roll_axis": [(-6, 2), (-5, 0), (-4, 0), (-1, 1), (-5, 0)],
    "rear_steer": [(None, 4), (None, 2.5), (None, 1.5), (None, 0.5), (None, 2)],
    "pinion_change": [(None, 6), (None, 4), (None, 2), (None, 2), (None, 6)],
    "caster_change": [(None, 5), (None, 3), (None, 2), (None, 2), (None, 2.5)],
    "lower_angle": [(None, 10), (None, 8), (None, 6), (None, 6), (None, 10)],
    "lateral_drift": [(None, 25), (None, 15), (None, 10), (None, 5), (None, 15)],
}


@pytest.mark.parametrize("figure", GIVEN)
def test_house_bands_by_use(figure: str) -> None:
    verdict = BY_ID[figure].verdict
    assert verdict is not None
    assert [verdict.bands[use] for use in (CRAWLING, TRAIL, STREET, STRIP, DESERT)] == GIVEN[figure]


def test_schools_change_bands_of_figures_that_exist() -> None:
    known = {figure.id for figure in FIGURES}
    for school in SCHOOLS.values():
        assert set(school.bands) <= known
        assert school.buys


@pytest.mark.parametrize("file", DEMOS[::3], ids=lambda file: file.stem)
def test_the_command_prints_the_same_findings(file: Path) -> None:
    said = run("check", str(file)).stdout
    design = read_design(file.read_bytes())
    lines = [line for line in said.splitlines() if line.split(":")[0] in ("stop", "fix", "consider")]
    asked = [f for f in findings_on(design) if f.severity != "good"]
    assert len(lines) == len(asked)
    for line, finding in zip(lines, asked, strict=True):
        assert line.startswith(f"{finding.severity}: {finding.title}")
    assert "not an approval" in said


def test_bands_in_the_file_are_the_commands_too(tmp_path: Path) -> None:
    data = json.loads((DEMO / "fell-tender-rear.json").read_text())
    file = tmp_path / "own.json"
    file.write_text(json.dumps({**data, "bands": {"roll_center": [None, 700], "pinion_change": [None, 7]}}))
    said = run("check", str(file)).stdout
    assert "fix: Roll center" not in said
    assert "fix: Pinion change" not in said


@pytest.mark.parametrize("name", LAYOUTS)
def test_corners_of_the_map_are_full_travel_and_full_twist_together(name: str) -> None:
    design = layout(name)
    swept, reach = cycle(design, 5).swept, design.travel
    corners = swept.places.map[[0, 0, -1, -1], [0, -1, 0, -1]]
    poses = swept.traced.poses
    np.testing.assert_allclose(poses.travel_mm[corners], [-reach.droop, -reach.droop, reach.bump, reach.bump])
    np.testing.assert_allclose(poses.articulation_deg[corners], np.array([-1, 1, -1, 1]) * reach.articulation)


@pytest.mark.parametrize(("finding", "path", "column"), [("anti_squat", "vehicle.cg_height", "anti_squat")])
def test_how_far_a_guess_may_be_off(finding: str, path: str, column: str) -> None:
    """Anti-squat goes as one over the height of the center of gravity: the edge of the band, by hand."""
    design = layout("double triangulated")
    now = float(cycle(design, 3).ride.columns[column][0])
    (slack_of,) = [one for one in slack(design, finding) if one.path == path]
    assert slack_of.value == 820.0
    for end, edge in ((slack_of.low, 90.0), (slack_of.high, 40.0)):
        by_hand = 820.0 * now / edge
        if slack_of.tried[0] < by_hand < slack_of.tried[1]:
            assert end == pytest.approx(by_hand, rel=2e-3)
        else:
            assert end is None


def test_what_a_figure_does_not_answer_to_is_no_matter_of_guessing() -> None:
    assert [one.path for one in slack(layout("double triangulated"), "lower_angle")] == []
    assert "axle.tire_radius_loaded" in [one.path for one in slack(layout("double triangulated"), "roll_center")]
    with pytest.raises(ValueError, match="not judged"):
        slack(layout("double triangulated"), "beauty")


def test_a_school_says_what_the_curves_bear_out() -> None:
    """A short upper turns the housing less where links converge and travel is mostly droop; more where they are level."""

    def built(bump: float, droop: float, rise: float) -> Any:
        def change(data: Any) -> None:
            data["school"] = "short_upper"
            data["travel"] = {"bump": bump, "droop": droop, "articulation": 5.0}
            for link, side in zip(data["links"], (1, -1, 1, -1), strict=True):
                low = link["kind"] == "lower"
                z = 400.0 if low else 640.0
                run = 1000.0 if low else 700.0
                link["axle"]["at"] = [0.0, side * (500.0 if low else 120.0), z]
                link["frame"]["at"] = [run, side * (360.0 if low else 400.0), z + (rise if low else -0.3 * rise)]

        return changed(layout("double triangulated"), change)

    for design in (built(120.0, 120.0, 0.0), built(40.0, 220.0, 90.0)):
        said = school_says(design)
        here, equal = (float(word) for word in re.findall(r"(\d+\.\d)", said)[:2])
        assert here == pytest.approx(measured(cycle(design))["pinion_change"], abs=0.06)
        assert ("turn the housing less" in said) == (here < equal)
    assert "more" in school_says(built(120.0, 120.0, 0.0))
