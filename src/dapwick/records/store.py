"""One salon's folder: the database and the photo files. The only place that opens either."""

from __future__ import annotations

import hashlib
import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, event
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from dapwick.core.errors import Busy, NoRoom

COMING = ".coming-"
WRITES = "writes"
PATIENCE_MS = 5000
"""How long a change waits for another one."""
MIGRATIONS = Path(__file__).parent / "migrations"


class SalonStore:
    """Database and photos under one folder; every `session()` is one transaction."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        (folder / "photos").mkdir(parents=True, exist_ok=True)
        self.engine = create_engine(f"sqlite:///{self.database}")
        event.listen(self.engine, "connect", _careful)
        event.listen(self.engine, "begin", _begin)
        _upgrade(self.engine)
        writing = self.engine.execution_options(**{WRITES: True})
        self._writers = sessionmaker(writing, expire_on_commit=False)
        self._readers = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """One change: committed when the block ends well, rolled back when it does not. What is read in it cannot
        change before it is written: SQLite has one writer, who waits its turn."""
        try:
            with self._writers.begin() as session:
                yield session
        except OperationalError as error:
            if "full" in str(error.orig) or "readonly" in str(error.orig):
                raise NoRoom(str(error.orig)) from error
            if "locked" in str(error.orig):
                raise Busy(str(error.orig)) from error
            raise

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A look at the records as they are at one moment; nothing that is changed in it is kept."""
        with self._readers() as session:
            yield session

    def keep_photo(self, data: bytes) -> str:
        """Store a photo file under its SHA-256, whole or not at all; returns the hash."""
        digest = hashlib.sha256(data).hexdigest()
        self._write(self.photo_path(digest), data)
        return digest

    def keep_screen_copy(self, digest: str, jpeg: bytes) -> None:
        self._write(self.screen_path(digest), jpeg)

    def forget_photo(self, digest: str) -> None:
        """Remove a photo's files; only for those that no record names."""
        for path in (self.photo_path(digest), self.screen_path(digest)):
            path.unlink(missing_ok=True)

    def sweep(self, used: set[str]) -> list[str]:
        """Remove what a stop in the middle left: half-written files, and photos on no record."""
        swept = sweep_coming(self.folder)
        for path in (self.folder / "photos").iterdir():
            if path.name.startswith(COMING) or path.name.split(".")[0] not in used:
                path.unlink(missing_ok=True)
                swept.append(path.name)
        return swept

    @property
    def database(self) -> Path:
        return self.folder / "salon.db"

    def photo_size(self, digest: str) -> int:
        """Bytes of an original; nothing where it is gone."""
        path = self.photo_path(digest)
        return path.stat().st_size if path.exists() else 0

    def photo_path(self, digest: str) -> Path:
        return self.folder / "photos" / digest

    def screen_path(self, digest: str) -> Path:
        return self.folder / "photos" / f"{digest}.screen.jpg"

    def take_over(self, database: Path) -> None:
        """Replace every record by those of another database file, in one transaction, and bring them up to date."""
        with closing(sqlite3.connect(database)) as given, closing(sqlite3.connect(self.database)) as own:
            own.execute("PRAGMA busy_timeout=30000")
            own.execute("PRAGMA synchronous=FULL")
            given.backup(own)
        self.engine.dispose()
        _upgrade(self.engine)

    def kept_before(self) -> list[Path]:
        """Records that restores have replaced, the latest first."""
        return sorted(self.folder.glob("before-restore-*.db"), reverse=True)

    def close(self) -> None:
        self.engine.dispose()

    def _write(self, path: Path, data: bytes) -> None:
        """Temporary file, synced, renamed: a stop in the middle leaves no half photo."""
        if path.exists():
            return
        name = None
        try:
            handle, name = tempfile.mkstemp(dir=path.parent, prefix=COMING)
            with os.fdopen(handle, "wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            os.replace(name, path)
        except OSError as error:
            raise NoRoom(error.strerror or str(error)) from error
        finally:
            if name:
                Path(name).unlink(missing_ok=True)


def sweep_coming(folder: Path) -> list[str]:
    """Remove half-written files and folders that a stop in the middle left right in a folder."""
    left = list(folder.glob(f"{COMING}*")) if folder.is_dir() else []
    for path in left:
        if path.is_dir():
            shutil.rmtree(path, ignore_errors=True)
        else:
            path.unlink(missing_ok=True)
    return [path.name for path in left]


def _careful(connection: Any, _record: Any) -> None:
    # The driver is not to begin transactions by itself: `_begin` does, so that a change holds the lock from its
    # first read on.
    connection.isolation_level = None
    cursor = connection.cursor()
    for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL", f"busy_timeout={PATIENCE_MS}"):
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _begin(connection: Any) -> None:
    writes = connection.get_execution_options().get(WRITES)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


def _upgrade(engine: Any) -> None:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
