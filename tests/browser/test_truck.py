"""The truck under the open design: seen, set, changed on two tablets; and what a newer one did is said."""

import json
import math
import re
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from shop import ROOT, Bench, Server, axe_violations, figure_field, to_step, until

DEMO = ROOT / "server" / "builds" / "demo"


def squat(bench: Bench) -> str:
    return bench.reading("anti_squat")


def test_a_truck_figure_is_set_and_every_figure_follows(bench: Bench) -> None:
    before = squat(bench)
    to_step(bench.page, "Truck")
    figures = bench.page.get_by_role("toolbar", name="Figures in force")
    chip = figures.get_by_role("button", name=re.compile("^Height of the center of gravity"))
    expect(chip).to_have_attribute("data-source", "guessed")
    assert axe_violations(bench.page) == []
    height = figure_field(bench.page, "vehicle.cg_height")
    assert axe_violations(bench.page) == []
    height.fill("40 in")
    height.press("Enter")
    bench.page.get_by_role("button", name=re.compile("Where it comes from: height of the center")).click()
    bench.page.get_by_role("option", name="Measured").click()
    bench.page.keyboard.press("Escape")
    expect(chip).to_have_accessible_name(re.compile("^Height of the center of gravity: 40 in ?, measured"))
    chip.focus()
    bench.page.keyboard.press("ArrowDown")  # from figure to figure: the drawing is one stop for Tab
    expect(figures.locator("button:focus")).not_to_have_attribute("data-chip", "vehicle.cg_height")
    to_step(bench.page, "Links")
    until(lambda: squat(bench) != before)
    build = bench.server.stored(bench.design)["build"]
    truck = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]
    assert truck["vehicle"]["cg_height"] == 1016.0
    assert truck["sources"]["vehicle.cg_height"] == "measured"
    assert bench.server.stored(bench.design)["number"] == 1  # the design itself was not touched


def test_what_is_typed_at_a_figure_is_taken_however_the_figure_is_left(bench: Bench) -> None:
    page = bench.page
    build = bench.server.stored(bench.design)["build"]
    to_step(page, "Truck")

    def in_force(path: str) -> float:
        at = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]
        for step in path.split("."):
            at = at[step]
        return float(at)

    field = figure_field(page, "vehicle.cg_height")
    field.fill("40 in")
    page.keyboard.press("Escape")
    until(lambda: in_force("vehicle.cg_height") == 1016.0)
    expect(field).to_have_count(0)
    field = figure_field(page, "axles.rear.track")
    field.fill("62 in")
    page.mouse.click(8, 400)
    until(lambda: in_force("axles.rear.track") == 62 * 25.4)
    field = figure_field(page, "axles.front.track")
    field.fill("61 in")
    page.go_back()
    until(lambda: in_force("axles.front.track") == 61 * 25.4)
    to_step(page, "Truck")
    # what can't be read is said before it is let go, and stands in its field until then
    field = figure_field(page, "axles.rear.track")
    field.fill("wide")
    page.keyboard.press("Escape")
    expect(page.get_by_role("alert").filter(has_text="It stays at")).to_be_visible()
    expect(field).to_have_value("wide")
    page.keyboard.press("Escape")
    expect(field).to_have_count(0)
    # a loaded radius asks what was meant, and stays until that is answered
    field = figure_field(page, "axles.rear.tire_radius_loaded")
    radius = in_force("axles.rear.tire_radius_loaded")
    field.fill("18 in")
    page.keyboard.press("Escape")
    meant = page.get_by_role("group", name="Loaded radius, rear")
    expect(meant).to_be_visible()
    page.keyboard.press("Escape")
    expect(meant).to_be_visible()
    assert in_force("axles.rear.tire_radius_loaded") == radius
    meant.get_by_role("button", name="The figure was wrong").click()
    until(lambda: in_force("axles.rear.tire_radius_loaded") == 18 * 25.4)
    expect(meant).to_have_count(0)
    page.keyboard.press("Escape")
    expect(field).to_have_count(0)


