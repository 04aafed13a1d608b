"""The Corners area in the served page: a flaw found and mended, parts added and sized, the ladder, how it sits."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from shop import Server, axe_violations, until

Opened = Callable[[str], int]


@pytest.fixture
def at(server: Server, page: Page) -> Opened:
    """Opens a copy of a demo's design in the area; gives its number."""

    def opened(file: str) -> int:
        design = server.own_copy(file)
        page.goto(f"{server.url}/designs/{design}/corners")
        expect(page.get_by_test_id("corners")).to_be_visible()
        return design

    return opened


def shocks(server: Server, design: int) -> list[Any]:
    found: list[Any] = server.stored(design)["document"]["corners"]["shocks"]
    return found


def test_an_arm_that_would_roll_over_is_found_and_mended(server: Server, page: Page, at: Opened) -> None:
    design = at("scree-runner-rear")
    page.get_by_role("tab", name="Findings").click()
    expect(page.get_by_text("that the stops and straps let it come to")).to_be_visible()
    page.locator('[data-finding^="over"]').click()
    panel = page.get_by_role("region", name=re.compile("spring over the arm"))
    expect(panel).to_contain_text("pushes the arm to roll over")
    cure = panel.get_by_role("listitem").filter(has_text="lower eyes down")
    cure.get_by_role("button", name="Look at it").click()
    before = shocks(server, design)[0]["axle"]["at"][2]
    page.get_by_role("button", name="Take it").click()
    until(lambda: shocks(server, design)[0]["axle"]["at"][2] < before)
    expect(page.locator('[data-finding^="over"]')).to_have_count(0)
    assert shocks(server, design)[1]["axle"]["at"][2] == shocks(server, design)[0]["axle"]["at"][2]
    assert axe_violations(page) == []


def test_an_eye_is_dragged_and_sizes_are_typed_or_refused(server: Server, page: Page, at: Opened) -> None:
    design = at("fell-tender-rear")
    page.locator('[data-part="coilover-left"]').click()
    expect(page.locator('[data-run="stroke_bump"]')).to_contain_text("in")
    eye = page.locator('[aria-label="Rear view"] [data-mount="corners.shocks.0.frame.at"] .touch')
    box = eye.bounding_box()
    assert box is not None
    was = shocks(server, design)[0]["frame"]["at"]
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 12, box["y"] + box["height"] / 2, steps=4)
    page.mouse.up()
    until(lambda: shocks(server, design)[0]["frame"]["at"] != was)
    left, right = (shocks(server, design)[n]["frame"]["at"] for n in (0, 1))
    assert left == [right[0], -right[1], right[2]]
    chosen = page.get_by_role("region", name="Chosen")
    chosen.locator('[data-size="extended"]').fill("10")
    chosen.get_by_role("button", name="Take these sizes").click()
    expect(chosen.get_by_role("alert")).to_contain_text("longer extended than compressed")
    chosen.locator('[data-size="extended"]').fill("34 1/2")
    chosen.get_by_role("button", name="Take these sizes").click()
    until(lambda: abs(shocks(server, design)[1]["extended"] - 876.3) < 1e-6)
    assert axe_violations(page) == []


def test_the_ladder_and_how_it_sits_are_read_off(page: Page, at: Opened) -> None:
    at("tarn-van-rear")
    page.get_by_role("tab", name="Ends").click()
    ladder = page.get_by_role("group", name="Ladder of what ends the travel")
    expect(ladder).to_be_visible()
    rung = ladder.get_by_role("button", name=re.compile("Bump stop solid: holds it"))
    rung.press("Enter")
    expect(page.get_by_role("slider", name="Travel")).not_to_have_attribute("aria-valuetext", "0 in")
    assert axe_violations(page) == []
    page.get_by_role("tab", name="Sit").click()
    sits = page.get_by_role("region", name="How it sits").first
    expect(sits).to_contain_text(re.compile(r"in low"))
    expect(page.get_by_role("region", name="Air springs by pressure")).to_contain_text("Aired out")
    page.get_by_role("tab", name="Findings").click()
    page.locator('[data-finding="sits axle"]').click()
    cure = page.get_by_role("listitem").filter(has_text="Set the air springs to")
    expect(cure).to_be_visible()
    assert axe_violations(page) == []


def test_what_was_bought_is_added_placed_and_left_out_again(server: Server, page: Page) -> None:
    design = server.new_design()
    page.goto(f"{server.url}/designs/{design}/corners")
    expect(page.get_by_text("No spring, shock, stop or strap is placed yet.")).to_be_visible()
    for what in ("Coilovers", "Bump stops", "Limit straps"):
        page.get_by_role("button", name="Add a pair").click()
        page.get_by_role("option", name=what).click()
    until(lambda: len((server.stored(design)["document"].get("corners") or {}).get("straps") or []) == 2)
    page.locator('[data-part="coilover-left"]').click()
    page.get_by_role("button", name="Find places for it").click()
    places = page.get_by_role("region", name="Places for it")
    expect(places.get_by_role("listitem").or_(places.get_by_text("its stroke is too short")).first).to_be_visible()
    page.get_by_role("button", name="Leave it out, and its mirror image").click()
    until(lambda: not (server.stored(design)["document"]["corners"].get("shocks")))
    page.get_by_role("button", name="Undo").click()
    until(lambda: len(shocks(server, design)) == 2)
