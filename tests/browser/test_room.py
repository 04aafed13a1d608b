"""Layout in place, clearances, and the truck's raw readings, in the served page."""

import json
import re

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from shop import TENDER, Bench, Server, axe_violations, until

TANK = {
    "id": "tank", "name": "Fuel tank", "on": "frame", "gap": 25.4,
    "solid": {"kind": "box", "center": [520.0, 0.0, 760.0], "size": [420.0, 380.0, 200.0]},
}  # fmt: skip


def test_locator_and_links_are_exchanged_and_undone(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("l")
    pane = page.get_by_role("region", name="Layout")
    expect(pane.get_by_role("button", name="Back to the mounts")).to_be_focused()
    pane.get_by_role("button", name="Locator").click()
    page.get_by_role("option", name="Panhard bar").click()
    expect(pane).to_contain_text("house proportions")
    until(lambda: (bench.server.stored(bench.design)["document"]["lateral"] or {}).get("kind") == "panhard")
    pane.get_by_role("button", name="Leave out upper left").click()
    until(lambda: len(bench.server.stored(bench.design)["document"]["links"]) == 3)
    assert axe_violations(page) == []
    pane.get_by_role("button", name="Add a link").click()
    page.get_by_role("option", name="Upper link, left").click()
    until(lambda: len(bench.server.stored(bench.design)["document"]["links"]) == 4)
    ends = {link["id"]: link["frame"]["at"] for link in bench.server.stored(bench.design)["document"]["links"]}
    assert ends["upper-left"] == [ends["upper-right"][0], -ends["upper-right"][1], ends["upper-right"][2]]
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
    until(lambda: bench.server.stored(bench.design)["document"]["lateral"] is None)
    pane.get_by_role("button", name="Back to the mounts").click()
    expect(page.get_by_role("region", name="Mount")).to_be_visible()


def test_a_loose_axle_says_so_and_can_be_held_again(bench: Bench) -> None:
    page = bench.page
    page.get_by_role("button", name="Layout").click()
    page.get_by_role("button", name="Leave out upper left").click()
    expect(page.get_by_text("Stop: Axle loose").first).to_be_visible()
    page.get_by_role("button", name="Locator").click()
    page.get_by_role("option", name="Watts link, crank on the axle").click()
    expect(page.get_by_text("Stop: Axle loose")).to_have_count(0)


@pytest.fixture
def beside_a_tank(server: Server, page: Page) -> Bench:
    build = server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})
    text = json.dumps({**json.loads(TENDER), "room": {"keep_outs": [TANK]}})
    design: int = server.ask("POST", f"/api/builds/{build['id']}/designs", {"text": text})["design"]
    return Bench(page, server, design).open()


def test_what_is_too_near_is_found_gone_to_and_followed(beside_a_tank: Bench) -> None:
    page = beside_a_tank.page
    row = page.locator('[data-gap="upper-left tank"]')
    expect(row).to_contain_text("Upper left and fuel tank")
    expect(page.locator('[aria-label="Side, from the left view"] [data-keep-out="tank"]')).to_have_count(1)
    row.click()
    here = page.get_by_role("region", name="Clearances").get_by_role("status")
    expect(here).to_contain_text("Upper left and fuel tank, in this pose")
    page.keyboard.press("2")
    page.get_by_role("slider", name="Articulation").focus()
    page.keyboard.press("Home")
    page.get_by_role("slider", name="Travel").focus()
    page.keyboard.press("Home")
    expect(here).to_contain_text(re.compile(r"in this pose: \d"))
    expect(page.get_by_test_id("gap")).to_have_count(3)
    assert axe_violations(page) == []
    here.get_by_role("button", name="Drop it").click()
    expect(page.get_by_test_id("gap")).to_have_count(0)


def test_readings_are_taken_judged_and_their_figures_put_in_force(bench: Bench) -> None:
    page, build = bench.page, bench.server.stored(bench.design)["build"]
    page.get_by_role("button", name="Truck", exact=True).click()
    page.get_by_role("link", name="Readings, weights and loads").click()
    expect(page.get_by_role("heading", name="What the readings come to")).to_be_visible()
    expect(page.get_by_text("None are taken yet.")).to_be_visible()
    form = page.get_by_role("form", name="Take a reading")
    form.get_by_role("button", name="What is read").click()
    page.get_by_role("option", name="Weight on a scale").click()
    form.get_by_role("button", name="Wheel").click()
    page.get_by_role("option", name="The whole axle").click()
    for end, weight in (("Front", "3650 lb"), ("Rear", "3200 lb")):
        form.get_by_role("button", name="End", exact=False).first.click()
        page.get_by_role("option", name=end, exact=True).click()
        form.locator('[data-reads="true"]').fill(weight)
        form.get_by_role("button", name="Take it down").click()
        expect(page.get_by_role("list", name="Readings")).to_contain_text(f"{end.lower()} axle: {weight}")
    page.get_by_role("button", name=re.compile("^Take 6850 lb")).click()

    def mass() -> float:
        found: float = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]["vehicle"]["mass"]
        return found

    until(lambda: abs(mass() - 6850 * 0.45359237) < 1e-6)
    form.locator('[data-reads="true"]').fill("heavy")
    form.get_by_role("button", name="Take it down").click()
    expect(form.get_by_role("alert")).to_contain_text("Type a weight")
    assert axe_violations(page) == []
    page.get_by_role("link", name="Back to the links").click()
    expect(page.get_by_test_id("readings")).to_be_visible()


def test_the_demo_truck_has_its_slip_named(context: BrowserContext, server: Server) -> None:
    found = server.ask("GET", "/api/builds?find=Fell%20tender%2C%20front")["builds"]
    build = next(build for build in found if build["name"] == "Fell tender")
    tender = next(design["id"] for design in build["designs"] if design["name"] == "Fell tender, rear")
    page = context.new_page()
    page.goto(f"{server.url}/designs/{tender}/truck")
    expect(page.locator('[data-reading-id="r16"]')).to_contain_text("near a round 1 in")
    expect(page.get_by_text("zeroed the other way")).to_be_visible()
    page.set_viewport_size({"width": 768, "height": 1024})
    assert page.evaluate("document.documentElement.scrollWidth") <= 768
    page.get_by_role("button", name="Dark").click()
    assert axe_violations(page) == []


def test_what_is_in_the_way_is_added_seen_and_held_against(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("k")
    pane = page.get_by_role("region", name="Room")
    expect(pane).to_contain_text("Nothing is said yet.")
    pane.get_by_role("button", name="Add a typical one").click()
    page.get_by_role("option", name="Both frame rails").click()
    expect(pane).to_contain_text("Left rail")
    for key, text in {
        "name": "Fuel tank", "ahead": "20", "left": "0", "up": "30", "long": "16", "wide": "15", "high": "8",
    }.items():  # fmt: skip
        pane.locator(f'[data-keep-out-field="{key}"]').fill(text)
    pane.get_by_role("button", name="Add it").click()
    until(lambda: len((bench.server.stored(bench.design)["document"].get("room") or {}).get("keep_outs", [])) == 3)
    expect(page.locator('[data-gap="upper-left fuel-tank"]')).to_be_visible()
    assert axe_violations(page) == []
    pane.get_by_role("button", name="Leave out Fuel tank").click()
    expect(page.locator('[data-gap="upper-left fuel-tank"]')).to_have_count(0)
    pane.locator('[data-keep-out-field="name"]').press("Escape")
    expect(page.get_by_role("region", name="Mount")).to_be_visible()
