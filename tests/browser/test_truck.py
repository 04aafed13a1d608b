"""The truck under the open design: seen, set, changed on two tablets; and what a newer one did is said."""

import json
import re

from playwright.sync_api import BrowserContext, expect
from shop import Bench, axe_violations, until


def squat(bench: Bench) -> str:
    return bench.reading("anti_squat")


def test_a_truck_figure_is_set_and_every_figure_follows(bench: Bench) -> None:
    before = squat(bench)
    bench.page.get_by_role("button", name="Truck", exact=True).click()
    sheet = bench.page.get_by_role("dialog")
    expect(sheet).to_contain_text("Height of the center of gravity")
    assert axe_violations(bench.page) == []
    height = sheet.locator('input[data-figure="vehicle.cg_height"]')
    height.fill("40 in")
    height.press("Enter")
    sheet.get_by_role("button", name=re.compile("Where it comes from: height of the center")).click()
    bench.page.get_by_role("option", name="Measured").click()
    expect(
        sheet.get_by_role("button", name=re.compile("Measured.*center of gravity|center of gravity"))
    ).to_contain_text("Measured")
    sheet.get_by_role("button", name="Close").click()
    until(lambda: squat(bench) != before)
    build = bench.server.stored(bench.design)["build"]
    truck = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]
    assert truck["vehicle"]["cg_height"] == 1016.0
    assert truck["sources"]["vehicle.cg_height"] == "measured"
    assert bench.server.stored(bench.design)["number"] == 1  # the design itself was not touched


def test_two_tablets_setting_two_bands_both_keep_theirs(bench: Bench, context: BrowserContext) -> None:
    other = Bench(context.new_page(), bench.server, bench.design).open()

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
