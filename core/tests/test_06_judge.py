"""JUDGE: findings stand where, and only where, their figure says so; bands come from the use, the school, the build."""

from typing import Any, get_args

import numpy as np
import pytest
from designs import DEMO, bars, changed, links_of, measured

from oak_lever.api import (
    SCHOOLS,
    School,
    Use,
    all_effects,
    cures,
    cycle,
    figures_of_many,
    findings,
    mounts_of,
    read_design,
    settle,
)  # fmt: skip
from oak_lever.design.gallery import FREE, LAYOUTS, layout
from oak_lever.design.joint_catalog import UNSAID
from oak_lever.figures.register import AXLE, FIGURES
from oak_lever.figures.statics import side_load
from oak_lever.motion.freedom import held
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, rotations


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


def add_bar(data: Any) -> None:
    data["lateral"] = {"kind": "panhard", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}


@pytest.mark.parametrize("name", ["double triangulated", "single triangulated", "single apex"])
def test_two_locators_are_a_stop_that_names_both(name: str) -> None:
    fight = found(changed(layout(name), add_bar))["fight"]
    assert fight.severity == "stop"
    assert "panhard" in fight.place.parts
    assert len(set(fight.place.parts)) == 2


def test_a_track_bar_entered_as_a_fifth_link_is_told_all_the_same() -> None:
    def fifth(data: Any) -> None:
        data["links"].append(
            {"id": "track", "kind": "upper", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}
        )

    fight = found(changed(layout("double triangulated"), fifth))["fight"]
    bar = found(changed(layout("double triangulated"), add_bar))["fight"]
    assert fight.severity == "stop"
    assert "track" in fight.place.parts
    assert fight.value == pytest.approx(bar.value, rel=1e-9)


def test_parallel_links_with_a_locator_are_not_located_twice() -> None:
    for name in (
        "parallel and panhard",
        "parallel and watts on axle",
        "parallel and slider",
        "radius arms and panhard",
    ):
        assert found(layout(name))["fight"].severity == "good"
    assert "fight" not in found(layout("three links and watts"))


def tapered(by_mm: float, bar: bool = True) -> Any:
    """Four parallel links and a panhard bar, the frame ends drawn in."""

    def draw_in(data: Any) -> None:
        data["travel"]["articulation"] = 6.0
        for link in data["links"]:
            link["frame"]["at"][1] -= np.sign(link["frame"]["at"][1]) * by_mm
        if not bar:
            data["lateral"] = None

    return changed(layout("parallel and panhard"), draw_in)


def test_what_two_locators_ask_for_goes_evenly_with_every_bracket() -> None:
    """A hundredth of a millimeter of taper gives links a rank of their own; it changes no figure that can be seen."""
    square, hair = found(tapered(0.0)), found(tapered(0.01))
    for name in ("fight", "bind", "side_force", "side_give"):
        assert hair[name].value == pytest.approx(square[name].value, abs=1e-3)
        assert hair[name].severity == square[name].severity
    values = [found(tapered(by))["fight"].value for by in np.linspace(0, 150, 16)]
    assert max(abs(np.diff(values))) < 0.2


def test_links_that_hardly_hold_the_axle_sideways_are_a_stop_whatever_their_rank() -> None:
    for by in (1.0, 5.0, 30.0):
        force = found(tapered(by, bar=False))["side_force"]
        assert force.severity == "stop"
        assert force.value == pytest.approx(1290 / by, rel=0.05)  # by the links' slope in plan, by hand
    assert found(tapered(30.0, bar=True))["side_force"].severity == "good"


def test_the_fight_is_what_pushes_left_against_what_pushes_right() -> None:
    """Forces of least give balance: the sideways parts of the errors, each along its link, add up to nothing."""
    design = changed(layout("single triangulated"), add_bar)
    fight = found(design)["fight"]
    here = cycle(design, 21, (fight.place.travel, fight.place.articulation)).here
    assert here is not None
    state = here.state[0]
    push = []
    for bar in bars(design):
        rot = rotations(state[None])[0]
        axle = state[:3] + rot @ (np.array(bar.axle) - [0, 0, design.axle.tire_radius_loaded])
        span = axle - np.array(bar.frame)
        long = np.linalg.norm(span)
        push.append((long - np.linalg.norm(np.subtract(bar.axle, bar.frame))) * span[1] / long)
    assert sum(push) == pytest.approx(0.0, abs=1e-6)
    assert sum(p for p in push if p > 0) == pytest.approx(fight.value, rel=1e-6)


