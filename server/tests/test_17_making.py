"""What parts carry and are cut from, over the API, and the archive of a stored design."""

import io
import json
import time
import zipfile
from base64 import b64decode
from pathlib import Path
from typing import Any

import ezdxf
import pytest
from speaking import TENDER, Caller, bracketed, edited

from builds.actions import save_revision

pytestmark = pytest.mark.django_db
DOCUMENT = json.loads(TENDER)


def test_loads_say_every_case_and_part(call: Caller) -> None:
    status, said = call("POST", "/api/loads", {"document": DOCUMENT})
    assert status == 200
    assert [one["id"] for one in said["cases"]][:3] == ["static", "launch", "reverse"]
    assert {one["part"] for one in said["parts"]} == {link["id"] for link in DOCUMENT["links"]}
    launch = next(one for one in said["cases"] if one["id"] == "launch")
    assert {push["on"] for push in launch["pushes"]} == {"axle", "frame"}
    status, tube = call("POST", "/api/loads/tube", {"document": DOCUMENT, "part": "lower-left"})
    assert (status, tube["factor"] >= tube["wanted"]) == (200, True)
    assert call("POST", "/api/loads/tube", {"document": DOCUMENT, "part": "nobody"}) == (200, None)


def test_what_can_be_cut_is_cut_and_what_cannot_is_told(call: Caller) -> None:
    stock = {
        "tubes": [{"diameter": 50.8, "wall": wall, "length": 6000.0, "count": 2} for wall in (3.05, 6.35)],
        "plates": [],
    }
    status, said = call("POST", "/api/cut", {"document": bracketed(), "stock": stock})
    assert status == 200
    assert [one["id"] for one in said["brackets"]] == ["b1"]
    assert [one["path"] for one in said["faults"]] == ["brackets[1].edge"]
    assert all(bar["cut_length"] for bar in said["bars"])
    assert said["nest"]["bars"]
    assert {part for part, _ in said["nest"]["left_over"]} == {"b1-1", "b1-2"}
    assert "rod_end_19" in said["ends"]
    status, said = call("POST", "/api/cut", {"document": bracketed(), "stock": {"kerf": "much"}})
    assert (status, "stock" in said["message"]) == (422, True)


