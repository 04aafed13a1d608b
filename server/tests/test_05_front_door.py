"""What comes in at the door: too much, too deep, unreadable; and what a page may do with what goes out."""

import json
import logging
import sys
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.db import OperationalError, connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from speaking import REVISIONS, TENDER, Caller, managed

from config.guard import WithoutValues

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
    most = settings.MOST_BYTES
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
    assert [line["revision"] for build in builds["builds"] for line in build["designs"]] == [6]
    read = [query["sql"] for query in asked.captured_queries if '"builds_revision"."packed"' in query["sql"]]
    assert len(read) == 1
    assert "LIMIT 1" in read[0]  # the newest of each, found in the database


def test_another_hosts_name_gets_nothing_not_even_files(client: Client) -> None:
    for path in ("/", "/api/builds", "/assets/index.js", "/favicon.ico"):
        answer = client.get(path, headers={"host": "elsewhere.test"})
        assert answer.status_code == 400
        assert "OAK_LEVER_HOSTS" in answer.json()["message"]


@pytest.mark.usefixtures("page")
def test_each_request_is_logged_by_number_and_nothing_that_a_document_says(
    client: Client, design: int, caplog: pytest.LogCaptureFixture
) -> None:
    caplog.set_level("INFO", "oak_lever")
    number = int(client.get(f"/api/designs/{design}")["X-Request-Number"])
    client.get("/api/builds", {"find": "secret words"})
    client.post("/api/builds", json.dumps({"name": "secret words"}), content_type="application/json")
    client.get("/secret-words")
    client.get("/api/secret-words")
    lines = [record.getMessage() for record in caplog.records if record.name == "oak_lever.requests"]
    assert lines[0].startswith(f"#{number} GET api/designs/{design} 200 ")
    assert [line.split()[0] for line in lines] == [f"#{number + n}" for n in range(5)]
    assert "secret" not in caplog.text


def test_a_failure_nobody_foresaw_is_logged_without_values(
    client: Client, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def fails() -> None:
        raise KeyError("secret words")

    client.raise_request_exception = False
    monkeypatch.setattr("builds.answers.health_data", fails)
    answer = client.get("/api/health")
    assert answer.status_code == 500
    assert answer["X-Request-Number"] in answer.json()["message"]
    record = logging.LogRecord("django", logging.ERROR, "", 0, "failed", (), None)
    try:
        fails()
    except KeyError:
        record.exc_info = sys.exc_info()
    said = WithoutValues("%(message)s").format(record)
    assert "KeyError" in said
    assert "in fails" in said
    assert "secret words" not in said.splitlines()[-1]


def test_a_store_that_fails_is_said_in_words(call: Caller, monkeypatch: pytest.MonkeyPatch) -> None:
    def fails(*given: Any) -> None:
        raise OperationalError("database or disk is full")

    monkeypatch.setattr("builds.actions.create_build", fails)
    status, said = call("POST", "/api/builds", {"name": "Yard truck", "notes": ""})
    assert (status, "disk is full" in said["message"]) == (503, True)


def test_what_a_deployment_is_warned_of_is_answered(tmp_path: Path) -> None:
    assert "no issues" in managed(tmp_path, "check", "--deploy", "--fail-level", "WARNING")


@pytest.mark.parametrize("path", ["/", "/api/builds", "/api/register", "/api/openapi.json", "/designs/1/links"])
def test_head_says_what_get_does_without_its_body(client: Client, path: str) -> None:
    whole, bare = client.get(path), client.head(path)
    assert bare.status_code == whole.status_code
    assert bare.content == b""
    for name in ("Content-Type", "Content-Length", "Content-Security-Policy"):
        assert bare.headers.get(name) == whole.headers.get(name)


@pytest.mark.parametrize(
    ("method", "path", "takes"),
    [("PUT", "/api/builds", "GET, POST"), ("BREW", "/api/health", "GET"), ("DELETE", "/", "GET"), ("HEAD", "/api/cycle", "POST"),
     ("POST", "/api/openapi.json", "GET")],
)  # fmt: skip
def test_a_method_that_an_address_does_not_take_is_refused_in_the_apis_own_words(
    client: Client, method: str, path: str, takes: str
) -> None:
    answer = client.generic(method, path)
    assert (answer.status_code, answer["Allow"]) == (405, takes)
    if method != "HEAD":
        assert answer.json() == {"message": f"This address does not take {method}. It takes {takes}.", "faults": []}


@pytest.mark.usefixtures("page")
def test_files_are_for_our_own_page_alone(client: Client) -> None:
    page = client.get("/").getvalue().decode()
    answer = client.get(page.split('src="')[1].split('"')[0])
    assert answer.status_code == 200
    assert "Access-Control-Allow-Origin" not in answer.headers
