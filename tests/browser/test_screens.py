"""What every screen is measured by: how much of it is drawing, and that all of a design is on the paper."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from shop import ROOT, Server, axe_violations, until

SHARE = {(1280, 800): 0.55, (1920, 1080): 0.55}
"""Of the screen, with nothing chosen."""
WITHIN_CYCLE = 0.52
"""Where a row of tabs stands over the drawing."""

AREAS = ("room", "links", "corners", "weigh", "cut", "fit-up")
ON_FLOOR = ("Map", "Driveline", "Joints")

MEASURED = """() => {
    const box = (element) => { const b = element.getBoundingClientRect(); return [b.x, b.y, b.width, b.height]; };
    const views = [...document.querySelectorAll("[data-view]")];
    const all = (what) =>
        views.flatMap((view) => [...view.querySelectorAll(what)].map((one) => [box(view), box(one)]));
    return {
        views: views.map(box),
        mounts: all("[data-mount] .touch"),
        tires: all(".rubber.medium"),
        notices: [...document.querySelectorAll("[aria-live]")].map(box),
    };
}"""


DEMO = sorted(file.stem for file in (ROOT / "server" / "builds" / "demo").glob("*.json") if "-truck" not in file.stem)


def measured(page: Page) -> dict[str, Any]:
    page.locator("[data-view] [data-mount]").first.wait_for()
    found: dict[str, Any] = page.evaluate(MEASURED)
    return found


def share(page: Page, found: dict[str, Any]) -> float:
    size = page.viewport_size
    assert size is not None
    drawn: float = sum(width * height for _, _, width, height in found["views"])
    return drawn / (size["width"] * size["height"])


def is_inside(view: list[float], one: list[float]) -> bool:
    x, y, width, height = view
    middle = (one[0] + one[2] / 2, one[1] + one[3] / 2)
    return x - 1 <= middle[0] <= x + width + 1 and y - 1 <= middle[1] <= y + height + 1


def is_whole(view: list[float], one: list[float]) -> bool:
    """Across, all of it; a tire may run off a view only where it is cut on purpose."""
    return view[0] - 1 <= one[0] and one[0] + one[2] <= view[0] + view[2] + 1


@pytest.mark.parametrize(("width", "height"), list(SHARE))
def test_the_drawing_fills_the_screen_and_holds_all_of_every_demo_design(
    server: Server, page: Page, width: int, height: int
) -> None:
    page.set_viewport_size({"width": width, "height": height})
    assert len(DEMO) == 9
    for name in DEMO:
        page.goto(f"{server.url}/designs/{server.own_copy(name)}/links")
        found = measured(page)
        assert share(page, found) >= SHARE[(width, height)], name
        assert len(found["mounts"]) >= 3 * 8, name
        assert all(is_inside(view, one) for view, one in found["mounts"]), name
        assert len(found["tires"]) >= 3, name
        assert all(is_whole(view, one) for view, one in found["tires"]), name


def test_every_area_on_the_floor_leaves_as_much_to_the_drawing(server: Server, page: Page) -> None:
    design = server.own_copy("fell-tender-front")
    for area in AREAS:
        page.goto(f"{server.url}/designs/{design}/{area}")
        assert share(page, measured(page)) >= SHARE[(1280, 800)], area
    page.goto(f"{server.url}/designs/{design}/cycle")
    for tab in ON_FLOOR:
        page.get_by_role("tab", name=tab, exact=True).click()
        assert share(page, measured(page)) >= WITHIN_CYCLE, tab


def test_no_notice_lies_on_a_view(server: Server, page: Page) -> None:
    """A design of the demo that has something to stop for, in each arrangement of the views."""
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/room")
    for lead in ("Side, from the left", "Top", "Rear"):
        page.get_by_role("button", name=re.compile(f"^{lead}")).click()
        expect(page.get_by_text(re.compile("^Stop: "))).to_be_visible()
        found = measured(page)
        laid = [box for box in found["notices"] if box[2] * box[3] > 0]
        assert laid
        for x, y, wide, high in laid:
            for vx, vy, vw, vh in found["views"]:
                assert x + wide <= vx + 1 or vx + vw <= x + 1 or y + high <= vy + 1 or vy + vh <= y + 1, lead


def test_the_view_that_is_pressed_leads_on_this_device(server: Server, page: Page) -> None:
    design = server.own_copy("tarn-van-rear")
    page.goto(f"{server.url}/designs/{design}/links")
    first = page.locator("[data-view=side]").bounding_box()
    page.get_by_role("button", name=re.compile("^Top")).press("Enter")
    until(lambda: page.locator("[data-view=top]").bounding_box()["y"] == first["y"])  # type: ignore[index]
    page.reload()
    measured(page)
    top, side, rear = (page.locator(f"[data-view={view}]").bounding_box() for view in ("top", "side", "rear"))
    assert top is not None
    assert side is not None
    assert rear is not None
    assert top["x"] == side["x"]
    assert side["y"] == rear["y"] > top["y"]
    assert axe_violations(page) == []


def test_next_leads_to_a_finding_with_its_cures_and_on_from_there(server: Server, page: Page) -> None:
    """From a design with a stop: Next, its cure looked at and taken, and Next is another thing."""
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/links")
    following = page.get_by_test_id("next")
    expect(following).to_contain_text("Stop:")
    was = following.inner_text()
    following.press("Enter")
    expect(page.get_by_test_id("pane").get_by_role("heading").first).to_contain_text(was.split(": ", 1)[1])
    page.get_by_role("button", name="Look at it").first.press("Enter")
    page.get_by_role("button", name="Take it", exact=True).press("Enter")
    until(lambda: following.inner_text() not in (was, "Judging…"))
    expect(page.get_by_role("navigation", name="Steps of the job")).to_be_visible()
    assert axe_violations(page) == []