def short_travel(data: Any) -> None:
    data["travel"] = {"bump": 400.0, "droop": 400.0, "articulation": 5.0}
    for link, side in zip(data["links"][2:], (1, -1), strict=True):
        link["frame"]["at"] = [250.0, side * 300.0, 700.0]


def test_short_travel_is_a_stop_that_says_where_which_link_and_which_way_goes_free() -> None:
    cycled = cycle(changed(layout("double triangulated"), short_travel), 21)
    ended = {finding.id: finding for finding in findings(cycled)}["short_droop"]
    assert ended.value == cycled.stops["heave"][0]
    assert "upper" in ended.message  # the two short ones, which stand on end there
    assert "pitch" in ended.message


def test_give_is_to_consider_until_bushings_run_out_of_it() -> None:
    def twisted(most: float) -> Any:
        return changed(layout("parallel and panhard"), lambda data: data["travel"].update(articulation=most))

    little, much = found(twisted(2.0))["bind"], found(twisted(20.0))["bind"]
    assert little.severity == "consider"
    assert 0 < little.value < 2 * UNSAID.give
    assert "guess" in little.guessed
    assert much.severity == "stop"
    assert much.value > 2 * UNSAID.give


def jointed(entry: str, **kinds: Any) -> Any:
    def put(data: Any) -> None:
        data["travel"]["articulation"] = 4.0
        data["joints"] = kinds or None
        for part in (*data["links"], data["lateral"]):
            for end in ("axle", "frame"):
                part[end]["joint"] = entry

    return changed(layout("parallel and panhard"), put)


def test_what_a_joint_gives_and_how_far_it_turns_is_its_own() -> None:
    assert found(jointed("bushed"))["bind"].severity == "consider"
    rigid = found(jointed("spherical"))["bind"]
    assert (rigid.severity, rigid.guessed) == ("stop", "")
    tight = found(jointed("mine", mine={"limit": 1.0, "give": 9.0}))
    assert tight["bind"].severity == "consider"
    assert tight["joint_angle"].severity == "stop"
    assert tight["joint_angle"].high == pytest.approx(1.0 - 3.0)
    unknown = found(jointed("no such entry"))["joint_angle"]
    assert unknown.high == UNSAID.limit - 3.0


def test_the_joint_that_is_judged_is_the_one_nearest_its_own_limit() -> None:
    def put(data: Any) -> None:
        data["joints"] = {"stiff": {"limit": 2.0, "give": 0.0}}
        data["links"][0]["axle"]["joint"] = "stiff"

    assert found(changed(layout("double triangulated"), put))["joint_angle"].place.parts == ("lower-left.axle",)


def test_a_band_set_for_the_joints_does_not_silence_the_stop() -> None:
    def skewed(band: Any) -> Any:
        def put(data: Any) -> None:
            data["links"][0]["frame"]["bolt"] = [1.0, 1.2, 0.0]
            data["bands"] = {"joint_angle": band} if band else None

        return found(changed(layout("double triangulated"), put))["joint_angle"]

    turned = skewed(None)
    assert turned.severity == "stop"
    assert turned.value > 28.0  # past where an unsaid joint is taken to run out
    for band in ([None, turned.value + 1.0], [None, 90.0], [None, None]):
        wide = skewed(band)
        assert (wide.severity, wide.high) == ("stop", 28.0)
        assert "wider than where it stops working" in wide.source
    narrow = skewed([None, 10.0])
    assert (narrow.severity, narrow.high, narrow.source) == ("stop", 10.0, "set for this truck")


def test_a_band_wider_than_where_a_part_breaks_does_not_silence_it() -> None:
    def shut(data: Any) -> None:
        for one in data["corners"]["shocks"]:
            one["compressed"] = one["extended"] - 60.0
        data["bands"] = {"stroke_bump": [-500.0, None], "coils": [None, None]}

    rear = read_design((DEMO / "fell-tender-rear.json").read_text())
    every = {one.id: one for one in findings(cycle(changed(rear, shut)))}
    shock = every["stroke_bump coilover-left"]
    assert shock.value is not None
    assert shock.value < 0.0
    assert (shock.severity, shock.low) == ("stop", 0.0)
    assert "wider than where it stops working" in shock.source

    def run_out(data: Any) -> None:
        data["driveshaft"]["joint_limit"]["pinion"] = 1.0
        data["bands"] = {"pinion_angle": [None, 80.0]}

    joint = next(one for one in findings(cycle(changed(rear, run_out))) if one.figure == "pinion_angle")
    assert (joint.severity, joint.high) == ("stop", 1.0)
    assert "wider" in joint.source


