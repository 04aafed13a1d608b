"""Fit-up: where mounts came to stand, what the axle then does, and what to correct. Lengths mm, angles degrees."""

from datetime import date
from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import Document, Done, Payload, Unchecked, job, question
from oak_lever.api import (
    PAPERS,
    Complaint,
    Corrections,
    FitRecord,
    HoleToTry,
    NextReading,
    OnWeight,
    Paper,
    Plan,
    Titles,
    Units,
    WeldStep,
    as_built,
    bring_fit,
    corrections,
    design_from,
    fit_record_from,
    fit_sheet,
    fitted,
    holes_to_try,
    log_of,
    next_reading,
    on_weight,
    pdf,
    plan,
    slips,
    weld_order,
    write_fit,
)

Record = Annotated[FitRecord, Unchecked(FitRecord)]


class FitIn(Payload):
    """What do these readings say of the axle as it was built?"""

    document: Document
    record: Record


class MountOut(Payload):
    """A mount as built: where, how far off the design, how sure, mm; whether anything was read that says so."""

    mount: str
    at: tuple[float, float, float]
    off: tuple[float, float, float]
    sigma: tuple[float, float, float]
    measured: bool


class LengthOut(Payload):
    """A bar's length: designed, as made, needed for the axle to stand as drawn, and the turns from one to the other."""

    bar: str
    designed: float
    made: float
    needed: float
    turns: float | None


class SuspectOut(Payload):
    """A reading that does not fit, by so many of its sigmas, and the slip that would explain it."""

    reading: str
    off: float
    why: str | None


class FitOut(Payload):
    """Mounts, bars, what does not fit; the axle at ride designed and as built; what to correct; what to read next; and
    readings of what this design has not."""

    mounts: list[MountOut]
    lengths: list[LengthOut]
    suspects: list[SuspectOut]
    designed: dict[str, float | None] | None
    as_made: dict[str, float | None] | None
    corrections: Corrections
    next: NextReading | None
    strange: dict[str, str]


@question("fit", FitOut, "result")
def fit(asked: FitIn) -> Any:
    design = design_from(asked.document)
    log, strange = log_of(fit_record_from(asked.record), design)
    built = as_built(design, log)
    found = fitted(design, log)
    whys = slips(design, log, [one.reading for one in found.suspect][:_MOST_WHYS])
    return {
        "mounts": [
            {"mount": name, "at": one.at, "off": one.off, "sigma": one.sigma, "measured": one.measured}
            for name, one in found.mounts.items()
        ],
        "lengths": [{"bar": name, **vars(one)} for name, one in found.lengths.items()],
        "suspects": [{"reading": o.reading, "off": o.off, "why": whys.get(o.reading)} for o in found.suspect],
        "designed": found.designed,
        "as_made": found.as_made,
        "corrections": corrections(design, log, built, found),
        "next": next_reading(design, log, built),
        "strange": strange,
    }


_MOST_WHYS = 5
"""Readings that are explained: of more that do not fit, the worst are taken again first."""


@question("on-weight", OnWeight, name="on_weight")
def on_its_weight(asked: FitIn) -> Any:
    return on_weight(design_from(asked.document), fit_record_from(asked.record))


class FeltIn(Payload):
    """Which change of hole helps against what was felt?"""

    document: Document
    felt: Annotated[list[Complaint], Field(max_length=20)]


@question("hole-to-try", list[HoleToTry], name="hole_to_try")
def hole_to_try(asked: FeltIn) -> Any:
    return holes_to_try(design_from(asked.document), asked.felt)


class FileOut(Payload):
    """A file's text."""

    text: str


@question("fit-file", FileOut, name="fit_file")
def fit_as_file(asked: FitIn) -> Any:
    """The fit-up as a file of its own."""
    return {"text": write_fit(design_from(asked.document), fit_record_from(asked.record))}


class BringFitIn(Payload):
    """A fit-up's file, to be brought in beside what is kept."""

    document: Document
    record: Record
    text: Annotated[str, Field(max_length=5_000_000)]


class FitBroughtOut(Payload):
    """What is then kept, and how it came to be: see the core's `Brought`."""

    record: FitRecord
    added: int
    there: int
    differ: list[str]
    strange: dict[str, str]


@question("fit-file/bring", FitBroughtOut, name="bring_fit")
def brought(asked: BringFitIn) -> Any:
    return bring_fit(asked.text, design_from(asked.document), fit_record_from(asked.record))


class WeldIn(Payload):
    """In which order are the brackets welded out, and which way does each weld pull?"""

    document: Document


@question("weld-order", list[WeldStep], name="weld_order")
def welding(asked: WeldIn) -> Any:
    return weld_order(design_from(asked.document))


class PlanIn(Payload):
    """What can be done now, and when is the rest done, as of that day?"""

    record: Record
    today: date


@question("plan", Plan)
def planned(asked: PlanIn) -> Any:
    return plan(fit_record_from(asked.record), asked.today)


@job("fit_sheet")
def fit_up_sheet(document: Any, record: Any, titles: Titles, units: Units, paper: Paper, today: date) -> Done:
    design = design_from(document)
    pages = fit_sheet(design, fit_record_from(record), units, titles, paper, today)
    return Done(200, pdf(pages, PAPERS[paper], f"{design.name}, revision {titles.revision}, fit-up"), "application/pdf")
