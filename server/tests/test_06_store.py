"""The store as a file: packed, copied, put back, mended, written out; and nothing of it lost on the way."""

import json
import random
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from speaking import DESIGN, REVISIONS, TENDER, Caller, edited, managed

from builds.actions import create_build, import_design, save_revision
from builds.models import Notice, Revision
from builds.packing import EVERY, Damaged, base_of, pack, unpack
from builds.seals import seal_again
from builds.store import copies, opening, places, rehearsal
from builds.store.salvage import salvage

DOCUMENT = json.loads(TENDER)


def edits(design: int, count: int) -> None:
    for n in range(count):
        save_revision(design, n + 1, 1, edited(DOCUMENT, 400.0 + n))


class TestPacking:
    @given(st.text(), st.text() | st.none())
    def test_a_text_comes_back_as_it_was(self, text: str, base: str | None) -> None:
        assert unpack(pack(text, base), base) == text

    @given(st.integers(0, 10_000), st.integers(1, 255))
    def test_a_changed_byte_changes_no_text_unnoticed(self, where: int, by: int) -> None:
        base = TENDER.replace("0", "1")
        packed = bytearray(pack(TENDER, base))
        packed[where % len(packed)] ^= by
        try:
            text = unpack(bytes(packed), base)
        except Damaged:
            return
        assert text == TENDER  # copied from another place where the same words stand

    def test_the_wrong_base_is_noticed(self) -> None:
        with pytest.raises(Damaged):
            unpack(pack(TENDER, TENDER + "a"), TENDER + "b")

    @given(st.integers(1, 10_000))
    def test_no_revision_hangs_on_a_long_chain(self, number: int) -> None:
        base = base_of(number)
        assert base is None or (base_of(base) is None and number - EVERY < base < number)

    @pytest.mark.django_db
    def test_every_revision_is_read_as_it_was_written_in_a_tenth_of_its_size(self, design: int) -> None:
        edits(design, 60)
        rows = Revision.objects.order_by("number")
        texts = [row.text for row in rows]
        assert texts == [row.text for row in rows.readable()]
        heights = [json.loads(text)["links"][0]["axle"]["at"][2] for text in texts[1:]]
        assert heights == [400.0 + n for n in range(60)]
        assert sum(len(row.packed) for row in rows) < sum(map(len, texts)) / 10


def rows(path: Path) -> dict[str, list[Any]]:
    """All that a store holds."""
    with closing(sqlite3.connect(path)) as store:
        return {
            table: store.execute(f"SELECT * FROM {table} ORDER BY id").fetchall()
            for table in sorted(copies.tables_of(store))
            if table.startswith("builds_")
        }


class TestBackup:
    def test_is_of_one_moment_while_the_store_is_written(self, data: Path) -> None:
        store = places.store()
        with closing(sqlite3.connect(store)) as writer:
            writer.execute("PRAGMA journal_mode=WAL")
            writer.execute("UPDATE builds_build SET notes = 'half'")  # not committed
            copies.back_up(store, data / "copy.sqlite3")
            writer.commit()
        kept = rows(data / "copy.sqlite3")
        assert {row[2] for row in kept["builds_build"]} != {"half"}
        assert len(kept["builds_revision"]) == len(rows(store)["builds_revision"])
        assert not [file for file in places.beside(data / "copy.sqlite3") if file.exists()]
        assert (data / "copy.sqlite3").stat().st_mode & 0o077 == 0

    def test_of_a_damaged_store_is_none_and_takes_no_good_ones_place(self, data: Path) -> None:
        copies.back_up(places.store(), data / "copy.sqlite3")
        good = (data / "copy.sqlite3").read_bytes()
        damage_a_text(1, 1)
        with pytest.raises(copies.Unsound, match="revision 1 of design 1"):
            copies.back_up(places.store(), data / "copy.sqlite3")
        assert (data / "copy.sqlite3").read_bytes() == good
        assert not list(data.glob("*.part"))

    def test_daily_ones_are_made_once_a_day_and_bounded(self, data: Path) -> None:
        for day in range(1, 21):
            copies.back_up(places.store(), places.backup_place(places.DAILY, f"2025-01-{day:02}"))
        by_hand = places.backup_place(places.BY_HAND)
        copies.back_up(places.store(), by_hand)
        opening.daily()
        first = places.daily_place().stat().st_mtime_ns
        opening.daily()
        assert places.daily_place().stat().st_mtime_ns == first
        kept = sorted(places.backups().glob("daily-*"))
        assert len(kept) == places.KEPT[places.DAILY]
        assert kept[0].name == "daily-2025-01-08.sqlite3"
        assert by_hand.exists()

    def test_by_command_is_restored_to_that_moment_and_what_was_there_is_kept(self, data: Path) -> None:
        before = rows(places.store())
        copy = data / "moment.sqlite3"
        assert "Backed up and checked" in managed(data, "backup_store", str(copy))
        assert "already" in managed(data, "backup_store", str(copy), right=False)
        with closing(sqlite3.connect(places.store())) as store:
            store.execute("UPDATE builds_build SET notes = 'later'")
            seal_again(store, "builds_build")
            store.commit()
        later = rows(places.store())
        said = managed(data, "restore_store", str(copy))
        assert rows(places.store()) == before
        kept = Path(said.split("What was there before: ")[1].strip())
        assert rows(kept) == later


