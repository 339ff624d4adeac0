"""Measuring and planning the open visit of a dog."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass, replace
from threading import Lock
from typing import Any, Final

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.core.findings import Finding
from dapwick.core.head.coat import CoatProbe
from dapwick.core.marks import INDEX, guided_order
from dapwick.core.measures import Measure, measures_of
from dapwick.core.observations import HeadInput, PlacedMark
from dapwick.core.outlines.families import family
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import VERSION as FIT_VERSION
from dapwick.core.pose import MIN_MARKS
from dapwick.core.solve import VERSION as SOLVE_VERSION
from dapwick.core.solve import HeadSolution, Unsolved, solve_head
from dapwick.records import queries
from dapwick.records.models import OutlineRow, PhotoRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.dogs import saved_card
from dapwick.service.looking import chance_of, guessed_marks
from dapwick.service.photos import given_of, marks_of, slot_name
from dapwick.service.planning import FittedGround, Plan, coat_edge_of, fitted_ground, needs_coat, plan_on
from dapwick.vision.edge import NoEdge
from dapwick.vision.guess import GuessedMark
from dapwick.vision.photo import read_photo

KEPT_GROUNDS: Final = 8


@dataclass(frozen=True)
class Ghost:
    """Where an unplaced mark is expected on a photo, px, and how far off it may be (1 σ)."""

    mark: str
    x_px: float
    y_px: float
    sigma_px: float


@dataclass(frozen=True)
class Measured:
    """The solve of a visit: measures (empty when unsolved) and ghosts by photo id."""

    head: HeadSolution | Unsolved
    measures: tuple[Measure, ...]
    ghosts: dict[int, tuple[Ghost, ...]]
    photo_ids: dict[str, int]


def measure_visit(store: SalonStore, dog_id: int) -> Measured:
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        given, photos = given_of(visit), queries.photos_of(visit)
        ids = {slot_name(p): p.id for p in photos}
        views = {p.id: p.view for p in photos}
        guesses = {slot_name(p): guessed_marks(p.looked) for p in photos if len(p.marks) < MIN_MARKS}
    head = _without_unmarked(solve_head(given), given)
    ghosts = _guessed_ghosts(given, guesses, ids, views)
    if isinstance(head, Unsolved):
        return Measured(head, (), ghosts, ids)
    ghosts |= {
        ids[p.name]: _ghosts(head, p.name, views[ids[p.name]])
        for p in head.photos
        if ids[p.name] not in ghosts
    }
    return Measured(head, measures_of(head), ghosts, ids)


NOTHING_MARKED: Final = Finding(
    "too_few_marks",
    "Nothing is marked yet. Place the eyes and the nose on a front and a side photo, or take the expected places.",
)


def _without_unmarked(head: HeadSolution | Unsolved, given: HeadInput) -> HeadSolution | Unsolved:
    """A photo that nobody has begun to mark is no fault; only where none is begun, that is told, once."""
    bare = {p.name for p in given.photos if not p.marks}
    told = tuple(f for f in head.findings if f.code != "too_few_marks" or f.photo not in bare)
    if given.photos and len(bare) == len(given.photos):
        told = (NOTHING_MARKED, *told)
    return replace(head, findings=told)


def _guessed_ghosts(
    given: HeadInput,
    guesses: Mapping[str, Mapping[str, GuessedMark]],
    ids: Mapping[str, int],
    views: Mapping[int, str],
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
    head = solve_head(replace(given, photos=photos))
    if isinstance(head, Unsolved):
        return {}
    by_name = {p.name: p for p in given.photos}
    return {
        ids[p.name]: _ghosts(head, p.name, views[ids[p.name]], by_name[p.name].marks)
        for p in helped
        if head.camera_of(p.name)
    }


def _as_mark(guess: GuessedMark) -> PlacedMark:
    return PlacedMark(guess.x_px, guess.y_px, sigma_px=guess.sigma_px)


def _ghosts(
    head: HeadSolution, photo: str, view: str, placed: Mapping[str, PlacedMark] | None = None
) -> tuple[Ghost, ...]:
    """Marks not placed on a photo, where the head puts them."""
    camera = head.camera_of(photo)
    if placed is None:
        placed = next(p.marks for p in head.photos if p.name == photo)
    if camera is None:
        return ()
    at = camera.project(head.points_mm)
    px_per_mm = camera.focal_px / camera.distance_mm
    sigma = head.sigma_mm.mean(axis=1) * px_per_mm
    return tuple(
        Ghost(m, float(at[INDEX[m], 0]), float(at[INDEX[m], 1]), float(sigma[INDEX[m]]))
        for m in guided_order(view)
        if m not in placed and np.isfinite(at[INDEX[m]]).all()
    )  # type: ignore[arg-type]


@dataclass(frozen=True)
class Planned:
    """A plan, the ground it stands on, the hash of its inputs, and photo ids by name."""

    plan: Plan
    ground: FittedGround
    inputs_hash: str
    photo_ids: dict[str, int]


class Planner:
    """Keeps the last few grounds, so that dragging a slider only redraws. Safe across threads."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._grounds: OrderedDict[str, FittedGround] = OrderedDict()
        self._lock = Lock()

    def plan(self, dog_id: int, family_id: str, params: Mapping[str, Any], moving: bool = False) -> Planned:
        """The plan at these parameters and what it rests on."""
        # Refused before anything is traced or stored.
        family(family_id).checked(params)
        key, ground, ids = self._ground(dog_id, family_id)
        return Planned(plan_on(ground, params, moving), ground, key, ids)

    def save(
        self, dog_id: int, family_id: str, params: Mapping[str, Any], schools: Mapping[str, str]
    ) -> dict[str, Any]:
        """Keep this plan with the visit."""
        chosen = settle_schools(family(family_id), schools)
        planned = self.plan(dog_id, family_id, params)
        plan = planned.plan
        with self.store.session() as session:
            row = OutlineRow(
                family=family_id,
                params=dict(plan.outline.params),
                schools=chosen,
                inputs_hash=planned.inputs_hash,
                zones=[
                    {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()}
                    for z in plan.zones
                ],
                version=f"{SOLVE_VERSION} {FIT_VERSION}",
            )
            visit = queries.visit_today(session, dog_id)
            visit.outlines.append(row)
            session.flush()
            return saved_card(row)

    def _ground(self, dog_id: int, family_id: str) -> tuple[str, FittedGround, dict[str, int]]:
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            key = _inputs_hash(visit, family_id)
            ids = {slot_name(p): p.id for p in queries.photos_of(visit)}
        with self._lock:
            if key in self._grounds:
                self._grounds.move_to_end(key)
                return key, self._grounds[key], ids
        ground = self._made(dog_id, family_id)
        with self.store.session() as session:
            key = _inputs_hash(queries.visit_today(session, dog_id), family_id)
        with self._lock:
            self._grounds[key] = ground
            while len(self._grounds) > KEPT_GROUNDS:
                self._grounds.popitem(last=False)
        return key, ground, ids

    def _made(self, dog_id: int, family_id: str) -> FittedGround:
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            given, coat_type = given_of(visit), visit.dog.coat
            rows = [p for p in queries.photos_of(visit) if p.state == "dry"]
            probes = tuple(
                CoatProbe(p["zone"], p.get("side"), p["depth_mm"], p.get("length_mm"))
                for p in visit.coat_probes
            )
        head = solve_head(given)
        if isinstance(head, Unsolved):
            told = " ".join(f.message for f in head.findings) or "No photo is marked yet."
            raise BadInput(
                "the head is not measured yet",
                expected="two photos with marks",
                got=told,
                where="outline",
                remedy="Go back to Marks.",
            )
        edges, notes = self._edges(head, rows)
        needs_coat(edges, probes)
        return fitted_ground(head, coat_type, edges, probes, family_id, notes)

    def _edges(self, head: HeadSolution, rows: list[PhotoRow]) -> tuple[dict[str, Array], list[str]]:
        """Coat edges by photo name; those not traced yet are traced and kept."""
        edges: dict[str, Array] = {}
        notes = []
        for row in rows:
            if head.camera_of(slot_name(row)) is None:
                continue
            line = np.array(row.coat_edge) if row.coat_edge else self._traced(head, row)
            if isinstance(line, NoEdge):
                notes.append(f"{slot_name(row)}: {line.reason}")
            else:
                edges[slot_name(row)] = line
        return edges, notes

    def _traced(self, head: HeadSolution, row: PhotoRow) -> Array | NoEdge:
        data = self.store.photo_path(row.content_hash).read_bytes()
        rgb = read_photo(data, row.file_name).rgb
        line = coat_edge_of(head, marks_of(row), rgb, chance_of(row.looked, row.width_px, row.height_px))
        if not isinstance(line, NoEdge):
            with self.store.session() as session:
                queries.photo(session, row.id).coat_edge = np.round(line, 1).tolist()
        return line


def _inputs_hash(visit: VisitRow, family_id: str) -> str:
    inputs = [
        family_id,
        visit.dog.coat,
        visit.hand_measures,
        visit.coat_probes,
        SOLVE_VERSION,
        FIT_VERSION,
        [
            [p.content_hash, p.view, p.state, p.marks, p.coat_edge, (p.looked or {}).get("card")]
            for p in queries.photos_of(visit)
        ],
    ]
    return hashlib.sha256(json.dumps(inputs, sort_keys=True).encode()).hexdigest()
