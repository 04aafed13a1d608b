"""The Fit-up area in the served page: a truck that was built a little off goes through its gates and comes right."""

import json
import math
import random
import re
from typing import Literal

import pytest
from playwright.sync_api import Page, expect
from shop import ROOT, Server, axe_violations, from_menu, until

DEMO = ROOT / "server" / "builds" / "demo"
ROD = {
    "limit": 28, "give": 0,
    "end": {"kind": "threaded", "shank": 110, "shoulder": 20, "nut": 11, "least_in": 25, "pitch": 1.5875},
}  # fmt: skip


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def with_rod_ends(server: Server) -> int:
    """The tender's rear axle, every end a rod end, in a build of its own."""
    document = json.loads((DEMO / "fell-tender-rear.json").read_text())
    document["joints"] = {"rod": ROD}
    for link in document["links"]:
        link["axle"]["joint"] = link["frame"]["joint"] = "rod"
    build = server.ask("POST", "/api/builds", {"name": "Fitted up", "notes": ""})["id"]
    design: int = server.ask("POST", f"/api/builds/{build}/designs", {"text": json.dumps(document)})["design"]
    return design


def read(server: Server, design: int, off: dict[str, tuple[float, float, float]]) -> dict[str, float]:
    """What a tape says of every mount, each as far off as it truly is, to a quarter millimeter."""
    rng = random.Random(4)
    document = server.stored(design)["document"]
    found = {}
    for link in document["links"]:
        for end in ("axle", "frame"):
            name = f"{link['id']}.{end}"
            for axis, kind in enumerate(("ahead", "left", "height")):
                true = link[end]["at"][axis] + off.get(name, (0.0, 0.0, 0.0))[axis]
                found[f"{kind} {name}"] = round(true + rng.gauss(0.0, 0.1), 1)
    return found


def put_in(server: Server, design: int, readings: dict[str, float]) -> None:
    """The readings, as a tablet that took them before would have stored them."""
    build = server.stored(design)["build"]
    truck = server.ask("GET", f"/api/builds/{build}/truck")
    kept = [
        {"id": name, "kind": name.split(" ")[0], "of": name.split(" ")[1], "value": value, "unit": "mm", "sigma": 0.2}
        for name, value in readings.items()
    ]
    document = {**truck["document"], "fit_up": {"rear": {"readings": kept}}}
    server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})


@pytest.mark.parametrize("wide", [768, 390])
def test_a_truck_that_is_built_off_goes_through_its_gates_and_comes_right(
    server: Server, page: Page, wide: int
) -> None:
    page.set_viewport_size({"width": wide, "height": 900})
    design = with_rod_ends(server)
    put_in(server, design, read(server, design, {"upper-left.frame": (7.0, 0.0, -4.0)}))
    page.goto(f"{server.url}/designs/{design}/fit-up")
    for gate in ("Baseline accepted", "Mounts marked", "Tacked"):
        opened = page.get_by_role("button", name=re.compile(gate))
        if opened.get_attribute("aria-expanded") != "true":
            opened.click()
        page.get_by_role("button", name="Pass it", exact=True).click()
        expect(opened).to_contain_text("Passed")
    weld = page.get_by_role("button", name=re.compile("Final weld"))
    weld.click()
    page.get_by_role("button", name="Pass it", exact=True).click()
    expect(page.get_by_role("alert").filter(has_text="Not passed yet: measured")).to_be_visible()
    assert axe_violations(page) == []
    tab(page, "Readings")
    expect(page.get_by_text("Enough is read")).to_be_visible()
    tab(page, "As built")
    expect(page.get_by_role("region", name="With what is tacked, at ride")).to_contain_text("turned to the")
    first = page.get_by_role("region", name="What to correct").get_by_role("listitem").first
    expect(first).to_contain_text(re.compile(r"turns? (longer|shorter)"))
    expect(first).to_contain_text("Inside every tolerance")
    assert axe_violations(page) == []
    tab(page, "Drives")
    page.get_by_role("button", name="It hops under drive").press("Space")
    page.get_by_label("Setting").fill("Upper hole, 14 psi")
    page.reload()
    tab(page, "Drives")
    expect(page.get_by_label("Setting")).to_have_value("Upper hole, 14 psi")
    expect(page.get_by_role("button", name="It hops under drive")).to_have_attribute("aria-pressed", "true")
    page.get_by_label("Setting").press("Enter")
    expect(page.get_by_label("Setting")).to_have_value("")
    run = page.get_by_role("button", name=re.compile("Upper hole, 14 psi"))
    run.press("Enter")
    expect(page.get_by_text(re.compile("revision 1.*It hops under drive"))).to_be_visible()
    expect(page.get_by_role("region", name="What could be behind it")).to_contain_text("It hops under drive")
    assert axe_violations(page) == []
    build = server.stored(design)["build"]
    kept = server.ask("GET", f"/api/builds/{build}/truck")["document"]["fit_up"]["rear"]["drives"]
    assert [(one["setting"], one["felt"]) for one in kept] == [("Upper hole, 14 psi", ["hops"])]
    assert kept[0]["figures"]["anti_squat"] > 0.0
    gates = server.ask("GET", f"/api/builds/{build}/truck")["document"]["fit_up"]["rear"]["gates"]
    assert [one["gate"] for one in gates] == ["baseline", "marked", "tacked"]


