"""A served Oak Lever and a hand at its Links screen, for tests, bench and pictures."""

import json
import os
import random
import re
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from contextlib import suppress
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, Page

ROOT = Path(__file__).resolve().parents[2]
ROOMY = (ROOT / "server" / "builds" / "demo" / "fell-tender-rear.json").read_text()
WHOLE = json.loads(ROOMY)
ROOMY = json.dumps({**WHOLE, "corners": None, "driveshaft": None})
TENDER = json.dumps({**json.loads(ROOMY), "room": None})
"""The demo's tender as links alone with nothing in its way; `ROOMY` with what is; `WHOLE` with all that runs."""
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"


CHROMIUM: dict[str, Any] = {
    "executable_path": shutil.which("chromium-headless-shell") or "/usr/bin/chromium",
    "args": [
        "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
        "--disable-component-update", "--disable-sync",
    ],
}  # fmt: skip


_PORTS = range(20_000, 32_000)
"""Below those that a machine gives to whoever connects: a server that was killed finds its own free again."""


def free_port() -> int:
    for port in random.SystemRandom().sample(_PORTS, len(_PORTS)):
        with socket.socket() as probe, suppress(OSError):
            probe.bind(("127.0.0.1", port))
            return port
    raise AssertionError("no port is free")


class Server:
    """Oak Lever as `make demo` runs it, on its own port and data; can be killed and started again."""

    def __init__(self, data: Path, **settings: str) -> None:
        self.data, self.port, self._settings = data, free_port(), settings
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[str] | None = None

    def start(self) -> "Server":
        command = [sys.executable, "server/manage.py", "serve", "--demo", "--port", str(self.port)]
        environment = {**os.environ, "OAK_LEVER_DATA": str(self.data), **self._settings}
        self.process = subprocess.Popen(
            command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        assert self.process.stdout is not None
        said = ""
        while "ready at" not in said:
            line = self.process.stdout.readline()
            assert line, f"the server ended: {said}"
            said += line
        # Whatever else it says is taken from it: a full pipe would hold it up.
        threading.Thread(target=self.process.stdout.read, daemon=True).start()
        return self

    def stop(self, how: signal.Signals = signal.SIGINT) -> None:
        assert self.process is not None
        self.process.send_signal(how)
        self.process.wait(60)

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.url + path, data, {"Content-Type": "application/json"}, method=method)
        with urllib.request.urlopen(request) as response:
            return json.loads(response.read() or b"null")

    def new_design(self) -> int:
        build = self.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})
        design: int = self.ask("POST", f"/api/builds/{build['id']}/designs", {"text": TENDER})["design"]
        return design

    def own_copy(self, file: str) -> int:
        """A demo's design in a build of its own, to change."""
        text = (ROOT / "server" / "builds" / "demo" / f"{file}.json").read_text()
        build = self.ask("POST", "/api/builds", {"name": "Own copy", "notes": ""})
        design: int = self.ask("POST", f"/api/builds/{build['id']}/designs", {"text": text})["design"]
        return design

    def stored(self, design: int) -> Any:
        return self.ask("GET", f"/api/designs/{design}")


def from_menu(page: Page, line: str) -> None:
    """Choose a line of what is rarely used: units, theme, keys."""
    page.get_by_role("button", name="Units, theme").press("Enter")
    page.get_by_role("menuitemradio", name=line, exact=True).or_(page.get_by_role("menuitem", name=line)).click()


def to_step(page: Page, name: str) -> None:
    """Go to a step of the job."""
    page.get_by_role("navigation", name="Steps of the job").get_by_role("link", name=re.compile(f"^{name}")).click()


def figure_field(page: Page, path: str) -> Locator:
    """Press a figure on the drawing of the truck; the field to set it by."""
    page.locator(f'[data-chip="{path}"]').click()
    return page.locator(f'input[data-figure="{path}"]')


def set_figure(page: Page, path: str, value: str) -> None:
    """Set a figure on the drawing of the truck, and go back to the drawing."""
    field = figure_field(page, path)
    field.fill(value)
    field.press("Enter")
    page.keyboard.press("Escape")
    field.wait_for(state="detached")


class Bench:
    """The Links screen as a hand and an eye know it."""

    def __init__(self, page: Page, server: Server, design: int) -> None:
        self.page, self.server, self.design = page, server, design

    def open(self) -> "Bench":
        self.page.goto(f"{self.server.url}/designs/{self.design}/links")
        self.page.get_by_test_id("readings").get_by_text("%", exact=False).first.wait_for()
        return self

    def mount(self, key: str, view: str = "Side, from the left") -> Locator:
        return self.page.locator(f'[aria-label="{view} view"] [data-mount="{key}"]')

    def drag(self, key: str, dx: float, dy: float, view: str = "Side, from the left", release: bool = True) -> None:
        box = self.mount(key, view).locator(".touch").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + dx, y + dy, steps=5)
        if release:
            self.page.mouse.up()

    def choose(self, key: str) -> None:
        """Choose a mount and take hold of it, by keys."""
        handle = self.mount(key)
        handle.focus()
        if "held" not in str(handle.get_attribute("aria-label")):
            self.page.keyboard.press("Enter")

    def field(self, axis: str) -> Locator:
        return self.page.locator(f'input[data-axis="{axis}"]')

    def reading(self, name: str) -> str:
        """What is judged of a figure, of the design as it is drawn."""
        self.judged()
        return self.page.locator(f'[data-reading="{name}"] .value').inner_text()

    def judged(self) -> None:
        """Wait until what is judged on screen is of the design as it is drawn."""
        self.page.locator('[data-testid="readings"][data-judged="as drawn"]').wait_for()

    def here(self, name: str) -> Locator:
        """What a figure is at the scrubber, beside what was judged of it."""
        return self.page.locator(f'[data-reading="{name}"] span.here')

    def state(self) -> Locator:
        return self.page.get_by_test_id("stored-state")

    def wait_stored(self, revision: int) -> None:
        self.page.get_by_text(f"Stored, revision {revision}", exact=True).wait_for()

    def at(self, link: int, end: str) -> list[float]:
        place: list[float] = self.server.stored(self.design)["document"]["links"][link][end]["at"]
        return place


def until(condition: Any, seconds: float = 90) -> None:
    """Wait for a condition outside the page."""
    end = time.monotonic() + seconds
    while not condition():
        assert time.monotonic() < end, "it did not come about"
        time.sleep(0.05)


def axe_violations(page: Page) -> list[str]:
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text())  # as a debugger does: the page itself may load no script but ours
    found = page.evaluate("async () => (await axe.run()).violations")
    return [f"{v['id']}: {node['html'][:120]}" for v in found for node in v["nodes"]]
