"""Photos taken in: sorted by what they show, kept beside, moved; nothing lost and no orphan left."""

from __future__ import annotations

import errno
import os
from pathlib import Path
from typing import Any

import pytest

import zoo
from dapwick.core.basics.errors import BadInput, StorageFull
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS, photo_bytes, photos_of, truth
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog, one_dog
from dapwick.service.photos import edges
from dapwick.service.photos.moving import Move, Place, move_photos
from dapwick.service.photos.taking_in import (
    add_photo,
    remove_photo,
    restore_photo,
    sweep_orphans,
)

KEYS = [d.key for d in DEMO_DOGS]


@pytest.fixture
def dog(store: SalonStore) -> int:
    return add_dog(store, "Sample", "curl").id


def guessed(store: SalonStore, dog: int, data: bytes, name: str = "IMG_0001.jpg"):  # type: ignore[no-untyped-def]
    return add_photo(store, dog, data, name, "guess", "guess")


def slots(store: SalonStore, dog: int) -> dict[str, str]:
    return {f"{p.state}-{p.view}": p.file_name for p in one_dog(store, dog).photos}


def on_disk(store: SalonStore) -> set[str]:
    return {p.name for p in (store.folder / "photos").iterdir()}


def test_views_are_told_from_the_pictures_alone(store: SalonStore) -> None:
    """Eight dogs nobody trained on: dry photos under names that say nothing."""
    right, total = 0, 0
    for key in KEYS:
        dog = add_dog(store, key, "curl").id
        for p in photos_of(truth(key), ALL_SEVEN[:4]):
            card = add_photo(store, dog, photo_bytes(p["file"]), "IMG.jpg", "guess", "dry")
            right, total = right + (card.view == p["view"]), total + 1
    assert right / total >= 0.9


def test_seven_photos_find_their_slots(store: SalonStore, dog: int) -> None:
    for p in photos_of(truth("bobbin"), ALL_SEVEN):
        guessed(store, dog, photo_bytes(p["file"]), p["file"].replace("bobbin-", ""))
    assert set(slots(store, dog)) == set(ALL_SEVEN)
    assert one_dog(store, dog).spares == ()


def test_a_picture_without_a_dog_takes_no_slot_and_is_asked_about(store: SalonStore, dog: int) -> None:
    """What its name says is offered first, no more; the state is as the name says, or as its neighbours."""
    named = guessed(store, dog, zoo.jpeg(), "tiller from above, after.jpg")
    wet = guessed(store, dog, zoo.jpeg(seed=2), "left wet.jpg")
    beside = add_photo(store, dog, zoo.jpeg(seed=3), "IMG.jpg", "guess", "guess", "finished")
    assert (named.maybe[0], named.state) == ("top", "finished")
    assert (wet.maybe[0], wet.state) == ("left", "wet")
    assert beside.state == "finished"
    assert all(len(card.maybe) == 2 for card in (named, wet, beside))
    assert slots(store, dog) == {}
    assert {p.id for p in one_dog(store, dog).spares} == {named.id, wet.id, beside.id}


@pytest.mark.parametrize(("state", "usual"), [("damp", "dry"), ("guess", "damp")])
def test_a_state_that_nobody_knows_is_refused(store: SalonStore, dog: int, state: str, usual: str) -> None:
    with pytest.raises(BadInput, match="unknown state"):
        add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", state, usual)
    assert on_disk(store) == set()


def test_a_photo_that_is_told_where_it_belongs_is_not_asked_again(store: SalonStore, dog: int) -> None:
    card = guessed(store, dog, zoo.jpeg())
    (moved,) = move_photos(store, [Move(card.id, Place("left", "dry"))])
    assert moved.was.maybe == card.maybe
    assert slots(store, dog) == {"dry-left": "IMG_0001.jpg"}
    move_photos(store, [Move(card.id, Place("left", "dry", spare=True))])
    assert one_dog(store, dog).spares[0].maybe == ()


def test_a_photo_that_is_asked_about_pushes_nobody_aside(store: SalonStore, dog: int) -> None:
    mine = add_photo(store, dog, zoo.jpeg(seed=1), "mine.jpg", "front", "dry")
    guessed(store, dog, zoo.jpeg(seed=2), "front.jpg")
    assert [p.id for p in one_dog(store, dog).photos] == [mine.id]