def test_a_reading_is_taken_by_keys_drawn_and_a_slip_is_named(server: Server, page: Page) -> None:
    design = with_rod_ends(server)
    readings = read(server, design, {})
    document = server.stored(design)["document"]
    places = {f"{link['id']}.{end}": link[end]["at"] for link in document["links"] for end in ("axle", "frame")}
    taken = readings.pop("height upper-left.frame")
    put_in(server, design, readings)
    page.goto(f"{server.url}/designs/{design}/fit-up")
    from_menu(page, "millimeter")
    tab(page, "Readings")
    for other in ("lower-right.frame", "lower-left.axle", "upper-right.axle", "lower-right.axle"):
        build = server.stored(design)["build"]
        truck = server.ask("GET", f"/api/builds/{build}/truck")
        kept = truck["document"]["fit_up"]["rear"]["readings"]
        apart = math.dist(places["upper-left.frame"], places[other])
        plain = {"kind": "distance", "of": "upper-left.frame", "to": other, "unit": "mm", "sigma": 0.3}
        more = {"id": f"to {other}", "value": apart, **plain}
        document = {**truck["document"], "fit_up": {"rear": {"readings": [*kept, more]}}}
        server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})
    page.reload()
    tab(page, "Readings")
    page.get_by_role("button", name="Of which").press("Enter")
    page.get_by_role("option", name="Upper left, frame end").click()
    page.get_by_label("Reads").fill(str(taken + 25.4))
    page.get_by_label("Reads").press("Enter")
    slip = page.get_by_role("listitem").filter(has_text="Height off the floor: upper left, frame end")
    expect(slip).to_contain_text("it reads an inch too much")
    until(lambda: page.locator("circle[stroke-dasharray]").count() > 0)
    slip.get_by_role("button", name=re.compile("Leave out")).press("Enter")
    expect(slip).to_contain_text("(left out)")
    tab(page, "As built")
    expect(page.get_by_text("Nothing to correct: inside its tolerance.")).to_be_visible()
    assert axe_violations(page) == []


@pytest.mark.parametrize(("wide", "theme"), [(390, "light"), (1280, "dark")])
def test_on_its_weight_readings_are_held_against_what_they_should_be_there(
    server: Server, page: Page, wide: int, theme: Literal["light", "dark"]
) -> None:
    page.set_viewport_size({"width": wide, "height": 900})
    page.emulate_media(color_scheme=theme)
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/fit-up")
    from_menu(page, "millimeter")
    tab(page, "On weight")
    weight = page.get_by_role("region", name="On its weight")
    for shock in ("Coilover left", "Coilover right"):
        weight.locator("button[aria-label=Of]").press("Enter")
        page.get_by_role("option", name=shock).click()
        weight.get_by_label("Reads").fill("690")
        weight.get_by_label("Reads").press("Enter")
        expect(weight.get_by_label("Reads")).to_have_value("")
    expect(weight).to_contain_text(re.compile(r"It stands \d+ mm (lower|higher) than drawn"))
    weight.locator("button[aria-label='What is read']").press("Enter")
    page.get_by_role("option", name="Pinion, on a gauge").click()
    weight.get_by_label("Degrees").fill("91")
    weight.get_by_label("Degrees").press("Enter")
    expect(weight.get_by_role("alert")).to_contain_text("0 to 90 degrees")
    weight.get_by_label("Degrees").fill("3")
    weight.get_by_label("Degrees").press("Enter")
    line = weight.get_by_role("listitem").filter(has_text="The pinion on a gauge")
    expect(line).to_contain_text(re.compile(r"3\.0° nose up; \d+\.\d° nose up as drawn: it differs"))
    line.get_by_role("button", name="What to turn, by the links").press("Enter")
    expect(line).to_contain_text(re.compile(r"by the links: \d+\.\d°, its nose (up|down)"))
    assert axe_violations(page) == []
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    page.reload()
    tab(page, "On weight")
    expect(weight.get_by_role("listitem").filter(has_text="The pinion on a gauge")).to_contain_text("it differs")


def test_two_tablets_in_one_log_keep_both_first_readings(server: Server, page: Page) -> None:
    design = with_rod_ends(server)
    build = server.stored(design)["build"]
    page.goto(f"{server.url}/designs/{design}/fit-up")
    tab(page, "Readings")
    expect(page.get_by_text("Nothing was read yet.")).to_be_visible()
    page.get_by_role("button", name="Of which").press("Enter")
    page.get_by_role("option", name="Upper left, frame end").click()
    page.get_by_label("Reads").fill("24 1/2")
    truck = server.ask("GET", f"/api/builds/{build}/truck")
    theirs = {"id": "r1-abc", "kind": "height", "of": "upper-right.frame", "value": 24.5, "unit": "in"}
    document = {**truck["document"], "fit_up": {"rear": {"readings": [theirs]}}}
    server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})
    page.get_by_label("Reads").press("Enter")
    expect(page.locator("[data-reading]")).to_have_count(2)
    kept = server.ask("GET", f"/api/builds/{build}/truck")["document"]["fit_up"]["rear"]["readings"]
    assert [one["of"] for one in kept] == ["upper-right.frame", "upper-left.frame"]
