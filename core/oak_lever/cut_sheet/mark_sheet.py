"""Mark-out on paper, and as a list."""

import csv
import io
from collections.abc import Iterator, Sequence

from oak_lever.cut_sheet.mark_out import BracketMarks, HolesApart, MarkOut, Spotted, mark_out
from oak_lever.design.parts import parts_of
from oak_lever.design.types import Design
from oak_lever.sheet.links import Titles, framed, table_pages
from oak_lever.sheet.page import PAPERS, Mark, Paper
from oak_lever.sheet.plain import plain
from oak_lever.sheet.tables import Table
from oak_lever.units import MM_PER_INCH, Units, length, shown

_PLACES = 1
_SEEN_MM = 0.05


def mark_sheet(design: Design, units: Units, titles: Titles, paper: Paper = "a4") -> list[list[Mark]]:
    """Pages of tables: each bracket's marks, holes to jig by, diagonals; lengths as a tape shows them, each with what
    that leaves off."""
    found = mark_out(design)
    pages = [*table_pages(list(_tables(design, found, units)), PAPERS[paper])]
    for n, page in enumerate(pages, 1):
        page.extend(framed(design, units, titles, "Mark-out, not to scale", paper, (n, len(pages)), None))
    return pages


def _tables(design: Design, found: MarkOut, units: Units) -> Iterator[Table]:
    nose = f"{abs(found.pinion):.1f}° nose {'up' if found.pinion >= 0.0 else 'down'}"
    for one in found.brackets:
        yield _bracket(design, one, units, nose)
    if found.truss:
        rows = [(name, *_on_tube(end, units)) for name, end in zip(TRUSS_ENDS, found.truss, strict=True)]
        heads = ("Outside of a side, at its end", "left", "from wheel", "from housing", "from plumb")
        note = f"0° is straight up with the pinion {nose}; + toward the front."
        yield Table("Truss, where its sides come down on the tube", heads, tuple(rows), _COLUMNS, note)
    for title, listed in (
        ("Axle, hole to hole", found.axle), ("Frame, hole to hole", found.frame),
        ("Axle to frame, crosswise: alike in pairs when square", found.square),
    ):  # fmt: skip
        if listed:
            yield _distances(design, title, listed, units)


def _bracket(design: Design, one: BracketMarks, units: Units, nose: str) -> Table:
    spacer = length(one.spacer, units)
    if one.on == "tube":
        heads = ("Inside of plate, tip", "left", "from wheel", "from housing", "from plumb")
        rows = [
            (f"{plate.part}, {name}", *_on_tube(end, units)) for plate in one.plates for name, end in _named(plate.ends)
        ]
        note = f"0° is straight up with the pinion {nose}; + toward the front. Weld over a spacer of {spacer}."
    else:
        heads = ("Inside of plate, end of foot", "ahead of axle", "left", "over floor", "over underside")
        rows = [
            (f"{plate.part}, {name}", *_on_face(end, units)) for plate in one.plates for name, end in _named(plate.ends)
        ]
        note = f"At ride height. Weld over a spacer of {spacer}."
    return Table(
        f"{one.id}: {', '.join(_said(design, name) for name in one.mounts)}", heads, tuple(rows), _COLUMNS, note
    )  # fmt: skip


TRUSS_ENDS = ("right, rear", "right, front", "left, rear", "left, front")
_COLUMNS = (0.0, 0.52, 0.68, 0.84, 1.0)


def _named(ends: tuple[Spotted, Spotted]) -> Iterator[tuple[str, Spotted]]:
    one, other = ends
    ahead = abs(one.at[0] - other.at[0]) >= abs(one.at[2] - other.at[2])
    yield from zip(("front", "rear") if ahead else ("upper", "lower"), ends if ahead or one.at[2] > other.at[2] else
                   (other, one), strict=True)  # fmt: skip


def _on_tube(end: Spotted, units: Units) -> tuple[str, ...]:
    assert end.clock is not None
    return (_tape(end.at[1], units), _tape(end.wheel, units), _tape(end.housing, units), f"{end.clock:.1f}°")


def _on_face(end: Spotted, units: Units) -> tuple[str, ...]:
    x, y, z = end.at
    return _tape(x, units), _tape(y, units), _tape(z, units), _tape(end.under, units)


def _tape(mm: float | None, units: Units) -> str:
    """ "14 3/16 in, +0.012": as a tape shows it, and what that leaves off, in, where it can be seen."""
    if mm is None:
        return "-"
    off = mm - shown(mm, units)
    return length(mm, units) + (f", {off / MM_PER_INCH:+.3f}" if abs(off) >= _SEEN_MM and units != "mm" else "")


def _distances(design: Design, title: str, listed: Sequence[HolesApart], units: Units) -> Table:
    rows = tuple((f"{_said(design, one.a)} to {_said(design, one.b)}", _tape(one.apart, units)) for one in listed)
    return Table(title, ("", "apart"), rows, (0.0, 1.0), "")


def _said(design: Design, name: str) -> str:
    parts = parts_of(design)
    spot = next(spot for spot in parts.spots if name in (spot.name, spot.was))
    body = next((body.words for body in parts.bodies if body.id == spot.part), spot.part)
    return f"{body}, {spot.words}"


def mark_csv(design: Design) -> str:
    """The same as a list (RFC 4180), a head line first, mm and degrees; empty where it is not known."""
    found, out = mark_out(design), io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    lines.writerow(["what", "of", "x", "y", "z", "from_plumb_deg", "from_wheel", "from_housing", "over_rail", "apart"])
    for bracket in found.brackets:
        lines.writerow(["spacer", plain(bracket.id), *[""] * 7, f"{bracket.spacer:.1f}"])
        lines.writerow(["hole", plain(bracket.mounts[0]), *_figures(bracket.hole), ""])
        for plate in bracket.plates:
            for name, end in _named(plate.ends):
                lines.writerow([f"inside, {name}", plain(plate.part), *_figures(end), ""])
    for name, end in zip(TRUSS_ENDS, found.truss, strict=False):
        lines.writerow(["truss, outside", name, *_figures(end), ""])
    for one in (*found.axle, *found.frame, *found.square):
        lines.writerow(["apart", plain(f"{one.a} to {one.b}"), *[""] * 7, f"{one.apart:.1f}"])
    return out.getvalue()


def _figures(end: Spotted) -> list[str]:
    every = (*end.at, end.clock, end.wheel, end.housing, end.under)
    return ["" if one is None else f"{one:.{_PLACES}f}" for one in every]
