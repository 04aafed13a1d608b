"""DESCRIBE: what is read, what is refused and how, what is written."""

import json
import math
from typing import Any

import jsonschema
import pytest
from designs import DEMO
from hypothesis import given
from hypothesis import strategies as st

from oak_lever.api import Refused, design_data, design_from, read_design, write_design
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.schema import design_schema
from oak_lever.figures.register import AXLE, PARTS

ONE_POINT = [1.0, 2.0, 3.0]

SPOILED: list[tuple[str, Any, str]] = [
    ("format", "other", "format"),
    ("version", 2, "version"),
    ("name", "", "name"),
    ("axle.track", 0, "axle.track"),
    ("axle.track", -1.0, "axle.track"),
    ("axle.track", "1600", "axle.track"),
    ("axle.track", True, "axle.track"),
    ("axle.track", math.nan, "axle.track"),
    ("axle.track", math.inf, "axle.track"),
    ("axle.track", 1e300, "axle.track"),
    ("axle.track", 10**400, "axle.track"),
    ("axle.end", "middle", "axle.end"),
    ("travel.bump", -1, "travel.bump"),
    ("travel.articulation", 90, "travel.articulation"),
    ("vehicle.front_share", 1.2, "vehicle.front_share"),
    ("links", {}, "links"),
    ("links.0.kind", "middle", "links[0].kind"),
    ("links.0.id", "panhard", "links[0].id"),
    ("links.1.id", "lower-left", "links[1].id"),
    ("links.0.axle.at", [1, 2], "links[0].axle.at[2]"),
    ("links.0.axle.at", [1, 2, None], "links[0].axle.at[2]"),
    ("links.0.axle.at", [1, 2, 3, 4], "links[0].axle.at"),
    ("links.0.axle.bolt", [0, 0, 0], "links[0].axle.bolt"),
    ("links.0.frame", {"at": [-20.0, 510.0, 400.0]}, "links[0]"),
    ("links.0.strange", math.inf, "links[0].strange"),
    (
        "links.0",
        {"id": "a", "kind": "radius_arm", "axle": {"at": [ONE_POINT, ONE_POINT]}, "frame": {"at": ONE_POINT}},
        "links[0].axle",
    ),
    ("lateral", {"kind": "rope"}, "lateral.kind"),
    ("lateral", {"kind": "slider"}, "lateral.axle"),
    ("lateral", {"kind": "panhard", "axle": {"at": ONE_POINT}, "frame": {"at": ONE_POINT}}, "lateral"),
]


def spoil(data: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    *way, last = path.split(".")
    place: Any = data
    for step in way:
        place = place[int(step) if isinstance(place, list) else step]
    place[int(last) if isinstance(place, list) else last] = value
    return data


@pytest.mark.parametrize(("path", "value", "said_at"), SPOILED)
def test_a_fault_is_said_by_its_path(data: dict[str, Any], path: str, value: Any, said_at: str) -> None:
    with pytest.raises(Refused) as refused:
        design_from(spoil(data, path, value))
    assert [fault.path for fault in refused.value.faults] == [said_at]


def test_all_faults_are_said_at_once(data: dict[str, Any]) -> None:
    for path, value in (("axle.track", 0), ("travel.droop", -3), ("links.1.id", "lower-left"), ("links.2.kind", "x")):
        spoil(data, path, value)
    del data["vehicle"]["mass"]
    with pytest.raises(Refused) as refused:
        design_from(data)
    assert {fault.path for fault in refused.value.faults} == {
        "axle.track", "travel.droop", "links[1].id", "links[2].kind", "vehicle.mass",
    }  # fmt: skip


@pytest.mark.parametrize(
    "text",
    ["", "[]", "null", '{"a": 1', '{"a": 1, "a": 2}', b"\xff\xfe", '{"a": ' + "[" * 64 + "]" * 64 + "}", "[" * 100_000,
     '{"a": ' + "9" * 5000 + "}"],
)  # fmt: skip
def test_what_is_no_design_file_is_refused_in_words(text: str | bytes) -> None:
    with pytest.raises(Refused) as refused:
        read_design(text)
    assert all(fault.message for fault in refused.value.faults)


def test_nesting_of_64_levels_is_taken(data: dict[str, Any]) -> None:
    deep: Any = 1
    for _ in range(63):
        deep = [deep]
    read_design(json.dumps({**data, "extra": deep}))
    with pytest.raises(Refused, match="deeper"):
        read_design(json.dumps({**data, "extra": [deep]}))


@pytest.mark.parametrize(
    "file",
    [file for file in sorted(DEMO.glob("*.json")) if not file.stem.endswith("-truck")],
    ids=lambda file: file.stem,
)
def test_demo_files_come_back_as_they_were(file: Any) -> None:
    assert json.loads(write_design(read_design(file.read_bytes()))) == json.loads(file.read_text())


def test_unknown_keys_survive_everywhere(data: dict[str, Any]) -> None:
    spoil(data, "axle.pinion.paint", {"color": "red", "coats": 2})
    spoil(data, "links.0.frame.note", "boxed here")
    spoil(data, "shop", [1, None, "x"])
    assert json.loads(write_design(design_from(data))) == data


@given(st.floats(min_value=-1e5, max_value=1e5, allow_nan=False))
def test_numbers_survive_to_the_last_bit(number: float) -> None:
    design = layout("double triangulated")
    data = json.loads(write_design(design))
    data["links"][0]["axle"]["at"] = [number, 1e5 - 1, 7.0]
    again = read_design(write_design(design_from(data)))
    link = again.links[0]
    assert link.kind == "lower"
    assert link.axle.at[0] == number
    assert math.copysign(1, link.axle.at[0]) == math.copysign(1, number)


@pytest.mark.parametrize("name", LAYOUTS)
def test_the_published_schema_takes_what_the_reader_takes(name: str) -> None:
    jsonschema.Draft202012Validator(design_schema()).validate(json.loads(write_design(layout(name))))


BEYOND_SCHEMA = {"links[0].id", "links[1].id", "links[0]", "links[0].axle.bolt", "links[0].axle", "lateral"}


@pytest.mark.parametrize(("path", "value", "said_at"), SPOILED)
def test_the_published_schema_refuses_what_the_reader_refuses(
    data: dict[str, Any], path: str, value: Any, said_at: str
) -> None:
    finite = not (isinstance(value, float) and not math.isfinite(value))  # JSON itself has no other numbers
    if finite and said_at not in BEYOND_SCHEMA:
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.Draft202012Validator(design_schema()).validate(spoil(data, path, value))
    else:
        with pytest.raises(Refused):
            design_from(spoil(data, path, value))


@pytest.mark.parametrize("where", ["name", "notes", "a key of nobody's"])
def test_half_of_a_character_is_refused_by_its_place(where: str) -> None:
    """A lone surrogate is a text that no file and no answer can hold."""
    with pytest.raises(Refused, match=where):
        design_from({**design_data(layout("double triangulated")), where: "half \ud83d of one"})
    with pytest.raises(Refused):
        design_from({**design_data(layout("double triangulated")), "\ud83d": 1})


def test_bands_may_be_set_for_what_is_judged_by_one_and_for_nothing_else() -> None:
    data = json.loads((DEMO / "fell-tender-rear.json").read_text())
    judged = [one.id for one in (*AXLE, *PARTS) if one.verdict is not None]
    assert len(judged) > 30
    design_from(data | {"bands": {name: [0.0, 1.0] for name in judged}})
    for name in ("anti_squatt", "zone", "caster"):
        with pytest.raises(Refused, match="not a figure that is judged"):
            design_from(data | {"bands": {name: [0.0, 1.0]}})
