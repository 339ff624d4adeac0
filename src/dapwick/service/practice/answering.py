"""An answer judged, kept, and all that is shown after it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Final

import numpy as np

from dapwick.core.after.coming import Event, coming, left_as
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.sheet import cut_sheet
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.plan.finished import grown
from dapwick.core.practice import bone, eye, long_side, suits, whole_plan
from dapwick.core.practice.eye import Guess
from dapwick.core.practice.next_drill import A_SESSION
from dapwick.documents.practice import (
    Answered,
    BoneAnswer,
    BoneAsked,
    BoneTold,
    EyeAnswer,
    EyeAsked,
    EyeTold,
    FaultKept,
    LongSideAnswer,
    LongSideAsked,
    LongSideTold,
    MissKept,
    PlanAnswer,
    PlanAsked,
    PlanTold,
    SuitsAnswer,
    SuitsAsked,
    SuitsTold,
    Told,
)
from dapwick.pipeline.practice import checked_against
from dapwick.records import practice_queries
from dapwick.records.models import now
from dapwick.records.store import SalonStore
from dapwick.service.after.hands import not_told, told_of_hand
from dapwick.service.concurrency.budget import heavy
from dapwick.service.practice.asking import Question, question_of
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.practice.history import answered, done_of, trial_of
from dapwick.service.practice.photographed import photographed
from dapwick.service.salon.kit import kit_of

MOST_FAULTS: Final = 8


@dataclass(frozen=True)
class CutShown:
    """How a simulated cut came out: depths (V,) and ears (2·E, 3) mm on the day and after the weeks asked."""

    depth_mm: Array
    ears_mm: Array
    later_mm: Array
    later_ears_mm: Array


@dataclass(frozen=True)
class Shown:
    """What is shown once a question is answered. marks_mm, marks_px: where asked marks truly are, or the place that
    is long; lines: more
    sentences; right: the fit's order of outlines, or the sheet's of zones; lengths_mm: by zone, the outline's own."""

    told: Told
    marks_mm: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    marks_px: dict[str, tuple[float, float]] = field(default_factory=dict)
    lines: tuple[str, ...] = ()
    right: tuple[str, ...] = ()
    lengths_mm: dict[str, float] = field(default_factory=dict)
    cut: CutShown | None = None


@heavy
def answer(store: SalonStore, heads: PracticeHeads, task_id: int, given: Answered) -> Shown:
    """Judge an answer and keep it. What was answered once stays: a second answer gets what the first was told."""
    with store.reading() as session:
        row = practice_queries.task(session, task_id)
        question, before = question_of(row), row.answer
        name = row.person.name
    told_before = before is not None
    shown = _judged(store, heads, question, before or given, name)
    if told_before:
        return shown
    with store.session() as session:
        row = practice_queries.task(session, task_id)
        if row.answered is None:
            row.answer, row.told, row.answered = given, shown.told, now()
    return shown


