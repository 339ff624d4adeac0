"""A photo's traced edge: found by the machine, corrected by hand, found again; and the review that finds it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.pose import MIN_MARKS
from dapwick.pipeline.coat_edge import edge_seeds
from dapwick.pipeline.head_model import solved_head
from dapwick.pipeline.review import Step, review_photo
from dapwick.records import queries
from dapwick.records.models import PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import HEAVY, heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.photos.kept_review import to_document
from dapwick.service.photos.taking_in import marks_of, screen_bytes, slot_name
from dapwick.service.visits.head_input import head_input_of
from dapwick.vision.chalk import Point, Stroke, checked_edge, followed
from dapwick.vision.photo import read_photo

Line = list[list[float]]


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


def edge_of(store: SalonStore, photo_id: int) -> tuple[Line | None, str]:
    """A photo's edge and its version."""
    with store.reading() as session:
        row = queries.photo(session, photo_id)
        return row.coat_edge, version_of(row.coat_edge, row.content_hash)


def set_edge(
    store: SalonStore, photo_id: int, line: Sequence[Point], base: str | None = None
) -> tuple[Line, str]:
    """Keep an edge drawn by hand; returns it with its version."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        checked = checked_edge(line, row.width_px, row.height_px)
        wanted = np.round(checked, 1).tolist()
        check_base(f"The edge on {slot_name(row)}", row.coat_edge, wanted, base, row.content_hash)
        return _kept(row, checked)


@heavy
def follow_strokes(
    store: SalonStore, photo_id: int, drawn: Sequence[tuple[Sequence[Point], bool]]
) -> tuple[Line, str]:
    """Have the edge follow the last of some chalk strokes (points px, on coat or not), the ones before holding; returns
    it with its version. Worked out beside the records; where the edge has changed meanwhile, on top of that change."""
    strokes = [Stroke(np.asarray(points, dtype=float).reshape(-1, 2), coat) for points, coat in drawn]
    if not strokes or not all(len(s.points_px) and np.isfinite(s.points_px).all() for s in strokes):
        raise BadInput("chalk stroke", expected="points on the photo", got="one without points")

    def compute() -> tuple[Line | None, Array]:
        with store.reading() as session:
            row = queries.photo(session, photo_id)
            was, size = row.coat_edge, (row.width_px, row.height_px)
            digest, name = row.content_hash, slot_name(row)
        shown = read_photo(screen_bytes(store, digest, name), name).rgb
        line = np.asarray(was, dtype=float) if was else None
        return was, followed(shown, line, strokes, *size)

    return compute_then_write(
        store,
        compute,
        lambda session, made: queries.photo(session, photo_id).coat_edge == made[0],
        lambda session, made: _kept(queries.photo(session, photo_id), made[1]),
    )


def forget_edge(store: SalonStore, photo_id: int) -> None:
    """Have the edge found again from the present marks, whether it was corrected or not."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        row.coat_edge, row.edge_by_hand = None, False


def _kept(row: PhotoRow, line: Array) -> tuple[Line, str]:
    row.coat_edge, row.edge_by_hand = np.round(line, 1).tolist(), True
    return row.coat_edge, version_of(row.coat_edge, row.content_hash)
