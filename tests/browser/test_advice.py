"""What the Links screen advises: findings and their cures, results pulled, bands, history, other ways to go."""

import json
import re
import signal
import urllib.request

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, expect
from shop import TENDER, Bench, Server, axe_violations, until

EIGHTH = 3.175
UPPER_FRAME = "links.2.frame.at"
LOWER_FRAME = "links.0.frame.at"


def finding(bench: Bench, name: str) -> None:
    bench.page.locator(f'[data-finding="{name}"]').click()


def read(bench: Bench, name: str) -> None:
    bench.page.locator(f'[data-reading="{name}"]').click()


def take_down(bench: Bench, what: Locator, px: float) -> None:
    """Take hold of something and pull it down; the hand stays on it."""
    box = what.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.page.mouse.move(x, y)
    bench.page.mouse.down()
    bench.page.mouse.move(x, y + px, steps=6)


def test_a_cure_is_looked_at_taken_and_the_finding_is_gone(bench: Bench) -> None:
    finding(bench, "roll_center")
    pane = bench.page.get_by_test_id("pane")
    expect(pane).to_contain_text("house value for trail and touring")
    expect(pane).to_contain_text("Who would disagree")
    cure = pane.get_by_role("list", name="Cures, the least costly first").get_by_role("listitem").first
    expect(cure).to_contain_text("Upper link axle ends down")
    cure.get_by_role("button", name="Look at it").click()
    expect(bench.page.get_by_test_id("ghost").first).to_be_visible()
    both = bench.page.locator('[data-reading="roll_center"] .said')
    expect(both).to_have_count(2)
    expect(both.first).to_have_text("high")
    expect(both.last).to_have_text("good")
    assert bench.server.stored(bench.design)["number"] == 1
    bench.page.keyboard.press("Enter")
    bench.wait_stored(2)
    expect(bench.page.get_by_test_id("ghost")).to_have_count(0)
    pane.get_by_role("button", name="All findings").click()
    expect(bench.page.locator('[data-finding="roll_center"]')).to_have_count(0)


def test_a_cure_is_dropped_by_one_key(bench: Bench) -> None:
    finding(bench, "pinion_change")
    expect(bench.page.get_by_text("4 3/4 in up")).to_be_visible()  # the axle stands where it is worst
    bench.page.get_by_role("button", name="Look at it").first.click()
    bench.page.keyboard.press("Escape")
    expect(bench.page.get_by_test_id("ghost")).to_have_count(0)
    assert bench.server.stored(bench.design)["number"] == 1


def test_several_mounts_moved_a_little_leave_as_little_as_can_be_to_fix(bench: Bench) -> None:
    expect(bench.page.get_by_test_id("pane").get_by_text("Fix:")).to_have_count(3)
    bench.page.get_by_role("button", name="Move several a little").click()
    bench.page.get_by_role("button", name="Take it").click()
    bench.wait_stored(2)
    expect(bench.page.get_by_test_id("pane").get_by_text("Fix:")).to_have_count(1)


def test_a_finding_says_what_it_rests_on_and_how_far_that_may_be_off(bench: Bench) -> None:
    read(bench, "anti_squat")
    rests = bench.page.get_by_role("list", name="What this rests on")
    expect(rests).to_contain_text("height of the center of gravity")  # some eighty cycles
    expect(rests).to_contain_text("guessed")
    expect(rests).to_contain_text("holds from")


