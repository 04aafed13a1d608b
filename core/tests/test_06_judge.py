"""JUDGE: findings stand where, and only where, their figure says so; bands come from the use, the school, the build."""

from typing import Any, get_args

import numpy as np
import pytest
from designs import changed, links_of, measured

from oak_lever.api import SCHOOLS, School, Use, cycle, findings, read_design
from oak_lever.design.gallery import FREE, LAYOUTS, layout
from oak_lever.figures.register import JUDGED
from oak_lever.figures.statics import side_load
from oak_lever.judge.findings import said
from oak_lever.judge.house import MOST_GIVE_MM
from oak_lever.motion.freedom import held
from oak_lever.motion.mechanism import mechanism_of


def found(design: Any) -> dict[str, Any]:
    return {finding.id: finding for finding in findings(cycle(design, 21))}


def stops(design: Any) -> set[str]:
    return {name for name, finding in found(design).items() if finding.severity == "stop"}


@pytest.mark.parametrize("name", FREE)
def test_sound_layouts_have_no_stop(name: str) -> None:
    assert stops(layout(name)) == set()


def test_a_loose_axle_is_a_stop_that_names_the_way_it_is_free() -> None:
    loose = changed(layout("three links and panhard"), lambda data: data.update(lateral=None))
    (finding,) = findings(cycle(loose, 5))
    assert (finding.id, finding.severity) == ("loose", "stop")
    assert "sideways" in finding.message


def test_two_locators_are_a_stop_with_the_give_they_need() -> None:
    def add_bar(data: Any) -> None:
        data["lateral"] = {"kind": "panhard", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}

    fighting = changed(layout("double triangulated"), add_bar)
    cycled = cycle(fighting, 9)
    twice = {finding.id: finding for finding in findings(cycled)}["located-twice"]
    assert twice.severity == "stop"
    assert twice.value == max(np.nanmax(s.columns["bind"]) for s in (cycled.heave, cycled.articulation))
    assert twice.place.parts


def test_parallel_links_with_a_locator_are_not_located_twice() -> None:
    for name in ("parallel and panhard", "parallel and watts on axle", "parallel and slider", "three links and watts"):
        assert "located-twice" not in found(layout(name))


def short_travel(data: Any) -> None:
    data["travel"] = {"bump": 400.0, "droop": 400.0, "articulation": 5.0}
    for link, side in zip(data["links"][2:], (1, -1), strict=True):
        link["frame"]["at"] = [250.0, side * 300.0, 700.0]


def test_short_travel_is_a_stop_that_says_where_which_link_and_which_way_goes_free() -> None:
    cycled = cycle(changed(layout("double triangulated"), short_travel), 21)
    ended = {finding.id: finding for finding in findings(cycled)}["ends-short-droop"]
    assert ended.value == cycled.stops["heave"][0]
    assert "upper" in ended.message  # the two short ones, which stand on end there
    assert "pitch" in ended.message


def test_give_is_to_consider_until_bushings_run_out_of_it() -> None:
    def twisted(most: float) -> Any:
        return changed(layout("parallel and panhard"), lambda data: data["travel"].update(articulation=most))

    little, much = found(twisted(2.0))["bind"], found(twisted(20.0))["bind"]
    assert little.severity == "consider"
    assert 0 < little.value < MOST_GIVE_MM
    assert much.severity == "stop"
    assert much.value > MOST_GIVE_MM


def test_located_twice_names_the_constraint_that_gives_most() -> None:
    fighting = changed(layout("parallel and panhard"), lambda data: data["links"][3]["axle"].update(at=[38, -440, 690]))
    cycled = cycle(fighting, 9)
    worst = int(np.argmax(cycled.articulation.columns["bind"]))
    rows = held(mechanism_of(fighting), cycled.articulation.state[worst : worst + 1])
    assert np.abs(rows.errors[0]).max() == pytest.approx(cycled.articulation.columns["bind"][worst], abs=1e-9)
    name = mechanism_of(fighting).layout.rows[int(np.argmax(np.abs(rows.errors[0])))].name
    assert said(fighting, name) in {f.id: f for f in findings(cycled)}["located-twice"].message


