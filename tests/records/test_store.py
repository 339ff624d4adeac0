"""The salon's folder: photos whole or not at all, one migration path, one transaction."""

from __future__ import annotations

import contextlib
import hashlib
import os
import sqlite3
import stat
import threading
import time
from contextlib import closing
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import select

from dapwick.core.basics.errors import BadInput, Busy, SalonInUse, StorageFull, Unreadable
from dapwick.records import photo_files
from dapwick.records import store as store_module
from dapwick.records.lock import SalonLock
from dapwick.records.models import Base, BookingRow, DogRow, SettingRow, VisitRow
from dapwick.records.schema import migrate
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import one_dog


def test_photo_is_kept_byte_for_byte_under_its_hash(store: SalonStore) -> None:
    data = bytes(range(256)) * 40
    digest = store.keep_photo(data)
    assert digest == hashlib.sha256(data).hexdigest()
    assert store.photo_path(digest).read_bytes() == data
    assert store.keep_photo(data) == digest


def test_a_stop_in_the_middle_leaves_no_orphan(store: SalonStore, monkeypatch: pytest.MonkeyPatch) -> None:
    def full_disk(*_: object) -> None:
        raise OSError("no space left")

    monkeypatch.setattr(photo_files.os, "replace", full_disk)
    with pytest.raises(OSError, match="no space"):
        store.keep_photo(b"x" * 1000)
    assert list((store.folder / "photos").iterdir()) == []


def test_a_failed_block_changes_nothing(store: SalonStore) -> None:
    def half_done() -> None:
        with store.session() as session:
            session.add(DogRow(name="Squall", coat="curl"))
            session.flush()
            raise RuntimeError

    with pytest.raises(RuntimeError):
        half_done()
    with store.session() as session:
        assert session.query(DogRow).count() == 0


def test_database_is_careful(store: SalonStore) -> None:
    with store.engine.connect() as connection:
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("PRAGMA foreign_keys").scalar() == 1


def test_migrations_make_exactly_the_models(store: SalonStore) -> None:
    with store.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_opening_again_finds_everything(tmp_path: Path) -> None:
    first = SalonStore(tmp_path)
    with first.session() as session:
        session.add(DogRow(name="Halyard", coat="wavy"))
    first.close()
    second = SalonStore(tmp_path)
    with second.session() as session:
        assert session.query(DogRow).one().name == "Halyard"
    second.close()
    with sqlite3.connect(tmp_path / "salon.db") as raw:
        assert raw.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    raw.close()


def test_a_salon_of_the_version_before_keeps_everything_and_its_times_move_to_the_book(
    tmp_path: Path,
) -> None:
    """As 0.1 with its fifth migration left it: two visits, no book."""
    salon = tmp_path / "salon"
    salon.mkdir()
    migrate(salon / "salon.db", "0005")
    with closing(sqlite3.connect(salon / "salon.db")) as connection, connection:
        connection.execute("INSERT INTO dog (id, name, breed, coat) VALUES (1, 'Squall', 'cross', 'curl')")
        connection.execute(
            "INSERT INTO visit (id, dog_id, starts, note, hand_measures, coat_probes, created) VALUES "
            "(1, 1, '', 'first', '[]', '[]', '2026-08-01 09:00:00'), "
            "(2, 1, '10:30', 'second', '[]', '[]', '2026-10-01 09:00:00')"
        )
    store = SalonStore(salon)
    with store.reading() as session:
        [dog] = session.query(DogRow).all()
        booked = [(b.day, b.starts, b.visit_id) for b in session.query(BookingRow).order_by(BookingRow.id)]
        assert (dog.name, len(dog.uid), [v.note for v in dog.visits]) == ("Squall", 32, ["first", "second"])
    assert booked == [("2026-08-01", "", 1), ("2026-10-01", "10:30", 2)]
    assert one_dog(store, 1).note == "second"
    store.close()


def test_a_change_waits_for_another_one_and_sees_what_it_did(store: SalonStore) -> None:
    """Two hands count up together; none of their steps is lost."""
    with store.session() as session:
        session.add(SettingRow(key="count", value=0))

    def count() -> None:
        for _ in range(40):
            with store.session() as session:
                row = session.get(SettingRow, "count")
                assert row is not None
                row.value = row.value + 1

    hands = [threading.Thread(target=count) for _ in range(4)]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    with store.reading() as session:
        row = session.get(SettingRow, "count")
        assert row is not None
        assert row.value == 160


def test_a_look_sees_one_moment_and_cannot_write(store: SalonStore) -> None:
    def write() -> None:
        with store.reading() as session:
            session.add(DogRow(name="Ghost", coat="curl"))
            session.flush()

    with pytest.raises(StorageFull):
        write()
    with store.reading() as session:
        assert session.query(DogRow).count() == 0
        with store.session() as other:
            other.add(DogRow(name="Squall", coat="curl"))
        assert session.query(DogRow).count() == 0


