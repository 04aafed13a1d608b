"""The API's advice: effects, cures, settling, pulling, converging; bands, alternatives, history, the shop drawing."""

import csv
import json
from typing import Any

import pytest
from speaking import CONTRACT, DESIGN, REVISIONS, TENDER, Caller, edited

pytestmark = pytest.mark.django_db

DOCUMENT = {**json.loads(TENDER), "room": None}
ENDS = [f"{link['id']}.{end}" for link in DOCUMENT["links"] for end in ("axle", "frame")]


def test_effects_are_ranked(call: Caller) -> None:
    status, found = call("POST", "/api/effects", {"document": DOCUMENT, "increment": 3.175})
    assert status == 200
    found = found["pinion_change"]
    assert found[0]["mounts"] == ["upper-left.frame", "upper-right.frame"]
    assert abs(found[0]["change"]) >= abs(found[-1]["change"])


def test_cures_say_where_the_mounts_go_and_what_it_costs(call: Caller) -> None:
    body = {"document": DOCUMENT, "finding": "roll_center", "increment": 3.175, "units": "in16"}
    status, found = call("POST", "/api/cures", body)
    assert status == 200
    cure = found[0]
    assert cure["figures"]["roll_center"] <= 622.3
    assert cure["words"] == "Upper link axle ends down 1 in"
    assert set(cure["at"]) == set(cure["shifts"][0]["mounts"])
    by = cure["document"]["links"][2]["axle"]["at"][2] - DOCUMENT["links"][2]["axle"]["at"][2]
    assert by == pytest.approx(cure["shifts"][0]["by"]) == pytest.approx(-25.4)
    assert {"id", "figure", "before", "after"} == set(cure["worsens"][0])


def test_what_a_verdict_rests_on(call: Caller) -> None:
    body = {"document": DOCUMENT, "finding": "anti_squat"}
    status, found = call("POST", "/api/slack", body)
    assert status == 200
    height = next(one for one in found if one["path"] == "vehicle.cg_height")
    assert height["low"] < height["value"] == DOCUMENT["vehicle"]["cg_height"]
    one = call("POST", "/api/slack", {**body, "inputs": ["vehicle.wheelbase"]})[1]
    assert [line["path"] for line in one] == ["vehicle.wheelbase"]
    assert call("POST", "/api/slack", {**body, "finding": "beauty"})[0] == 422


def test_what_a_school_comes_to(call: Caller) -> None:
    short = {**DOCUMENT, "school": "short_upper"}
    status, said = call("POST", "/api/school", {"document": short})
    assert status == 200
    assert "with uppers as long as the lowers" in said["says"]
    assert call("POST", "/api/school", {"document": DOCUMENT})[1] == {"says": ""}


def test_bands_in_the_document_are_those_that_judge(call: Caller) -> None:
    own = {**DOCUMENT, "bands": {"roll_center": [None, 700]}}
    assert call("POST", "/api/cures", {"document": own, "finding": "roll_center", "increment": 3.175}) == (200, [])
    _, cycled = call("POST", "/api/cycle", {"document": own})
    judged = next(f for f in cycled["findings"] if f["id"] == "roll_center")
    assert (judged["high"], judged["verdict"], judged["source"]) == (700, "inside", "set for this truck")


def test_settle(call: Caller) -> None:
    status, found = call("POST", "/api/settle", {"document": DOCUMENT, "increment": 3.175})
    assert status == 200
    assert found["left"] == []
    assert {"pinion_change", "roll_center"} <= set(found["cures"])
    locked = {**DOCUMENT, "locks": dict.fromkeys(ENDS, "xyz")}
    assert call("POST", "/api/settle", {"document": locked, "increment": 3.175})[1] is None


def test_pull(call: Caller) -> None:
    wanted = [{"figure": "ic_x", "value": 2400}, {"figure": "ic_height", "value": 520}]
    status, pulled = call("POST", "/api/pull", {"document": DOCUMENT, "wanted": wanted})
    assert (status, pulled["met"]) == (200, True)
    assert pulled["got"] == pytest.approx([2400, 520], abs=1e-3)


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/api/pull", {"wanted": [{"figure": "beauty", "value": 1}]}),
        ("/api/pull", {"wanted": []}),
        ("/api/pull", {"wanted": [{"figure": "ic_x", "value": 1e9}]}),
        ("/api/effects", {"increment": 0}),
        ("/api/cures", {"finding": "roll_center", "increment": -1}),
        ("/api/cures", {"finding": "roll_center", "increment": 1e-9}),
        ("/api/settle", {"increment": 1e9}),
        ("/api/converge", {"kind": "upper", "point": [28.575, 500], "station": 700}),
        ("/api/converge", {"kind": "sideways", "point": [2000, 500], "station": 700}),
    ],
)
def test_nonsense_is_refused_in_words(call: Caller, path: str, body: dict[str, Any]) -> None:
    status, said = call("POST", path, {"document": DOCUMENT, **body})
    assert status == 422
    assert said["message"]


@pytest.mark.parametrize(
    "path", ["/api/pull", "/api/effects", "/api/cures", "/api/settle", "/api/converge", "/api/slack", "/api/school"]
)
def test_a_document_that_is_none_is_refused(call: Caller, path: str) -> None:
    assert call("POST", path, {"document": {"format": "other"}})[0] == 422