@pytest.mark.parametrize("name", LAYOUTS)
def test_what_is_worst_anywhere_is_found_on_a_finer_map_too(name: str) -> None:
    """Travel and articulation together, held against twenty-one by seventeen poses, each solved by itself."""
    design = layout(name)
    judged = found(design)
    reach = design.travel
    plan = Plan()
    places = plan.grid(np.linspace(-reach.droop, reach.bump, 21), np.linspace(-1, 1, 17) * reach.articulation)
    columns, reached = figures_of_many(design, mounts_of(design)[None], plan.poses(), ("bind", "yaw"))
    assert reached.all()
    assert judged["bind"].value == pytest.approx(float(columns["bind"].max()), rel=0.01, abs=1e-6)
    assert judged["rear_steer"].value == pytest.approx(np.ptp(columns["yaw"][0, places], axis=1).max(), rel=0.01)


def test_a_corner_that_is_not_reached_is_a_stop_that_says_travel_and_articulation() -> None:
    def short_bar(data: Any) -> None:
        data["travel"] = {"bump": 60.0, "droop": 190.0, "articulation": 14.0}
        data["links"][2].update(axle={"at": [10.0, -180.0, 640.0]}, frame={"at": [300.0, -330.0, 660.0]})

    cycled = cycle(changed(layout("three links and panhard"), short_bar))
    stop = {finding.id: finding for finding in findings(cycled)}["short_together"]
    assert (stop.severity, cycled.stops) == ("stop", {"heave": [None, None], "articulation": [None, None]})
    travel, articulation = stop.place.travel, stop.place.articulation
    assert travel is not None
    assert articulation is not None
    for part, there in ((0.999, True), (1.001, False)):
        here = cycle(cycled.design, 2, (travel, articulation * part)).here
        assert here is not None
        assert bool(here.reached[0]) is there


def test_a_link_of_three_millimeters_is_judged_and_not_fallen_over() -> None:
    for kind, n in (("lower", 0), ("upper", 2)):
        for apart in (0.01, 0.5, 2.0, 3.0, 5.0):

            def shorten(data: Any, n: int = n, apart: float = apart) -> None:
                for link in data["links"][n : n + 2]:
                    link["frame"]["at"] = [link["axle"]["at"][0] + apart, *link["axle"]["at"][1:]]

            design = changed(layout("double triangulated"), shorten)
            grave = [finding.id for finding in findings(cycle(design)) if finding.severity == "stop"]
            assert grave, (kind, apart)
            for name in grave:
                assert isinstance(cures(design, name, 3.175), list)
            assert isinstance(all_effects(design, 3.175), dict)
            settle(design, 3.175)


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
    for figure in FIGURES:
        for low, high in figure.verdict.bands.values() if figure.verdict else ():
            assert figure.verdict is not None
            assert low is None or figure.verdict.why_low
            assert high is None or figure.verdict.why_high


@pytest.mark.parametrize("end", ["rear", "front"])
def test_no_two_readings_of_an_axle_have_one_name(end: str) -> None:
    for name in ("name", "short"):
        shown = [getattr(figure, name) for figure in AXLE if figure.end in (None, end)]
        assert len(shown) == len(set(shown))


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
    assert taken["joint_angle"] == pytest.approx(np.nanmax(cycled.swept.turned))


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

    misspelled = (("bands", {"pinon_change": [None, 3]}), ("locks", {"uper-left.frame": "x"}), ("unpaired", ["lower"]))
    for key, value in (
        ("use", "rally"),
        ("school", "best"),
        ("bands", {"x": [5, 1]}),
        ("locks", {"a": "q"}),
        *misspelled,
    ):
        data = {**design_data(layout("double triangulated")), key: value}
        with pytest.raises(Refused) as refused:
            read_design(json.dumps(data))
        assert refused.value.faults[0].path.startswith(key)
