"""Reading, refusing and writing truck files."""

from collections.abc import Iterator, Sequence
from typing import Any

from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.reader import text_of
from oak_lever.figures.register import JUDGED
from oak_lever.truck.types import Angle, Distance, Height, Scale, Truck

HUBS = tuple(f"{end}-hub-{side}" for end in ("front", "rear") for side in ("left", "right"))
"""The points of the axles that readings are taken to, beside the truck's own marks."""


def read_truck(text: str | bytes) -> Truck:
    """The truck in a file's text (UTF-8 JSON).

    Raises:
        Refused: with every fault of the file.
    """
    return truck_from(parse(text))


def truck_from(data: Any) -> Truck:
    """The truck in already parsed JSON.

    Raises:
        Refused: with every fault found.
    """
    if not isinstance(data, dict):
        raise Refused([Fault("", "not a truck file: the outermost value must be an object")])
    if too_deep(data):
        raise Refused(too_deep(data))
    truck = validated(Truck, data, list(not_finite(data, "")))
    between = [*_bands(truck), *_stations(truck), *_marks(truck), *_readings(truck)]
    if between:
        raise Refused(between)
    return truck


def truck_data(truck: Truck) -> dict[str, Any]:
    """The truck as plain JSON values, unknown keys and all, nothing added that was not set."""
    return truck.model_dump(mode="json", exclude_unset=True, by_alias=True)


def write_truck(truck: Truck) -> str:
    """The truck as a file's text; reading it back gives an equal truck."""
    return text_of(truck_data(truck))


def _bands(truck: Truck) -> Iterator[Fault]:
    known = {figure.id for figure in JUDGED}
    for name in truck.bands:
        if name not in known:
            yield Fault(f"bands.{name}", "is not a figure that is judged")


def _stations(truck: Truck) -> Iterator[Fault]:
    if not _in_order(truck):
        yield Fault("axles.front.station", "must lie ahead of the rear axle's station")


def _in_order(truck: Truck) -> bool:
    return truck.axles.front.station > truck.axles.rear.station


def _marks(truck: Truck) -> Iterator[Fault]:
    names = [mark.id for mark in truck.marks]
    for n, name in enumerate(names):
        if name in HUBS:
            yield Fault(f"marks[{n}].id", f'"{name}" is the name of a hub; give the mark another id')
        if name in names[:n]:
            yield Fault(f"marks[{n}].id", f'"{name}" is already the id of marks[{names.index(name)}]')


def _readings(truck: Truck) -> Iterator[Fault]:
    marks = {mark.id for mark in truck.marks}
    ids: list[str] = []
    for n, reading in enumerate(truck.readings):
        path = f"readings[{n}]"
        if reading.id in ids:
            yield Fault(f"{path}.id", f'"{reading.id}" is already the id of readings[{ids.index(reading.id)}]')
        ids.append(reading.id)
        if isinstance(reading, Distance):
            yield from _between(path, reading, marks)
        elif isinstance(reading, Height):
            yield from _known(f"{path}.point", reading.point, marks)
        elif isinstance(reading, Scale):
            yield from _raised(path, reading, truck)
        else:
            assert isinstance(reading, Angle)


def _between(path: str, reading: Distance, marks: Sequence[str] | set[str]) -> Iterator[Fault]:
    ends = (reading.from_, reading.to)
    for end, name in zip(("from", "to"), ends, strict=True):
        yield from _known(f"{path}.{end}", name, marks)
    if ends[0] == ends[1]:
        yield Fault(f"{path}.to", "is the point it was measured from; give another")
    elif ends[0] in marks and ends[1] in marks:
        yield Fault(f"{path}.to", "both ends are marks of the frame; one must be a hub")


def _known(path: str, name: str, marks: Sequence[str] | set[str]) -> Iterator[Fault]:
    if name not in marks and name not in HUBS:
        yield Fault(path, f'"{name}" is neither a mark of this truck nor one of {", ".join(HUBS)}')


def _raised(path: str, reading: Scale, truck: Truck) -> Iterator[Fault]:
    wheelbase = truck.axles.front.station - truck.axles.rear.station
    if reading.raised is not None and _in_order(truck) and reading.raised.by >= wheelbase:
        yield Fault(f"{path}.raised.by", f"must be less than the wheelbase, {wheelbase:g} mm")
