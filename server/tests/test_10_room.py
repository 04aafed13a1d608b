"""Room over the API: what clears, places ranked, the room's sums, shapes brought in, the drawing, another housing."""

import base64
import json
import math
from io import StringIO
from typing import Any

import ezdxf
import pytest
import trimesh
from django.conf import settings
from django.test import Client
from speaking import DESIGN, REVISIONS, TENDER, Caller

pytestmark = pytest.mark.django_db
DOCUMENT = json.loads(TENDER)
ONTO = {
    "tire_diameter": 939.8, "tire_radius_loaded": 460.5, "tire_width": 317.5, "track": 1682.75, "tube_diameter": 88.9,
    "pinion_ahead": 317.5, "pinion_above": 38.1, "pinion_angle": 9.0,
}  # fmt: skip


def bring(call: Caller, data: bytes, **more: Any) -> tuple[int, Any]:
    sent = {"data": base64.b64encode(data).decode(), "name": "Oil pan"}
    return call("POST", "/api/bring", {"kind": "stl", **sent, **more})


def test_what_clears_two_parts(call: Caller) -> None:
    status, cleared = call("POST", "/api/clear", {"document": DOCUMENT})
    meet = next(one for one in cleared["findings"] if one["place"]["parts"][:2] == ["upper-left", "rail-left"])
    assert (status, meet["severity"], meet["figure"]) == (200, "stop", "gap")
    body = {"document": DOCUMENT, "finding": meet["id"], "increment": 3.175, "units": "in16"}
    status, found = call("POST", "/api/cures", body)
    assert status == 200
    assert found[0]["words"].startswith("Upper link frame ends")
    assert "between them" in found[0]["price"]
    status, pairs = call("POST", "/api/clear", {"document": found[0]["document"]})
    near = next(p for p in pairs["pairs"] if (p["a"], p["b"]) == ("upper-left", "rail-left"))
    assert near["gap"] >= near["wanted"] - 1e-6
    assert call("POST", "/api/cures", {**body, "finding": "gap upper-left nothing"}) == (200, [])


def test_places_are_ranked_and_a_mount_without_a_zone_is_refused(call: Caller) -> None:
    body = {"document": DOCUMENT, "mount": "upper-left.frame", "increment": 3.175}
    status, found = call("POST", "/api/places", body)
    assert status == 200
    assert [one["stops"] for one in found] == sorted(one["stops"] for one in found)
    status, said = call("POST", "/api/places", {**body, "mount": "nobody.frame"})
    assert status == 422
    assert said["faults"][0]["path"] == "mount"


def test_the_room_of_an_axle(call: Caller) -> None:
    zones = [{"id": "z", "mounts": ["nobody.frame"], "region": {"kind": "holes", "at": [[0, 0, 0]]}}]
    odd = {**DOCUMENT, "room": {**DOCUMENT["room"], "zones": zones}}
    status, found = call("POST", "/api/room", {"document": odd, "bracket": 90.0})
    assert status == 200
    assert found["unknown"] == [{"zone": "z", "mount": "nobody.frame"}]
    assert [end["way"] for end in found["budget"]["ends"]][:2] == ["bump", "droop"]
    assert found["tubes"][0]["taken"] == 90.0
    assert found["up_share"]["why"]
    assert [one["by"] for one in found["stations"]][3] == 0.0


def test_a_shape_is_brought_in_and_a_broken_one_refused_at_its_place(call: Caller) -> None:
    mesh = trimesh.creation.box((100.0, 200.0, 300.0)).export(file_type="stl")
    status, found = bring(call, mesh)
    assert status == 200
    assert found["shapes"][0]["solid"]["kind"] == "hull"
    room = {"keep_outs": [{"id": "pan", "on": "frame", "solid": found["shapes"][0]["solid"]}]}
    assert call("POST", "/api/clear", {"document": {**DOCUMENT, "room": room}})[0] == 200
    for data, kind in ((b"no shape", "stl"), (b"no drawing", "dxf")):
        status, said = bring(call, data, kind=kind, start=0.0, end=1.0)
        assert status == 422
        assert said["faults"][0]["path"] == "file"
    status, said = call("POST", "/api/bring", {"kind": "stl", "data": "§", "name": "x"})
    assert status == 422


def test_a_larger_body_is_taken_for_a_shape_only(call: Caller) -> None:
    large = b"x" * (settings.MOST_BYTES + 10)
    assert Client().post("/api/clear", large, content_type="application/json").status_code == 413
    assert Client().post("/api/bring", large, content_type="application/json").status_code == 400


