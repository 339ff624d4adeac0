"""Who has a salon's folder open: one server at a time, told by name."""

from __future__ import annotations

import fcntl
import os
from pathlib import Path
from types import TracebackType
from typing import Final

from dapwick.core.basics.errors import SalonInUse

LOCK: Final = ".lock"
LONGEST_WORDS: Final = 200


class SalonLock:
    """Held from before anything of the folder is touched until the work is over; the system lets it go when the
    process ends, however it ends."""

    def __init__(self, folder: Path, who: str) -> None:
        """who: for whoever comes second, as `the server at http://127.0.0.1:8350`. Raises SalonInUse."""
        folder.mkdir(parents=True, exist_ok=True)
        self._file = os.open(folder / LOCK, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            holder = os.pread(self._file, LONGEST_WORDS, 0).decode(errors="replace").strip()
            os.close(self._file)
            raise SalonInUse(str(folder), holder or "another program") from error
        words = f"{who}, process {os.getpid()}".encode()[:LONGEST_WORDS]
        os.ftruncate(self._file, 0)
        os.pwrite(self._file, words, 0)

    def release(self) -> None:
        if self._file >= 0:
            os.close(self._file)
            self._file = -1

    def __enter__(self) -> SalonLock:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.release()
