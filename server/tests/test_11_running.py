"""Corners and the whole cycle over the API: what ends the travel, places for a shock, pulls, the map, joints, a hand cycle."""

import json
import math
from pathlib import Path

import pytest
from django.test import Client
from speaking import TENDER, Caller

import builds
from builds.actions import create_build, import_design

pytestmark = pytest.mark.django_db
DOCUMENT = json.loads(TENDER)
FRONT = json.loads((Path(builds.__file__).parent / "demo" / "fell-tender-front.json").read_text())


def test_the_whole_answer_has_the_columns_of_what_runs_and_says_over_what_it_judged(call: Caller) -> None:
    status, said = call("POST", "/api/cycle", {"document": FRONT, "travel": 30.0})
    assert status == 200
    for name in ("shock coilover-left to_shut", "strap strap-left slack", "shaft_slip", "bump_steer"):
        assert len(said["heave"]["columns"][name]) == 41
        assert len(said["here"]["columns"][name]) == 1
    assert len(said["articulation"]["columns"]["joint_left"]) == 41
    assert 0.0 < said["allowed"]["share"] < 1.0
    assert said["allowed"]["by"] == ["bump-stop-left", "bump-stop-right", "strap-left", "strap-right"]
    columns = {curve["column"] for one in said["curves"] for curve in one["curves"]}
    assert "shock coilover-left to_shut" in columns <= {*said["heave"]["columns"], "gap_spare"}
    finding = next(one for one in said["findings"] if one["id"] == "bump_steer drag-link")
    assert (finding["figure"], finding["severity"], finding["unit"]) == ("bump_steer", "fix", "deg")
    status, look = call("POST", "/api/look", {"document": FRONT, "travel": 30.0})
    assert (
        look["here"]["columns"]["shock coilover-left to_shut"] == said["here"]["columns"]["shock coilover-left to_shut"]
    )


def test_what_is_added_comes_in_and_what_cannot_be_is_refused_at_its_field(call: Caller) -> None:
    bare = DOCUMENT | {"corners": None}
    status, said = call("POST", "/api/add", {"document": bare, "what": "coilover"})
    assert (status, len(said["document"]["corners"]["shocks"])) == (200, 2)
    status, said = call("POST", "/api/add", {"document": bare, "what": "wheel"})
    assert (status, said["faults"][0]["path"]) == (422, "what")
    status, said = call("POST", "/api/add", {"document": bare | {"rails": None}, "what": "rails"})
    assert (status, said["faults"][0]["path"]) == (422, "rails")


def test_what_ends_the_travel_and_how_it_sits(call: Caller) -> None:
    loads = [{"name": "Loaded", "mass": 3450.0, "front_share": 0.5}]
    status, said = call("POST", "/api/corners", {"document": DOCUMENT, "loads": loads, "spacer": 6.0})
    assert status == 200
    assert [way["way"] for way in said["ladder"]] == ["bump", "droop", "left wheel up", "right wheel up"]
    assert [one["name"] for one in said["sits"]] == ["", "Loaded"]
    assert said["sits"][1]["travel"] > said["sits"][0]["travel"]
    assert {one["spacer"] for one in said["spacers"]["bump-stop-left"]} >= {0.0, 6.0}
    assert said["springs"]
    assert said["bar_rate"] is None
    status, none = call("POST", "/api/corners", {"document": {**DOCUMENT, "corners": None}})
    assert (status, none["sits"], none["springs"]) == (200, [], [])
    status, said = call("POST", "/api/corners", {"document": DOCUMENT, "loads": [{"name": "", "mass": -1.0}]})
    assert status == 422


def test_places_for_a_shock_and_a_pull(call: Caller) -> None:
    body = {"document": DOCUMENT, "shock": "coilover-left", "increment": 6.35, "units": "in16"}
    status, places = call("POST", "/api/shocks/places", body)
    assert status == 200
    assert all(one["words"].startswith("Lower eye") for one in places)
    status, said = call("POST", "/api/shocks/places", {**body, "shock": "nobody"})
    assert (status, said["faults"][0]["path"]) == (422, "shock")
    wanted = [{"check": "stroke_droop coilover-left", "value": 12.0}]
    status, pulled = call("POST", "/api/runs/pull", {"document": DOCUMENT, "wanted": wanted, "increment": None})
    assert (status, pulled["met"]) == (200, True)
    assert pulled["got"][0] == pytest.approx(12.0, abs=0.1)
    status, said = call("POST", "/api/runs/pull", {"document": DOCUMENT, "wanted": [{"check": "x y", "value": 1.0}]})
    assert (status, said["faults"][0]["path"]) == (422, "wanted")
    body = {"document": DOCUMENT, "check": "stroke_droop coilover-left", "increment": 3.0}
    status, effects = call("POST", "/api/runs/effects", body)
    assert status == 200
    assert effects[0]["mounts"] == ["coilover-left.frame", "coilover-right.frame"]
    sizes = [abs(one["change"]) for one in effects]
    assert sizes == sorted(sizes, reverse=True)