def test_the_layout_is_changed_and_what_cannot_be_is_said(call: Caller) -> None:
    def changed(change: dict[str, Any]) -> tuple[int, Any]:
        status, said = call("POST", "/api/layout", {"document": DOCUMENT, "change": change, "increment": 3.175})
        return status, said.get("document")

    status, found = changed({"do": "locator", "kind": "panhard"})
    assert (status, found["lateral"]["kind"]) == (200, "panhard")
    assert found["links"] == DOCUMENT["links"]
    assert len(changed({"do": "add", "kind": "upper", "side": "center"})[1]["links"]) == 5
    assert len(changed({"do": "leave_out", "link": "lower-left"})[1]["links"]) == 3
    assert changed({"do": "kind", "link": "lower-left", "kind": "radius_arm"})[1]["links"][0]["kind"] == "radius_arm"
    assert changed({"do": "leave_out", "link": "middle"})[0] == 422
    assert changed({"do": "wish"})[0] == 422


def test_converge(call: Caller) -> None:
    body = {"document": DOCUMENT, "kind": "lower", "point": [2650, 450], "station": 980}
    status, found = call("POST", "/api/converge", body)
    assert status == 200
    assert [hole["link"] for hole in found] == ["lower-left", "lower-right"]
    assert found[0]["at"][0] == 980


def test_register_names_everything_once(call: Caller) -> None:
    _, register = call("GET", "/api/register")
    assert len(register["uses"]) == 5
    assert len(register["schools"]) == 7
    names = [figure["id"] for figure in register["figures"]]
    assert len(names) == len(set(names))
    assert {"anti_squat", "roll_center", "pinion_change"} < set(names)
    assert {kind["key"] for kind in register["parts"]} >= {"lower", "upper", "radius_arm", "panhard", "watts", "slider"}
    assert register == json.loads((CONTRACT.parent / "register.json").read_text())


def test_alternative_keeps_its_reason_and_leaves_the_first_alone(call: Caller, design: int) -> None:
    body = {"name": "Uppers ahead", "why": "Keeps the tank"}
    status, other = call("POST", "/api/designs/{design_id}/alternatives", body, design_id=design)
    assert (status, other["number"], other["document"]["notes"]) == (201, 1, "Keeps the tank")
    assert other["design"] != design
    assert other["document"]["links"] == DOCUMENT["links"]
    assert call("GET", DESIGN, design_id=design)[1]["document"]["name"] == DOCUMENT["name"]
    assert call("POST", "/api/designs/{design_id}/alternatives", {"name": " "}, design_id=design)[0] == 422
    assert call("POST", "/api/designs/{design_id}/alternatives", body, design_id=9999)[0] == 404


def test_history_says_what_changed(call: Caller, design: int) -> None:
    for base, height in ((1, 400.0), (2, 410.0)):
        body = {"base": base, "truck": 1, "document": edited(DOCUMENT, height)}
        assert call("POST", REVISIONS, body, design_id=design)[0] == 201
    lines = call("GET", REVISIONS, design_id=design)[1]["lines"]
    assert [line["number"] for line in lines] == [3, 2, 1]
    assert lines[0]["changes"] == [{"what": "lower left axle mount", "axis": "z", "by": 10.0}]
    assert lines[-1]["changes"] == []


@pytest.mark.parametrize("units", ["in16", "in32", "inch", "mm"])
@pytest.mark.parametrize(("kind", "start"), [("svg", b"<svg"), ("pdf", b"%PDF")])
def test_shop_drawing(call: Caller, design: int, kind: str, start: bytes, units: str) -> None:
    answer = call.client.get(f"/api/designs/{design}/sheet.{kind}?units={units}")
    assert answer.status_code == 200
    assert answer.content.startswith(start)
    assert f"fell-tender--rear-r1.{kind}" in answer["Content-Disposition"]


def test_shop_drawing_of_nothing(call: Caller, design: int) -> None:
    assert call.client.get("/api/designs/9999/sheet.svg").status_code == 404
    assert call.client.get(f"/api/designs/{design}/sheet.dwg").status_code == 422
    assert call.client.get(f"/api/designs/{design}/sheet.svg?units=cubit").status_code == 422
    assert call.client.get(f"/api/designs/{design}/sheet.svg?paper=napkin").status_code == 422


def test_shop_drawing_on_the_paper_at_hand(call: Caller, design: int) -> None:
    for paper, wide in (("a3", "420mm"), ("a4", "297mm"), ("11x17", "431.8mm"), ("letter", "279.4mm")):
        answer = call.client.get(f"/api/designs/{design}/sheet.svg?paper={paper}")
        assert f'width="{wide}"'.encode() in answer.content


def test_the_cycle_as_rows_for_a_spreadsheet(call: Caller, design: int) -> None:
    answer = call.client.get(f"/api/designs/{design}/cycle.csv")
    assert answer["Content-Type"] == "text/csv; charset=utf-8"
    assert "fell-tender--rear-r1.csv" in answer["Content-Disposition"]
    lines = list(csv.DictReader(answer.content.decode().splitlines()))
    assert len(lines) == 2 * 41
    ride = next(line for line in lines if float(line["travel"]) == 0.0 and float(line["articulation"]) == 0.0)
    assert float(ride["pinion_change"]) == 0.0
    said = call("POST", "/api/cycle", {"document": json.loads(TENDER)})[1]
    assert float(ride["anti_squat"]) == pytest.approx(said["ride"]["columns"]["anti_squat"][0], abs=1e-6)
