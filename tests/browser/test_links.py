"""The Links screen by hand: drag, type, nudge, scrub, and what happens when something goes wrong."""

import signal

import pytest
from playwright.sync_api import BrowserContext, expect
from shop import Bench, Server, axe_violations, from_menu, until

EIGHTH = 3.175
UPPER_FRAME = "links.2.frame.at"


def test_dragging_a_mount_changes_figures_and_the_stored_design(bench: Bench) -> None:
    squat, center = bench.reading("anti_squat"), bench.reading("ic_length")
    before = bench.at(2, "frame")
    bench.drag(UPPER_FRAME, -8, 10)
    bench.wait_stored(2)
    after = bench.at(2, "frame")
    assert after[2] < before[2]
    assert after[0] > before[0]  # the front of the truck is on the left
    assert after[1] == before[1]
    assert all(abs(v / EIGHTH - round(v / EIGHTH)) < 1e-6 for v in after)
    assert bench.at(3, "frame") == [after[0], -after[1], after[2]]
    assert bench.reading("anti_squat") != squat
    assert bench.reading("ic_length") != center


def test_a_drag_in_plan_and_from_behind(bench: Bench) -> None:
    bench.drag("links.0.frame.at", 0, 12, view="Top")
    bench.wait_stored(2)
    left, right = bench.at(0, "frame"), bench.at(1, "frame")
    assert left[1] > 342.9
    assert right[1] == -left[1]
    bench.drag("links.0.axle.at", 0, -9, view="Rear")
    bench.wait_stored(3)
    assert bench.at(0, "axle")[2] > 396.875


