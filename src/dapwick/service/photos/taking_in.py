"""Photos of a visit: taken in, shown, removed, their marks and edges kept."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from typing import Any, Final

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.core.basics.marks import STATES, VIEWS, view_words
from dapwick.core.solve.observations import PhotoMarks
from dapwick.documents.marks import MarkDocument, Marks, marks_from, telling
from dapwick.pipeline.sorting import sorted_photo, words_in
from dapwick.records import queries
from dapwick.records.backup import photo_hashes
from dapwick.records.models import Beside, PhotoRow, VisitRow, now
from dapwick.records.photo_files import YOUNG_S, checked_hash
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import HEAVY
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.dogs.cards import PhotoCard, photo_card
from dapwick.service.photos.kept_review import scale_card_of
from dapwick.vision.guess import guess_marks
from dapwick.vision.photo import LARGEST_BYTES, Photo, read_photo, screen_jpeg

GUESS: Final = "guess"
LARGEST_PHOTO_BYTES: Final = LARGEST_BYTES
WORDS_OF_STATE: Final = {"wet": ("wet", "bath"), "dry": ("dry",), "finished": ("finished", "after")}


def add_photo(
    store: SalonStore, dog_id: int, data: bytes, file_name: str, view: str, state: str, usual: str = "dry"
) -> PhotoCard:
    """Check, keep the original byte for byte, make the screen copy, put it into its slot.

    view may be "guess": the picture (and the file's name) then say where it goes, and it is kept beside the slots
    when that one is taken, or until somebody says where it belongs when it is not sure. state may be "guess": the
    file's name says, else `usual`, the state of the photos it was dropped with. Into a slot named outright it goes
    for certain; what lay there is kept beside. The same file guessed again is not taken twice.
    """
    if view not in (*VIEWS, GUESS):
        raise BadInput("unknown view", expected=", ".join(VIEWS), got=view, where=file_name)
    for told in (state, usual):
        if told not in (*STATES, GUESS):
            raise BadInput("unknown state", expected=", ".join(STATES), got=told, where=file_name)
    guessing, asked = GUESS in (view, state), False
    with HEAVY.turn():
        photo = read_photo(data, file_name)
        small = screen_jpeg(photo)
        if guessing:
            # The review sees the screen copy too, so that the network reads each photo once.
            place = sorted_photo(guess_marks(read_photo(small, file_name).rgb), file_name=file_name)
            asked = view == GUESS and place.slot is None
            view = (place.slot or place.maybe[0]) if view == GUESS else view
            state = _state_of(file_name, state, usual)
    digest = store.keep_photo(data)
    try:
        store.keep_screen_copy(digest, small)
        with store.session() as session:
            visit = queries.visit_today(session, dog_id)
            # A purge may have taken a file of the same content since it was written.
            store.keep_photo(data)
            here = next((p for p in visit.photos if p.content_hash == digest and not p.removed), None)
            if guessing and here:
                return photo_card(here)
            row = _row_of(photo, file_name, digest, view, state)
            if asked:
                row.spare, row.maybe = True, list(place.maybe)
                visit.photos.append(row)
            else:
                _into_slot(visit, row, yields=guessing)
            session.flush()
            return photo_card(row)
    except BaseException:
        with store.session() as session:
            if not queries.file_is_used(session, digest):
                store.forget_photo(digest)
        raise


def _into_slot(visit: VisitRow, row: PhotoRow, yields: bool) -> None:
    """Put a photo into its slot. Where one lies there, this one is kept beside if it yields, else that one."""
    there = queries.others_in_slot(visit, row)
    row.spare = bool(there) and yields
    for other in there:
        other.spare = not yields
    if row not in visit.photos:
        visit.photos.append(row)


def _state_of(file_name: str, state: str, usual: str) -> str:
    """Wet, dry or finished is hard to see and easy to know: by name, else as its neighbours."""
    if state != GUESS:
        return state
    named = [s for s, told in WORDS_OF_STATE.items() if words_in(file_name) & set(told)]
    return named[0] if named else "dry" if usual == GUESS else usual


def _row_of(photo: Photo, file_name: str, digest: str, view: str, state: str) -> PhotoRow:
    return PhotoRow(
        view=view,
        state=state,
        file_name=file_name[:200],
        content_hash=digest,
        width_px=photo.width_px,
        height_px=photo.height_px,
        focal_px=photo.focal_px,
        taken=photo.taken,
        marks={},
        spare=False,
    )


def remove_photo(store: SalonStore, photo_id: int) -> None:
    """Soft: `restore_photo` brings it back with its marks."""
    with store.session() as session:
        queries.photo(session, photo_id).removed = now()


def restore_photo(store: SalonStore, photo_id: int) -> PhotoCard:
    with store.session() as session:
        row = queries.by_id(session, PhotoRow, photo_id)
        if row is None:
            raise NotFound("photo", photo_id)
        row.removed = None
        if not row.spare:
            _into_slot(row.visit, row, yields=False)
        return photo_card(row)


def sweep_orphans(store: SalonStore, young_s: float = YOUNG_S) -> list[str]:
    """Files that a stop in the middle left behind and no record names; at the start of a server only."""
    with store.reading() as session:
        used = queries.all_files(session)
    try:
        for before in store.kept_before():
            # Records that a restore replaced can still be taken back.
            used |= set(photo_hashes(before))
    except (sqlite3.Error, BadInput):
        # What they name cannot be told: nothing is swept, and the salon opens all the same.
        return []
    return store.sweep(used, young_s)


def picture(store: SalonStore, digest: str) -> bytes:
    """A photo as screens show it, by its content: an address that never comes to mean another picture. Photos that
    were removed, and those of removed dogs, are shown to nobody."""
    with store.reading() as session:
        name = queries.picture_is_shown(session, checked_hash(digest))
    if name is None:
        raise NotFound("picture", f"{digest[:12]}…")
    return screen_bytes(store, digest, name)


def screen_bytes(store: SalonStore, digest: str, name: str) -> bytes:
    """The screen copy; made anew where the photo came by a bundle or a backup, which hold originals alone."""
    if not store.screen_path(digest).exists():
        keep_screen_copy(store, digest, store.photo_bytes(digest), name)
    return store.screen_path(digest).read_bytes()


def check_photo(store: SalonStore, photo_id: int) -> None:
    """That there is such a photo."""
    with store.reading() as session:
        queries.photo(session, photo_id)


def keep_screen_copy(store: SalonStore, digest: str, data: bytes, name: str) -> None:
    with HEAVY.turn():
        small = screen_jpeg(read_photo(data, name))
    store.keep_screen_copy(digest, small)


def set_marks(
    store: SalonStore,
    photo_id: int,
    marks: Mapping[str, MarkDocument | dict[str, Any]],
    base: str | None = None,
    beside: Beside | None = None,
) -> tuple[int, str]:
    """Replace a photo's marks; returns the dog's id and the marks' version. Bad marks are refused first. beside: what
    is written in the same change."""
    wanted = marks_from(marks)
    with store.session() as session:
        row = queries.photo(session, photo_id)
        marks_of(row, wanted)
        check_base(f"The marks on {slot_name(row)}", row.marks, wanted, base, row.content_hash)
        row.marks = wanted
        if beside:
            beside(row.visit)
        return row.visit.dog_id, version_of(wanted, row.content_hash)


def marks_of(row: PhotoRow, marks: Marks | None = None) -> PhotoMarks:
    """The photo as the solver wants it; named by its slot, since that is what a stylist sees."""
    placed = telling(row.marks if marks is None else marks)
    return PhotoMarks(
        slot_name(row),
        row.view,
        row.width_px,
        row.height_px,
        placed,
        row.focal_px,
        card=scale_card_of(row.looked),
    )


def slot_name(row: PhotoRow) -> str:
    return f"{view_words(row.view)}, {row.state}"
