"""Slow work keeps what it was made from, or is made anew; one budget holds what is heavy."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import pytest

from dapwick.core.basics.errors import Busy, Conflict
from dapwick.demo.dogs import hand_marks, photos_of, truth
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.dogs import about as dogs
from dapwick.service.photos import edges
from dapwick.service.photos.taking_in import set_marks
from dapwick.service.plans import planner as planners
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.visits import head as heads
from dapwick.service.visits.begin_end import end_visit
from dapwick.service.visits.provenance import geometry_hash, provenance_of

DRAWN = [[100.0, 100.0], [1100.0, 100.0], [600.0, 800.0]]


@pytest.fixture
def marked(demo_store: SalonStore) -> SalonStore:
    """Fogbell marked in both photos; nothing traced yet."""
    known = truth("fogbell")
    with demo_store.session() as session:
        for row in queries.photos_of(queries.visit_today(session, 1)):
            row.coat_edge, row.edge_by_hand = None, False
    for photo in dogs.one_dog(demo_store, 1).photos:
        shot = next(p for p in photos_of(known) if (p["view"], p["state"]) == (photo.view, photo.state))
        set_marks(demo_store, photo.id, hand_marks(shot))
    return demo_store


def after_the_first(work, meanwhile):  # type: ignore[no-untyped-def]
    """`work`, with something done by another tablet each time it ends, the first time only."""
    once = iter([meanwhile])

    def both(*args, **kwargs):  # type: ignore[no-untyped-def]
        made = work(*args, **kwargs)
        next(once, lambda: None)()
        return made

    return both


def test_an_edge_drawn_by_hand_while_the_planner_traces_is_not_overwritten(
    marked: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    photo = dogs.one_dog(marked, 1).photos[0].id

    def drawn_meanwhile() -> None:
        edges.set_edge(marked, photo, DRAWN)

    monkeypatch.setattr(heads, "head_model", after_the_first(heads.head_model, drawn_meanwhile))
    Planner(marked).plan(1, Asked("round"))
    assert edges.edge_of(marked, photo)[0].line == DRAWN


def test_a_plan_is_kept_with_what_it_was_made_from(
    marked: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Marks that move while a plan is worked out: the one that is kept rests on the marks as they are now."""
    planner = Planner(marked)
    photo = dogs.one_dog(marked, 1).photos[0]
    moved = photo.marks | {"stop": {"at": [604.0, 401.0]}}
    made: list[str] = []

    def noted(*args, **kwargs):  # type: ignore[no-untyped-def]
        plan = real(*args, **kwargs)
        made.append("plan")
        if len(made) == 1:
            set_marks(marked, photo.id, moved)
        return plan

    real = planners.plan_on
    monkeypatch.setattr(planners, "plan_on", noted)
    kept, _ = planner.save(1, Asked("round"))
    assert made == ["plan", "plan"]
    with marked.reading() as session:
        visit = queries.visit_today(session, 1)
        assert kept["inputs_hash"] == geometry_hash(provenance_of(visit))
        assert visit.outlines[-1].rests_on == provenance_of(visit)
    assert dogs.one_dog(marked, 1).stale == {}


def test_a_visit_ends_with_the_head_that_is_marked_then(
    marked: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    from dapwick.service.visits import begin_end as visits

    photo = dogs.one_dog(marked, 1).photos[0]
    moved = photo.marks | {"stop": {"at": [604.0, 401.0]}}
    solve = after_the_first(visits.solved_head, lambda: set_marks(marked, photo.id, moved))
    monkeypatch.setattr(visits, "solved_head", solve)
    end_visit(marked, 1)
    with marked.reading() as session:
        kept = queries.visit_today(session, 1).measures
    monkeypatch.undo()
    end_visit(marked, 1)
    with marked.reading() as session:
        assert queries.visit_today(session, 1).measures == kept


def test_strokes_of_two_tablets_both_stand(marked: SalonStore) -> None:
    photo = dogs.one_dog(marked, 1).photos[0].id
    edges.set_edge(marked, photo, [[300, 300], [900, 300], [900, 700], [300, 700]])
    strokes = ([[320, 500], [200, 500]], [[880, 500], [1000, 500]], [[600, 320], [600, 220]])
    with ThreadPoolExecutor(3) as tablets:
        list(tablets.map(lambda stroke: edges.follow_strokes(marked, photo, [(stroke, True)]), strokes))
    line = edges.edge_of(marked, photo)[0].line
    assert min(x for x, _ in line) < 205
    assert max(x for x, _ in line) > 995
    assert min(y for _, y in line) < 225


def test_what_changes_all_the_time_is_told_as_busy(store: SalonStore) -> None:
    tries = []
    with pytest.raises(Busy, match="another tablet"):
        compute_then_write(store, lambda: tries.append(1), lambda s, made: False, lambda s, made: None)
    assert len(tries) == 5


def test_the_version_told_is_that_of_the_very_change(demo_store: SalonStore) -> None:
    """Another tablet writes right after: this one's next change on top of its own is told that it did."""
    mine = dogs.set_next_note(demo_store, 1, "mine").versions["next_note"]
    dogs.set_next_note(demo_store, 1, "another tablet's")
    with pytest.raises(Conflict):
        dogs.set_next_note(demo_store, 1, "mine again", mine)
    assert dogs.one_dog(demo_store, 1).next_note == "another tablet's"