def test_a_second_photo_of_a_taken_slot_is_kept_beside(store: SalonStore, dog: int) -> None:
    front = photos_of(truth("fogbell"))[0]
    add_photo(store, dog, zoo.jpeg(), "mine.jpg", "front", "dry")
    card = guessed(store, dog, photo_bytes(front["file"]), "dry front.jpg")
    assert card.spare
    assert slots(store, dog)["dry-front"] == "mine.jpg"
    assert [p.id for p in one_dog(store, dog).spares] == [card.id]


def test_into_a_named_slot_it_goes_for_certain_and_the_old_one_is_kept_beside(
    store: SalonStore, dog: int
) -> None:
    old = add_photo(store, dog, zoo.jpeg(seed=1), "old.jpg", "front", "dry")
    add_photo(store, dog, zoo.jpeg(seed=2), "new.jpg", "front", "dry")
    assert slots(store, dog) == {"dry-front": "new.jpg"}
    assert [p.id for p in one_dog(store, dog).spares] == [old.id]


def test_the_same_file_is_not_taken_twice(store: SalonStore, dog: int) -> None:
    first, again = guessed(store, dog, zoo.jpeg()), guessed(store, dog, zoo.jpeg(), "copy.jpg")
    assert first.id == again.id
    assert len(one_dog(store, dog).spares) == 1


def test_a_photo_brought_back_takes_its_slot_and_loses_nobody(store: SalonStore, dog: int) -> None:
    first = add_photo(store, dog, zoo.jpeg(seed=1), "a.jpg", "front", "dry")
    remove_photo(store, first.id)
    second = add_photo(store, dog, zoo.jpeg(seed=2), "b.jpg", "front", "dry")
    restore_photo(store, first.id)
    assert slots(store, dog) == {"dry-front": "a.jpg"}
    assert [p.id for p in one_dog(store, dog).spares] == [second.id]


def test_the_original_is_kept_byte_for_byte(store: SalonStore, dog: int) -> None:
    data = photo_bytes("fogbell-dry-front.jpg")
    guessed(store, dog, data)
    with store.session() as session:
        digest = queries.photos_of(queries.visit_today(session, dog))[0].content_hash
    assert store.photo_path(digest).read_bytes() == data


@pytest.mark.parametrize("kind", sorted(zoo.NOT_PHOTOS))
def test_what_is_no_photo_leaves_nothing_behind(store: SalonStore, dog: int, kind: str) -> None:
    data, words = zoo.NOT_PHOTOS[kind]
    with pytest.raises(BadInput, match=words):
        guessed(store, dog, data, f"{kind}.jpg")
    assert on_disk(store) == set()
    assert one_dog(store, dog).photos == ()


@pytest.mark.parametrize("fails_at", [1, 2])
def test_a_full_disk_is_told_and_leaves_neither_file_nor_record(
    store: SalonStore, dog: int, monkeypatch: pytest.MonkeyPatch, fails_at: int
) -> None:
    """The disk fills while the original (1) or its screen copy (2) is written; before that all was well."""
    add_photo(store, dog, zoo.jpeg(seed=9), "before.jpg", "left", "dry")
    kept, writes, real = on_disk(store), [0], os.fsync

    def full(handle: int) -> None:
        writes[0] += 1
        if writes[0] == fails_at:
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        real(handle)

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StorageFull, match="Free some room"):
        add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", "dry")
    assert on_disk(store) == kept
    assert set(slots(store, dog)) == {"dry-left"}
    monkeypatch.undo()
    add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", "dry")
    assert set(slots(store, dog)) == {"dry-left", "dry-front"}


