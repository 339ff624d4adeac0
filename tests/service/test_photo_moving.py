"""Photos moved between slots: nobody is lost, and a move is taken back whole."""

from __future__ import annotations

from typing import get_args

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import zoo
from dapwick.core.basics.errors import BadInput, Conflict
from dapwick.core.basics.marks import State, View
from dapwick.documents.review import ReviewDocument
from dapwick.pipeline.sorting import SLOTS
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog, one_dog
from dapwick.service.photos import edges
from dapwick.service.photos.moving import Move, Place, move_photos, place_of
from dapwick.service.photos.taking_in import add_photo

LINE = [[100, 100], [700, 100], [400, 500]]
COUNT = 6


@pytest.fixture
def dog(store: SalonStore) -> int:
    return add_dog(store, "Sample", "curl").id


@pytest.fixture
def photos(store: SalonStore, dog: int) -> list[int]:
    """Front and left dry, front wet, one kept beside, one asked about, one more dry."""
    slots = [
        ("front", "dry"),
        ("left", "dry"),
        ("front", "wet"),
        ("left", "dry"),
        ("guess", "dry"),
        ("right", "dry"),
    ]
    return [add_photo(store, dog, zoo.jpeg(seed=i), f"{i}.jpg", *slot).id for i, slot in enumerate(slots)]


def layout(store: SalonStore, photos: list[int]) -> list[Place]:
    with store.reading() as session:
        return [place_of(queries.photo(session, photo)) for photo in photos]


places = st.builds(Place, st.sampled_from(SLOTS), st.sampled_from(get_args(State)), st.booleans())
steps = st.lists(
    st.dictionaries(st.integers(0, COUNT - 1), places, min_size=1, max_size=4), min_size=1, max_size=5
)


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(plan=steps)
def test_whatever_is_moved_comes_back_whole_and_no_slot_holds_two(
    store: SalonStore, photos: list[int], plan: list[dict[int, Place]]
) -> None:
    first, done = layout(store, photos), []
    for step in plan:
        try:
            done.append(move_photos(store, [Move(photos[i], to) for i, to in step.items()]))
        except BadInput:
            continue
        held = [(p.view, p.state) for p in layout(store, photos) if not p.spare]
        assert len(held) == len(set(held))
        for i, to in step.items():
            assert layout(store, photos)[i] == to
    for moved in reversed(done):
        move_photos(store, [Move(one.photo_id, one.was) for one in moved])
    assert layout(store, photos) == first


def test_two_photos_change_places(store: SalonStore, photos: list[int]) -> None:
    moved = move_photos(store, [Move(photos[0], Place("right", "dry"))])
    assert {one.photo_id for one in moved} == {photos[0], photos[5]}
    assert layout(store, photos)[5] == Place("front", "dry")


def test_from_beside_the_slots_the_other_one_is_kept_beside(store: SalonStore, photos: list[int]) -> None:
    with store.session() as session:
        queries.photo(session, photos[1]).spare = True
        queries.photo(session, photos[3]).spare = False
    move_photos(store, [Move(photos[1], Place("left", "dry"))])
    assert layout(store, photos)[3] == Place("left", "dry", spare=True)


def test_a_moved_photo_is_looked_at_anew_but_keeps_what_a_hand_drew(
    store: SalonStore, photos: list[int]
) -> None:
    edges.set_edge(store, photos[0], LINE)
    with store.session() as session:
        queries.photo(session, photos[0]).looked = ReviewDocument()
        queries.photo(session, photos[5]).coat_edge = LINE
    move_photos(store, [Move(photos[0], Place("right", "dry"))])
    assert edges.edge_of(store, photos[0])[0].line == LINE
    assert edges.edge_of(store, photos[5])[0].line == []
    with store.reading() as session:
        assert queries.photo(session, photos[0]).looked is None


@pytest.mark.parametrize("views", [("top", "top")])
def test_two_photos_for_one_slot_are_refused_and_nothing_moves(
    store: SalonStore, photos: list[int], views: tuple[View, View]
) -> None:
    first = layout(store, photos)
    with pytest.raises(BadInput, match="two photos for one slot"):
        move_photos(store, [Move(p, Place(v, "dry")) for p, v in zip(photos, views, strict=False)])
    assert layout(store, photos) == first


def test_where_one_was_moved_meanwhile_none_is(store: SalonStore, dog: int, photos: list[int]) -> None:
    seen = {p.id: p.versions["slot"] for p in one_dog(store, dog).photos}
    move_photos(store, [Move(photos[0], Place("top", "dry"))])
    before = layout(store, photos)
    stale = [
        Move(p, Place("left", "finished" if i else "wet"), seen[p])
        for i, p in enumerate((photos[5], photos[0]))
    ]
    with pytest.raises(Conflict):
        move_photos(store, stale)
    assert layout(store, photos) == before