def test_left_and_right_part_when_asked(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.page.get_by_role("button", name="Left and right together").click()
    bench.wait_stored(2)
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(3)
    assert bench.at(3, "frame") == [774.7, -419.1, 631.825]
    assert bench.at(2, "frame")[2] != 631.825


def test_what_was_dragged_is_there_after_a_reload(bench: Bench) -> None:
    bench.drag(UPPER_FRAME, -8, 10)
    bench.wait_stored(2)
    squat = bench.reading("anti_squat")
    bench.open()
    bench.wait_stored(2)
    expect(bench.page.locator('[data-reading="anti_squat"] .value')).to_have_text(squat)


def test_typed_lengths(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    height = bench.field("z")
    for revision, (typed, mm) in enumerate([("9 1/4", 234.95), ("640 mm", 640.0), ("+1/8", 643.175)], start=2):
        height.fill(typed)
        height.press("Enter")
        bench.wait_stored(revision)
        assert bench.at(2, "frame")[2] == pytest.approx(mm)
        assert bench.at(3, "frame")[2] == pytest.approx(mm)


def test_nonsense_is_refused_where_it_was_typed(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    height = bench.field("z")
    height.fill("a bit higher")
    height.press("Enter")
    expect(bench.page.get_by_role("alert")).to_contain_text("It stays at 24 7/8 in")
    expect(height).to_have_attribute("aria-invalid", "true")
    height.press("Escape")
    expect(height).to_have_value("24 7/8 in")
    assert bench.server.stored(bench.design)["number"] == 1


def test_a_link_without_length_is_refused_and_the_last_good_one_stays(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.page.get_by_role("button", name="Left and right together").click()
    for axis, text in (("x", "28.575 mm"), ("y", "101.6 mm"), ("z", "650.875 mm")):
        bench.field(axis).fill(text)
        bench.field(axis).press("Enter")
    expect(bench.page.get_by_text("Not stored:").first).to_contain_text("both ends are at one point")
    assert bench.at(2, "frame")[2] == 631.825
    expect(bench.field("z")).to_have_value("24 7/8 in")


def test_arrow_keys_nudge_by_shop_increments(bench: Bench) -> None:
    bench.choose("links.0.frame.at")
    bench.page.keyboard.press("ArrowUp")
    bench.wait_stored(2)
    assert bench.at(0, "frame")[2] == pytest.approx(463.55 + EIGHTH)
    bench.page.keyboard.press("Shift+ArrowLeft")
    bench.wait_stored(3)
    assert bench.at(0, "frame")[0] == pytest.approx(984.25 + EIGHTH / 4)


def test_undo_and_redo(bench: Bench) -> None:
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(2)
    moved = bench.at(2, "frame")
    bench.page.keyboard.press("Control+z")
    bench.wait_stored(3)
    assert bench.at(2, "frame") == [774.7, 419.1, 631.825]
    bench.page.get_by_role("button", name="Redo").click()
    bench.wait_stored(4)
    assert bench.at(2, "frame") == moved


def test_scrubbing_moves_the_axle_and_the_values(bench: Bench) -> None:
    wheel = bench.mount("links.0.axle.at", "Rear").locator(".touch")
    low = wheel.bounding_box()
    pinion = bench.here("pinion_change").inner_text()
    travel = bench.page.get_by_role("slider", name="Travel")
    travel.focus()
    travel.press("End")
    expect(bench.here("pinion_change")).not_to_have_text(pinion)
    expect(bench.page.get_by_text("4 3/4 in up")).to_be_visible()
    high = wheel.bounding_box()
    assert low is not None
    assert high is not None
    assert high["y"] < low["y"] - 15
    travel.press("Home")
    expect(bench.page.get_by_text("6 3/4 in down")).to_be_visible()


def test_articulation_twists_the_axle(bench: Bench) -> None:
    twist = bench.page.get_by_role("slider", name="Articulation")
    twist.focus()
    twist.press("End")
    expect(bench.page.get_by_text("left up 13.0°")).to_be_visible()
    left, right = (bench.mount(f"links.{n}.axle.at", "Rear").locator(".touch") for n in (0, 1))
    until(lambda: left.bounding_box()["y"] < right.bounding_box()["y"] - 30)  # type: ignore[index]


def test_units_are_a_choice_that_stays(bench: Bench) -> None:
    from_menu(bench.page, "millimeter")
    assert bench.reading("roll_center").endswith("mm")
    bench.open()
    assert bench.reading("roll_center").endswith("mm")


def test_axle_that_stops_short_says_so(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.field("x").fill("200 mm")
    bench.field("x").press("Enter")
    bench.wait_stored(2)
    expect(bench.page.get_by_text("Stop: Stops short of full droop.").first).to_be_visible()
    travel = bench.page.get_by_role("slider", name="Travel")
    travel.focus()
    travel.press("Home")
    expect(bench.here("anti_squat")).to_have_text("not reached")


def test_two_tabs_in_conflict_lose_nothing(bench: Bench, elsewhere: BrowserContext) -> None:
    other = Bench(elsewhere.new_page(), bench.server, bench.design).open()
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(2)
    theirs = bench.at(2, "frame")
    other.drag("links.0.frame.at", 0, 12)
    sheet = other.page.get_by_role("alertdialog")
    expect(sheet).to_contain_text("revision 2 meanwhile")
    expect(sheet).to_contain_text("Upper left, frame end")
    expect(sheet).to_contain_text("Lower left, frame end")
    sheet.get_by_role("button", name="Keep both").click()
    other.wait_stored(2)
    assert bench.at(2, "frame") == theirs
    names = [d["name"] for build in bench.server.ask("GET", "/api/builds")["builds"] for d in build["designs"]]
    assert "Fell tender, rear, other edit" in names


@pytest.mark.parametrize(("choice", "keeps_theirs"), [("Put mine on top", False), ("Take theirs", True)])
def test_conflict_ends_as_chosen(bench: Bench, elsewhere: BrowserContext, choice: str, keeps_theirs: bool) -> None:
    other = Bench(elsewhere.new_page(), bench.server, bench.design).open()
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(2)
    theirs = bench.at(2, "frame")
    other.drag(UPPER_FRAME, 0, -12)
    other.page.get_by_role("button", name=choice).click()
    other.wait_stored(2 if keeps_theirs else 3)
    assert (bench.at(2, "frame") == theirs) is keeps_theirs


def test_killed_server_loses_no_stored_edit_and_gets_the_held_one(context: BrowserContext, own_server: Server) -> None:
    bench = Bench(context.new_page(), own_server, own_server.new_design()).open()
    bench.drag(UPPER_FRAME, 0, 10)
    bench.wait_stored(2)
    stored = bench.at(2, "frame")
    own_server.stop(signal.SIGKILL)
    bench.choose("links.0.frame.at")
    bench.page.keyboard.press("ArrowUp")
    expect(bench.state()).to_contain_text("held here")
    expect(bench.page.get_by_text("The server does not answer").first).to_be_visible()
    own_server.start()
    bench.wait_stored(3)
    assert bench.at(2, "frame") == stored
    assert bench.at(0, "frame")[2] == pytest.approx(463.55 + EIGHTH)


def test_tab_closed_without_a_server_keeps_the_edit_for_next_time(context: BrowserContext, own_server: Server) -> None:
    bench = Bench(context.new_page(), own_server, own_server.new_design()).open()
    own_server.stop(signal.SIGKILL)
    bench.choose("links.0.frame.at")
    bench.page.keyboard.press("ArrowUp")
    expect(bench.state()).to_contain_text("held here")
    bench.page.close()
    own_server.start()
    again = Bench(context.new_page(), own_server, bench.design).open()
    again.wait_stored(2)
    assert again.at(0, "frame")[2] == pytest.approx(463.55 + EIGHTH)


def test_deleted_design_is_said_and_brought_back(bench: Bench) -> None:
    bench.server.ask("DELETE", f"/api/designs/{bench.design}?base=1")
    bench.choose(UPPER_FRAME)
    bench.page.keyboard.press("ArrowUp")
    expect(bench.page.get_by_role("alert")).to_contain_text("was deleted")
    bench.page.get_by_role("button", name="Bring it back").click()
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] == pytest.approx(631.825 + EIGHTH)


def test_design_that_never_was(bench: Bench) -> None:
    bench.page.goto(f"{bench.server.url}/designs/99999/links")
    expect(bench.page.get_by_role("alert")).to_contain_text("no such design")


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("width", [1280, 768])
def test_axe_reports_nothing(bench: Bench, theme: str, width: int) -> None:
    bench.page.set_viewport_size({"width": width, "height": 800 if width == 1280 else 1024})
    if theme == "dark":
        from_menu(bench.page, "Dark")
    bench.choose(UPPER_FRAME)
    bench.page.locator('[data-reading="ic_length"]').click()
    assert axe_violations(bench.page) == []


def test_whole_screen_fits_1280_by_800(bench: Bench) -> None:
    assert bench.page.evaluate(
        "() => document.documentElement.scrollHeight <= 800 && document.documentElement.scrollWidth <= 1280"
    )
    box = bench.page.get_by_test_id("drawing").bounding_box()
    assert box is not None
    assert box["width"] * box["height"] > 0.6 * 1280 * 800


def focused(bench: Bench) -> str:
    found: str = bench.page.evaluate(
        "() => document.activeElement.getAttribute('data-mount') ?? document.activeElement.ariaLabel"
        " ?? document.activeElement.textContent"
    )
    return found


def test_everything_is_reached_by_keyboard(bench: Bench) -> None:
    seen: list[str] = []
    for _ in range(90):
        bench.page.keyboard.press("Tab")
        name = focused(bench)
        if seen and name == seen[0]:
            break  # all the way around
        seen.append(name)
    assert sum(name.startswith("links.") for name in seen) == 3  # one stop a view
    assert any("Anti-squat" in name for name in seen)
    assert any("Fix: Roll center height" in name for name in seen)


def test_arrows_walk_the_mounts_and_a_key_takes_hold(bench: Bench) -> None:
    bench.page.keyboard.press("1")
    walked = {focused(bench)}
    for arrow in ["ArrowLeft", "ArrowUp", "ArrowRight", "ArrowDown"] * 4:
        bench.page.keyboard.press(arrow)
        walked.add(focused(bench))
    assert len(walked) >= 4
    assert bench.server.stored(bench.design)["number"] == 1
    bench.page.keyboard.press("3")
    bench.page.keyboard.press("Enter")
    bench.page.keyboard.press("ArrowUp")
    bench.wait_stored(2)
    bench.page.keyboard.press("Escape")
    bench.page.keyboard.press("ArrowUp")  # walks on, moves nothing
    bench.page.keyboard.press("Escape")
    expect(bench.page.get_by_text("Take hold of a joint")).to_be_visible()
    assert bench.server.stored(bench.design)["number"] == 2


def test_help_opens_at_the_step_and_keys_lead_to_each_part(bench: Bench) -> None:
    bench.page.keyboard.press("?")
    sheet = bench.page.get_by_role("dialog")
    expect(sheet.get_by_role("heading", name="Links", exact=True)).to_be_visible()
    picture = sheet.get_by_role("img").first
    until(lambda: picture.evaluate("one => one.naturalWidth") > 0)
    assert axe_violations(bench.page) == []
    sheet.get_by_role("radio", name="What the figures mean").click()
    sheet.get_by_label("Find a word").fill("roll center")
    expect(sheet.locator("dt").first).to_have_text("Roll center height")
    sheet.get_by_role("radio", name="Keys").click()
    expect(sheet).to_contain_text("take hold of the mount")
    assert axe_violations(bench.page) == []
    bench.page.keyboard.press("Escape")
    for key, part in (("r", "Instant center"), ("f", "Trail and touring"), ("m", "Choose a mount")):
        bench.page.keyboard.press(key)
        assert part in focused(bench) or bench.page.locator(":focus").inner_text().startswith(part)
    bench.page.keyboard.press("t")
    expect(bench.page.get_by_role("dialog", name="Tape sheet")).to_be_visible()


def test_escape_puts_back_what_is_dragged(bench: Bench) -> None:
    bench.drag(UPPER_FRAME, 0, 20, release=False)
    bench.page.keyboard.press("Escape")
    bench.page.mouse.up()
    expect(bench.field("z")).to_have_value("24 7/8 in")
    assert bench.server.stored(bench.design)["number"] == 1
