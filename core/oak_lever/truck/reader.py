"""Reading, refusing and writing truck files."""

from collections.abc import Iterator, Sequence
from math import isfinite
from typing import Any

from pydantic import TypeAdapter, ValidationError

from oak_lever.design.cross_checks import BANDED, rule_faults
from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.reader import text_of
from oak_lever.design.rules import Rule
from oak_lever.truck.types import AnyReading, Distance, Height, Mark, Scale, Truck

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
    faults: list[Fault] = []
    truck: Truck | None = None
    try:
        truck = validated(Truck, data, list(not_finite(data, "")))
    except Refused as refusal:
        faults = refusal.faults
    known = {fault.path for fault in faults}
    faults += [fault for fault in _between_parts(_Sound(data)) if fault.path not in known]
    if truck is None or faults:
        raise Refused(faults)
    return truck


class _Sound:
    """What of a truck file's data is sound by itself, with its place in its list: what holds between parts is judged of
    these, so that every fault is told at once."""

    def __init__(self, data: dict[str, Any]) -> None:
        self.bands = list(data["bands"]) if isinstance(data.get("bands"), dict) else []
        self.rules = [rule for _, rule in _each(_RULE, data.get("rules"))]
        self.marks: list[tuple[int, Mark]] = list(_each(_MARK, data.get("marks")))
        self.readings: list[tuple[int, AnyReading]] = list(_each(_READING, data.get("readings")))
        self.points = {one["id"] for one in _dicts(data.get("marks")) if isinstance(one.get("id"), str)} - {*HUBS}
        self.wheelbase: float | None = None
        fit_up: Any = data.get("fit_up") or {}
        self.logs = {
            f"fit_up.{end}.{name}": [one.get("id") for one in _dicts(record.get(name))]
            for end, record in (fit_up.items() if isinstance(fit_up, dict) else ()) if isinstance(record, dict)
            for name in ("readings", "stood", "drives", "orders")
        }  # fmt: skip
        axles = data.get("axles")
        if isinstance(axles, dict):
            stations = [axles[end].get("station") for end in ("front", "rear") if isinstance(axles.get(end), dict)]
            if len(stations) == 2 and all(isinstance(one, int | float) and isfinite(one) for one in stations):
                self.wheelbase = stations[0] - stations[1]


_MARK: TypeAdapter[Mark] = TypeAdapter(Mark)
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)
_READING: TypeAdapter[AnyReading] = TypeAdapter(AnyReading)


def _dicts(listed: Any) -> list[dict[str, Any]]:
    return [one for one in listed if isinstance(one, dict)] if isinstance(listed, list) else []


def _each(kind: TypeAdapter[Any], listed: Any) -> Iterator[tuple[int, Any]]:
    for n, one in enumerate(listed if isinstance(listed, list) else []):
        try:
            yield n, kind.validate_python(one)
        except ValidationError:
            continue


def _between_parts(sound: _Sound) -> Iterator[Fault]:
    yield from _bands(sound)
    yield from rule_faults(sound.rules)
    for path, ids in sound.logs.items():
        for n, name in enumerate(ids):
            if name is not None and name in ids[:n]:
                yield Fault(f"{path}[{n}].id", f'"{name}" is already the id of {path}[{ids.index(name)}]')
    if sound.wheelbase is not None and sound.wheelbase <= 0.0:
        yield Fault("axles.front.station", "must lie ahead of the rear axle's station")
    yield from _marks(sound)
    yield from _readings(sound)


def truck_data(truck: Truck) -> dict[str, Any]:
    """The truck as plain JSON values, unknown keys and all, nothing added that was not set."""
    return truck.model_dump(mode="json", exclude_unset=True, by_alias=True)


def write_truck(truck: Truck) -> str:
    """The truck as a file's text; reading it back gives an equal truck."""
    return text_of(truck_data(truck))


def _bands(sound: _Sound) -> Iterator[Fault]:
    for name in sound.bands:
        if name not in BANDED:
            yield Fault(f"bands.{name}", "is not a figure that is judged")


def _marks(sound: _Sound) -> Iterator[Fault]:
    first: dict[str, int] = {}
    for n, mark in sound.marks:
        if mark.id in HUBS:
            yield Fault(f"marks[{n}].id", f'"{mark.id}" is the name of a hub; give the mark another id')
        if mark.id in first:
            yield Fault(f"marks[{n}].id", f'"{mark.id}" is already the id of marks[{first[mark.id]}]')
        first.setdefault(mark.id, n)


def _readings(sound: _Sound) -> Iterator[Fault]:
    first: dict[str, int] = {}
    for n, reading in sound.readings:
        path = f"readings[{n}]"
        if reading.id in first:
            yield Fault(f"{path}.id", f'"{reading.id}" is already the id of readings[{first[reading.id]}]')
        first.setdefault(reading.id, n)
        if isinstance(reading, Distance):
            yield from _between(path, reading, sound.points)
        elif isinstance(reading, Height):
            yield from _known(f"{path}.point", reading.point, sound.points)
        elif isinstance(reading, Scale):
            yield from _raised(path, reading, sound.wheelbase)


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


def _raised(path: str, reading: Scale, wheelbase: float | None) -> Iterator[Fault]:
    if reading.raised is not None and wheelbase is not None and 0.0 < wheelbase <= reading.raised.by:
        yield Fault(f"{path}.raised.by", f"must be less than the wheelbase, {wheelbase:g} mm")
