"""The truck of a build: one for both axles, kept as revisions; designs split from it, and standing on it."""

import json
import sqlite3
from contextlib import closing
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from speaking import DESIGN, REVISIONS, TENDER, Caller, edited, managed

from builds.actions import as_stored, create_build, standing_now
from builds.models import Build, Revision, TruckRevision

pytestmark = pytest.mark.django_db

TRUCK = "/api/builds/{build_id}/truck"
SAVES = f"{TRUCK}/revisions"
FILES = "/api/builds/{build_id}/designs"
DOCUMENT = json.loads(TENDER)
FRONT = TENDER.replace('"end": "rear"', '"end": "front"')


def heavier(document: dict[str, Any], mass: float = 3500.0) -> dict[str, Any]:
    return {**document, "vehicle": {**document["vehicle"], "mass": mass}}


@pytest.fixture
def build(design: int) -> int:
    return Build.objects.get(designs=design).pk


def test_the_first_design_says_what_the_truck_is(call: Caller, build: int) -> None:
    _, truck = call("GET", TRUCK, build_id=build)
    assert truck["number"] == 1
    assert truck["document"]["vehicle"] == {
        "mass": 3100.0,
        "front_share": 0.53,
        "cg_height": 905.0,
        "brake_front": 0.62,
    }
    assert truck["document"]["axles"]["front"]["station"] == 2650.0
    assert truck["overlays"]["rear"]["vehicle.brake_share"] == 0.38
    assert truck["overlays"]["front"]["vehicle.brake_share"] == 0.62


def test_designs_hold_no_copies(design: int) -> None:
    bare = json.loads(Revision.objects.get(design_id=design).text)
    assert "tire_diameter" not in bare["axle"]
    assert list(bare["vehicle"]) == ["drive_share"]
    assert not {"rails", "use", "bands"} & set(bare)


def test_a_design_stands_on_the_newest_truck_and_an_old_revision_on_its_own(
    call: Caller, design: int, build: int
) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    assert call("POST", SAVES, {"base": 1, "document": heavier(truck)}, build_id=build)[0] == 201
    head = call("GET", DESIGN, design_id=design)[1]
    assert (head["truck"], head["stored_on"], head["document"]["vehicle"]["mass"]) == (2, 1, 3500.0)
    old = call("GET", "/api/designs/{design_id}/revisions/{number}", design_id=design, number=1)[1]
    assert (old["truck"], old["document"]["vehicle"]["mass"]) == (1, 3100.0)
    assert old["document"] == DOCUMENT
    file = json.loads(call.client.get(f"/api/designs/{design}/file").content)
    assert file == heavier(DOCUMENT)


def test_what_the_truck_did_to_a_design_is_said(call: Caller, design: int, build: int) -> None:
    assert call("GET", "/api/designs/{design_id}/since", design_id=design)[1] == {"changes": [], "figures": []}
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    lower = {**truck, "vehicle": {**truck["vehicle"], "cg_height": 700.0}}
    call("POST", SAVES, {"base": 1, "document": lower}, build_id=build)
    said = call("GET", "/api/designs/{design_id}/since", design_id=design)[1]
    (change,) = said["changes"]
    assert (change["path"], change["truck"], change["file"]) == ("vehicle.cg_height", 905.0, 700.0)
    squat = next(one for one in said["figures"] if one["figure"] == "anti_squat")
    assert squat["after"] == pytest.approx(squat["before"] * 905.0 / 700.0)


def test_two_tablets_that_set_two_bands_both_hear_of_it(call: Caller, build: int) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    first = {**truck, "bands": {"roll_center": [None, 700.0]}}
    assert call("POST", SAVES, {"base": 1, "document": first}, build_id=build)[0] == 201
    second = {**truck, "bands": {"pinion_change": [None, 7.0]}}
    status, said = call("POST", SAVES, {"base": 1, "document": second}, build_id=build)
    assert (status, said["newest"]["document"]["bands"]) == (409, first["bands"])
    both = {**truck, "bands": {**first["bands"], **second["bands"]}}
    assert call("POST", SAVES, {"base": 2, "document": both}, build_id=build)[1]["number"] == 3


