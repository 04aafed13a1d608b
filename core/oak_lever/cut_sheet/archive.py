"""Everything that goes to the shop in one archive, with a page that says what is in it."""

import io
import zipfile
from collections.abc import Generator

from oak_lever.caution import WHOLE
from oak_lever.cut_sheet.cut import Cut, cut
from oak_lever.cut_sheet.engineer import engineers_sheet
from oak_lever.cut_sheet.files import files_of, put_file
from oak_lever.cut_sheet.lists import bolts_csv
from oak_lever.cut_sheet.mark_sheet import mark_csv, mark_sheet
from oak_lever.cut_sheet.mock_up import mock_up_stl
from oak_lever.cut_sheet.parts_sheet import parts_sheet
from oak_lever.cut_sheet.templates import template_svg
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.reader import write_design
from oak_lever.design.types import Design
from oak_lever.sheet.dxf import room_dxf
from oak_lever.sheet.links import Titles, links_sheet
from oak_lever.sheet.page import PAPERS, Paper
from oak_lever.sheet.plain import plain
from oak_lever.sheet.writers import pdf
from oak_lever.strength.bolts import joint_bolts
from oak_lever.strength.loads import reckoned
from oak_lever.units import Units

_WHEN = (1980, 1, 1, 0, 0, 0)
"""The same design makes the same archive, whenever it is made."""


def shop_archive(design: Design, titles: Titles, units: Units, paper: Paper = "a4") -> bytes:
    """A zip of the plates, patterns, copes and lists, the shop drawing, the room and the design file; parts that can't
    be made as drawn are named on its first page, with why.

    Raises:
        Refused: where nothing can be made.
    """
    going = shop_archive_going(design, titles, units, paper)
    while True:
        try:
            next(going)
        except StopIteration as end:
            archive: bytes = end.value
            return archive


def shop_archive_going(
    design: Design, titles: Titles, units: Units, paper: Paper = "a4"
) -> Generator[float, None, bytes]:
    """Makes the archive of `shop_archive`, and yields meanwhile which share of it is made, 0 to 1.

    Raises:
        Refused: where nothing can be made.
    """
    made = cut(design)
    if not made.bars and not made.brackets:
        raise Refused(list(made.faults) or [Fault("links", "there is no bar and no bracket to make")])
    yield 0.1
    files = files_of(design, made, paper)
    yield 0.35
    title = f"{design.name}, revision {titles.revision}"
    files["parts.pdf"] = pdf(parts_sheet(design, made, units, titles, paper), PAPERS[paper], title)
    yield 0.45
    files["shop-drawing.pdf"] = pdf(links_sheet(design, units, titles, paper), PAPERS[paper], title)
    yield 0.75
    unloaded = ""
    try:
        files["bolts.csv"] = bolts_csv(joint_bolts(design, reckoned(design))).encode()
        files["engineers-sheet.pdf"] = pdf(engineers_sheet(design, units, titles, paper), PAPERS[paper], title)
    except Refused as why:
        unloaded = "; ".join(map(str, why.faults))
    for plate in made.plates:
        if plate.same_as is None:
            put_file(files, f"template-{plate.part}", "svg", template_svg(plate).encode())
    yield 0.85
    files["mark-out.pdf"] = pdf(mark_sheet(design, units, titles, paper), PAPERS[paper], title)
    files["mark-out.csv"] = mark_csv(design).encode()
    files["room.dxf"] = room_dxf(design, titles).encode()
    files["mock-up.stl"] = mock_up_stl(design)
    files["design.json"] = write_design(design).encode()
    yield 0.95
    contents = _contents(design, made, titles, list(files), unloaded).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, what in {"contents.txt": contents, **files}.items():
            archive.writestr(zipfile.ZipInfo(name, _WHEN), what, zipfile.ZIP_DEFLATED)
    return out.getvalue()


_WHAT = {
    ".dxf": "a plate at full size, mm", ".svg": "a pattern, or a wrap for a cope, at full size", ".pdf": "to print",
    ".csv": "what to saw, cut and buy", ".json": "the design",
}  # fmt: skip
_OWN = {
    "room.dxf": "the room in three views, mm", "templates.pdf": "patterns at full size: measure the bar on every page",
    "parts.pdf": "what to saw, cut and buy",
    "shop-drawing.pdf": "the shop drawing", "bolts.csv": "bolts, and what each is tightened with",
    "mark-out.pdf": "where brackets go, holes to jig by, diagonals",
    "mark-out.csv": "the same as a list, mm and degrees",
    "mock-up.stl": "all of it at ride as a solid, mm, to look at or to print small",
    "engineers-sheet.pdf": "loads, free bodies and factors, for whoever signs",
}  # fmt: skip


def _contents(design: Design, made: Cut, titles: Titles, names: list[str], unloaded: str) -> str:
    lines = [plain(f"{titles.build}: {design.name}"), f"Revision {titles.revision}, {titles.date}", ""]
    lines += [f"{name}: {_OWN.get(name) or _WHAT[name[name.rindex('.') :]]}" for name in names]
    if made.faults:
        lines += ["", "NOT in here, for they can't be made as drawn:", *(plain(str(fault)) for fault in made.faults)]
    if unloaded:
        lines += ["", plain(f"NOT in here, for loads can't be reckoned: bolts and the engineer's sheet. {unloaded}")]
    open_bars = [bar.id for bar in made.bars if bar.cut_length is None]
    if open_bars:
        lines += ["", plain(f"No cut length, for the ends are not known: {', '.join(open_bars)}")]
    guessed = [bar.id for bar in made.bars if bar.guessed]
    if guessed:
        lines += ["", plain(f"Tube guessed: {', '.join(guessed)}")]
    if titles.guessed:
        lines += ["", plain(f"Guessed: {', '.join(titles.guessed)}")]
    return "\n".join([*lines, "", *WHOLE, ""])
