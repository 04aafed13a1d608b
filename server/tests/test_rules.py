"""Rules of the tree that no other check sees."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
LOCKS = ["requirements.txt", "requirements-dev.txt", "web/package-lock.json", "web/.npmrc", "web/package.json"]


@pytest.mark.parametrize("name", LOCKS)
def test_lock_files_name_no_host(name: str) -> None:
    assert not re.search(r'"resolved"|://|index-url', (ROOT / name).read_text())


def test_published_schema_is_what_the_types_say() -> None:
    import json

    from oak_lever.design.schema import design_schema

    assert json.loads((ROOT / "docs" / "design.schema.json").read_text()) == json.loads(json.dumps(design_schema()))
