"""Every row is sealed: what changed of it behind the store's back is noticed, named, gone past and mended."""

import json
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from django.db import connection
from hypothesis import given
from hypothesis import strategies as st
from speaking import DESIGN, Caller, managed

from builds.actions import create_build, delete_build, delete_design
from builds.models import Build, Design, Notice, Operation, Revision, TruckRevision
from builds.seals import broken_rows, seal_again, seal_of
from builds.store import copies, files, places, rehearsal
from builds.store.salvage import salvage
from oak_lever.api import Refused

TABLES = (
    "builds_build",
    "builds_design",
    "builds_notice",
    "builds_operation",
    "builds_revision",
    "builds_truckrevision",
)
VALUES = st.none() | st.integers(-(2**63), 2**63 - 1) | st.text() | st.binary()


def changed(store: Path, sql: str) -> None:
    """Change a store behind its back."""
    with closing(sqlite3.connect(store)) as opened:
        opened.execute(sql)
        opened.commit()


def rows(store: Path) -> dict[str, list[Any]]:
    with closing(sqlite3.connect(store)) as opened:
        return {table: opened.execute(f"SELECT * FROM {table} ORDER BY id").fetchall() for table in TABLES}


class TestSeal:
    @given(st.dictionaries(st.sampled_from("abcd"), VALUES, min_size=1), st.sampled_from("abcd"), VALUES)
    def test_is_another_whatever_changes(self, row: dict[str, Any], name: str, value: Any) -> None:
        other = {**row, name: value}
        same = seal_of(row) == seal_of(other)
        assert same == (name in row and type(row[name]) is type(value) and row[name] == value)

    def test_sees_every_column_of_every_table(self, data: Path) -> None:
        with closing(sqlite3.connect(places.store())) as store:
            for n, table in enumerate(("builds_notice", "builds_operation")):
                columns = [name for name in copies.columns_of(store, table) if name != "id"]
                marks = ", ".join("?" * len(columns))
                row = ["2026-01-31 08:00:00" if name.endswith("_at") else f"x{n}" for name in columns]
                store.execute(f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})", row)
            for table in TABLES:
                for name in copies.columns_of(store, table):
                    store.execute("SAVEPOINT before")
                    (row,) = store.execute(f"SELECT max(id) FROM {table}").fetchone()
                    before = set(broken_rows(store, table))
                    store.execute(f"UPDATE {table} SET {name} = 77 WHERE id = ?", (row,))
                    noticed = set(broken_rows(store, table)) - before
                    assert noticed or row in before, (table, name)
                    store.execute("ROLLBACK TO before")

    @pytest.mark.django_db
    def test_is_the_same_from_what_is_stored_and_from_what_is_read(self, design: int) -> None:
        build = create_build("  Scree\u2028’\n", "x" * 500)
        delete_build(build.pk, 1)
        delete_design(design, 1)
        Notice.objects.create(words="é\0")
        Operation.objects.create(number="1" * 20, asked="GET", made="nothing")
        for kind in (Build, Design, Notice, Operation, Revision, TruckRevision):
            found = list(kind.objects.all())
            assert found
            assert all(one.is_sound for one in found)
            with closing(_raw(kind)) as raw:
                assert list(broken_rows(raw, kind._meta.db_table)) == []


def _raw(kind: Any) -> sqlite3.Connection:
    """The rows of a table as another program reads them: no types but SQLite's own."""
    copy = sqlite3.connect(":memory:")
    connection.ensure_connection()
    with connection.cursor() as cursor:
        (made,) = cursor.execute("SELECT sql FROM sqlite_master WHERE name = %s", [kind._meta.db_table]).fetchone()
        columns = [f.column for f in kind._meta.concrete_fields]
        found = cursor.execute(
            f"SELECT {', '.join('+' + name for name in columns)} FROM {kind._meta.db_table}"
        ).fetchall()
    copy.execute(made)
    copy.executemany(
        f"INSERT INTO {kind._meta.db_table} ({', '.join(columns)}) VALUES ({', '.join('?' * len(columns))})", found
    )
    return copy


