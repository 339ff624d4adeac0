"""A photo's traced edge: found by the machine, corrected by hand, found again; and the look that finds it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.core.pose import MIN_MARKS
from dapwick.core.solve import HeadSolution, solve_head
from dapwick.records import queries
from dapwick.records.models import PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.given import given_of
from dapwick.service.looking import Step, look_at, stored
from dapwick.service.photos import marks_of, slot_name
from dapwick.service.study import edge_seeds
from dapwick.service.versions import check_base
from dapwick.vision.brush import Point, brushed, checked_edge
from dapwick.vision.photo import read_photo

Line = list[list[float]]


def look(store: SalonStore, photo_id: int, step: Step) -> None:
    """Look at one photo and keep what was seen; an edge that is there already stays as it is."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        digest, name, view, state = row.content_hash, slot_name(row), row.view, row.state
        size, focal = (row.width_px, row.height_px), row.focal_px
        seeds = _seeds(row)
    screen = read_photo(store.screen_path(digest).read_bytes(), name)
    seen = look_at(screen.rgb, name, view, size, focal, step, seeds)  # type: ignore[arg-type]
    with store.session() as session:
        row = queries.photo(session, photo_id)
        if (row.view, row.state) != (view, state):
            return
        row.looked = stored(seen)
        if row.coat_edge is None and seen.edge is not None:
            # An edge that is there stays, by whomever it was drawn: results rest on it.
            row.coat_edge = np.round(seen.edge, 1).tolist()


def _seeds(row: PhotoRow) -> dict[str, tuple[float, float]]:
    """Where the marks are known or expected, photo px; empty before enough are placed."""
    if len(row.marks) < MIN_MARKS:
        return {}
    head = solve_head(given_of(row.visit))
    mine = marks_of(row)
    if not isinstance(head, HeadSolution):
        return {mark: (m.x_px, m.y_px) for mark, m in mine.marks.items()}
    return edge_seeds(head, mine)


def unlooked(store: SalonStore, dog_id: int) -> list[int]:
    """Photos of the open visit that nobody has looked at yet."""
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        return [p.id for p in visit.photos if p.removed is None and p.looked is None]


def edge_of(store: SalonStore, photo_id: int) -> Line | None:
    with store.reading() as session:
        return queries.photo(session, photo_id).coat_edge


def set_edge(store: SalonStore, photo_id: int, line: Sequence[Point], base: str | None = None) -> Line:
    """Keep an edge drawn by hand."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        checked = checked_edge(line, row.width_px, row.height_px)
        check_base(f"The edge on {slot_name(row)}", row.coat_edge, np.round(checked, 1).tolist(), base)
        return _kept(row, checked)


def brush_edge(
    store: SalonStore, photo_id: int, stroke: Sequence[Point], radius_px: float, add: bool
) -> Line:
    """Add to the dog, or take away from it, along a stroke."""
    path = np.asarray(stroke, dtype=float).reshape(-1, 2) if len(stroke) else np.zeros((0, 2))
    if not len(path) or not np.isfinite(path).all() or not radius_px > 0:
        raise BadInput(
            "brush stroke",
            expected="points and a radius above 0 px",
            got=f"{len(path)} points, {radius_px:g} px",
        )
    with store.session() as session:
        row = queries.photo(session, photo_id)
        line = np.asarray(row.coat_edge, dtype=float) if row.coat_edge else None
        return _kept(row, brushed(line, path, radius_px, add, row.width_px, row.height_px))


def forget_edge(store: SalonStore, photo_id: int) -> None:
    """Have the edge found again from the present marks, whether it was corrected or not."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        row.coat_edge, row.edge_by_hand = None, False


def _kept(row: PhotoRow, line: Array) -> Line:
    row.coat_edge, row.edge_by_hand = np.round(line, 1).tolist(), True
    return row.coat_edge
