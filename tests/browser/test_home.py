"""Home: the builds, a file brought in and refused, a design deleted and brought back."""

import json
import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect
from shop import TENDER, Server, axe_violations, from_menu

BUILDS = re.compile(r"/api/builds(\?.*)?$")


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """A server of Home's own: the newest builds stand first, and these tests look for the demo's."""
    running = Server(tmp_path_factory.mktemp("home")).start()
    yield running
    running.stop()


@pytest.fixture
def home(context: BrowserContext, server: Server) -> Page:
    page = context.new_page()
    page.goto(server.url)
    page.get_by_role("heading", name="Fell tender", exact=True).wait_for()
    return page


def test_demo_is_there_and_opens(home: Page) -> None:
    card = home.get_by_role("article", name="Fell tender")
    expect(card.get_by_role("listitem")).to_have_count(4)
    card.get_by_role("link", name="Fell tender, front").first.click()
    expect(home.get_by_role("heading", name="Fell tender, front")).to_be_visible()
    expect(home.get_by_text("Anti-dive")).to_be_visible()


def test_a_press_that_lasts_while_the_picture_comes_opens_the_design(context: BrowserContext, server: Server) -> None:
    page, held = context.new_page(), list[Route]()
    pictures = re.compile(r"/api/designs/\d+$")

    def hold(route: Route) -> None:
        held.append(route)

    page.route(pictures, hold)
    page.goto(server.url)
    link = page.get_by_role("article", name="Fell tender").get_by_role("link", name="Fell tender, front").first
    while len(held) < 4:  # the page's events come only while the page is waited for
        page.wait_for_timeout(20)
    box = link.locator("svg").bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    for route in list(held):
        route.continue_()
    page.route(pictures, lambda route: route.continue_())
    link.locator("svg path").first.wait_for(state="attached")
    page.mouse.up()
    expect(page.get_by_role("heading", name="Fell tender, front")).to_be_visible()


def test_build_is_started_and_a_file_brought_in(home: Page, tmp_path: Path) -> None:
    home.get_by_label("New build").fill("Snow plow")
    home.get_by_role("button", name="Start a build").click()
    card = home.get_by_role("article", name="Snow plow")
    expect(card).to_contain_text("No designs on the floor yet")
    file = tmp_path / "plow.json"
    file.write_text(json.dumps({**json.loads(TENDER), "name": "Plow, rear"}))
    card.locator("input[type=file]").set_input_files(file)
    expect(card.get_by_role("listitem")).to_contain_text("Plow, rear")


def test_bad_file_is_refused_with_every_fault(home: Page, tmp_path: Path) -> None:
    bad = json.loads(TENDER)
    bad["axle"]["track"] = 0
    bad["links"][1]["id"] = "lower-left"
    file = tmp_path / "bad.json"
    file.write_text(json.dumps(bad))
    card = home.get_by_role("article", name="Fell tender")
    card.locator("input[type=file]").set_input_files(file)
    alert = card.get_by_role("alert")
    expect(alert).to_contain_text("axle.track: must be more than 0")
    expect(alert).to_contain_text("links[1].id")
    expect(card.get_by_role("listitem")).to_have_count(4)


def test_deleted_design_can_be_brought_back(context: BrowserContext, server: Server) -> None:
    server.new_design()
    page = context.new_page()
    page.goto(server.url)
    before = page.get_by_role("listitem")
    expect(before.first).to_be_visible()
    count = before.count()
    page.get_by_role("button", name="Delete Fell tender, rear", exact=True).last.click()
    expect(page.get_by_role("listitem")).to_have_count(count - 1)
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_role("listitem")).to_have_count(count)


def test_builds_and_designs_are_renamed_binned_and_brought_back(home: Page, server: Server) -> None:
    build = server.stored(server.new_design())["build"]
    home.reload()
    card = home.locator(f'article[aria-labelledby="build-{build}"]')
    card.get_by_role("button", name="Rename the build Yard truck").click()
    home.get_by_label("Name", exact=True).fill("W" * 80)
    home.keyboard.press("Enter")
    expect(card.get_by_role("heading", name="W" * 80)).to_be_visible()
    assert home.evaluate("() => document.documentElement.scrollWidth <= innerWidth")
    card.get_by_role("button", name="Rename Fell tender, rear").click()
    home.get_by_label("Name", exact=True).fill("Longer uppers")
    home.keyboard.press("Enter")
    expect(card.get_by_text("Longer uppers")).to_be_visible()
    card.get_by_role("button", name="Delete Longer uppers").click()
    expect(card.get_by_text("“Longer uppers” is deleted")).to_be_visible()
    home.reload()
    home.get_by_role("button", name="Bin", exact=True).click()
    assert axe_violations(home) == []
    home.get_by_role("button", name="Bring it back: Longer uppers").click()
    expect(card.get_by_text("Longer uppers")).to_be_visible()


