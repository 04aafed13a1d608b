"""What both axles share beside figures: keep-outs of the truck, a loaded radius set anew, where a start's measures come
from, and readings that do not fit."""

import json
from typing import Any

import pytest
from speaking import TENDER, Caller

from builds.actions import create_build, import_design
from builds.models import TruckRevision

pytestmark = pytest.mark.django_db

DESIGN = "/api/designs/{design_id}"
REVISIONS = f"{DESIGN}/revisions"
TRUCK = "/api/builds/{build_id}/truck"
BOX = {"kind": "box", "center": [500.0, 100.0, 900.0], "size": [100.0, 100.0, 100.0]}
FRONT = json.dumps({**json.loads(TENDER), "axle": {**json.loads(TENDER)["axle"], "end": "front"}})


@pytest.fixture
def both(call: Caller) -> dict[str, int]:
    """A build with a rear and a front design."""
    build = create_build("Yard truck").pk
    rear = import_design(build, TENDER).design_id
    return {"build": build, "rear": rear, "front": import_design(build, FRONT, ()).design_id}


def read(call: Caller, design: int) -> dict[str, Any]:
    said: dict[str, Any] = call("GET", DESIGN, design_id=design)[1]
    return said


def save(call: Caller, head: dict[str, Any], document: dict[str, Any]) -> tuple[int, dict[str, Any]]:
    body = {"base": head["number"], "truck": head["truck"], "document": document}
    return call("POST", REVISIONS, body, design_id=head["design"])


def shared(document: dict[str, Any]) -> dict[str, list[float]]:
    keep_outs = (document.get("room") or {}).get("keep_outs", [])
    return {one["id"]: one["solid"]["center"] for one in keep_outs if one.get("shared")}


def with_box(document: dict[str, Any], center: list[float]) -> dict[str, Any]:
    room = document.get("room") or {"gap": 12.7, "zones": []}
    own = [one for one in room.get("keep_outs", []) if one["id"] != "winch"]
    box = {"id": "winch", "name": "Winch", "on": "frame", "shared": True, "solid": {**BOX, "center": center}}
    return {**document, "room": {**room, "keep_outs": [*own, box]}}


def test_a_keep_out_of_the_truck_is_kept_once_and_moved_from_either_axle(call: Caller, both: dict[str, int]) -> None:
    base = json.loads(TENDER)["vehicle"]["wheelbase"]
    head = read(call, both["rear"])
    status, stored = save(call, head, with_box(head["document"], [500.0, 100.0, 900.0]))
    assert status == 201
    assert shared(read(call, both["front"])["document"]) == {"winch": [500.0 - base, 100.0, 900.0]}
    head = read(call, both["front"])
    status, _ = save(call, head, with_box(head["document"], [520.0 - base, 100.0, 950.0]))
    assert status == 201
    assert shared(read(call, both["rear"])["document"]) == {"winch": [520.0, 100.0, 950.0]}
    truck = call("GET", TRUCK, build_id=both["build"])[1]["document"]
    assert [one["id"] for one in truck["room"]["keep_outs"]] == ["winch"]
    assert "shared" not in truck["room"]["keep_outs"][0]
    # the design that made it stands on the first truck that had it: edited on from there, twice
    head = {**stored, "design": both["rear"], "number": read(call, both["rear"])["number"]}
    newest = read(call, both["rear"])
    for z in (960.0, 970.0):
        status, after = save(call, newest, with_box(newest["document"], [520.0, 100.0, z]))
        assert status == 201
        newest = {**read(call, both["rear"]), "design": both["rear"]}
        assert shared(newest["document"])["winch"][2] == z
    again = save(call, newest, newest["document"])
    assert again[1]["number"] == newest["number"]  # nothing changed, nothing stored
    assert after["number"] == newest["number"]


def test_two_tablets_that_move_a_truck_s_keep_out_do_not_overwrite_each_other(
    call: Caller, both: dict[str, int]
) -> None:
    head = read(call, both["rear"])
    save(call, head, with_box(head["document"], [500.0, 100.0, 900.0]))
    rear, front = read(call, both["rear"]), read(call, both["front"])
    assert save(call, rear, with_box(rear["document"], [500.0, 100.0, 930.0]))[0] == 201
    x, y, _ = shared(front["document"])["winch"]
    assert save(call, front, with_box(front["document"], [x, y, 800.0]))[0] == 409
    assert shared(read(call, both["rear"])["document"])["winch"][2] == 930.0


def test_everything_goes_out_and_comes_back_with_what_is_shared(
    call: Caller, both: dict[str, int], tmp_path: Any
) -> None:
    head = read(call, both["rear"])
    save(call, head, with_box(head["document"], [500.0, 100.0, 900.0]))
    text = call("GET", f"{DESIGN}/file", design_id=both["rear"])[1]
    build = create_build("Other truck").pk
    other = import_design(build, json.dumps(text)).design_id
    assert shared(read(call, other)["document"]) == {"winch": [500.0, 100.0, 900.0]}