class TestRestore:
    def test_waits_for_nobody_while_a_server_runs(self, data: Path) -> None:
        copies.back_up(places.store(), data / "copy.sqlite3")
        server = places.Lock()
        server.share()
        with pytest.raises(places.InUse):
            rehearsal.restore(data / "copy.sqlite3")
        server.close()
        assert rehearsal.restore(data / "copy.sqlite3")

    @pytest.mark.parametrize("what", [b"", b"SQLite format 3\0", b"nonsense" * 1000])
    def test_of_what_is_no_backup_changes_nothing(self, data: Path, what: bytes) -> None:
        before = places.store().read_bytes()
        (data / "odd.sqlite3").write_bytes(what)
        with pytest.raises(copies.Unsound):
            rehearsal.restore(data / "odd.sqlite3")
        assert places.store().read_bytes() == before

    def test_over_a_damaged_store_puts_that_aside(self, data: Path) -> None:
        copies.back_up(places.store(), data / "copy.sqlite3")
        good = rows(data / "copy.sqlite3")
        places.store().write_bytes(b"nonsense" * 1000)
        aside = rehearsal.restore(data / "copy.sqlite3")
        assert aside is not None
        assert aside.read_bytes() == b"nonsense" * 1000
        assert rows(places.store()) == good

    def test_a_newer_make_is_refused_in_words(self, data: Path) -> None:
        with closing(sqlite3.connect(places.store())) as store:
            store.execute(
                "INSERT INTO django_migrations (app, name, applied) VALUES ('builds', '0999_later', '2030-01-01')"
            )
            store.commit()
        with pytest.raises(opening.Newer, match="newer Oak Lever"):
            opening.refuse_newer(places.store())
        shutil.copyfile(places.store(), data / "newer.sqlite3")
        for command in (["restore_store", str(data / "newer.sqlite3")], ["export_store", str(data / "out")]):
            assert "newer Oak Lever" in managed(data, *command, right=False)


def damage_a_text(design: int, number: int) -> None:
    with closing(sqlite3.connect(places.store())) as store:
        store.execute(
            "UPDATE builds_revision SET packed = zeroblob(length(packed)) WHERE design_id = ? AND number = ?",
            (design, number),
        )
        store.commit()


