"""A salon's photo files, each under the SHA-256 of its bytes; the one place that makes a path of a hash."""

from __future__ import annotations

import hashlib
import os
import re
import shutil
import tempfile
import time
from collections.abc import Set
from pathlib import Path
from typing import Final

from dapwick.core.basics.errors import BadInput, NotFound, StorageFull

COMING: Final = ".coming-"
HASH: Final = re.compile(r"[0-9a-f]{64}")
YOUNG_S: Final = 3600.0
"""A file younger than this may belong to a change that is not on record yet: a sweep leaves it."""


def checked_hash(digest: object) -> str:
    """A content hash, and nothing else that could become a path."""
    if not isinstance(digest, str) or not HASH.fullmatch(digest):
        raise BadInput("no content hash", expected="64 hex digits", got=repr(digest)[:60], where="photo")
    return digest


class PhotoFiles:
    """Originals and their screen copies in `photos/` of one folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def photo_path(self, digest: str) -> Path:
        return self.folder / "photos" / checked_hash(digest)

    def screen_path(self, digest: str) -> Path:
        return self.folder / "photos" / f"{checked_hash(digest)}.screen.jpg"

    def keep_photo(self, data: bytes) -> str:
        """Store a photo file under its SHA-256, whole or not at all; returns the hash."""
        digest = hashlib.sha256(data).hexdigest()
        self._write(self.photo_path(digest), data)
        return digest

    def keep_screen_copy(self, digest: str, jpeg: bytes) -> None:
        self._write(self.screen_path(digest), jpeg)

    def photo_bytes(self, digest: str) -> bytes:
        """An original, byte for byte."""
        try:
            return self.photo_path(digest).read_bytes()
        except FileNotFoundError as error:
            raise NotFound("photo file", f"{digest[:12]}…") from error

    def photo_size(self, digest: str) -> int:
        """Bytes of an original; nothing where it is gone."""
        path = self.photo_path(digest)
        return path.stat().st_size if path.exists() else 0

    def forget_photo(self, digest: str) -> None:
        """Remove a photo's files; only for those that no record names."""
        for path in (self.photo_path(digest), self.screen_path(digest)):
            path.unlink(missing_ok=True)

    def sweep(self, used: Set[str], young_s: float = YOUNG_S) -> list[str]:
        """Remove what a stop in the middle left: half-written files, and photos on no record. Whatever is young is
        spared: somebody may be about to name it."""
        swept = sweep_coming(self.folder, young_s)
        for path in (self.folder / "photos").iterdir():
            unnamed = path.name.startswith(COMING) or path.name.split(".")[0] not in used
            if unnamed and is_old(path, young_s):
                path.unlink(missing_ok=True)
                swept.append(path.name)
        return swept

    def _write(self, path: Path, data: bytes) -> None:
        """Temporary file, synced, renamed: a stop in the middle leaves no half photo."""
        if path.exists():
            # Young again, so that no sweep takes it before it is on record.
            os.utime(path)
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
            raise StorageFull(error.strerror or str(error)) from error
        finally:
            if name:
                Path(name).unlink(missing_ok=True)


def is_old(path: Path, young_s: float) -> bool:
    try:
        return time.time() - path.stat().st_mtime >= young_s
    except FileNotFoundError:
        return False


def sweep_coming(folder: Path, young_s: float = YOUNG_S) -> list[str]:
    """Remove half-written files and folders that a stop in the middle left right in a folder."""
    left = list(folder.glob(f"{COMING}*")) if folder.is_dir() else []
    old = [path for path in left if is_old(path, young_s)]
    for path in old:
        if path.is_dir():
            shutil.rmtree(path, ignore_errors=True)
        else:
            path.unlink(missing_ok=True)
    return [path.name for path in old]