BAD = {
    "a date that is none": ("UPDATE builds_build SET created_at = '2026-13-45 00:00:00' WHERE id = 2", "build 2 is not"),
    "another date": ("UPDATE builds_design SET created_at = '2020-01-01 00:00:00' WHERE id = 2", "design 2 is not"),
    "another name": ("UPDATE builds_revision SET name = 'x' WHERE id = 3", "revision 3 is not"),
    "an unknown truck": ("UPDATE builds_revision SET truck = 99 WHERE design_id = 2", "truck revision 99 that is not there"),
    "no revisions": ("DELETE FROM builds_revision WHERE design_id = 2", "design 2 has no revision"),
    "no such columns": ("ALTER TABLE builds_build RENAME COLUMN notes TO note", "columns of this program's make"),
    "a foreign table": ("ALTER TABLE builds_notice ADD COLUMN mine TEXT", "columns of this program's make"),
}  # fmt: skip


class TestBadRow:
    @pytest.mark.parametrize("what", BAD)
    def test_is_found_before_anything_is_restored(self, data: Path, what: str) -> None:
        sql, words = BAD[what]
        odd = data / "odd.sqlite3"
        shutil.copyfile(places.store(), odd)
        before = rows(places.store())
        changed(odd, sql)
        if "columns" in words:
            with closing(sqlite3.connect(odd)) as opened:
                for table in TABLES:
                    seal_again(opened, table)
                opened.commit()
        with pytest.raises(copies.Unsound, match=words):
            rehearsal.restore(odd)
        assert rows(places.store()) == before
        assert not list(data.glob("rehearsal-*"))

    def test_comes_back_from_a_backup_and_it_is_said(self, data: Path) -> None:
        copies.back_up(places.store(), places.backup_place(places.BY_HAND))
        before = rows(places.store())
        changed(places.store(), "UPDATE builds_build SET created_at = 'once' WHERE id = 2")
        changed(places.store(), "UPDATE builds_revision SET truck = 99, created_at = '2020-01-01' WHERE design_id = 2")
        assert copies.verify_quickly(places.store())
        assert "as it was when it was backed up, without what changed since: build 2" not in salvage(places.store())
        assert rows(places.store()) == before

    def test_is_kept_as_it_is_where_no_backup_has_it(self, data: Path) -> None:
        before = rows(places.store())
        changed(places.store(), "UPDATE builds_build SET notes = 'odd' WHERE id = 2")
        changed(places.store(), "UPDATE builds_revision SET truck = 99 WHERE design_id = 2")
        said = salvage(places.store())
        assert "nothing is missing" in said
        assert "kept, but not all as it was written: build 2" in said
        assert copies.verify(places.store()) == []
        after = rows(places.store())
        assert len(after["builds_build"]) == len(before["builds_build"])
        assert after["builds_revision"] == before["builds_revision"]  # put on the build's newest truck, its only one

    def test_of_a_build_that_changed_since_is_as_it_was_backed_up(self, data: Path) -> None:
        copies.back_up(places.store(), places.backup_place(places.BY_HAND))
        changed(places.store(), "UPDATE builds_build SET notes = 'odd' WHERE id = 2")
        assert "without what changed since: build 2" in salvage(places.store())

    def test_an_older_makes_backup_is_upgraded_as_it_is_restored(self, data: Path) -> None:
        before = rows(places.store())
        older = data / "older"
        older.mkdir()
        shutil.copyfile(places.store(), older / "oak-lever.sqlite3")
        managed(older, "migrate", "builds", "0007")
        managed(data, "restore_store", str(older / "oak-lever.sqlite3"))
        assert rows(places.store()) == before

    def test_is_gone_past_by_an_export_that_names_it(self, data: Path) -> None:
        changed(places.store(), "UPDATE builds_build SET created_at = '2026-13-45 00:00:00' WHERE id = 2")
        changed(places.store(), "UPDATE builds_design SET deleted_at = '2026-13-45 00:00:00' WHERE id = 1")
        changed(places.store(), "UPDATE builds_truckrevision SET created_at = '2026-13-45 00:00:00' WHERE build_id = 3")
        changed(places.store(), "UPDATE builds_revision SET truck = 99 WHERE design_id = 6")
        said = managed(data, "export_store", str(data / "out"), right=False)
        assert "build 2 is not as it was written" in said
        assert "design 1 is not as it was written" in said
        assert "truck revision in row 3" in said
        assert len(list((data / "out").glob("*/build.json"))) == 4
        assert len(list((data / "out").glob("*/designs/*/r000041.json"))) == 1
        assert len(list((data / "out").glob("000003-*/designs/*/r000001.json"))) > 0
        assert ": revision 1" in said


