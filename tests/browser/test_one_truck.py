"""Both axles of one truck, an axle's own figures, what must move, mounts as a file, a suspension as found."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import expect
from shop import Bench, axe_violations, from_menu, to_step, until


def to_truck(bench: Bench) -> None:
    to_step(bench.page, "Truck")
    expect(bench.page.get_by_role("region", name="Both axles")).to_be_visible()


def test_an_axles_own_figures_are_set_and_bad_ones_refused_at_their_place(bench: Bench) -> None:
    to_truck(bench)
    axle = bench.page.get_by_role("region", name="This axle")
    bump = axle.locator('[data-own="travel.bump"]')
    bump.fill("5")
    bump.press("Enter")
    until(lambda: bench.server.stored(bench.design)["document"]["travel"]["bump"] == pytest.approx(127.0))
    tube = axle.locator('[data-own="axle.tube_diameter"]')
    tube.fill("0")
    tube.press("Enter")
    expect(axle.get_by_role("alert")).to_contain_text("It stays at 3 1/2 in")
    assert bench.server.stored(bench.design)["document"]["axle"]["tube_diameter"] == 88.9
    axle.get_by_role("button", name="Leave it").click()
    axle.get_by_role("button", name="Where it comes from: pinion, nose up").click()
    bench.page.get_by_role("option", name="Measured").click()
    build = bench.server.stored(bench.design)["build"]

    def sources() -> dict[str, str]:
        found: dict[str, str] = bench.server.ask("GET", f"/api/builds/{build}/truck")["document"].get("sources", {})
        return found

    until(lambda: sources().get("designs.rear.axle.pinion.angle") == "measured")
    assert axe_violations(bench.page) == []


def test_an_axle_is_moved_with_what_that_does_said_before(bench: Bench) -> None:
    to_truck(bench)
    page = bench.page
    form = page.get_by_role("form", name="Move an axle")
    form.get_by_label("By").fill("2")
    expect(form.get_by_role("status")).to_contain_text("Wheelbase 104 5/16 in to 102 5/16 in")
    expect(form.get_by_role("status")).to_contain_text("No driveshaft is said")
    form.get_by_role("button", name="Move it, links and all").click()
    until(lambda: bench.server.stored(bench.design)["document"]["vehicle"]["wheelbase"] == pytest.approx(2599.2))
    expect(page.get_by_role("region", name="Both axles")).to_contain_text("Wheelbase 102 5/16 in")
    to_step(page, "Links")
    expect(page.get_by_test_id("stored-state")).to_contain_text("Stored")


def test_what_must_move_is_listed_ticked_and_kept(bench: Bench) -> None:
    to_truck(bench)
    page = bench.page
    jobs = page.get_by_role("region", name="Stripping and rerouting")
    jobs.get_by_role("button", name="Start from what is typical").click()
    expect(jobs.get_by_role("list", name="Before Lifting it")).to_contain_text("4 × Stands, each rated for 2563 lb")
    jobs.get_by_role("button", name="To do: Chocks").click()
    expect(jobs.get_by_role("button", name="Done: Chocks")).to_have_text("Done")
    page.reload()
    expect(page.get_by_role("button", name="Done: Chocks")).to_have_text("Done")
    page.set_viewport_size({"width": 768, "height": 1024})
    assert page.evaluate("document.documentElement.scrollWidth") <= 768
    from_menu(page, "Dark")
    assert axe_violations(page) == []


def test_the_mounts_go_out_as_a_file_and_come_back(bench: Bench, tmp_path: Path) -> None:
    page = bench.page
    page.keyboard.press("t")
    sheet = page.get_by_role("dialog", name="Tape sheet")
    with page.expect_download() as download:
        sheet.get_by_role("button", name="Save as CSV").click()
    file = tmp_path / "mounts.csv"
    download.value.save_as(file)
    text = file.read_text()
    assert text.startswith("mount (in),left up")
    lowers = next(line for line in text.splitlines() if line.startswith('"Lower, frame end"'))
    file.write_text(text.replace(lowers, lowers.replace(",18 1/4,", ",19,", 1)) + "nobody,1\n")
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Bring in CSV").click()
    chooser.value.set_files(file)
    expect(sheet).to_contain_text("1 figure differs: look at them, then take them. No mount here is called “nobody”.")
    sheet.get_by_role("button", name="Take 1 figures").click()
    bench.wait_stored(2)
    assert bench.at(0, "frame")[2] == pytest.approx(19 * 25.4)


def test_a_suspension_as_found_is_copied_onto_another_housing(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("l")
    page.get_by_role("button", name="As found, before stripping").click()
    bench.wait_stored(2)
    assert bench.server.stored(bench.design)["document"]["as_found"] is True
    form = page.get_by_role("form", name="Copy it onto another housing")
    form.locator('[data-onto="tube_diameter"]').fill("4")
    form.locator('[data-onto="pinion_angle"]').fill("11")
    form.get_by_role("button", name="Copy it: what is left over?").click()
    left = page.get_by_role("list", name="Left over")
    expect(left).to_contain_text("The axle brackets must be 1/4 in shorter between tube and bolt")
    expect(left).to_contain_text("turn the perches by 2.0 degrees")
    assert axe_violations(page) == []
    page.get_by_role("button", name="Keep it as a design").click()
    expect(page).not_to_have_url(re.compile(rf"/designs/{bench.design}/"))
    made = int(page.url.split("/")[-2])
    document = bench.server.stored(made)["document"]
    assert document["axle"]["pinion"]["angle"] == 11
    assert document["name"].endswith("on another housing")
    assert not document.get("as_found")


def test_a_bolt_is_turned_by_the_hand_and_by_keys(bench: Bench) -> None:
    page = bench.page
    bench.choose("links.2.frame.at")
    grip = page.locator('[aria-label="Top view"] [data-pull="bolt"]')
    grip.focus()
    page.keyboard.press("ArrowLeft")
    bench.wait_stored(2)
    bolts = [link["frame"]["bolt"] for link in bench.server.stored(bench.design)["document"]["links"][2:]]
    assert bolts[0] == pytest.approx([-bolts[1][0], bolts[1][1], -bolts[1][2]])
    place = grip.locator("rect").bounding_box()
    assert place is not None
    page.mouse.move(place["x"] + 4, place["y"] + 4)
    page.mouse.down()
    page.mouse.move(place["x"] + 44, place["y"] + 14, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    assert bench.server.stored(bench.design)["number"] == 2
    page.mouse.move(place["x"] + 4, place["y"] + 4)
    page.mouse.down()
    page.mouse.move(place["x"] + 44, place["y"] + 14, steps=4)
    page.mouse.up()
    bench.wait_stored(3)
    turned = bench.server.stored(bench.design)["document"]["links"][2]["frame"]["bolt"]
    assert json.dumps(turned) != json.dumps(bolts[0])