def test_two_tablets_setting_two_bands_both_keep_theirs(bench: Bench, elsewhere: BrowserContext) -> None:
    other = Bench(elsewhere.new_page(), bench.server, bench.design).open()

    def band(tablet: Bench, reading: str, most: str) -> None:
        tablet.page.locator(f'[data-reading="{reading}"]').click()
        pane = tablet.page.get_by_test_id("pane")
        pane.get_by_role("button", name="Set another band").click()
        pane.get_by_label("At most").fill(most)
        pane.get_by_role("button", name="Set", exact=True).click()
        expect(pane).to_contain_text("set for this truck")

    band(bench, "roll_center", "28")
    band(other, "pinion_change", "9")
    build = bench.server.stored(bench.design)["build"]
    bands = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]["bands"]
    assert bands["roll_center"][1] == 28 * 25.4
    assert bands["pinion_change"][1] == 9


def test_what_a_newer_truck_did_is_said_when_the_design_is_opened(bench: Bench) -> None:
    build = bench.server.stored(bench.design)["build"]
    truck = bench.server.ask("GET", f"/api/builds/{build}/truck")
    truck["document"]["vehicle"]["cg_height"] = 700.0
    bench.server.ask(
        "POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": truck["document"]}
    )
    bench.open()
    strip = bench.page.get_by_test_id("since")
    expect(strip).to_contain_text("height of the center of gravity 27 9/16 in, was 35 5/8 in")
    expect(strip).to_contain_text("anti-squat")
    assert axe_violations(bench.page) == []
    strip.get_by_role("button", name="Read").click()
    expect(strip).to_have_count(0)


def test_a_finding_in_a_corner_goes_to_the_pose_that_was_judged(bench: Bench) -> None:
    build = bench.server.ask("POST", "/api/builds", {"name": "Twisted", "notes": ""})["id"]
    document = bench.server.stored(bench.design)["document"]
    document["bands"] = {"joint_angle": [None, 1.0]}
    design = bench.server.ask("POST", f"/api/builds/{build}/designs", {"text": json.dumps(document)})["design"]
    here = Bench(bench.page, bench.server, design).open()
    cycled = here.server.ask("POST", "/api/cycle", {"document": here.server.stored(design)["document"]})
    joint = next(f for f in cycled["findings"] if f["id"] == "joint_angle")
    assert joint["severity"] != "good"
    assert joint["place"]["travel"] != 0
    assert abs(joint["place"]["articulation"]) == 13.0
    here.page.locator('[data-finding="joint_angle"]').click()
    expect(here.page.get_by_text(re.compile("up 13.0°"))).to_be_visible()
    expect(here.page.locator("footer strong")).not_to_have_text("Ride height.")


def test_a_shock_eye_is_dragged_as_any_mount(bench: Bench) -> None:
    document = bench.server.stored(bench.design)["document"]
    eyes = [
        {"id": f"coilover-{side}", "frame": {"at": [40.0, y * 430.0, 900.0]},
         "axle": {"on": on, "at": [200.0, y * 470.0, 420.0]}, "extended": 650.0, "compressed": 420.0, "diameter": 63.5}
        for side, y, on in (("left", 1, "lower-left"), ("right", -1, "lower-right"))
    ]  # fmt: skip
    document["corners"] = {"shocks": eyes}
    build = bench.server.ask("POST", "/api/builds", {"name": "Sprung", "notes": ""})["id"]
    design = bench.server.ask("POST", f"/api/builds/{build}/designs", {"text": json.dumps(document)})["design"]
    here = Bench(bench.page, bench.server, design).open()
    here.drag("corners.shocks.0.frame.at", 0, 12)
    here.wait_stored(2)
    left, right = here.server.stored(design)["document"]["corners"]["shocks"]
    assert left["frame"]["at"][2] < 900.0
    assert right["frame"]["at"] == [left["frame"]["at"][0], -left["frame"]["at"][1], left["frame"]["at"][2]]
    eye = here.mount("corners.shocks.0.axle.at", "Rear").locator(".touch")
    low = eye.bounding_box()
    travel = here.page.get_by_role("slider", name="Travel")
    travel.focus()
    travel.press("End")
    until(lambda: eye.bounding_box()["y"] < low["y"] - 8)  # type: ignore[index]
    here.page.keyboard.press("Control+z")
    here.wait_stored(3)
    assert axe_violations(here.page) == []


