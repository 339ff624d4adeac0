"""What the machine sees in one photo as soon as it is there: quality, scale card, first guesses, edge.

Works on the screen copy, which is sharp enough for all of it; everything is told in px of the photo.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import View, view_words
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.pose import fit_pose
from dapwick.core.solve.prior import general_prior
from dapwick.core.solve.scale_card import CardReading
from dapwick.pipeline.coat_edge import coat_edge
from dapwick.pipeline.sorting import SLOTS
from dapwick.vision.card import see_card
from dapwick.vision.edge import NoEdge
from dapwick.vision.guess import VERSION as GUESS_VERSION
from dapwick.vision.guess import Guess, GuessedMark, NoGuess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels
from dapwick.vision.quality import Quality, box_of, edge_findings, picture_findings, pose_findings, quality_of

VERSION: Final = f"look-1 {GUESS_VERSION}"
SURE_OF_ANOTHER_VIEW: Final = 0.8
Step = Callable[[str, float], None]
"""Told what is being done and the share done; it may raise to stop."""


@dataclass(frozen=True)
class Review:
    """findings say what is wrong with the photo; guess and edge are None where nothing could be found."""

    quality: Quality
    findings: tuple[Finding, ...]
    card: CardReading | None
    guess: Guess | None
    edge: Array | None


def review_photo(
    rgb: Pixels,
    name: str,
    view: View,
    photo_px: tuple[int, int],
    focal_px: float | None = None,
    step: Step = lambda words, share: None,
    seeds: Mapping[str, tuple[float, float]] | None = None,
) -> Review:
    """Everything that can be seen. photo_px: the original's size, which all px are told in. seeds: where
    marks are known or expected (photo px), better than guessed ones to look for the edge round."""
    scale = photo_px[0] / rgb.shape[1]
    step("looking for the scale card", 0.0)
    found = see_card(rgb)
    card = _card_in(found.reading, scale) if found else None
    step("looking for eyes and nose", 0.1)
    guess = guess_marks(rgb, view)
    known = {m: (x / scale, y / scale) for m, (x, y) in (seeds or {}).items()}
    around = known or _places(guess)
    told = _places(guess) or around
    quality = quality_of(rgb, box_of(told, 0.1) if told else None)
    findings = picture_findings(name, quality)
    chance = None
    if isinstance(guess, NoGuess):
        findings += [] if known else [_no_dog(name, guess)]
    else:
        chance = dog_chance(guess, rgb.shape[1], rgb.shape[0])
        findings += _view_findings(name, view, guess)
        findings += _stood(name, view, photo_px, focal_px, _guess_in(guess, scale))
    seen = None if isinstance(guess, NoGuess) else _guess_in(guess, scale)
    if not around:
        return Review(quality, tuple(findings), card, seen, None)
    step("following the coat's edge", 0.2)
    line = coat_edge(
        rgb,
        around,
        chance,
        found,
        lambda share: step("following the coat's edge", 0.2 + 0.75 * share),
        close=bool(known),
    )
    if isinstance(line, NoEdge):
        findings.append(Finding("edge_unsure", f"{name}: {line.reason}", name))
        return Review(quality, tuple(findings), card, seen, None)
    findings += edge_findings(name, rgb, line)
    return Review(quality, tuple(findings), card, seen, line * scale)


def _places(guess: Guess | NoGuess) -> dict[str, tuple[float, float]]:
    return {} if isinstance(guess, NoGuess) else {m: (at.x_px, at.y_px) for m, at in guess.marks.items()}


def _no_dog(name: str, guess: NoGuess) -> Finding:
    return Finding("no_dog_found", f"{name}: {guess.reason} Place the marks by hand.", name)


def _view_findings(name: str, view: View, guess: Guess) -> list[Finding]:
    likeliest = max(guess.view_chances, key=lambda v: guess.view_chances[v])
    if likeliest == view or guess.view_chances[likeliest] < SURE_OF_ANOTHER_VIEW:
        return []
    words = view_words(likeliest)
    message = f"{name}: this looks like a photo from the {words}. Move it, if so."
    return [Finding("wrong_view", message, name, view=likeliest if likeliest in SLOTS else None)]


def _stood(
    name: str, view: View, photo_px: tuple[int, int], focal_px: float | None, guess: Guess
) -> list[Finding]:
    """Findings from where the camera stood, by the guessed marks alone.

    The joint solve turns one photo's head well, but trades its size against its distance; how far off it
    is, a head of usual shape tells better.
    """
    photo = guessed_photo(name, view, photo_px, focal_px, guess.marks)
    head = solve_head(HeadInput((photo,)))
    if not isinstance(head, HeadSolution):
        return []
    usual = fit_pose(general_prior().mean_mm, photo, view)
    return pose_findings(name, view, head.cameras[0], float(usual.translation_mm[2]) if focal_px else None)


def guessed_photo(
    name: str,
    view: View,
    photo_px: tuple[int, int],
    focal_px: float | None,
    marks: Mapping[str, GuessedMark],
    card: CardReading | None = None,
) -> PhotoMarks:
    """A photo whose marks are guesses, each as unsure as it is."""
    placed = {m: PlacedMark(at.x_px, at.y_px, sigma_px=at.sigma_px) for m, at in marks.items()}
    return PhotoMarks(name, view, *photo_px, placed, focal_px, card=card)


def _guess_in(guess: Guess, scale: float) -> Guess:
    marks = {
        m: GuessedMark(a.x_px * scale, a.y_px * scale, a.sigma_px * scale) for m, a in guess.marks.items()
    }
    return Guess(guess.view, guess.view_chances, guess.wet_chance, marks, guess.dog)


def _card_in(card: CardReading, scale: float) -> CardReading:
    return CardReading(card.px_per_mm * scale, card.sigma, card.markers)
