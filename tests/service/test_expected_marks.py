"""Suggestions that were taken: those the solve itself expected add nothing, drag nothing and are never accused."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.solve.joint import HeadSolution
from dapwick.demo.dogs import hand_marks, photos_of, truth
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import one_dog
from dapwick.service.photos.taking_in import set_marks
from dapwick.service.visits.measuring import Measured, measure_visit

BY_HAND = (
    "eye_inner_left",
    "eye_inner_right",
    "eye_outer_left",
    "eye_outer_right",
    "nose_tip",
    "stop",
    "chin",
)


@pytest.fixture
def begun(demo_store: SalonStore) -> SalonStore:
    """Fogbell with seven marks in front and all on the left."""
    for photo in one_dog(demo_store, 1).photos:
        shot = next(
            p for p in photos_of(truth("fogbell")) if (p["view"], p["state"]) == (photo.view, photo.state)
        )
        marks = {m: at for m, at in hand_marks(shot).items() if photo.view != "front" or m in BY_HAND}
        set_marks(demo_store, photo.id, marks)
    return demo_store


def front_of(store: SalonStore):  # type: ignore[no-untyped-def]
    return next(p for p in one_dog(store, 1).photos if p.view == "front")


def with_all_taken(store: SalonStore, off_px: float = 0.0) -> Measured:
    front, before = front_of(store), measure_visit(store, 1)
    taken = {
        g.mark: {"at": [g.x_px + off_px, g.y_px], "unsure": True, "expected": g.expected}
        for g in before.ghosts[front.id]
    }
    assert len(taken) > 5
    set_marks(store, front.id, front.marks | taken)
    return measure_visit(store, 1)


def test_what_the_solve_expects_is_told_as_such(begun: SalonStore) -> None:
    assert all(g.expected for g in measure_visit(begun, 1).ghosts[front_of(begun).id])


@pytest.mark.parametrize("off_px", [0.0, 60.0])
def test_taken_as_expected_it_changes_nothing(begun: SalonStore, off_px: float) -> None:
    before, after = measure_visit(begun, 1), with_all_taken(begun, off_px)
    assert isinstance(before.head, HeadSolution)
    assert isinstance(after.head, HeadSolution)
    assert np.array_equal(before.head.points_mm, after.head.points_mm)
    assert np.array_equal(before.head.sigma_mm, after.head.sigma_mm)
    assert before.head.findings == after.head.findings
    assert after.ghosts[front_of(begun).id] == ()


def test_put_somewhere_by_hand_it_counts(begun: SalonStore) -> None:
    before = with_all_taken(begun)
    front = front_of(begun)
    moved = front.marks["crown"].model_copy(update={"expected": False})
    set_marks(begun, front.id, front.marks | {"crown": moved})
    after = measure_visit(begun, 1)
    assert isinstance(before.head, HeadSolution)
    assert isinstance(after.head, HeadSolution)
    assert not np.array_equal(before.head.points_mm, after.head.points_mm)