def a_truck(server: Server) -> tuple[int, int]:
    """A build of its own with the tender's front design, and that design."""
    build = server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})["id"]
    text = (DEMO / "fell-tender-front.json").read_text()
    return build, server.ask("POST", f"/api/builds/{build}/designs", {"text": text})["design"]


def take_angle(page: Page, value: str) -> None:
    form = page.get_by_role("form", name="Take a reading")
    form.get_by_label("Reads, degrees").fill(value)
    form.get_by_role("button", name="Take it down").click()


def test_readings_that_disagree_give_nothing_to_take_until_one_is_changed(page: Page, server: Server) -> None:
    """5.5 degrees, 84 off the wrong face and 9.2: no figure; the complement is held out, the rest asked for again."""
    _, design = a_truck(server)
    page.goto(f"{server.url}/designs/{design}/truck")
    form = page.get_by_role("form", name="Take a reading")
    form.get_by_role("button", name="What is read").click()
    page.get_by_role("option", name="Angle off a gauge").click()
    form.get_by_role("button", name=re.compile("Of$|^Of")).first.click()
    page.get_by_role("option", name="Front pinion").click()
    for n, value in enumerate(("5.5", "84", "9.2"), start=1):
        take_angle(page, value)
        expect(page.locator(f'[data-reading-id^="r{n}-"]')).to_be_visible()
    expect(page.locator('[data-reading-id^="r2-"]')).to_contain_text("6.0 if the gauge was zeroed the other way")
    row = page.get_by_role("row", name=re.compile("Front pinion, nose up"))
    expect(row).to_contain_text("They read 5.5 degrees and 9.2 degrees")
    expect(row.get_by_role("button", name=re.compile("^Take"))).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Change r3")).click()
    changing = page.get_by_role("form", name=re.compile("^Change r3"))
    changing.get_by_label("Reads, degrees").fill("5.6")
    changing.get_by_role("button", name="Change it").click()
    expect(row).to_contain_text("5.55°")
    expect(row.get_by_role("button", name=re.compile("^Take"))).to_have_count(1)
    assert axe_violations(page) == []
    page.get_by_role("button", name=re.compile("^Delete r1")).click()
    expect(page.locator('[data-reading-id^="r1-"]')).to_have_count(0)
    page.get_by_role("button", name="Undo the last change of a reading").click()
    expect(row).to_contain_text("5.55°")
    page.get_by_role("button", name="Undo the last change of a reading").click()
    expect(row).to_contain_text("They read 5.5 degrees and 9.2 degrees")


def test_a_pinion_that_was_read_is_taken_with_its_joint(page: Page, server: Server) -> None:
    build, design = a_truck(server)
    truck = server.ask("GET", f"/api/builds/{build}/truck")
    reading = {"id": "r1", "kind": "angle", "of": "front_pinion", "value": 7.0, "unit": "deg", "zero": "level",
               "face": "along", "points": "up"}  # fmt: skip
    document = {**truck["document"], "readings": [reading]}
    server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})
    before = server.stored(design)["document"]["axle"]
    page.goto(f"{server.url}/designs/{design}/truck")
    page.get_by_role("button", name=re.compile("Take 7.0°: front pinion")).click()
    until(lambda: abs(server.stored(design)["document"]["axle"]["pinion"]["angle"] - 7.0) < 1e-9)
    after = server.stored(design)["document"]["axle"]
    by = 7.0 - before["pinion"]["angle"]
    assert after["caster"] == pytest.approx(before["caster"] - by)
    moved = math.dist(before["pinion"]["joint"], after["pinion"]["joint"])
    x, _, z = before["pinion"]["joint"]
    about = math.hypot(x, z - before["tire_radius_loaded"])
    assert moved == pytest.approx(2.0 * about * math.sin(math.radians(abs(by)) / 2.0))


