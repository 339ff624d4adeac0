"""One way to a head: solved once for each state of what it rests on, whoever asks."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from dapwick.cli.heads import model_from
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.solve.observations import HeadInput
from dapwick.demo.dogs import PHOTOS, photo_bytes
from dapwick.documents.head_file import HeadFile
from dapwick.pipeline import head_model as heads
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs.history import history_of
from dapwick.service.photos import edges
from dapwick.service.photos.taking_in import add_photo, set_marks
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.visits.begin_end import end_visit
from dapwick.service.visits.head import head_drawing_of
from dapwick.service.visits.measuring import measure_visit
from dapwick.service.visits.next_measurement import next_on_visit
from dapwick.vision import guess as guesses
from dapwick.vision.photo import read_photo
from demo_heads import demo_head_file

FOGBELL = 1


@pytest.fixture
def solves(monkeypatch: pytest.MonkeyPatch) -> list[HeadInput]:
    """What was solved, in its order, with nothing kept from before."""
    found: list[HeadInput] = []
    real = heads.solve_head

    def counted(given: HeadInput) -> object:
        found.append(given)
        return real(given)

    monkeypatch.setattr(heads, "solve_head", counted)
    monkeypatch.setattr(heads, "_SOLVES", heads.LruCache(heads.KEPT_SOLVES))
    return found


def asked_all_round(store: SalonStore, planner: Planner) -> None:
    """Every screen that shows the open visit's head."""
    measure_visit(store, FOGBELL)
    head_drawing_of(store, FOGBELL)
    next_on_visit(store, FOGBELL)
    history_of(store, FOGBELL)
    planner.plan(FOGBELL, Asked("round"))
    for photo in dogs.one_dog(store, FOGBELL).photos:
        edges.review(store, photo.id, lambda words, share: None)


def test_a_visits_head_is_solved_once_for_each_change_of_its_inputs(
    demo_store: SalonStore, solves: list[HeadInput]
) -> None:
    planner = Planner(demo_store)
    asked_all_round(demo_store, planner)
    asked_all_round(demo_store, planner)
    own = [given for given in solves if len(given.photos) > 1]
    assert len(own) == 1
    photo = dogs.one_dog(demo_store, FOGBELL).photos[0]
    set_marks(demo_store, photo.id, photo.marks | {"stop": {"at": [604.0, 401.0]}})
    asked_all_round(demo_store, planner)
    end_visit(demo_store, FOGBELL)
    own = [given for given in solves if len(given.photos) > 1]
    assert len(own) == 2


def test_many_who_ask_at_once_wait_for_one_head(demo_store: SalonStore, solves: list[HeadInput]) -> None:
    planner = Planner(demo_store)
    with ThreadPoolExecutor(8) as hands:
        ranks = list(hands.map(lambda key: planner.thumb(FOGBELL, key)[0].verdict.rank, FAMILIES))
    assert len(ranks) == len(FAMILIES)
    assert len(solves) == 1


def with_the_lens_as_told(file: HeadFile) -> HeadFile:
    """A camera rounds its lens to whole millimetres."""
    focal = {p.file: read_photo(photo_bytes(p.file or ""), "a").focal_px for p in file.photos}
    photos = [p.model_copy(update={"focal_px": focal[p.file]}) for p in file.photos]
    return file.model_copy(update={"photos": photos})


def test_a_head_file_and_a_visit_make_the_same_head(demo_store: SalonStore) -> None:
    """The command line's head of Fogbell's file is the salon's, to the last digit that marks keep."""
    file = with_the_lens_as_told(demo_head_file("fogbell"))
    with demo_store.session() as session:
        # Traced for the head, as the command traces them.
        for row in queries.visit_today(session, FOGBELL).photos:
            row.coat_edge = row.looked = None
    here = Planner(demo_store).head(FOGBELL).model.ground
    there = model_from(file, PHOTOS).ground
    assert np.allclose(there.head.points_mm, here.head.points_mm, atol=1e-9)
    assert np.allclose(there.coat.depth_mm, here.coat.depth_mm, atol=1e-9)


def test_another_reading_of_the_same_marks_is_another_head(solves: list[HeadInput]) -> None:
    given = demo_head_file("fogbell").head_input()
    first = heads.solved_head(given)
    assert heads.solved_head(demo_head_file("fogbell").head_input()) is first
    assert heads.solved_head(HeadInput(given.photos, ())) is not first
    assert len(solves) == 2


def test_a_photo_is_read_by_the_network_once(store: SalonStore, monkeypatch: pytest.MonkeyPatch) -> None:
    """Sorted into its slot, reviewed, reviewed again: two looks, each straight and mirrored."""
    runs: list[int] = []
    real = guesses.read

    def counted(*given: object) -> object:
        runs.append(1)
        return real(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(guesses, "read", counted)
    guesses._read.cache_clear()
    dog = dogs.add_dog(store, "Sample", "standing").id
    card = add_photo(store, dog, photo_bytes("fogbell-dry-front.jpg"), "IMG.jpg", "guess", "guess")
    assert card.view == "front"
    for _ in range(2):
        edges.review(store, card.id, lambda words, share: None)
    assert len(runs) == 4
