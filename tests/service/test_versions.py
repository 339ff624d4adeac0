"""Two tablets on one dog: nobody overwrites what they have not seen."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import Conflict
from dapwick.core.outlines.wishes import Wishes
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.cutting.cut import set_stylist, set_traits
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs.cards import versions_of
from dapwick.service.photos.edges import edge_of, set_edge
from dapwick.service.photos.moving import Move, Place, move_photos
from dapwick.service.photos.taking_in import set_marks
from dapwick.service.salon.kit import kit_version, salon_kit, set_kit
from dapwick.service.visits.begin_end import start_visit

JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3),
    max_leaves=8,
)
OPEN, SHORT = Wishes(eyes="open"), Wishes(beard="short")
EDGE = [(10.0, 10.0), (400.0, 12.0), (390.0, 300.0), (12.0, 310.0)]


def version_now(store: SalonStore, dog_id: int, part: str) -> str:
    """The version of one part as it is kept now."""
    with store.reading() as session:
        return versions_of(queries.visit_today(session, dog_id))[part]


@given(JSON, JSON)
def test_a_version_names_the_content_and_nothing_else(one: object, other: object) -> None:
    """The same for the same content in whatever order its keys come, another for any other content."""
    written = [json.dumps(content, sort_keys=True) for content in (one, other)]
    assert (version_of(one) == version_of(other)) == (written[0] == written[1])
    turned = dict(reversed(list(one.items()))) if isinstance(one, dict) else one
    assert version_of(turned) == version_of(one)


def test_what_is_wanted_and_there_already_is_no_conflict() -> None:
    """A change whose answer was lost comes twice."""
    check_base("it", [1, 2], [1, 2], "made on something long gone")
    with pytest.raises(Conflict) as told:
        check_base("The wishes", [1, 2], [3], version_of([0]))
    assert told.value.now == [1, 2]
    assert told.value.version == version_of([1, 2])


def test_the_second_tablet_is_told_and_the_first_ones_words_stand(demo_store: SalonStore) -> None:
    base = version_now(demo_store, 1, "wishes")
    dogs.set_wishes(demo_store, 1, OPEN, "eyes", base)
    with pytest.raises(Conflict, match="wishes of Fogbell changed on another tablet"):
        dogs.set_wishes(demo_store, 1, SHORT, "beard", base)
    card = dogs.one_dog(demo_store, 1)
    assert (card.wishes.eyes, card.wishes.beard, card.owner_words) == ("open", "any", "eyes")
    dogs.set_wishes(demo_store, 1, SHORT, "beard", version_now(demo_store, 1, "wishes"))
    assert dogs.one_dog(demo_store, 1).wishes.beard == "short"


def test_changes_of_different_parts_do_not_meet(demo_store: SalonStore) -> None:
    versions = dogs.one_dog(demo_store, 1).versions
    dogs.set_wishes(demo_store, 1, OPEN, base=versions["wishes"])
    set_traits(demo_store, 1, ["snaps"], versions["traits"])
    set_stylist(demo_store, 1, "Benno", versions["stylist"])
    dogs.set_next_note(demo_store, 1, "look", versions["next_note"])
    dogs.set_head_kind(demo_store, 1, "short", "prick", versions["kind"])
    dogs.set_hand_measures(demo_store, 1, [], versions["hand_measures"])
    dogs.set_coat_probes(demo_store, 1, [], versions["coat_probes"])
    about = {"name": "Fogbell", "breed": "b", "coat": "standing", "born": None}
    dogs.set_about(demo_store, 1, about, versions["about"])
    now = dogs.one_dog(demo_store, 1)
    assert (now.traits, now.stylist, now.next_note, now.muzzle) == (("snaps",), "Benno", "look", "short")


def test_marks_edges_slots_and_kit_are_guarded_too(demo_store: SalonStore) -> None:
    photo = dogs.one_dog(demo_store, 1).photos[0]
    one_mark = {"stop": {"at": [600.0, 400.0]}}
    set_marks(demo_store, photo.id, one_mark, photo.versions["marks"])
    with pytest.raises(Conflict, match="marks on front, dry"):
        set_marks(demo_store, photo.id, {}, photo.versions["marks"])
    set_edge(demo_store, photo.id, EDGE, edge_of(demo_store, photo.id)[1])
    with pytest.raises(Conflict, match="edge on front, dry"):
        set_edge(demo_store, photo.id, EDGE[:3], photo.versions["edge"])
    move_photos(demo_store, [Move(photo.id, Place("back", "dry"), photo.versions["slot"])])
    with pytest.raises(Conflict, match="place of the photo"):
        move_photos(demo_store, [Move(photo.id, Place("top", "dry"), photo.versions["slot"])])
    kept = salon_kit(demo_store)
    kit = kept.to_json()
    base = kit_version(kept)
    set_kit(demo_store, kit | {"against_share": 0.4}, base)
    with pytest.raises(Conflict, match="kit"):
        set_kit(demo_store, kit | {"against_share": 0.6}, base)


def test_a_change_meant_for_one_visit_does_not_land_in_the_next(demo_store: SalonStore) -> None:
    base = version_now(demo_store, 1, "wishes")
    start_visit(demo_store, 1)
    with pytest.raises(Conflict):
        dogs.set_wishes(demo_store, 1, OPEN, base=base)


def test_who_names_no_version_has_the_last_word(demo_store: SalonStore) -> None:
    dogs.set_wishes(demo_store, 1, OPEN)
    dogs.set_wishes(demo_store, 1, SHORT)
    assert dogs.one_dog(demo_store, 1).wishes.beard == "short"
