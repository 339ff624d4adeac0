"""Backups of the whole salon: on request, day by day, and put back."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import date, datetime
from pathlib import Path
from typing import Any, Final

from dapwick.core.basics.errors import BadInput, DapwickError
from dapwick.records import queries
from dapwick.records.backup import PHOTOS, Manifest, Step, manifest_of, write_backup
from dapwick.records.photo_files import sweep_coming
from dapwick.records.restore import restore_backup
from dapwick.records.restore import undo_restore as undone
from dapwick.records.store import SalonStore
from dapwick.service.salon.backup_setting import folder_of, setting_of, tell_setting
from dapwick.service.salon.proving import look_over

DAILY: Final = "daily"
DAYS_KEPT: Final = 30
EVERY_S: Final = 900.0


def back_up(store: SalonStore, step: Step) -> dict[str, Any]:
    """The whole salon as one zip in the backup folder; its name and what it holds, what is missing too."""
    name = f"dapwick-{datetime.now():%Y-%m-%d-%H%M%S}.zip"
    manifest = write_backup(store, folder_of(store) / name, step)
    tell_setting(store, missing=len(manifest.missing))
    return manifest_of(folder_of(store) / name) | {"missing": missing_words(store, manifest)}


def back_up_daily(store: SalonStore, step: Step = lambda words, share: None) -> bool:
    """The day's copy, once a day: the records whole, each photo once for all days. Says whether it made one."""
    setting, day = setting_of(store), date.today().isoformat()
    if not setting.daily or setting.last == day:
        return False
    folder = folder_of(store) / DAILY
    try:
        manifest = write_backup(store, folder / f"dapwick-{day}.zip", step, photos_beside=True)
        for old in sorted(folder.glob("dapwick-*.zip"))[:-DAYS_KEPT]:
            old.unlink()
    except (DapwickError, OSError) as error:
        tell_setting(store, trouble=str(error))
        return False
    tell_setting(store, last=day, trouble="", missing=len(manifest.missing))
    return True


def missing_words(store: SalonStore, manifest: Manifest) -> list[str]:
    """Photos that a backup could not find, as a stylist knows them."""
    with store.reading() as session:
        return [
            f"{row.visit.dog.name}, {row.visit.created:%Y-%m-%d}: {row.file_name}"
            for row in queries.photos_named(session, manifest.missing)
        ]


def missing_now(store: SalonStore) -> list[str]:
    """Photos on record whose file is gone, while the latest backup missed any; told until they are found or removed."""
    if not setting_of(store).missing:
        return []
    with store.reading() as session:
        gone = [digest for digest in sorted(queries.shown_files(session)) if not store.photo_size(digest)]
    if not gone:
        tell_setting(store, missing=0)
    return missing_words(store, Manifest("", {}, False, tuple(gone)))


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
    """Put a backup back; what was there can be had again by `undo_restore`. Where backups go, the passcode and who
    was let in by it stay as they are on this machine."""
    done = restore_backup(store, path, step, look_over)
    manifest = Manifest("", {}, False, done.missing)
    return {
        "before": done.before.name if done.before else "",
        "made": manifest_of(path)["made"],
        "missing": missing_words(store, manifest),
    }


def undo_restore(store: SalonStore) -> str:
    """Records as they were before the last restore; done twice it is taken back. Returns the moment they are of."""
    return undone(store, look_over)


def sweep_unfinished(store: SalonStore) -> None:
    """Remove what a stop in the middle of a backup left; at the start of a server only."""
    for folder in (folder_of(store), folder_of(store) / DAILY, folder_of(store) / DAILY / PHOTOS):
        sweep_coming(folder)


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
        try:
            self._work(self._store)
        except DapwickError:
            # Records that are moved away or held by another program: it is due again at the next look.
            return True
        return True
