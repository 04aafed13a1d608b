"""What parts carry, and what they are cut from. Millimeters, newtons, kilograms."""

from base64 import b64encode
from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import (
    Document,
    Done,
    Going,
    Named,
    Payload,
    SoFar,
    job,
    question,
    stock_from,
    watched_job,
)
from oak_lever.api import (
    ENDS,
    FRICTION,
    GRADES,
    LARGEST_MM,
    PAPERS,
    PRELOAD,
    STEELS,
    Bend,
    CutBar,
    Fault,
    Grade,
    Holds,
    Item,
    JointBolt,
    Landing,
    MarkOut,
    Nest,
    Paper,
    PartLoads,
    Plate,
    Push,
    Refused,
    Titles,
    Units,
    case_words,
    cut,
    cut_since,
    design_from,
    engineers_sheet,
    frame_prompts,
    joint_bolts,
    landings,
    loaded_parts,
    mark_out,
    parts_list,
    pdf,
    reckoned,
    sheet_dxf,
    shop_archive,
    shop_archive_going,
    tube_that_holds,
)

Xy = tuple[float, float]
_OFF_MM = 0.05
"""Outlines for the screen are within this of true."""


class CaseOut(Payload):
    """A load case: its pose, and every force to draw; where nothing balances there is none."""

    id: str
    words: str
    travel: float
    articulation: float
    abuse: bool
    balanced: bool
    bind: float | None
    springs: dict[str, float] | None
    pushes: list[Push]


class LoadsIn(Payload):
    """What does every part carry in every load case?"""

    document: Document


class LoadsOut(Payload):
    """Every case; every part with its factors, the gravest first; what lands on the frame, and what a person has to
    judge of it."""

    cases: list[CaseOut]
    parts: list[PartLoads]
    landings: list[Landing]
    prompts: list[str]


@question("loads", LoadsOut, "result")
def loads(asked: LoadsIn) -> Any:
    design = design_from(asked.document)
    found = reckoned(design)
    cases = [
        {
            "id": one.case.id,
            "words": case_words(one.case.id),
            "travel": one.case.travel,
            "articulation": one.case.articulation,
            "abuse": one.case.abuse,
            "balanced": one.forces is not None,
            "bind": one.bind,
            "springs": one.springs,
            "pushes": one.pushes,
        }
        for one in found.cases
    ]
    landed = landings(design, found)
    prompts = frame_prompts(design, landed)
    return {"cases": cases, "parts": loaded_parts(design, found), "landings": landed, "prompts": prompts}


class BoltsIn(Payload):
    """Which bolt is at each joint, and with what is it tightened?"""

    document: Document


class BoltsOut(Payload):
    """Every mount's bolt, N m and MPa; the common grades; the friction and the part of its proof that torque is
    reckoned with."""

    bolts: list[JointBolt]
    grades: list[Grade]
    friction: float
    preload: float


@question("bolts", BoltsOut, "result")
def bolts(asked: BoltsIn) -> Any:
    design = design_from(asked.document)
    found = joint_bolts(design, reckoned(design))
    return {"bolts": found, "grades": GRADES, "friction": FRICTION, "preload": PRELOAD}


class MarkIn(Payload):
    """Where does everything go that is welded?"""

    document: Document


@question("mark-out", MarkOut, name="mark_out")
def marked_out(asked: MarkIn) -> Any:
    return mark_out(design_from(asked.document))


class TubeSize(Payload):
    """A round tube, mm."""

    diameter: Annotated[float, Field(gt=0, le=LARGEST_MM, allow_inf_nan=False)]
    wall: Annotated[float, Field(gt=0, le=LARGEST_MM, allow_inf_nan=False)]


class TubeIn(Payload):
    """Which is the lightest tube for this part that meets every case? Of these; of the common ones where none are
    given."""

    document: Document
    part: Named
    tubes: Annotated[list[TubeSize], Field(max_length=200)] | None = None


@question("loads/tube", Holds | None, name="tube_that_holds")
def lightest_tube(asked: TubeIn) -> Any:
    design = design_from(asked.document)
    if not asked.tubes:
        return tube_that_holds(design, asked.part)
    sizes = [(one.diameter, one.wall) for one in asked.tubes if 2.0 * one.wall <= one.diameter]
    return tube_that_holds(design, asked.part, sizes)


class PlateOut(Payload):
    """A plate: its outline and holes in its own axes (u, v, diameter), and these axes in the chassis at ride."""

    part: str
    thickness: float
    outline: list[Xy]
    holes: list[tuple[float, float, float]]
    area: float
    wrap: float | None
    mass: float
    same_as: str | None
    origin: tuple[float, float, float]
    u: tuple[float, float, float]
    v: tuple[float, float, float]


class BarOut(Payload):
    """A bar as it is made; None where it is not known how an end is made."""

    id: str
    center_to_center: float
    developed: float
    cut_length: float | None
    stock_length: float | None
    adjust: tuple[float, float] | None
    per_turn: float | None
    hands: dict[str, str | None]
    bends: list[Bend]
    last_straight: float
    mass: float | None
    diameter: float
    wall: float
    ends: tuple[str | None, str | None]
    guessed: bool


