"""A fit-up as a file of its own: out whole, and brought in beside what is kept already.

The file is the fit-up log of the command, with the gates, runs and all else that is kept beside its readings."""

from dataclasses import dataclass
from typing import Any

from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.fit import FitLog, FitPose, FitRecord, GateMark, Pace
from oak_lever.design.reader import text_of
from oak_lever.design.types import Design
from oak_lever.fit_up.on_weight import on_weight
from oak_lever.fit_up.readings import fit_record_from, log_of

_BY_ID = ("readings", "stood", "drives", "orders")
_SAID = {"readings": "reading", "stood": "reading on its weight", "drives": "run", "orders": "thing waited for"}
_HEAD = ("format", "version", "name")


@dataclass(frozen=True)
class Brought:
    """What is kept once a log is brought in: how many of its entries are new, how many were there already; those that
    both have and that differ, in words (what was here stays); and readings of what this design has not, by their ids,
    with why."""

    record: dict[str, Any]
    added: int
    there: int
    differ: tuple[str, ...]
    strange: dict[str, str]


def write_fit(design: Design, record: FitRecord) -> str:
    """The fit-up of a design as a file's text; reading it back gives the same."""
    kept = record.model_dump(mode="json", by_alias=True, exclude_unset=True)
    head = {"format": "oak-lever-fit", "version": 1, "name": design.name, "notes": "", "readings": []}
    return text_of(head | kept)


def bring_fit(text: str | bytes, design: Design, record: FitRecord) -> Brought:
    """A log's text beside what is kept.

    Raises:
        Refused: for what is no log, with every fault of it; for a log of another design.
    """
    theirs = _read(text, design)
    lists: dict[str, Any] = {}
    added = there = 0
    differ: list[str] = []
    for name in _BY_ID:
        ours = {one.id: one for one in getattr(record, name)}
        for one in getattr(theirs, name):
            if one.id not in ours:
                ours[one.id] = one
                added += 1
            elif ours[one.id] == one:
                there += 1
            else:
                differ.append(f"{_SAID[name]} {one.id}")
        lists[name] = tuple(ours.values())
    gates = list(record.gates)
    for mark in theirs.gates:
        known = mark in gates
        added, there = added + (not known), there + known
        gates += [] if known else [mark]
    lists["gates"] = tuple(sorted(gates, key=_when))
    rest: dict[str, Any] = {
        "notes": record.notes or theirs.notes,
        "pose": theirs.pose if record.pose == FitPose() else record.pose,
        "pace": theirs.pace if record.pace == Pace() else record.pace,
        "gate_order": record.gate_order or theirs.gate_order,
    }
    whole = fit_record_from(
        {name: _plain(value) for name, value in {**dict(theirs), **dict(record), **lists, **rest}.items()}
    )
    strange = log_of(theirs, design)[1] | on_weight(design, theirs).strange
    return Brought(_plain(whole), added, there, tuple(differ), strange)


def _read(text: str | bytes, design: Design) -> FitRecord:
    data = parse(text)
    if not isinstance(data, dict):
        raise Refused([Fault("", "not a fit-up log: the outermost value must be an object")])
    if too_deep(data):
        raise Refused(too_deep(data))
    log = validated(FitLog, data, list(not_finite(data, "")))
    if log.name not in ("", design.name):
        raise Refused([Fault("name", f'the log is of "{log.name}", and this design is "{design.name}"')])
    record = fit_record_from({name: value for name, value in data.items() if name not in _HEAD})
    twice = [
        Fault(f"{name}[{n}].id", f'"{one.id}" is there twice')
        for name in _BY_ID for n, one in enumerate(getattr(record, name))
        if one.id in {other.id for other in getattr(record, name)[:n]}
    ]  # fmt: skip
    if twice:
        raise Refused(twice)
    return record


def _when(mark: GateMark) -> str:
    return mark.at


def _plain(value: Any) -> Any:
    if hasattr(value, "model_dump"):
        return value.model_dump(mode="json", by_alias=True, exclude_unset=True)
    if isinstance(value, tuple | list):
        return [_plain(one) for one in value]
    return value
