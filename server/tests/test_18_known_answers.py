"""A question that was answered is not worked out again; what is kept of answers has a bound."""

import json
from typing import Any

import pytest
from speaking import TENDER, Caller

from builds import api, workers
from builds.known_answers import KnownAnswers
from builds.questions.asking import Done

QUESTION = {"document": json.loads(TENDER), "travel": 12.5, "articulation": 0.75}


class Counted:
    """Works out an answer of so many bytes, and counts how often it was asked to."""

    def __init__(self, size: int = 10, status: int = 200) -> None:
        self.times, self.said = 0, Done(status, b"x" * size)

    def __call__(self) -> Done:
        self.times += 1
        return self.said


def test_the_same_message_is_worked_out_once_and_another_anew() -> None:
    known, work = KnownAnswers(), Counted()
    assert [known.of("cycle", b"one", work) for _ in range(3)] == [work.said] * 3
    assert work.times == 1
    known.of("cycle", b"two", work)
    known.of("look", b"one", work)
    assert work.times == 3


def test_a_refusal_is_worked_out_each_time() -> None:
    known, work = KnownAnswers(), Counted(status=422)
    assert [known.of("cycle", b"one", work).status for _ in range(2)] == [422, 422]
    assert work.times == 2


def test_what_failed_is_not_kept() -> None:
    known, work = KnownAnswers(), Counted()

    def fails() -> Done:
        raise workers.Busy

    with pytest.raises(workers.Busy):
        known.of("cycle", b"one", fails)
    assert known.of("cycle", b"one", work) == work.said


def test_the_longest_unasked_goes_first_and_what_is_too_large_is_given_and_not_kept() -> None:
    known, work, large = KnownAnswers(most_bytes=25), Counted(), Counted(size=25)
    for message in (b"one", b"two", b"one", b"three"):
        known.of("cycle", message, work)
    assert work.times == 3
    known.of("cycle", b"one", work)
    assert work.times == 3
    known.of("cycle", b"two", work)
    assert work.times == 4
    assert [known.of("cycle", b"large", large) for _ in range(2)] == [large.said] * 2
    assert large.times == 2


@pytest.mark.django_db
def test_an_address_gives_the_answer_that_it_gave(call: Caller, monkeypatch: pytest.MonkeyPatch) -> None:
    asked = list[str]()

    def counted(request: Any, job: str, question: Any) -> Done:
        asked.append(job)
        return workers.run(job, question)

    monkeypatch.setattr(api, "run", counted)
    first, again = (call("POST", "/api/cycle", QUESTION) for _ in range(2))
    assert first == again
    assert first[0] == 200
    assert asked == ["cycle"]
    assert call("POST", "/api/cycle", {**QUESTION, "travel": 13.0})[1] != first[1]
    assert asked == ["cycle", "cycle"]
