"""Long work is begun by one, looked at by anybody who knows its number, and ended; what it finds is shown meanwhile."""

import json
import multiprocessing
import time
from collections.abc import Iterator
from typing import Any

import pytest
from speaking import TENDER, Caller

from builds import long_work
from builds.long_work import LongWork, Unknown
from builds.questions.asking import json_bytes
from builds.questions.weigh_up import HoleMapIn
from builds.workers import Broke, Busy
from oak_lever.api import design_from, hole_map

BEGIN, LOOK = "/api/work/hole_map", "/api/work/hole_map/{number}"


def racked(rows: int) -> dict[str, Any]:
    """The tender with three racks of so many holes: as many combinations as their cube."""
    document: dict[str, Any] = json.loads(TENDER)
    zones = []
    for link in (0, 2):
        for end in ("axle", "frame"):
            mount = document["links"][link][end]["at"]
            holes = [[mount[0], mount[1], mount[2] + 12.0 * n] for n in range(rows)]
            name = f"{document['links'][link]['id']}.{end}"
            zones.append(
                {"id": f"rack-{link}-{end}", "name": "", "mounts": [name], "region": {"kind": "holes", "at": holes}}
            )
    document["room"] = {"zones": zones[:3]}
    document["unpaired"] = [f"{link['id']}.{end}" for link in document["links"] for end in ("axle", "frame")]
    return document


def asked(rows: int) -> HoleMapIn:
    return HoleMapIn.model_validate({"document": racked(rows)})


@pytest.fixture
def work() -> Iterator[LongWork]:
    made = LongWork(size=1, waiting=1, limit_s=600, lower=0)
    yield made
    made.stop()


@pytest.fixture
def served(monkeypatch: pytest.MonkeyPatch, work: LongWork) -> LongWork:
    monkeypatch.setattr("builds.api.LONG_WORK", work)
    return work


def watched(work: LongWork, number: str) -> None:
    """Look at it until it is done."""
    while work.look(number).state != "done":
        time.sleep(0.02)


def through(call: Caller, number: str) -> list[dict[str, Any]]:
    """Every look at it until it is over."""
    looks: list[dict[str, Any]] = []
    while not looks or looks[-1]["state"] in ("waiting", "going"):
        status, said = call("GET", LOOK, number=number)
        assert status == 200
        looks.append(said)
        time.sleep(0.02)
    return looks


@pytest.mark.django_db
def test_it_grows_before_ones_eyes_to_what_the_core_says(call: Caller, served: LongWork) -> None:
    status, begun = call("POST", BEGIN, {"document": racked(8)})
    assert status == 202
    looks = through(Caller(), begun["number"])  # another page looks
    so_far = [one for one in looks if one["state"] == "going"]
    assert so_far
    assert [one["share"] for one in so_far] == sorted(one["share"] for one in so_far)
    done = looks[-1]
    assert (done["state"], done["share"]) == ("done", 1.0)
    whole = hole_map(design_from(racked(8)))
    said = {"sites": whole.sites, "combinations": whole.combinations}
    assert {name: done["result"][name] for name in said} == json.loads(json_bytes(said))
    assert [one["combination"] for one in done["result"]["against"]] == list(range(len(whole.combinations)))
    for one in so_far:
        many = len(one["result"]["combinations"])
        looked_at = len(one["result"]["against"])
        assert one["share"] == pytest.approx(0.3 * many / 512 + 0.7 * looked_at / 512, abs=1e-5)
        assert one["result"]["combinations"] == done["result"]["combinations"][:many]


@pytest.mark.django_db
def test_a_refusal_is_what_it_comes_to(call: Caller, served: LongWork) -> None:
    _, begun = call("POST", BEGIN, {"document": json.loads(TENDER) | {"room": None}})
    said = through(call, begun["number"])[-1]
    assert said["state"] == "refused"
    assert "there is no rack" in said["message"]
    assert said["faults"][0]["path"] == "room.zones"


@pytest.mark.django_db
def test_what_is_ended_is_gone_and_the_next_is_done(call: Caller, served: LongWork) -> None:
    _, long = call("POST", BEGIN, {"document": racked(27)})
    while served.look(long["number"]).state == "waiting":
        time.sleep(0.02)
    status, _ = call("DELETE", LOOK, number=long["number"])
    assert status == 204
    status, said = call("GET", LOOK, number=long["number"])
    assert status == 404
    assert "begin it anew" in said["message"]
    _, next_one = call("POST", BEGIN, {"document": racked(2)})
    assert through(call, next_one["number"])[-1]["state"] == "done"


@pytest.mark.django_db
def test_only_so_many_wait(call: Caller, served: LongWork) -> None:
    for _ in range(2):
        assert call("POST", BEGIN, {"document": racked(27)})[0] == 202
    status, said = call("POST", BEGIN, {"document": racked(2)})
    assert status == 503
    assert "hands full" in said["message"]


def test_its_limit_is_said() -> None:
    short = LongWork(size=1, waiting=1, limit_s=0.01, lower=0)
    number = short.begin("hole_map", asked(27))
    while (look := short.look(number)).state in ("waiting", "going"):
        time.sleep(0.02)
    assert look.state == "failed"
    assert "longer than" in look.message
    short.stop()


def test_a_process_that_dies_is_said_and_replaced(work: LongWork) -> None:
    number = work.begin("hole_map", asked(27))
    while work.look(number).state == "waiting":
        time.sleep(0.02)
    for process in multiprocessing.active_children():
        process.kill()
    with pytest.raises(Broke, match="the process ended while at hole_map"):
        watched(work, number)
    another = work.begin("hole_map", asked(2))
    watched(work, another)


def test_the_latest_are_remembered(work: LongWork, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(long_work, "_KEPT", 1)
    numbers = []
    for _ in range(3):
        numbers.append(work.begin("hole_map", asked(2)))
        watched(work, numbers[-1])
    with pytest.raises(Unknown):
        work.look(numbers[0])
    assert work.look(numbers[2]).state == "done"


def test_busy_is_raised_before_anything_is_kept() -> None:
    full = LongWork(size=0, waiting=0, limit_s=1, lower=0)
    with pytest.raises(Busy):
        full.begin("hole_map", asked(2))