def test_server_gone_is_said(context: BrowserContext, server: Server) -> None:
    page = context.new_page()
    page.route(BUILDS, lambda route: route.abort())
    page.goto(server.url)
    expect(page.get_by_role("alert")).to_contain_text("does not answer")
    page.unroute(BUILDS)
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Fell tender", exact=True)).to_be_visible()


def test_nothing_stands_at_a_wrong_address(home: Page, server: Server) -> None:
    home.goto(f"{server.url}/nowhere")
    expect(home.get_by_text("Nothing stands here")).to_be_visible()


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("width", [1280, 768])
def test_axe_reports_nothing(home: Page, theme: str, width: int) -> None:
    home.set_viewport_size({"width": width, "height": 1024})
    if theme == "dark":
        from_menu(home, "Dark")
    assert axe_violations(home) == []


def test_design_is_started_from_a_layout_and_the_second_axle_asks_nothing_known(home: Page) -> None:
    home.get_by_label("New build").fill("Wood hauler")
    home.get_by_role("button", name="Start a build").click()
    card = home.get_by_role("article", name="Wood hauler")
    card.get_by_role("button", name="Start a design").click()
    sheet = home.get_by_role("dialog")
    sheet.get_by_role("button", name="Layout").click()
    home.get_by_role("option", name="Radius arms").click()
    wheelbase = sheet.get_by_label("Wheelbase")
    wheelbase.fill("a lot")
    expect(sheet.get_by_role("button", name="Put it on the floor")).to_be_disabled()
    wheelbase.fill("9' 2\"")
    assert axe_violations(home) == []
    sheet.get_by_role("button", name="Put it on the floor").click()
    expect(home.get_by_role("heading", name="Wood hauler, rear")).to_be_visible()
    expect(home.get_by_text("Nothing holds")).to_have_count(0)
    expect(home.get_by_text("Consider: Give needed")).to_be_visible()
    expect(home.get_by_role("row", name="Arm left")).to_be_visible()
    home.get_by_role("link", name="Oak Lever").click()
    card.get_by_role("button", name="Start a design").click()
    sheet.get_by_role("button", name="Axle").click()
    home.get_by_role("option", name="Front").click()
    expect(sheet.get_by_label("Wheelbase")).to_have_count(0)
    expect(sheet.get_by_label("Tire diameter")).to_have_count(0)
    sheet.get_by_role("button", name="Put it on the floor").click()
    expect(home.get_by_role("heading", name="Wood hauler, front")).to_be_visible()


def test_a_file_with_another_truck_is_asked_about(home: Page, server: Server, tmp_path: Path) -> None:
    build = server.stored(server.new_design())["build"]
    home.reload()
    other = json.loads(TENDER)
    other["name"], other["vehicle"]["mass"], other["axle"]["track"] = "Heavier, rear", 3500.0, 1700.0
    file = tmp_path / "heavier.json"
    file.write_text(json.dumps(other))
    card = home.locator(f'article[aria-labelledby="build-{build}"]')
    card.locator("input[type=file]").set_input_files(file)
    sheet = home.get_by_role("dialog")
    expect(sheet).to_contain_text("Mass of the whole truck")
    expect(sheet).to_contain_text("7716 lb")
    assert axe_violations(home) == []
    sheet.get_by_role("button", name="The truck’s mass of the whole truck").click()
    sheet.get_by_role("button", name="Bring it in").click()
    expect(card.get_by_role("listitem")).to_have_count(2)
    truck = server.ask("GET", f"/api/builds/{build}/truck")["document"]
    assert (truck["vehicle"]["mass"], truck["axles"]["rear"]["track"]) == (3500.0, 1682.75)


def test_a_screen_that_cannot_be_drawn_says_so(context: BrowserContext, server: Server) -> None:
    page = context.new_page()
    page.route(
        BUILDS,
        lambda route: route.fulfill(json={"builds": [{"id": 1, "name": "Broken"}], "before": None, "notices": []}),
    )
    page.goto(server.url)
    expect(page.get_by_role("alert")).to_contain_text("could not be drawn")
