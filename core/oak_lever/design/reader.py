"""Reading, refusing and writing design files."""

import json
from collections.abc import Iterator, Mapping
from typing import Any

from oak_lever.design.cross_checks import LATERAL_IDS, faults_between
from oak_lever.design.faults import Fault, Refused, not_finite, parse, too_deep, validated
from oak_lever.design.types import Design


def read_design(text: str | bytes) -> Design:
    """The design in a file's text (UTF-8 JSON).

    Raises:
        Refused: with every fault of the file.
    """
    return design_from(parse(text))


def design_from(data: Any) -> Design:
    """The design in already parsed JSON.

    Raises:
        Refused: with every fault found.
    """
    if not isinstance(data, dict):
        raise Refused([Fault("", "not a design file: the outermost value must be an object")])
    if too_deep(data):
        raise Refused(too_deep(data))
    design = validated(Design, data, [*_ids_said_twice(data), *not_finite(data, "")])
    between = faults_between(design)
    if between:
        raise Refused(between)
    return design


def design_data(design: Design) -> dict[str, Any]:
    """The design as plain JSON values, unknown keys and all, nothing added that was not set."""
    return design.model_dump(mode="json", exclude_unset=True, by_alias=True)


def write_design(design: Design) -> str:
    """The design as a file's text; reading it back gives an equal design, every number to the last bit."""
    return text_of(design_data(design))


def text_of(data: Any) -> str:
    """Plain JSON values as a file's text."""
    return json.dumps(data, indent=2, ensure_ascii=False, allow_nan=False) + "\n"


def _ids_said_twice(data: Mapping[str, Any]) -> Iterator[Fault]:
    links = data.get("links")
    ids = [link.get("id") if isinstance(link, dict) else None for link in links] if isinstance(links, list) else []
    for index, name in enumerate(ids):
        if isinstance(name, str) and name in LATERAL_IDS:
            yield Fault(f"links[{index}].id", f'"{name}" is kept for the lateral locator; give the link another id')
        if isinstance(name, str) and name in ids[:index]:
            yield Fault(
                f"links[{index}].id", f'"{name}" is already the id of links[{ids.index(name)}]; give each its own'
            )
