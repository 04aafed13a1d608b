import pytest
from speaking import TENDER, Caller

from builds.actions import create_build, import_design


@pytest.fixture
def call() -> Caller:
    return Caller()


@pytest.fixture
def design() -> int:
    return import_design(create_build("Fell tender").pk, TENDER).design_id
