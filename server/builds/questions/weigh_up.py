"""Weighing up: every combination of the holes there are, and how exact each must be. Lengths mm, angles degrees."""

from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import Document, Going, Increment, Payload, SoFar, long_question, question, refusing
from oak_lever.api import (
    ERROR_MM,
    LARGEST_MM,
    MOST_STEPS,
    Combination,
    Demands,
    Search,
    Site,
    Tolerance,
    combinations_of,
    design_from,
    find,
    hole_maps,
    tolerance,
)

_AT_ONCE = 100
"""Combinations between two looks: a fraction of a second's work."""


class HoleMapIn(Payload):
    """What does every combination of the holes in the design's racks do? The pinion's swing over so many `steps` of
    straight travel."""

    document: Document
    steps: Annotated[int, Field(ge=2, le=MOST_STEPS)] = 41


class HoleMapOut(Payload):
    """The sites, and the combinations worked out so far, the last site running fastest."""

    sites: list[Site]
    combinations: list[Combination]


@long_question("hole_map", HoleMapOut)
def hole_map(asked: HoleMapIn) -> Going:
    found: Any = {}
    for one in hole_maps(design_from(asked.document), asked.steps, _AT_ONCE):
        found = {"sites": one.sites, "combinations": one.combinations}
        yield SoFar(len(one.combinations) / combinations_of(one.sites), found)
    return found


class ToleranceIn(Payload):
    """How exact must each hole and each length be, where each is off by `error`?"""

    document: Document
    error: Annotated[float, Field(gt=0, le=1000)] = ERROR_MM


@question("tolerance", Tolerance)
def how_exact(asked: ToleranceIn) -> Any:
    with refusing("error"):
        return tolerance(design_from(asked.document), asked.error)


class FindIn(Payload):
    """Where may all mounts stand at once, inside every band and zone, with no link longer or shorter than is wanted?
    Sought for so many `seconds`, or `tries`, from a `seed`."""

    document: Document
    increment: Increment
    seconds: Annotated[float, Field(gt=0, le=300)] = 20.0
    tries: Annotated[int, Field(ge=1, le=10_000_000)] | None = None
    seed: Annotated[int, Field(ge=0, lt=2**31)] = 1
    longest: Annotated[float, Field(gt=0, le=LARGEST_MM)] = LARGEST_MM
    shortest: Annotated[float, Field(ge=0, le=LARGEST_MM)] = 0.0
    error: Annotated[float, Field(ge=0, le=100)] = ERROR_MM


@long_question("find", Search)
def find_places(asked: FindIn) -> Going:
    demands = Demands(asked.longest, asked.shortest, asked.error, asked.increment)
    found = None
    for found in find(design_from(asked.document), asked.seconds, asked.seed, demands, asked.tries):
        share = found.tried / asked.tries if asked.tries else found.seconds / asked.seconds
        yield SoFar(min(share, 1.0), found)
    return found
