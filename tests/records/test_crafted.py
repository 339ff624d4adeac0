"""Whatever is handed in as a backup or a bundle is refused with a sentence or wholly in; after a refusal the salon is
what it was, byte for byte."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest

from crafted import BAD_DOGS, BAD_RECORDS, bad_backups, bad_bundles
from crafted_archives import bytes_of, quiet
from dapwick.core.basics.errors import BadInput
from dapwick.records.backup import write_backup
from dapwick.records.lock import SalonLock
from dapwick.records.restore import restore_into
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs import trash
from dapwick.service.dogs.bundles import bundle_of, take_in
from dapwick.service.photos.taking_in import remove_photo
from dapwick.service.salon import backups
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.salon.proving import look_over


@pytest.fixture(scope="module")
def salon(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    store = SalonStore(tmp_path_factory.mktemp("crafted") / "salon")
    fill_with_demo(store, ("fogbell", "bobbin"))
    yield store
    store.close()


@pytest.fixture(scope="module")
def good_backup(salon: SalonStore, tmp_path_factory: pytest.TempPathFactory) -> bytes:
    path = tmp_path_factory.mktemp("good") / "all.zip"
    write_backup(salon, path, quiet)
    return path.read_bytes()


@pytest.fixture(scope="module")
def good_bundle(salon: SalonStore) -> bytes:
    """A dog that is not in the salon any more."""
    added = dogs.add_dog(salon, "Anchor", "curl")
    data = bundle_of(salon, 1)
    trash.remove_dog(salon, added.id)
    return data


def test_thirty_crafted_backups_change_nothing(salon: SalonStore, good_backup: bytes, tmp_path: Path) -> None:
    made = dict(bad_backups(good_backup))
    assert len(made) >= 30 < len(BAD_RECORDS)
    before = bytes_of(salon.folder)
    for name, data in made.items():
        path = tmp_path / "given.zip"
        path.write_bytes(data)
        with pytest.raises(BadInput) as told:
            raise AssertionError(f"taken in: {name}: {backups.restore(salon, path, quiet)}")
        assert "\n" not in str(told.value), name
        assert str(salon.folder) not in str(told.value), name
        assert bytes_of(salon.folder) == before, name
    assert [d.name for d in dogs.find_dogs(salon)] == ["Bobbin", "Fogbell"]


def test_fifty_crafted_bundles_change_nothing(salon: SalonStore, good_bundle: bytes, tmp_path: Path) -> None:
    other = SalonStore(tmp_path / "other")
    made = dict(bad_bundles(good_bundle))
    assert len(made) >= 50 > len(BAD_DOGS)
    before = bytes_of(other.folder)
    for name, data in made.items():
        with pytest.raises(BadInput) as told:
            raise AssertionError(f"taken in: {name}: {take_in(other, data, 'given.zip').name}")
        assert "\n" not in str(told.value), name
        assert bytes_of(other.folder) == before, name
    assert dogs.find_dogs(other) == []
    assert take_in(other, good_bundle, "given.zip").name == "Fogbell"
    other.close()


def test_the_good_one_goes_in_whole(salon: SalonStore, good_backup: bytes, tmp_path: Path) -> None:
    path = tmp_path / "all.zip"
    path.write_bytes(good_backup)
    other = SalonStore(tmp_path / "other")
    told = backups.restore(other, path, quiet)
    assert told["missing"] == []
    assert [d.name for d in dogs.find_dogs(other)] == ["Bobbin", "Fogbell"]
    other.close()


def test_a_salon_that_does_not_open_is_put_back(good_backup: bytes, tmp_path: Path) -> None:
    path, folder = tmp_path / "all.zip", tmp_path / "torn"
    path.write_bytes(good_backup)
    folder.mkdir()
    (folder / "salon.db").write_bytes(b"torn" * 500)
    with SalonLock(folder, "a restore"):
        done = restore_into(folder, path, quiet, look_over)
    assert done.before is not None
    assert done.before.read_bytes() == b"torn" * 500
    store = SalonStore(folder)
    assert [d.name for d in dogs.find_dogs(store)] == ["Bobbin", "Fogbell"]
    store.close()


def test_a_refused_backup_leaves_a_torn_salon_as_it_was(good_backup: bytes, tmp_path: Path) -> None:
    path, folder = tmp_path / "all.zip", tmp_path / "torn"
    path.write_bytes(good_backup[:-400])
    folder.mkdir()
    (folder / "salon.db").write_bytes(b"torn" * 500)
    with pytest.raises(BadInput):
        restore_into(folder, path, quiet, look_over)
    assert (folder / "salon.db").read_bytes() == b"torn" * 500
    assert not list(folder.glob("before-*"))


def test_a_missing_photo_stops_no_backup_and_is_told(
    salon: SalonStore, good_backup: bytes, tmp_path: Path
) -> None:
    shutil.copytree(salon.folder, tmp_path / "copy")
    store = SalonStore(tmp_path / "copy")
    gone = dogs.one_dog(store, 1).photos[0]
    store.photo_path(gone.picture).unlink()
    made = backups.back_up(store, quiet)
    assert made["missing"] == [f"Fogbell, {dogs.one_dog(store, 1).visits[-1].day}: {gone.file_name}"]
    assert made["photos"] >= 3
    assert backups.missing_now(store) == made["missing"]
    assert backups.back_up_daily(store)
    other = SalonStore(tmp_path / "other")
    told = backups.restore(other, next((store.folder / "backups").glob("*.zip")), quiet)
    assert told["missing"] == made["missing"]
    other.close()
    (tmp_path / "all.zip").write_bytes(good_backup)
    # A backup that has it brings it back.
    backups.restore(store, tmp_path / "all.zip", quiet)
    assert backups.missing_now(store) == []
    store.photo_path(gone.picture).unlink()
    backups.back_up(store, quiet)
    assert backups.missing_now(store) == made["missing"]
    remove_photo(store, gone.id)
    assert backups.missing_now(store) == []
    store.close()


def test_ids_given_out_since_a_backup_do_not_come_again_after_it(
    salon: SalonStore, good_backup: bytes, tmp_path: Path
) -> None:
    """A tablet that sleeps with the note of a dog which a restore took away never writes it to another."""
    shutil.copytree(salon.folder, tmp_path / "copy")
    (tmp_path / "all.zip").write_bytes(good_backup)
    store = SalonStore(tmp_path / "copy")
    newcomer = dogs.add_dog(store, "Newcomer", "curl")
    backups.restore(store, tmp_path / "all.zip", quiet)
    another = dogs.add_dog(store, "Another", "curl")
    assert another.id > newcomer.id
    assert another.versions["next_note"] != newcomer.versions["next_note"]
    store.close()


def test_an_unreadable_file_beside_the_records_never_keeps_the_salon_from_opening(
    salon: SalonStore, tmp_path: Path
) -> None:
    from dapwick.service.photos.taking_in import sweep_orphans

    shutil.copytree(salon.folder, tmp_path / "copy")
    store = SalonStore(tmp_path / "copy")
    (store.folder / "before-restore-20260101-000000-000000.db").write_bytes(b"no database")
    orphan = store.keep_photo(b"nobody's")
    assert sweep_orphans(store, young_s=0) == []
    assert store.photo_path(orphan).exists()
    with pytest.raises(BadInput):
        backups.undo_restore(store)
    store.close()


def test_the_sweep_spares_what_is_young(salon: SalonStore, tmp_path: Path) -> None:
    from dapwick.service.photos.taking_in import sweep_orphans

    shutil.copytree(salon.folder, tmp_path / "copy")
    store = SalonStore(tmp_path / "copy")
    young = store.keep_photo(b"just written, not named yet")
    assert sweep_orphans(store) == []
    assert sweep_orphans(store, young_s=0) == [young]
    store.close()
