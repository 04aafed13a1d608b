"""Held on the device: whatever area a change is made in, with the server gone, killed, or another tab beside."""

import json
import random
import signal
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from shop import TENDER, Bench, Server, figure_field, set_figure, to_step, until

EIGHTH = 3.175
LOWER, UPPER = "links.0.frame.at", "links.2.frame.at"


def waiting(page: Page) -> Any:
    return page.get_by_test_id("waiting")


def nudge(bench: Bench, mount: str, key: str = "ArrowUp") -> None:
    bench.choose(mount)
    bench.page.keyboard.press(key)


def height(server: Server, design: int, link: int) -> float:
    found: float = server.stored(design)["document"]["links"][link]["frame"]["at"][2]
    return found


def test_of_two_tabs_without_a_server_neither_loses_its_edit(context: BrowserContext, own_server: Server) -> None:
    design = own_server.new_design()
    one, other = (Bench(context.new_page(), own_server, design).open() for _ in range(2))
    before = [height(own_server, design, link) for link in (0, 2)]
    own_server.stop(signal.SIGKILL)
    nudge(one, LOWER)
    nudge(other, UPPER)
    expect(waiting(one.page)).to_contain_text("2 changes wait for the server since")
    expect(waiting(other.page)).to_contain_text("2 changes wait")
    own_server.start()
    # one is stored; the other is asked about, and put on top of it
    until(lambda: sum(b.page.get_by_role("alertdialog").count() for b in (one, other)) == 1)
    asked = next(b for b in (one, other) if b.page.get_by_role("alertdialog").count())
    asked.page.get_by_role("button", name="Put mine on top").click()
    until(lambda: [height(own_server, design, link) for link in (0, 2)]
          == pytest.approx([h + EIGHTH for h in before], abs=0.01))  # fmt: skip
    expect(waiting(one.page)).to_have_count(0)


def test_an_edit_in_conflict_outlives_its_tab(context: BrowserContext, own_server: Server) -> None:
    design = own_server.new_design()
    one, other = (Bench(context.new_page(), own_server, design).open() for _ in range(2))
    before = height(own_server, design, 2)
    own_server.stop(signal.SIGKILL)
    nudge(one, LOWER)
    expect(one.state()).to_contain_text("held here")
    nudge(other, UPPER)
    expect(other.state()).to_contain_text("held here")
    own_server.start()
    until(lambda: sum(b.page.get_by_role("alertdialog").count() for b in (one, other)) == 1)
    asked = next(b for b in (one, other) if b.page.get_by_role("alertdialog").count())
    left = before if asked is other else None
    asked.page.close()
    again = Bench(context.new_page(), own_server, design)
    again.page.goto(f"{own_server.url}/designs/{design}/links")
    again.page.get_by_role("alertdialog").get_by_role("button", name="Put mine on top").click()
    again.wait_stored(3)
    if left is not None:
        assert height(own_server, design, 2) == pytest.approx(left + EIGHTH, abs=0.01)


def test_what_is_typed_of_the_truck_without_a_server_is_stored_when_it_is_back(
    context: BrowserContext, own_server: Server
) -> None:
    bench = Bench(context.new_page(), own_server, own_server.new_design()).open()
    page, build = bench.page, own_server.stored(bench.design)["build"]
    page.goto(f"{own_server.url}/designs/{bench.design}/truck")
    mass = figure_field(page, "vehicle.mass")
    own_server.stop(signal.SIGKILL)
    mass.fill("3333")
    mass.press("Enter")
    page.keyboard.press("Escape")
    expect(waiting(page)).to_contain_text("1 change waits for the server since")
    own_server.start()
    expect(waiting(page)).to_have_count(0)
    until(lambda: "3333" in str(round(truck_of(own_server, build)["vehicle"]["mass"]))
          or abs(truck_of(own_server, build)["vehicle"]["mass"] / 0.45359237 - 3333) < 1.0)  # fmt: skip


def truck_of(server: Server, build: int) -> Any:
    return server.ask("GET", f"/api/builds/{build}/truck")["document"]


def test_a_page_that_was_opened_while_the_server_was_away_goes_on_by_itself(
    context: BrowserContext, own_server: Server
) -> None:
    page = context.new_page()
    design = own_server.new_design()
    page.goto(own_server.url)
    link = page.locator(f'a[href="/designs/{design}/links"]').first
    link.wait_for()
    own_server.stop(signal.SIGKILL)
    link.click()
    expect(page.get_by_role("alert").first).to_contain_text("does not answer")
    own_server.start()
    expect(page.get_by_test_id("readings").get_by_text("%", exact=False).first).to_be_visible()


def test_a_name_given_without_a_server_is_given_when_it_is_back(context: BrowserContext, own_server: Server) -> None:
    page = context.new_page()
    build = own_server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})["id"]
    page.goto(own_server.url)
    page.get_by_role("button", name="Rename the build Yard truck").click()
    own_server.stop(signal.SIGKILL)
    page.get_by_role("textbox", name="Name", exact=True).fill("Snow plow")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("held on this device")
    page.close()
    own_server.start()
    page = context.new_page()
    page.goto(own_server.url)
    until(lambda: own_server.ask("GET", f"/api/builds/{build}")["name"] == "Snow plow")
    expect(page.get_by_text("Snow plow").first).to_be_visible()


