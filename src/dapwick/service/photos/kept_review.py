"""A photo's review as it is kept with the photo, and what is read of a kept one."""

from __future__ import annotations

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.solve.scale_card import CardReading
from dapwick.documents.head_file import CardEntry
from dapwick.documents.review import GuessDocument, ReviewDocument, SeenFinding
from dapwick.pipeline.review import VERSION, Review
from dapwick.vision.guess import Guess, GuessedMark, dog_chance


def to_document(review: Review) -> ReviewDocument:
    """What is kept of a review (the edge has its own column)."""
    card = review.card
    return ReviewDocument(
        version=VERSION,
        quality={k: round(v, 4) for k, v in vars(review.quality).items()},
        findings=[SeenFinding(code=f.code, message=f.message, view=f.view) for f in review.findings],
        card=CardEntry.model_validate({k: round(v, 5) for k, v in vars(card).items()}) if card else None,
        guess=_guess_document(review.guess) if review.guess else None,
    )


def _guess_document(guess: Guess) -> GuessDocument:
    return GuessDocument(
        view=guess.view,
        wet_chance=round(guess.wet_chance, 3),
        marks={m: (round(a.x_px, 1), round(a.y_px, 1), round(a.sigma_px, 2)) for m, a in guess.marks.items()},
        dog=np.round(guess.dog, 2).tolist(),
    )


def guessed_marks(kept: ReviewDocument | None) -> dict[str, GuessedMark]:
    """The guesses of a stored review; none where it saw no head."""
    guess = kept.guess if kept else None
    return {m: GuessedMark(*at) for m, at in guess.marks.items()} if guess else {}


def scale_card_of(kept: ReviewDocument | None) -> CardReading | None:
    card = kept.card if kept else None
    return CardReading(card.px_per_mm, card.sigma, card.markers) if card else None


def chance_of(kept: ReviewDocument | None, width: int, height: int) -> Array | None:
    """The stored chance of dog, over a picture of this size."""
    guess = kept.guess if kept else None
    if guess is None or guess.dog is None:
        return None
    return dog_chance(Guess("front", {}, 0.0, {}, np.asarray(guess.dog, dtype=float)), width, height)
