"""What `make bench` prints: the core's speed, the command from cold, and a drag from pointer to screen."""

import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tests" / "browser")]

from oak_lever.api import (
    Wanted,
    clearances,
    cures,
    cycle,
    effects,
    figures_of_many,
    findings,
    mounts_of,
    pull,
    read_design,
    settle,
    shock_places,
    whole_map,
)  # fmt: skip
from oak_lever.design.gallery import layout
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, trace

FRONT = ROOT / "server" / "builds" / "demo" / "fell-tender-front.json"
TENDER = ROOT / "server" / "builds" / "demo" / "fell-tender-rear.json"


def timed(action: Callable[[], object], runs: int) -> list[float]:
    """Milliseconds of each run, sorted."""
    action()
    spent = []
    for _ in range(runs):
        start = time.perf_counter()
        action()
        spent.append((time.perf_counter() - start) * 1e3)
    return sorted(spent)


def say(what: str, spent: list[float]) -> None:
    print(f"{what:<64} p50 {spent[len(spent) // 2]:9.3f} ms   p95 {spent[int(len(spent) * 0.95)]:9.3f} ms")


def yardstick() -> list[float]:
    """A fixed piece of Python work, to compare machines and moments by."""
    return timed(lambda: sum(i * i for i in range(100_000)), 30)


def core() -> None:
    say("yardstick: 100,000 squares summed in Python", yardstick())
    tender = read_design(TENDER.read_bytes())
    say("cycle, four links: 41 + 41 rows, all fields", timed(lambda: cycle(tender), 200))
    watts = layout("parallel and watts on axle")
    say("cycle, four links and a Watts link (least give): 41 + 41 rows", timed(lambda: cycle(watts), 100))
    mechanism, plan = mechanism_of(tender), Plan()
    plan.heave(np.linspace(-tender.travel.droop, tender.travel.bump, 41))
    plan.twist(np.linspace(-tender.travel.articulation, tender.travel.articulation, 41))
    poses = plan.poses()
    say("  of it the kernel: 83 poses and their motions", timed(lambda: trace(mechanism, poses), 200))


def moving() -> None:
    tender = read_design(TENDER.read_bytes())
    cycled = cycle(tender)
    center = [Wanted("ic_x", 0, 0, 2400.0), Wanted("ic_height", 0, 0, 520.0)]
    say("findings on a cycled design", timed(lambda: findings(cycled), 100))
    say("pull the instant center to a place", timed(lambda: pull(tender, center), 40))
    say("what moves the pinion: 12 coordinates", timed(lambda: effects(tender, "pinion_change", 3.175), 20))
    say("cures of one finding", timed(lambda: cures(tender, "roll_center", 3.175), 10))
    front = read_design(FRONT.read_bytes())
    say("cycle and findings with corners, shaft and steering", timed(lambda: findings(cycle(front)), 20))
    say("a map of 41 x 21 poses, all figures", timed(lambda: whole_map(front), 20))
    say("places for a given shock", timed(lambda: shock_places(tender, "coilover-left", 3.175, "in16"), 5))
    say("clearances over 21 x 9 poses", timed(lambda: clearances(tender), 20))
    say("all findings at once", timed(lambda: settle(tender, 3.175), 5))


def batch(designs: int = 20_000, rows: int = 21) -> None:
    tender = read_design(TENDER.read_bytes())
    plan, base = Plan(), mounts_of(tender)
    plan.heave(np.linspace(-tender.travel.droop, tender.travel.bump, rows))
    poses = plan.poses()
    around = base + np.random.default_rng(1).uniform(-10, 10, (designs, *base.shape))
    spent = timed(lambda: figures_of_many(tender, around, poses), 5)
    say(f"batch: {designs:,} designs x {rows} poses, all instantaneous figures", spent)
    print(f"{'':<64} {designs / spent[len(spent) // 2] * 1e3:,.0f} designs a second")
    print(f"{'':<64} {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:,.0f} MB at most in the whole process")


def command() -> None:
    run = [str(Path(sys.executable).with_name("oak-lever")), "cycle", str(TENDER), "--json"]
    say(
        "oak-lever cycle, one file, a new process",
        timed(lambda: subprocess.run(run, capture_output=True, check=True), 7),
    )
    bare = [sys.executable, "-c", "import numpy, pydantic"]
    say("  of it starting Python with numpy and pydantic", timed(lambda: subprocess.run(bare, check=True), 7))


def drag(moves: int = 200) -> None:
    """From a pointer move to the frame in which the readings and links that answer it stand on the screen."""
    from playwright.sync_api import sync_playwright
    from shop import CHROMIUM, Bench, Server

    with tempfile.TemporaryDirectory() as data, sync_playwright() as play:
        server = Server(Path(data)).start()
        browser = play.chromium.launch(**CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        bench = Bench(page, server, server.new_design()).open()
        bench.drag("links.2.frame.at", 0, 4, release=False)
        page.evaluate(WATCH)
        spent = page.evaluate(DRAG, [moves])
        server_part = sorted(page.evaluate(SERVER_PART))
        page.mouse.up()
        browser.close()
        server.stop()
    say(f"drag: pointer move to readings and links drawn, {moves} moves", sorted(spent))
    say("  of it the request to the server", server_part)


WATCH = """() => { window.answered = null; window.spent = [];
  const list = document.querySelector('[data-testid="readings"]');
  new MutationObserver(() => { if (window.answered) { const done = window.answered; window.answered = null;
    requestAnimationFrame(() => done()); } }).observe(list, { characterData: true, childList: true, subtree: true, attributes: true });
  performance.setResourceTimingBufferSize(2000); performance.clearResourceTimings(); }"""

DRAG = """async ([moves]) => {
  const grip = document.querySelector('[aria-label^="Side"] [data-chosen="true"]');
  const box = grip.querySelector('.touch').getBoundingClientRect();
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const spent = [];
  for (let n = 0; n < moves; n++) {
    await new Promise((resolve) => setTimeout(resolve, 20 + (n % 5)));
    const start = performance.now();
    const done = new Promise((resolve) => { window.answered = resolve; });
    const where = { clientX: x + (n % 2 ? 9 : -9) + n / 50, clientY: y + (n % 7) * 2, pointerId: 1, bubbles: true, shiftKey: true };
    grip.dispatchEvent(new PointerEvent('pointermove', where));
    await Promise.race([done, new Promise((resolve) => setTimeout(resolve, 2000))]);
    spent.push(performance.now() - start);
  }
  return spent;
}"""

SERVER_PART = """() => performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/api/look')).map((e) => e.duration)"""


if __name__ == "__main__":
    print(f"{os.cpu_count()} cores, Python {sys.version.split()[0]}, numpy {np.__version__}")
    if "drag" not in sys.argv:
        core()
        moving()
        batch()
        command()
    drag()