def test_a_truck_saved_again_or_unchanged_is_stored_once(call: Caller, build: int) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    for _ in range(2):
        assert call("POST", SAVES, {"base": 1, "document": heavier(truck)}, build_id=build)[1]["number"] == 2
    assert TruckRevision.objects.count() == 2


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"bands": {"beauty": [1, 2]}}, "bands.beauty"),
        ({"bands": {"roll_center": [2, 1]}}, "bands.roll_center"),
        ({"vehicle": {}}, "vehicle.mass"),
        ({"format": "oak-lever-design"}, "format"),
        ({"use": "racing"}, "use"),
    ],
)
def test_a_truck_that_is_none_is_refused_by_its_paths(call: Caller, build: int, change: Any, path: str) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    status, said = call("POST", SAVES, {"base": 1, "document": {**truck, **change}}, build_id=build)
    assert status == 422
    assert path in [fault["path"] for fault in said["faults"]]
    assert TruckRevision.objects.count() == 1


def test_a_file_whose_truck_differs_asks_which_stands(call: Caller, build: int) -> None:
    other = json.dumps(heavier({**json.loads(FRONT), "name": "Other"}))
    status, said = call("POST", FILES, {"text": other}, build_id=build)
    assert status == 409
    paths = {one["path"]: (one["truck"], one["file"]) for one in said["differences"]}
    assert paths["vehicle.mass"] == (3100.0, 3500.0)
    assert paths["vehicle.brake_share"] == (0.62, 0.38)
    assert Build.objects.get().designs.count() == 1
    status, kept = call("POST", FILES, {"text": other, "take": []}, build_id=build)
    assert (status, kept["document"]["vehicle"]["mass"], kept["truck"]) == (201, 3100.0, 1)
    status, took = call("POST", FILES, {"text": other, "take": ["vehicle.mass"]}, build_id=build)
    assert (status, took["document"]["vehicle"]["mass"], took["truck"]) == (201, 3500.0, 2)
    assert took["document"]["vehicle"]["brake_share"] == 0.62


def test_a_designs_edit_does_not_change_the_truck_in_passing(call: Caller, design: int) -> None:
    edit = {"base": 1, "truck": 1, "document": heavier(edited(DOCUMENT, 401.0))}
    status, said = call("POST", REVISIONS, edit, design_id=design)
    assert (status, [fault["path"] for fault in said["faults"]]) == (422, ["vehicle.mass"])
    edit = {"base": 1, "truck": 7, "document": DOCUMENT}
    assert call("POST", REVISIONS, edit, design_id=design)[0] == 422
    assert Revision.objects.count() == 1


def test_a_revision_says_which_truck_it_stood_on(call: Caller, design: int, build: int) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    call("POST", SAVES, {"base": 1, "document": heavier(truck)}, build_id=build)
    edit = {"base": 1, "truck": 1, "document": edited(DOCUMENT, 401.0)}  # a tablet that has not heard of it yet
    stored = call("POST", REVISIONS, edit, design_id=design)[1]
    assert (stored["stored_on"], stored["truck"]) == (1, 2)
    revision = Revision.objects.get(number=2)
    assert as_stored(revision).vehicle.mass == 3100.0
    assert standing_now(revision).vehicle.mass == 3500.0


