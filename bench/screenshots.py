"""Take the pictures in docs/screenshots anew, from the demo data: ``make screenshots``."""

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tests" / "browser")]

from shop import CHROMIUM, Bench, Server, from_menu

FOLDER = ROOT / "docs" / "screenshots"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data, sync_playwright() as play:
        server = Server(Path(data)).start()
        browser = play.chromium.launch(**CHROMIUM)
        for theme in ("light", "dark"):
            page = browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme=theme)
            home(page, server, theme)
            links(page, server, theme)
            if theme == "light":
                twisted(page, server)
                cure(page, server)
                tape(page, server)
                truck(page, server)
                room(page, server)
                corners(page, server)
                whole_cycle(page, server)
                weigh(page, server)
                cut(page, server)
                fit_up(page, server)
        tablet(browser, server)
        sheet(browser, server)
        browser.close()
        server.stop()


def named(server: Server, name: str) -> int:
    """The demo's design of that name."""
    builds = server.ask("GET", "/api/builds")["builds"]
    found: int = next(line["id"] for build in builds for line in build["designs"] if line["name"] == name)
    return found


def weigh(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/designs/{named(server, 'Ghyll special, rear')}/weigh")
    page.get_by_role("tab", name="Holes").click()
    page.get_by_role("button", name="Work out every combination").click()
    page.get_by_role("button", name="Show more bite").click()
    page.wait_for_timeout(3000)  # what speaks against holes comes last
    page.screenshot(path=FOLDER / "weigh-light.png")


def cut(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/designs/{named(server, 'Scree runner, rear')}/cut")
    page.locator("[data-part]").first.click()
    page.get_by_role("button", name="Take that tube, and for its mirror image").or_(
        page.get_by_text("No common tube")
    ).wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "cut-light.png")


def fit_up(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/designs/{named(server, 'Fell tender, rear')}/fit-up")
    page.locator("[data-gate]").first.wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "fit-up-light.png")


def home(page: Page, server: Server, theme: str) -> None:
    page.goto(server.url)
    page.get_by_text("Fell tender, front").first.wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / f"home-{theme}.png")


def links(page: Page, server: Server, theme: str) -> None:
    bench = Bench(page, server, named(server, "Fell tender, rear")).open()
    bench.choose("links.2.frame.at")
    page.locator('[data-reading="anti_squat"]').click()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / f"links-{theme}.png")


def twisted(page: Page, server: Server) -> None:
    """The front axle, up and twisted."""
    Bench(page, server, named(server, "Fell tender, front")).open()
    for name, key, times in (("Travel", "ArrowUp", 30), ("Articulation", "ArrowRight", 16)):
        strip = page.get_by_role("slider", name=name)
        strip.focus()
        for _ in range(times):
            strip.press(key)
    page.locator('[data-reading="roll_center"]').click()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "links-twisted-light.png")


def cure(page: Page, server: Server) -> None:
    """A finding on the gear van, one of its cures drawn over the design."""
    Bench(page, server, named(server, "Tarn van, rear")).open()
    page.locator('[data-finding="pinion_change"]').click()
    page.get_by_role("button", name="Look at it").first.click()
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "links-cure-light.png")


def tape(page: Page, server: Server) -> None:
    """The tape sheet, a few figures typed."""
    Bench(page, server, named(server, "Fell tender, rear")).open()
    page.keyboard.press("t")
    for row, text in enumerate(("15 1/2", "18", "a bit")):
        page.get_by_role("dialog").locator("tbody tr").nth(row).locator("input").first.fill(text)
    page.wait_for_timeout(300)
    page.screenshot(path=FOLDER / "tape-sheet.png")


def truck(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/designs/{named(server, 'Fell tender, rear')}/truck")
    page.get_by_text("Rear axle, turned left").wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "truck-light.png")


def room(page: Page, server: Server) -> None:
    """A keep-out of the tender's chosen, its measures beside."""
    page.goto(f"{server.url}/designs/{named(server, 'Fell tender, rear')}/room")
    page.get_by_role("list", name="Keep-outs").get_by_text("Water tank").click()
    page.get_by_role("tab", name="Sums").click()
    page.get_by_role("region", name="Travel budget").wait_for()
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "room-light.png")


def corners(page: Page, server: Server) -> None:
    """A shock of the runner's chosen, its figures and sizes; the ladder, dark."""
    page.goto(f"{server.url}/designs/{named(server, 'Scree runner, rear')}/corners")
    page.locator('[data-part="coilover-left"]').click()
    page.locator('[data-run="stroke_bump"]').wait_for()
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "corners-light.png")
    page.get_by_role("button", name="Choose nothing").click()
    from_menu(page, "Dark")
    page.get_by_role("tab", name="Ends").click()
    page.get_by_role("group", name="Ladder of what ends the travel").wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "corners-ends-dark.png")
    from_menu(page, "Light")


def whole_cycle(page: Page, server: Server) -> None:
    """The front axle's whole cycle; in the round, one wheel up."""
    page.goto(f"{server.url}/designs/{named(server, 'Fell tender, front')}/cycle")
    page.get_by_role("group", name="Whole cycle").wait_for()
    page.wait_for_timeout(2500)
    page.screenshot(path=FOLDER / "cycle-light.png")
    page.get_by_role("tab", name="Map").click()
    drawing = page.get_by_role("img", name="over travel and twist")
    drawing.wait_for()
    drawing.click(position={"x": 420, "y": 80})
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "cycle-map-light.png")
    page.get_by_role("tab", name="3-D").click()
    page.get_by_role("slider", name="Articulation").focus()
    page.keyboard.press("End")
    page.wait_for_timeout(2500)
    page.screenshot(path=FOLDER / "cycle-solid-light.png")


def tablet(browser: Browser, server: Server) -> None:
    page = browser.new_page(viewport={"width": 768, "height": 1024}, color_scheme="light")
    Bench(page, server, named(server, "Scree runner, rear")).open()
    page.wait_for_timeout(600)
    page.screenshot(path=FOLDER / "links-tablet.png")


def sheet(browser: Browser, server: Server) -> None:
    """The shop drawing, as a reader of SVG shows it."""
    page = browser.new_page(viewport={"width": 1260, "height": 891})
    design = named(server, "Fell tender, rear")
    page.set_content(
        f'<body style="margin:0"><img width="1260" src="{server.url}/api/designs/{design}/sheet.svg"></body>'
    )
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "shop-drawing.png")


if __name__ == "__main__":
    main()
