"""The next question of a drill, chosen by what is least certain about the person."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final
from zlib import crc32

import numpy as np

from dapwick.core.basics.marks import View
from dapwick.core.practice import bone, eye, long_side, suits
from dapwick.core.practice.heads import VERSION, some_kind
from dapwick.core.practice.next_drill import A_SESSION, Drill
from dapwick.core.practice.progress import Done
from dapwick.documents.practice import (
    Asked,
    BoneAsked,
    EyeAsked,
    HeadKind,
    LongSideAsked,
    OfMadeHead,
    PlanAsked,
    SuitsAsked,
)
from dapwick.records import practice_queries
from dapwick.records.models import PracticeTaskRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.practice.history import answered, done_of
from dapwick.service.practice.photographed import every_photo

HEADS_A_SESSION: Final = 3
"""Of the long side: four faults on each head."""
LONG_SIDE_FAMILIES: Final = ("round", "teddy", "dome")
EVERY_THIRD: Final = 3
"""Of the heads to mark one in so many is a photographed dog."""
MADE_VIEWS: Final[tuple[View, ...]] = ("left", "front", "right", "top")
WEEKS: Final = (5, 6, 7, 8)


@dataclass(frozen=True)
class Question:
    """A question as it is kept. turn: which of the person's own in this drill."""

    id: int
    person_id: int
    drill: Drill
    turn: int
    asked: Asked

    @property
    def of_session(self) -> tuple[int, int]:
        """Which of how many in its session, from 1."""
        many = A_SESSION[self.drill]
        return self.turn % many + 1, many


@heavy
def ask(store: SalonStore, heads: PracticeHeads, person_id: int, drill: Drill) -> Question:
    """The person's open question of a drill, or the next one. What was asked is answered before anything else is: who
    reloads sees the same head."""
    with store.reading() as session:
        uid = practice_queries.person(session, person_id).uid
        waiting = practice_queries.open_task(session, person_id, drill)
        if waiting:
            return question_of(waiting)
        turn = practice_queries.turns(session, person_id, drill)
        done = done_of(answered(session, person_id))
    asked = _ASK[drill](heads, done, turn, seed_of(uid, drill, turn))
    with store.session() as session:
        waiting = practice_queries.open_task(session, person_id, drill)
        if waiting is None:
            waiting = PracticeTaskRow(
                person_id=person_id,
                drill=drill,
                turn=practice_queries.turns(session, person_id, drill),
                asked=asked,
                version=VERSION,
            )
            session.add(waiting)
            session.flush()
        return question_of(waiting)


def question(store: SalonStore, task_id: int) -> Question:
    with store.reading() as session:
        return question_of(practice_queries.task(session, task_id))


def question_of(row: PracticeTaskRow) -> Question:
    drill: Drill = row.asked.drill
    return Question(row.id, row.person_id, drill, row.turn, row.asked)


def seed_of(uid: str, drill: Drill, turn: int) -> int:
    return crc32(f"{uid} {drill} {turn}".encode())


def _bone(_heads: PracticeHeads, done: Done, turn: int, seed: int) -> Asked:
    rng = np.random.default_rng([seed, 5])
    misses = [miss for _, miss in done.misses]
    if turn % EVERY_THIRD == EVERY_THIRD - 1:
        photos = every_photo()
        dog, view = photos[int(rng.integers(len(photos)))]
        return BoneAsked(dog=dog, photo=view, view=view, marks=bone.marks_to_ask(view, misses, rng))
    view = MADE_VIEWS[(turn + turn // len(MADE_VIEWS)) % len(MADE_VIEWS)]
    return BoneAsked(head=_made(seed), view=view, marks=bone.marks_to_ask(view, misses, rng))


def _eye(heads: PracticeHeads, done: Done, _turn: int, seed: int) -> Asked:
    guesses, head = [guess for _, guess in done.guesses], _made(seed)
    measure = eye.measure_to_ask(guesses, heads.head(head), np.random.default_rng([seed, 5]))
    return EyeAsked(head=head, measure=measure)


def _long_side(heads: PracticeHeads, done: Done, turn: int, seed: int) -> Asked:
    each = A_SESSION["long_side"] // HEADS_A_SESSION
    key = LONG_SIDE_FAMILIES[turn // each % len(LONG_SIDE_FAMILIES)]
    # The head is the same for some turns: it is fitted once, and only the fault moves.
    head = _made(turn // each, muzzle="medium", coat_type="curl", coat_share=2.0, uneven=0.1)
    zone, side, mm = long_side.next_fault(
        long_side.eye_of(done.trials), np.random.default_rng([seed, 5]), heads.room_mm(head, key)
    )
    return LongSideAsked(head=head, family=key, zone=zone, side=side, mm=mm)


def _suits(_heads: PracticeHeads, _done: Done, _turn: int, seed: int) -> Asked:
    rng = np.random.default_rng([seed, 5])
    return SuitsAsked(
        head=_made(seed), families=suits.families_offered(rng), wish=int(rng.integers(len(suits.WISHES)))
    )


def _plan(_heads: PracticeHeads, _done: Done, _turn: int, seed: int) -> Asked:
    rng = np.random.default_rng([seed, 5])
    return PlanAsked(
        head=_made(seed, coat_share=1.4),
        families=suits.families_offered(rng),
        wish=int(rng.integers(len(suits.WISHES))),
        weeks=WEEKS[int(rng.integers(len(WEEKS)))],
    )


def _made(seed: int, **given: object) -> OfMadeHead:
    return OfMadeHead(seed=seed, kind=HeadKind.of(some_kind(seed, **given)))


_ASK: Final[dict[Drill, Callable[[PracticeHeads, Done, int, int], Asked]]] = {
    "bone": _bone,
    "eye": _eye,
    "long_side": _long_side,
    "suits": _suits,
    "plan": _plan,
}
