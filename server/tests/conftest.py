import json
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from speaking import TENDER, Caller, managed

from builds import workers
from builds.actions import create_build, import_design
from builds.packing import base_of, pack, unpack
from builds.seals import seal_again


@pytest.fixture
def call() -> Caller:
    return Caller()


@pytest.fixture
def design() -> int:
    return import_design(create_build("Fell tender").pk, TENDER).design_id


@pytest.fixture
def page(settings: Any, tmp_path: Path) -> None:
    """A page and a script of it, as they are built: the server is tested without them."""
    (tmp_path / "assets").mkdir()
    (tmp_path / "assets" / "index-12345678.js").write_text("1\n")
    (tmp_path / "index.html").write_text(
        '<!doctype html><script type="module" src="/assets/index-12345678.js"></script>'
    )
    settings.PAGE = settings.WHITENOISE_ROOT = tmp_path


@pytest.fixture(autouse=True, scope="session")
def patient() -> None:
    """A busy machine takes its time: what is asked here is waited for; limits have tests of their own."""
    for pool in workers.POOLS.values():
        pool.limit_s = 600


@pytest.fixture(scope="session")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A store with the demo and forty edits in it."""
    data = tmp_path_factory.mktemp("made")
    managed(data, "migrate")
    managed(data, "load_demo")
    with closing(sqlite3.connect(data / "oak-lever.sqlite3")) as store:
        (base,) = store.execute("SELECT packed FROM builds_revision WHERE design_id = 1").fetchone()
        text = unpack(base)
        name = json.loads(text)["name"]
        for n in range(2, 42):
            whole = base_of(n)
            against = None if whole is None else text + " " * (whole - 1)
            row = (1, n, name, pack(text + " " * (n - 1), against), whole)
            store.execute(
                "INSERT INTO builds_revision (design_id, number, name, packed, base, truck, created_at) VALUES (?, ?, ?, ?, ?, 1, '2026-01-01')",
                row,
            )
        seal_again(store, "builds_revision")
        store.commit()
    return data


@pytest.fixture(scope="session")
def written(made: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """That store as open files."""
    folder = tmp_path_factory.mktemp("written") / "out"
    managed(made, "export_store", str(folder))
    return folder


@pytest.fixture
def data(made: Path, tmp_path: Path, settings: Any) -> Path:
    """A folder of one's own with that store in it."""
    shutil.copyfile(made / "oak-lever.sqlite3", tmp_path / "oak-lever.sqlite3")
    settings.DATA = tmp_path
    return tmp_path
