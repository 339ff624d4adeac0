"""A salon's folder opened: by its one server, or by a command beside it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Final

from dapwick.core.basics.errors import BadInput, Unreadable
from dapwick.records.backup import Manifest, write_backup
from dapwick.records.lock import SalonLock
from dapwick.records.restore import Restored, restore_backup, restore_into
from dapwick.records.schema import is_up_to_date
from dapwick.records.store import SalonStore
from dapwick.service.salon.proving import look_over

Salon = SalonStore
"""What api and command line know of the records: something to hand on."""
DATABASE: Final = "salon.db"


@contextmanager
def served(folder: Path, who: str) -> Iterator[Salon]:
    """A salon that nobody else serves meanwhile; made where there is none. Raises SalonInUse."""
    # Before anything of the folder is touched: one server at a time.
    with SalonLock(folder, who):
        yield SalonStore(folder)


def opened(folder: Path) -> Salon:
    """A salon that is there, running or not; asking for one that is not makes none. One that has to be brought up to
    date first is nobody else's meanwhile. Raises BadInput."""
    if not is_there(folder):
        raise BadInput("no salon there", expected="a salon's folder", got=str(folder), where="--salon")
    if is_up_to_date(folder / DATABASE):
        return SalonStore(folder)
    with SalonLock(folder, "an update of its records"):
        return SalonStore(folder)


def opened_or_new(folder: Path) -> Salon:
    return opened(folder) if is_there(folder) else SalonStore(folder)


def is_there(folder: Path) -> bool:
    return (folder / DATABASE).is_file()


def backed_up(folder: Path, to: Path) -> Manifest:
    """The whole salon as one zip, read back and checked."""
    return write_backup(opened(folder), to, _quietly)


def restored(folder: Path, zip_file: Path) -> Restored:
    """A backup restored, into a salon that does not open too; what was there before is kept beside it."""
    with SalonLock(folder, "`dapwick restore`"):
        try:
            store = SalonStore(folder) if is_there(folder) else None
        except Unreadable:
            store = None
        if store is None:
            return restore_into(folder, zip_file, _quietly, look_over)
        done = restore_backup(store, zip_file, _quietly, look_over)
        store.close()
        return done


def _quietly(_words: str, _share: float) -> None:
    return None
