"""The Cut sheet area in the served page: loads, bars, brackets, and the archive for the shop; by keys too, with axe."""

import csv
import io
import json
import re
import zipfile

import ezdxf
import pytest
from playwright.sync_api import Page, expect
from shop import Server, axe_violations, from_menu, to_step, until


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def pick(page: Page, list_name: str, option: str) -> None:
    page.get_by_role("button", name=list_name).press("Enter")
    page.get_by_role("option", name=option, exact=True).click()


def test_a_weak_part_is_told_drawn_and_mended(server: Server, page: Page) -> None:
    design = server.own_copy("fell-tender-rear")
    stored = server.stored(design)
    document = stored["document"]
    for link in document["links"][:2]:
        link["tube"] = {"diameter": 38.1, "wall": 4.78}
    server.ask(
        "POST",
        f"/api/designs/{design}/revisions",
        {"base": stored["number"], "truck": stored["truck"], "document": document},
    )
    page.goto(f"{server.url}/designs/{design}/cut")
    weak = page.get_by_role("button", name=re.compile("Lower left link dropped on a rock"))
    weak.press("Enter")
    expect(page.get_by_role("region", name="Lower left link")).to_contain_text("Bending on a rock")
    assert axe_violations(page) == []
    page.get_by_role("button", name="Take that tube, and for its mirror image").press("Enter")
    until(lambda: server.stored(design)["document"]["links"][1]["tube"]["diameter"] > 38.1)
    rated = server.ask("POST", "/api/loads", {"document": server.stored(design)["document"]})["parts"]
    assert all(one["severity"] == "consider" for one in rated)
    pick(page, "Load case drawn", "Braking")
    expect(page.get_by_role("region", name="Braking")).to_contain_text("pulled")


def test_a_case_of_ones_own_is_added_drawn_and_left_out_by_keys(server: Server, page: Page) -> None:
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/cut")
    page.get_by_role("button", name="A tow hook").press("Enter")
    form = page.get_by_role("form", name="A case of your own")
    expect(form.get_by_label("Left tire, up")).to_have_value(re.compile(r"^\d{4}$"))  # what stands on it, lb
    form.get_by_label("Called").fill("Tow hook")
    for side in ("Left", "Right"):
        form.get_by_label(f"{side} tire, forward").fill("2000 lb")
    assert axe_violations(page) == []
    form.get_by_role("button", name="Add the case").press("Enter")
    until(lambda: bool((server.stored(design)["document"].get("loads") or {}).get("cases")))
    (own,) = server.stored(design)["document"]["loads"]["cases"]
    assert round(own["left"][0]) == 8896
    pick(page, "Load case drawn", "Tow hook")
    expect(page.get_by_role("region", name="Tow hook")).to_contain_text(re.compile("pulled|pressed"))
    page.get_by_role("button", name="Leave out Tow hook").press("Enter")
    until(lambda: server.stored(design)["document"]["loads"]["cases"] == [])


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_from_a_design_to_an_archive(server: Server, page: Page, theme: str) -> None:
    """Ends, brackets on tube and frame, stock; then every file, opened by others."""
    page.set_viewport_size({"width": 768, "height": 1024} if theme == "dark" else {"width": 1280, "height": 800})
    design = server.own_copy("fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/cut")
    if theme == "dark":
        from_menu(page, "Dark")
    tab(page, "Bars")
    for bar in ("lower-left", "upper-left"):
        page.locator(f"[data-bar={bar}]").click()
        pick(page, "End at the axle", "Bushed eye, sleeve 2-1/4 outside")
        pick(page, "End at the frame", "Rod end, 1-1/4-12 thread, spaced")
        expect(page.get_by_text("Threads: right at the frame.")).to_be_visible()
        page.locator(f"[data-bar={bar}]").click()
    tab(page, "Brackets")
    for mount, face in (
        ("Lower left, axle end", "Saddles the axle tube"),
        ("Lower left, frame end", "Hangs under a face"),
    ):
        pick(page, "Mount", mount)
        pick(page, "Stands on", face)
        page.get_by_role("button", name="Draw it").click()
        page.locator("[data-bracket]").filter(has_text=mount).wait_for()
    page.locator("[data-bracket=b1]").click()
    expect(page.get_by_role("img", name="Plate b1-1")).to_be_visible()
    assert axe_violations(page) == []
    tab(page, "Mark-out")
    marks = page.get_by_role("region", name="b1: Lower left, axle end")
    expect(marks).to_contain_text("from plumb. 0° is straight up with the pinion set 9.0° nose up")
    expect(marks.get_by_role("row", name=re.compile("^b1-1, upper"))).to_contain_text("–")
    page.get_by_label("Wheel faces apart").fill("58")
    page.get_by_label("Wheel faces apart").press("Enter")
    expect(marks.get_by_role("row", name=re.compile("^b1-1, upper"))).to_contain_text(re.compile(r"\sin\s.*\sin\s"))
    until(lambda: server.stored(design)["document"]["axle"].get("wheel_faces") == 58 * 25.4)
    assert axe_violations(page) == []
    tab(page, "Bolts")
    page.locator('[data-bolt="lower-left.axle"]').click()
    expect(page.get_by_label("Bolt, diameter")).to_have_value("9/16")  # the hole of its joint
    pick(page, "Grade, as stamped on its head", "Grade 8 (inch), up to 1-1/2 in")
    expect(page.locator('[data-bolt="lower-right.axle"]')).to_contain_text("lb·ft")
    assert axe_violations(page) == []
    tab(page, "To the shop")
    expect(page.get_by_role("img", name=re.compile("Sheet with b"))).to_be_visible()
    expect(page.get_by_role("region", name="No place in stock")).to_have_count(0)
    assert axe_violations(page) == []
    until(lambda: len(server.stored(design)["document"].get("brackets") or []) == 4)
    if theme == "dark":
        return  # the files are the same
    number = server.stored(design)["number"]
    with page.expect_download() as saving:
        page.get_by_role("button", name="All files, patterns on Letter").click()
    assert saving.value.suggested_filename.endswith(f"-r{number}.zip")
    expect(page.get_by_role("status").filter(has_text=saving.value.suggested_filename)).to_be_visible()
    assert axe_violations(page) == []
    saved = saving.value.path().read_bytes()
    assert saved == page.request.get(f"{server.url}/api/designs/{design}/shop.zip?units=in16&paper=letter").body()
    with zipfile.ZipFile(io.BytesIO(saved)) as archive:
        assert f"Revision {number}" in archive.read("contents.txt").decode()
        assert json.loads(archive.read("design.json"))["name"] == server.stored(design)["document"]["name"]
        torques = list(csv.DictReader(io.StringIO(archive.read("bolts.csv").decode())))
        assert [float(one["torque_nm"]) > 0 for one in torques if one["torque_nm"]] == [True, True]
        marked = list(csv.DictReader(io.StringIO(archive.read("mark-out.csv").decode())))
        assert {one["of"] for one in marked if one["what"].startswith("inside")} == {
            f"b{bracket}-{plate}" for bracket in (1, 2, 3, 4) for plate in (1, 2)
        }
        plates = [name for name in archive.namelist() if re.fullmatch(r"b\d-\d\.dxf", name)]
        assert len(plates) >= 3
        drawing = ezdxf.read(io.StringIO(archive.read(plates[0]).decode()))  # type: ignore[attr-defined]
        assert len(drawing.modelspace().query('LWPOLYLINE[layer=="cut"]')) == 1


