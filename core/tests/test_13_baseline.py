"""BASELINE: raw readings to figures, against closed forms, a truck that is measured in numbers, and bumped readings."""

import json
import math
from itertools import pairwise, product
from typing import Any

import numpy as np
import pytest
from designs import DEMO, run

from oak_lever.baseline.figures import baseline
from oak_lever.cycle import cycle
from oak_lever.design.gallery import layout
from oak_lever.design.reader import design_data, design_from
from oak_lever.truck.reader import truck_from
from oak_lever.truck.types import Truck

STATIONS = {"front": 2650.0, "rear": 0.0}
RADII = {"front": 440.0, "rear": 452.0}
TRACKS = {"front": 1680.0, "rear": 1700.0}
MARKS = {
    "fl": (2100.0, 400.0, 560.0), "fr": (2100.0, -405.0, 560.0), "ml": (1000.0, 420.0, 560.0),
    "mr": (1010.0, -420.0, 560.0), "rl": (-300.0, 430.0, 580.0), "rr": (-300.0, -430.0, 580.0),
}  # fmt: skip


def truck(readings: list[dict[str, Any]], **more: Any) -> Truck:
    axles = {
        end: {
            "station": STATIONS[end], "tire_diameter": 940.0, "tire_radius_loaded": RADII[end], "tire_width": 310.0,
            "track": TRACKS[end],
        }
        for end in STATIONS
    }  # fmt: skip
    return truck_from({
        "format": "oak-lever-truck", "version": 1, "name": "Yard truck",
        "vehicle": {"mass": 3000.0, "front_share": 0.5, "cg_height": 900.0, "brake_front": 0.6},
        "axles": axles, "marks": [{"id": name, "at": at} for name, at in MARKS.items()],
        "readings": [{"id": f"r{n}", **reading} for n, reading in enumerate(readings)], **more,
    })  # fmt: skip


def values(t: Truck, **designs: Any) -> dict[str, float]:
    return {name: figure.value for name, figure in baseline(t, designs).figures.items()}


def bumped_sigmas(t: Truck, **designs: Any) -> dict[str, float]:
    """Each figure's sigma by moving every reading a hair either way: no formula of the product's."""
    data = t.model_dump(mode="json", exclude_unset=True, by_alias=True)
    usual = {"tape": 1.5, "laser": 1.0, "plumb": 2.0, "gauge": 0.1, "scale": 2.0}
    tools = {
        "height": "tape",
        "distance": "tape",
        "along": "tape",
        "across": "tape",
        "angle": "gauge",
        "scale": "scale",
    }
    scale = {"in": 25.4, "lb": 0.45359237}
    total = dict.fromkeys(values(t, **designs), 0.0)
    for n, reading in enumerate(data["readings"]):
        tool = reading.get("instrument") or tools[reading["kind"]]
        unit = scale.get(reading["unit"], 1.0)
        sigma = reading["sigma"] * unit if reading.get("sigma") else usual[tool]
        hair = sigma / unit * 1e-3
        ends = []
        for sign in (1, -1):
            moved = json.loads(json.dumps(data))
            moved["readings"][n]["value"] += sign * hair
            ends.append(values(truck_from(moved), **designs))
        for name in total:
            total[name] += ((ends[0][name] - ends[1][name]) / 2e-3) ** 2
    return {name: math.sqrt(value) for name, value in total.items()}


def height(mark: str, value: float, **more: Any) -> dict[str, Any]:
    return {"kind": "height", "point": mark, "value": value, "unit": "mm", **more}


# the frame


def test_a_tilted_and_twisted_frame_is_read_as_it_stands() -> None:
    pitch, roll = math.tan(math.radians(0.8)), math.tan(math.radians(-0.5))
    flat = truck([height(m, z + 7.0 + pitch * x + roll * y) for m, (x, y, z) in MARKS.items()])
    found = values(flat)
    assert found["frame_pitch"] == pytest.approx(0.8, abs=1e-9)
    assert found["frame_roll"] == pytest.approx(-0.5, abs=1e-9)
    assert found["frame_twist"] == pytest.approx(0.0, abs=1e-9)
    raised = truck([height(m, z + (10.0 if m == "fl" else 0.0)) for m, (_, _, z) in MARKS.items()])
    assert values(raised)["frame_twist"] == pytest.approx(math.degrees(math.atan(10.0 / 805.0)), abs=1e-9)


