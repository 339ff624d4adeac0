"""Where a visit ends: what shows first, the next visit, the note that returns where it matters."""

from __future__ import annotations

import re
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from pathlib import Path

import pytest

from dapwick.core.basics.errors import BadInput, Conflict
from dapwick.demo.dogs import PHOTOS
from dapwick.documents.next_time import Said
from dapwick.records import after_queries, queries
from dapwick.records.store import SalonStore
from dapwick.service.after.checking import Checking
from dapwick.service.after.forecasting import Forecasting
from dapwick.service.after.growing import growth_of, readings_over
from dapwick.service.after.hands import hand_on_visit, readings_of, tell_of_hand
from dapwick.service.after.next_time import say_for_next, to_tell
from dapwick.service.cutting.cut import Cutting, Entry
from dapwick.service.dogs.about import one_dog
from dapwick.service.dogs.bundles import bundle_of, take_in
from dapwick.service.photos.edges import review
from dapwick.service.photos.taking_in import add_photo
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.begin_end import end_visit, reopen_visit, start_visit
from dapwick.service.visits.bookings import book, cancel_booking


@pytest.fixture(scope="module")
def finished_store(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    """A salon whose one dog was cut and photographed: Capstan, whose left cheek was left long."""
    store = SalonStore(tmp_path_factory.mktemp("cut") / "salon")
    fill_with_demo(store, ("capstan",))
    yield store
    store.close()


@pytest.fixture(scope="module")
def planner(finished_store: SalonStore) -> Planner:
    return Planner(finished_store)


def told_parts(store: SalonStore) -> dict[str, tuple[str, bool]]:
    with store.reading() as session:
        found = to_tell(queries.visit_today(session, 1))
    return {one.part.id: (one.part.words, one.kept) for one in found}


def test_a_cheek_left_long_is_found_and_no_other_place_is_touched(
    finished_store: SalonStore, planner: Planner
) -> None:
    told = Checking(finished_store, planner).now(1)
    assert told.check is not None
    (touch,) = told.check.touch_ups
    assert (touch.zone, touch.side) == ("cheek", "left")
    assert 3.0 <= touch.off_mm <= 9.0
    (uneven,) = [one for one in told.check.even if one.state == "uneven"]
    assert uneven.zone == "cheek"
    assert "left fuller" in uneven.words
    assert told.steps["cheek/left"].cautions


def test_a_check_waits_for_photos_that_are_looked_at_and_for_no_others(
    demo_store: SalonStore,
) -> None:
    """A photo whose look failed or was stopped holds up nobody; one that is being looked at is waited for."""
    planner = Planner(demo_store)
    planner.save(1, Asked("round"))
    photo = (PHOTOS / "fogbell-2-finished-front.jpg").read_bytes()
    new = add_photo(demo_store, 1, photo, "front.jpg", "front", "finished").id
    now = Checking(demo_store, planner, {new}.__contains__).now(1)
    assert (now.waiting, now.check, now.photos[0].looked) == (1, None, False)
    now = Checking(demo_store, planner, set[int]().__contains__).now(1)
    assert (now.waiting, now.check) == (0, None)
    assert "Take them once more" in now.reason
    review(demo_store, new, lambda *_: None)
    other = add_photo(demo_store, 1, photo + b"!", "left.jpg", "left", "finished").id
    assert Checking(demo_store, planner, {other}.__contains__).now(1).check is None
    now = Checking(demo_store, planner, set[int]().__contains__).now(1)
    assert now.check is not None
    assert [p.looked for p in now.photos] == [True, False]


def test_what_shows_first_has_dates_and_leads_to_a_free_time(
    finished_store: SalonStore, planner: Planner
) -> None:
    now = Forecasting(finished_store, planner).now(1)
    assert now.reason == ""
    assert [e.weeks for e in now.events] == sorted(e.weeks for e in now.events)
    for event in now.events:
        assert event.low_day <= event.day <= event.high_day
    assert now.day is not None
    assert now.weeks is not None
    assert date.fromisoformat(now.day) == date.fromisoformat(now.from_day) + timedelta(weeks=now.weeks)
    assert now.chance[now.weeks] < 0.3 or now.weeks == 2
    assert now.free
    assert all(free.day > now.from_day for free in now.free)
    assert any("hair" in line for line in now.card)


def test_a_booked_time_stands_on_the_card_and_is_no_longer_free(
    finished_store: SalonStore, planner: Planner
) -> None:
    forecasting = Forecasting(finished_store, planner)
    free = forecasting.now(1).free[0]
    booked = book(finished_store, 1, free.day, free.starts, 60)
    now = forecasting.now(1)
    assert [b.id for b in now.booked] == [booked.id]
    assert any(free.starts in line for line in now.card)
    told = [re.search(r"\d+ [A-Z][a-z]+", line) for line in now.card]
    days = [datetime.strptime(f"{one.group()} {date.today().year}", "%d %B %Y").date() for one in told if one]
    assert len(days) == len(now.card) > 1
    # A month that comes before this one is of the next year.
    assert sorted(days, key=lambda day: (day < date.today(), day)) == days
    assert (free.day, free.starts) not in {(f.day, f.starts) for f in now.free}
    cancel_booking(finished_store, booked.id)
    assert not forecasting.now(1).booked


def test_the_note_is_filled_from_what_happened_and_returns_in_the_next_visit(
    finished_store: SalonStore, planner: Planner
) -> None:
    store = finished_store
    Checking(store, planner).now(1)
    cutting = Cutting(store, planner)
    sheet = cutting.now(1).sheet
    assert sheet is not None
    step = next(s for s in sheet["steps"] if s["zones"])
    cutting.record(1, Entry(step["id"], "done", 40.0, notes=("minded",)))
    parts = told_parts(store)
    assert parts["long:cheek/left"][1]
    (minded,) = [key for key in parts if key.startswith("minded:")]
    say_for_next(store, 1, {minded: Said(kept=False), "long:cheek/left": Said(words="left cheek first")})
    assert told_parts(store)[minded][1] is False
    assert told_parts(store)["long:cheek/left"] == ("left cheek first", True)
    with pytest.raises(Conflict):
        say_for_next(store, 1, {minded: Said()}, base="another")
    with pytest.raises(BadInput):
        say_for_next(store, 1, {minded: Said.model_construct(kept=True, words="x" * 500)})
    ended = end_visit(store, 1)
    assert ended.stages["next"] == "done"
    assert reopen_visit(store, 1).stages["next"] == "needs_you"
    again = start_visit(store, 1)
    assert [(p.place, p.words) for p in again.from_last] == [("cut", "left cheek first")]
    assert (again.from_last[0].zone, again.from_last[0].side) == ("cheek", "left")


def test_all_of_it_goes_out_and_comes_in_with_the_dog(finished_store: SalonStore, store: SalonStore) -> None:
    back = take_in(store, bundle_of(finished_store, 1), "capstan")
    assert back.from_last == one_dog(finished_store, 1).from_last
    with store.reading() as session:
        rows = [row for visit in queries.dog(session, back.id).visits for row in visit.expectations]
        assert rows
        # Read in another salon: they prove nothing of this one.
        assert not any(row.here for row in rows)
        assert after_queries.expectations(session) == []


@pytest.fixture(scope="module")
def known_store(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    """Fogbell with its earlier visits."""
    store = SalonStore(tmp_path_factory.mktemp("known") / "salon")
    fill_with_demo(store, ("fogbell",), earlier=True)
    yield store
    store.close()


def test_the_demo_dogs_growth_is_believable_and_near_the_truth(known_store: SalonStore) -> None:
    with known_store.reading() as session:
        dog = queries.dog(session, 1)
        readings, own = readings_over(dog.visits), growth_of(dog)
    assert len(readings) >= 8
    for zone, true in (("crown", 2.6), ("cheek", 2.8), ("visor", 2.7)):
        assert own.growth.rate(zone) == pytest.approx(true, rel=0.15)
        assert own.growth.rate(zone, -1.645) < true < own.growth.rate(zone, 1.645)


def test_a_hand_is_read_with_its_touch_ups_undone_and_may_be_silenced(known_store: SalonStore) -> None:
    with known_store.reading() as session:
        visits = [v for v in queries.dog(session, 1).visits if v.checked]
        found = [r for v in visits for r in readings_of(v)]
    assert found
    assert {r.head for r in found} == {v.id for v in visits}
    now = hand_on_visit(known_store, 1)
    assert (now.stylist, now.told) == ("Oriel", True)
    # One head tells nothing of a hand.
    assert now.biases == ()
    tell_of_hand(known_store, "Oriel", told=False)
    assert not hand_on_visit(known_store, 1).told
    tell_of_hand(known_store, "Oriel", told=True)
    with pytest.raises(BadInput):
        tell_of_hand(known_store, "Nobody", told=False)


def test_without_an_outline_it_says_what_is_missing(store: SalonStore, tmp_path: Path) -> None:
    fill_with_demo(store, ("tiller",))
    now = Forecasting(store, Planner(store)).now(1)
    assert "No outline" in now.reason
    assert now.events == ()
    assert now.weeks is None
