"""The whole salon out and back: exact, checked by hash, never half; a restore can be taken back."""

from __future__ import annotations

import sqlite3
import threading
import zipfile
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.records import queries
from dapwick.records.backup import check_backup, opened, sha256_of, write_backup
from dapwick.records.restore import restore_backup as put_back
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs import trash
from dapwick.service.jobs import Stopped
from dapwick.service.photos.taking_in import sweep_orphans
from dapwick.service.salon import backup_setting as backups_setting
from dapwick.service.salon import backups
from dapwick.service.salon.backup_setting import folder_of
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.salon.proving import look_over


def restore_backup(store: SalonStore, path: Path, step) -> None:  # type: ignore[no-untyped-def]
    put_back(store, path, step, look_over)


def quiet(words: str, share: float) -> None:
    return None


@pytest.fixture
def full(tmp_path: Path) -> Iterator[SalonStore]:
    store = SalonStore(tmp_path / "salon")
    fill_with_demo(store, ("fogbell", "bobbin"))
    yield store
    store.close()


def rows(database: Path) -> dict[str, list[tuple[object, ...]]]:
    """Everything in a database, table by table."""
    with closing(sqlite3.connect(database)) as connection:
        tables = [
            r[0] for r in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY 1")
        ]
        return {t: connection.execute(f"SELECT * FROM {t} ORDER BY 1").fetchall() for t in tables}


def names(store: SalonStore) -> list[str]:
    return [d.name for d in dogs.find_dogs(store)]


def test_out_and_into_an_empty_machine_it_is_the_same_salon(full: SalonStore, tmp_path: Path) -> None:
    manifest = write_backup(full, tmp_path / "all.zip", quiet)
    other = SalonStore(tmp_path / "other")
    restore_backup(other, tmp_path / "all.zip", quiet)
    assert rows(other.database) == rows(full.database)
    for digest in manifest.digests:
        assert other.photo_path(digest).read_bytes() == full.photo_path(digest).read_bytes()
    assert dogs.one_dog(other, 1) == dogs.one_dog(full, 1)
    other.close()


def test_a_restore_into_a_running_salon_is_taken_back_and_done_again(
    full: SalonStore, tmp_path: Path
) -> None:
    write_backup(full, tmp_path / "all.zip", quiet)
    dogs.add_dog(full, "Newcomer", "curl")
    dogs.set_next_note(full, 1, "written since")
    backups.restore(full, tmp_path / "all.zip", quiet)
    assert names(full) == ["Bobbin", "Fogbell"]
    backups.undo_restore(full)
    assert names(full) == ["Bobbin", "Fogbell", "Newcomer"]
    assert dogs.one_dog(full, 1).next_note == "written since"
    backups.undo_restore(full)
    assert names(full) == ["Bobbin", "Fogbell"]


def test_photos_of_records_that_a_restore_replaced_are_not_swept(full: SalonStore, tmp_path: Path) -> None:
    empty = SalonStore(tmp_path / "empty")
    write_backup(empty, tmp_path / "empty.zip", quiet)
    empty.close()
    backups.restore(full, tmp_path / "empty.zip", quiet)
    assert names(full) == []
    sweep_orphans(full, young_s=0)
    backups.undo_restore(full)
    assert len(dogs.one_dog(full, 1).photos) == 2
    assert sweep_orphans(full, young_s=0) == []


def test_a_purged_dog_is_still_in_the_backup(full: SalonStore, tmp_path: Path) -> None:
    write_backup(full, tmp_path / "all.zip", quiet)
    trash.remove_dog(full, 1)
    trash.purge_dog(full, 1, "Fogbell")
    backups.restore(full, tmp_path / "all.zip", quiet)
    card = dogs.one_dog(full, 1)
    assert (card.name, len(card.photos)) == ("Fogbell", 2)


def damage(path: Path, at: int) -> None:
    data = bytearray(path.read_bytes())
    data[at] ^= 0xFF
    path.write_bytes(bytes(data))


@pytest.mark.parametrize("share", [0.02, 0.3, 0.6, 0.9])
def test_one_changed_byte_anywhere_is_found_before_anything_changes(
    full: SalonStore, tmp_path: Path, share: float
) -> None:
    path = tmp_path / "all.zip"
    write_backup(full, path, quiet)
    damage(path, int(share * path.stat().st_size))
    before = rows(full.database)
    with pytest.raises(BadInput):
        restore_backup(full, path, quiet)
    assert rows(full.database) == before
    assert full.kept_before() == []


