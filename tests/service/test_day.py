"""The day's book: who comes when, how long, what is known, where a visit goes on."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.records import queries
from dapwick.records.models import CutRow, CutStepRow
from dapwick.records.store import SalonStore
from dapwick.service.cutting import cut as cutting
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs import trash
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits import begin_end as visits
from dapwick.service.visits import bookings as book
from dapwick.service.visits.day import Due, day_of

TODAY = date.today().isoformat()
TOMORROW = (date.today() + timedelta(days=1)).isoformat()


def names(store: SalonStore, day: str | None = None) -> list[str]:
    return [due.name for due in day_of(store, day)[1]]


def due_of(store: SalonStore, name: str, day: str | None = None) -> Due:
    return next(due for due in day_of(store, day)[1] if due.name == name)


def test_a_new_dog_is_here_now_and_a_booked_one_on_its_day(store: SalonStore) -> None:
    dog = dogs.add_dog(store, "Squall", "standing")
    assert due_of(store, "Squall").begun
    book.book(store, dog.id, TOMORROW, "10:00", 75, "sister comes along")
    due = due_of(store, "Squall", TOMORROW)
    assert not due.begun
    assert due.stages == {}
    assert due.booking is not None
    assert (due.booking.starts, due.booking.ends, due.booking.words) == (
        "10:00",
        "11:15",
        "sister comes along",
    )


@pytest.mark.parametrize("starts", ["10:00", ""])
def test_a_time_asked_for_twice_is_kept_once(store: SalonStore, starts: str) -> None:
    """The answer to the first was lost on its way to the tablet."""
    dog, other = (dogs.add_dog(store, name, "standing") for name in ("Squall", "Sprat"))
    first = book.book(store, dog.id, TOMORROW, starts, 60)
    again = book.book(store, dog.id, TOMORROW, starts, 75, "sister comes along")
    assert (again.id, again.minutes, again.words) == (first.id, 75, "sister comes along")
    book.book(store, other.id, TOMORROW, starts)
    book.book(store, dog.id, TOMORROW, "16:30")
    assert sorted(names(store, TOMORROW)) == ["Sprat", "Squall", "Squall"]


def test_the_order_is_the_clocks_and_who_walks_in_comes_last(store: SalonStore) -> None:
    for name, starts in (("A", "15:00"), ("B", ""), ("C", "09:30")):
        dog = dogs.add_dog(store, name, "curl")
        book.cancel_booking(store, day_of(store)[1][-1].booking.id)  # type: ignore[union-attr]
        book.book(store, dog.id, TOMORROW, starts)
    assert names(store, TOMORROW) == ["C", "A", "B"]


def test_begin_uses_an_empty_visit_and_else_opens_a_new_one(demo_store: SalonStore) -> None:
    fresh = dogs.add_dog(demo_store, "Bollard", "harsh")
    first = book.book(demo_store, fresh.id, TODAY, "11:00")
    assert len(visits.begin_booking(demo_store, first.id).visits) == 1
    later = book.book(demo_store, 1, TODAY, "12:00")
    card = visits.begin_booking(demo_store, later.id)
    assert [v.ended for v in card.visits] == [True, False]
    assert card.visits[0].bone
    assert len(visits.begin_booking(demo_store, later.id).visits) == 2


def test_a_cancelled_booking_comes_back_whole(store: SalonStore) -> None:
    dog = dogs.add_dog(store, "Squall", "standing")
    made = book.book(store, dog.id, TOMORROW, "10:00", 60, "quiet room")
    book.cancel_booking(store, made.id)
    assert names(store, TOMORROW) == []
    assert book.restore_booking(store, made.id) == made
    moved = book.move_booking(store, made.id, TODAY, "16:15", 45, "")
    assert (moved.day, moved.ends) == (TODAY, "17:00")


@pytest.mark.parametrize(
    ("day", "starts", "minutes", "words", "told"),
    [
        ("tomorrow", "", 60, "", "YYYY-MM-DD"),
        ("2026-02-30", "", 60, "", "YYYY-MM-DD"),
        (TODAY, "25:00", 60, "", "HH:MM"),
        (TODAY, "9:00", 60, "", "HH:MM"),
        (TODAY, "", 5, "", "10 to 600"),
        (TODAY, "", 601, "", "10 to 600"),
        (TODAY, "", 60, "x" * 201, "at most 200"),
    ],
)
def test_what_cannot_be_booked_is_told(
    store: SalonStore, day: str, starts: str, minutes: int, words: str, told: str
) -> None:
    dog = dogs.add_dog(store, "Squall", "standing")
    with pytest.raises(BadInput, match=told):
        book.book(store, dog.id, day, starts, minutes, words)
    assert [b.day for b in book.bookings(store, "0000", "9999")] == [TODAY]


def test_the_note_and_the_bone_return_at_the_next_visit(demo_store: SalonStore) -> None:
    dogs.set_next_note(demo_store, 1, "Beard last.")
    visits.end_visit(demo_store, 1)
    assert due_of(demo_store, "Fogbell").ended
    card = visits.start_visit(demo_store, 1)
    assert card.note == "Beard last."
    assert card.next_note == ""
    assert card.stages["marks"] == "needs_you"
    visits.end_visit(demo_store, 1)
    assert visits.start_visit(demo_store, 1).note == "Beard last."


def test_an_old_coat_and_an_unmeasured_head_are_told(demo_store: SalonStore) -> None:
    weeks_ago = datetime.now(UTC).replace(tzinfo=None) - timedelta(weeks=9)
    with demo_store.session() as session:
        queries.visit_today(session, 1).created = weeks_ago
    visits.start_visit(demo_store, 1)
    known = {k.words: k.fresh for k in due_of(demo_store, "Fogbell").known}
    assert known == {"2nd visit": True, "head measured": True, "coat seen 9 weeks ago": False}


def test_the_counter_is_told_of_mats_before_the_dog_comes(demo_store: SalonStore) -> None:
    cutting.set_traits(demo_store, 1, ["mats"])
    (told,) = (k for k in due_of(demo_store, "Fogbell").known if "mats" in k.words)
    assert "surcharge" in told.words
    assert not told.fresh


def test_minutes_come_from_the_dogs_own_log(demo_store: SalonStore) -> None:
    before = due_of(demo_store, "Fogbell").expected
    with demo_store.session() as session:
        visit = queries.visit_today(session, 1)
        cut = CutRow(sheet={}, inputs_hash="", stylist="Oriel", ended=datetime.now(UTC).replace(tzinfo=None))
        cut.steps = [
            CutStepRow(step=f"s{i}", rule="r", state="done", usual_min=1.0, seconds=600.0) for i in range(5)
        ]
        visit.cuts.append(cut)
    after = due_of(demo_store, "Fogbell").expected
    assert before.heads == 0
    assert after.heads == 1
    assert before.minutes < after.minutes < 50.0


def test_a_visit_left_open_is_shown_today_until_it_ends(demo_store: SalonStore) -> None:
    yesterday = datetime.now(UTC).replace(tzinfo=None) - timedelta(days=1)
    with demo_store.session() as session:
        queries.visit_today(session, 1).created = yesterday
        for row in queries.bookings_on(session, TODAY):
            row.day = (date.today() - timedelta(days=1)).isoformat()
    assert [(d.name, d.booking) for d in day_of(demo_store)[1]] == [("Bobbin", None), ("Fogbell", None)]
    assert due_of(demo_store, "Fogbell").left_open
    visits.end_visit(demo_store, 1)
    assert names(demo_store) == ["Bobbin"]


def test_finding_goes_by_name_and_breed_and_takes_letters_as_they_are(store: SalonStore) -> None:
    for name, breed in (("Squall", "harbour cross"), ("Sail", "50% poodle"), ("Mast", "squall cross")):
        dogs.add_dog(store, name, "curl", breed)
    assert [d.name for d in dogs.find_dogs(store, "squ")] == ["Squall", "Mast"]
    assert [d.name for d in dogs.find_dogs(store, "%")] == ["Sail"]
    assert [d.name for d in dogs.find_dogs(store, "")] == ["Mast", "Sail", "Squall"]
    assert dogs.find_dogs(store, "nobody") == []


def test_a_removed_dog_is_off_every_list_and_comes_back_whole(demo_store: SalonStore) -> None:
    before = dogs.one_dog(demo_store, 1)
    trash.remove_dog(demo_store, 1)
    assert names(demo_store) == ["Bobbin"]
    assert [d.name for d in dogs.find_dogs(demo_store)] == ["Bobbin"]
    with pytest.raises(NotFound):
        dogs.one_dog(demo_store, 1)
    trash.restore_dog(demo_store, 1)
    assert dogs.one_dog(demo_store, 1) == before


def test_a_purge_says_what_goes_and_takes_that_and_no_more(demo_store: SalonStore) -> None:
    with pytest.raises(NotFound):
        trash.purge_dog(demo_store, 1, "Fogbell")
    trash.remove_dog(demo_store, 1)
    [told] = trash.removed_dogs(demo_store)
    assert (told.name, told.visits, told.photos) == ("Fogbell", 1, 2)
    assert told.photo_bytes > 100_000
    with pytest.raises(BadInput, match="the name Fogbell"):
        trash.purge_dog(demo_store, 1, "Bobbin")
    files = {p.name for p in (demo_store.folder / "photos").iterdir()}
    assert trash.purge_dog(demo_store, 1, " Fogbell ") == told
    assert trash.removed_dogs(demo_store) == []
    left = {p.name for p in (demo_store.folder / "photos").iterdir()}
    assert len(files - left) == 4
    assert len(dogs.one_dog(demo_store, 2).photos) == 2


def test_a_photo_that_two_dogs_share_outlives_one_of_them(store: SalonStore) -> None:
    fill_with_demo(store, ("fogbell",))
    fill_with_demo_again(store)
    trash.remove_dog(store, 1)
    trash.purge_dog(store, 1, "Fogbell")
    digest = dogs.one_dog(store, 2).photos[0].id
    with store.reading() as session:
        assert store.photo_path(queries.photo(session, digest).content_hash).exists()


def fill_with_demo_again(store: SalonStore) -> None:
    with store.session() as session:
        for row in queries.demo_dogs(session):
            row.demo = False
    fill_with_demo(store, ("fogbell",), beside=True)
