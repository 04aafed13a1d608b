"""The API: what is kept, what is refused, what two editors see. Every answer is held against the contract."""

import json
from typing import Any

import pytest
from django.core.management import call_command
from django.test import Client
from speaking import CONTRACT, DESIGN, REVISIONS, TENDER, Caller, edited

from builds.actions import create_build
from builds.api import api
from builds.models import Build, Revision

pytestmark = pytest.mark.django_db


def test_contract_file_is_what_the_api_says() -> None:
    assert json.loads(CONTRACT.read_text()) == json.loads(json.dumps(api.get_openapi_schema(), default=str))


def test_demo_loads_once(call: Caller) -> None:
    call_command("load_demo", verbosity=0)
    first = call("GET", "/api/builds")[1]
    call_command("load_demo", verbosity=0)
    assert call("GET", "/api/builds")[1] == first
    tender = first["builds"][0]
    assert [line["layout"] for line in tender["designs"]] == [
        "four links",
        "four links",
        "four links",
        "three links and a panhard bar",
    ]


def test_build_is_started_and_a_file_brought_in_and_saved_again(call: Caller) -> None:
    status, build = call("POST", "/api/builds", {"name": "  Yard truck ", "notes": ""})
    assert (status, build["name"]) == (201, "Yard truck")
    text = TENDER.replace('"notes"', '"shop": {"bay": 2}, "notes"', 1)
    status, revision = call("POST", "/api/builds/{build_id}/designs", {"text": text}, build_id=build["id"])
    assert (status, revision["number"]) == (201, 1)
    file = call.client.get(f"/api/designs/{revision['design']}/file")
    assert json.loads(file.content) == json.loads(text)
    assert "fell-tender" in file["Content-Disposition"]


START = {
    "name": "Yard truck", "layout": "parallel_watts", "school": "hold_pinion", "end": "rear", "tire_diameter": 840,
    "track": 1600, "wheelbase": 2700, "rail_underside": 520, "rail_width": 860,
}  # fmt: skip


def test_design_is_started_from_a_layout(call: Caller) -> None:
    build = create_build("Yard truck")
    status, revision = call("POST", "/api/builds/{build_id}/starts", START, build_id=build.pk)
    assert (status, revision["number"]) == (201, 1)
    assert revision["document"]["lateral"]["kind"] == "watts"


@pytest.mark.parametrize(
    "wrong", [{"track": -5}, {"layout": "rope"}, {"name": " "}, {"wheelbase": None}, {"track": 1e9}]
)
def test_start_that_makes_no_sense_is_refused(call: Caller, wrong: dict[str, Any]) -> None:
    build = create_build("Yard truck")
    assert call("POST", "/api/builds/{build_id}/starts", {**START, **wrong}, build_id=build.pk)[0] == 422
    assert not build.designs.exists()


