"""Files that only pass through: uploads and downloads, on the salon's own disk; what a stop leaves is swept."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import IO

from dapwick.records.photo_files import COMING
from dapwick.records.store import SalonStore


def kept_for_now(store: SalonStore, source: IO[bytes]) -> Path:
    """An upload as a file; `let_go` when done with it."""
    return written_for_now(store, lambda out: shutil.copyfileobj(source, out))


def written_for_now(store: SalonStore, write: Callable[[IO[bytes]], None]) -> Path:
    """A file written by `write`; `let_go` when done with it. Nothing is left where writing fails."""
    handle, name = tempfile.mkstemp(dir=store.folder, prefix=COMING)
    path = Path(name)
    try:
        with os.fdopen(handle, "w+b") as out:
            write(out)
    except BaseException:
        let_go(path)
        raise
    return path


def let_go(path: Path) -> None:
    path.unlink(missing_ok=True)
