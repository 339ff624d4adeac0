"""The salon's folder: photos whole or not at all, one migration path, one transaction."""

from __future__ import annotations

import hashlib
import sqlite3
import threading
from pathlib import Path

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import create_engine

from dapwick.core.errors import Busy
from dapwick.records import store as store_module
from dapwick.records.models import Base, BookingRow, DogRow, SettingRow
from dapwick.records.store import SalonStore
from dapwick.service.dogs import one_dog


def test_photo_is_kept_byte_for_byte_under_its_hash(store: SalonStore) -> None:
    data = bytes(range(256)) * 40
    digest = store.keep_photo(data)
    assert digest == hashlib.sha256(data).hexdigest()
    assert store.photo_path(digest).read_bytes() == data
    assert store.keep_photo(data) == digest


def test_a_stop_in_the_middle_leaves_no_orphan(store: SalonStore, monkeypatch: pytest.MonkeyPatch) -> None:
    def full_disk(*_: object) -> None:
        raise OSError("no space left")

    monkeypatch.setattr(store_module.os, "replace", full_disk)
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
    config = Config()
    config.set_main_option("script_location", str(store_module.MIGRATIONS))
    engine = create_engine(f"sqlite:///{salon / 'salon.db'}")
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0005")
        connection.exec_driver_sql(
            "INSERT INTO dog (id, name, breed, coat) VALUES (1, 'Squall', 'cross', 'curl')"
        )
        connection.exec_driver_sql(
            "INSERT INTO visit (id, dog_id, starts, note, hand_measures, coat_probes, created) VALUES "
            "(1, 1, '', 'first', '[]', '[]', '2026-08-01 09:00:00'), "
            "(2, 1, '10:30', 'second', '[]', '[]', '2026-10-01 09:00:00')"
        )
    engine.dispose()
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


def test_a_look_sees_one_moment_and_keeps_nothing(store: SalonStore) -> None:
    with store.reading() as session:
        session.add(DogRow(name="Ghost", coat="curl"))
        session.flush()
    with store.reading() as session:
        assert session.query(DogRow).count() == 0
        with store.session() as other:
            other.add(DogRow(name="Squall", coat="curl"))
        assert session.query(DogRow).count() == 0


def test_records_held_too_long_by_another_are_told_as_busy(
    store: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    other = sqlite3.connect(store.database, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    store.engine.dispose()
    monkeypatch.setattr(store_module, "PATIENCE_MS", 50)
    with pytest.raises(Busy, match="Nothing was lost"), store.session() as session:
        session.query(DogRow).count()
    other.close()
