"""What the server itself asks for: sheets, rows, a design to start from, what a truck's change did."""

from typing import Any, Literal

from builds.questions.asking import Done, job
from oak_lever.api import (
    PAPERS,
    Known,
    LayoutName,
    Paper,
    School,
    Titles,
    Units,
    Use,
    csv_of,
    cycle,
    design_data,
    design_from,
    links_sheet,
    pdf,
    room_dxf,
    since,
    starting_design,
    svg,
)


@job("sheet")
def sheet(document: Any, kind: Literal["svg", "pdf"], units: Units, titles: Titles, paper: Paper) -> Done:
    design = design_from(document)
    pages = links_sheet(design, units, titles, paper)
    title = f"{design.name}, revision {titles.revision}"
    if kind == "pdf":
        return Done(200, pdf(pages, PAPERS[paper], title), "application/pdf")
    return Done(200, svg(pages, PAPERS[paper], title).encode(), "image/svg+xml")


@job("rows")
def rows(document: Any) -> Done:
    cycled = cycle(design_from(document))
    return Done(200, csv_of([cycled.heave, cycled.articulation]).encode(), "text/csv; charset=utf-8")


@job("drawing")
def drawing(document: Any, titles: Titles) -> Done:
    return Done(200, room_dxf(design_from(document), titles).encode(), "image/vnd.dxf")


@job("start")
def start(name: str, layout: LayoutName, school: School, known: Known, use: Use, increment: float) -> Any:
    return design_data(starting_design(name, layout, school, known, use, increment))


@job("since")
def changed_since(before: Any, after: Any) -> Any:
    return since(design_from(before), design_from(after))
