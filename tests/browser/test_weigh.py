"""The Weigh up area in the served page: side by side, the hole map, places found, how exact; by keys too, with axe."""

import json
import re

import pytest
from playwright.sync_api import Page, Route, expect
from shop import ROOT, Server, axe_violations, from_menu, until


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def two_ways(server: Server) -> int:
    """The Ghyll special's rear axle with its alternative, in a build of their own."""
    build = server.ask("POST", "/api/builds", {"name": "Own copy", "notes": ""})["id"]
    files = (ROOT / "server" / "builds" / "demo" / f"{name}.json" for name in GHYLL)
    first, _ = (server.ask("POST", f"/api/builds/{build}/designs", {"text": file.read_text()}) for file in files)
    design: int = first["design"]
    return design


GHYLL = ("ghyll-special-rear", "ghyll-special-rear-lower-hole")


def test_alternatives_are_side_by_side_and_looked_at(server: Server, page: Page) -> None:
    page.goto(f"{server.url}/designs/{two_ways(server)}/weigh")
    other = "Ghyll special, rear, uppers in the lower frame hole"
    page.get_by_role("button", name=other).click()
    row = page.get_by_role("row").filter(has=page.get_by_role("rowheader", name="Anti-squat", exact=True))
    expect(row.get_by_role("cell")).to_have_text([re.compile("85 %"), re.compile("126 %")])
    expect(page.get_by_text("upper frame mounts 1 1/4 in down")).to_be_visible()
    page.get_by_role("button", name="Look at it").click()
    expect(page.get_by_role("button", name="Take it")).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_role("rowheader", name="Anti-squat", exact=True).get_by_role("button").press("Enter")
    expect(page.get_by_role("img", name=re.compile(f"This design: 5.* %; {other}: 10.* %"))).to_be_visible()
    assert axe_violations(page) == []
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save as CSV").click()
    lines = saved.value.path().read_text().splitlines()
    assert lines[0].startswith("figure,This design,")
    assert any(line.startswith("Anti-squat,85.") for line in lines)


def test_the_hole_map_is_worked_out_by_keys_outlives_a_reload_and_a_hole_is_taken(server: Server, page: Page) -> None:
    design = server.own_copy("ghyll-special-rear")
    was = server.stored(design)["document"]
    page.goto(f"{server.url}/designs/{design}/weigh")
    tab(page, "Holes")
    page.get_by_role("button", name="Work out every combination").press("Enter")
    plate = page.get_by_role("group", name=re.compile("across"))
    in_use = plate.get_by_role("button", name=re.compile("in use"))
    expect(in_use).to_have_attribute("aria-pressed", "true")
    page.reload()
    tab(page, "Holes")
    expect(plate.get_by_role("button")).to_have_count(16)
    expect(plate.get_by_role("button", name=re.compile("inside the window"))).to_have_count(1)
    expect(plate.get_by_role("button", name=re.compile("against it")).first).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_role("button", name="Show more bite").press("Enter")
    shown = page.get_by_role("region", name="The combination looked at")
    expect(shown).to_contain_text("126 %")
    shown.get_by_role("button", name="Look at it").press("Enter")
    shown.get_by_role("button", name="Take it").press("Enter")
    until(lambda: server.stored(design)["document"]["links"] != was["links"])
    page.get_by_text("The design was changed since").wait_for()


def test_one_more_hole_is_drilled_where_there_is_metal_and_put_in_its_row(server: Server, page: Page) -> None:
    design = server.own_copy("ghyll-special-rear")
    stored = server.stored(design)
    document = stored["document"] | {"joints": {"small": {"limit": 30, "give": 0, "width": 40.0, "bolt": 6.35}}}
    for link in document["links"]:
        link["frame"]["joint"] = "small"
    body = {"base": stored["number"], "truck": stored["truck"], "document": document}
    server.ask("POST", f"/api/designs/{design}/revisions", body)
    page.goto(f"{server.url}/designs/{design}/weigh")
    tab(page, "Holes")
    page.get_by_role("button", name="Work out every combination").press("Enter")
    more = page.get_by_role("region", name="One more hole").get_by_role("group", name="Upper, frame end")
    expect(more).to_contain_text("between holes 2 and 3")
    more.get_by_role("button", name="Look at").press("Enter")
    assert axe_violations(page) == []
    more.get_by_role("button", name="Drill it there").press("Enter")

    def row() -> list[list[float]]:
        zones = server.stored(design)["document"]["room"]["zones"]
        return next(zone["region"]["at"] for zone in zones if zone["id"] == "upper-rack-left")

    until(lambda: len(row()) == 5)
    then = server.stored(design)["document"]
    assert next(link["frame"]["at"] for link in then["links"] if link["id"] == "upper-left") == row()[-1]
    ride = server.ask("POST", "/api/cycle", {"document": then})["here"]["columns"]["anti_squat"][0]
    assert 90.0 < ride < 130.0


def longer(route: Route) -> None:
    """Look for longer than a busy machine needs: it is stopped by hand."""
    asked = json.loads(route.request.post_data or "{}")
    route.continue_(post_data=json.dumps({**asked, "seconds": 300}))


def test_places_are_found_looked_at_and_taken(server: Server, page: Page) -> None:
    design = server.own_copy("fell-tender-rear")
    was = server.stored(design)["document"]
    page.goto(f"{server.url}/designs/{design}/weigh")
    tab(page, "Find places")
    page.route("**/api/work/find", longer)
    page.get_by_role("button", name="Look for places").click()
    page.get_by_role("button", name="Look at it: place 1").click()
    assert axe_violations(page) == []
    page.get_by_role("button", name="Take it").click()
    page.get_by_role("button", name="Stop looking").click()
    expect(page.get_by_role("progressbar")).to_have_count(0)
    until(lambda: server.stored(design)["document"]["links"] != was["links"])
    verdicts = server.ask("POST", "/api/cycle", {"document": server.stored(design)["document"]})["findings"]
    own = [one["id"] for one in verdicts if one["severity"] in ("stop", "fix") and not one["parts"]]
    assert "anti_squat" not in own
    assert "rear_steer" not in own


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_how_exact_holes_must_be_is_said_and_drawn(server: Server, page: Page, theme: str) -> None:
    page.set_viewport_size({"width": 768, "height": 1024} if theme == "dark" else {"width": 1280, "height": 800})
    page.goto(f"{server.url}/designs/{server.own_copy('fell-tender-rear')}/weigh")
    if theme == "dark":
        from_menu(page, "Dark")
    tab(page, "How exact")
    expect(page.get_by_role("region", name="How far off each hole may be")).to_contain_text("axle out of square")
    expect(page.get_by_text(re.compile("of 10,000 trucks"))).to_be_visible()
    page.get_by_label("This shop’s tape error, one sigma").fill("1/4")
    expect(page.get_by_role("region", name="Verdicts most in doubt")).to_contain_text(re.compile(r"\d\d %"))
    assert axe_violations(page) == []
