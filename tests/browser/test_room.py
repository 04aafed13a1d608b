"""Layout in place, clearances with their cures, the Room area, and the truck's raw readings, in the served page."""

import json
import re
from io import StringIO

import ezdxf
import numpy as np
import pytest
import trimesh
from playwright.sync_api import BrowserContext, Page, expect
from shop import ROOMY, TENDER, Bench, Server, axe_violations, from_menu, to_step, until

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
    here = page.get_by_test_id("here")
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
    to_step(page, "Truck")
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
    to_step(page, "Links")
    expect(page.get_by_test_id("readings")).to_be_visible()


def test_the_demo_truck_has_its_slip_named(context: BrowserContext, server: Server) -> None:
    found = server.ask("GET", "/api/builds?find=Fell%20tender%2C%20front")["builds"]
    build = next(build for build in found if build["name"] == "Fell tender")
    tender = next(design["id"] for design in build["designs"] if design["name"] == "Fell tender, rear")
    page = context.new_page()
    page.goto(f"{server.url}/designs/{tender}/truck")
    expect(page.locator('[data-reading-id="r16"]')).to_contain_text("Off by 1 in")
    expect(page.get_by_text("zeroed the other way")).to_be_visible()
    page.set_viewport_size({"width": 768, "height": 1024})
    assert page.evaluate("document.documentElement.scrollWidth") <= 768
    from_menu(page, "Dark")
    assert axe_violations(page) == []


def keep_outs(bench: Bench) -> list[dict[str, object]]:
    room = bench.server.stored(bench.design)["document"].get("room") or {}
    found: list[dict[str, object]] = room.get("keep_outs", [])
    return found


def test_what_is_too_near_is_cured_by_a_move_that_is_looked_at_first(beside_a_tank: Bench) -> None:
    page = beside_a_tank.page
    page.locator('[data-gap="upper-left tank"]').click()
    cures = page.get_by_role("list", name="Cures, the least costly first")
    expect(cures).to_contain_text("between them")
    cures.get_by_role("button", name="Look at it").first.click()
    expect(page.get_by_test_id("ghost").first).to_be_visible()
    assert axe_violations(page) == []
    cures.get_by_role("button", name="Take it").click()
    beside_a_tank.wait_stored(2)
    body = {"document": beside_a_tank.server.stored(beside_a_tank.design)["document"]}
    pairs = beside_a_tank.server.ask("POST", "/api/clear", body)["pairs"]
    near = next(pair for pair in pairs if (pair["a"], pair["b"]) == ("upper-left", "tank"))
    assert near["gap"] >= near["wanted"] - 1e-6


