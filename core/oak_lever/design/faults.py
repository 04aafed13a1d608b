"""Refusals: what is wrong with a file, where in it, and what would be accepted."""

import json
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from oak_lever import tolerances as tol
from oak_lever.design.values import Part

Read = TypeVar("Read", bound=Part)


@dataclass(frozen=True)
class Fault:
    """One thing wrong with a file: where (a path such as ``links[0].axle.at[1]``), and what would be accepted."""

    path: str
    message: str

    def __str__(self) -> str:
        return f"{self.path}: {self.message}" if self.path else self.message


class Refused(ValueError):
    """A file that cannot be read; `faults` names every fault found, in the file's order."""

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("; ".join(map(str, faults)))
        self.faults = faults


def parse(text: str | bytes) -> Any:
    """JSON values of a file's text, guarding against what JSON parsers let through.

    Raises:
        Refused: when it is not UTF-8 JSON, nests too deep or says a key twice.
    """
    try:
        text = text.decode("utf-8-sig") if isinstance(text, bytes) else text.removeprefix("\ufeff")
    except UnicodeDecodeError as error:
        raise Refused([Fault("", f"not UTF-8 text (byte {error.start}); save the file as UTF-8 JSON")]) from None
    if _depth(text) > tol.DEEPEST:
        raise Refused([Fault("", f"nested deeper than {tol.DEEPEST} levels")])
    try:
        return json.loads(text, object_pairs_hook=_each_key_once)
    except Refused:
        raise
    except ValueError as error:  # JSONDecodeError, or an integer with more digits than Python takes
        place = f" at line {error.lineno}, column {error.colno}" if isinstance(error, json.JSONDecodeError) else ""
        reason = error.msg if isinstance(error, json.JSONDecodeError) else "a number with too many digits"
        raise Refused([Fault("", f"not JSON{place}: {reason}")]) from None


def _each_key_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise Refused([Fault(key, "stands twice in one object; keep one")])
        found[key] = value
    return found


def _depth(text: str) -> int:
    """Deepest nesting, counted on the text: a parser may fall over before it can say so."""
    deepest = depth = 0
    in_string = escaped = False
    for char in text:
        if in_string:
            in_string, escaped = escaped or char != '"', char == "\\" and not escaped
        elif char == '"':
            in_string = True
        elif char in "[{":
            depth += 1
            deepest = max(deepest, depth)
        elif char in "]}":
            depth -= 1
    return deepest


def too_deep(data: Any) -> list[Fault]:
    """That values nest deeper than a file may, so that what is taken in one way can be read back in every other."""
    level = [data]
    for _ in range(tol.DEEPEST + 1):
        level = [inner for value in level for inner in _inside(value)]
        if not level:
            return []
    return [Fault("", f"nested deeper than {tol.DEEPEST} levels")]


def _inside(value: Any) -> list[Any]:
    """What stands in a value that is itself an object or a list; an empty one is a level too."""
    if isinstance(value, dict):
        return [*value.values(), None]
    return [*value, None] if isinstance(value, list | tuple) else []


def validated(kind: type[Read], data: Any, beyond_types: list[Fault]) -> Read:
    """The data as that type.

    Raises:
        Refused: with the faults its types show, and those found beyond them that these do not say already.
    """
    try:
        read = kind.model_validate(data)
    except ValidationError as error:
        faults = [_fault(detail, data) for detail in error.errors(include_url=False)]
        known = {fault.path for fault in faults}
        raise Refused(faults + [fault for fault in beyond_types if fault.path not in known]) from None
    if beyond_types:
        raise Refused(beyond_types)
    return read


def _writable(text: str) -> bool:
    """Whether a text can be written: one with half of a pair of surrogates can't."""
    return text.isascii() or not any("\ud800" <= char <= "\udfff" for char in text)


def not_finite(value: Any, path: str) -> Iterator[Fault]:
    """What no file can hold, anywhere in it, keys that are unknown too: numbers that are none or too long, halves of
    characters."""
    if isinstance(value, float) and not math.isfinite(value):
        yield Fault(path, "must be a finite number")
    elif isinstance(value, int) and not -(2**63) <= value < 2**63:
        yield Fault(path, "is a whole number of more digits than every reader holds")
    elif isinstance(value, str) and not _writable(value):
        yield Fault(path, "has half of a character in it, which no file can hold; type it again")
    elif isinstance(value, dict):
        for key, item in value.items():
            if not _writable(str(key)):
                yield Fault(path, "has half of a character in a key, which no file can hold; type it again")
                continue
            yield from not_finite(item, f"{path}.{key}" if path else key)
    elif isinstance(value, list):
        for index, item in enumerate(value):
            yield from not_finite(item, f"{path}[{index}]")


def _fault(detail: ErrorDetails, data: Any) -> Fault:
    of_kind: list[int | str] = ["kind"] if detail["type"].startswith("union_tag") else []
    return Fault(path_of(_without_tags(detail["loc"], data) + of_kind), _say(detail))


def _without_tags(loc: tuple[int | str, ...], data: Any) -> list[int | str]:
    """The place in the file: a union's branch name, which the validator puts into its path, left out."""
    kept: list[int | str] = []
    for step in loc:
        if isinstance(data, Mapping) and step not in data and data.get("kind") == step:
            continue
        kept.append(step)
        try:
            data = data[step]
        except (LookupError, TypeError):
            data = None
    return kept


def path_of(loc: Sequence[int | str]) -> str:
    text = ""
    for step in loc:
        text += f"[{step}]" if isinstance(step, int) else f".{step}" if text else str(step)
    return text


_WANTED: dict[str, str] = {
    "missing": "is missing",
    "finite_number": "must be a finite number",
    "float_type": "must be a number",
    "string_type": "must be text",
    "tuple_type": "must be a list",
    "model_type": "must be an object",
    "model_attributes_type": "must be an object",
    "union_tag_not_found": "is missing",
    "union_tag_invalid": "must be one of {expected_tags}",
    "literal_error": "must be {expected}",
    "greater_than": "must be more than {gt:g}",
    "greater_than_equal": "must be {ge:g} or more",
    "less_than": "must be less than {lt:g}",
    "less_than_equal": "must be {le:g} or less",
    "string_too_short": "must not be empty",
    "string_too_long": "must be at most {max_length} characters",
    "too_long": "must have at most {max_length} entries",
    "too_short": "must have {min_length} entries",
}


def _say(detail: ErrorDetails) -> str:
    wanted = _WANTED.get(detail["type"])
    if wanted is None:
        return detail["msg"]
    told = wanted.format(**detail.get("ctx", {}))
    got = detail["input"]
    return told if detail["type"] == "missing" or isinstance(got, dict | list | tuple) else f"{told}, not {_short(got)}"


def _short(value: Any) -> str:
    text = json.dumps(value, default=str) if not isinstance(value, float) or math.isfinite(value) else repr(value)
    return text if len(text) <= 40 else text[:37] + "..."
