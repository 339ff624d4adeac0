"""Practice in the salon: kept with backups, starting from the hand that checks have told."""

from __future__ import annotations

import threading
from pathlib import Path

import pytest

from dapwick.core.after.hand import Bias
from dapwick.core.practice.eye import RANGE
from dapwick.core.practice.long_side import PLACES
from dapwick.documents.practice import (
    EyeAnswer,
    EyeAsked,
    LongSideAnswer,
    LongSideAsked,
    PlanAnswer,
    PlanAsked,
)
from dapwick.records.backup import write_backup
from dapwick.records.models import PracticePersonRow, PracticeTaskRow
from dapwick.records.store import SalonStore
from dapwick.service.practice import answering
from dapwick.service.practice.answering import answer
from dapwick.service.practice.asking import Question, ask
from dapwick.service.practice.heads import SHORTER, PracticeHeads
from dapwick.service.practice.people import people, take_in
from dapwick.service.practice.progress import progress, results_csv
from dapwick.service.salon.opening import restored
from learner import Learner


@pytest.fixture
def heads() -> PracticeHeads:
    return PracticeHeads()


def test_practice_goes_into_a_backup_and_comes_back(store: SalonStore, tmp_path: Path) -> None:
    person = take_in(store, "Wren")
    Learner(store, person.id).practise("eye", 3)
    told = results_csv(store, person.id)
    write_backup(store, tmp_path / "kept.zip", lambda _words, _share: None)
    restored(tmp_path / "again", tmp_path / "kept.zip")
    again = SalonStore(tmp_path / "again")
    assert [one.name for one in people(again).people] == ["Wren"]
    assert results_csv(again, person.id) == told
    again.close()


def test_two_tablets_that_ask_at_once_get_one_question(store: SalonStore, heads: PracticeHeads) -> None:
    person, found = take_in(store, "Wren"), []
    tablets = [
        threading.Thread(target=lambda: found.append(ask(store, heads, person.id, "bone").id))
        for _ in range(4)
    ]
    for tablet in tablets:
        tablet.start()
    for tablet in tablets:
        tablet.join()
    assert len(found) == 4
    assert len(set(found)) == 1


def test_one_head_serves_four_faults_and_the_next_is_another(store: SalonStore, heads: PracticeHeads) -> None:
    person, seeds = take_in(store, "Wren"), []
    for _ in range(8):
        question = ask(store, heads, person.id, "long_side")
        assert isinstance(question.asked, LongSideAsked)
        seeds.append(question.asked.head.seed)
        answer(store, heads, question.id, LongSideAnswer(zone="cheek", side="left", mm=3))
    assert len(set(seeds[:4])) == 1
    assert seeds[4] == seeds[7] != seeds[0]


def test_a_fault_fits_into_the_coat(store: SalonStore, heads: PracticeHeads) -> None:
    person = take_in(store, "Wren")
    for _ in range(4):
        question = ask(store, heads, person.id, "long_side")
        asked = question.asked
        assert isinstance(asked, LongSideAsked)
        room = heads.room_mm(asked.head, asked.family)
        assert asked.mm <= room[PLACES.index((asked.zone, asked.side))]
        depth, coat = heads.left_long_mm(asked), heads.head(asked.head).ground.coat.depth_mm
        outline = heads.fitted(asked.head, asked.family, SHORTER).outline
        assert (depth <= coat.clip(outline.leave_mm) + 1e-9).all()
        answer(store, heads, question.id, LongSideAnswer(zone="cheek", side="left", mm=3))


def test_a_plan_starts_from_the_hand_that_checks_have_told(
    store: SalonStore, heads: PracticeHeads, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The same plan by the same name: a jaw that its hand leaves long comes out longer."""
    person = take_in(store, "Oriel")
    question = ask(store, heads, person.id, "plan")
    asked = question.asked
    assert isinstance(asked, PlanAsked)
    zones = ("visor", "crown", "cheek", "jaw", "muzzle_side", "chin")
    given = PlanAnswer(
        family=asked.families[0],
        lengths=dict.fromkeys(zones, 12.0),
        tools=dict.fromkeys(zones, "comb"),
        order=zones,
    )
    steady = answer(store, heads, question.id, given)
    with store.session() as session:
        row = session.get(PracticeTaskRow, question.id)
        assert row is not None
        row.answer = row.told = row.answered = None
    lean = Bias("jaw", "right", 3.0, 2.0, 4.0, 9, told=True)
    monkeypatch.setattr(answering, "told_of_hand", lambda _session, name: (lean,) if name == "Oriel" else ())
    leaning = answer(store, heads, question.id, given)
    assert steady.cut is not None
    assert leaning.cut is not None
    jaw = heads.head(asked.head).ground.skin.in_zone("jaw", "right")
    assert (leaning.cut.depth_mm[jaw] >= steady.cut.depth_mm[jaw] - 1e-9).all()
    assert leaning.cut.depth_mm[jaw].mean() > steady.cut.depth_mm[jaw].mean() + 0.3


def test_a_name_is_one_person_however_it_is_written(store: SalonStore) -> None:
    first = take_in(store, "Wren")
    assert take_in(store, "  WREN ").id == first.id
    with store.reading() as session:
        assert session.query(PracticePersonRow).count() == 1


def test_three_sessions_tell_where_the_learner_misses(store: SalonStore) -> None:
    """After three sessions: which mark is set how far off, which side and zone is missed."""
    person = take_in(store, "Wren")
    with store.session() as session:
        # Questions are drawn from it: the same ones each time.
        session.query(PracticePersonRow).update({"uid": "wren"})
    learner = Learner(store, person.id)
    learner.practise("long_side", 36)
    learner.practise("bone", 12)
    drills = {one.drill: one for one in progress(store, person.id).progress.drills}
    assert len(drills["long_side"].points) == 3
    assert any("right jaw" in said for said in drills["long_side"].says)
    assert any("occiput" in said and "too low" in said for said in drills["bone"].says)


def test_an_answer_is_kept_as_it_was_told(store: SalonStore, heads: PracticeHeads) -> None:
    person = take_in(store, "Wren")
    question = ask(store, heads, person.id, "eye")
    shown = answer(store, heads, question.id, EyeAnswer(guess=_some_guess(question), within=10))
    with store.reading() as session:
        row = session.get(PracticeTaskRow, question.id)
        assert row is not None
        assert row.told == shown.told
        assert row.answered is not None


def _some_guess(question: Question) -> float:
    assert isinstance(question.asked, EyeAsked)
    return float(sum(RANGE[question.asked.measure]) / 2)
