"""What comes out of a printer: the page alone, whole, light, with its caution."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from shop import Server, from_menu, to_step

STEPS = ("Links", "Room", "Cycle", "Corners", "Weigh up", "Cut sheet", "Truck")
ON_THE_FLOOR = ("Links", "Room", "Corners", "Weigh up", "Cut sheet")


@pytest.fixture
def printed(server: Server, page: Page) -> Page:
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/links")
    expect(page.get_by_test_id("readings")).to_contain_text("%")
    from_menu(page, "Dark")
    return page


def on_paper(page: Page) -> None:
    page.evaluate("dispatchEvent(new Event('beforeprint'))")
    page.emulate_media(media="print")


def on_screen(page: Page) -> None:
    page.emulate_media(media="screen")
    page.evaluate("dispatchEvent(new Event('afterprint'))")


def box(page: Page, selector: str) -> Any:
    found = page.locator(selector).first.bounding_box()
    assert found is not None
    return found


def test_each_step_prints_its_page_alone_and_is_as_it_was_afterwards(printed: Page) -> None:
    page = printed
    page.set_viewport_size({"width": 760, "height": 1080})  # what an upright sheet has between its margins
    for step in STEPS:
        to_step(page, step)
        expect(page.get_by_role("link", name=re.compile(f"^{step}"))).to_have_attribute("aria-current", "page")
        if step in ON_THE_FLOOR:
            expect(page.locator("[aria-label='Rear view']")).to_be_visible()
        on_paper(page)
        expect(page.get_by_role("navigation", name="Steps of the job")).to_be_hidden()
        expect(page.get_by_role("button", name="Undo")).to_be_hidden()
        expect(page.get_by_test_id("next")).to_be_hidden()
        expect(page.get_by_text("An estimate from the figures entered").last).to_be_visible()
        assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"
        assert page.evaluate("document.documentElement.scrollWidth") <= 760
        if step in ON_THE_FLOOR:
            expect(page.get_by_text(re.compile("^Stop: ")).first).to_be_visible()  # a dimension goes nowhere without it
            drawing, below = box(page, "[data-testid=drawing]"), box(page, ".readings")
            for view in ("side", "top", "rear"):
                seen = box(page, f"[data-view={view}]")
                assert seen["x"] + seen["width"] <= drawing["x"] + drawing["width"] + 1, (step, view)
                assert seen["y"] + seen["height"] <= below["y"] + 1, (step, view)
        on_screen(page)
        assert page.evaluate("document.documentElement.dataset.theme") == "dark"
        expect(page.get_by_role("navigation", name="Steps of the job")).to_be_visible()


def test_a_sheet_that_is_open_prints_alone(printed: Page) -> None:
    page = printed
    page.get_by_role("button", name="History").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_be_visible()
    on_paper(page)
    expect(page.get_by_test_id("drawing")).to_be_hidden()
    expect(sheet).to_be_visible()
    on_screen(page)
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("drawing")).to_be_visible()