def test_plates_are_quoted_ordered_and_waited_for(server: Server, page: Page) -> None:
    """A finished design: the cutting service takes all of it; the order stands on the plan of the fit-up."""
    design = server.own_copy("bracketed/fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/cut")
    tab(page, "To the shop")
    page.get_by_role("button", name=re.compile("What does it take")).press("Enter")
    service = page.get_by_role("region", name="Cutting service")
    expect(service).to_contain_text(re.compile(r"It takes 23 plates: \d+\.\d\d USD, in 7 days\."))
    assert axe_violations(page) == []
    service.get_by_role("button", name="Order it").press("Enter")
    expect(service).to_contain_text("on the waiting list of Fit-up")
    to_step(page, "Fit-up")
    tab(page, "Waiting")
    expect(page.get_by_text("Tacked waits for: Plates of Fell tender, rear, to be cut, revision 1.")).to_be_visible()
    page.locator("[data-order]").press("Enter")
    page.get_by_role("button", name=re.compile("^How far is job C-")).press("Enter")
    expect(page.get_by_text(re.compile("^ordered, due "))).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_role("button", name="It is here").press("Enter")
    expect(page.get_by_text(re.compile("^Can be done now: .*Tacked"))).to_be_visible()


def test_a_truss_is_drawn_dragged_by_keys_and_cut(server: Server, page: Page) -> None:
    design = server.own_copy("fell-tender-front")
    page.goto(f"{server.url}/designs/{design}/cut")
    tab(page, "Brackets")
    page.get_by_role("button", name="Draw a truss over the axle tube").press("Enter")
    expect(page.get_by_role("img", name="Plate truss-side-1")).to_be_visible()
    until(lambda: server.stored(design)["document"].get("truss"))
    before = server.stored(design)["document"]["truss"]["top"]
    corner = page.get_by_role("button", name="Truss, corner 2: arrows move it")
    corner.press("ArrowUp")
    until(lambda: server.stored(design)["document"]["truss"]["top"][1][1] > before[1][1])
    assert axe_violations(page) == []
    tab(page, "Mark-out")
    expect(page.get_by_role("row", name=re.compile("^right, rear"))).to_be_visible()


def test_a_corner_of_a_truss_lies_under_the_hand_that_drags_it(server: Server, page: Page) -> None:
    design = server.own_copy("bracketed/fell-tender-rear")
    page.goto(f"{server.url}/designs/{design}/cut")
    tab(page, "Brackets")
    corner = page.get_by_role("button", name="Truss, corner 2: arrows move it")
    corner.wait_for()
    held = server.stored(design)["document"]["truss"]["top"][1]
    box = corner.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2.0, box["y"] + box["height"] / 2.0
    page.mouse.move(x, y)
    page.mouse.down()
    for n in range(1, 11):  # as a hand goes, with a look between
        page.mouse.move(x, y - 2.0 * n)
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => done(true)))")
    page.mouse.up()
    until(lambda: server.stored(design)["document"]["truss"]["top"][1] != held)
    now = corner.bounding_box()
    assert now is not None
    assert abs(now["y"] - (box["y"] - 20.0)) < 2.0  # it lies under the hand
    top = server.stored(design)["document"]["truss"]["top"]
    assert top[2] == [-top[1][0], top[1][1]]
