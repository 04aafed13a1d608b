"""A truck's readings: what they come to."""

from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import Document, Payload, TruckDocument, question
from oak_lever.api import BaselineFigure, Job, Units, Unsettled, design_from, told, truck_from, typical_jobs


class BaselineIn(Payload):
    """What a truck's readings come to; `designs` turn back a pinion that was read away from ride."""

    truck: TruckDocument
    designs: Annotated[list[Document], Field(max_length=2)]
    units: Units


class BaselineOut(Payload):
    """`held_out`, `again` and `unused` by reading; `unsettled`: figures that their readings disagree about."""

    figures: list[BaselineFigure]
    unsettled: list[Unsettled]
    held_out: dict[str, str]
    again: dict[str, str]
    unused: dict[str, str]
    hints: list[str]


@question("baseline", BaselineOut, "hand")
def baseline(asked: BaselineIn) -> Any:
    standing = [design_from(one) for one in asked.designs]
    return told(truck_from(asked.truck), {one.axle.end: one for one in standing}, asked.units)


class JobsIn(Payload):
    """What does a strip-down of this truck mostly ask for?"""

    truck: TruckDocument
    units: Units


@question("truck/jobs", list[Job], "hand", name="typical_jobs")
def jobs(asked: JobsIn) -> Any:
    return [job.model_dump() for job in typical_jobs(truck_from(asked.truck), asked.units)]
