"""The fit-up log: readings of mounts and bars at the truck, read and refused."""

from collections.abc import Iterator
from typing import Any

from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.fit import Apart, FitLog, FitRecord, Long
from oak_lever.design.parts import bars_of, parts_of
from oak_lever.design.types import Design
from oak_lever.units import MM_PER_INCH

SIGMA_MM = 1.5
"""One standard deviation of a reading that says none."""


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


def fit_record_from(data: Any) -> FitRecord:
    """What is kept of a fit-up, from plain JSON values.

    Raises:
        Refused: with every fault found.
    """
    return validated(FitRecord, data, list(not_finite(data, "")))


def log_of(record: FitRecord, design: Design) -> tuple[FitLog, dict[str, str]]:
    """The log of a design in what is kept beside its truck, and its readings of what this design has not, each with
    why; they stay kept."""
    every = FitLog(
        format="oak-lever-fit", version=1, name=design.name, readings=record.readings, pose=record.pose
    )  # fmt: skip
    strange: dict[str, str] = {}
    for fault in _between(every, design):
        place = int(fault.path.removeprefix("readings[").partition("]")[0])
        strange.setdefault(record.readings[place].id, fault.message)
    own = tuple(one for n, one in enumerate(record.readings) if one.id not in strange)
    return every.model_copy(update={"readings": own}), strange


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
