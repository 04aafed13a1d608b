"""A design with a few of its values changed, without reading all of it anew: what is tried by the hundred."""

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from oak_lever.design.cross_checks import faults_between
from oak_lever.design.faults import Refused
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.design.values import Part

Path = tuple[str | int, ...]


def replaced(design: Design, values: Mapping[Path, Any]) -> Design:
    """The design with values at those paths, as good as if it had been read anew: every part on the way is checked by
    itself, and all of it together.

    Raises:
        Refused: where that makes no design.
    """
    changed = design
    try:
        for path, value in values.items():
            changed = _put(changed, path, value)
    except ValidationError:
        return _read_anew(design, values)
    faults = faults_between(changed, names=not all(map(_measured, values.values())))
    if faults:
        raise Refused(faults)
    return changed


def _measured(value: Any) -> bool:
    """Whether it is a number or a point: no name that another part could go by."""
    return isinstance(value, float | int) or (
        isinstance(value, tuple) and all(isinstance(one, float | int) for one in value)
    )


def _put(part: Any, path: Sequence[str | int], value: Any) -> Any:
    if not path:
        return value
    step, rest = path[0], path[1:]
    if isinstance(step, int):
        return tuple(_put(one, rest, value) if n == step else one for n, one in enumerate(part))
    inner = _put(getattr(part, step), rest, value)
    if isinstance(part, Design) or not isinstance(part, Part):
        return part.model_copy(update={step: inner})
    return part.rewritten(**{step: inner})


def _read_anew(design: Design, values: Mapping[Path, Any]) -> Design:
    """By way of plain values: says every fault by its path."""
    data = design_data(design)
    for path, value in values.items():
        part: Any = data
        for step in path[:-1]:
            part = part[step]
        part[path[-1]] = list(value) if isinstance(value, tuple) else value
    return design_from(data)