def test_what_is_in_the_way_is_drawn_dragged_typed_and_mirrored(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("k")
    room = page.get_by_test_id("room")
    expect(room).to_contain_text("Nothing is said yet.")
    assert axe_violations(page) == []
    room.get_by_role("button", name="Draw a new one").click()
    page.get_by_role("option", name="A box").click()
    until(lambda: len(keep_outs(bench)) == 1)
    chosen = page.get_by_role("region", name="Chosen")
    chosen.locator('[data-size="name"]').fill("Fuel tank")
    for key, text in {"0": "20", "1": "12", "2": "30"}.items():
        chosen.locator(f'[data-size="{key}"]').fill(text)
    chosen.get_by_role("button", name="Take it").click()
    until(lambda: keep_outs(bench)[0]["name"] == "Fuel tank")
    grip = page.get_by_role("list", name="Fuel tank in the side, from the left view").locator('[data-pull="whole"]')
    place = grip.bounding_box()
    assert place is not None
    x, y = place["x"] + place["width"] / 2, place["y"] + place["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 30, y - 20, steps=4)
    page.mouse.up()

    def center() -> list[float]:
        solid: dict[str, list[float]] = keep_outs(bench)[0]["solid"]  # type: ignore[assignment]
        return solid["center"]

    until(lambda: center()[0] > 20 * 25.4 and center()[2] > 30 * 25.4)
    assert center()[1] == pytest.approx(12 * 25.4)  # the side view moves nothing sideways
    before = center()[2]
    grip.focus()
    page.keyboard.press("ArrowUp")
    until(lambda: center()[2] == pytest.approx(before + 25.4 / 8))
    chosen.locator('[data-size="3"]').fill("0")
    chosen.get_by_role("button", name="Take it").click()
    expect(chosen.get_by_role("alert")).to_contain_text("size")
    assert len(keep_outs(bench)) == 1
    chosen.get_by_role("button", name="Add its mirror image").click()
    until(lambda: len(keep_outs(bench)) == 2)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Undo").click()
    until(lambda: len(keep_outs(bench)) == 1)
    page.reload()
    expect(page.get_by_role("list", name="Keep-outs")).to_contain_text("Fuel tank")
    page.keyboard.press("k")
    expect(page.get_by_test_id("readings")).to_be_visible()


def test_a_shape_and_an_outline_are_brought_in_and_a_broken_one_refused(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("k")

    def bring(name: str, data: bytes) -> None:
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Bring in STL or DXF").click()
        chooser.value.set_files({"name": name, "mimeType": "application/octet-stream", "buffer": data})

    mesh = trimesh.creation.box((200.0, 300.0, 100.0))
    mesh.apply_translation((600.0, 0.0, 900.0))
    bring("oil pan.stl", mesh.export(file_type="stl"))
    form = page.get_by_role("form", name="Bring in oil pan")
    form.get_by_role("button", name="Its unit").click()
    page.get_by_role("option", name="In millimeters").click()
    form.get_by_role("button", name="Bring it in").click()
    expect(page.get_by_test_id("room").get_by_role("status")).to_contain_text("hull of 8 corners of its 12 triangles")
    place = page.get_by_role("form", name="Where it goes")
    assert keep_outs(bench) == []  # nothing is in the design until it is taken
    drag_brought(page, "side", 40, -20)
    place.get_by_label("Turned in plan, degrees").fill("90")
    place.get_by_role("button", name="Take it").click()
    until(lambda: [one["name"] for one in keep_outs(bench)] == ["oil pan"])
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    drawing.modelspace().add_circle((0.0, 900.0), 60.0)
    out = StringIO()
    drawing.write(out)
    bring("pipe.dxf", out.getvalue().encode())
    form = page.get_by_role("form", name="Bring in pipe")
    form.get_by_label("Drawn out from").fill("-10")
    form.get_by_label("… to").fill("10")
    form.get_by_role("button", name="Bring it in").click()
    place.get_by_role("button", name="Take it").click()
    until(lambda: [one["name"] for one in keep_outs(bench)] == ["oil pan", "pipe"])
    points = np.array(keep_outs(bench)[0]["solid"]["points"])  # type: ignore[index]
    assert np.ptp(points, axis=0) == pytest.approx([300.0, 200.0, 100.0], abs=0.01)  # turned a quarter in plan
    middle = (points.min(axis=0) + points.max(axis=0)) / 2.0
    assert abs(middle[0] - 600.0) > 3.0  # dragged ahead or back, and up
    assert middle[2] > 905.0
    assert middle[1] == pytest.approx(0.0, abs=0.01)
    bring("broken.stl", b"nothing")
    page.get_by_role("form", name="Bring in broken").get_by_role("button", name="Bring it in").click()
    expect(page.get_by_test_id("room").get_by_role("alert")).to_contain_text("can't be read as STL")
    assert len(keep_outs(bench)) == 2


def drag_brought(page: Page, view: str, dx: float, dy: float) -> None:
    """Drag what was brought in by its dot."""
    box = page.locator(f'[data-brought="{view}"]').bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx, y + dy, steps=5)
    page.mouse.up()


def test_lines_that_nearly_meet_are_an_outline_and_what_is_none_is_said(bench: Bench) -> None:
    page = bench.page
    page.keyboard.press("k")
    drawing = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    lines = [(0.0, 600.0), (400.3, 600.2), (400.0, 800.0), (0.3, 799.8)]
    for n, corner in enumerate(lines):
        x, y = lines[(n + 1) % 4]
        drawing.modelspace().add_line(corner, (x - 0.3, y))  # each ends 0.3 mm short of the next
    drawing.modelspace().add_text("plate")
    drawing.modelspace().add_line((900.0, 0.0), (950.0, 50.0))
    out = StringIO()
    drawing.write(out)
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Bring in STL or DXF").click()
    buffer = out.getvalue().encode()
    chooser.value.set_files({"name": "plate.dxf", "mimeType": "application/octet-stream", "buffer": buffer})
    form = page.get_by_role("form", name="Bring in plate")
    form.get_by_label("Drawn out from").fill("-4")
    form.get_by_label("… to").fill("4")
    form.get_by_role("button", name="Bring it in").click()
    said = page.get_by_test_id("room").get_by_role("status")
    expect(said).to_contain_text("1 closed outline")
    expect(said).to_contain_text("1 line or arc whose ends meet nothing, 1 text")
    page.get_by_role("form", name="Where it goes").get_by_role("button", name="Take it").click()
    until(lambda: [one["name"] for one in keep_outs(bench)] == ["plate"])


def test_a_keep_out_of_the_truck_is_seen_by_the_other_axle_there(context: BrowserContext, server: Server) -> None:
    build = server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})["id"]
    start = {"layout": "double_triangulated", "school": "numbers_first", "use": "trail", "increment": 1.0}
    sizes = {
        "tire_diameter": 840.0, "track": 1600.0, "wheelbase": 2700.0, "rail_underside": 520.0, "rail_width": 860.0,
    }  # fmt: skip
    first = {**start, "name": "Rear", "end": "rear", **sizes}
    rear = server.ask("POST", f"/api/builds/{build}/starts", first)["design"]
    second = {**start, "name": "Front", "end": "front", "layout": "three_link_panhard"}
    front = server.ask("POST", f"/api/builds/{build}/starts", second)["design"]
    page = context.new_page()
    page.goto(f"{server.url}/designs/{rear}/room")
    page.get_by_role("button", name="Draw a new one").click()
    page.get_by_role("option", name="A box").click()
    page.get_by_text("both axles and every alternative").click()
    until(lambda: "new" in names_of(server, front))
    both = [
        next(one for one in server.stored(d)["document"]["room"]["keep_outs"] if one["id"] == "new")
        for d in (rear, front)
    ]
    (x, y, z), (a, b, c) = (one["solid"]["center"] for one in both)
    assert (a + 2700.0, b, c) == pytest.approx((x, y, z))
    page.goto(f"{server.url}/designs/{front}/room")
    expect(page.get_by_test_id("room").get_by_text("the truck’s").first).to_be_visible()
    page.get_by_test_id("room").get_by_role("button", name=re.compile("^New box")).click()
    page.get_by_role("button", name="Leave it out").click()
    until(lambda: "new" not in names_of(server, rear))
    assert {"rail-left", "rail-right"} <= set(names_of(server, rear))


