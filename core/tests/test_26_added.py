"""What can be added to a design, the questions that its curves answer, and the jobs of a strip-down."""

import json

import numpy as np
import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import (
    COLUMNS,
    JOB_STEPS,
    Design,
    Refused,
    added,
    additions,
    curves_of,
    cycle,
    design_data,
    design_from,
    read_design,
    truck_from,
    typical_jobs,
    whole_map,
)

DESIGNS = [*(read_design((DEMO / f"{name}.json").read_text()) for name in (
    "fell-tender-rear", "fell-tender-front", "tarn-van-rear", "scree-runner-rear",
)), *random_designs(seed=26, many=8)]  # fmt: skip
AT_CORNERS = [one.id for one in additions() if one.area == "corners" and one.id != "bar"]
IN_THE_WAY = [one.id for one in additions() if one.area == "room"]


def bare(design: Design) -> Design:
    return changed(design, lambda data: data.update(corners=None, room=None, locks=None, unpaired=None, bands=None))


def listed(design: Design) -> list[dict]:  # type: ignore[type-arg]
    corners = design_data(design).get("corners") or {}
    return [one for name in ("shocks", "stops", "straps") for one in corners.get(name) or []]


@pytest.mark.parametrize("what", AT_CORNERS)
def test_a_pair_comes_in_as_mirror_images_that_fit_the_travel_between_frame_and_tires(what: str) -> None:
    for design in map(bare, DESIGNS):
        twice = added(added(design, what), what)
        ones = listed(twice)
        assert len(ones) == 4
        assert len({one["id"] for one in ones}) == 4
        inside = (design.axle.track - design.axle.tire_width) / 2.0
        for left, right in (ones[:2], ones[2:]):
            for end in ("frame", "axle"):
                assert np.array(left[end]["at"]) * [1, -1, 1] == pytest.approx(right[end]["at"])
                assert 0.0 < left[end]["at"][1] < inside
            assert left["frame"]["at"][2] > left["axle"]["at"][2]
            if "extended" in left:  # its stroke at ride is at least what the travel takes of it, straight up and down
                ride = float(np.linalg.norm(np.subtract(left["frame"]["at"], left["axle"]["at"])))
                assert left["extended"] - ride > design.travel.droop * 0.99
                assert ride - left["compressed"] > design.travel.bump * 0.99


def test_springs_that_are_added_push_about_what_they_carry() -> None:
    for design in map(bare, DESIGNS):
        share = design.vehicle.front_share if design.axle.end == "front" else 1.0 - design.vehicle.front_share
        half = max(design.vehicle.mass * share - design.axle.mass, 50.0) * 9.80665 / 2.0
        for what in ("coilover", "coil"):
            one = listed(added(design, what))[0]
            ride = np.linalg.norm(np.subtract(one["frame"]["at"], one["axle"]["at"]))
            pressed = one["spring"]["preload"] + one["extended"] - ride
            assert one["spring"]["rate"] * pressed == pytest.approx(half, rel=0.02)
        for what in ("air", "air_shock"):
            one = listed(added(design, what))[0]
            ride = np.linalg.norm(np.subtract(one["frame"]["at"], one["axle"]["at"]))
            lengths, areas = np.array(one["air"]["area"]).T
            assert one["air"]["pressure"] / 1000.0 * np.interp(ride, lengths, areas) == pytest.approx(half, rel=0.02)


def test_a_strap_is_at_its_end_where_the_droop_asked_for_ends() -> None:
    for design in map(bare, DESIGNS):
        one = listed(added(design, "strap"))[0]
        high = one["frame"]["at"][2] - one["axle"]["at"][2]
        assert one["length"] * (1.0 + one["stretch"]) - high == pytest.approx(design.travel.droop, abs=0.3)


def test_a_bar_comes_in_once() -> None:
    for design in map(bare, DESIGNS):
        once = added(design, "bar")
        assert once.corners
        assert once.corners.anti_roll
        with pytest.raises(Refused, match="there already"):
            added(once, "bar")


@pytest.mark.parametrize("what", IN_THE_WAY)
def test_what_mostly_stands_about_an_axle_comes_in_beside_what_is_there(what: str) -> None:
    for design in map(bare, DESIGNS):
        railed = changed(design, lambda d: d.update(
            rails={"outside_width": 800, "flange": 60, "depth": 150, "underside": 700}
        ))  # fmt: skip
        twice = added(added(railed, what), what)
        assert twice.room
        kept = twice.room.keep_outs
        assert len({one.id for one in kept}) == len(kept) in (2, 4)
        assert all(one.on == "frame" and one.name for one in kept)


def test_rails_that_nobody_knows_are_refused_and_an_unknown_addition_too() -> None:
    bareheaded = changed(bare(DESIGNS[0]), lambda data: data.update(rails=None))
    for what in ("rails", "channels"):
        with pytest.raises(Refused, match="not known yet"):
            added(bareheaded, what)
    with pytest.raises(ValueError, match="nothing that can be added is called wheel"):
        added(bareheaded, "wheel")


def test_what_is_added_leaves_everything_else_as_it_is_in_the_file() -> None:
    for design in DESIGNS:
        before, after = design_data(design), design_data(added(design, "stop"))
        assert {k: v for k, v in before.items() if k != "corners"} == {k: v for k, v in after.items() if k != "corners"}
        assert design_from(after) == added(design, "stop")


def test_every_curve_has_its_column_and_every_question_its_curves() -> None:
    for design in DESIGNS:
        known = {*cycle(design).columns, *whole_map(design).fields, *(one.id for one in COLUMNS)}
        asked = curves_of(design)
        assert len({one.asks for one in asked}) == len(asked) >= 5
        for curve in (curve for one in asked for curve in one.curves):
            assert curve.column in known | {"gap_spare", "joint_left"}, curve.column
        said = {one.asks for one in asked}
        assert ("Does the shaft live?" in said) == (design.driveshaft is not None)
        assert ("Does it steer?" in said) == (design.steering is not None)
        shocks = [c.column for one in asked if one.asks == "Do the shocks fit?" for c in one.curves]
        assert all("right" not in column for column in shocks)  # the left one of each pair speaks for both


def test_a_strip_down_asks_for_stands_rated_by_the_truck_and_goes_in_order() -> None:
    data = json.loads((DEMO / "fell-tender-truck.json").read_text()) | {
        "jobs": [{"id": "j2", "what": "Hood", "where": "", "count": 1, "before": "", "done": True}]
    }
    truck = truck_from(data)
    jobs = typical_jobs(truck, "mm")
    assert len({one.id for one in (*truck.jobs, *jobs)}) == len(jobs) + 1
    assert f"{1.5 * truck.vehicle.mass / 4:.0f} kg" in jobs[0].what
    assert f"{1.5 * truck.vehicle.mass / 4 / 0.45359237:.0f} lb" in typical_jobs(truck, "in16")[0].what
    assert {one.before for one in jobs} <= set(JOB_STEPS)
    assert all(one.count >= 1 and one.what for one in jobs)
