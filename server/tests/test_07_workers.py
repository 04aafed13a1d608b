"""What is computed is computed elsewhere: ended at its limit, ended when its asker leaves, never in another's way."""

import json
import multiprocessing
import threading
import time
from collections.abc import Iterator
from contextlib import suppress
from typing import Any

import pytest
from speaking import TENDER, Caller

from builds import workers
from builds.questions.asking import InPose, done
from builds.questions.links import SettleIn
from builds.workers import Broke, Busy, Left, Pool, TooLong

DOCUMENT = json.loads(TENDER)
QUESTION = {"document": DOCUMENT, "travel": 0.0, "articulation": 0.0}
ASKED = InPose.model_validate(QUESTION)
LONG = SettleIn.model_validate({"document": DOCUMENT, "increment": 1.0})


@pytest.fixture(scope="module")
def pool() -> Iterator[Pool]:
    made = Pool(size=1, waiting=1, limit_s=300)
    made.ready("cycle", ASKED)
    yield made
    made.end()


def test_an_answer_is_the_same_as_worked_out_here(pool: Pool) -> None:
    assert pool.run("cycle", ASKED) == done("cycle", ASKED)


def test_a_refusal_is_an_answer(pool: Pool) -> None:
    said = pool.run("cycle", InPose.model_validate({**QUESTION, "document": {}}))
    assert said.status == 422
    assert json.loads(said.body)["faults"]


def test_what_takes_too_long_is_ended_and_the_next_is_answered() -> None:
    pool = Pool(size=1, waiting=1, limit_s=0.001)
    pool.ready("cycle", ASKED)
    begun = time.monotonic()
    with pytest.raises(TooLong):
        pool.run("settle", LONG)
    pool.limit_s = 300
    assert pool.run("cycle", ASKED).status == 200
    assert time.monotonic() - begun < 30
    pool.end()


def test_whose_asker_has_left_is_ended(pool: Pool) -> None:
    asked = threading.Event()

    def left() -> bool:
        asked.set()
        return True

    with pytest.raises(Left):
        pool.run("settle", heavy(), left)
    assert asked.is_set()
    assert pool.run("cycle", ASKED).status == 200


def heavy() -> SettleIn:
    """A design so far out that bringing it back takes a while."""
    far: dict[str, Any] = json.loads(TENDER)
    for link in far["links"]:
        link["frame"]["at"][2] += 120.0
    return SettleIn.model_validate({"document": far, "increment": 1.0})


def test_only_so_many_wait(pool: Pool) -> None:
    found: list[str] = []

    def ask() -> None:
        try:
            pool.run("settle", heavy())
            found.append("answered")
        except Busy:
            found.append("busy")

    askers = [threading.Thread(target=ask) for _ in range(6)]
    for asker in askers:
        asker.start()
    for asker in askers:
        asker.join()
    assert sorted(found) == ["answered", "answered", "busy", "busy", "busy", "busy"]


def test_what_nobody_foresaw_is_told_without_its_values(pool: Pool) -> None:
    with pytest.raises(Broke, match="TypeError in cycle") as broke:
        pool.run("cycle", {"document": DOCUMENT, "secret": "words of a document"})
    assert "words of a document" not in str(broke.value)
    assert pool.run("cycle", ASKED).status == 200


def test_a_process_that_dies_at_its_work_is_said_and_replaced(pool: Pool) -> None:
    found: list[Exception] = []

    def ask() -> None:
        try:
            pool.run("settle", heavy(), begun)
        except Broke as broke:
            found.append(broke)

    at_it = threading.Event()

    def begun() -> bool:
        at_it.set()
        return False

    asker = threading.Thread(target=ask)
    asker.start()
    assert at_it.wait(60)
    for process in multiprocessing.active_children():
        process.kill()
    asker.join()
    assert [str(one).partition(":")[0] for one in found] == ["the process ended while at settle"]
    assert pool.run("cycle", ASKED).status == 200


def test_processes_that_die_idle_are_replaced(pool: Pool) -> None:
    for process in multiprocessing.active_children():
        process.kill()
        process.join()
    with suppress(Broke):  # asked before the death was noticed
        pool.run("cycle", ASKED)
    assert pool.run("cycle", ASKED).status == 200


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("what", "status", "said"),
    [(Busy(), 503, "hands full"), (TooLong("30"), 503, "longer than 30 s"), (Left(), 503, "left")],
)
def test_each_is_said_in_the_apis_own_words(
    call: Caller, monkeypatch: pytest.MonkeyPatch, what: Exception, status: int, said: str
) -> None:
    def fails(*given: Any) -> None:
        raise what

    monkeypatch.setattr(workers, "run", fails)
    found, answer = call("POST", "/api/cycle", QUESTION)
    assert (found, said in answer["message"]) == (status, True)


@pytest.mark.django_db
def test_a_failure_is_said_with_its_number_in_the_log(
    call: Caller, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def fails(*given: Any) -> None:
        raise Broke("KeyError in cycle")

    monkeypatch.setattr(workers, "run", fails)
    answer = call.client.post("/api/cycle", json.dumps(QUESTION), content_type="application/json")
    number = answer["X-Request-Number"]
    assert answer.status_code == 500
    assert f"request {number}." in answer.json()["message"]
    assert f"request {number}: KeyError in cycle" in caplog.text