@pytest.mark.parametrize("name", LAYOUTS)
def test_derivatives_in_a_twisted_pose_are_those_of_the_errors(name: str) -> None:
    design = layout(name)
    mechanism = mechanism_of(design)
    here = cycle(design, 2, (40.0, 5.0)).here
    assert here is not None
    state = here.state[0]
    scale = [1, 1, mechanism.reach[0], mechanism.reach[0], mechanism.arm[0]]
    sine = np.sin(np.radians(5.0))

    def errors(unknown: int, by: float) -> Any:
        moved = state.copy()
        moved[unknown if unknown < 2 else unknown + 2] += by / scale[unknown]
        moved[3] = np.arcsin(sine / np.cos(moved[4]))
        return held(mechanism, moved[None]).errors[0]

    derivatives = held(mechanism, state[None]).derivatives[0]
    for unknown in range(derivatives.shape[1]):
        slope = (errors(unknown, 1e-3) - errors(unknown, -1e-3)) / 2e-3
        np.testing.assert_allclose(derivatives[:, unknown], slope, atol=1e-6)


def force_in(design: Any, name: str) -> float:
    names, force = side_load(mechanism_of(design))
    return float(force[names.index(name), 0])


def test_side_load_balances_the_axle() -> None:
    """Forces along the links, found anew by statics: forces along x and y, moments about y and z, at the patch."""
    design = layout("double triangulated")
    mechanism = mechanism_of(design)
    span = mechanism.frame[0] - mechanism.body[0] - [0, 0, mechanism.radius[0]]
    along = span / np.linalg.norm(span, axis=1, keepdims=True)
    moment = np.cross(mechanism.body[0], along)
    balance = np.stack([along[:, 0], along[:, 1], moment[:, 1], moment[:, 2]])
    pulls = np.linalg.solve(balance, [0.0, -1.0, 0.0, 0.0])  # a side load of 1 at the patch has no moment about y or z
    for force, name in zip(np.abs(pulls), ("lower-left", "lower-right", "upper-left", "upper-right"), strict=True):
        assert force_in(design, name) == pytest.approx(force, rel=1e-9)


def test_a_panhard_bar_level_and_square_takes_the_side_load_whole() -> None:
    def level(data: Any) -> None:
        data["lateral"]["frame"]["at"][2] = data["lateral"]["axle"]["at"][2]
        data["lateral"]["frame"]["at"][0] = data["lateral"]["axle"]["at"][0] = 0.0

    assert force_in(changed(layout("three links and panhard"), level), "panhard") == pytest.approx(1.0, abs=0.2)


def test_bands_are_the_houses_until_the_school_the_design_or_the_build_says_otherwise() -> None:
    design = layout("double triangulated")
    assert found(design)["pinion_change"].high == 4
    assert "trail" in found(design)["pinion_change"].source
    crawler = changed(design, lambda data: data.update(use="crawling"))
    assert found(crawler)["pinion_change"].high == 6
    held_pinion = changed(crawler, lambda data: data.update(school="hold_pinion"))
    assert found(held_pinion)["pinion_change"].high == SCHOOLS["hold_pinion"].bands["pinion_change"][1]
    own = changed(held_pinion, lambda data: data.update(bands={"pinion_change": [None, 7]}))
    assert (found(own)["pinion_change"].high, found(own)["pinion_change"].source) == (7, "set for this truck")


