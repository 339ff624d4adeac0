"""One salon's folder: the database and the photo files. The only place that opens either."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, event
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from dapwick.core.errors import NoRoom

COMING = ".coming-"
MIGRATIONS = Path(__file__).parent / "migrations"


class SalonStore:
    """Database and photos under one folder; every `session()` is one transaction."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        (folder / "photos").mkdir(parents=True, exist_ok=True)
        self.engine = create_engine(f"sqlite:///{folder / 'salon.db'}")
        event.listen(self.engine, "connect", _careful)
        _upgrade(self.engine)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """Committed when the block ends well, rolled back when it does not."""
        try:
            with self._sessions.begin() as session:
                yield session
        except OperationalError as error:
            if "full" in str(error.orig) or "readonly" in str(error.orig):
                raise NoRoom(str(error.orig)) from error
            raise

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
        swept = []
        for path in (self.folder / "photos").iterdir():
            if path.name.startswith(COMING) or path.name.split(".")[0] not in used:
                path.unlink(missing_ok=True)
                swept.append(path.name)
        return swept

    def photo_path(self, digest: str) -> Path:
        return self.folder / "photos" / digest

    def screen_path(self, digest: str) -> Path:
        return self.folder / "photos" / f"{digest}.screen.jpg"

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


def _careful(connection: Any, _record: Any) -> None:
    cursor = connection.cursor()
    for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL", "busy_timeout=5000"):
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _upgrade(engine: Any) -> None:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
