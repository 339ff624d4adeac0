"""Backups of the whole salon: on request, day by day, and put back."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable
from dataclasses import asdict, dataclass
from datetime import date, datetime
from pathlib import Path
from typing import Any, Final

from dapwick.core.errors import BadInput, DapwickError
from dapwick.records.backup import (
    PHOTOS,
    Step,
    before_restore,
    copy_database,
    manifest_of,
    restore_backup,
    write_backup,
)
from dapwick.records.store import SalonStore, sweep_coming
from dapwick.service.settings import keep_setting, kept_setting

KEY: Final = "backup"
DAILY: Final = "daily"
DAYS_KEPT: Final = 30
EVERY_S: Final = 900.0


@dataclass(frozen=True)
class BackupSetting:
    """daily: whether a copy is made each day; folder: where, "" beside the salon's own records; last: the day of the
    latest, trouble: why the latest try failed."""

    daily: bool = True
    folder: str = ""
    last: str | None = None
    trouble: str = ""


def setting_of(store: SalonStore) -> BackupSetting:
    return BackupSetting(**kept_setting(store, KEY, {}))


def set_backup(store: SalonStore, daily: bool, folder: str) -> BackupSetting:
    """Where and whether; a folder that cannot be written is refused."""
    if folder.strip():
        _writable(folder.strip())
    now = setting_of(store)
    changed = BackupSetting(daily, folder.strip(), now.last if folder.strip() == now.folder else None)
    keep_setting(store, KEY, asdict(changed))
    return changed


def folder_of(store: SalonStore) -> Path:
    chosen = setting_of(store).folder
    return Path(chosen) if chosen else store.folder / "backups"


def back_up(store: SalonStore, step: Step) -> dict[str, Any]:
    """The whole salon as one zip in the backup folder; its name and what it holds."""
    name = f"dapwick-{datetime.now():%Y-%m-%d-%H%M%S}.zip"
    write_backup(store, folder_of(store) / name, step)
    return manifest_of(folder_of(store) / name)


def back_up_daily(store: SalonStore, step: Step = lambda words, share: None) -> bool:
    """The day's copy, once a day: the records whole, each photo once for all days. Says whether it made one."""
    setting, day = setting_of(store), date.today().isoformat()
    if not setting.daily or setting.last == day:
        return False
    folder = folder_of(store) / DAILY
    try:
        write_backup(store, folder / f"dapwick-{day}.zip", step, photos_beside=True)
        for old in sorted(folder.glob("dapwick-*.zip"))[:-DAYS_KEPT]:
            old.unlink()
    except (DapwickError, OSError) as error:
        keep_setting(store, KEY, asdict(setting_of(store)) | {"trouble": str(error)})
        return False
    keep_setting(store, KEY, asdict(setting_of(store)) | {"last": day, "trouble": ""})
    return True


def backups(store: SalonStore) -> list[dict[str, Any]]:
    """Those in the folder, the latest first; what cannot be read is told with its reason."""
    folder = folder_of(store)
    found = []
    for path in [*folder.glob("*.zip"), *(folder / DAILY).glob("*.zip")]:
        name = path.relative_to(folder).as_posix()
        try:
            found.append(manifest_of(path) | {"name": name, "trouble": ""})
        except DapwickError as error:
            found.append(
                {
                    "name": name,
                    "made": "",
                    "photos": 0,
                    "whole": False,
                    "bytes": path.stat().st_size,
                    "trouble": str(error),
                }
            )
    return sorted(found, key=lambda one: (one["made"], one["name"]), reverse=True)


def backup_path(store: SalonStore, name: str) -> Path:
    """A backup of the folder by its name, and nothing outside it."""
    folder = folder_of(store).resolve()
    path = folder / "nowhere" if "\0" in name else (folder / name).resolve()
    if not path.is_relative_to(folder) or path.suffix != ".zip" or not path.is_file():
        raise BadInput("no such backup", expected="one of the list", got=name[:60], where="backup")
    return path


def restore(store: SalonStore, path: Path, step: Step) -> dict[str, Any]:
    """Put a backup back; what was there can be had again by `undo_restore`. Settings of this machine (where backups
    go, the passcode) come with the records, as they were."""
    before = restore_backup(store, path, step)
    return {"before": before.name, "made": manifest_of(path)["made"]}


def undo_restore(store: SalonStore) -> str:
    """Records as they were before the last restore; done twice it is taken back. Returns the moment they are of."""
    kept = store.kept_before()
    if not kept:
        raise BadInput("nothing to take back", expected="a restore before", got="none", where="backup")
    now = before_restore(store)
    copy_database(store.database, now)
    store.take_over(kept[0])
    os.remove(kept[0])
    return kept[0].stem.removeprefix("before-restore-")


def sweep_unfinished(store: SalonStore) -> None:
    """Remove what a stop in the middle of a backup left; at the start of a server only."""
    for folder in (folder_of(store), folder_of(store) / DAILY, folder_of(store) / DAILY / PHOTOS):
        sweep_coming(folder)


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


class DailyBackup:
    """Looks now and then whether the day's copy is due."""

    def __init__(self, store: SalonStore, work: Callable[[SalonStore], object] = back_up_daily) -> None:
        self._store, self._work = store, work
        self._over = threading.Event()
        self._hand = threading.Thread(target=self._run, name="daily-backup", daemon=True)

    def start(self) -> None:
        self._hand.start()

    def close(self) -> None:
        self._over.set()
        if self._hand.is_alive():
            self._hand.join()

    def _run(self) -> None:
        while not self._over.wait(EVERY_S if self._tried() else 0):
            pass

    def _tried(self) -> bool:
        self._work(self._store)
        return True