def test_a_joint_is_chosen_and_its_figures_set(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.page.locator("[aria-label=Joint]").click()
    bench.page.get_by_role("option", name="Rubber bushed end").click()
    bench.wait_stored(2)
    links = bench.server.stored(bench.design)["document"]["links"]
    assert [link["frame"].get("joint") for link in links] == [None, None, "bushed", "bushed"]
    expect(bench.page.get_by_text("turns 12.0°, gives 1/16 in")).to_be_visible()
    bench.page.get_by_role("button", name="Check: maker’s figures").click()
    bench.page.get_by_label("Turns, degrees").fill("9")
    bench.page.get_by_role("button", name="Set for this design").click()
    bench.wait_stored(3)
    assert bench.server.stored(bench.design)["document"]["joints"]["bushed"]["limit"] == 9
    expect(bench.page.get_by_text("turns 9.0°")).to_be_visible()


def test_a_stop_has_cures_that_move_nothing(bench: Bench) -> None:
    """Two locators on one axle, brought in as a file: one of them is left out, looked at and taken."""
    data = bench.server.stored(bench.design)["document"]
    bar = {"kind": "panhard", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}
    build = bench.server.ask("POST", "/api/builds", {"name": "Two locators", "notes": ""})["id"]
    file = {"text": json.dumps({**data, "lateral": bar})}
    design = bench.server.ask("POST", f"/api/builds/{build}/designs", file)["design"]
    here = Bench(bench.page, bench.server, design).open()
    finding(here, "fight")
    pane = here.page.get_by_test_id("pane")
    out = pane.get_by_role("listitem").filter(has_text="Leave out the panhard bar")
    out.get_by_role("button", name="Look at it").click()
    expect(here.page.get_by_test_id("ghost").first).to_be_visible()
    here.page.keyboard.press("Enter")
    here.wait_stored(2)
    assert here.server.stored(design)["document"]["lateral"] is None
    expect(here.page.locator('[data-finding="fight"]')).to_have_count(0)


@pytest.mark.parametrize("layout", ["parallel_watts", "radius_arms_panhard"])
def test_a_start_has_no_stop_and_no_fix(bench: Bench, layout: str) -> None:
    build = bench.server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})["id"]
    start = {
        "name": "Start", "layout": layout, "school": "numbers_first", "use": "trail", "end": "rear",
        "tire_diameter": 940, "track": 1650, "wheelbase": 2700, "rail_underside": 580, "rail_width": 890,
    }  # fmt: skip
    design = bench.server.ask("POST", f"/api/builds/{build}/starts", start)["design"]
    here = Bench(bench.page, bench.server, design).open()
    expect(here.page.get_by_text(re.compile("inside their bands")).first).to_be_visible()
    expect(here.page.get_by_text(re.compile("^(Fix|Stop):"))).to_have_count(0)
    assert "uessed" not in bench.server.stored(design)["document"]["notes"]


def test_instant_center_is_typed_and_the_free_mounts_follow(bench: Bench) -> None:
    read(bench, "ic_length")
    pane = bench.page.get_by_test_id("pane")
    pane.get_by_label("Ahead of the axle").fill("96")
    pane.get_by_label("Off the ground").fill("20 1/2")
    pane.get_by_role("button", name="Get it").click()
    expect(pane.get_by_role("list", name="What moves", exact=True)).to_contain_text(re.compile("(up|down) .*in"))
    assert bench.server.stored(bench.design)["number"] == 1
    bench.page.keyboard.press("Enter")
    bench.wait_stored(2)
    before, after = json.loads(TENDER)["links"], bench.server.stored(bench.design)["document"]["links"]
    for link, was in zip(after, before, strict=True):
        for end in ("axle", "frame"):
            for now, then in zip(link[end]["at"], was[end]["at"], strict=True):
                assert (now - then) / EIGHTH == pytest.approx(round((now - then) / EIGHTH), abs=1e-6)
    expect(bench.page.locator('[data-reading="ic_length"] .value')).to_have_text(re.compile("^9[4-8]"))


