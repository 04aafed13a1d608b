"""Rules of the tree that no other check sees."""

import json
import re
from pathlib import Path
from typing import Any

import pytest
from pydantic import TypeAdapter

from builds.questions import ENDPOINTS, LONG
from builds.questions.asking import Endpoint, Watched
from oak_lever.design.schema import design_schema
from oak_lever.figures.page import page
from oak_lever.figures.register import FIGURES
from oak_lever.truck.schema import truck_schema

ROOT = Path(__file__).resolve().parents[2]
LOCKS = ["requirements.txt", "requirements-dev.txt", "web/package-lock.json", "web/.npmrc", "web/package.json"]


@pytest.mark.parametrize("name", LOCKS)
def test_lock_files_name_no_host(name: str) -> None:
    assert not re.search(r'"resolved"|://|index-url', (ROOT / name).read_text())


@pytest.mark.parametrize(("name", "schema"), [("design", design_schema), ("truck", truck_schema)])
def test_published_schema_is_what_the_types_say(name: str, schema: Any) -> None:
    assert json.loads((ROOT / "docs" / f"{name}.schema.json").read_text()) == json.loads(json.dumps(schema()))


def test_the_page_of_figures_is_the_registers() -> None:
    assert (ROOT / "docs" / "figures.md").read_text() == page()


def test_documents_name_figures_as_the_register_does() -> None:
    """The guide's table of readings: each name in it is a figure's."""
    names = {figure.name for figure in FIGURES} | {figure.short for figure in FIGURES}
    table = (ROOT / "docs" / "guide" / "links.md").read_text().split("## How to read the figures")[1].split("\n\n")[1]
    rows = [line.split("|")[1].strip() for line in table.splitlines()[2:]]
    assert rows
    for row in rows:
        for name in row.split(", "):
            assert name[0].upper() + name[1:] in names


def test_no_two_classes_of_one_name_are_in_the_contract() -> None:
    """The contract knows classes by their names alone: of two that share one, the page would be told of one of them."""
    components = json.loads((ROOT / "server" / "contract" / "openapi.json").read_text())["components"]["schemas"]
    questions: list[Endpoint | Watched] = [*ENDPOINTS, *LONG]
    asked = [(one.takes, "validation") for one in questions if one.takes is not None]
    given = [(one.gives, "serialization") for one in questions]
    looked = 0
    for kind, mode in (*asked, *given):
        for name, schema in TypeAdapter(kind).json_schema(mode=mode).get("$defs", {}).items():  # type: ignore[arg-type]
            if name in components:
                assert set(schema.get("properties", {})) == set(components[name].get("properties", {})), name
                looked += 1
    assert looked > 100
