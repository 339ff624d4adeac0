"""Measuring the head of the open visit: marks to measures, and where the marks not placed yet are."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import INDEX, View, guided_order
from dapwick.core.measures.bands import Proportion, proportions
from dapwick.core.measures.measure import Measure, measures_of
from dapwick.core.measures.unevenness import Unevenness, unevenness_of
from dapwick.core.solve.joint import HeadSolution, Unsolved
from dapwick.core.solve.observations import HeadInput, PlacedMark
from dapwick.core.solve.pose import MIN_MARKS
from dapwick.pipeline.head_model import solved_head
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.after.factors import factors_of
from dapwick.service.concurrency.budget import heavy
from dapwick.service.photos.kept_review import guessed_marks
from dapwick.service.photos.taking_in import slot_name
from dapwick.service.salon.bands import bands_of
from dapwick.service.visits.head_input import head_input_of
from dapwick.vision.guess import GuessedMark

SURE_SHARE: Final = 0.035
"""Of a photo's width: a mark expected more closely than this may be accepted with all others in one go."""


@dataclass(frozen=True)
class Ghost:
    """Where an unplaced mark is expected on a photo, px, how far off it may be (1 σ), and whether that is close
    enough to be accepted unseen. expected: by the solve alone, not by what the machine sees in the photo."""

    mark: str
    x_px: float
    y_px: float
    sigma_px: float
    sure: bool
    expected: bool


@dataclass(frozen=True)
class Measured:
    """The solve of a visit: measures, words and unevenness (empty when unsolved) and ghosts by photo id. wider: the
    salon's own factor on what is told of bone."""

    head: HeadSolution | Unsolved
    measures: tuple[Measure, ...]
    ghosts: dict[int, tuple[Ghost, ...]]
    photo_ids: dict[str, int]
    proportions: tuple[Proportion, ...] = ()
    unevenness: tuple[Unevenness, ...] = ()
    wider: float = 1.0


@heavy
def measure_visit(store: SalonStore, dog_id: int) -> Measured:
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        given, photos = head_input_of(visit), queries.photos_of(visit)
        ids = {slot_name(p): p.id for p in photos}
        views = {p.id: p.view for p in photos}
        there = {slot_name(p): set(p.marks) for p in photos}
        guesses = {slot_name(p): guessed_marks(p.looked) for p in photos if len(p.marks) < MIN_MARKS}
    head = _without_unmarked(solved_head(given), given)
    ghosts = _guessed_ghosts(given, guesses, ids, views)
    if isinstance(head, Unsolved):
        return Measured(head, (), ghosts, ids)
    ghosts |= {
        ids[p.name]: _ghosts(head, p.name, views[ids[p.name]], there[p.name], expected=True)
        for p in head.photos
        if ids[p.name] not in ghosts
    }
    wider = factors_of(store).get("bone", 1.0)
    measures = tuple(m.wider(wider) for m in measures_of(head))
    words = proportions(measures, bands_of(store))
    return Measured(head, measures, ghosts, ids, words, unevenness_of(head), wider)


NOTHING_MARKED: Final = Finding(
    "too_few_marks",
    "Nothing is marked yet. Place the eyes and the nose on a front and a side photo, or accept the suggestions.",
)


def _without_unmarked(head: HeadSolution | Unsolved, given: HeadInput) -> HeadSolution | Unsolved:
    """A photo that nobody has begun to mark is no fault; only where none is begun, that is told, once."""
    bare = {p.name for p in given.photos if not p.marks}
    findings = tuple(f for f in head.findings if f.code != "too_few_marks" or f.photo not in bare)
    if given.photos and len(bare) == len(given.photos):
        findings = (NOTHING_MARKED, *findings)
    return replace(head, findings=findings)


def _guessed_ghosts(
    given: HeadInput,
    guesses: Mapping[str, Mapping[str, GuessedMark]],
    ids: Mapping[str, int],
    views: Mapping[int, View],
) -> dict[int, tuple[Ghost, ...]]:
    """Ghosts on photos with too few marks of their own: the machine's guesses and the marks placed so far,
    solved together, each as sure as it is."""
    helped = [p for p in given.photos if guesses.get(p.name)]
    if not helped:
        return {}
    photos = tuple(
        replace(p, marks={m: _as_mark(g) for m, g in guesses.get(p.name, {}).items()} | dict(p.marks))
        for p in given.photos
    )
    head = solved_head(replace(given, photos=photos))
    if isinstance(head, Unsolved):
        return {}
    by_name = {p.name: p for p in given.photos}
    return {
        ids[p.name]: _ghosts(head, p.name, views[ids[p.name]], by_name[p.name].marks, expected=False)
        for p in helped
        if head.camera_of(p.name)
    }


def _as_mark(guess: GuessedMark) -> PlacedMark:
    return PlacedMark(guess.x_px, guess.y_px, sigma_px=guess.sigma_px)


def _ghosts(
    head: HeadSolution, photo: str, view: View, placed: Collection[str], expected: bool
) -> tuple[Ghost, ...]:
    """Marks not placed on a photo, where the head puts them."""
    camera = head.camera_of(photo)
    if camera is None:
        return ()
    taken = next(p for p in head.photos if p.name == photo)
    at = camera.project(head.points_mm)
    px_per_mm = camera.px_a_mm
    sigma = head.sigma_mm.mean(axis=1) * px_per_mm
    close_px = taken.width_px * SURE_SHARE
    return tuple(
        Ghost(
            m,
            x_px=float(at[INDEX[m], 0]),
            y_px=float(at[INDEX[m], 1]),
            sigma_px=float(sigma[INDEX[m]]),
            sure=bool(sigma[INDEX[m]] < close_px),
            expected=expected,
        )
        for m in guided_order(view)
        if m not in placed and np.isfinite(at[INDEX[m]]).all()
    )
