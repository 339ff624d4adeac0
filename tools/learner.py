"""Somebody who practises, simulated: marks the occiput too low, guesses a little little, misses the right jaw."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.practice import eye
from dapwick.core.practice.bone import Ray
from dapwick.core.practice.long_side import PLACES, chance_found
from dapwick.core.practice.next_drill import Drill
from dapwick.documents.practice import (
    Answered,
    BoneAnswer,
    BoneAsked,
    EyeAnswer,
    EyeAsked,
    LongSideAnswer,
    LongSideAsked,
    RayGiven,
)
from dapwick.records.store import SalonStore
from dapwick.service.practice.answering import answer
from dapwick.service.practice.asking import ask
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.practice.photographed import photographed

ALONG: Final = {"left": (1, 0, 0), "right": (-1, 0, 0), "front": (0, -1, 0), "top": (0, 0, -1)}
TOO_LOW_MM, MARKS_MM, MARKS_PX = 6.0, 4.0, 14.0
TOO_LITTLE, GUESSES = -0.08, 0.14
FINDS_MM, MISSES, MISSES_TO_MM = 2.6, ("jaw", "right"), 7.0
BETTER: Final = 0.985
"""From one answer to the next errors get smaller by this."""


class Learner:
    def __init__(self, store: SalonStore, person_id: int, seed: int = 4) -> None:
        self.store, self.person_id = store, person_id
        self.heads, self.rng, self.share = PracticeHeads(), np.random.default_rng(seed), 1.0

    def practise(self, drill: Drill, questions: int) -> None:
        """Answer so many questions of a drill, one after the other."""
        for _ in range(questions):
            question = ask(self.store, self.heads, self.person_id, drill)
            answer(self.store, self.heads, question.id, self._answer(question.asked))
            self.share *= BETTER

    def _answer(self, asked: object) -> Answered:
        if isinstance(asked, BoneAsked):
            return self._marks(asked)
        if isinstance(asked, EyeAsked):
            true = eye.measure_on(self.heads.head(asked.head), asked.measure)
            guess = true * np.exp(self.rng.normal(TOO_LITTLE, GUESSES * self.share))
            within = int(self.rng.choice(eye.SURE))
            return EyeAnswer(guess=float(np.clip(guess, *eye.RANGE[asked.measure])), within=within)
        if isinstance(asked, LongSideAsked):
            return self._place(asked)
        raise NotImplementedError("this learner marks, guesses and looks for the long side")

    def _marks(self, asked: BoneAsked) -> BoneAnswer:
        if asked.head is None:
            photo = photographed(asked.dog, asked.view)
            px = {
                mark: np.array(photo.marks_px[mark]) + self.rng.normal(0, MARKS_PX * self.share, 2)
                for mark in asked.marks
            }
            return BoneAnswer(px={mark: (float(at[0]), float(at[1])) for mark, at in px.items()})
        made, along = self.heads.head(asked.head), ALONG[asked.view]
        rays = {mark: self._ray(made.at(mark), along, mark == "occiput") for mark in asked.marks}
        return BoneAnswer(
            rays={m: RayGiven(start=tuple(r.start.tolist()), along=along) for m, r in rays.items()}
        )

    def _ray(self, true: Array, along: tuple[int, int, int], low: bool) -> Ray:
        at = true + self.rng.normal(0, MARKS_MM * self.share, 3) - [0, 0, TOO_LOW_MM * low]
        return Ray(at - 500.0 * np.array(along), np.array(along, dtype=float))

    def _place(self, asked: LongSideAsked) -> LongSideAnswer:
        here = (asked.zone, asked.side)
        finds = MISSES_TO_MM if here == MISSES else FINDS_MM * self.share
        found = self.rng.uniform() < chance_found(np.log(asked.mm), np.log(finds))
        at = PLACES.index(here)
        zone, side = here if found else PLACES[(at + 1 + int(self.rng.integers(7))) % len(PLACES)]
        mm = float(np.clip(round(asked.mm * np.exp(self.rng.normal(-0.25, 0.2))), 1, 12))
        return LongSideAnswer(zone=zone, side=side, mm=mm)