def test_findings_on_the_corners_have_cures_and_what_they_rest_on(call: Caller) -> None:
    body = {"document": DOCUMENT, "finding": "stroke_droop coilover-left", "increment": 3.175, "units": "in16"}
    status, found = call("POST", "/api/cures", body)
    assert status == 200
    assert found[0]["meets"]
    status, rests = call("POST", "/api/slack", {"document": DOCUMENT, "finding": "sits axle", "inputs": None})
    assert status == 200
    assert {one["path"] for one in rests} == {"vehicle.mass", "vehicle.front_share"}
    assert call("POST", "/api/slack", {"document": DOCUMENT, "finding": "slip_out shaft", "inputs": None}) == (
        200,
        [],
    )


def test_the_pinion_is_turned_and_a_design_without_a_shaft_refused(call: Caller) -> None:
    status, said = call("POST", "/api/shaft/turn", {"document": DOCUMENT, "value": 9.0})
    assert status == 200
    assert said["turned"]["way"] == "its nose down"
    pinion, case = said["turned"]["document"]["axle"]["pinion"], DOCUMENT["driveshaft"]["case"]
    (x, y, z), (a, b, c) = case["joint"], pinion["joint"]
    asked = math.degrees(math.atan2(z - c, math.hypot(x - a, y - b)))  # of the joint where it then stands
    assert pinion["angle"] == pytest.approx(asked - 1.5, abs=0.1)
    assert said["turned"]["moved"] > 5.0
    assert said["turned"]["as_read"]["axle"]["pinion"]["angle"] == pytest.approx(9.0)
    status, said = call("POST", "/api/shaft/turn", {"document": {**DOCUMENT, "driveshaft": None}, "value": 9.0})
    assert (status, said["faults"][0]["path"]) == (422, "driveshaft")


def test_the_map_of_figures_and_of_gaps(call: Caller) -> None:
    status, said = call("POST", "/api/map", {"document": FRONT})
    assert status == 200
    assert (len(said["travel"]), len(said["articulation"])) == (41, 21)
    assert {"yaw", "case_joint", "bump_steer", "joint_reserve"} <= set(said["fields"])
    assert {cell for row in said["allowed"] for cell in row} == {True, False}
    status, said = call("POST", "/api/map", {"document": FRONT, "gaps": True})
    assert (status, set(said["fields"])) == (200, {"gap_spare"})


def test_joints_schools_complaints_and_a_hand_cycle(call: Caller) -> None:
    status, said = call("POST", "/api/joints", {"document": DOCUMENT})
    assert status == 200
    assert len(said["joints"]) == 8
    status, schools = call("POST", "/api/schools", {"document": DOCUMENT, "units": "in16"})
    assert status == 200
    assert [one["id"] for one in schools][:2] == ["own", "parallel"]
    status, complaints = call("POST", "/api/complaints", {"document": DOCUMENT})
    assert status == 200
    assert "shakes" in {one["complaint"] for one in complaints}
    hand = [{"travel": 100.0, "articulation": 0.0, "figure": "pinion_change", "value": 9.0}]
    status, check = call("POST", "/api/hand", {"document": {**DOCUMENT, "hand": hand}})
    assert (status, check["laid"][0]["parts"]) == (200, True)


def test_the_shop_drawing_and_the_rows_have_the_corners(client: Client) -> None:
    design = import_design(create_build("Fell tender").pk, TENDER, ()).design_id
    rows = client.get(f"/api/designs/{design}/cycle.csv").content.decode().splitlines()
    assert "shock coilover-left length" in rows[0]
    assert "shaft_slip" in rows[0]
    drawing = client.get(f"/api/designs/{design}/sheet.svg?units=in16&paper=a3").content.decode()
    assert "Shocks, stops and straps" in drawing
    assert "left wheel up" in drawing
    assert "Springs, air bags and gas shocks hold energy" in drawing
