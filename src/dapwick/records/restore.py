"""Putting a backup back: proven on a copy, taken over in one transaction, or refused with nothing changed."""

from __future__ import annotations

import os
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Final

from dapwick.core.basics.errors import BadInput, DapwickError, Unreadable
from dapwick.records.backup import (
    CHUNK,
    DATABASE,
    LARGEST_DATABASE,
    OURS,
    PHOTOS,
    Manifest,
    Step,
    check_backup,
    copy_database,
    opened,
    photo_hashes,
)
from dapwick.records.photo_files import COMING, PhotoFiles
from dapwick.records.schema import check_records, migrate
from dapwick.records.store import SalonStore

KEPT_HERE: Final = (*OURS, "backup")
"""Settings of this machine that no backup brings along: its passcode, where its backups go."""
Look = Callable[[Path], None]
"""Opens a folder with proven records as the screens would; raises where one of them could not be shown."""


@dataclass(frozen=True)
class Restored:
    """before: copy of the records as they were just before, by which it can be undone; None where there were none
    that could be read. missing: photos that the backup did not have either."""

    before: Path | None
    missing: tuple[str, ...] = ()


def restore_backup(store: SalonStore, path: Path, step: Step, look: Look) -> Restored:
    """Make a running salon what it was when the backup was made. Nothing changes before all of it was proven."""
    with tempfile.TemporaryDirectory(dir=store.folder, prefix=COMING) as folder:
        proven, manifest = _proven(store, path, step, Path(folder), look)
        _as_ours(proven, store.database)
        added = _photos_in(store, path, manifest, step)
        try:
            before = _laid_aside(store.database, Path(folder))
            step("restoring the records", 0.98)
            store.take_over(proven)
        except BaseException:
            for digest in added:
                store.forget_photo(digest)
            raise
    return Restored(before, manifest.missing)


def restore_into(folder: Path, path: Path, step: Step, look: Look) -> Restored:
    """The same for a salon that does not open, or that is not there yet: what lies there is set aside as it is. The
    caller holds the folder's lock."""
    files = PhotoFiles(folder)
    (folder / "photos").mkdir(parents=True, exist_ok=True, mode=0o700)
    database = folder / "salon.db"
    with tempfile.TemporaryDirectory(dir=folder, prefix=COMING) as coming:
        proven, manifest = _proven(files, path, step, Path(coming), look)
        _photos_in(files, path, manifest, step)
        before = _set_aside(database) if database.exists() else None
        os.replace(proven, database)
        database.chmod(0o600)
    return Restored(before, manifest.missing)


def prove(database: Path, files: PhotoFiles, held: Sequence[str] | None, name: str, look: Look) -> None:
    """Know a copy of records for good ones, bring it up to date, and look at every screen of it. held: photos that
    are known to be there, or known to be missing; None where that is not asked."""
    check_records(database, name)
    there = set(held or ())
    for digest in photo_hashes(database):
        if held is not None and digest not in there and not files.photo_path(digest).is_file():
            raise BadInput("a photo is missing", expected=f"photo {digest[:12]}…", got="nothing", where=name)
    try:
        migrate(database)
        with tempfile.TemporaryDirectory(dir=database.parent, prefix=COMING) as folder:
            shutil.copyfile(database, Path(folder) / DATABASE)
            look(Path(folder))
    except (
        DapwickError,
        ValueError,
        LookupError,
        TypeError,
        AttributeError,
        OverflowError,
        sqlite3.Error,
    ) as error:
        raise BadInput(
            "its records cannot be shown", expected="records that every screen can read",
            got=f"{type(error).__name__}: {error}"[:120], where=name,
        ) from error  # fmt: skip


def _proven(files: PhotoFiles, path: Path, step: Step, folder: Path, look: Look) -> tuple[Path, Manifest]:
    """A copy of a backup's records, known for good and up to date."""
    manifest = check_backup(path, step)
    step("checking the records", 0.95)
    copy = folder / DATABASE
    with opened(path) as (archive, _):
        _unpack(archive, DATABASE, copy)
    prove(copy, files, (*manifest.digests, *manifest.missing), path.name, look)
    return copy, manifest


