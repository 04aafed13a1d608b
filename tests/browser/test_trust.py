"""Nothing typed is lost, nothing shown misleads: as a fabricator with a tape in one hand would find out."""

import json
import re

import pytest
from playwright.sync_api import BrowserContext, Route, expect
from shop import TENDER, Bench, Server, axe_violations

UPPER_FRAME = "links.2.frame.at"
UPPER_RIGHT = "links.3.frame.at"
LOWER_FRAME = "links.0.frame.at"
DOCUMENT = json.loads(TENDER)


def test_a_page_whose_script_does_not_come_says_so(context: BrowserContext, server: Server) -> None:
    page = context.new_page()
    page.route("**/assets/*.js", lambda route: route.abort())
    page.goto(server.url)
    expect(page.get_by_text("Load it again.")).to_be_visible()
    page.unroute("**/assets/*.js")
    page.reload()
    expect(page.get_by_role("heading", name="Builds")).to_be_visible()
    expect(page.get_by_text("Load it again.")).to_have_count(0)


def test_a_figure_typed_and_left_by_choosing_another_joint_is_taken(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.field("z").fill("25")
    bench.mount(LOWER_FRAME).locator(".touch").click()
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] == pytest.approx(635)


def test_a_figure_that_cannot_be_read_is_said_when_it_is_left(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.field("z").fill("25 ells")
    bench.mount(LOWER_FRAME).locator(".touch").click()
    expect(bench.page.get_by_text("“25 ells” for Upper left, frame end")).to_be_visible()
    bench.page.get_by_role("button", name="Read", exact=True).click()
    assert bench.server.stored(bench.design)["number"] == 1


def test_one_figure_after_another_replaces_it_and_undo_works_in_the_field(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.field("z").focus()
    for text, revision in (("25 ⅜", 2), ("25½", 3), ("-1/8", 4)):
        bench.page.keyboard.insert_text(text)
        bench.page.keyboard.press("Enter")
        bench.wait_stored(revision)
        bench.page.wait_for_function(  # all of it is chosen again: what is typed next takes its place
            "(({ selectionStart, selectionEnd, value }) => selectionStart === 0 && selectionEnd === value.length)"
            "(document.activeElement)"
        )
    assert bench.at(2, "frame")[2] == pytest.approx(25.375 * 25.4)
    bench.page.keyboard.press("Control+z")
    bench.wait_stored(5)
    assert bench.at(2, "frame")[2] == pytest.approx(25.5 * 25.4)


def test_a_right_hand_figure_asks_once_and_parted_sides_come_together_again(bench: Bench) -> None:
    bench.choose(UPPER_RIGHT)
    bench.field("z").fill("25")
    bench.field("z").press("Enter")
    bench.page.get_by_role("button", name="Part them: only the right").click()
    bench.wait_stored(2)
    assert [bench.at(2, "frame")[2], bench.at(3, "frame")[2]] == pytest.approx([631.825, 635])
    bench.field("z").fill("26")
    bench.field("z").press("Enter")  # parted: nothing more to ask
    bench.wait_stored(3)
    bench.page.get_by_role("button", name="As left").click()
    bench.wait_stored(4)
    assert bench.at(3, "frame") == [774.7, -419.1, 631.825]


def test_a_place_below_the_floor_asks_first(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.field("z").fill("-40")
    bench.field("z").press("Enter")
    expect(bench.page.get_by_role("alert")).to_contain_text("below the floor")
    assert axe_violations(bench.page) == []
    bench.page.get_by_role("button", name="Leave it").click()
    assert bench.server.stored(bench.design)["number"] == 1


def test_a_mount_dragged_through_the_centerline_and_back_keeps_its_pair(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    for text, revision in (("0", 2), ("12 left", 3)):
        bench.field("y").fill(text)
        bench.field("y").press("Enter")
        bench.wait_stored(revision)
    assert [bench.at(2, "frame")[1], bench.at(3, "frame")[1]] == pytest.approx([304.8, -304.8])


def test_the_verdict_stands_by_what_was_judged_wherever_the_axle_stands(bench: Bench) -> None:
    row = bench.page.locator('[data-reading="pinion_change"]')
    judged = row.locator(".value").inner_text()
    for end in ("Home", "End"):
        travel = bench.page.get_by_role("slider", name="Travel")
        travel.focus()
        travel.press(end)
        expect(bench.here("pinion_change")).not_to_have_text("0.0°")
        expect(row.locator(".value")).to_have_text(judged)
        expect(row.locator(".said")).to_have_text("high")


def test_mine_on_top_keeps_what_the_other_changed(bench: Bench, elsewhere: BrowserContext) -> None:
    other = Bench(elsewhere.new_page(), bench.server, bench.design).open()
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(2)
    theirs = bench.at(2, "frame")
    other.drag(LOWER_FRAME, 0, 12)
    other.page.get_by_role("button", name="Put mine on top").click()
    other.wait_stored(3)
    assert bench.at(2, "frame") == theirs
    assert bench.at(0, "frame")[2] < 463.55


def test_two_tablets_that_set_two_bands_both_keep_theirs(bench: Bench, elsewhere: BrowserContext) -> None:
    other = Bench(elsewhere.new_page(), bench.server, bench.design).open()
    for one, figure, most in ((bench, "roll_center", "28"), (other, "pinion_change", "9")):
        one.page.locator(f'[data-reading="{figure}"]').click()
        one.page.get_by_role("button", name="Set another band").click()
        one.page.get_by_label("At most").fill(most)
        one.page.get_by_role("button", name="Set", exact=True).click()
        expect(one.page.get_by_test_id("pane")).to_contain_text("set for this truck")
    build = bench.server.stored(bench.design)["build"]
    assert set(bench.server.ask("GET", f"/api/builds/{build}/truck")["document"]["bands"]) == {
        "roll_center",
        "pinion_change",
    }


def test_a_change_counted_from_ride_cannot_be_wanted_at_ride(bench: Bench) -> None:
    bench.page.locator('[data-reading="pinion_change"]').click()
    pane = bench.page.get_by_test_id("pane")
    pane.get_by_label("Degrees").fill("2")
    pane.get_by_role("button", name="Get it").click()
    expect(pane).to_contain_text("counted from ride height")


def test_a_tape_sheet_goes_in_as_it_is_read(bench: Bench) -> None:
    """Eight unequal mounts, each figure and Enter: counted."""
    bench.page.keyboard.press("t")
    sheet = bench.page.get_by_role("dialog", name="Tape sheet")
    sheet.locator("input").first.focus()
    places = [[link[end]["at"] for link in DOCUMENT["links"][:3:2] for end in ("axle", "frame")]]
    keys = 0
    for side in (0, 1):
        for axis in (2, 0, 1):
            for mount, at in enumerate(places[0]):
                text = f"{abs(at[axis]) / 25.4 + (side + mount) / 8:.4g}"
                bench.page.keyboard.type(text)
                bench.page.keyboard.press("Enter")
                keys += len(text) + 1
        for _ in places[0]:
            bench.page.keyboard.press("Enter")  # bolts as they are
            keys += 1
    assert keys < 150
    assert axe_violations(bench.page) == []
    sheet.get_by_role("button", name=re.compile("^Take")).click()
    bench.wait_stored(2)
    document = bench.server.stored(bench.design)["document"]
    assert len(document["unpaired"]) == 8
    assert document["links"][1]["axle"]["at"][1] == pytest.approx(
        -(20 + 1 / 2) * 25.4, abs=0.5
    )  # four digits were typed


def test_a_block_from_a_spreadsheet_is_pasted_and_what_is_wrong_is_marked(bench: Bench) -> None:
    bench.page.keyboard.press("t")
    sheet = bench.page.get_by_role("dialog", name="Tape sheet")
    first = sheet.locator("input").first
    first.focus()
    bench.page.evaluate(
        """() => {
            const data = new DataTransfer();
            data.setData("text/plain", "16\\t1\\nhigh\\t39");
            document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
        }"""
    )
    expect(sheet.locator("input[aria-invalid=true]")).to_have_value("high")
    sheet.get_by_role("button", name="Close").click()
    expect(bench.page.get_by_text("From the tape sheet these were not taken: “high”")).to_be_visible()
    bench.wait_stored(2)
    assert bench.at(0, "axle")[2] == pytest.approx(16 * 25.4)
    assert bench.at(0, "frame")[0] == pytest.approx(39 * 25.4)


def test_the_cycle_comes_out_as_rows(bench: Bench) -> None:
    with bench.page.expect_download() as download:
        bench.page.get_by_role("button", name="Shop drawing").click()
        bench.page.get_by_role("menuitem", name="Cycle, every row, CSV").click()
    assert download.value.suggested_filename.endswith(".csv")


def test_a_tab_looked_at_again_shows_what_was_stored_meanwhile(bench: Bench) -> None:
    stored = bench.server.stored(bench.design)
    stored["document"]["links"][2]["frame"]["at"][2] = 650.0
    stored["document"]["links"][3]["frame"]["at"][2] = 650.0
    edit = {"base": 1, "truck": stored["truck"], "document": stored["document"]}
    bench.server.ask("POST", f"/api/designs/{bench.design}/revisions", edit)
    bench.page.evaluate("() => document.dispatchEvent(new Event('visibilitychange'))")
    bench.wait_stored(2)
    bench.choose(UPPER_FRAME)
    expect(bench.field("z")).to_have_value("25 9/16 in")


def test_an_old_tab_says_so(bench: Bench) -> None:
    bench.page.route("**/api/cycle", _as_served_by_another)
    bench.drag(UPPER_FRAME, 0, 8)
    expect(bench.page.get_by_text("A newer Oak Lever is being served")).to_be_visible()
    bench.page.unroute_all(behavior="wait")  # what is still answered must not outlive the page


def _as_served_by_another(route: Route) -> None:
    answer = route.fetch()
    route.fulfill(response=answer, headers={**answer.headers, "x-oak-lever-page": "another"})
