"""FIGURES: driveshaft, steering, shocks, stops and straps, against closed forms, differences of poses and free bodies."""

import csv
import io
import json
import math
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from designs import DEMO, run

from oak_lever.cycle import cycle, look
from oak_lever.design.faults import Refused
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.sheet.rows import csv_of

SHAFT = {
    "kind": "two_joints", "case": {"joint": [1400.0, 0.0, 560.0], "angle": 3.0}, "diameter": 76.2,
    "slip": {"in": 40.0, "out": 50.0}, "joint_limit": {"pinion": 25.0, "case": 25.0},
}  # fmt: skip


def with_parts(name: str = "double triangulated", **parts: Any) -> Design:
    return design_from({**design_data(layout(name)), **parts})


def rotation(state: np.ndarray) -> np.ndarray:
    (cr, cp, cy), (sr, sp, sy) = np.cos(state[3:6]), np.sin(state[3:6])
    about_z, about_y = (
        np.array([[cy, -sy, 0], [sy, cy, 0], [0, 0, 1]]),
        np.array([[cp, 0, sp], [0, 1, 0], [-sp, 0, cp]]),
    )
    turned: np.ndarray = about_z @ about_y @ np.array([[1, 0, 0], [0, cr, -sr], [0, sr, cr]])
    return turned


def carried(design: Design, state: np.ndarray, point: Any) -> np.ndarray:
    center = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    place: np.ndarray = state[:3] + rotation(state) @ (np.array(point) - center)
    return place


# the shaft


def shaft_rows(**change: Any) -> list[dict[str, Any]]:
    return cycle(with_parts(driveshaft={**SHAFT, **change}), 9).data()["heave"]  # type: ignore[no-any-return]


def test_length_and_slip_are_those_of_the_joints() -> None:
    design = with_parts(driveshaft=SHAFT)
    cycled = cycle(design, 9)
    for row, state in zip(cycled.heave.rows(), cycled.heave.state, strict=True):
        joint = carried(design, state, design.axle.pinion.joint)
        assert row["shaft_length"] == pytest.approx(math.dist(joint, SHAFT["case"]["joint"]), abs=1e-9)  # type: ignore[index]
        at_ride = math.dist(design.axle.pinion.joint, SHAFT["case"]["joint"])  # type: ignore[index]
        assert row["shaft_slip"] == pytest.approx(row["shaft_length"] - at_ride, abs=1e-9)


def test_joint_angles_in_one_plane_are_the_slopes_differences() -> None:
    """Straight travel of a symmetric axle: everything lies in one upright plane, so slopes in the side view do."""
    design = with_parts(driveshaft=SHAFT)
    cycled = cycle(design, 7)
    for row, state in zip(cycled.heave.rows(), cycled.heave.state, strict=True):
        joint = carried(design, state, design.axle.pinion.joint)
        falls = math.degrees(math.atan2(560.0 - joint[2], 1400.0 - joint[0]))
        pinion = design.axle.pinion.angle + row["pinion_change"]
        assert row["case_joint"] == pytest.approx(abs(falls - 3.0), abs=1e-9)
        assert row["pinion_joint"] == pytest.approx(abs(falls - pinion), abs=1e-9)


def test_parallel_shafts_cancel_and_a_single_joint_leads_by_the_textbook() -> None:
    """Two joints in phase with the pinion parallel to the output drive steadily. One joint at an angle b leads and lags
    by atan((1 - cos b) / (2 sqrt(cos b)))."""
    given = design_data(layout("double triangulated"))
    given["axle"]["pinion"]["angle"] = 3.0
    assert cycle(design_from({**given, "driveshaft": SHAFT}), 3).ride.rows()[0]["shaft_unsteady"] == pytest.approx(
        0.0, abs=1e-9
    )
    for angle in (3.0, 12.0, 40.0, 75.0):
        given["axle"]["pinion"]["angle"] = angle
        design = design_from({**given, "driveshaft": {**SHAFT, "kind": "double_at_case"}})
        row = cycle(design, 3).ride.rows()[0]
        cosine = math.cos(math.radians(row["pinion_joint"]))
        lead = 2 * math.degrees(math.atan((1 - cosine) / (2 * math.sqrt(cosine))))
        assert row["shaft_unsteady"] == pytest.approx(lead, rel=1e-4, abs=1e-9)


def test_two_joints_in_one_plane_are_as_one_of_their_two_leads() -> None:
    """In phase and in one plane tan(out) = tan(in) cos(b) / cos(a): as one joint whose cosine is that ratio."""
    row = shaft_rows()[0]
    one, two = (math.cos(math.radians(row[joint])) for joint in ("case_joint", "pinion_joint"))
    ratio = min(one, two) / max(one, two)
    lead = 2 * math.degrees(math.atan((1 - ratio) / (2 * math.sqrt(ratio))))
    assert row["shaft_unsteady"] == pytest.approx(lead, rel=1e-4)