@pytest.mark.parametrize(("meant", "by"), [("sits", -20.0), ("slip", 0.0)])
def test_a_loaded_radius_set_anew_moves_what_was_meant(
    call: Caller, both: dict[str, int], meant: str, by: float
) -> None:
    before = {end: read(call, both[end])["document"] for end in ("rear", "front")}
    truck = call("GET", TRUCK, build_id=both["build"])[1]
    radius = truck["document"]["axles"]["rear"]["tire_radius_loaded"] - 20.0
    body = {"base": truck["number"], "end": "rear", "radius": radius, "meant": meant, "source": "measured"}
    path = f"{TRUCK}/radius"
    status, stored = call("POST", path, body, build_id=both["build"])
    assert status == 201
    assert stored["document"]["axles"]["rear"]["tire_radius_loaded"] == radius
    assert stored["document"]["axles"]["front"] == truck["document"]["axles"]["front"]
    assert stored["document"]["sources"]["axles.rear.tire_radius_loaded"] == "measured"
    rear, front = (read(call, both[end])["document"] for end in ("rear", "front"))
    assert front["links"] == before["front"]["links"]
    for one, other in zip(before["rear"]["links"], rear["links"], strict=True):
        for end in ("axle", "frame"):
            assert other[end]["at"] == pytest.approx([*one[end]["at"][:2], one[end]["at"][2] + by])
    share = truck["document"]["vehicle"]["front_share"]
    lower = truck["document"]["vehicle"]["cg_height"] + by * (1.0 - share)  # it lies nearer to the front
    assert stored["document"]["vehicle"]["cg_height"] == pytest.approx(lower)
    assert call("POST", path, body, build_id=both["build"])[0] == 409
    assert call("POST", path, {**body, "radius": -1.0}, build_id=both["build"])[0] == 422


def test_the_axle_does_as_before_where_the_truck_sits_lower(call: Caller, both: dict[str, int]) -> None:
    """Nothing has moved against anything but the ground: the motion is the same to the last digit."""

    def swing(document: dict[str, Any]) -> list[Any]:
        said = call("POST", "/api/cycle", {"document": document, "travel": 0.0, "articulation": 0.0})[1]
        return [said["heave"]["columns"][name] for name in ("pinion_change", "axle_x", "axle_y")]

    before = swing(read(call, both["rear"])["document"])
    truck = call("GET", TRUCK, build_id=both["build"])[1]
    radius = truck["document"]["axles"]["rear"]["tire_radius_loaded"] - 20.0
    body = {"base": truck["number"], "end": "rear", "radius": radius, "meant": "sits", "source": "measured"}
    call("POST", f"{TRUCK}/radius", body, build_id=both["build"])
    for was, now in zip(before, swing(read(call, both["rear"])["document"]), strict=True):
        assert now == pytest.approx(was, abs=2e-3)


def test_where_a_starts_measures_come_from_is_kept(call: Caller) -> None:
    build = create_build("Yard truck").pk
    start = {
        "name": "Rear", "layout": "double_triangulated", "school": "numbers_first", "end": "rear", "tire_diameter": 840.0,
        "track": 1600.0, "wheelbase": 2700.0, "rail_underside": 520.0, "rail_width": 860.0,
        "sources": {"tire_diameter": "catalog", "track": "measured", "wheelbase": "measured", "rail_width": "guessed"},
    }  # fmt: skip
    wrong = {**start, "sources": {"luck": "measured"}}
    status, said = call("POST", "/api/builds/{build_id}/starts", wrong, build_id=build)
    assert (status, said["faults"][0]["path"]) == (422, "sources.luck")
    assert not TruckRevision.objects.filter(build=build).exists()
    assert call("POST", "/api/builds/{build_id}/starts", start, build_id=build)[0] == 201
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    assert truck["sources"] == {
        "axles.rear.tire_diameter": "catalog", "axles.rear.track": "measured", "axles.front.station": "measured",
        "axles.rear.station": "measured", "rails.outside_width": "guessed",
    }  # fmt: skip


def test_what_does_not_fit_is_held_out_over_the_api_and_by_the_command(
    call: Caller, both: dict[str, int], tmp_path: Any
) -> None:
    truck = call("GET", TRUCK, build_id=both["build"])[1]["document"]
    angle = {"kind": "angle", "of": "rear_pinion", "unit": "deg", "zero": "level", "face": "along", "points": "up"}
    readings = [{**angle, "id": name, "value": value} for name, value in (("a", 5.5), ("b", 84.0), ("c", 9.2))]
    body = {"truck": {**truck, "readings": readings}, "designs": [], "units": "mm"}
    status, said = call("POST", "/api/baseline", body)
    assert status == 200
    assert said["figures"] == []
    assert [one["id"] for one in said["unsettled"]] == ["rear_pinion"]
    assert set(said["held_out"]) == {"b"}


def test_a_strip_down_starts_from_jobs_that_the_truck_can_keep(call: Caller, both: dict[str, int]) -> None:
    head = call("GET", TRUCK, build_id=both["build"])[1]
    status, jobs = call("POST", "/api/truck/jobs", {"truck": head["document"], "units": "in16"})
    assert (status, jobs[0]["before"]) == (200, "Lifting it")
    body = {"base": head["number"], "document": {**head["document"], "jobs": jobs}}
    assert call("POST", f"{TRUCK}/revisions", body, build_id=both["build"])[0] == 201
    assert call("GET", TRUCK, build_id=both["build"])[1]["document"]["jobs"] == jobs
