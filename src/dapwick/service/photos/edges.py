"""A photo's traced edge: found by the machine, corrected by hand, found again; and the review that finds it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Final

import numpy as np
from sqlalchemy.orm import Session

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.pose import MIN_MARKS
from dapwick.documents.edge import EdgeDocument, Line
from dapwick.pipeline.coat_edge import edge_seeds
from dapwick.pipeline.head_model import solved_head
from dapwick.pipeline.review import Step, review_photo
from dapwick.records import queries
from dapwick.records.models import Beside, PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import HEAVY, heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.photos.kept_review import to_document
from dapwick.service.photos.taking_in import marks_of, screen_bytes, slot_name
from dapwick.service.visits.head_input import head_input_of
from dapwick.vision.chalk import Point, Stroke, checked_edge, checked_neck, followed
from dapwick.vision.photo import Pixels, read_photo
from dapwick.vision.trail import trailed

NO_EDGE_FINDINGS: Final = ("edge_unsure", "no_dog_found")


def review(store: SalonStore, photo_id: int, step: Step) -> None:
    """In nobody's hand, so it waits for its turn as long as it takes."""
    with HEAVY.turn(patient=True):
        _reviewed(store, photo_id, step)


def _reviewed(store: SalonStore, photo_id: int, step: Step) -> None:
    """Review one photo and keep what was seen; an edge that is there already stays as it is."""
    with store.reading() as session:
        row = queries.photo(session, photo_id)
        digest, name, view, state = row.content_hash, slot_name(row), row.view, row.state
        size, focal = (row.width_px, row.height_px), row.focal_px
        seeds = _seeds(row)
    screen = read_photo(screen_bytes(store, digest, name), name)
    seen = review_photo(screen.rgb, name, view, size, focal, step, seeds)
    with store.session() as session:
        row = queries.photo(session, photo_id)
        if (row.view, row.state) != (view, state):
            return
        row.looked = to_document(seen)
        if row.coat_edge is None and seen.edge is not None:
            # An edge that is there stays, by whomever it was drawn: results rest on it.
            row.coat_edge = np.round(seen.edge, 1).tolist()


def _seeds(row: PhotoRow) -> dict[str, tuple[float, float]]:
    """Where the marks are known or expected, photo px; empty before enough are placed."""
    if len(row.marks) < MIN_MARKS:
        return {}
    head = solved_head(head_input_of(row.visit))
    mine = marks_of(row)
    if not isinstance(head, HeadSolution):
        return {mark: (m.x_px, m.y_px) for mark, m in mine.marks.items()}
    return edge_seeds(head, mine)


def not_reviewed(store: SalonStore, dog_id: int) -> list[int]:
    """Photos of the open visit that were not reviewed yet."""
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        return [p.id for p in visit.photos if p.removed is None and p.looked is None]


def edge_of(store: SalonStore, photo_id: int) -> tuple[EdgeDocument, str]:
    """A photo's edge and its version."""
    with store.reading() as session:
        return _told(queries.photo(session, photo_id))


def set_edge(
    store: SalonStore,
    photo_id: int,
    line: Sequence[Point],
    base: str | None = None,
    neck: Sequence[Point] | None = None,
    beside: Beside | None = None,
) -> tuple[EdgeDocument, str]:
    """Keep an edge drawn by hand, and a line across the neck or none; returns them with their version. beside: what is
    written in the same change."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        size = row.width_px, row.height_px
        wanted = EdgeDocument(line=_rounded(checked_edge(line, *size)), neck=checked_neck(neck, *size))
        check_base(f"The edge on {slot_name(row)}", row.edge, wanted, base, row.content_hash)
        row.coat_edge, row.neck, row.edge_by_hand = wanted.line, wanted.neck, True
        if beside:
            beside(row.visit)
        return _told(row)


def follow_strokes(
    store: SalonStore, photo_id: int, drawn: Sequence[tuple[Sequence[Point], bool]]
) -> tuple[EdgeDocument, str]:
    """Have the edge follow the last of some chalk strokes (points px, on coat or not), the ones before holding."""
    strokes = [Stroke(_drawn(points), coat) for points, coat in drawn]
    if not strokes:
        raise BadInput("chalk stroke", expected="at least one", got="none")
    return _redrawn(store, photo_id, lambda rgb, line, size: followed(rgb, line, strokes, *size))


def follow_trail(store: SalonStore, photo_id: int, points: Sequence[Point]) -> tuple[EdgeDocument, str]:
    """Have the edge run along a trail (points px), where coat and ground part nearby."""
    trail = _drawn(points)
    return _redrawn(store, photo_id, lambda rgb, line, size: trailed(rgb, line, trail, *size))


@heavy
def _redrawn(
    store: SalonStore, photo_id: int, work: Callable[[Pixels, Array | None, tuple[int, int]], Array]
) -> tuple[EdgeDocument, str]:
    """An edge drawn on from the one that is there, worked out beside the records; where that has changed meanwhile, on
    top of the change. Returns it with its version."""

    def compute() -> tuple[Line | None, Array]:
        with store.reading() as session:
            row = queries.photo(session, photo_id)
            was, size = row.coat_edge, (row.width_px, row.height_px)
            digest, name = row.content_hash, slot_name(row)
        shown = read_photo(screen_bytes(store, digest, name), name).rgb
        return was, work(shown, np.asarray(was, dtype=float) if was else None, size)

    def write(session: Session, made: tuple[Line | None, Array]) -> tuple[EdgeDocument, str]:
        row = queries.photo(session, photo_id)
        row.coat_edge, row.edge_by_hand = _rounded(made[1]), True
        return _told(row)

    return compute_then_write(
        store, compute, lambda session, made: queries.photo(session, photo_id).coat_edge == made[0], write
    )


@heavy
def found_again(store: SalonStore, photo_id: int) -> Line:
    """The edge as the machine finds it from the present marks, beside the one that is there, which stays. Raises
    BadInput with the reason where it finds none."""
    with store.reading() as session:
        row = queries.photo(session, photo_id)
        digest, name, view = row.content_hash, slot_name(row), row.view
        size, focal, seeds = (row.width_px, row.height_px), row.focal_px, _seeds(row)
    screen = read_photo(screen_bytes(store, digest, name), name)
    seen = review_photo(screen.rgb, name, view, size, focal, seeds=seeds)
    if seen.edge is not None:
        return _rounded(seen.edge)
    why = [f.message for f in seen.findings if f.code in NO_EDGE_FINDINGS]
    raise BadInput(
        "no edge found",
        expected="a dog that stands out from its ground",
        got=" ".join(why) or "nothing of the kind",
        where=name,
        remedy="Place four marks or more, or trace the edge by hand.",
    )


def _drawn(points: Sequence[Point]) -> Array:
    drawn = np.asarray(points, dtype=float).reshape(-1, 2)
    if not len(drawn) or not np.isfinite(drawn).all():
        raise BadInput("stroke on a photo", expected="points on the photo", got="one without points")
    return drawn


def _rounded(line: Array) -> Line:
    rounded: Line = np.round(line, 1).tolist()
    return rounded


def _told(row: PhotoRow) -> tuple[EdgeDocument, str]:
    return row.edge, version_of(row.edge, row.content_hash)