class BracketOut(Payload):
    """A bracket that can be made: between its plates `gap`, and over all `grip`."""

    id: str
    gap: float
    grip: float
    bolt: float
    mounts: list[str]
    plates: list[PlateOut]


class FaultOut(Payload):
    """What can't be made as drawn: where in the file, and why."""

    path: str
    message: str


class CutIn(Payload):
    """What are this design's bars and brackets cut from, of that stock?"""

    document: Document
    stock: Annotated[dict[str, Any] | None, Field(default=None)]


class CutOut(Payload):
    """Bars, brackets and truss that can be made, what is wrong with the others, the list, and the nest on the stock;
    and the generic ends and steels that a design may take over."""

    bars: list[BarOut]
    brackets: list[BracketOut]
    truss: list[PlateOut]
    faults: list[FaultOut]
    items: list[Item]
    nest: Nest | None
    ends: dict[str, dict[str, Any]]
    steels: dict[str, dict[str, Any]]


@question("cut", CutOut, "result")
def cut_from(asked: CutIn) -> Any:
    design = design_from(asked.document)
    made = cut(design, stock_from(asked.stock))
    brackets = [
        {
            "id": one.id,
            "gap": one.gap,
            "grip": one.grip,
            "bolt": one.bolt,
            "mounts": one.mounts,
            "plates": [_plate(plate) for plate in one.plates],
        }
        for one in made.brackets
    ]
    faults = [{"path": one.path, "message": one.message} for one in made.faults]
    items = parts_list(design, made)
    bars = [_bar(one) for one in made.bars]
    return {
        "bars": bars,
        "brackets": brackets,
        "truss": [_plate(one) for one in made.truss],
        "faults": faults,
        "items": items,
        "nest": made.nest,
        "ends": {name: kind.model_dump(mode="json", by_alias=True, exclude_none=True) for name, kind in ENDS.items()},
        "steels": {name: steel.model_dump(mode="json", by_alias=True) for name, steel in STEELS.items()},
    }


class SheetIn(Payload):
    """The drawing of one sheet of the nest, at full size."""

    document: Document
    stock: dict[str, Any]
    sheet: Annotated[int, Field(ge=0, le=1000)]


class SheetOut(Payload):
    """A DXF's text."""

    text: str


@question("cut/sheet", SheetOut, name="nested_sheet")
def nested_sheet(asked: SheetIn) -> Any:
    stock = stock_from(asked.stock)
    made = cut(design_from(asked.document), stock)
    if stock is None or made.nest is None or asked.sheet >= len(made.nest.plates):
        raise Refused([Fault("sheet", "is none of this nest")])
    sheet = made.nest.plates[asked.sheet]
    plates = {plate.part: plate for plate in made.plates}
    return {"text": sheet_dxf(sheet, plates, stock.plates[sheet.stock].size)}


class CutSinceIn(Payload):
    """What is made otherwise in this design than it was before?"""

    before: Document
    document: Document
    units: Units


class CutSinceOut(Payload):
    """A line for each part; none where nothing is."""

    lines: list[str]


@question("cut/since", CutSinceOut, name="cut_since")
def made_since(asked: CutSinceIn) -> Any:
    return {"lines": cut_since(design_from(asked.before), design_from(asked.document), asked.units)}


def _bar(bar: CutBar) -> dict[str, Any]:
    of = {"diameter": bar.tube.diameter, "wall": bar.tube.wall, "ends": bar.ends, "guessed": bar.guessed}
    return bar.data() | {"bends": bar.bends} | of


def _plate(plate: Plate) -> dict[str, Any]:
    return {
        "part": plate.part,
        "thickness": plate.thickness,
        "outline": plate.outline.points(_OFF_MM),
        "holes": plate.holes,
        "area": plate.area,
        "wrap": plate.wrap,
        "mass": plate.mass,
        "same_as": plate.same_as,
        "origin": plate.origin,
        "u": plate.u,
        "v": plate.v,
    }


@job("engineer")
def engineer(document: Any, titles: Titles, units: Units, paper: Paper) -> Done:
    design = design_from(document)
    pages = engineers_sheet(design, units, titles, paper)
    return Done(200, pdf(pages, PAPERS[paper], f"{design.name}, revision {titles.revision}, loads"), "application/pdf")


@job("shop")
def shop(document: Any, titles: Titles, units: Units, paper: Paper) -> Done:
    return Done(200, shop_archive(design_from(document), titles, units, paper), "application/zip")


class FileMade(Payload):
    """A file, in base64."""

    data: str


@watched_job("shop_files", FileMade)
def shop_files(document: Any, titles: Titles, units: Units, paper: Paper) -> Going:
    going = shop_archive_going(design_from(document), titles, units, paper)
    while True:
        try:
            yield SoFar(next(going), None)
        except StopIteration as end:
            return {"data": b64encode(end.value).decode()}