def _judged(store: SalonStore, heads: PracticeHeads, question: Question, given: Answered, name: str) -> Shown:
    asked = question.asked
    if isinstance(asked, BoneAsked) and isinstance(given, BoneAnswer):
        return _bone(heads, asked, given)
    if isinstance(asked, EyeAsked) and isinstance(given, EyeAnswer):
        return _eye(heads, asked, given)
    if isinstance(asked, LongSideAsked) and isinstance(given, LongSideAnswer):
        trial = trial_of(asked, given, question.turn // A_SESSION["long_side"])
        here = {"long": _three(heads.middle_mm(asked))}
        return Shown(LongSideTold(found=trial.found, words=trial.words), marks_mm=here)
    if isinstance(asked, SuitsAsked) and isinstance(given, SuitsAnswer):
        return _suits(heads, asked, given)
    if isinstance(asked, PlanAsked) and isinstance(given, PlanAnswer):
        return _plan(store, heads, question, asked, given, name)
    raise BadInput(
        "an answer", expected=f"one to {asked.drill}", got=f"one to {given.drill}", where="practice"
    )


def _bone(heads: PracticeHeads, asked: BoneAsked, given: BoneAnswer) -> Shown:
    set_marks = given.px if asked.head is None else given.rays
    if set(set_marks) != set(asked.marks):
        expected = f"a place for each of {', '.join(asked.marks)}"
        raise BadInput(
            "marks to set", expected=expected, got=", ".join(set_marks) or "none", where="find the bone"
        )
    if asked.head is None:
        photo = photographed(asked.dog, asked.view)
        true = {mark: photo.marks_mm[mark] for mark in asked.marks}
        rays = {mark: photo.ray(given.px[mark]) for mark in asked.marks}
        px = {mark: photo.marks_px[mark] for mark in asked.marks}
    else:
        made = heads.head(asked.head)
        true = {mark: made.at(mark) for mark in asked.marks}
        rays, px = {mark: given.rays[mark].ray() for mark in asked.marks}, {}
    misses = [bone.miss_of(mark, rays[mark], true[mark]) for mark in asked.marks]
    kept = tuple(MissKept.model_validate(vars(miss) | {"ways": dict(miss.ways)}) for miss in misses)
    places = {mark: _three(at) for mark, at in true.items()}
    return Shown(BoneTold(misses=kept), marks_mm=places, marks_px=px)


def _three(at: Array) -> tuple[float, float, float]:
    return float(at[0]), float(at[1]), float(at[2])


def _eye(heads: PracticeHeads, asked: EyeAsked, given: EyeAnswer) -> Shown:
    made = heads.head(asked.head)
    guess = Guess(asked.measure, given.guess, given.within, eye.measure_on(made, asked.measure))
    ends = {mark: _three(made.at(mark)) for mark in eye.QUESTIONS[asked.measure][1]}
    return Shown(EyeTold(true=guess.true, words=guess.words), marks_mm=ends, lines=(_held(guess),))


def _held(guess: Guess) -> str:
    return f"You said within {guess.within} %: {'it was' if guess.held else 'it was not'}."


def _suits(heads: PracticeHeads, asked: SuitsAsked, given: SuitsAnswer) -> Shown:
    wishes = suits.WISHES[asked.wish].wishes
    offers = [heads.offer(asked.head, key, wishes) for key in asked.families]
    ranked = suits.ranked(offers, given.order, given.why)
    by_id = {offer.family: offer for offer in offers}
    told = SuitsTold(
        right=ranked.right, pairs=ranked.pairs, why=ranked.why, why_right=ranked.why_right, words=ranked.words
    )
    lines = [_weighed(by_id[key]) for key in ranked.best]
    lines += [
        f"{by_id[a].name} and {by_id[b].name}: too close to tell, both orders count." for a, b in ranked.even
    ]
    return Shown(told, lines=tuple(lines), right=ranked.best)


def _weighed(offer: suits.Offer) -> str:
    """What an outline is on this head, and what speaks most against it."""
    if max(offer.against.values()) < suits.LITTLE:
        return f"{offer.verdict.called}: little speaks against it."
    return f"{offer.verdict.called}: {' or '.join(suits.REASONS[reason] for reason in offer.reasons)}."


def _plan(
    store: SalonStore,
    heads: PracticeHeads,
    question: Question,
    asked: PlanAsked,
    given: PlanAnswer,
    name: str,
) -> Shown:
    made = given.made()
    if made.family not in asked.families:
        raise BadInput("outline", expected=", ".join(asked.families), got=made.family, where="the whole plan")
    wishes = suits.WISHES[asked.wish].wishes
    fitted = heads.fitted(asked.head, made.family, wishes)
    sheet = cut_sheet(case_of(fitted.outline, fitted.zones))
    person = _person(store, question.person_id, name)
    rng = np.random.default_rng([asked.head.seed, 6])
    cut = whole_plan.simulated(fitted.outline, fitted.zones, sheet, made, person, rng)
    found = checked_against(fitted.outline, cut.off_mm)
    faults = whole_plan.faults_of(cut, found)
    planned = [z for z in found.zones if z.zone in whole_plan.ASKED]
    off_mm = float(np.sqrt(np.mean([z.hair_mm**2 for z in planned]))) if planned else 0.0
    kept = tuple(FaultKept.model_validate(vars(fault)) for fault in faults[:MOST_FAULTS])
    words = (
        f"{len(faults)} {'place' if len(faults) == 1 else 'places'} off" if faults else "True to the outline"
    )
    told = PlanTold(off_mm=off_mm, faults=kept, words=f"{words}; {off_mm:.1f} mm all in all.")
    left = left_as(fitted.outline, cut.off_mm)
    later, later_ears = grown(left, asked.weeks)
    return Shown(
        told,
        lines=_plan_lines(heads, asked, made.family, coming(left, wishes=wishes, checked=True).events, cut),
        right=cut.best_order,
        lengths_mm=dict(cut.best_mm),
        cut=CutShown(left.leave_mm, np.concatenate(ears_cut(left)), later, np.concatenate(later_ears)),
    )


def _person(store: SalonStore, person_id: int, name: str) -> whole_plan.Person:
    """Whose plan is cut: their eye as they practised it, their hand as checks of real heads have told it."""
    quiet = name in not_told(store)
    with store.reading() as session:
        seen = long_side.eye_of(done_of(answered(session, person_id)).trials)
        biases = () if quiet else told_of_hand(session, name)
        kit, _ = kit_of(session)
    return whole_plan.Person(seen, {(bias.zone, bias.side): bias.mm for bias in biases}, kit)


def _plan_lines(
    heads: PracticeHeads, asked: PlanAsked, family: str, events: Sequence[Event], cut: whole_plan.SimulatedCut
) -> tuple[str, ...]:
    """What the outline that was chosen is on this head, what shows before the weeks are over, and what was cut out of
    its turn."""
    wishes = suits.WISHES[asked.wish].wishes
    offers = {key: heads.offer(asked.head, key, wishes) for key in asked.families}
    best = min(offers.values(), key=lambda one: one.verdict.rank)
    chosen = offers[family]
    if chosen.verdict.rank - best.verdict.rank < suits.UNSURE:
        lines = [f"{chosen.name} is what suits him best of the three."]
    else:
        why = " and ".join(suits.REASONS[reason] for reason in chosen.reasons)
        lines = [f"{best.name} suits him better: against {chosen.name}, {why}."]
    soon = [event for event in events if event.minded and event.weeks < asked.weeks]
    lines += [f"In week {event.weeks:.0f} {event.words}; {asked.weeks} were asked for." for event in soon]
    if not soon:
        lines.append(f"Nothing the owner minds shows before {asked.weeks} weeks.")
    lines += [
        f"The {zone_words(zone)} waits for the {zone_words(first)}." for zone, first in cut.late.items()
    ]
    return tuple(lines)
