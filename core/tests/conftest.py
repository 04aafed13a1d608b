"""Fixtures of the core's tests."""

from typing import Any

import pytest

from oak_lever.api import design_data
from oak_lever.design.gallery import layout


@pytest.fixture
def data() -> dict[str, Any]:
    """A good design's data, to spoil."""
    return design_data(layout("double triangulated"))
