"""The fit-up log: readings of mounts and bars at the truck, read and refused."""

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.parts import bars_of, parts_of
from oak_lever.design.types import Design
from oak_lever.design.values import Mm, Name, Notes, Number, Part, Reach
from oak_lever.units import MM_PER_INCH

SIGMA_MM = 1.5
"""One standard deviation of a reading that says none."""
LengthUnit = Literal["mm", "in"]


class FitReading(Part):
    """What was read. `sigma`: one standard deviation in its unit; `left_out`: kept, not used."""

    id: Name
    of: Name
    unit: LengthUnit
    sigma: Annotated[Number, Field(gt=0, le=1e6)] | None = None
    left_out: bool = False
    by: str | None = None
    at: str | None = None
    note: str | None = None


class Along(FitReading):
    """How high off the floor, how far ahead of the design's axle center, or how far left of the centerline a mount is,
    the chassis blocked at ride height."""

    kind: Literal["height", "ahead", "left"]
    value: Mm


class Apart(FitReading):
    """Between two mounts, straight."""

    kind: Literal["distance"]
    to: Name
    value: Reach


class Long(FitReading):
    """A bar's length, center to center, as made."""

    kind: Literal["length"]
    value: Reach


AnyFitReading = Annotated[Along | Apart | Long, Field(discriminator="kind")]


class FitPose(Part):
    """How the axle stood when its mounts were measured: as the rows of the cycle say it."""

    axle_x: Mm = 0.0
    axle_y: Mm = 0.0
    travel: Mm = 0.0
    articulation: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    pinion_change: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    yaw: Annotated[Number, Field(gt=-90, lt=90)] = 0.0


class FitLog(Part):
    """A log of one design's fit-up."""

    format: Literal["oak-lever-fit"]
    version: Literal[1]
    name: Annotated[str, Field(max_length=200)] = ""
    notes: Notes = ""
    readings: Annotated[tuple[AnyFitReading, ...], Field(max_length=5000)]
    pose: FitPose = Field(default_factory=FitPose)


def read_fit(text: str | bytes, design: Design) -> FitLog:
    """The log in a file's text, of that design.

    Raises:
        Refused: with every fault of the file, and every reading of what the design has not.
    """
    data = parse(text)
    if not isinstance(data, dict):
        raise Refused([Fault("", "not a fit-up log: the outermost value must be an object")])
    if too_deep(data):
        raise Refused(too_deep(data))
    log = validated(FitLog, data, list(not_finite(data, "")))
    faults = list(_between(log, design))
    if faults:
        raise Refused(faults)
    return log


def bar_names(design: Design) -> list[str]:
    """The bars that have a length of their own: links, a panhard bar, a Watts link's rods."""
    return [body.id for body in bars_of(parts_of(design)) if body.shape == "link"]


def _between(log: FitLog, design: Design) -> Iterator[Fault]:
    mounts = {spot.name for spot in parts_of(design).spots if spot.holds}
    bars, first = set(bar_names(design)), dict[str, int]()
    for n, one in enumerate(log.readings):
        path = f"readings[{n}]"
        if one.id in first:
            yield Fault(f"{path}.id", f'"{one.id}" is already the id of readings[{first[one.id]}]')
        first.setdefault(one.id, n)
        if isinstance(one, Long):
            if one.of not in bars:
                yield Fault(f"{path}.of", f'"{one.of}" is no bar of this design; it has {", ".join(sorted(bars))}')
            continue
        ends: dict[str, str] = {"of": one.of} | ({"to": one.to} if isinstance(one, Apart) else {})
        for end, name in ends.items():
            if name not in mounts:
                yield Fault(f"{path}.{end}", f'"{name}" is no mount of this design')
        if isinstance(one, Apart) and one.of == one.to:
            yield Fault(f"{path}.to", "is the mount it was measured from; give another")


def in_mm(reading: Any) -> tuple[float, float]:
    """A reading's value and one standard deviation, mm."""
    unit = MM_PER_INCH if reading.unit == "in" else 1.0
    return reading.value * unit, SIGMA_MM if reading.sigma is None else reading.sigma * unit