def test_locked_mounts_stay_and_what_cannot_be_reached_is_said(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    for revision, name in enumerate(("off the floor", "ahead of the axle", "out to the left"), start=2):
        bench.page.get_by_role("button", name=f"Lock: {name}").click()
        bench.wait_stored(revision)  # edits that wait become one
    bench.page.keyboard.press("Escape")
    bench.drag(UPPER_FRAME, 0, 20)
    bench.choose(UPPER_FRAME)
    bench.page.keyboard.press("ArrowUp")
    assert bench.at(2, "frame") == [774.7, 419.1, 631.825]
    assert bench.at(3, "frame") == [774.7, -419.1, 631.825]
    read(bench, "anti_squat")
    pane = bench.page.get_by_test_id("pane")
    pane.get_by_label("Percent").fill("600")
    pane.get_by_role("button", name="Get it").click()
    expect(pane).to_contain_text("the nearest is")
    read(bench, "roll_center")  # what failed belongs to its figure
    expect(pane).not_to_contain_text("the nearest is")
    expect(bench.page.get_by_text("can’t follow all the way")).to_have_count(0)
    assert bench.at(2, "frame") == [774.7, 419.1, 631.825]


def test_roll_center_is_pulled_by_hand_and_by_key(bench: Bench) -> None:
    read(bench, "roll_center")
    dot = bench.page.locator('[aria-label="Rear view"] [data-pull]')
    before = bench.reading("roll_center")
    take_down(bench, dot.locator(".touch"), 12)
    expect(bench.page.locator('[data-reading="roll_center"] .value')).not_to_have_text(before)
    bench.page.mouse.up()
    bench.page.get_by_role("button", name="Take it").click()
    bench.wait_stored(2)
    pulled = bench.reading("roll_center")
    dot.focus()
    bench.page.keyboard.press("Alt+ArrowUp")
    bench.page.get_by_role("button", name="Take it").click()
    bench.wait_stored(3)
    expect(bench.page.locator('[data-reading="roll_center"] .value')).not_to_have_text(pulled)


def test_a_curves_end_is_pulled(bench: Bench) -> None:
    read(bench, "pinion_change")
    end = bench.page.locator('[data-end="full droop"]')
    before = end.get_attribute("aria-label")
    take_down(bench, end.locator(".ring"), 14)
    bench.page.mouse.up()
    bench.page.get_by_role("button", name="Take it").click()
    bench.wait_stored(2)
    expect(end).not_to_have_attribute("aria-label", str(before))
    said = end.get_attribute("aria-label")
    end.focus()
    bench.page.keyboard.press("ArrowUp")
    bench.page.get_by_role("button", name="Take it").click()
    bench.wait_stored(3)
    expect(end).not_to_have_attribute("aria-label", str(said))
    assert axe_violations(bench.page) == []


def test_what_moves_a_reading_is_ranked(bench: Bench) -> None:
    read(bench, "pinion_change")
    movers = bench.page.get_by_role("list", name="What moves it").get_by_role("listitem")
    expect(movers.first).to_contain_text("upper frame ends up")
    expect(movers.first).to_contain_text("−0.27°")


def test_band_is_set_for_the_build_and_reset(bench: Bench) -> None:
    read(bench, "roll_center")
    pane = bench.page.get_by_test_id("pane")
    pane.get_by_role("button", name="Set another band").click()
    pane.get_by_label("At most").fill("28")
    pane.get_by_role("button", name="Set", exact=True).click()
    expect(pane).to_contain_text("set for this truck")
    expect(bench.page.locator('[data-reading="roll_center"] .said')).to_have_text("good")
    bench.open()
    expect(bench.page.locator('[data-reading="roll_center"] .said')).to_have_text("good")
    read(bench, "roll_center")
    pane.get_by_role("button", name="House value again").click()
    expect(bench.page.locator('[data-reading="roll_center"] .said')).to_have_text("high")


def test_use_and_school_change_what_is_asked(bench: Bench) -> None:
    bench.page.get_by_role("button", name="Built for").click()
    bench.page.get_by_role("option", name="Crawling").click()
    expect(bench.page.locator('[data-finding="pinion_change"]')).to_have_count(0)
    bench.page.get_by_role("button", name="School").click()
    bench.page.get_by_role("option", name="Hold the pinion").click()
    bench.wait_stored(2)
    finding(bench, "pinion_change")
    expect(bench.page.get_by_test_id("pane")).to_contain_text("school: hold the pinion")


def test_converge_on_a_point_gives_holes(bench: Bench) -> None:
    bench.page.get_by_role("button", name="Converge on a point").click()
    pane = bench.page.get_by_test_id("pane")
    pane.get_by_label("Point, ahead of the axle").fill("100")
    pane.get_by_label("Point, off the floor").fill("20")
    pane.get_by_label("Station, ahead of the axle").fill("30")
    pane.get_by_role("button", name="Find the holes").click()
    expect(pane.get_by_role("table")).to_contain_text("Upper left")
    expect(bench.page.get_by_text("chosen point").first).to_be_visible()
    pane.get_by_role("button", name="Take them").click()
    bench.wait_stored(2)
    x, _, z = bench.at(2, "frame")
    ax, _, az = bench.at(2, "axle")
    assert x == pytest.approx(762)
    assert (z - az) / (x - ax) == pytest.approx((508 - az) / (2540 - ax))


def test_bracket_moves_as_one(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.mount(LOWER_FRAME).locator(".touch").click(modifiers=["Control"])
    expect(bench.page.get_by_text("1 more chosen")).to_be_visible()
    bench.choose(UPPER_FRAME)
    bench.page.keyboard.press("ArrowUp")
    bench.wait_stored(2)
    for link, was in ((0, 463.55), (1, 463.55), (2, 631.825), (3, 631.825)):
        assert bench.at(link, "frame")[2] == pytest.approx(was + EIGHTH)


def test_guides_and_dimensions_while_dragging(bench: Bench) -> None:
    ends = [bench.mount(f"links.2.{end}.at").locator(".touch").bounding_box() for end in ("frame", "axle")]
    px_per_mm = (ends[1]["x"] - ends[0]["x"]) / (774.7 - 28.575)  # type: ignore[index]
    bench.drag(UPPER_FRAME, 0, -18 * px_per_mm, release=False)  # toward the height of the axle ends
    side = bench.page.locator('[aria-label="Side, from the left view"]')
    expect(side.get_by_text("30 1/2 in")).to_be_visible()
    expect(side.get_by_text(re.compile("^level with upper"))).to_be_visible()
    bench.page.mouse.up()
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] == bench.at(2, "axle")[2]


def test_sums_are_understood_and_shown(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    height = bench.field("z")
    height.fill("43 1/2 * 0.75 - 1")
    expect(bench.page.get_by_text("= 31 5/8 in")).to_be_visible()
    height.press("Enter")
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] == pytest.approx((43.5 * 0.75 - 1) * 25.4)


def test_undo_and_redo_outlive_a_reload(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    for revision in (2, 3, 4):
        bench.page.keyboard.press("ArrowUp")
        bench.wait_stored(revision)
    bench.page.keyboard.press("Control+z")
    bench.wait_stored(5)
    bench.open()
    bench.page.keyboard.press("Control+Shift+z")
    bench.wait_stored(6)
    assert bench.at(2, "frame")[2] == pytest.approx(631.825 + 3 * EIGHTH)
    for revision in (7, 8, 9):
        bench.page.keyboard.press("Control+z")
        bench.wait_stored(revision)
    assert bench.at(2, "frame")[2] == pytest.approx(631.825)


def test_history_speaks_shop_words_and_goes_back(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    bench.page.keyboard.press("Alt+ArrowUp")
    bench.wait_stored(2)
    bench.page.get_by_role("button", name="History").click()
    lines = bench.page.get_by_role("list", name="Revisions, the newest first")
    expect(lines).to_contain_text("2: upper frame mounts up 1/2 in")
    assert axe_violations(bench.page) == []
    bench.page.get_by_role("button", name="Behind: revision 1").click()
    expect(bench.page.get_by_test_id("ghost").first).to_be_visible()
    expect(bench.page.locator('[data-reading="anti_squat"] .other')).to_contain_text(
        re.compile(r"\d+ % (good|low|high)")
    )
    bench.page.get_by_role("button", name="History").click()
    bench.page.get_by_role("button", name="Go back to revision 1").click()
    bench.wait_stored(3)
    assert bench.at(2, "frame")[2] == 631.825


def test_alternative_is_named_with_its_reason(bench: Bench) -> None:
    bench.page.get_by_role("button", name="History").click()
    form = bench.page.get_by_role("form", name="An alternative")
    form.get_by_label("An alternative, called").fill("Uppers ahead of the crossmember")
    form.get_by_label("Why").fill("Keeps the tank")
    form.get_by_role("button", name="Start it").click()
    expect(bench.page.get_by_role("heading", name="Uppers ahead of the crossmember")).to_be_visible()
    designs = [d["id"] for b in bench.server.ask("GET", "/api/builds")["builds"] for d in b["designs"]]
    assert bench.server.stored(max(designs))["document"]["notes"] == "Keeps the tank"


@pytest.mark.parametrize(("kind", "media"), [("svg", "image/svg+xml"), ("pdf", "application/pdf")])
def test_shop_drawing_comes_out(bench: Bench, kind: str, media: str) -> None:
    with urllib.request.urlopen(f"{bench.server.url}/api/designs/{bench.design}/sheet.{kind}?units=in32") as response:
        assert response.headers["Content-Type"] == media
        assert len(response.read()) > 4000
    with bench.page.expect_popup() as popup:
        bench.page.get_by_role("button", name="Shop drawing").click()
        bench.page.get_by_role("menuitem", name="Shop drawing, Letter, SVG").click()
    popup.value.close()


def test_server_killed_in_the_middle_of_a_drag_loses_nothing(context: BrowserContext, own_server: Server) -> None:
    bench = Bench(context.new_page(), own_server, own_server.new_design()).open()
    bench.drag(UPPER_FRAME, 0, 12, release=False)
    own_server.stop(signal.SIGKILL)
    bench.page.mouse.up()
    expect(bench.state()).to_contain_text("held here")
    own_server.start()
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] < 631.825


def test_finger_drags_a_mount_and_two_fingers_zoom(browser: Browser, server: Server) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, has_touch=True)
    bench = Bench(context.new_page(), server, server.new_design()).open()
    touch = context.new_cdp_session(bench.page)

    def send(kind: str, *points: tuple[float, float]) -> None:
        spots = [{"x": x, "y": y, "id": n} for n, (x, y) in enumerate(points)]
        touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": spots})

    def middle(key: str) -> tuple[float, float]:
        box = bench.mount(key).locator(".touch").bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    x, y = middle(UPPER_FRAME)
    send("touchStart", (x, y))
    for n in range(1, 5):
        send("touchMove", (x, y + 4 * n))
    send("touchEnd")
    bench.wait_stored(2)
    assert bench.at(2, "frame")[2] < 631.825
    apart = abs(middle("links.0.frame.at")[0] - middle("links.0.axle.at")[0])
    send("touchStart", (40, 200), (90, 200))
    for n in range(1, 6):
        send("touchMove", (40, 200), (90 + 12 * n, 200))
    send("touchEnd")
    until(lambda: abs(middle("links.0.frame.at")[0] - middle("links.0.axle.at")[0]) > 1.5 * apart)
    context.close()


def test_constructions_are_drawn_when_wanted(bench: Bench) -> None:
    bench.page.get_by_role("button", name="Draw also").click()
    for name in ("Swing arcs", "Triangulation angles", "Roll axis and its apexes"):
        bench.page.get_by_role("menuitemcheckbox", name=name).click()
    bench.page.keyboard.press("Escape")
    top = bench.page.locator('[aria-label="Top view"]')
    expect(top.get_by_text("23.1°").first).to_be_visible()
    expect(bench.page.locator('[aria-label="Rear view"]').get_by_text("roll center").first).to_be_visible()


def test_cycle_plays_and_stops(bench: Bench) -> None:
    bench.page.get_by_role("button", name="Cycle", exact=True).click()
    expect(bench.page.get_by_text(re.compile(" in up| in down")).first).to_be_visible()
    bench.page.get_by_role("button", name="Stop", exact=True).click()


def test_close_up_and_back(bench: Bench) -> None:
    bench.choose(UPPER_FRAME)
    before = bench.mount(UPPER_FRAME).bounding_box()
    bench.page.get_by_role("button", name="Zoom to chosen").click()
    until(lambda: bench.mount(UPPER_FRAME).bounding_box() != before)
    bench.page.get_by_role("button", name="Fit all").click()
    until(lambda: bench.mount(UPPER_FRAME).bounding_box() == before)


def test_lost_server_is_said_where_it_was_asked(context: BrowserContext, own_server: Server) -> None:
    bench = Bench(context.new_page(), own_server, own_server.new_design()).open()
    own_server.stop(signal.SIGKILL)
    finding(bench, "roll_center")
    expect(bench.page.get_by_test_id("pane").get_by_role("alert")).to_contain_text("does not answer")
    own_server.start()