def spoiled(folder: Path, file: str, **keys: Any) -> None:
    """A file of an export with other values in it."""
    path = min(folder.glob(file))
    path.write_text(json.dumps({**json.loads(path.read_text()), **keys}))


class TestImport:
    @pytest.mark.parametrize(
        ("file", "keys", "words"),
        [
            ("000002-*/build.json", {"created_at": "2026-13-45T00:00:00Z"}, "created_at must be a date"),
            ("000002-*/build.json", {"created_at": None}, "created_at must be a date"),
            ("000002-*/build.json", {"deleted_at": 7}, "deleted_at must be a date"),
            ("000002-*/truck/history.json", {"revisions": [{"number": 1, "stored_at": "soon"}]}, "stored_at must be"),
            ("000002-*/truck/history.json", {"revisions": [{"number": -1, "stored_at": "soon"}]}, "number must be"),
            ("000002-*/truck/history.json", {"revisions": {"number": 1}}, "must be a list"),
            ("000002-*/designs/*/history.json", {"revisions": []}, "has no revision"),
            (
                "000002-*/designs/*/history.json",
                {"revisions": [{"number": 1, "stored_at": "2026-01-31T08:00:00Z", "truck": 99}]},
                "truck revision 99 that is not there",
            ),
            (
                "000002-*/designs/*/history.json",
                {"revisions": [{"number": 1, "stored_at": "2026-01-31T08:00:00Z", "truck": 1}] * 2},
                "there twice",
            ),
        ],
    )
    @pytest.mark.django_db
    def test_of_a_file_that_says_what_cannot_be_reads_in_nothing(
        self, written: Path, tmp_path: Path, file: str, keys: dict[str, Any], words: str
    ) -> None:
        folder = shutil.copytree(written, tmp_path / "out")
        spoiled(folder, file, **keys)
        with pytest.raises(Refused) as refused:
            files.read_all(folder)
        said = " ".join(str(fault) for fault in refused.value.faults)
        assert words in said
        assert "000002-" in said
        assert not any(kind.objects.exists() for kind in (Build, Design, Revision, TruckRevision))


def behind_its_back(sql: str, row: int) -> None:
    with connection.cursor() as cursor:
        cursor.execute(sql, [row])


@pytest.mark.django_db
class TestServed:
    def test_home_and_the_bin_go_past_a_bad_row_and_name_it(self, call: Caller, design: int) -> None:
        others = [create_build(f"Truck {n}").pk for n in range(4)]
        for one in others[2:]:
            delete_build(one, 1)
        behind_its_back("UPDATE builds_build SET created_at = '2026-13-45 00:00:00' WHERE id = %s", others[0])
        Build.objects.filter(pk__in=(others[1], others[2])).update(notes="changed behind its back")
        home, bin_ = call("GET", "/api/builds")[1], call("GET", "/api/bin")[1]
        assert home["unreadable"] == [f"build {others[0]}", f"build {others[1]}"]
        assert [one["name"] for one in home["builds"]] == ["Fell tender"]
        assert bin_["unreadable"] == [f"build {others[2]}"]
        assert [one["id"] for one in bin_["builds"]] == [others[3]]

    def test_a_bad_row_is_not_written_over(self, call: Caller, design: int) -> None:
        build = create_build("Truck").pk
        Build.objects.filter(pk=build).update(notes="odd")
        behind_its_back("UPDATE builds_design SET created_at = '2020-01-01 00:00:00' WHERE id = %s", design)
        status, said = call("PUT", "/api/builds/{build_id}", {"name": "Other", "notes": "", "base": 1}, build_id=build)
        assert (status, f"build {build} cannot be read" in said["message"]) == (410, True)
        status, said = call("GET", DESIGN, design_id=design)
        assert (status, f"design {design} cannot be read" in said["message"]) == (410, True)
        assert Build.objects.get(pk=build).name == "Truck"
