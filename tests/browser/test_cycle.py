"""The Cycle area in the served page: curves, map, shaft, steering, joints, schools, hand check, complaints, 3-D."""

import re

import pytest
from playwright.sync_api import Page, expect
from shop import Server, axe_violations, until


@pytest.fixture
def front(server: Server, page: Page) -> int:
    """A copy of the tender's front axle, open in the area."""
    design = server.own_copy("fell-tender-front")
    page.goto(f"{server.url}/designs/{design}/cycle")
    expect(page.get_by_test_id("cycle")).to_be_visible()
    return design


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def test_the_whole_cycle_is_one_page_that_is_saved(page: Page, front: int) -> None:
    sheet = page.get_by_role("group", name="Whole cycle")
    expect(sheet).to_contain_text("Does the shaft live?")
    expect(sheet.get_by_role("img", name=re.compile("^Knuckle turns left: over the travel"))).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save as SVG").click()
    text = saved.value.path().read_text()
    assert "Fell tender, front, revision" in text
    assert "An estimate from the figures entered" in text
    assert "var(--" not in text
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save as PNG").click()
    assert saved.value.path().read_bytes()[:4] == b"\x89PNG"
    assert axe_violations(page) == []


def test_the_map_is_pressed_played_and_said(page: Page, front: int) -> None:
    tab(page, "Map")
    drawing = page.get_by_role("img", name=re.compile("^Turned in plan, to the left over travel and twist"))
    box = drawing.bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.8, box["y"] + box["height"] * 0.3)
    expect(page.get_by_role("slider", name="Articulation")).not_to_have_attribute("aria-valuetext", "level")
    page.get_by_role("button", name="Figure").click()
    page.get_by_role("option", name="Knuckle turns left").click()
    expect(page.get_by_role("img", name=re.compile("^Knuckle turns left over"))).to_be_visible()
    page.get_by_role("button", name="A curb").click()
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    page.get_by_role("button", name="Stop", exact=True).click()
    assert axe_violations(page) == []


def test_the_pinion_is_turned_by_what_the_gauge_read(server: Server, page: Page, front: int) -> None:
    tab(page, "Driveline")
    form = page.get_by_role("form", name="Read on the gauge")
    form.get_by_label("Read at the pinion, degrees").fill("7")
    form.get_by_role("button", name="What to turn").click()
    expect(page.get_by_text(re.compile("Turn it 4.5°, its nose down"))).to_be_visible()
    page.get_by_role("button", name="Set the design’s pinion so").click()
    until(lambda: abs(server.stored(front)["document"]["axle"]["pinion"]["angle"] - 2.5) < 1e-6)
    assert axe_violations(page) == []


def test_bump_steer_is_found_and_mended_by_an_end_of_the_drag_link(server: Server, page: Page, front: int) -> None:
    tab(page, "Steering")
    expect(page.get_by_role("region", name="Panhard bar and drag link")).to_contain_text("Slope from behind")
    page.locator('[data-finding="bump_steer drag-link"]').click()
    cure = page.get_by_role("list", name="Cures, the least costly first").get_by_role("listitem").first
    expect(cure).to_contain_text("Drag link joint")
    cure.get_by_role("button", name="Look at it").click()
    page.get_by_role("button", name="Take it").click()
    expect(page.locator('[data-finding="bump_steer drag-link"]')).to_have_count(0)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Undo").click()


def test_joints_schools_and_complaints_say_what_the_figures_bear_out(page: Page, front: int) -> None:
    tab(page, "Joints")
    rows = page.get_by_role("list", name="Joints, the nearest to its limit first").locator("[data-joint]")
    expect(rows).to_have_count(8)
    rows.first.click()
    expect(page.get_by_text(re.compile("A softer end goes at the"))).to_be_visible()
    assert axe_violations(page) == []
    tab(page, "Schools")
    schools = page.get_by_role("list", name="Schools")
    expect(schools).to_contain_text("Panhard bar level at mid travel.")
    expect(schools).to_contain_text(re.compile(r"Turns the caster \d"))
    assert axe_violations(page) == []
    tab(page, "What would explain it")
    expect(page.get_by_text("It wanders or steers itself")).to_be_visible()
    page.get_by_role("button", name="What it takes to change it").first.click()
    expect(page.get_by_role("button", name="Put it away")).to_be_visible()
    assert axe_violations(page) == []


def test_a_hand_cycle_is_typed_and_laid_over_the_prediction(server: Server, page: Page, front: int) -> None:
    tab(page, "Hand check")
    page.get_by_role("slider", name="Travel").focus()
    page.keyboard.press("End")
    form = page.get_by_role("form", name="Add a reading")
    form.get_by_label("Read, from ride").fill("9")
    form.get_by_role("button", name="Add the reading").click()
    table = page.get_by_role("table", name="Readings of the hand cycle")
    expect(table).to_contain_text("too far")
    until(lambda: len(server.stored(front)["document"]["hand"]) == 1)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Leave out reading 1").click()
    expect(table).to_have_count(0)


def test_it_is_seen_in_the_round_by_hand_and_by_keys(page: Page, front: int) -> None:
    scripts: list[str] = []
    page.on("request", lambda request: scripts.append(request.url))
    tab(page, "3-D")
    stage = page.get_by_role("application")
    expect(stage.or_(page.get_by_text("draws nothing in the round here")).first).to_be_visible()
    assert any("Solid" in url for url in scripts)  # it came only now
    if stage.count():
        page.get_by_role("button", name="Rear", exact=True).click()
        expect(stage).to_have_attribute("aria-label", re.compile("rear"))
        stage.focus()
        page.keyboard.press("ArrowLeft")
        page.get_by_role("button", name="Part").click()
        page.get_by_role("option", name="Panhard bar").click()
        expect(stage).to_have_attribute("aria-label", re.compile("is chosen"))
    assert axe_violations(page) == []
