import pytest
from speaking import TENDER, Caller

from builds import workers
from builds.actions import create_build, import_design


@pytest.fixture
def call() -> Caller:
    return Caller()


@pytest.fixture
def design() -> int:
    return import_design(create_build("Fell tender").pk, TENDER).design_id


@pytest.fixture(autouse=True, scope="session")
def patient() -> None:
    """A busy machine takes its time: what is asked here is waited for; limits have tests of their own."""
    for pool in (workers.LIVE, workers.PULLS, workers.HEAVY):
        pool.limit_s = 600
