"""A result says what it rests on; what changed since is told by name, and what did not change is left alone."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import pytest

from dapwick.core.outlines.wishes import Wishes
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.cutting.cut import Cutting, set_traits
from dapwick.service.dogs import about as dogs
from dapwick.service.photos.edges import set_edge
from dapwick.service.photos.taking_in import remove_photo, restore_photo, set_marks
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.provenance import WORDS


@pytest.fixture(scope="module")
def kept(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[SalonStore, Planner]]:
    store = SalonStore(tmp_path_factory.mktemp("stale"))
    fill_with_demo(store, ("fogbell",))
    planner = Planner(store)
    planner.save(1, Asked("round"))
    yield store, planner
    store.close()


def _marks(store: SalonStore) -> Callable[[], None]:
    photo = dogs.one_dog(store, 1).photos[0]
    set_marks(store, photo.id, photo.marks | {"stop": {"at": [601.0, 402.0]}})
    return lambda: void(set_marks(store, photo.id, photo.marks))


def _edge(store: SalonStore) -> Callable[[], None]:
    photo = dogs.one_dog(store, 1).photos[0]
    with store.reading() as session:
        line = queries.photo(session, photo.id).coat_edge
    assert line
    set_edge(store, photo.id, [(x + 1, y) for x, y in line])
    return lambda: void(set_edge(store, photo.id, [(x, y) for x, y in line]))


def _photo(store: SalonStore) -> Callable[[], None]:
    photo = dogs.one_dog(store, 1).photos[0]
    remove_photo(store, photo.id)
    return lambda: void(restore_photo(store, photo.id))


def _reading(store: SalonStore) -> Callable[[], None]:
    before = list(dogs.one_dog(store, 1).hand_measures)
    dogs.set_hand_measures(store, 1, [])
    return lambda: dogs.set_hand_measures(store, 1, before)


def _comb(store: SalonStore) -> Callable[[], None]:
    dogs.set_coat_probes(store, 1, [{"zone": "crown", "side": None, "depth_mm": 30.0, "length_mm": None}])
    return lambda: dogs.set_coat_probes(store, 1, [])


def _kind(store: SalonStore) -> Callable[[], None]:
    dogs.set_head_kind(store, 1, "short", "any")
    return lambda: void(dogs.set_head_kind(store, 1, "any", "any"))


def _wishes(store: SalonStore) -> Callable[[], None]:
    with store.reading() as session:
        before = queries.visit_today(session, 1).wishes
    dogs.set_wishes(store, 1, Wishes(beard="short"))

    def back() -> None:
        with store.session() as session:
            queries.visit_today(session, 1).wishes = before

    return back


def void(_: object) -> None:
    return None


CHANGES = {
    "marks": _marks, "edges": _edge, "photos": _photo, "readings": _reading, "combs": _comb, "head": _kind,
    "wishes": _wishes,
}  # fmt: skip


@pytest.mark.parametrize("kind", CHANGES)
def test_a_changed_input_is_told_by_name_and_forgotten_when_taken_back(
    kept: tuple[SalonStore, Planner], kind: str
) -> None:
    store, _ = kept
    assert dogs.one_dog(store, 1).stages["outline"] == "done"
    undo = CHANGES[kind](store)
    card = dogs.one_dog(store, 1)
    assert card.stages["outline"] == "stale"
    assert WORDS[kind] in card.stale["outline"]
    undo()
    again = dogs.one_dog(store, 1)
    if kind == "edges":
        # Drawn by hand now: the same line, so nothing that rests on it has changed.
        assert again.stale == {}
    assert again.stages["outline"] == "done"


def test_what_nothing_rests_on_makes_nothing_stale(kept: tuple[SalonStore, Planner]) -> None:
    store, _ = kept
    set_traits(store, 1, ["snaps"])
    dogs.set_next_note(store, 1, "look")
    dogs.set_about(store, 1, {"name": "Fogbell", "breed": "x", "coat": "standing", "born": None})
    assert dogs.one_dog(store, 1).stale == {}


def test_worked_out_anew_it_is_fresh_and_says_from_what(kept: tuple[SalonStore, Planner]) -> None:
    store, planner = kept
    undo = _comb(store)
    before = dogs.one_dog(store, 1).saved_outline
    planner.save(1, Asked("round"))
    card = dogs.one_dog(store, 1)
    assert card.stale == {}
    assert before is not None
    assert card.saved_outline is not None
    assert card.saved_outline["rests_on"]["combs"] != before["rests_on"]["combs"]
    assert card.saved_outline["version"]
    undo()
    planner.save(1, Asked("round"))


def test_a_cut_in_use_is_told_that_the_outline_moved_on(kept: tuple[SalonStore, Planner]) -> None:
    store, planner = kept
    cutting = Cutting(store, planner)
    cutting.start(1)
    assert "cut" not in dogs.one_dog(store, 1).stale
    planner.save(1, Asked("teddy"))
    card = dogs.one_dog(store, 1)
    assert card.stale["cut"] == ["the outline"]
    assert cutting.now(1).stale
    assert not cutting.start(1, again=True).stale
    assert "cut" not in dogs.one_dog(store, 1).stale
