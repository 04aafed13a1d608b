"""The real thing: the served page in headless Chromium against the real server on its own data."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, expect
from shop import CHROMIUM, Bench, Server

# Playwright's synchronous interface runs an event loop in this thread, which Django's ORM would take for async use.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
# Cures are worked out while the page waits: a busy machine takes its time.
expect.set_options(timeout=120_000)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return CHROMIUM


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("data")).start()
    yield running
    running.stop()


@pytest.fixture
def own_server(tmp_path: Path) -> Iterator[Server]:
    """A server of this test's own, to kill."""
    running = Server(tmp_path).start()
    yield running
    if running.process and running.process.poll() is None:
        running.stop()


@pytest.fixture
def context(browser: Browser) -> Iterator[BrowserContext]:
    made = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
    made.set_default_timeout(120_000)
    yield made
    made.close()


@pytest.fixture
def elsewhere(browser: Browser) -> Iterator[BrowserContext]:
    """Another device: it shares nothing with this one but the server."""
    made = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
    made.set_default_timeout(120_000)
    yield made
    made.close()


@pytest.fixture
def bench(context: BrowserContext, server: Server) -> Bench:
    return Bench(context.new_page(), server, server.new_design()).open()
