"""What comes from outside and does no good: a bench that hardly answers, files that cost much, connections half sent;
and a browser of two tabs whose network comes and goes."""

import base64
import math
import random
import socket
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from playwright.sync_api import Error, sync_playwright
from shop import CHROMIUM, Bench, Server

EIGHTH_MM = 3.175
MOUNT = "links.2.frame.at"
PATIENCE_S = 120


class SlowBench:
    """Answers every line with one byte a second."""

    def __init__(self) -> None:
        self._listening = socket.create_server(("127.0.0.1", 0))
        self.address = f"127.0.0.1:{self._listening.getsockname()[1]}"
        threading.Thread(target=self._serve, daemon=True).start()

    def _serve(self) -> None:
        with suppress(OSError):
            while True:
                one, _ = self._listening.accept()
                threading.Thread(target=self._dribble, args=(one,), daemon=True).start()

    def _dribble(self, one: socket.socket) -> None:
        with one, suppress(OSError):
            one.recv(1000)
            for byte in b"VALUE 1234.5 mm and so on without an end":
                one.sendall(bytes([byte]))
                time.sleep(1.0)

    def close(self) -> None:
        self._listening.close()


def drawing(chance: random.Random) -> bytes:
    """Sixty outlines of a thousand corners."""
    lines = ["0", "SECTION", "2", "ENTITIES"]
    for n in range(60):
        lines += ["0", "LWPOLYLINE", "8", f"L{n}", "90", "1000", "70", "1"]
        for k in range(1000):
            far = 100.0 * (1.0 + 0.1 * chance.gauss(0.0, 1.0))
            lines += ["10", f"{far * math.cos(k * math.tau / 1000)}", "20", f"{far * math.sin(k * math.tau / 1000)}"]
    return "\n".join([*lines, "0", "ENDSEC", "0", "EOF", ""]).encode()


def blocks() -> bytes:
    """A block in a block in a block, each put ten times."""
    lines = ["0", "SECTION", "2", "BLOCKS"]
    for n in range(9):
        lines += ["0", "BLOCK", "2", f"B{n}", "10", "0", "20", "0"]
        put = ["0", "INSERT", "2", f"B{n + 1}", "10", "1", "20", "1"]
        lines += put * 10 if n < 8 else ["0", "CIRCLE", "10", "0", "20", "0", "40", "5"]
        lines += ["0", "ENDBLK"]
    lines += ["0", "ENDSEC", "0", "SECTION", "2", "ENTITIES", "0", "INSERT", "2", "B0", "10", "0", "20", "0"]
    return "\n".join([*lines, "0", "ENDSEC", "0", "EOF", ""]).encode()


def solid(chance: random.Random) -> bytes:
    """A hundred thousand triangles between points on a ball."""
    count = 100_000
    return bytes(80) + count.to_bytes(4, "little") + chance.randbytes(50 * count)


def shape(chance: random.Random) -> dict[str, Any]:
    """A question to bring one of these in, at times cut short or with bytes of it changed."""
    kind, data = chance.choice([("dxf", drawing(chance)), ("dxf", blocks()), ("stl", solid(chance))])
    if chance.random() < 0.4:
        data = data[: chance.randrange(len(data))]
    if chance.random() < 0.4:
        spoiled = bytearray(data or b"x")
        for _ in range(20):
            spoiled[chance.randrange(len(spoiled))] = chance.randrange(256)
        data = bytes(spoiled)
    return {"kind": kind, "data": base64.b64encode(data).decode(), "name": "Drawing", "along": "y", "end": 20.0}


def half_send(server: Server, over: threading.Event) -> None:
    """Begin requests and leave them, two hundred at a time."""
    held: list[socket.socket] = []
    while not over.wait(0.05):
        with suppress(OSError):
            one = socket.create_connection(("127.0.0.1", server.port), timeout=5)
            one.sendall(b"POST /api/builds HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Le")
            held.append(one)
        if len(held) > 200:
            held.pop(0).close()
    for one in held:
        one.close()


class Browser:
    """Two tabs, each raising a mount of a design of its own, while the network goes and comes: all that was pressed is
    owed."""

    def __init__(self, server: Server, designs: tuple[int, int]) -> None:
        self.server = server
        self.pressed = dict.fromkeys(designs, 0)
        self._before = {design: self._height(design) for design in designs}

    def run(self, over: threading.Event, fail: Callable[[str], None]) -> None:
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(**CHROMIUM)
                try:
                    self._work(browser, over, fail)
                finally:
                    browser.close()
        except (Error, OSError) as error:
            fail(f"the browser: {str(error)[:600]}")

    def _work(self, browser: Any, over: threading.Event, fail: Callable[[str], None]) -> None:
        chance = random.Random(5)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.set_default_timeout(PATIENCE_S * 1000)
        tabs = {design: _opened(Bench(context.new_page(), self.server, design)) for design in self.pressed}
        while not over.is_set() or not all(self.pressed.values()):
            context.set_offline(chance.random() < 0.3)
            design, tab = chance.choice(list(tabs.items()))
            tab.page.bring_to_front()
            tab.choose(MOUNT)
            tab.page.keyboard.press("ArrowUp")
            self.pressed[design] += 1
            over.wait(chance.uniform(0.1, 1.5))
        context.set_offline(False)
        end = time.monotonic() + PATIENCE_S
        while time.monotonic() < end and not self._stored(tabs):
            tabs[chance.choice(list(tabs))].page.wait_for_timeout(500)  # its pages go on meanwhile
        if not self._stored(tabs):
            said = [tab.state().inner_text() for tab in tabs.values()]
            fail(f"what two tabs held is not stored: {self.pressed}, {said}")

    def _height(self, design: int) -> float:
        height: float = self.server.stored(design)["document"]["links"][2]["frame"]["at"][2]
        return height

    def _stored(self, tabs: dict[int, Bench]) -> bool:
        with suppress(OSError):
            return all(
                abs(self._height(design) - self._before[design] - self.pressed[design] * EIGHTH_MM) < 1e-3
                and not tab.page.get_by_test_id("waiting").count()
                for design, tab in tabs.items()
            )
        return False


LATE_S = 30.0
"""A page that says that it has not come whole is given so much longer: a busy machine may only be slow."""


def _opened(tab: Bench) -> Bench:
    """The tab once it is open: where the server is killed under it, it is opened again, as anyone would and as a page
    says that came without its script."""
    end = time.monotonic() + PATIENCE_S
    readings, late = tab.page.get_by_test_id("readings").get_by_text("%").first, tab.page.locator("#late")
    while True:
        try:
            tab.page.goto(f"{tab.server.url}/designs/{tab.design}/links")
            readings.or_(late).first.wait_for()
            readings.wait_for(timeout=LATE_S * 1000)
            return tab
        except Error as error:
            lost = "net::ERR_CONNECTION" in str(error) or late.count() > 0
            if not lost or time.monotonic() > end:
                raise
            tab.page.wait_for_timeout(100)


def memory_mb(process: int) -> float:
    """What a process and all that it started take of memory, each page counted once, MB."""
    parents = {}
    for place in Path("/proc").glob("[0-9]*"):
        with suppress(OSError, ValueError):
            parents[int(place.name)] = int((place / "stat").read_text().rpartition(")")[2].split()[1])
    family = {process}
    while more := {child for child, parent in parents.items() if parent in family} - family:
        family |= more
    total = 0
    for one in family:
        with suppress(OSError):
            rollup = Path(f"/proc/{one}/smaps_rollup").read_text()
            total += next(int(line.split()[1]) for line in rollup.splitlines() if line.startswith("Pss:"))
    return total / 1e3