def test_the_archive_is_of_the_stored_revision(call: Caller, design: int) -> None:
    head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    answer = call.client.get(f"/api/designs/{design}/shop.zip?units=mm&paper=letter")
    assert (answer.status_code, answer["Content-Type"]) == (200, "application/zip")
    assert f"-r{head['number']}.zip" in answer["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        assert f"Revision {head['number']}" in archive.read("contents.txt").decode()
    assert call.client.get("/api/designs/999/shop.zip").status_code == 404


def test_the_archive_is_made_while_it_is_looked_at_and_is_the_one_of_the_address(call: Caller, design: int) -> None:
    status, begun = call("POST", "/api/designs/{design_id}/shop", {"units": "mm", "paper": "letter"}, design_id=design)
    assert status == 202
    looked: Any = {"state": "waiting"}
    while looked["state"] in ("waiting", "going"):
        time.sleep(0.05)
        status, looked = call("GET", "/api/work/shop_files/{number}", number=begun["number"])
        assert status == 200
        assert 0.0 <= looked["share"] <= 1.0
    assert looked["state"] == "done"
    whole = call.client.get(f"/api/designs/{design}/shop.zip?units=mm&paper=letter").content
    assert b64decode(looked["result"]["data"]) == whole
    assert call("POST", "/api/designs/{design_id}/shop", {"units": "mm"}, design_id=999)[0] == 404
    assert call("POST", "/api/designs/{design_id}/shop", {"units": "mm", "revision": 9}, design_id=design)[0] == 404
    assert call("POST", "/api/designs/{design_id}/shop", {"units": "stone"}, design_id=design)[0] == 422
    assert call("GET", "/api/work/shop_files/{number}", number="none")[0] == 404


def test_what_was_read_on_its_weight_is_held_against_what_it_should_be_there(call: Caller) -> None:
    shock = {"id": "w1", "kind": "strut", "of": "coilover-left", "value": 700.0, "unit": "mm"}
    stood = [
        shock,
        {"id": "w2", "kind": "pinion", "value": 9.0},
        {"id": "w3", "kind": "bar", "of": "x", "value": 1, "high": "axle"},
    ]
    status, said = call("POST", "/api/on-weight", {"document": DOCUMENT, "record": {"stood": stood}})
    assert status == 200
    assert [one["stance"] for one in said["stood"]] == ["weight"]
    assert {one["reading"] for one in said["beside"]} == {"w1", "w2"}
    assert set(said["strange"]) == {"w3"}
    assert said["height"]
    bad = {"stood": [{"id": "w1", "kind": "pinion", "value": 95.0}]}
    status, said = call("POST", "/api/on-weight", {"document": DOCUMENT, "record": bad})
    assert (status, [fault["path"] for fault in said["faults"]]) == (422, ["stood[0].value"])


def test_a_fit_up_goes_out_as_a_file_and_comes_in_beside_what_is_kept(call: Caller) -> None:
    record = {"readings": [{"id": "r1", "kind": "height", "of": "lower-left.axle", "value": 16.0, "unit": "in"}]}
    status, out = call("POST", "/api/fit-file", {"document": DOCUMENT, "record": record})
    assert status == 200
    asked = {"document": DOCUMENT, "record": {"notes": "ours"}, "text": out["text"]}
    status, said = call("POST", "/api/fit-file/bring", asked)
    assert (status, said["added"], said["differ"]) == (200, 1, [])
    assert (said["record"]["notes"], said["record"]["readings"]) == ("ours", record["readings"])
    status, said = call("POST", "/api/fit-file/bring", asked | {"text": out["text"].replace(DOCUMENT["name"], "Other")})
    assert (status, said["faults"][0]["path"]) == (422, "name")


def test_a_hole_to_try_is_offered_for_what_was_felt(call: Caller) -> None:
    special = json.loads((Path(__file__).parents[1] / "builds" / "demo" / "ghyll-special-rear.json").read_text())
    status, said = call("POST", "/api/hole-to-try", {"document": special, "felt": ["squats"]})
    assert status == 200
    assert "anti_squat" in {one["finding"] for one in said}
    assert call("POST", "/api/hole-to-try", {"document": DOCUMENT, "felt": ["hops"]}) == (200, [])
    assert call("POST", "/api/hole-to-try", {"document": DOCUMENT, "felt": ["sings"]})[0] == 422


def test_the_fit_up_sheet_has_what_is_kept_of_its_axle(call: Caller, design: int) -> None:
    answer = call.client.get(f"/api/designs/{design}/fit-up.pdf?units=mm")
    assert (answer.status_code, answer["Content-Type"]) == (200, "application/pdf")
    bare = answer.content
    assert bare.startswith(b"%PDF-")
    build = call("GET", "/api/designs/{design_id}", design_id=design)[1]["build"]
    truck = call("GET", "/api/builds/{build_id}/truck", build_id=build)[1]
    gates = [{"gate": "baseline", "result": "passed", "by": "Wren", "at": "2030-01-02T08:00:00Z"}]
    then = {**truck["document"], "fit_up": {"rear": {"gates": gates}}}
    asked = {"base": truck["number"], "document": then}
    assert call("POST", "/api/builds/{build_id}/truck/revisions", asked, build_id=build)[0] == 201
    assert call.client.get(f"/api/designs/{design}/fit-up.pdf?units=mm").content != bare
    assert call.client.get("/api/designs/999/fit-up.pdf").status_code == 404


def test_the_order_of_welding_is_of_the_brackets_that_can_be_made(call: Caller) -> None:
    status, said = call("POST", "/api/weld-order", {"document": bracketed()})
    assert status == 200
    assert [one["bracket"] for one in said] == ["b1"]
    assert call("POST", "/api/weld-order", {"document": DOCUMENT}) == (200, [])


def test_the_archive_of_another_revision_is_of_that(call: Caller, design: int) -> None:
    save_revision(design, 1, 1, edited(json.loads(TENDER), 404.0))
    heights = {}
    for asked in ("", "&revision=1", "&revision=2"):
        answer = call.client.get(f"/api/designs/{design}/shop.zip?units=mm{asked}")
        assert answer.status_code == 200
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            heights[asked] = json.loads(archive.read("design.json"))["links"][0]["axle"]["at"][2]
    assert heights[""] == heights["&revision=2"] == 404.0 != heights["&revision=1"]
    assert call.client.get(f"/api/designs/{design}/shop.zip?revision=9").status_code == 404
    assert call.client.get(f"/api/designs/{design}/shop.zip?revision=-1").status_code == 422


def test_a_nested_sheet_is_drawn_and_what_is_made_otherwise_is_said(call: Caller) -> None:
    stock = {
        "tubes": [], "kerf": 3.0, "gap": 6.0, "plates": [{"thickness": 6.35, "size": [600.0, 300.0], "count": 1}],
    }  # fmt: skip
    document = bracketed()
    status, said = call("POST", "/api/cut/sheet", {"document": document, "stock": stock, "sheet": 0})
    assert status == 200
    drawing = ezdxf.read(io.StringIO(said["text"]))  # type: ignore[attr-defined]
    assert len(drawing.modelspace().query('LWPOLYLINE[layer=="cut"]')) == 2
    status, said = call("POST", "/api/cut/sheet", {"document": document, "stock": stock, "sheet": 1})
    assert (status, "none of this nest" in said["message"]) == (422, True)
    thicker = bracketed()
    thicker["brackets"][0]["plate"] = 8.0
    asked = {"before": document, "document": thicker, "units": "mm"}
    status, said = call("POST", "/api/cut/since", asked)
    assert status == 200
    assert any("plate 8 mm thick" in line for line in said["lines"])
    assert call("POST", "/api/cut/since", {**asked, "document": document})[1] == {"lines": []}


def test_a_fit_up_is_kept_beside_its_truck_and_worked_out(call: Caller, design: int) -> None:
    head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    truck = call("GET", "/api/builds/{build_id}/truck", build_id=head["build"])[1]
    readings = [
        {"id": "r1", "kind": "ahead", "of": "upper-left.frame", "value": 36.0, "unit": "in"},
        {"id": "r2", "kind": "height", "of": "gone.frame", "value": 24.0, "unit": "in"},
    ]
    record = {"readings": readings, "gates": [{"gate": "tacked", "result": "reason", "reason": "Trailer only"}]}
    document = {**truck["document"], "fit_up": {"rear": record}}
    body = {"base": truck["number"], "document": document}
    status, stored = call("POST", "/api/builds/{build_id}/truck/revisions", body, build_id=head["build"])
    assert (status, stored["document"]["fit_up"]["rear"]) == (201, record)
    status, said = call("POST", "/api/fit", {"document": head["document"], "record": record})
    assert status == 200
    assert [one["mount"] for one in said["mounts"] if one["measured"]] == ["upper-left.frame"]
    assert list(said["strange"]) == ["r2"]
    assert not said["corrections"]["inside"]
    assert said["next"]["of"]
    record["gates"] = [{"gate": "blessed", "result": "passed"}]
    status, refused = call(
        "POST", "/api/builds/{build_id}/truck/revisions", {**body, "base": stored["number"]}, build_id=head["build"]
    )
    assert (status, "gates[0].gate" in refused["message"]) == (422, True)
    assert call("POST", "/api/fit", {"document": head["document"], "record": {"readings": 5}})[0] == 422