def test_each_edit_is_a_new_revision_and_the_old_ones_stay(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    for number, height in ((2, 401.0), (3, 402.0)):
        status, stored = call(
            "POST", REVISIONS, {"base": number - 1, "truck": 1, "document": edited(document, height)}, design_id=design
        )
        assert (status, stored["number"]) == (201, number)
    assert [line["number"] for line in call("GET", REVISIONS, design_id=design)[1]["lines"]] == [3, 2, 1]
    first = call("GET", "/api/designs/{design_id}/revisions/{number}", design_id=design, number=1)[1]
    assert first["document"] == document


def test_later_save_against_an_older_revision_is_refused_with_both_at_hand(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    call("POST", REVISIONS, {"base": 1, "truck": 1, "document": edited(document, 401.0)}, design_id=design)
    status, said = call(
        "POST", REVISIONS, {"base": 1, "truck": 1, "document": edited(document, 402.0)}, design_id=design
    )
    assert status == 409
    assert said["newest"]["number"] == 2
    assert said["newest"]["document"]["links"][0]["axle"]["at"][2] == 401.0
    assert Revision.objects.count() == 2


def test_a_save_whose_answer_was_lost_can_be_sent_again(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    edit = {"base": 1, "truck": 1, "document": edited(document, 401.0)}
    assert call("POST", REVISIONS, edit, design_id=design)[1]["number"] == 2
    assert call("POST", REVISIONS, edit, design_id=design)[1]["number"] == 2
    assert Revision.objects.count() == 2


@pytest.mark.parametrize("base", [0, -1, 7])
def test_a_base_that_never_was_is_a_conflict(call: Caller, design: int, base: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    edit = {"base": base, "truck": 1, "document": edited(document, 401.0)}
    assert call("POST", REVISIONS, edit, design_id=design)[0] == 409


def test_refused_document_says_every_fault_and_stores_nothing(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    document["axle"]["track"] = -1
    document["links"][0]["axle"]["at"] = document["links"][0]["frame"]["at"]
    status, said = call("POST", REVISIONS, {"base": 1, "truck": 1, "document": document}, design_id=design)
    assert status == 422
    assert [fault["path"] for fault in said["faults"]] == ["axle.track", "links[0]"]
    assert Revision.objects.count() == 1


@pytest.mark.parametrize("text", ["", "nonsense", "[]", '{"format": "oak-lever-design", "version": 3}'])
def test_file_that_is_no_design_is_refused(call: Caller, text: str) -> None:
    build = create_build("Yard truck")
    status, said = call("POST", "/api/builds/{build_id}/designs", {"text": text}, build_id=build.pk)
    assert status == 422
    assert said["faults"]
    assert not build.designs.exists()


def test_empty_name_is_refused(call: Caller) -> None:
    assert call("POST", "/api/builds", {"name": "   "})[0] == 422
    assert not Build.objects.exists()


def test_deleted_design_says_so_and_comes_back_whole(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    assert call("DELETE", DESIGN, design_id=design, base=1)[0] == 204
    assert call("GET", DESIGN, design_id=design)[0] == 410
    edit = {"base": 1, "truck": 1, "document": edited(document, 401.0)}
    assert call("POST", REVISIONS, edit, design_id=design)[0] == 410
    assert call("GET", "/api/builds")[1]["builds"][0]["designs"] == []
    assert call("POST", "/api/designs/{design_id}/restore", design_id=design)[1]["document"] == document


def test_a_build_is_renamed_binned_and_brought_back_with_its_designs(call: Caller, design: int) -> None:
    build = Build.objects.get().pk
    path = "/api/builds/{build_id}"
    assert (
        call("PUT", path, {"base": 1, "name": " Tender two ", "notes": "new"}, build_id=build)[1]["name"]
        == "Tender two"
    )
    assert call("PUT", path, {"base": 2, "name": " ", "notes": ""}, build_id=build)[0] == 422
    assert call("DELETE", path, build_id=build, base=2)[0] == 204
    assert call("GET", "/api/builds")[1]["builds"] == []
    assert call("GET", DESIGN, design_id=design)[0] == 410
    binned = call("GET", "/api/bin")[1]
    assert [one["name"] for one in binned["builds"]] == ["Tender two"]
    assert binned["designs"] == []
    assert call("POST", f"{path}/restore", build_id=build)[1]["designs"][0]["id"] == design
    assert call("GET", DESIGN, design_id=design)[0] == 200


def test_the_bin_holds_designs_until_they_are_brought_back(call: Caller, design: int) -> None:
    call("DELETE", DESIGN, design_id=design, base=1)
    (binned,) = call("GET", "/api/bin")[1]["designs"]
    assert (binned["id"], binned["build"]) == (design, "Fell tender")
    call("DELETE", "/api/builds/{build_id}", build_id=Build.objects.get().pk, base=1)
    assert call("POST", "/api/designs/{design_id}/restore", design_id=design)[0] == 200
    assert len(call("GET", "/api/builds")[1]["builds"][0]["designs"]) == 1
    assert call("GET", "/api/bin")[1] == {"builds": [], "designs": [], "unreadable": []}


def test_the_reason_of_an_alternative_stands_by_it(call: Caller, design: int) -> None:
    body = {"name": "Short upper", "why": "the crossmember is in the way\nand the tank"}
    call("POST", "/api/designs/{design_id}/alternatives", body, design_id=design)
    lines = call("GET", "/api/builds")[1]["builds"][0]["designs"]
    assert lines[1]["why"] == "the crossmember is in the way"


def test_what_never_was_is_not_found(call: Caller) -> None:
    assert call("GET", DESIGN, design_id=999)[0] == 404
    assert call("POST", "/api/builds/{build_id}/designs", {"text": TENDER}, build_id=999)[0] == 404
    for number in (2**31, 2**63, 10**40):
        assert call("GET", "/api/builds/{build_id}/truck", build_id=number)[0] == 404
        path = "/api/builds/{build_id}/truck/revisions/{number}"
        assert call("GET", path, build_id=number, number=number)[0] == 404


def test_revisions_are_written_once(design: int) -> None:
    revision = Revision.objects.get(design_id=design)
    with pytest.raises(TypeError):
        revision.save()
    with pytest.raises(TypeError):
        revision.delete()


def test_cycle_answers_in_columns(call: Caller) -> None:
    question = {"document": json.loads(TENDER), "travel": 60.0, "articulation": 5.0}
    status, said = call("POST", "/api/cycle", question)
    looked = call("POST", "/api/look", question)
    assert looked == (200, {key: said[key] for key in ("links", "here", "misalignment", "carried")})
    assert status == 200
    assert said["here"]["columns"]["travel"] == [60.0]
    assert said["here"]["columns"]["articulation"] == [5.0]
    assert len(said["heave"]["columns"]["anti_squat"]) == 41
    assert said["stops"]["heave"] == [None, None]


def test_cycle_of_a_loose_axle_is_an_answer_not_an_error(call: Caller) -> None:
    document = json.loads(TENDER)
    document["links"].pop()
    status, said = call("POST", "/api/cycle", {"document": document, "travel": 0, "articulation": 0})
    assert status == 200
    assert not said["located"]
    assert said["findings"][0]["id"] == "loose"
    assert said["here"]["state"][0][0] is None


@pytest.mark.parametrize("travel", [None, "up", 1e9, -1e9])
def test_cycle_asked_for_nonsense_is_refused(call: Caller, travel: Any) -> None:
    question = {"document": json.loads(TENDER), "travel": travel, "articulation": 0}
    assert call("POST", "/api/cycle", question)[0] == 422


def test_page_of_another_site_may_not_write() -> None:
    refused = Client().post(
        "/api/builds", json.dumps({"name": "x"}), content_type="application/json", HTTP_ORIGIN="http://elsewhere.test"
    )
    assert refused.status_code == 403
    assert not Build.objects.exists()


def test_stranger_host_is_refused() -> None:
    assert Client().get("/api/builds", HTTP_HOST="elsewhere.test").status_code == 400
