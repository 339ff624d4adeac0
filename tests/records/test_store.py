"""The salon's folder: photos whole or not at all, one migration path, one transaction."""

from __future__ import annotations

import hashlib
import sqlite3
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext

from dapwick.records import store as store_module
from dapwick.records.models import Base, DogRow
from dapwick.records.store import SalonStore


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