def test_looks_never_wait_for_a_change(store: SalonStore) -> None:
    """One change takes long, thirty others wait behind it, another program holds the records: a look is answered."""
    held, over = threading.Event(), threading.Event()

    def hold() -> None:
        with store.session():
            held.set()
            over.wait(20)

    def want() -> None:
        with contextlib.suppress(Busy), store.session():
            pass

    hands = [threading.Thread(target=hold), *(threading.Thread(target=want) for _ in range(30))]
    for hand in hands:
        hand.start()
    assert held.wait(5)
    begun = time.monotonic()
    for _ in range(20):
        with store.reading() as session:
            assert session.query(DogRow).count() == 0
    assert time.monotonic() - begun < 15.0
    over.set()
    for hand in hands:
        hand.join()


def test_ids_never_come_again(store: SalonStore) -> None:
    """The last one gone, the next gets another id; after a migration too."""
    ids = []
    for _ in range(3):
        with store.session() as session:
            row = DogRow(name="Squall", coat="curl")
            session.add(row)
            session.flush()
            ids.append(row.id)
            session.delete(row)
    assert ids == [1, 2, 3]
    with store.engine.connect() as connection:
        tables = connection.exec_driver_sql("SELECT sql FROM sqlite_master WHERE type = 'table'").scalars()
        keyed = [sql for sql in tables if sql and "id INTEGER" in sql]
    assert len(keyed) == 11
    assert all("AUTOINCREMENT" in sql for sql in keyed)


def test_a_salon_of_a_newer_version_or_a_damaged_one_is_told_in_a_sentence(tmp_path: Path) -> None:
    SalonStore(tmp_path / "newer").close()
    with closing(sqlite3.connect(tmp_path / "newer" / "salon.db")) as connection, connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(Unreadable, match="newer version"):
        SalonStore(tmp_path / "newer")
    (tmp_path / "torn").mkdir()
    (tmp_path / "torn" / "salon.db").write_bytes(b"SQLite format 3\0" + b"\x7f" * 5000)
    with pytest.raises(Unreadable, match="dapwick restore"):
        SalonStore(tmp_path / "torn")
    (tmp_path / "text").mkdir()
    (tmp_path / "text" / "salon.db").write_text("dear salon")
    with pytest.raises(Unreadable, match="Nothing was changed"):
        SalonStore(tmp_path / "text")
    assert (tmp_path / "text" / "salon.db").read_text() == "dear salon"


def test_records_that_are_moved_away_are_not_written_on_as_a_ghost(store: SalonStore, tmp_path: Path) -> None:
    store.database.rename(tmp_path / "away.db")
    with pytest.raises(Unreadable, match="moved away"), store.session() as session:
        session.add(DogRow(name="Ghost", coat="curl"))
    with pytest.raises(Unreadable, match="moved away"), store.reading():
        pass
    assert not store.database.exists()
    (tmp_path / "away.db").rename(store.database)
    with store.session() as session:
        session.add(DogRow(name="Squall", coat="curl"))


def test_nobody_else_on_the_machine_reads_the_records(store: SalonStore) -> None:
    with store.session() as session:
        session.add(DogRow(name="Squall", coat="curl"))
    assert stat.S_IMODE(store.folder.stat().st_mode) == 0o700
    assert stat.S_IMODE(store.database.stat().st_mode) == 0o600


@pytest.mark.parametrize(
    "digest",
    ["../../../etc/passwd", "a" * 63, "A" * 64, "g" * 64, "a" * 64 + "/x", "", None, 7, "a" * 64 + "\n"],
)
def test_only_a_content_hash_becomes_a_path(store: SalonStore, digest: object) -> None:
    for path in (
        store.photo_path,
        store.screen_path,
        store.forget_photo,
        store.photo_size,
        store.photo_bytes,
    ):
        with pytest.raises(BadInput, match="64 hex digits"):
            path(digest)  # type: ignore[arg-type]


def test_a_second_start_says_who_has_the_folder(tmp_path: Path) -> None:
    with SalonLock(tmp_path / "salon", "the server at home"), pytest.raises(SalonInUse) as told:
        SalonLock(tmp_path / "salon", "a second start")
    assert f"is open in the server at home, process {os.getpid()}" in str(told.value)
    with SalonLock(tmp_path / "salon", "a third"):
        pass


def test_records_held_too_long_by_another_are_told_as_busy(
    store: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    other = sqlite3.connect(store.database, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    store.engine.dispose()
    monkeypatch.setattr(store_module, "PATIENCE_MS", 50)
    with store.reading() as session:
        assert session.query(DogRow).count() == 0
    with pytest.raises(Busy, match="Nothing was lost"), store.session() as session:
        session.query(DogRow).count()
    other.close()


def test_its_moment_changes_with_every_write_by_whomever(tmp_path: Path) -> None:
    """What is remembered under a moment never outlives a change, however quickly one follows another."""
    here = SalonStore(tmp_path / "salon")
    there = SalonStore(tmp_path / "salon")
    seen = {here.moment()}
    for n in range(60):
        with (there if n % 3 else here).session() as session:
            session.add(DogRow(name=f"Sample {n}", coat="curl", visits=[VisitRow()]))
        assert here.moment() not in seen
        seen.add(here.moment())
    assert here.moment() == here.moment()
    with here.reading() as session:
        session.scalars(select(DogRow)).all()
    assert here.moment() in seen
    for one in (here, there):
        one.close()
