"""One salon's folder: the database and the photo files. The only place that opens either."""

from __future__ import annotations

import contextlib
import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from threading import Lock
from typing import Any, Final

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm import Session, sessionmaker

from dapwick.core.basics.errors import Busy, StorageFull, Unreadable
from dapwick.records.photo_files import PhotoFiles
from dapwick.records.schema import migrate, revision_of, revisions

PATIENCE_MS = 5000
"""How long a change waits for another one."""
READERS: Final = 24
RESTORE_FIRST: Final = "Restore a backup with `dapwick restore`, or choose another folder."
READABLE_FIRST: Final = "Give the folder back, or its rights, then start again."


class SalonStore(PhotoFiles):
    """Database and photos under one folder; every `session()` is one transaction.

    Readers have connections of their own, which cannot write: none of them ever waits for a writer."""

    def __init__(self, folder: Path) -> None:
        super().__init__(folder)
        try:
            (folder / "photos").mkdir(parents=True, exist_ok=True, mode=0o700)
            _private(folder, self.database)
            revision = revision_of(self.database)
            if revision is not None and revision not in revisions():
                raise Unreadable(
                    str(self.database), f"a newer version made them, {revision[:20]}", "Update Dapwick."
                )
            migrate(self.database)
            self.engine = _engine(self.database, 1)
            self._reading = _engine(self.database, READERS, query_only=True)
            # The writer first: it sets the journal by which readers and writers do not wait for each other.
            with self.engine.connect(), self._reading.connect():
                self._file = _identity(self.database)
        except (DatabaseError, sqlite3.DatabaseError) as error:
            raise Unreadable(str(self.database), str(getattr(error, "orig", error)), RESTORE_FIRST) from error
        except OSError as error:
            if isinstance(error, Unreadable):
                raise
            raise Unreadable(str(folder), error.strerror or str(error), READABLE_FIRST) from error
        self._changes = 0
        self._writers = sessionmaker(self.engine, expire_on_commit=False)
        self._readers = sessionmaker(self._reading, expire_on_commit=False)
        self._turn = Lock()

    @contextmanager
    def session(self) -> Iterator[Session]:
        """One change: committed when the block ends well, rolled back when it does not. What is read in it cannot
        change before it is written: there is one writer, and others wait their turn."""
        if not self._turn.acquire(timeout=PATIENCE_MS / 1000):
            raise Busy("another change takes long")
        try:
            self._still_there()
            with self._writers.begin() as session:
                yield session
            self._changes += 1
        except OperationalError as error:
            raise _told(error, self.database) from error
        finally:
            self._turn.release()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A look at the records as they are at one moment; nothing that is changed in it is kept."""
        self._still_there()
        try:
            with self._readers() as session, session.no_autoflush:
                yield session
        except PoolTimeout as error:
            raise Busy("too many look at once") from error
        except OperationalError as error:
            raise _told(error, self.database) from error

    def moment(self) -> tuple[int, ...]:
        """A mark of all that was written so far, by whomever: where it is the same as before, the records are too.
        Taken before a look, it never stands for more than the look has seen."""
        written = [self._changes]
        for suffix in ("", "-wal"):
            with contextlib.suppress(FileNotFoundError):
                found = self.database.with_name(self.database.name + suffix).stat()
                written += [found.st_mtime_ns, found.st_size, found.st_ino]
        return tuple(written)

    @property
    def database(self) -> Path:
        return self.folder / "salon.db"

    def take_over(self, database: Path) -> None:
        """Replace every record by those of another database file, in one transaction. database: one that was proven
        and is up to date already (records/schema.py)."""
        with self._turn:
            given, own = sqlite3.connect(database), sqlite3.connect(self.database)
            try:
                own.execute(f"PRAGMA busy_timeout={6 * PATIENCE_MS}")
                own.execute("PRAGMA synchronous=FULL")
                given.backup(own)
            finally:
                given.close()
                own.close()
            self._changes += 1
            self.engine.dispose()
            self._reading.dispose()

    def kept_before(self) -> list[Path]:
        """Records that restores have replaced, the latest first."""
        return sorted(self.folder.glob("before-restore-*.db"), reverse=True)

    def close(self) -> None:
        self.engine.dispose()
        self._reading.dispose()

    def _still_there(self) -> None:
        """What is moved away, or replaced under the running salon, is not written on unseen."""
        if _identity(self.database) != self._file:
            reason = "the file was moved away or replaced while the salon was open"
            raise Unreadable(str(self.database), reason, "Move it back, or start the salon again.")


def _engine(database: Path, connections: int, query_only: bool = False) -> Engine:
    engine = create_engine(
        f"sqlite:///{database}", pool_size=connections, max_overflow=0, pool_timeout=PATIENCE_MS / 1000
    )

    def careful(connection: Any, _record: Any) -> None:
        # The driver is not to begin transactions by itself: a change holds the lock from its first read on.
        connection.isolation_level = None
        cursor = connection.cursor()
        for pragma in ("foreign_keys=ON", "synchronous=FULL", f"busy_timeout={PATIENCE_MS}"):
            cursor.execute(f"PRAGMA {pragma}")
        cursor.execute("PRAGMA query_only=ON" if query_only else "PRAGMA journal_mode=WAL")
        cursor.close()

    def begin(connection: Any) -> None:
        connection.exec_driver_sql("BEGIN" if query_only else "BEGIN IMMEDIATE")

    event.listen(engine, "connect", careful)
    event.listen(engine, "begin", begin)
    return engine


def _identity(database: Path) -> tuple[int, int] | None:
    """Which file lies under the name."""
    try:
        found = os.stat(database)
    except FileNotFoundError:
        return None
    return found.st_dev, found.st_ino


def _private(folder: Path, database: Path) -> None:
    """Records are the salon's own: nobody else on the machine reads them, where the disk knows of such things."""
    os.close(os.open(database, os.O_RDWR | os.O_CREAT, 0o600))
    with suppress(PermissionError):
        folder.chmod(0o700)
        for path in (database, *folder.glob("salon.db-*"), *folder.glob("before-restore-*.db")):
            path.chmod(0o600)


def _told(error: OperationalError, database: Path) -> Exception:
    """What SQLite says, as one of our own errors."""
    reason = str(error.orig)
    if "full" in reason or "readonly" in reason or "read-only" in reason:
        return StorageFull(reason)
    if "locked" in reason or "busy" in reason:
        return Busy("the records are held by another program")
    if "open" in reason or "malformed" in reason or "disk I/O" in reason:
        return Unreadable(str(database), reason, RESTORE_FIRST)
    return error