def test_a_joint_at_ninety_degrees_drives_nothing() -> None:
    given = design_data(layout("double triangulated"))
    given["axle"]["pinion"]["angle"] = 120.0
    row = cycle(design_from({**given, "driveshaft": SHAFT}), 3).ride.rows()[0]
    assert row["pinion_joint"] > 90.0
    assert row["shaft_unsteady"] is None


def test_a_shaft_without_length_is_refused() -> None:
    joint = list(layout("double triangulated").axle.pinion.joint)
    with pytest.raises(Refused, match=r"driveshaft\.case\.joint"):
        with_parts(driveshaft={**SHAFT, "case": {"joint": joint, "angle": 0.0}})


# steering

FRONT: dict[str, Any] = json.loads((DEMO / "fell-tender-front.json").read_text())
STEERING: dict[str, Any] = {
    "pitman": [180.0, 420.0, 620.0], "knuckle": [170.0, -620.0, 520.0],
    "kingpin": {"at": [0.0, -690.0, 444.5], "inclination": 8.0}, "lock": 30.0,
}  # fmt: skip


def knuckle_at(design: Design, state: np.ndarray, turn_deg: float) -> np.ndarray:
    """The knuckle's joint turned about its kingpin, by Rodrigues' formula, and carried by the axle."""
    pin, lean = (
        np.array(STEERING["kingpin"]["at"]),
        np.array([-math.tan(math.radians(6.0)), math.tan(math.radians(8.0)), 1.0]),
    )
    lean = lean / np.linalg.norm(lean)
    arm, a = np.array(STEERING["knuckle"]) - pin, math.radians(turn_deg)
    turned = arm * math.cos(a) + np.cross(lean, arm) * math.sin(a) + lean * (lean @ arm) * (1 - math.cos(a))
    return carried(design, state, pin + turned)


@pytest.mark.parametrize("sweep", ["heave", "articulation"])
def test_the_drag_link_keeps_its_length(sweep: str) -> None:
    design = design_from({**FRONT, "steering": STEERING})
    cycled = cycle(design, 9)
    rows = getattr(cycled, sweep)
    long = math.dist(STEERING["pitman"], STEERING["knuckle"])
    turns = []
    for row, state in zip(rows.rows(), rows.state, strict=True):
        turns.append(row["bump_steer"])
        assert math.dist(knuckle_at(design, state, row["bump_steer"]), STEERING["pitman"]) == pytest.approx(
            long, abs=1e-8
        )
    assert cycled.ride.rows()[0]["bump_steer"] == 0.0
    assert max(abs(b - a) for a, b in pairwise(turns)) < 5.0


def test_steer_is_plus_to_the_left() -> None:
    """A drag link drawn shorter by hand pulls a knuckle arm that lies ahead of its kingpin toward the pitman, left."""
    design = design_from({**FRONT, "steering": STEERING})
    ride = cycle(design, 3).ride.state[0]
    plain, turned = (knuckle_at(design, ride, a) for a in (0.0, 1.0))
    assert turned[1] > plain[1]


def test_where_nothing_keeps_the_knuckle_the_rest_is_null() -> None:
    """A drag link far too short: lifted, the axle takes the knuckle past its dead point, and there it stays lost."""
    short = {**STEERING, "pitman": [170.0, -500.0, 520.0]}
    rows = cycle(design_from({**FRONT, "steering": short}), 41).data()["heave"]
    known = [row["bump_steer"] is not None for row in rows]
    assert known[20 if rows[20]["travel"] == 0 else known.index(True)]
    first, last = known.index(True), len(known) - 1 - known[::-1].index(True)
    assert all(known[first : last + 1])
    assert not all(known)


def test_caster_of_a_right_angle_cannot_be_steered_about() -> None:
    with pytest.raises(Refused, match=r"axle\.caster"):
        design_from({**FRONT, "axle": {**FRONT["axle"], "caster": 90.0}, "steering": STEERING})


# shocks, stops and straps


def shock(name: str = "coil", on: str = "axle", at: Any = (-60.0, 420.0, 420.0), **more: Any) -> dict[str, Any]:
    return {
        "id": name, "frame": {"at": [-120.0, 380.0, 980.0]}, "axle": {"on": on, "at": list(at)}, "extended": 720.0,
        "compressed": 420.0, "diameter": 63.5, **more,
    }  # fmt: skip


def corners(**listed: Any) -> dict[str, Any]:
    return {"shocks": [], "stops": [], "straps": [], **listed}


