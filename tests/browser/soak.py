"""A bad day in the shop, all of it at once: edits, kills, nonsense, eight tablets that ask for advice without end; two
tabs whose network goes and comes, files that cost much, a bench that hardly answers, connections half sent.

What is owed: no edit that was acknowledged or is held on a device is lost, no answer is a failure of the server's but
"too busy" in words, a drag goes on, and a backup taken in the middle is the store at one moment.
"""

import http.client
import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections import Counter
from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass, field
from functools import partial
from itertools import islice
from pathlib import Path
from typing import Any

from dragging import Drag
from hostile import Browser, SlowBench, half_send, memory_mb, shape
from shop import ROOT, TENDER, Server

DOCUMENT = json.loads(TENDER)
ADVICE: list[tuple[str, dict[str, Any]]] = [
    ("effects", {"increment": 1.0}),
    ("cures", {"finding": "pinion_change", "increment": 1.0, "units": "mm"}),
    ("settle", {"increment": 1.0}),
    ("school", {"units": "mm"}),
    ("pull", {"wanted": [{"figure": "anti_squat", "travel": 0.0, "articulation": 0.0, "value": 80.0}]}),
]
NONSENSE: list[Any] = [None, 0, -1, 1e308, -1e308, "", "\ud800", [], {}, "NaN", 2**70, True]
EDITORS, TABLETS, FUZZERS = 4, 8, 2
STEPS_ALONE = 100
OTHER_MACHINES = 19
"""How much all that asks gives way (nice) to the server and the drag: it stands for machines beside this one."""
AWAY = (urllib.error.URLError, http.client.HTTPException, OSError)
"""What is met while the server is dead."""


@dataclass
class Told:
    """What happened."""

    acknowledged: dict[int, dict[int, float]] = field(default_factory=dict)
    answers: Counter[int] = field(default_factory=Counter)
    failures: list[str] = field(default_factory=list)
    alone_ms: list[float] = field(default_factory=list)
    drags_ms: list[float] = field(default_factory=list)
    healths_ms: list[float] = field(default_factory=list)
    most_mb: float = 0.0
    pressed: int = 0
    kills: int = 0

    def edits(self) -> int:
        return sum(map(len, self.acknowledged.values()))


def under(times_ms: list[float], share: float) -> float:
    """The time that this share of them took at most."""
    return sorted(times_ms)[int(share * (len(times_ms) - 1))] if times_ms else 0.0