@pytest.mark.parametrize("use", get_args(Use))
@pytest.mark.parametrize("school", get_args(School))
@pytest.mark.parametrize("name", ["double triangulated", "three links and panhard", "radius arms and panhard"])
def test_verdict_severity_and_band_agree(name: str, school: str, use: str) -> None:
    design = changed(layout(name), lambda data: data.update(use=use, school=school))
    for finding in findings(cycle(design, 9)):
        if finding.id != finding.figure:
            assert finding.severity == "stop"
            continue
        inside = (finding.low is None or finding.value is None or finding.value >= finding.low - 1e-6) and (
            finding.high is None or (finding.value is not None and finding.value <= finding.high + 1e-6)
        )
        assert inside == (finding.severity == "good")
        assert finding.message
        assert finding.disagrees


def test_findings_come_gravest_first() -> None:
    order = ["stop", "fix", "consider", "good"]
    for name in LAYOUTS:
        grave = [order.index(finding.severity) for finding in findings(cycle(layout(name), 9))]
        assert grave == sorted(grave)


def test_every_figure_says_why_on_each_side_that_its_bands_have() -> None:
    for figure in JUDGED:
        assert figure.verdict is not None
        for low, high in figure.verdict.bands.values():
            assert low is None or figure.verdict.why_low
            assert high is None or figure.verdict.why_high


def test_measures_by_hand() -> None:
    design = layout("double triangulated")
    cycled = cycle(design, 41)
    taken = measured(cycled)
    rows = cycled.heave.columns
    assert taken["pinion_change"] == pytest.approx(np.ptp(rows["pinion_change"]))
    assert taken["anti_squat_fall"] == pytest.approx(cycled.ride.columns["anti_squat"][0] - rows["anti_squat"][0])
    uppers, lowers = links_of(design)[2:], links_of(design)[:2]
    apart = np.mean([u.axle.at[2] for u in uppers]) - np.mean([w.axle.at[2] for w in lowers])
    assert taken["separation_axle"] == pytest.approx(apart)
    biggest = max(np.nanmax(s.turned) for s in (cycled.heave, cycled.articulation, cycled.corners))
    assert taken["joint_angle"] == pytest.approx(biggest)


def test_swing_of_a_parallel_link_is_that_of_its_arc() -> None:
    design = layout("parallel and panhard")
    swing = measured(cycle(design, 21))["swing"]
    longest = 0.0
    for link in links_of(design):
        long = np.linalg.norm(np.subtract(link.frame.at, link.axle.at))
        rise = link.frame.at[2] - link.axle.at[2]
        up, down = (np.degrees(np.arcsin((rise - t) / long)) for t in (design.travel.bump, -design.travel.droop))
        longest = max(longest, down - up)
    assert swing == pytest.approx(longest, abs=0.5)  # the bar's pull sideways leans the links by a little


def test_anti_squat_is_rated_as_if_this_axle_did_all_the_driving() -> None:
    design = layout("double triangulated")
    half = changed(design, lambda data: data["vehicle"].update(drive_share=0.5))
    assert found(half)["anti_squat"].value == pytest.approx(found(design)["anti_squat"].value)
    towed = changed(design, lambda data: data["vehicle"].update(drive_share=0.0))
    assert found(towed)["anti_squat"].value == pytest.approx(found(design)["anti_squat"].value)


def test_a_joint_past_its_limit_is_a_stop() -> None:
    skewed = changed(layout("double triangulated"), lambda data: data["links"][0]["frame"].update(bolt=[1.0, 0.8, 0.0]))
    joint = found(skewed)["joint_angle"]
    assert (joint.severity, joint.place.parts) == ("stop", ("lower-left.frame",))


def test_read_design_refuses_intents_that_do_not_exist() -> None:
    import json

    from oak_lever.api import Refused, design_data

    for key, value in (("use", "rally"), ("school", "best"), ("bands", {"x": [5, 1]}), ("locks", {"a": "q"})):
        data = {**design_data(layout("double triangulated")), key: value}
        with pytest.raises(Refused) as refused:
            read_design(json.dumps(data))
        assert refused.value.faults[0].path.startswith(key)