def test_the_plane_weighs_every_mark_the_same_and_sigmas_follow_the_readings() -> None:
    read = [height(m, z + n * 1.3, instrument="laser") for n, (m, (_, _, z)) in enumerate(MARKS.items())]
    read += [height("fl", 561.0), height("fl", 563.0, sigma=0.4), height("rear-hub-left", 450.0)]
    t = truck(read)
    e = np.array([np.mean([0.0, 1.0, 3.0]), 1.3, 2.6, 3.9, 5.2, 6.5])
    a = np.array([[1.0, x, y] for x, y, _ in MARKS.values()])
    _, b, c = np.linalg.lstsq(a, e, rcond=None)[0]
    found = values(t)
    assert found["frame_pitch"] == pytest.approx(math.degrees(math.atan(b)), abs=1e-9)
    assert found["frame_roll"] == pytest.approx(math.degrees(math.atan(c)), abs=1e-9)
    assert {n: f.sigma for n, f in baseline(t, {}).figures.items()} == pytest.approx(bumped_sigmas(t), rel=1e-6)


def test_marks_in_line_or_too_few_say_nothing() -> None:
    assert values(truck([height("fl", 560.0), height("fr", 560.0)])).keys() == set()
    line = [{"id": f"p{n}", "at": [1000.0 * n, 0.4 * (n % 2), 500.0]} for n in range(4)]
    assert "frame_pitch" not in values(truck([height(f"p{n}", 500.0) for n in range(4)], marks=line))
    line[1]["at"] = [1000.0, 8.0, 500.0]
    assert "frame_pitch" in values(truck([height(f"p{n}", 500.0) for n in range(4)], marks=line))


def test_twist_takes_the_outermost_pairs_the_first_of_equals() -> None:
    at = [
        ("a", 900.0, 400.0), ("b", 940.0, -400.0), ("c", 2000.0, 300.0), ("d", 2000.0, 400.0), ("e", 2000.0, -300.0),
    ]  # fmt: skip
    marks = [{"id": n, "at": [x, y, 500.0]} for n, x, y in at]
    read = [height("a", 500.0), height("b", 501.0), height("c", 503.0), height("d", 509.0), height("e", 500.0)]
    found = values(truck(read, marks=marks))["frame_twist"]
    assert found == pytest.approx(math.degrees(math.atan(3 / 600) - math.atan(-1 / 800)), abs=1e-9)
    marks[2], marks[3] = marks[3], marks[2]
    found = values(truck(read, marks=marks))["frame_twist"]
    assert found == pytest.approx(math.degrees(math.atan(9 / 700) - math.atan(-1 / 800)), abs=1e-9)


# the axles under it


def hubs(moved: dict[str, tuple[float, float, float]]) -> dict[str, np.ndarray]:
    found = {}
    for end, (dx, dy, turn) in moved.items():
        for side, hand in (("left", 1), ("right", -1)):
            half, psi = hand * TRACKS[end] / 2, math.radians(turn)
            x, y = STATIONS[end] + dx - half * math.sin(psi), dy + half * math.cos(psi)
            found[f"{end}-hub-{side}"] = np.array([x, y, RADII[end]])
    return found


TRUE = {"rear": (7.0, -4.0, 0.35), "front": (-5.0, 6.0, -0.6)}


def tape(kind: str, a: str, b: str, moved: dict[str, tuple[float, float, float]] = TRUE, **more: Any) -> dict[str, Any]:
    points = {**{name: np.array(at) for name, at in MARKS.items()}, **hubs(moved)}
    apart = points[b] - points[a]
    value = {"distance": float(np.linalg.norm(apart)), "along": abs(apart[0]), "across": abs(apart[1])}[kind]
    return {"kind": kind, "from": a, "to": b, "value": value, "unit": "mm", **more}