@pytest.mark.parametrize("name", LAYOUTS)
@pytest.mark.parametrize("on", ["axle", "link"])
def test_ratios_are_differences_of_lengths(name: str, on: str) -> None:
    design = layout(name)
    carrier = "axle" if on == "axle" else design.links[0].id
    at = (-60.0, 420.0, 420.0) if on == "axle" else (350.0, 440.0, 430.0)
    both = [
        shock("left", carrier, at),
        shock("right", carrier, (at[0], -at[1], at[2])),
        shock("mid", carrier, (at[0], 0.0, at[2])),
    ]
    design = with_parts(name, corners=corners(shocks=both))
    h = 1e-3

    def lengths(travel: float, twist: float) -> dict[str, float]:
        return {name: columns["length"][0] for name, columns in struts_of(design, travel, twist).items()}

    for travel, twist in ((0.0, 0.0), (35.0, 0.0), (-40.0, 3.0)):
        row = struts_of(design, travel, twist)
        rise = {n: (lengths(travel + h, twist)[n] - lengths(travel - h, twist)[n]) / (2 * h) for n in row}
        turn = {n: (lengths(travel, twist + h)[n] - lengths(travel, twist - h)[n]) / math.radians(2 * h) for n in row}
        lift = design.axle.track / 2 * math.cos(math.radians(twist))
        for n, sign in (("left", -1), ("right", 1)):
            assert row[n]["ratio"][0] == pytest.approx(-rise[n], abs=2e-6)
            assert row[n]["ratio_roll"][0] == pytest.approx(sign * turn[n] / lift, abs=2e-6)
        assert math.isnan(row["mid"]["ratio_roll"][0])


def struts_of(design: Design, travel: float, twist: float) -> dict[str, dict[str, np.ndarray]]:
    found: dict[str, dict[str, np.ndarray]] = look(design, travel, twist).here.running_gear.struts["shocks"]
    return found


def test_a_shock_on_a_link_keeps_its_place_on_it() -> None:
    """Distances from the link's two joints do not change where there is no give."""
    at = (400.0, 430.0, 430.0)
    design = with_parts(corners=corners(shocks=[shock(on="lower-left", at=at, frame={"at": [400.0, 430.0, 1000.0]})]))
    cycled = cycle(design, 9)
    link = design_data(design)["links"][0]
    to_frame, to_axle = (math.dist(at, link[end]["at"]) for end in ("frame", "axle"))
    for row, state in zip(cycled.heave.rows(), cycled.heave.state, strict=True):
        joint, frame = carried(design, state, link["axle"]["at"]), np.array(link["frame"]["at"])
        along = (joint - frame) / np.linalg.norm(joint - frame)
        part = (to_frame**2 - to_axle**2 + math.dist(joint, frame) ** 2) / (2 * math.dist(joint, frame))
        off = math.sqrt(to_frame**2 - part**2)
        middle = frame + part * along
        # the eye lies on a circle about the link: the shock's length lies between its nearest and its farthest place
        away = np.array([400.0, 430.0, 1000.0]) - middle
        flat = np.linalg.norm(away - (away @ along) * along)
        low, high = (math.hypot(away @ along, flat + sign * off) for sign in (-1, 1))
        assert low - 1e-9 <= row["shocks"]["coil"]["length"] <= high + 1e-9


def test_rows_hold_what_the_design_has_and_no_more() -> None:
    stop = {
        "id": "bump",
        "frame": {"at": [0.0, 400.0, 800.0]},
        "axle": {"on": "axle", "at": [0.0, 400.0, 560.0]},
        "free": 120.0,
        "solid": 55.0,
    }
    said = cycle(with_parts(corners=corners(stops=[stop])), 5).data()
    assert set(said["heave"][0]["stops"]["bump"]) == {"length"}
    assert not {"shocks", "straps", "shaft_length", "bump_steer"} & set(said["heave"][0])
    assert {"limits", "settles_at"} <= set(said)
    assert not {"limits", "settles_at", "stops"} & set(cycle(layout("double triangulated"), 5).data()["heave"][0])
    loose = design_data(layout("double triangulated"))
    loose["links"] = loose["links"][:3]
    row = cycle(design_from({**loose, "corners": corners(stops=[stop]), "driveshaft": SHAFT}), 3).data()["ride"]
    assert row["stops"] is None
    assert row["shaft_length"] is None


def ends(**listed: Any) -> dict[str, Any]:
    return cycle(with_parts(corners=corners(**listed)), 3).data()["limits"]  # type: ignore[no-any-return]


def length_at(design: Design, travel: float) -> float:
    return float(struts_of(design, travel, 0.0)["coil"]["length"][0])