def _photos_in(files: PhotoFiles, path: Path, manifest: Manifest, step: Step) -> list[str]:
    """Photos that are not there yet; all of them or none. Returns those that came."""
    added: list[str] = []
    step("restoring photos", 0.96)
    try:
        with opened(path) as (archive, _):
            for digest in manifest.digests:
                if not files.photo_path(digest).exists():
                    data = _photo(archive, manifest, digest, path.parent / PHOTOS)
                    added.append(digest)
                    if files.keep_photo(data) != digest:
                        raise BadInput(
                            "a photo was changed", expected=digest[:12], got="another", where=path.name
                        )
    except BaseException:
        for digest in added:
            files.forget_photo(digest)
        raise
    return added


def _as_ours(proven: Path, own: Path) -> None:
    """This machine's passcode, tablets and backup folder stay its own, and no id that it has given out comes again."""
    with closing(sqlite3.connect(proven)) as connection:
        connection.execute("ATTACH DATABASE ? AS own", (f"{own}",))
        with connection:
            connection.execute("DELETE FROM session")
            connection.execute("INSERT INTO session SELECT * FROM own.session")
            for key in KEPT_HERE:
                connection.execute("DELETE FROM setting WHERE key = ?", (key,))
                connection.execute("INSERT INTO setting SELECT * FROM own.setting WHERE key = ?", (key,))
            for table, given in connection.execute("SELECT name, seq FROM own.sqlite_sequence").fetchall():
                connection.execute(
                    "UPDATE sqlite_sequence SET seq = max(seq, ?) WHERE name = ?", (given, table)
                )
                connection.execute(
                    "INSERT INTO sqlite_sequence (name, seq) SELECT ?, ? "
                    "WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = ?)",
                    (table, given, table),
                )
        connection.execute("DETACH DATABASE own")


def undo_restore(store: SalonStore, look: Look) -> str:
    """Records as they were before the last restore, proven like any other; done twice it is taken back. Returns the
    moment they are of."""
    kept = store.kept_before()
    if not kept:
        raise BadInput("nothing to undo", expected="a restore before", got="none", where="backup")
    with tempfile.TemporaryDirectory(dir=store.folder, prefix=COMING) as folder:
        copy = Path(folder) / DATABASE
        shutil.copyfile(kept[0], copy)
        # A photo that was gone before is gone still; that is no reason to keep the records away.
        prove(copy, store, None, kept[0].name, look)
        _as_ours(copy, store.database)
        _laid_aside(store.database, Path(folder))
        store.take_over(copy)
    kept[0].unlink()
    return kept[0].stem.removeprefix("before-restore-")


def _laid_aside(database: Path, folder: Path) -> Path:
    """A copy of the records as they are, whole or not there: made in a folder of its own, then given its name."""
    coming, before = folder / "before.db", before_restore(database.parent)
    copy_database(database, coming)
    coming.chmod(0o600)
    with coming.open("rb") as file:
        os.fsync(file.fileno())
    os.replace(coming, before)
    return before


def before_restore(folder: Path) -> Path:
    """Where the records go that a restore replaces."""
    stamp = datetime.now().strftime("%Y%m%d-%H%M%S-%f")
    return folder / f"before-restore-{stamp}.db"


def _set_aside(database: Path) -> Path:
    """Records that do not open, byte for byte, with what belongs to them."""
    aside = before_restore(database.parent).with_suffix(".unread")
    try:
        for end in ("", "-wal", "-shm"):
            part = Path(f"{database}{end}")
            if part.exists():
                os.replace(part, f"{aside}{end}")
    except OSError as error:
        raise Unreadable(
            str(database), error.strerror or str(error), "Give the folder its rights back."
        ) from error
    return aside


def _unpack(archive: zipfile.ZipFile, name: str, to: Path) -> None:
    taken = 0
    with archive.open(name) as file, to.open("wb") as out:
        while chunk := file.read(CHUNK):
            taken += len(chunk)
            if taken > LARGEST_DATABASE:
                raise BadInput(
                    "its records are too large",
                    expected=f"at most {LARGEST_DATABASE} bytes",
                    got="more",
                    where=name,
                )
            out.write(chunk)


def _photo(archive: zipfile.ZipFile, manifest: Manifest, digest: str, beside: Path) -> bytes:
    return (beside / digest).read_bytes() if manifest.photos_beside else archive.read(f"{PHOTOS}/{digest}")