EVERY = [
    *(tape(k, m, f"{e}-hub-{s}") for k, m, e, s in product(
        ("distance", "along"), ("fl", "rr"), ("rear", "front"), ("left", "right"))),
    *(tape("across", m, f"{e}-hub-{s}") for m, e, s in (
        ("fr", "front", "left"), ("fl", "front", "right"), ("rr", "rear", "left"), ("rl", "rear", "right"))),
    tape("distance", "rear-hub-left", "front-hub-right"), tape("distance", "rear-hub-right", "front-hub-left"),
]  # fmt: skip


def test_axles_are_found_where_they_were_put() -> None:
    t = truck(EVERY)
    found = values(t)
    for end, (dx, dy, turn) in TRUE.items():
        assert found[f"{end}_fore_aft"] == pytest.approx(dx, abs=1e-6)
        assert found[f"{end}_offset"] == pytest.approx(dy, abs=1e-6)
        assert found[f"{end}_thrust_angle"] == pytest.approx(turn, abs=1e-6)
    at = hubs(TRUE)
    for side in ("left", "right"):
        want = at[f"front-hub-{side}"][0] - at[f"rear-hub-{side}"][0]
        assert found[f"wheelbase_{side}"] == pytest.approx(want, abs=1e-6)
    assert baseline(t, {}).placed.suspect == []


def test_sigmas_of_the_placement_are_those_of_bumped_readings() -> None:
    """With readings that fit, where the curvature of the distances has no say."""
    read = [{**r, "instrument": ("tape", "laser", "plumb")[n % 3]} for n, r in enumerate(EVERY)]
    read[3] = {**read[3], "value": read[3]["value"] / 25.4, "unit": "in", "sigma": 0.05}
    t = truck(read)
    assert {n: f.sigma for n, f in baseline(t, {}).figures.items()} == pytest.approx(bumped_sigmas(t), rel=1e-4)


@pytest.mark.parametrize("wrong", [0, 5, 17, 20])
def test_a_misread_tape_is_found(wrong: int) -> None:
    read = [dict(r) for r in EVERY]
    read[wrong]["value"] += 25.4
    suspect = baseline(truck(read), {}).placed.suspect
    assert suspect[0][0] == f"r{wrong}"
    assert all(a[1] > b[1] - 1e-3 for a, b in pairwise(suspect))
    equals = [(a, b) for a, b in pairwise(suspect) if abs(a[1] - b[1]) < 1e-3]
    assert all(int(a[0][1:]) < int(b[0][1:]) for a, b in equals)
    left_out = [{**r, "left_out": n == wrong} for n, r in enumerate(read)]
    assert baseline(truck(left_out), {}).placed.suspect == []


def test_what_the_readings_do_not_give_is_not_said() -> None:
    across = truck([tape("across", "fr", "rear-hub-left"), tape("across", "fl", "rear-hub-right")])
    assert set(values(across)) == {"rear_offset"}
    along = truck([tape("along", "fl", "rear-hub-left"), tape("along", "fl", "rear-hub-right")])
    assert set(values(along)) == {"rear_fore_aft", "rear_thrust_angle"}
    one = truck([tape("along", "fl", "rear-hub-left")])
    assert set(values(one)) == set()
    both = truck([tape("along", "rear-hub-left", "front-hub-left"), tape("along", "rear-hub-right", "front-hub-right")])
    assert set(values(both)) == {"wheelbase_left", "wheelbase_right"}
    assert values(truck([tape("distance", "rear-hub-left", "rear-hub-right")])) == {}


def test_a_distance_too_short_to_have_a_side_is_kept_and_not_used() -> None:
    near = truck([tape("across", "rl", "rear-hub-left", value=30.0)], marks=[{"id": "rl", "at": [0.0, 820.0, 500.0]}])
    found = baseline(near, {})
    assert found.figures == {}
    assert found.placed.unused == ("r0",)


# angles


def gauge(of: str, value: float, zero: str, face: str, points: str, **more: Any) -> dict[str, Any]:
    return {
        "kind": "angle",
        "of": of,
        "value": value,
        "unit": "deg",
        "zero": zero,
        "face": face,
        "points": points,
        **more,
    }