def names_of(server: Server, design: int) -> list[str]:
    return [one["id"] for one in (server.stored(design)["document"].get("room") or {}).get("keep_outs", [])]


def test_mounts_work_inside_what_fits(context: BrowserContext, server: Server) -> None:
    """The demo tender: its uppers are drawn into the rails; the zone says so, the places are ranked, one is taken."""
    build = server.ask("POST", "/api/builds", {"name": "Yard truck", "notes": ""})
    design = server.ask("POST", f"/api/builds/{build['id']}/designs", {"text": ROOMY})["design"]
    page = context.new_page()
    page.goto(f"{server.url}/designs/{design}/links")
    page.get_by_test_id("pane").get_by_text("Upper left link, frame end, and its mirror image: not in its zone").click()
    expect(page.get_by_role("list", name="Cures, the least costly first")).to_contain_text("inward")
    to_step(page, "Room")
    page.get_by_role("tab", name="Zones").click()
    page.get_by_role("button", name="Mount to say a zone for").click()
    page.get_by_role("option", name="Upper left, frame end").click()
    page.get_by_role("button", name="Rank the places there are").click()
    places = page.get_by_role("list", name="Places, the soundest first")
    places.get_by_role("button", name="Look at it").first.click()
    places.get_by_role("button", name="Take it").click()
    until(lambda: server.stored(design)["number"] == 2)
    found = server.ask("POST", "/api/cycle", {"document": server.stored(design)["document"]})["findings"]
    assert not [one for one in found if one["figure"] == "zone"]
    page.get_by_role("tab", name="Sums").click()
    expect(page.get_by_role("region", name="Travel budget")).to_contain_text("House value for this use")
    expect(page.get_by_role("region", name="Bare tube for brackets")).to_contain_text("fits")
    assert axe_violations(page) == []
    page.set_viewport_size({"width": 768, "height": 1024})
    assert page.evaluate("document.documentElement.scrollWidth") <= 768
    from_menu(page, "Dark")
    assert axe_violations(page) == []
    with page.expect_download() as download:
        page.goto(f"{server.url}/designs/{design}/links")
        page.evaluate(f"location.href = '/api/designs/{design}/room.dxf'")
    assert download.value.suggested_filename.endswith(".dxf")
