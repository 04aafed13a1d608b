"""Instruments: the line protocol, the simulated bench, and what the API says of it."""

import json
import math
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest
from speaking import Caller

from instruments import line
from instruments.own import BENCH
from instruments.simulated import Bench

pytestmark = pytest.mark.django_db
TRUCK = Path(__file__).parents[1] / "builds" / "demo" / "fell-tender-truck.json"


def steady(seed: int = 1) -> Bench:
    return Bench(json.loads(TRUCK.read_text()), seed)


def value(bench: Bench, asked: str) -> float:
    """Past the readings that do not come."""
    for _ in range(20):
        kind, _, rest = bench.answer(asked).partition(" ")
        if kind == "VALUE":
            return float(rest.split()[0])
    raise AssertionError(bench.answer(asked))


def test_a_tape_reads_what_lies_between_two_points_with_its_noise() -> None:
    bench = steady()
    marks = {mark["id"]: mark["at"] for mark in json.loads(TRUCK.read_text())["marks"]}
    want = math.dist(marks["cab-left"], marks["tail-right"])
    read = [value(bench, "READ tape distance cab-left tail-right") for _ in range(200)]
    assert sum(read) / len(read) == pytest.approx(want, abs=0.3)
    assert 0.4 < math.sqrt(sum((r - want) ** 2 for r in read) / len(read)) < 1.3


def test_a_gauge_shows_the_complement_when_it_was_zeroed_the_other_way() -> None:
    bench = steady()
    along = value(bench, "READ gauge rear_pinion along")
    assert value(bench, "READ gauge rear_pinion square") == pytest.approx(90 - along, abs=0.5)
    assert bench.answer("ZERO gauge plumb") == "OK"
    assert value(bench, "READ gauge rear_pinion along") == pytest.approx(90 - along, abs=0.5)


def test_the_scales_add_up_and_gain_when_the_other_end_is_raised() -> None:
    bench = steady()
    wheels = sum(
        value(bench, f"READ scale {end} {side} level") for end in ("front", "rear") for side in ("left", "right")
    )
    assert wheels == pytest.approx(3100.0, abs=15.0)
    assert value(bench, "READ scale front both rear 550") > value(bench, "READ scale front both level") + 50.0


def test_a_reading_in_many_does_not_come() -> None:
    bench = steady()
    answers = [bench.answer("READ gauge rear_pinion along") for _ in range(400)]
    assert 4 <= sum(one.startswith("NONE No steady") for one in answers) <= 40


@pytest.mark.parametrize(
    "asked",
    ["READ tape distance cab-left nowhere", "READ tape distance cab-left", "READ tape blue a b", "READ anvil", "READ",
     "ZERO gauge sideways", "SING", "READ scale front left rear 99999", "READ tape distance cab-left rear-hub-up"],
)  # fmt: skip
def test_what_cannot_be_read_says_so(asked: str) -> None:
    bench = steady()
    assert {bench.answer(asked).partition(" ")[0] for _ in range(5)} == {"NONE"}


@pytest.fixture
def bench(monkeypatch: pytest.MonkeyPatch) -> Iterator[subprocess.Popen[str]]:
    monkeypatch.setenv(BENCH.variable, "")
    process = BENCH.start(str(TRUCK))
    assert process is not None
    yield process
    process.kill()
    process.wait(10)


def test_the_bench_is_a_process_of_its_own_that_ends_with_whoever_started_it(bench: subprocess.Popen[str]) -> None:
    where = BENCH.address()
    assert where is not None
    assert line.instruments(where) == ["tape", "gauge", "scale"]
    assert BENCH.start(str(TRUCK)) is None  # one is set already
    assert bench.stdin is not None
    bench.stdin.close()
    bench.wait(10)
    with pytest.raises(line.Lost):
        line.instruments(where)


def test_the_api_reads_zeroes_and_says_what_went_wrong(call: Caller, bench: subprocess.Popen[str]) -> None:
    assert call("GET", "/api/instruments") == (200, {"names": ["tape", "gauge", "scale"], "why": ""})
    asked = {"instrument": "gauge", "what": "rear_pinion along"}
    read = [call("POST", "/api/instruments/read", asked) for _ in range(12)]
    values = [said["value"] for status, said in read if status == 200]
    assert values
    assert all(said["unit"] == "deg" for status, said in read if status == 200)
    assert call("POST", "/api/instruments/zero", {"on": "plumb"})[0] == 204
    turned = [call("POST", "/api/instruments/read", asked) for _ in range(12)]
    assert all(said["value"] == pytest.approx(90 - values[0], abs=1.0) for status, said in turned if status == 200)
    status, said = call("POST", "/api/instruments/read", {"instrument": "tape", "what": "distance here there"})
    assert (status, said["message"]) == (409, "There is nothing here by that name.") or "steady" in said["message"]
    assert call("POST", "/api/instruments/zero", {"on": "head"})[0] == 422
    bench.kill()
    bench.wait(10)
    status, said = call("POST", "/api/instruments/read", asked)
    assert status == 409
    assert "does not answer" in said["message"]
    assert call("GET", "/api/instruments")[1]["names"] == []