def test_what_is_cut_off_or_something_else_is_told(full: SalonStore, tmp_path: Path) -> None:
    path = tmp_path / "all.zip"
    write_backup(full, path, quiet)
    path.write_bytes(path.read_bytes()[:-2000])
    with pytest.raises(BadInput, match="a salon's backup"):
        check_backup(path, quiet)
    with zipfile.ZipFile(tmp_path / "other.zip", "w") as archive:
        archive.writestr("manifest.json", '{"format": "something", "version": 1}')
    with pytest.raises(BadInput, match="dapwick-salon"):
        check_backup(tmp_path / "other.zip", quiet)
    with pytest.raises(BadInput, match="cannot open it"):
        check_backup(tmp_path / "nowhere.zip", quiet)


def test_stopped_in_the_middle_it_leaves_no_half_backup(full: SalonStore, tmp_path: Path) -> None:
    def stop(words: str, share: float) -> None:
        if share > 0.3:
            raise Stopped

    with pytest.raises(Stopped):
        write_backup(full, tmp_path / "out" / "all.zip", stop)
    assert list((tmp_path / "out").iterdir()) == []


def test_written_while_others_write_it_is_one_moment(full: SalonStore, tmp_path: Path) -> None:
    """A note and a wish always change together; no backup may hold one without the other."""
    over, begun = threading.Event(), threading.Event()

    def write() -> None:
        n = 0
        while not over.is_set():
            n += 1
            with full.session() as session:
                visit = queries.visit_today(session, 1)
                visit.next_note, visit.owner_words = str(n), str(n)
            begun.set()

    hand = threading.Thread(target=write)
    hand.start()
    assert begun.wait(10)
    try:
        for i in range(4):
            write_backup(full, tmp_path / f"{i}.zip", quiet)
    finally:
        over.set()
        hand.join()
    for i in range(4):
        with opened(tmp_path / f"{i}.zip") as (archive, _):
            archive.extract("salon.db", tmp_path / str(i))
        [(note, words)] = (
            sqlite3.connect(tmp_path / str(i) / "salon.db")
            .execute("SELECT next_note, owner_words FROM visit WHERE dog_id = 1")
            .fetchall()
        )
        assert note == words


def test_the_daily_copy_is_made_once_and_holds_each_photo_once(full: SalonStore) -> None:
    assert backups.back_up_daily(full)
    assert not backups.back_up_daily(full)
    folder = folder_of(full) / "daily"
    [made] = folder.glob("*.zip")
    assert made.stat().st_size < 100_000
    photos = sorted(p.name for p in (folder / "photos").iterdir())
    assert all(sha256_of(folder / "photos" / name) == name for name in photos)
    assert len(photos) == 4
    dogs.set_next_note(full, 1, "since")
    [listed] = backups.backups(full)
    backups.restore(full, backups.backup_path(full, listed["name"]), quiet)
    assert dogs.one_dog(full, 1).next_note == ""


def test_the_daily_copy_is_off_elsewhere_or_told_why_it_failed(full: SalonStore, tmp_path: Path) -> None:
    backups_setting.set_backup(full, False, "")
    assert not backups.back_up_daily(full)
    backups_setting.set_backup(full, True, str(tmp_path / "disk"))
    (tmp_path / "disk" / "daily").write_text("in the way")
    assert not backups.back_up_daily(full)
    assert backups_setting.setting_of(full).trouble
    (tmp_path / "disk" / "daily").unlink()
    assert backups.back_up_daily(full)
    assert backups_setting.setting_of(full).trouble == ""


@pytest.mark.parametrize("name", ["../salon.db", "/etc/passwd", "nowhere.zip", "", "a\0b.zip"])
def test_only_what_lies_in_the_folder_is_put_back(full: SalonStore, name: str) -> None:
    with pytest.raises(BadInput, match="one of the list"):
        backups.backup_path(full, name)


def test_a_folder_that_cannot_be_written_is_refused(full: SalonStore) -> None:
    with pytest.raises(BadInput, match="whole path"):
        backups_setting.set_backup(full, True, "somewhere")
    with pytest.raises(BadInput, match="can be written"):
        backups_setting.set_backup(full, True, "/proc/nowhere")
