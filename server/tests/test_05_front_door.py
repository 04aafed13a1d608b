"""What comes in at the door: too much, too deep, unreadable; and what a page may do with what goes out."""

import json
from typing import Any

import pytest
from django.conf import settings
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from speaking import REVISIONS, TENDER, Caller

pytestmark = pytest.mark.django_db

DOCUMENT = json.loads(TENDER)


def nested(levels: int) -> Any:
    """Objects in one another, so many."""
    data: Any = {}
    for _ in range(levels - 1):
        data = {"in": data}
    return data


def test_what_is_saved_can_be_read_back_however_deep(call: Caller, design: int) -> None:
    """An unknown key may nest as deep as a file: to 64 levels, the document's own and its key's among them."""
    head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
    for levels, status in ((63, 201), (64, 422), (200, 422)):
        body = {
            "base": head["number"],
            "truck": head["truck"],
            "document": {**head["document"], "extra": nested(levels)},
        }
        answer = call.client.post(
            REVISIONS.replace("{design_id}", str(design)), json.dumps(body), content_type="application/json"
        )
        assert answer.status_code == status
        if status == 422:
            assert "nested deeper" in answer.json()["message"]
    kept = call.client.get(f"/api/designs/{design}")
    assert kept.status_code == 200
    assert kept.json()["document"]["extra"] == nested(63)


def test_a_body_beyond_the_bound_is_refused_in_the_apis_own_words(client: Client) -> None:
    most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
    assert most is not None
    text = json.dumps({"name": "x" * most, "notes": ""})
    answer = client.post("/api/builds", text, content_type="application/json")
    assert (answer.status_code, answer["Content-Type"]) == (413, "application/json")
    assert "are taken at most" in answer.json()["message"]


@pytest.mark.parametrize("body", [b"nonsense", b"\xff\xfe", b'{"name": '])
def test_a_body_that_is_no_json_is_refused_in_the_apis_own_words(client: Client, body: bytes) -> None:
    answer = client.post("/api/builds", body, content_type="application/json")
    assert answer.status_code == 400
    assert answer.json()["message"]
    assert answer.json()["faults"] == []


@pytest.mark.parametrize("path", ["/api/builds", "/", "/designs/1/links", "/api/nothing"])
def test_no_other_page_frames_ours_or_lends_it_scripts(client: Client, path: str) -> None:
    answer = client.get(path)
    assert answer["X-Frame-Options"] == "DENY"
    policy = answer["Content-Security-Policy"]
    assert "frame-ancestors 'none'" in policy
    assert "default-src 'self'" in policy
    assert "script-src" not in policy  # scripts fall under the default: files of this server, none in the page


def test_home_reads_the_newest_of_each_design_only(call: Caller, design: int) -> None:
    url = REVISIONS.replace("{design_id}", str(design))
    for number in range(1, 6):
        head = call("GET", "/api/designs/{design_id}", design_id=design)[1]
        changed = {**head["document"], "notes": f"edit {number}"}
        body = {"base": number, "truck": head["truck"], "document": changed}
        assert call.client.post(url, json.dumps(body), content_type="application/json").status_code == 201
    with CaptureQueriesContext(
        connection,
    ) as asked:
        builds = call("GET", "/api/builds")[1]
    assert [line["revision"] for build in builds for line in build["designs"]] == [6]
    read = [query["sql"] for query in asked.captured_queries if '"builds_revision"."text"' in query["sql"]]
    assert len(read) == 1
    assert "LIMIT 1" in read[0]  # the newest of each, found in the database