def test_without_a_bench_there_is_none(call: Caller, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv(BENCH.variable, raising=False)
    assert call("GET", "/api/instruments") == (200, {"names": [], "why": "No bench is set."})
    assert call("POST", "/api/instruments/read", {"instrument": "tape", "what": ""})[0] == 409
    assert call("POST", "/api/instruments/zero", {"on": "level"})[0] == 409


@contextmanager
def answering(talk: Callable[[socket.socket], None]) -> Iterator[tuple[str, int]]:
    """A bench that anybody may have built: `talk` says what it likes to whoever asks."""
    with socket.create_server(("127.0.0.1", 0)) as there:

        def serve() -> None:
            with suppress(OSError):
                while True:
                    one, _ = there.accept()
                    threading.Thread(target=each, args=(one,), daemon=True).start()

        def each(one: socket.socket) -> None:
            with one, suppress(OSError):
                one.recv(600)
                talk(one)

        threading.Thread(target=serve, daemon=True).start()
        yield there.getsockname()[:2]
        with suppress(OSError):
            there.shutdown(socket.SHUT_RDWR)  # whoever waits for a caller is told


@pytest.mark.parametrize(
    ("says", "error"),
    [(b"VALUE 12", line.Lost), (b"", line.Lost), (b"VALUE blue mm\n", line.NoReading), (b"VALUE 3 furlongs\n", line.NoReading),
     (b"NONE\n", line.NoReading), (b"\xff\xfe\n", line.NoReading), (b"VALUE nan mm\n", line.NoReading),
     (b"VALUE inf mm\n", line.NoReading), (b"VALUE 1e300 mm\n", line.NoReading), (b"VALUE 3 kg\n", line.NoReading),
     (b"VALUE 3 \x1b[2Jmm\n", line.NoReading), (b"NONE \x07ring\n", line.NoReading), (b"VALUE 1_000 mm\n", line.NoReading),
     (b"x" * 5000, line.Lost), (b"VALUE 3 mm" + b" " * 600 + b"\n", line.Lost)],
)  # fmt: skip
def test_whatever_else_answers_is_no_reading(says: bytes, error: type[Exception]) -> None:
    with answering(lambda one: one.sendall(says)) as where, pytest.raises(error) as raised:
        line.read(where, "tape", "", wait_s=2.0)
    assert str(raised.value).isprintable()


@pytest.mark.parametrize(
    ("instrument", "says", "right"),
    [("scale", "-3 kg", False), ("scale", "812.5 kg", True), ("scale", "1790 lb", True), ("scale", "812.5 deg", False),
     ("gauge", "181 deg", False), ("gauge", "-4.5 deg", True), ("gauge", "4.5 mm", False), ("tape", "3 deg", False),
     ("tape", "118.25 in", True), ("tape", "90000 mm", False), ("scale", "50000 kg", False), ("anvil", "3 mm", False)],
)  # fmt: skip
def test_a_reading_is_of_its_instruments_kind_and_within_its_range(instrument: str, says: str, right: bool) -> None:
    with answering(lambda one: one.sendall(f"VALUE {says}\n".encode())) as where:
        if right:
            assert line.read(where, instrument, "") == (float(says.split(maxsplit=1)[0]), says.split()[1])
        else:
            with pytest.raises(line.NoReading):
                line.read(where, instrument, "")


def trickled(one: socket.socket) -> None:
    for _ in range(200):
        one.sendall(b"V")
        time.sleep(0.05)


def test_an_answer_that_trickles_in_has_one_deadline_and_few_wait_for_it() -> None:
    """Each byte comes in time, the whole never: it is given up as a whole; and others than the few are told at once."""
    with answering(trickled) as where:
        begun, lost = time.monotonic(), list[str]()

        def asks() -> None:
            try:
                line.read(where, "tape", "", wait_s=0.6)
            except line.Lost as why:
                lost.append(str(why))

        askers = [threading.Thread(target=asks) for _ in range(line.AT_ONCE + 3)]
        for one in askers:
            one.start()
        for one in askers:
            one.join()
        # had each byte begun the wait anew, it would have gone on for the 200 of them
        assert time.monotonic() - begun < 200 * 0.05
    assert sum("busy" in why for why in lost) == 3
    assert sum("took too long" in why for why in lost) == line.AT_ONCE


def test_what_would_be_two_lines_is_not_asked() -> None:
    with pytest.raises(line.NoReading):
        line.read(("127.0.0.1", 1), "tape", "a\nZERO gauge level")
    with pytest.raises(line.NoReading):
        line.read(("127.0.0.1", 1), "tape", "a\rb")


def test_by_hand_it_says_its_port() -> None:
    started = subprocess.Popen(
        [sys.executable, "-m", "instruments.simulated", str(TRUCK), "--seed", "3"], cwd=TRUCK.parents[2],
        stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert started.stdout is not None
    assert "listens on 127.0.0.1 port" in started.stdout.readline()
    started.terminate()
    started.wait(10)
    started.stdout.close()
