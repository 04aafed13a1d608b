"""Properties of judgment and advice over every layout, use and demo design, and the house's bands as given."""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, every_point, measured

from oak_lever.api import (
    FIGURES,
    SCHOOLS,
    USES,
    Wanted,
    cures,
    cycle,
    effects,
    findings,
    placed,
    pull,
    read_design,
    settle,
)  # fmt: skip
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.figures.register import BY_ID
from oak_lever.move.coordinates import spots

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


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_cures_of_every_demo_finding_do_what_they_say(file: Path) -> None:
    design = read_design(file.read_bytes())
    before = {f.id: f for f in findings(cycle(design))}
    for name, finding in before.items():
        if finding.severity == "good" or finding.id != finding.figure:
            continue
        for cure in cures(design, name, FIVE_MM):
            after = {f.id: f for f in findings(cycle(placed(design, cure.at)))}
            assert after[name].severity == "good"
            assert (set(cure.cures), set(cure.worse)) == less_and_more_grave(before, after)
            assert abs(cure.by) <= 200
            assert set(cure.at) == set(cure.mounts)


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


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_the_command_prints_the_same_findings(file: Path) -> None:
    command = [str(Path(sys.executable).with_name("oak-lever")), "check", str(file)]
    said = subprocess.run(command, capture_output=True, text=True, check=True).stdout
    design = read_design(file.read_bytes())
    lines = [line for line in said.splitlines() if line.split(":")[0] in ("stop", "fix", "consider")]
    asked = [f for f in findings(cycle(design)) if f.severity != "good"]
    assert len(lines) == len(asked)
    for line, finding in zip(lines, asked, strict=True):
        assert line.startswith(f"{finding.severity}: {finding.title}")
    assert "not an approval" in said


def test_bands_in_the_file_are_the_commands_too(tmp_path: Path) -> None:
    data = json.loads((DEMO / "fell-tender-rear.json").read_text())
    file = tmp_path / "own.json"
    file.write_text(json.dumps({**data, "bands": {"roll_center": [None, 700], "pinion_change": [None, 7]}}))
    command = [str(Path(sys.executable).with_name("oak-lever")), "check", str(file)]
    said = subprocess.run(command, capture_output=True, text=True, check=True).stdout
    assert "fix:" not in said


@pytest.mark.parametrize("name", LAYOUTS)
def test_corners_are_full_travel_and_full_twist_together(name: str) -> None:
    design = layout(name)
    corners = cycle(design, 5).corners.columns
    reach = design.travel
    np.testing.assert_allclose(corners["travel"], [-reach.droop, -reach.droop, reach.bump, reach.bump])
    np.testing.assert_allclose(corners["articulation"], np.array([-1, 1, -1, 1]) * reach.articulation)
