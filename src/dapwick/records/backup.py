"""Copies of the whole salon: the database and every photo by hash, as one zip or as a folder that grows day by day.

A zip holds `manifest.json` (format, version, when, the SHA-256 of every file, photos that were missing), `salon.db`,
and `photos/<hash>`. A daily copy is the same zip without the photos, which lie beside it under `photos/`, each once
however many days hold it. Neither the passcode nor who was let in by it leaves this machine.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import sqlite3
import tempfile
import zipfile
import zlib
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import IO, Any, Final

from dapwick.core.basics.errors import BadInput, DapwickError, StorageFull
from dapwick.records.photo_files import COMING, checked_hash
from dapwick.records.store import SalonStore

FORMAT: Final = "dapwick-salon"
VERSION: Final = 1
MANIFEST, DATABASE, PHOTOS = "manifest.json", "salon.db", "photos"
CHUNK: Final = 1 << 20
FAST: Final = 1
"""Level of compression: records shrink to a fraction at any, and a large salon is not to wait for the last tenth."""
LARGEST_DATABASE: Final = 8 << 30
LARGEST_PHOTO: Final = 64 << 20
LARGEST_MANIFEST: Final = 64 << 20
MOST_FILES: Final = 500_000
OURS: Final = ("passcode",)
"""Settings that are this machine's own secrets."""
Step = Callable[[str, float], None]
"""Told what is being done and the share done; it may raise to stop."""


@dataclass(frozen=True)
class Manifest:
    """made: when, ISO; files: SHA-256 by name; photos_beside: the photos lie beside the zip, not in it; missing:
    hashes of photos that the records name and that were not there."""

    made: str
    files: dict[str, str]
    photos_beside: bool
    missing: tuple[str, ...] = ()

    @property
    def digests(self) -> list[str]:
        return [name.removeprefix(f"{PHOTOS}/") for name in self.files if name.startswith(f"{PHOTOS}/")]


def write_backup(store: SalonStore, to: Path, step: Step, photos_beside: bool = False) -> Manifest:
    """The salon as it is at one moment, whole or not at all: written beside, read back and compared with its hashes,
    then renamed to `to`. A photo whose file is gone or damaged does not hold up the rest; the manifest names it."""
    to.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=to.parent, prefix=COMING) as folder:
        copy, coming = Path(folder) / DATABASE, Path(folder) / to.name
        step("copying the records", 0.0)
        copy_database(store.database, copy)
        _without_secrets(copy)
        digests = photo_hashes(copy)
        try:
            manifest = _write_zip(store, coming, copy, digests, step, photos_beside, to.parent / PHOTOS)
            check_backup(coming, step, to.parent / PHOTOS if photos_beside else None)
            _synced(coming)
            os.replace(coming, to)
        except OSError as error:
            if isinstance(error, DapwickError):
                raise
            raise StorageFull(error.strerror or str(error)) from error
    return manifest


def _without_secrets(copy: Path) -> None:
    with closing(sqlite3.connect(copy)) as connection, connection:
        connection.execute("DELETE FROM session")
        connection.executemany("DELETE FROM setting WHERE key = ?", [(key,) for key in OURS])