def test_travel_ends_where_a_length_does() -> None:
    design = with_parts(corners=corners(shocks=[shock()]))
    bump, droop = length_at(design, 47.3), length_at(design, -61.9)
    found = ends(shocks=[shock(compressed=bump, extended=droop)])
    assert found["bump"]["travel"] == pytest.approx(47.3, abs=1e-5)
    assert found["droop"]["travel"] == pytest.approx(-61.9, abs=1e-5)
    assert found["bump"]["by"] == found["droop"]["by"] == "coil"
    assert ends(shocks=[shock(compressed=100.0, extended=2000.0)]) == {"bump": None, "droop": None}
    spring = {"rate": 30.0, "preload": 20.0, "solid": 20.0 + 720.0 - length_at(design, 30.0)}
    assert ends(shocks=[shock(spring=spring)])["bump"]["travel"] == pytest.approx(30.0, abs=1e-5)


def test_straps_end_stretched_and_the_first_in_the_file_of_equals_is_named() -> None:
    design = with_parts(corners=corners(shocks=[shock()]))
    reach = {key: shock()[key] for key in ("frame", "axle")}
    strap = {"id": "strap", **reach, "length": length_at(design, -50.0) / 1.08, "stretch": 0.08}
    stop = {"id": "stop", **reach, "free": 900.0, "solid": length_at(design, 40.0)}
    found = ends(straps=[strap], stops=[stop])
    assert (found["droop"]["by"], found["bump"]["by"]) == ("strap", "stop")
    assert found["droop"]["travel"] == pytest.approx(-50.0, abs=1e-5)
    near = shock(compressed=length_at(design, 40.03))
    assert ends(shocks=[near], stops=[stop])["bump"]["by"] == "coil"
    assert ends(shocks=[shock(compressed=length_at(design, 40.2))], stops=[stop])["bump"]["by"] == "stop"


def test_past_an_end_at_ride() -> None:
    """Travel is ended at once the way that goes further past; the other way only once it has come free and is met again."""
    design = with_parts(corners=corners(shocks=[shock()]))
    ride, low = length_at(design, 0.0), length_at(design, -80.0)
    found = ends(shocks=[shock(compressed=ride + 5.0, extended=low)])
    assert found["bump"] == {"travel": 0.0, "by": "coil"}
    assert found["droop"]["travel"] == pytest.approx(-80.0, abs=1e-5)
    assert ends(shocks=[shock(compressed=ride + 5.0, extended=3000.0)])["droop"] is None
    level = shock(frame={"at": [-60.0, 1420.0, 420.0]}, extended=1001.0, compressed=100.0)
    turned = ends(shocks=[{**level, "extended": 990.0}])
    assert turned["bump"]["travel"] == 0.0 or turned["droop"]["travel"] == 0.0


def test_springs_carry_the_truck_where_the_forces_balance() -> None:
    """A free body written out anew: virtual work of both springs against the sprung weight, by differences of length."""
    spring = {"rate": 60.0, "preload": 40.0, "solid": 400.0}
    both = [
        shock("coil", spring=spring),
        shock("other", at=(-60.0, -420.0, 420.0), frame={"at": [-120.0, -380.0, 980.0]}, spring=spring),
    ]
    design = with_parts(corners=corners(shocks=both))
    said = cycle(design, 3).data()
    at = said["settles_at"]
    h = 1e-3
    slope = (length_at(design, at + h) - length_at(design, at - h)) / (2 * h)
    force = 60.0 * (40.0 + 720.0 - length_at(design, at))
    weight = (design.vehicle.mass * (1 - design.vehicle.front_share) - design.axle.mass) * 9.80665
    assert -2 * force * slope == pytest.approx(weight, rel=1e-6)


def test_nothing_settles_without_springs_weight_or_reach() -> None:
    assert cycle(with_parts(corners=corners(shocks=[shock()])), 3).data()["settles_at"] is None
    weak = {"rate": 0.1, "preload": 0.0, "solid": 400.0}
    assert cycle(with_parts(corners=corners(shocks=[shock(spring=weak)])), 3).data()["settles_at"] is None
    given = design_data(layout("double triangulated"))
    given["axle"]["mass"] = 2000.0
    strong = corners(shocks=[shock(spring={**weak, "rate": 60.0})])
    assert cycle(design_from({**given, "corners": strong}), 3).data()["settles_at"] is None


# handed out


def test_rows_as_csv_and_by_the_command() -> None:
    data = {**design_data(layout("double triangulated")), "driveshaft": SHAFT, "corners": corners(shocks=[shock()])}
    said = json.loads(run("cycle", "-", "--json", "--steps", "5", text=json.dumps(data)).stdout)
    assert said["heave"][1]["shocks"]["coil"]["length"] > 0
    cycled = cycle(design_from(data), 5)
    rows = list(csv.DictReader(io.StringIO(csv_of([cycled.heave, cycled.articulation]))))
    assert len(rows) == 10
    assert float(rows[1]["shock coil length"]) == pytest.approx(said["heave"][1]["shocks"]["coil"]["length"], abs=1e-9)
    assert float(rows[1]["shaft_slip"]) == pytest.approx(said["heave"][1]["shaft_slip"], abs=1e-9)
