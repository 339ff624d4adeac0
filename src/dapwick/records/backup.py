"""Copies of the whole salon: the database and every photo by hash, as one zip or as a folder that grows day by day.

A zip holds `manifest.json` (format, version, when, the SHA-256 of every file), `salon.db`, and `photos/<hash>`. A daily
copy is the same zip without the photos, which lie beside it under `photos/`, each once however many days hold it.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import IO, Any, Final

from dapwick.core.errors import BadInput, NoRoom
from dapwick.records.store import COMING, SalonStore

FORMAT: Final = "dapwick-salon"
VERSION: Final = 1
MANIFEST, DATABASE, PHOTOS = "manifest.json", "salon.db", "photos"
CHUNK: Final = 1 << 20
FAST: Final = 1
"""Level of compression: records shrink to a fraction at any, and a large salon is not to wait for the last tenth."""
LARGEST_DATABASE: Final = 8 << 30
Step = Callable[[str, float], None]
"""Told what is being done and the share done; it may raise to stop."""


@dataclass(frozen=True)
class Manifest:
    """made: when, ISO; files: SHA-256 by name; photos_beside: the photos lie beside the zip, not in it."""

    made: str
    files: dict[str, str]
    photos_beside: bool

    @property
    def digests(self) -> list[str]:
        return [name.removeprefix(f"{PHOTOS}/") for name in self.files if name.startswith(f"{PHOTOS}/")]


def write_backup(store: SalonStore, to: Path, step: Step, photos_beside: bool = False) -> Manifest:
    """The salon as it is at one moment, whole or not at all: written beside, read back and compared with its hashes,
    then renamed to `to`."""
    to.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=to.parent, prefix=COMING) as folder:
        copy, coming = Path(folder) / DATABASE, Path(folder) / to.name
        step("copying the records", 0.0)
        copy_database(store.database, copy)
        digests = photo_hashes(copy)
        try:
            manifest = _write_zip(store, coming, copy, digests, step, photos_beside, to.parent / PHOTOS)
            check_backup(coming, step, to.parent / PHOTOS if photos_beside else None)
            _synced(coming)
            os.replace(coming, to)
        except OSError as error:
            raise NoRoom(error.strerror or str(error)) from error
    return manifest


def _write_zip(
    store: SalonStore,
    to: Path,
    copy: Path,
    digests: list[str],
    step: Step,
    photos_beside: bool,
    beside: Path,
) -> Manifest:
    files = {DATABASE: sha256_of(copy)}
    with zipfile.ZipFile(to, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        archive.write(copy, DATABASE, zipfile.ZIP_DEFLATED, compresslevel=FAST)
        for i, digest in enumerate(digests):
            step(f"photo {i + 1} of {len(digests)}", 0.05 + 0.55 * i / max(len(digests), 1))
            if photos_beside:
                _put_beside(store.photo_path(digest), beside / digest)
            else:
                archive.write(store.photo_path(digest), f"{PHOTOS}/{digest}")
            files[f"{PHOTOS}/{digest}"] = digest
        manifest = Manifest(datetime.now().astimezone().isoformat(timespec="seconds"), files, photos_beside)
        archive.writestr(
            MANIFEST, json.dumps({"format": FORMAT, "version": VERSION} | vars(manifest), indent=1)
        )
    return manifest


def check_backup(path: Path, step: Step, beside: Path | None = None) -> Manifest:
    """Read a backup from end to end and compare every file with its hash. Raises BadInput for what is no backup, is
    cut off or was changed."""
    with opened(path) as (archive, manifest):
        folder = beside or path.parent / PHOTOS
        for i, (name, digest) in enumerate(manifest.files.items()):
            step(f"checking {i + 1} of {len(manifest.files)}", 0.6 + 0.35 * i / len(manifest.files))
            if name.startswith(f"{PHOTOS}/") and manifest.photos_beside:
                found = sha256_of(folder / digest) if (folder / digest).exists() else "nothing"
            else:
                found = _hash_in(archive, name)
            if found != digest:
                raise BadInput(
                    "a file in it is damaged",
                    expected=digest[:12],
                    got=found[:12],
                    where=f"{path.name}: {name}",
                )
        return manifest


@contextmanager
def opened(path: Path) -> Iterator[tuple[zipfile.ZipFile, Manifest]]:
    """A backup with its manifest; nothing of it is trusted yet."""
    try:
        with zipfile.ZipFile(path) as archive:
            told = json.loads(archive.read(MANIFEST))
            if told.get("format") != FORMAT or told.get("version") != VERSION:
                raise BadInput(
                    "not a salon's backup", expected=f"{FORMAT}, version {VERSION}",
                    got=f"{told.get('format')}, version {told.get('version')}", where=path.name,
                )  # fmt: skip
            yield archive, Manifest(str(told["made"]), dict(told["files"]), bool(told["photos_beside"]))
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError, EOFError) as error:
        if isinstance(error, BadInput):
            raise
        raise BadInput(
            "cannot read it", expected="a salon's backup", got=str(error)[:80] or "not a zip", where=path.name
        ) from error
    except OSError as error:
        raise BadInput(
            "cannot open it", expected="a salon's backup", got=error.strerror or str(error), where=path.name
        ) from error


def restore_backup(store: SalonStore, path: Path, step: Step) -> Path:
    """Make the salon what it was when the backup was made; returns a copy of the records as they were just before, by
    which it can be undone. Nothing changes before the whole backup was read and found good; the records then change in
    one transaction."""
    manifest = check_backup(path, step)
    step("putting photos back", 0.95)
    with tempfile.TemporaryDirectory(dir=store.folder, prefix=COMING) as folder:
        copy = Path(folder) / DATABASE
        with opened(path) as (archive, _):
            _unpack(archive, DATABASE, copy)
            check_database(copy, path.name)
            for digest in manifest.digests:
                if not store.photo_path(digest).exists():
                    store.keep_photo(_photo(archive, manifest, digest, path.parent / PHOTOS))
        before = before_restore(store)
        copy_database(store.database, before)
        step("putting the records back", 0.98)
        store.take_over(copy)
    return before


def before_restore(store: SalonStore) -> Path:
    """Where the records go that a restore replaces."""
    stamp = datetime.now().strftime("%Y%m%d-%H%M%S-%f")
    return store.folder / f"before-restore-{stamp}.db"


def copy_database(source: Path, to: Path) -> None:
    """The database as it is at one moment, whoever else is writing."""
    try:
        with closing(sqlite3.connect(source)) as here, closing(sqlite3.connect(to)) as there:
            here.backup(there)
    except sqlite3.OperationalError as error:
        raise NoRoom(str(error)) from error


def check_database(path: Path, name: str) -> None:
    try:
        with closing(sqlite3.connect(path)) as connection:
            verdict = connection.execute("PRAGMA integrity_check").fetchone()[0]
            connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.DatabaseError as error:
        raise BadInput(
            "its records cannot be read", expected="a salon's records", got=str(error), where=name
        ) from error
    if verdict != "ok":
        raise BadInput(
            "its records are damaged", expected="records without a fault", got=str(verdict)[:80], where=name
        )


def photo_hashes(database: Path) -> list[str]:
    """Photos that a database names, removed ones too."""
    with closing(sqlite3.connect(database)) as connection:
        return [row[0] for row in connection.execute("SELECT DISTINCT content_hash FROM photo ORDER BY 1")]


def sha256_of(path: Path) -> str:
    with path.open("rb") as file:
        return _hash_of(file)


def _hash_of(file: IO[bytes]) -> str:
    found = hashlib.sha256()
    while chunk := file.read(CHUNK):
        found.update(chunk)
    return found.hexdigest()


def _hash_in(archive: zipfile.ZipFile, name: str) -> str:
    with archive.open(name) as file:
        return _hash_of(file)


def _unpack(archive: zipfile.ZipFile, name: str, to: Path) -> None:
    if archive.getinfo(name).file_size > LARGEST_DATABASE:
        raise BadInput(
            "its records are too large", expected=f"at most {LARGEST_DATABASE} bytes", got="more", where=name
        )
    with archive.open(name) as file, to.open("wb") as out:
        shutil.copyfileobj(file, out, CHUNK)


def _photo(archive: zipfile.ZipFile, manifest: Manifest, digest: str, beside: Path) -> bytes:
    return (beside / digest).read_bytes() if manifest.photos_beside else archive.read(f"{PHOTOS}/{digest}")


def _put_beside(source: Path, to: Path) -> None:
    """Each photo once; written whole or not at all."""
    if to.exists():
        return
    to.parent.mkdir(parents=True, exist_ok=True)
    coming = to.with_name(f"{COMING}{to.name}")
    shutil.copyfile(source, coming)
    _synced(coming)
    os.replace(coming, to)


def _synced(path: Path) -> None:
    with path.open("rb") as file:
        os.fsync(file.fileno())


def manifest_of(path: Path) -> dict[str, Any]:
    """When a backup was made and how many photos it holds; for a list, so nothing else is read."""
    with opened(path) as (_, manifest):
        return {
            "name": path.name,
            "made": manifest.made,
            "photos": len(manifest.digests),
            "bytes": path.stat().st_size,
            "whole": not manifest.photos_beside,
        }