def _write_zip(
    store: SalonStore,
    to: Path,
    copy: Path,
    digests: list[str],
    step: Step,
    photos_beside: bool,
    beside: Path,
) -> Manifest:
    files, missing = {DATABASE: sha256_of(copy)}, []
    with zipfile.ZipFile(to, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        archive.write(copy, DATABASE, zipfile.ZIP_DEFLATED, compresslevel=FAST)
        for i, digest in enumerate(digests):
            step(f"photo {i + 1} of {len(digests)}", 0.05 + 0.55 * i / max(len(digests), 1))
            if not _is_whole(store.photo_path(digest), digest):
                missing.append(digest)
                continue
            if photos_beside:
                _put_beside(store.photo_path(digest), beside / digest)
            else:
                archive.write(store.photo_path(digest), f"{PHOTOS}/{digest}")
            files[f"{PHOTOS}/{digest}"] = digest
        made = datetime.now().astimezone().isoformat(timespec="seconds")
        manifest = Manifest(made, files, photos_beside, tuple(missing))
        archive.writestr(
            MANIFEST, json.dumps({"format": FORMAT, "version": VERSION} | vars(manifest), indent=1)
        )
    return manifest


def _is_whole(path: Path, digest: str) -> bool:
    try:
        return sha256_of(path) == digest
    except OSError:
        return False


def check_backup(path: Path, step: Step, beside: Path | None = None) -> Manifest:
    """Read a backup from end to end and compare every file with its hash. Raises BadInput for what is no backup, is
    cut off or was changed."""
    with opened(path) as (archive, manifest):
        folder = beside or path.parent / PHOTOS
        for i, (name, digest) in enumerate(manifest.files.items()):
            step(f"checking {i + 1} of {len(manifest.files)}", 0.6 + 0.35 * i / len(manifest.files))
            if name.startswith(f"{PHOTOS}/") and manifest.photos_beside:
                found = sha256_of(folder / digest) if (folder / digest).is_file() else "nothing"
            else:
                found = _hash_in(archive, name)
            if found != digest:
                raise BadInput(
                    "a file in it is damaged",
                    expected=digest[:12],
                    got=found[:12],
                    where=f"{path.name}: {name[:80]}",
                )
        return manifest


@contextmanager
def opened(path: Path) -> Iterator[tuple[zipfile.ZipFile, Manifest]]:
    """A backup with its manifest; nothing of it is trusted yet but that its names are names of ours."""
    try:
        with zipfile.ZipFile(path) as archive:
            yield archive, _manifest(archive, path.name)
    except BadInput:
        raise
    except (zipfile.BadZipFile, LookupError, ValueError, TypeError, AttributeError, EOFError, RuntimeError,
            zlib.error, OverflowError, RecursionError) as error:  # fmt: skip
        # Everything a damaged, encrypted or made-up zip can make its reader say.
        raise BadInput(
            "cannot read it", expected="a salon's backup", got=str(error)[:80] or "not a zip", where=path.name
        ) from error
    except OSError as error:
        raise BadInput(
            "cannot open it", expected="a salon's backup", got=error.strerror or str(error), where=path.name
        ) from error


def _manifest(archive: zipfile.ZipFile, name: str) -> Manifest:
    if len(archive.namelist()) > MOST_FILES or archive.getinfo(MANIFEST).file_size > LARGEST_MANIFEST:
        raise BadInput("too much in it", expected=f"at most {MOST_FILES} files", got="more", where=name)
    manifest = json.loads(archive.read(MANIFEST))
    if manifest.get("format") != FORMAT or manifest.get("version") != VERSION:
        raise BadInput(
            "not a salon's backup", expected=f"{FORMAT}, version {VERSION}",
            got=f"{str(manifest.get('format'))[:40]}, version {str(manifest.get('version'))[:20]}", where=name,
        )  # fmt: skip
    files, missing = dict(manifest["files"]), tuple(manifest.get("missing", ()))
    for file, digest in files.items():
        checked_hash(digest)
        if file != DATABASE and file != f"{PHOTOS}/{digest}":
            raise BadInput(
                "a strange file in it", expected=f"{DATABASE} and {PHOTOS}/…", got=file[:60], where=name
            )
    for digest in missing:
        checked_hash(digest)
    if DATABASE not in files:
        raise BadInput("no records in it", expected=DATABASE, got="none", where=name)
    return Manifest(str(manifest["made"])[:40], files, bool(manifest["photos_beside"]), missing)


def copy_database(source: Path, to: Path) -> None:
    """The database as it is at one moment, whoever else is writing."""
    try:
        with closing(sqlite3.connect(source)) as here, closing(sqlite3.connect(to)) as there:
            here.backup(there)
    except sqlite3.OperationalError as error:
        raise StorageFull(str(error)) from error


def photo_hashes(database: Path) -> list[str]:
    """Photos that a database names, removed ones too; hashes only, whatever else stands there."""
    with closing(sqlite3.connect(database)) as connection:
        rows = connection.execute("SELECT DISTINCT content_hash FROM photo ORDER BY 1").fetchall()
    return [checked_hash(row[0]) for row in rows]


def sha256_of(path: Path) -> str:
    with path.open("rb") as file:
        return _hash_of(file)


def _hash_of(file: IO[bytes]) -> str:
    found = hashlib.sha256()
    while chunk := file.read(CHUNK):
        found.update(chunk)
    return found.hexdigest()


def _hash_in(archive: zipfile.ZipFile, name: str) -> str:
    """Hash of one file of a zip, read in pieces and no further than it may be large."""
    most = LARGEST_DATABASE if name == DATABASE else LARGEST_PHOTO
    found, taken = hashlib.sha256(), 0
    with archive.open(name) as file:
        while chunk := file.read(CHUNK):
            found.update(chunk)
            taken += len(chunk)
            if taken > most:
                raise BadInput(
                    "a file in it is too large", expected=f"at most {most} bytes", got="more", where=name
                )
    return found.hexdigest()


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