def test_a_record_that_cannot_be_written_takes_its_files_along(
    store: SalonStore, dog: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refused(*_: Any) -> None:
        raise RuntimeError("stopped in the middle")

    monkeypatch.setattr(queries, "others_in_slot", refused)
    with pytest.raises(RuntimeError, match="middle"):
        add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", "dry")
    assert on_disk(store) == set()


def test_a_file_that_another_record_names_is_not_taken_along(store: SalonStore, dog: int) -> None:
    other = add_dog(store, "Other", "curl").id
    add_photo(store, other, zoo.jpeg(), "a.jpg", "front", "dry")
    with pytest.raises(LookupError):
        add_photo(store, 999, zoo.jpeg(), "a.jpg", "front", "dry")
    assert len(on_disk(store)) == 2


def test_what_a_kill_left_is_swept_at_the_next_start(store: SalonStore, dog: int) -> None:
    add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", "dry")
    kept, folder = on_disk(store), Path(store.folder / "photos")
    (folder / ".coming-xyz").write_bytes(b"half")
    (folder / ("0" * 64)).write_bytes(zoo.jpeg(seed=5))
    (folder / f"{'0' * 64}.screen.jpg").write_bytes(b"copy")
    assert len(sweep_orphans(store, young_s=0)) == 3
    assert on_disk(store) == kept


def test_removed_photos_are_not_swept(store: SalonStore, dog: int) -> None:
    card = add_photo(store, dog, zoo.jpeg(), "a.jpg", "front", "dry")
    remove_photo(store, card.id)
    assert sweep_orphans(store, young_s=0) == []
    restore_photo(store, card.id)
    assert store.screen_path(one_hash(store, dog)).exists()


def one_hash(store: SalonStore, dog: int) -> str:
    with store.session() as session:
        return queries.photos_of(queries.visit_today(session, dog))[0].content_hash


def test_sixty_photos_at_once_all_stay(store: SalonStore, dog: int) -> None:
    for n in range(60):
        guessed(store, dog, zoo.jpeg(400, 300, seed=n), f"IMG_{n}.jpg")
    card = one_dog(store, dog)
    assert len(card.photos) + len(card.spares) == 60


def test_a_look_fills_in_what_nobody_typed(store: SalonStore, dog: int) -> None:
    steps: list[tuple[str, float]] = []
    card = guessed(store, dog, photo_bytes("tiller-dry-left.jpg"), "IMG.jpg")
    assert edges.not_reviewed(store, dog) == [card.id]
    edges.review(store, card.id, lambda words, share: steps.append((words, share)))
    seen = one_dog(store, dog).photos[0]
    assert seen.looked
    assert seen.has_edge
    assert seen.card_markers >= 4
    assert edges.not_reviewed(store, dog) == []
    assert [share for _, share in steps] == sorted(share for _, share in steps)
    assert len({words for words, _ in steps}) >= 3


def test_an_edge_set_by_hand_outlives_another_look_and_one_found_beside_it(
    store: SalonStore, dog: int
) -> None:
    card = guessed(store, dog, photo_bytes("bobbin-dry-front.jpg"))
    drawn, version = edges.set_edge(store, card.id, [[100, 100], [900, 100], [500, 800]])
    edges.review(store, card.id, lambda *_: None)
    assert edges.edge_of(store, card.id) == (drawn, version)
    assert len(edges.found_again(store, card.id)) > 50
    assert edges.edge_of(store, card.id) == (drawn, version)


def test_where_no_edge_is_found_again_the_reason_is_told(store: SalonStore, dog: int) -> None:
    card = guessed(store, dog, zoo.jpeg())
    with pytest.raises(BadInput, match="no edge found"):
        edges.found_again(store, card.id)


def test_a_neck_line_is_kept_with_the_edge_and_taken_away_with_it(store: SalonStore, dog: int) -> None:
    card = guessed(store, dog, photo_bytes("bobbin-dry-front.jpg"))
    line, neck = [[100, 100], [900, 100], [500, 800]], [[300, 700], [800, 720]]
    with_neck, version = edges.set_edge(store, card.id, line, neck=neck)
    assert with_neck.neck == neck
    edges.follow_strokes(store, card.id, [([[150, 110]], True)])
    assert edges.edge_of(store, card.id)[0].neck == neck
    assert one_dog(store, dog).photos[0].versions["edge"] != version
    bare, _ = edges.set_edge(store, card.id, line)
    assert bare.neck is None
    for bad in ([[1, 1]], [[1, 1], [1, 1]], [[1, 1], [float("nan"), 2]]):
        with pytest.raises(BadInput, match="neck line"):
            edges.set_edge(store, card.id, line, neck=bad)


def test_a_chalk_stroke_without_points_is_refused(store: SalonStore, dog: int) -> None:
    card = guessed(store, dog, zoo.jpeg())
    for strokes in ([], [([], True)], [([[1, 1]], True), ([[float("inf"), 1]], False)]):
        with pytest.raises(BadInput, match="stroke"):
            edges.follow_strokes(store, card.id, strokes)  # type: ignore[arg-type]