def test_a_smaller_loaded_radius_asks_what_was_meant(page: Page, server: Server) -> None:
    """Hub heights give it; the truck sits lower, links and all, or only the figure was wrong."""
    build, design = a_truck(server)
    truck = server.ask("GET", f"/api/builds/{build}/truck")
    was = truck["document"]["axles"]["front"]["tire_radius_loaded"]
    hubs = [{"id": f"r{n}", "kind": "height", "point": f"front-hub-{side}", "value": was - 20.0, "unit": "mm"}
            for n, side in enumerate(("left", "right"))]  # fmt: skip
    document = {**truck["document"], "readings": hubs}
    server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})
    before = server.stored(design)["document"]
    page.goto(f"{server.url}/designs/{design}/truck")
    page.get_by_role("button", name=re.compile("^Take .*front tire, loaded radius")).click()
    asked = page.get_by_role("group", name="Loaded radius, front")
    expect(asked).to_contain_text("What was meant?")
    assert axe_violations(page) == []
    asked.get_by_role("button", name="The tire was measured: the truck sits lower").click()
    until(lambda: server.stored(design)["document"]["axle"]["tire_radius_loaded"] == was - 20.0)
    after = server.stored(design)["document"]
    for one, other in zip(before["links"], after["links"], strict=True):
        for end in ("axle", "frame"):
            assert other[end]["at"][2] == pytest.approx(one[end]["at"][2] - 20.0)
    figure = figure_field(page, "axles.front.tire_radius_loaded")
    figure.fill(f"{was} mm")
    figure.press("Enter")
    asked.get_by_role("button", name="The figure was wrong: heights stand").click()
    until(lambda: server.stored(design)["document"]["axle"]["tire_radius_loaded"] == was)
    assert server.stored(design)["document"]["links"] == after["links"]


def test_marks_are_changed_and_deleted_and_readings_to_them_go_along(page: Page, server: Server) -> None:
    build, design = a_truck(server)
    truck = server.ask("GET", f"/api/builds/{build}/truck")
    marks = [{"id": "rail", "at": [100.0, 400.0, 560.0]}, {"id": "spare", "at": [200.0, 400.0, 560.0]}]
    readings = [{"id": "r1", "kind": "height", "point": "rail", "value": 561.0, "unit": "mm"}]
    document = {**truck["document"], "marks": marks, "readings": readings}
    server.ask("POST", f"/api/builds/{build}/truck/revisions", {"base": truck["number"], "document": document})
    page.goto(f"{server.url}/designs/{design}/truck")
    page.get_by_role("button", name="Delete rail").click()
    expect(page.get_by_role("alert")).to_contain_text("Readings are taken to rail: r1")
    page.get_by_role("button", name="Change rail").click()
    form = page.get_by_role("form", name="Change rail")
    form.get_by_label("Mark, called").fill("rail-left")
    form.get_by_role("button", name="Change it").click()

    def now() -> dict[str, Any]:
        document: dict[str, Any] = server.ask("GET", f"/api/builds/{build}/truck")["document"]
        return document

    until(lambda: now()["readings"][0]["point"] == "rail-left")
    page.get_by_role("button", name="Delete spare").click()
    until(lambda: [one["id"] for one in now()["marks"]] == ["rail-left"])
    page.get_by_role("button", name="Bring the mark back").click()
    until(lambda: [one["id"] for one in now()["marks"]] == ["rail-left", "spare"])