@pytest.mark.parametrize(
    ("zero", "face", "value"),
    [("level", "along", 6.2), ("plumb", "square", 6.2), ("level", "square", 83.8), ("plumb", "along", 83.8)],
)
@pytest.mark.parametrize(("of", "up"), [("rear_pinion", 1), ("front_pinion", 1), ("case_output", -1)])
def test_however_it_was_zeroed_an_angle_is_the_same(zero: str, face: str, value: float, of: str, up: int) -> None:
    for points, sign in (("up", up), ("down", -up)):
        found = baseline(truck([gauge(of, value, zero, face, points)]), {}).figures[of]
        assert found.value == pytest.approx(sign * 6.2, abs=1e-9)
        assert found.sigma == pytest.approx(0.1, rel=1e-12)


def test_angles_stand_on_the_frames_axes() -> None:
    slope = math.tan(math.radians(1.0))
    level = [height(m, z + slope * x) for m, (x, _, z) in MARKS.items()]
    read = [gauge(of, 5.0, "level", "along", "up") for of in ("rear_pinion", "front_pinion", "case_output")]
    t = truck([*level, *read, gauge("rear_pinion", 6.0, "level", "along", "up", sigma=0.3)])
    found = values(t)
    assert found["rear_pinion"] == pytest.approx(5.5 - 1.0, abs=1e-9)
    assert found["front_pinion"] == pytest.approx(5.0 + 1.0, abs=1e-9)
    assert found["case_output"] == pytest.approx(-5.0 - 1.0, abs=1e-9)
    assert {n: f.sigma for n, f in baseline(t, {}).figures.items()} == pytest.approx(bumped_sigmas(t), rel=1e-6)


@pytest.mark.parametrize("end", ["rear", "front"])
def test_a_pinion_read_away_from_ride_is_turned_back(end: Any) -> None:
    given = design_data(layout("double triangulated"))
    given["axle"]["end"] = end
    if end == "front":
        for link in given["links"]:
            for mount in (link["axle"], link["frame"]):
                mount["at"][0] *= -1
    design = design_from({**given, "travel": {"bump": 120.0, "droop": 120.0, "articulation": 8.0}})
    turned = cycle(design, 3).heave.columns["pinion_change"][0]
    t = truck([gauge(f"{end}_pinion", 5.0 + turned, "level", "along", "up", travel=-120.0)])
    assert values(t, **{end: design})[f"{end}_pinion"] == pytest.approx(5.0, abs=1e-9)
    assert values(t) == {}
    short = design.rewritten(travel=design.travel.rewritten(droop=10.0))
    assert values(t, **{end: short})[f"{end}_pinion"] == pytest.approx(5.0, abs=1e-9)
    far = truck([gauge(f"{end}_pinion", 5.0, "level", "along", "up", travel=-2000.0)])
    assert values(far, **{end: design}) == {}


# weights


def scale(end: str, side: str | None, value: float, **more: Any) -> dict[str, Any]:
    return {"kind": "scale", "end": end, "value": value, "unit": "kg", **({"side": side} if side else {}), **more}


def test_four_wheels_on_scales() -> None:
    wheels = {("front", "left"): 810.0, ("front", "right"): 760.0, ("rear", "left"): 700.0, ("rear", "right"): 730.0}
    t = truck([scale(end, side, v) for (end, side), v in wheels.items()] + [scale("front", None, 9999.0)])
    found = values(t)
    assert found["mass"] == 3000.0
    assert found["front_share"] == pytest.approx(1570 / 3000)
    assert found["cg_x"] == pytest.approx(1570 / 3000 * 2650)
    assert found["left_share"] == pytest.approx(1510 / 3000)
    assert found["cg_y"] == pytest.approx((50 * 840 - 30 * 850) / 3000)
    assert {n: f.sigma for n, f in baseline(t, {}).figures.items()} == pytest.approx(bumped_sigmas(t), rel=1e-6)


def weighed_raised(h: float, by: float, raised: str) -> float:
    """What the end on the ground carries: moments about the raised end's axle, each figure from geometry."""
    long, mass, share = 2650.0, 3000.0, 0.52
    tilt = math.asin(by / long)
    r = share * RADII["front"] + (1 - share) * RADII["rear"]
    level = mass * (share if raised == "rear" else 1 - share)
    return level + mass * (h - r) * math.tan(tilt) / long