def test_the_rooms_drawing(call: Caller, design: int) -> None:
    answer = Client().get(f"/api/designs/{design}/room.dxf")
    assert answer.status_code == 200
    assert answer.headers["Content-Disposition"].endswith('-r1.dxf"')
    drawing = ezdxf.read(StringIO(answer.content.decode()))  # type: ignore[attr-defined]
    assert any(one.dxf.layer == "KEEP_OUTS" for one in drawing.modelspace())


def test_a_suspension_is_copied_onto_another_housing(call: Caller) -> None:
    found = {**DOCUMENT, "as_found": True}
    status, copied = call("POST", "/api/copy", {"document": found, "onto": ONTO, "brackets": "kept"})
    assert status == 200
    assert copied["document"]["axle"]["tire_radius_loaded"] == 460.5
    assert "16 mm higher" in copied["left_over"][0]
    assert call("POST", "/api/copy", {"document": found, "onto": {**ONTO, "track": -1}, "brackets": "kept"})[0] == 422


def test_what_was_found_keeps_its_tires_when_the_truck_gets_others(call: Caller, design: int) -> None:
    head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    body = {"base": head["number"], "truck": head["truck"], "document": {**head["document"], "as_found": True}}
    assert call("POST", "/api/designs/{design_id}/revisions", body, design_id=design)[0] == 201
    truck = call("GET", "/api/builds/{build_id}/truck", build_id=head["build"])[1]
    truck["document"]["axles"]["rear"]["tire_diameter"] = 1000.0
    edit = {"base": truck["number"], "document": truck["document"]}
    assert call("POST", "/api/builds/{build_id}/truck/revisions", edit, build_id=head["build"])[0] == 201
    now = call("GET", "/api/designs/{design_id}", design_id=design)[1]["document"]
    assert now["axle"]["tire_diameter"] == 939.8
    since = call("GET", "/api/designs/{design_id}/since", design_id=design)[1]
    assert since["changes"] == []


def test_an_axle_moved_takes_its_links_along_and_leaves_what_stands_on_the_frame(call: Caller, design: int) -> None:
    head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    truck = call("GET", "/api/builds/{build_id}/truck", build_id=head["build"])[1]
    path = "/api/builds/{build_id}/truck/move"
    body = {"base": truck["number"], "end": "rear", "by": 50.0}
    status, moved = call("POST", path, body, build_id=head["build"])
    assert status == 201
    stations = [one["document"]["axles"]["rear"]["station"] for one in (truck, moved)]
    assert stations[1] - stations[0] == 50.0
    now = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    assert now["number"] == head["number"] + 1
    assert now["document"]["vehicle"]["wheelbase"] == head["document"]["vehicle"]["wheelbase"] - 50.0
    assert now["document"]["links"] == head["document"]["links"]
    tank, was = (
        next(one for one in document["room"]["keep_outs"] if one["id"] == "tank")["solid"]["center"]
        for document in (now["document"], head["document"])
    )
    assert tank[0] == was[0] - 50.0
    truss, before = (
        next(one for one in document["room"]["keep_outs"] if one["id"] == "truss")["solid"]
        for document in (now["document"], head["document"])
    )
    assert truss == before  # it goes with the axle
    assert call("POST", path, body, build_id=head["build"])[0] == 409
    far = {"base": moved["number"], "end": "rear", "by": 9000.0}
    assert call("POST", path, far, build_id=head["build"])[0] == 422
    assert call("POST", path, far, build_id=9_999)[0] == 404


def test_more_geometry_than_is_taken_is_refused_before_anything_changes(call: Caller, design: int) -> None:
    head = call("GET", DESIGN, design_id=design)[1]
    turns = [math.tau * n / 1000 for n in range(1000)]
    ring = [[1000.0 + 300.0 * math.cos(turn), 700.0 + 200.0 * math.sin(turn)] for turn in turns]
    solid = {"kind": "prism", "along": "y", "from": 0.0, "to": 5.0, "outline": ring}
    number = head["number"]
    for count, status in ((60, 413), (25, 422), (15, 201)):
        keep_outs = [{"id": f"sent-{n}", "on": "frame", "solid": solid} for n in range(count)]
        document = {**head["document"], "room": {"keep_outs": keep_outs}}
        body = {"base": head["number"], "truck": head["truck"], "document": document}
        answered, said = call("POST", REVISIONS, body, design_id=design)
        assert answered == status
        if status != 201:
            assert "at most" in said["message"]
            assert call("GET", DESIGN, design_id=design)[1]["number"] == number