class Soak:
    def __init__(self, data: Path) -> None:
        self.bench = SlowBench()
        self.server = Server(data, OAK_LEVER_BENCH=self.bench.address).start()
        self.told = Told()
        self.over, self.up = threading.Event(), threading.Event()
        self.up.set()

    def run(self, seconds: float, kills: int) -> Told:
        self._drag_alone()
        designs = [self.server.new_design() for _ in range(EDITORS)]
        browser = Browser(self.server, (self.server.new_design(), self.server.new_design()))
        doing: list[Callable[[], None]] = [
            *(partial(self._edit, design) for design in designs),
            *(partial(self._ask_advice, n) for n in range(TABLETS)),
            *(partial(self._ask_nonsense, n) for n in range(FUZZERS)),
            self._bring_in, self._read_the_bench, self._ask_how_it_is, self._weigh,
            partial(half_send, self.server, self.over),
            partial(browser.run, self.over, self.told.failures.append),
        ]  # fmt: skip
        workers = [threading.Thread(target=self._elsewhere(one)) for one in doing]
        self.drag = Drag(self.server.port)
        workers += [threading.Thread(target=self._drag)]
        for worker in workers:
            worker.start()
        end = time.monotonic() + seconds
        for n in range(kills + 1):
            time.sleep(max(0.0, end - time.monotonic()) / (kills + 1 - n))
            if n == kills // 2:
                self.owed = {design: dict(numbers) for design, numbers in self.told.acknowledged.items()}
                self.backup = self._back_up()
            if n < kills:
                self._kill()
        self.over.set()
        self.drag.let_go()
        for worker in workers:
            worker.join()
        self.told.pressed = sum(browser.pressed.values())
        self.server.stop()
        self.bench.close()
        return self.told

    def _kill(self) -> None:
        self.up.clear()
        self.server.stop(signal.SIGKILL)
        self.told.kills += 1
        self.server.start()
        self.up.set()

    def _back_up(self) -> Path:
        target = self.server.data / "in-the-middle.sqlite3"
        self._manage(self.server.data, "backup_store", str(target))
        return target

    def _manage(self, data: Path, *command: str) -> None:
        subprocess.run(
            [sys.executable, "server/manage.py", *command], cwd=ROOT, check=True, stdout=subprocess.DEVNULL,
            env={**os.environ, "OAK_LEVER_DATA": str(data)},
        )  # fmt: skip

    def _ask(self, method: str, path: str, body: bytes | None) -> tuple[int, bytes] | None:
        """An answer; None where the server was dead or died meanwhile."""
        request = urllib.request.Request(
            self.server.url + path, body, {"Content-Type": "application/json"}, method=method
        )
        try:
            try:
                with urllib.request.urlopen(request, timeout=60) as response:
                    status, said = response.status, response.read()
            except urllib.error.HTTPError as error:
                status, said = error.code, error.read()
        except AWAY:
            self.up.wait(60)
            return None
        self.told.answers[status] += 1
        if status >= 500 and not (status == 503 and b'"message"' in said):
            self.told.failures.append(f"{method} {path}: {status} {said[:200]!r}")
        return status, said

    def _elsewhere(self, doing: Callable[[], None]) -> Callable[[], None]:
        """What is done on another machine, as far as one can have that here."""

        def done() -> None:
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), OTHER_MACHINES)
            doing()

        return done

    def _again(self, doing: Callable[[], None]) -> None:
        while not self.over.is_set():
            doing()

    def _edit(self, design: int) -> None:
        kept = self.told.acknowledged.setdefault(design, {})
        chance = random.Random(design)

        def edit() -> None:
            head = self._ask("GET", f"/api/designs/{design}", None)
            if head is None:
                return
            stored = json.loads(head[1])
            number, document = stored["number"], stored["document"]
            if kept and number < max(kept):
                self.told.failures.append(f"design {design} went back from revision {max(kept)} to {number}")
            height = round(chance.uniform(300, 500), 3)
            document["links"][0]["axle"]["at"][2] = height
            body = json.dumps({"base": number, "truck": stored["truck"], "document": document}).encode()
            answer = self._ask("POST", f"/api/designs/{design}/revisions", body)
            if answer is not None and answer[0] == 201:
                kept[json.loads(answer[1])["number"]] = height

        self._again(edit)

    def _ask_advice(self, which: int) -> None:
        chance = random.Random(which)

        def ask() -> None:
            job, question = chance.choice(ADVICE)
            self._ask("POST", f"/api/{job}", json.dumps({**question, "document": DOCUMENT}).encode())

        self._again(ask)

    def _ask_nonsense(self, which: int) -> None:
        chance = random.Random(which)

        def ask() -> None:
            document = json.loads(TENDER)
            for _ in range(chance.randint(0, 3)):
                holder: Any = document
                while isinstance(holder, dict | list) and holder:
                    key = chance.choice(list(holder) if isinstance(holder, dict) else range(len(holder)))
                    if chance.random() < 0.4 or not isinstance(holder[key], dict | list):
                        holder[key] = chance.choice(NONSENSE)
                        break
                    holder = holder[key]
            job, question = chance.choice(ADVICE)
            question = {**question, "document": document}
            if chance.random() < 0.3:
                question[chance.choice(list(question))] = chance.choice(NONSENSE)
            body = json.dumps(question).encode()
            if chance.random() < 0.2:
                body = body[: chance.randrange(len(body))]
            path = chance.choice([f"/api/{job}", "/api/cycle", "/api/builds", "/api/designs/1/revisions"])
            self._ask(chance.choice(["POST", "POST", "POST", "PUT", "GET"]), path, body)

        self._again(ask)

    def _drag_alone(self) -> None:
        drag = Drag(self.server.port)
        self.told.alone_ms += islice(drag.steps(), STEPS_ALONE)
        drag.let_go()

    def _drag(self) -> None:
        for took in self.drag.steps():
            self.told.drags_ms.append(took)

    def _bring_in(self) -> None:
        chance = random.Random(3)
        self._again(lambda: self._ask("POST", "/api/bring", json.dumps(shape(chance)).encode()) and None)

    def _read_the_bench(self) -> None:
        body = json.dumps({"instrument": "tape", "what": "distance fl fr"}).encode()
        self._again(lambda: self._ask("POST", "/api/instruments/read", body) and None)

    def _ask_how_it_is(self) -> None:
        def ask() -> None:
            begun = time.perf_counter()
            answer = self._ask("GET", "/api/health", None)
            if answer is not None:
                self.told.healths_ms.append((time.perf_counter() - begun) * 1e3)
            time.sleep(0.1)

        self._again(ask)

    def _weigh(self) -> None:
        def weigh() -> None:
            process = self.server.process
            if process is not None:
                self.told.most_mb = max(self.told.most_mb, memory_mb(process.pid))
            self.over.wait(2.0)

        self._again(weigh)

    def check(self, elsewhere: Path) -> None:
        """Hold the store, and the backup restored, against what was acknowledged."""
        final = _rows(self.server.data / "oak-lever.sqlite3")
        self._hold(self.server.data, self.told.acknowledged)
        elsewhere.mkdir()
        self._manage(elsewhere, "restore_store", str(self.backup))
        past = _rows(elsewhere / "oak-lever.sqlite3")
        for table, rows in past.items():
            assert rows == final[table][: len(rows)], f"{table} was never so"
        assert 0 < len(past["builds_revision"]) < len(final["builds_revision"])
        self._hold(elsewhere, self.owed)

    def _hold(self, data: Path, acknowledged: dict[int, dict[int, float]]) -> None:
        """Every acknowledged edit is there as it was acknowledged: by the server that a user would start on it."""
        server = Server(data).start()
        try:
            for design, numbers in acknowledged.items():
                for number, height in numbers.items():
                    document = server.ask("GET", f"/api/designs/{design}/revisions/{number}")["document"]
                    found = document["links"][0]["axle"]["at"][2]
                    assert found == height, f"design {design}, revision {number}: {found}, acknowledged was {height}"
        finally:
            server.stop()


def _rows(path: Path) -> dict[str, list[Any]]:
    with closing(sqlite3.connect(path)) as store:
        tables = ("builds_build", "builds_design", "builds_truckrevision", "builds_revision")
        return {table: store.execute(f"SELECT * FROM {table} ORDER BY id").fetchall() for table in tables}
