"""How a dog and a stylist's other dogs were done last is what is asked for again."""

from __future__ import annotations

import pytest

from dapwick.core.outlines.wishes import Wishes
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.begin_end import start_visit


@pytest.fixture
def salon(store: SalonStore) -> tuple[SalonStore, Planner]:
    fill_with_demo(store, ("fogbell", "bobbin"))
    return store, Planner(store)


def chosen(planner: Planner, dog_id: int, key: str) -> dict[str, str]:
    return dict(planner.thumb(dog_id, key)[0].outline.schools)


def test_answers_come_back_for_the_dog_in_every_family_that_asks_them(
    salon: tuple[SalonStore, Planner],
) -> None:
    _, planner = salon
    assert chosen(planner, 1, "teddy")["inner_corners"] == "cleared"
    planner.save(1, Asked("round", schools={"inner_corners": "left", "ear_line": "fold", "minded": "last"}))
    assert chosen(planner, 1, "teddy")["inner_corners"] == "left"
    assert chosen(planner, 1, "three_rings")["ear_line"] == "fold"
    assert chosen(planner, 1, "dome")["minded"] == "last"
    # The crest asks for its own line, and the fold is one of its answers; close asks no corners at all.
    assert "inner_corners" not in chosen(planner, 1, "close")


def test_what_was_usual_before_the_questions_changed_is_no_answer(
    salon: tuple[SalonStore, Planner],
) -> None:
    store, planner = salon
    planner.save(1, Asked("teddy", schools={"beard": "natural"}))
    assert chosen(planner, 1, "brick")["beard"] == "natural"
    with store.session() as session:
        row = queries.visit_today(session, 1).outlines[-1]
        row.version = row.version.replace("fit-4", "fit-3")
    assert chosen(planner, 1, "brick")["beard"] == "shaped"


def test_what_is_asked_now_goes_before_what_was_asked_then(salon: tuple[SalonStore, Planner]) -> None:
    _, planner = salon
    planner.save(1, Asked("round", schools={"inner_corners": "left"}))
    made = planner.plan(1, Asked("round", schools={"inner_corners": "cleared"})).plan
    assert made.outline.schools["inner_corners"] == "cleared"


def test_the_body_and_lengths_that_were_said_hold_at_the_next_visit(
    salon: tuple[SalonStore, Planner],
) -> None:
    store, _ = salon
    dogs.set_wishes(store, 1, Wishes(eyes="open", lengths={"crown": 25.0}, body_mm=6.0, as_body=("throat",)))
    start_visit(store, 1)
    wishes = dogs.one_dog(store, 1).wishes
    assert (wishes.lengths, wishes.body_mm, wishes.as_body) == ({"crown": 25.0}, 6.0, ("throat",))
    assert wishes.eyes == "any"