@pytest.mark.parametrize("raised", ["front", "rear"])
def test_height_of_the_center_of_gravity(raised: str) -> None:
    ground = {"front": "rear", "rear": "front"}[raised]
    level = [scale("front", None, 1560.0), scale("rear", None, 1440.0)]
    lifts = [
        scale(ground, None, weighed_raised(880.0, by, raised), raised={"end": raised, "by": by})
        for by in (450.0, 600.0)
    ]  # fmt: skip
    kept = scale(raised, None, 1.0, raised={"end": raised, "by": 600.0})
    t = truck([*level, *lifts, kept])
    assert values(t)["cg_height"] == pytest.approx(880.0, abs=1e-6)
    for one in lifts:
        alone = baseline(truck([*level, one]), {}).figures["cg_height"]
        assert alone.value == pytest.approx(880.0, abs=1e-6)
        by = one["raised"]["by"]
        moved = [
            values(truck([*level, {**one, "raised": {"end": raised, "by": by + d}}]))["cg_height"]
            for d in (0.01, -0.01)
        ]
        from_readings = bumped_sigmas(truck([*level, one]))["cg_height"]
        assert alone.sigma == pytest.approx(math.hypot(from_readings, (moved[0] - moved[1]) / 0.02 * 1.5), rel=1e-5)


def test_several_heights_weigh_by_their_own_sigma() -> None:
    level = [scale("front", None, 1560.0), scale("rear", None, 1440.0)]
    lifts = [scale("front", None, 1700.0 + n, raised={"end": "rear", "by": by}) for n, by in ((0, 300.0), (8, 600.0))]
    alone = [baseline(truck([*level, one]), {}).figures["cg_height"] for one in lifts]
    weights = [one.sigma**-2 for one in alone]
    both = values(truck([*level, *lifts]))["cg_height"]
    assert both == pytest.approx(
        sum(w * one.value for w, one in zip(weights, alone, strict=True)) / sum(weights), rel=1e-12
    )


def test_weights_that_are_not_there_give_nothing() -> None:
    assert values(truck([scale("front", None, 900.0), scale("rear", "left", 400.0)])) == {}
    assert set(values(truck([scale("front", None, 0.0), scale("rear", None, 0.0)]))) == {"mass"}


# the command


def test_the_command_prints_figures_and_what_to_take_again() -> None:
    read = [dict(r) for r in EVERY]
    read[5]["value"] += 25.4
    text = json.dumps(truck(read).model_dump(mode="json", exclude_unset=True, by_alias=True))
    said = json.loads(run("truck", "-", "--json", text=text).stdout)
    assert (said["format"], said["version"]) == ("oak-lever-truck-figures", 1)
    assert set(said["figures"]["rear_offset"]) == {"value", "sigma"}
    assert said["suspect"][0]["reading"] == "r5"
    table = run("truck", "-", text=text).stdout
    assert "take again: r5" in table
    assert "not an approval" in table


def test_the_command_takes_a_design_for_each_end_and_refuses_two_of_one(tmp_path: Any) -> None:
    files = {}
    for name, text in {
        "truck": json.dumps(truck([gauge("rear_pinion", 5.0, "level", "along", "up", travel=-60.0)]).model_dump(
            mode="json", exclude_unset=True, by_alias=True)),
        "rear": (DEMO / "fell-tender-rear.json").read_text(), "front": (DEMO / "fell-tender-front.json").read_text(),
        "broken": "{}",
    }.items():  # fmt: skip
        files[name] = str(tmp_path / f"{name}.json")
        (tmp_path / f"{name}.json").write_text(text)
    both = run("truck", files["truck"], "--json", "--design", files["rear"], "--design", files["front"])
    assert set(json.loads(both.stdout)["figures"]) == {"rear_pinion"}
    twice = run("truck", files["truck"], "--design", files["rear"], "--design", files["rear"])
    assert (twice.returncode, twice.stdout) == (2, "")
    assert "another rear design" in twice.stderr
    broken = run("truck", files["broken"], "--design", files["broken"])
    assert broken.returncode == 2
    assert len(broken.stderr.splitlines()) > 2