class Hands:
    """What three hands have done to one build, and whether the store has it."""

    def __init__(self, context: BrowserContext, server: Server) -> None:
        self.context, self.server = context, server
        self.bench = Bench(context.new_page(), server, server.new_design()).open()
        self.build = server.stored(self.bench.design)["build"]
        self.start = height(server, self.bench.design, 0)
        self.lifted, self.mass, self.name = 0, 0, ""

    def lift(self) -> None:
        nudge(self.bench, LOWER)
        self.lifted += 1

    def weigh(self, pounds: int) -> None:
        to_step(self.bench.page, "Truck")
        set_figure(self.bench.page, "vehicle.mass", str(pounds))
        to_step(self.bench.page, "Links")
        self.mass = pounds

    def rename(self, name: str) -> None:
        page = self.context.new_page()
        page.goto(self.server.url)
        page.get_by_role("button", name="Rename the build Yard truck", exact=False).first.click()
        page.get_by_role("textbox", name="Name", exact=True).fill(name)
        page.keyboard.press("Enter")
        expect(page.locator("form[aria-label^=Rename]").or_(page.get_by_role("alert")).first).not_to_be_visible()
        page.close()
        self.name = name

    def is_stored(self) -> bool:
        lifted = self.start + self.lifted * EIGHTH
        mass = round(truck_of(self.server, self.build)["vehicle"]["mass"] / 0.45359237)
        name = self.server.ask("GET", f"/api/builds/{self.build}")["name"]
        return (
            abs(height(self.server, self.bench.design, 0) - lifted) < 0.01
            and self.mass in (0, mass)
            and self.name in ("", name)
        )


def test_a_server_killed_at_any_moment_loses_nothing_in_any_area(context: BrowserContext, own_server: Server) -> None:
    """Edits in Links, figures of the truck and names, one after the other, with kills at random before and after."""
    chance, hands = random.Random(7), Hands(context, own_server)
    for n in range(4):
        there = n % 3 == 2 or chance.random() < 0.5
        if not there:
            own_server.stop(signal.SIGKILL)
        if n % 3 == 0:
            hands.lift()
        elif n % 3 == 1:
            hands.weigh(3000 + 10 * n)
        else:
            hands.rename(f"Yard truck {n}")
        if there and chance.random() < 0.7:
            own_server.stop(signal.SIGKILL)
            there = False
        if not there:
            own_server.start()
        expect(waiting(hands.bench.page)).to_have_count(0)
        until(hands.is_stored)


def test_what_is_done_in_room_at_the_corners_and_at_home_with_the_server_killed_is_stored_once(
    context: BrowserContext, own_server: Server
) -> None:
    designs = [own_server.own_copy("fell-tender-rear") for _ in range(2)]
    build = own_server.stored(designs[0])["build"]
    room, corners, home = (context.new_page() for _ in range(3))
    room.goto(f"{own_server.url}/designs/{designs[0]}/room")
    expect(room.get_by_role("button", name="Draw a new one")).to_be_visible()
    corners.goto(f"{own_server.url}/designs/{designs[1]}/corners")
    corners.locator('[data-part="coilover-left"]').click()
    eye = corners.locator('[aria-label="Rear view"] [data-mount="corners.shocks.0.frame.at"]')
    expect(eye).to_be_visible()
    before = eye_of(own_server, designs[1])
    home.goto(own_server.url)
    card = home.get_by_role("article", name="Own copy").last
    expect(card).to_be_visible()
    own_server.stop(signal.SIGKILL)

    room.bring_to_front()
    room.get_by_role("button", name="Draw a new one").click()
    room.get_by_role("option", name="A box").click()
    corners.bring_to_front()
    eye.focus()
    corners.keyboard.press("Enter")
    corners.keyboard.press("ArrowUp")
    for size in ("10", "34 1/2"):  # the first is shorter than what it is compressed: nobody is there to say so
        corners.locator('[data-size="extended"]').fill(size)
        corners.get_by_role("button", name="Take these sizes").click()
        expect(corners.get_by_role("button", name="Take these sizes")).to_be_disabled()
    home.bring_to_front()
    text = json.dumps({**json.loads(TENDER), "name": "Plow, rear"}).encode()
    card.locator("input[type=file]").set_input_files({"name": "plow.json", "mimeType": "text/plain", "buffer": text})
    expect(waiting(home)).to_contain_text("5 changes wait")

    own_server.start()
    until(lambda: any(one["id"] == "new" for one in keep_outs_of(own_server, designs[0])))
    until(lambda: eye_of(own_server, designs[1]) == pytest.approx(before + EIGHTH))
    until(lambda: shock_of(own_server, designs[1])["extended"] == pytest.approx(876.3))
    expect(corners.get_by_text("Not stored: an edit of")).to_contain_text("longer extended than compressed")
    until(
        lambda: [one["name"] for one in own_server.ask("GET", f"/api/builds/{build}")["designs"]][1:] == ["Plow, rear"]
    )
    expect(waiting(home)).to_have_count(0)


def keep_outs_of(server: Server, design: int) -> Any:
    return server.stored(design)["document"]["room"]["keep_outs"]


def shock_of(server: Server, design: int) -> Any:
    return server.stored(design)["document"]["corners"]["shocks"][0]


def eye_of(server: Server, design: int) -> float:
    """How high a shock's upper eye stands, mm."""
    height: float = shock_of(server, design)["frame"]["at"][2]
    return height
