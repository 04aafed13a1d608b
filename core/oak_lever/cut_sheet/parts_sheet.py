"""What to saw, to cut and to buy, on paper."""

from collections.abc import Iterator

from oak_lever.cut_sheet.cut import Cut
from oak_lever.cut_sheet.lists import Item, parts_list
from oak_lever.design.parts import said
from oak_lever.design.types import Design
from oak_lever.sheet.links import Titles, framed, table_pages
from oak_lever.sheet.page import PAPERS, Mark, Paper
from oak_lever.sheet.tables import Table
from oak_lever.units import Units, length, part_weight, size

_TITLES = (
    (("bar",), "Tubes to saw"), (("plate",), "Plates to cut"), (("joint", "bung", "nut", "sleeve"), "Joints and ends"),
    (("bolt", "washer"), "Bolts"), (("dummy",), "Pipes for the mock-up"),
)  # fmt: skip
_COLUMNS = (0.0, 0.58, 0.68, 0.86, 1.0)


def parts_sheet(design: Design, cut: Cut, units: Units, titles: Titles, paper: Paper = "a4") -> list[list[Mark]]:
    """Pages of tables, within `PAPERS[paper]`. The same design gives the same marks."""
    pages = table_pages([one for one in _tables(design, cut, units) if one.rows], PAPERS[paper])
    for n, page in enumerate(pages, 1):
        page.extend(framed(design, units, titles, "Parts, not to scale", paper, (n, len(pages)), None))
    return pages


def _tables(design: Design, cut: Cut, units: Units) -> Iterator[Table]:
    items = parts_list(design, cut)
    for kinds, title in _TITLES:
        rows = tuple(_row(design, one, units) for one in items if one.kind in kinds)
        mass = sum(one.count * one.mass for one in items if one.kind in kinds and one.mass is not None)
        note = f"{part_weight(mass, units)} in all." if mass else ""
        yield Table(title, ("", "count", "each", "mass", "have"), rows, _COLUMNS, note)


def _row(design: Design, one: Item, units: Units) -> tuple[str, ...]:
    sizes = " x ".join(size(mm, units) for mm in one.sizes)
    name = said(design, one.name) if one.kind in ("bar", "dummy") else one.name
    what = "" if one.kind == "dummy" else one.what
    words = ", ".join(filter(None, (name, " ".join(filter(None, (what, sizes, one.material))))))
    return (
        words, str(one.count), "-" if one.length is None else length(one.length, units),
        "-" if one.mass is None else part_weight(one.mass, units), "____",
    )  # fmt: skip