def test_a_second_axle_asks_for_nothing_that_is_known(call: Caller, build: int) -> None:
    start = {"name": "Front", "layout": "three_link_panhard", "school": "numbers_first", "end": "front"}
    known = call("GET", "/api/builds/{build_id}", build_id=build)[1]["known"]
    assert set(known) == {"tire_diameter", "track", "wheelbase", "rail_underside", "rail_width"}
    status, made = call("POST", "/api/builds/{build_id}/starts", start, build_id=build)
    assert status == 201
    document = made["document"]
    for name in ("tire_diameter", "tire_radius_loaded", "tire_width", "track"):
        assert document["axle"][name] == DOCUMENT["axle"][name]
    for name in ("wheelbase", "mass", "cg_height", "front_share"):
        assert document["vehicle"][name] == DOCUMENT["vehicle"][name]
    assert made["document"]["rails"] == DOCUMENT["rails"]
    assert made["truck"] == 2  # its rails now stand in the way, once for both axles
    rails = call("GET", TRUCK, build_id=build)[1]["document"]["room"]["keep_outs"]
    assert [one["id"] for one in rails] == ["rail-left", "rail-right"]
    assert [one["id"] for one in made["document"]["room"]["keep_outs"]] == ["rail-left", "rail-right"]
    wrong = {**start, "wheelbase": 2000.0}
    status, said = call("POST", "/api/builds/{build_id}/starts", wrong, build_id=build)
    assert (status, said["faults"][0]["path"]) == (422, "wheelbase")


def test_the_first_start_says_what_is_missing(call: Caller) -> None:
    build = create_build("Yard truck").pk
    start = {"name": "Rear", "layout": "single_apex", "school": "numbers_first", "end": "rear", "track": 1600}
    status, said = call("POST", "/api/builds/{build_id}/starts", start, build_id=build)
    assert status == 422
    assert {fault["path"] for fault in said["faults"]} == {"tire_diameter", "wheelbase", "rail_underside", "rail_width"}
    assert call("GET", TRUCK, build_id=build)[0] == 404


def test_truck_file_and_old_revisions_can_be_had(call: Caller, build: int) -> None:
    truck = call("GET", TRUCK, build_id=build)[1]["document"]
    file = call.client.get(f"/api/builds/{build}/truck/file")
    assert json.loads(file.content) == truck
    assert "truck.json" in file["Content-Disposition"]
    call("POST", SAVES, {"base": 1, "document": heavier(truck)}, build_id=build)
    assert call("GET", f"{SAVES}/{{number}}", build_id=build, number=1)[1]["document"] == truck
    assert call("GET", f"{SAVES}/{{number}}", build_id=build, number=9)[0] == 404


def test_stores_of_before_are_split_and_packed_and_every_revision_reproduces_exactly(tmp_path: Path) -> None:
    """A store as it was two formats ago: whole design files in plain text, two trucks' figures in turn."""
    manage = partial(managed, tmp_path)
    manage("migrate", "builds", "0002")
    front = json.loads(FRONT)
    front["vehicle"]["brake_share"] = 0.62
    texts = [*(heavier(edited(DOCUMENT, 400.0 + n), 3100.0 + n // 20) for n in range(59)), front]
    with closing(sqlite3.connect(tmp_path / "oak-lever.sqlite3")) as store:
        bands = json.dumps({"roll_center": [None, 700.0]})
        store.execute("INSERT INTO builds_build VALUES (1, 'Old', '', '2026-01-01', ?)", [bands])
        store.execute("INSERT INTO builds_design VALUES (1, '2026-01-01', NULL, 1)")
        store.execute("INSERT INTO builds_design VALUES (2, '2026-01-01', NULL, 1)")
        for n, text in enumerate(texts):
            design, number = (1, n + 1) if n < 59 else (2, 1)
            store.execute(
                "INSERT INTO builds_revision (id, number, name, text, created_at, design_id) VALUES (?, ?, 'x', ?, ?, ?)",
                [n + 1, number, json.dumps(text), f"2026-01-02 00:{n:02}:00", design],
            )
        store.commit()
    manage("migrate")
    manage("export_store", str(tmp_path / "out"))
    kept = sorted((tmp_path / "out").glob("*/designs/*/r*.json"))
    assert [json.loads(file.read_text()) for file in kept] == texts
    truck = max((tmp_path / "out").glob("*/truck/r*.json"))
    assert json.loads(truck.read_text())["bands"] == {"roll_center": [None, 700.0]}