class TestSalvage:
    def test_a_lost_text_is_named_and_the_rest_is_there(self, data: Path) -> None:
        damage_a_text(1, 41)
        assert copies.verify_quickly(places.store())
        said = salvage(places.store())
        assert "1 revisions of designs in all" in said
        assert copies.verify(places.store()) == []
        with closing(sqlite3.connect(places.store())) as store:
            assert store.execute("SELECT max(number) FROM builds_revision WHERE design_id = 1").fetchone() == (40,)

    def test_a_lost_base_costs_those_kept_against_it(self, data: Path) -> None:
        damage_a_text(1, 26)
        assert "16 revisions of designs in all" in salvage(places.store())

    @pytest.mark.parametrize("seed", range(12))
    def test_with_a_backup_nothing_is_lost_whatever_is_damaged(self, data: Path, seed: int) -> None:
        """Pages overwritten anywhere but for the schema; the rows of the backup fill what cannot be read."""
        before = rows(places.store())
        copies.back_up(places.store(), places.backup_place(places.BY_HAND))
        overwrite(places.store(), random.Random(seed))
        if copies.verify(places.store()):
            assert "not to be read" not in salvage(places.store())
        assert rows(places.store()) == before

    def test_a_backup_of_another_line_is_left_alone(self, data: Path) -> None:
        """One taken before an older one was restored: its later revisions are not this store's."""
        copies.back_up(places.store(), places.backup_place(places.BY_HAND))
        with closing(sqlite3.connect(places.store())) as store:
            store.execute(
                "UPDATE builds_revision SET packed = ?, base = NULL WHERE design_id = 1 AND number = 41", [pack("x")]
            )
            seal_again(store, "builds_revision")
            store.commit()
        before = rows(places.store())
        damage_a_text(2, 1)
        assert "design 2" in salvage(places.store())
        kept = rows(places.store())["builds_revision"]
        assert kept == [row for row in before["builds_revision"] if row in kept]
        assert len(kept) == len(before["builds_revision"]) - 1

    @pytest.mark.parametrize("seed", range(12))
    def test_without_one_what_is_saved_is_exact_and_sound(self, data: Path, seed: int) -> None:
        before = {table: {row[0]: row for row in held} for table, held in rows(places.store()).items()}
        overwrite(places.store(), random.Random(100 + seed))
        if not copies.verify(places.store()):
            return
        salvage(places.store())
        assert copies.verify(places.store()) == []
        after = rows(places.store())
        for row in after["builds_revision"]:
            assert row == before["builds_revision"][row[0]]

    def test_of_what_was_never_a_store_comes_the_backup_or_words(self, data: Path) -> None:
        good = rows(places.store())
        copies.back_up(places.store(), data / "copy.sqlite3")
        places.store().write_bytes(b"dust" * 5000)
        with pytest.raises(copies.Unsound, match="nothing in it can be read"):
            salvage(places.store())
        assert places.store().read_bytes() == b"dust" * 5000
        (data / "copy.sqlite3").rename(places.backup_place(places.BY_HAND))
        assert "of the backup" in salvage(places.store())
        assert rows(places.store()) == good
        (aside,) = places.damaged().glob("*/oak-lever.sqlite3")
        assert aside.read_bytes() == b"dust" * 5000


def overwrite(path: Path, chance: random.Random) -> None:
    """A run of bytes somewhere behind the first page, as a dying disk would."""
    content = bytearray(path.read_bytes())
    start = chance.randrange(4096, len(content))
    length = chance.choice([1, 40, 4096, 20_000])
    content[start : start + length] = chance.randbytes(len(content[start : start + length]))
    path.write_bytes(content)


class TestFiles:
    def test_everything_goes_out_and_comes_back(self, written: Path, tmp_path: Path) -> None:
        names = sorted(file.relative_to(written).as_posix() for file in written.rglob("*"))
        assert "000004-fell-tender/truck/r000001.json" in names
        (tmp_path / "other").mkdir()
        assert "4 builds" in managed(tmp_path / "other", "import_store", str(written))
        managed(tmp_path / "other", "export_store", str(tmp_path / "again"))
        for name in names:
            one, other = written / name, tmp_path / "again" / name
            assert one.is_dir() or one.read_bytes() == other.read_bytes()

    def test_a_faulty_file_is_named_and_nothing_is_read_in(self, data: Path, written: Path) -> None:
        shutil.copytree(written, data / "out")
        for name, text in (("truck/r000001.json", "nonsense"), ("build.json", '{"format": "oak-lever-build"}')):
            folder = "000001-scree-runner" if name == "build.json" else "000002-tarn-van"
            (data / "out" / folder / name).write_text(text)
        before = rows(places.store())
        said = managed(data, "import_store", str(data / "out"), right=False)
        assert "000002-tarn-van/truck/r000001.json" in said
        assert "000001-scree-runner/build.json" in said
        assert rows(places.store()) == before

    def test_a_folder_that_holds_something_is_not_written_over(self, data: Path) -> None:
        (data / "out").mkdir()
        (data / "out" / "mine").write_text("mine")
        assert "not empty" in managed(data, "export_store", str(data / "out"), right=False)
        assert "no build in it" in managed(data, "import_store", str(data / "out"), right=False)


