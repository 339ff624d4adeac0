"""Whether copies are made each day, where they go, and how the latest went."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any, Final

from dapwick.core.basics.errors import BadInput
from dapwick.records.store import SalonStore
from dapwick.service.salon.settings import keep_setting, kept_setting

KEY: Final = "backup"


@dataclass(frozen=True)
class BackupSetting:
    """daily: whether a copy is made each day; folder: where, "" beside the salon's own records; last: the day of the
    latest, trouble: why the latest try failed; missing: how many photos the latest backup could not find."""

    daily: bool = True
    folder: str = ""
    last: str | None = None
    trouble: str = ""
    missing: int = 0


def setting_of(store: SalonStore) -> BackupSetting:
    return BackupSetting(**kept_setting(store, KEY, {}))


def tell_setting(store: SalonStore, **changed: Any) -> BackupSetting:
    """Keep what has changed of it."""
    now = BackupSetting(**(asdict(setting_of(store)) | changed))
    keep_setting(store, KEY, asdict(now))
    return now


def set_backup(store: SalonStore, daily: bool, folder: str) -> BackupSetting:
    """Where and whether; a folder that cannot be written is refused."""
    if folder.strip():
        _writable(folder.strip())
    now = setting_of(store)
    last = now.last if folder.strip() == now.folder else None
    return tell_setting(store, daily=daily, folder=folder.strip(), last=last)


def folder_of(store: SalonStore) -> Path:
    chosen = setting_of(store).folder
    return Path(chosen) if chosen else store.folder / "backups"


def _writable(folder: str) -> None:
    path = Path(folder)
    probe = path / ".dapwick-write-test"
    try:
        if not path.is_absolute():
            raise OSError("not a whole path")
        path.mkdir(parents=True, exist_ok=True)
        probe.write_bytes(b"")
        probe.unlink()
    except (OSError, ValueError) as error:
        raise BadInput(
            "the backup's folder", expected="a whole path to a folder that can be written",
            got=f"{folder[:60]} ({getattr(error, 'strerror', None) or error})", where="backup",
        ) from error  # fmt: skip