@pytest.mark.django_db
class TestPages:
    def test_builds_come_the_newest_first_a_page_at_a_time(self, call: Caller) -> None:
        for n in range(45):
            create_build(f"Truck {n}")
        names: list[str] = []
        before = ""
        for size in (20, 20, 5):
            page = call.client.get(f"/api/builds?{before}").json()
            assert len(page["builds"]) == size
            names += [build["name"] for build in page["builds"]]
            before = f"before={page['before']}"
        assert page["before"] is None
        assert names == [f"Truck {n}" for n in reversed(range(45))]

    def test_builds_are_found_by_their_words_and_their_designs(self, call: Caller, design: int) -> None:
        create_build("Snow plow", "with the crane")

        def find(words: str) -> list[str]:
            return [build["name"] for build in call.client.get("/api/builds", {"find": words}).json()["builds"]]

        assert find("PLOW") == ["Snow plow"]
        assert find("crane") == ["Snow plow"]
        assert find("tender, rear") == ["Fell tender"]
        assert find("%") == []
        assert call.client.get("/api/builds", {"find": "x" * 201}).status_code == 422

    def test_home_asks_the_same_few_questions_however_many_builds(
        self, call: Caller, django_assert_num_queries: Any
    ) -> None:
        for n in range(10):
            import_design(create_build(f"Truck {n}").pk, TENDER)
        with django_assert_num_queries(4):
            assert len(call("GET", "/api/builds")[1]["builds"]) == 10

    def test_history_shows_all_of_it(self, call: Caller, design: int) -> None:
        edits(design, 119)
        numbers: list[int] = []
        before, changed = "", 0
        while True:
            page = call.client.get(f"/api/designs/{design}/revisions?{before}").json()
            numbers += [line["number"] for line in page["lines"]]
            changed += sum(bool(line["changes"]) for line in page["lines"])
            if page["before"] is None:
                break
            before = f"before={page['before']}"
        assert numbers == list(range(120, 0, -1))
        assert changed == 119
        assert page["lines"][-1]["first"]


@pytest.mark.django_db
class TestDamageMet:
    def test_is_said_and_the_rest_goes_on(self, call: Caller, design: int) -> None:
        edits(design, 3)
        other = import_design(create_build("Yard truck").pk, TENDER).design_id
        Revision.objects.filter(design=design, number=4).update(packed=b"dust")
        status, said = call("GET", DESIGN, design_id=design)
        assert (status, "revision 4 cannot be read" in said["message"]) == (410, True)
        builds = call("GET", "/api/builds")[1]["builds"]
        assert [line["damaged"] for build in builds for line in build["designs"]] == [False, True]
        lines = call("GET", REVISIONS, design_id=design)[1]["lines"]
        assert [line["damaged"] for line in lines] == [True, False, False, False]
        assert call("GET", DESIGN, design_id=other)[0] == 200

    def test_a_notice_stands_until_it_is_put_away(self, call: Caller) -> None:
        notice = Notice.objects.create(words="The store was damaged.")
        assert call("GET", "/api/builds")[1]["notices"][0]["words"] == "The store was damaged."
        assert call("DELETE", "/api/notices/{notice_id}", notice_id=notice.pk)[0] == 204
        assert call("DELETE", "/api/notices/{notice_id}", notice_id=notice.pk)[0] == 404
        assert call("GET", "/api/builds")[1]["notices"] == []

    def test_health_says_how_the_store_is(self, call: Caller, design: int) -> None:
        status, said = call("GET", "/api/health")
        assert (status, said["builds"]) == (200, 1)
        assert said["free_mb"] > 0
