"""Plans of the open visit, redrawn as sliders move."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from threading import Lock
from typing import Any, Final

import numpy as np
from sqlalchemy.orm import Session

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import VERSION as FIT_VERSION
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.solve import VERSION as SOLVE_VERSION
from dapwick.core.solve import HeadSolution, Unsolved, solve_head
from dapwick.records import queries
from dapwick.records.models import OutlineRow, PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.cards import kept_setting_of, saved_card, versions_of
from dapwick.service.dogs import check_part
from dapwick.service.drawing import HeadDrawing, drawing_of
from dapwick.service.given import given_of, probes_of
from dapwick.service.heavy import heavy
from dapwick.service.kept import Kept, hash_of
from dapwick.service.kit import kit_of
from dapwick.service.looking import chance_of
from dapwick.service.photos import marks_of, slot_name
from dapwick.service.planning import FittedGround, Plan, fit_on, plan_on, thumb_on
from dapwick.service.rests_on import geometry_hash, rests_on
from dapwick.service.slow_write import compute_then_write
from dapwick.service.study import Study, coat_edge_of, edges_on, needs_coat, skin_and_coat, study_of
from dapwick.service.variants import family_of
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo

KEPT_STUDIES: Final = 6
KEPT_FITS: Final = 80


@dataclass(frozen=True)
class Asked:
    """One setting to draw: family's key, what was turned, schools chosen; moving: a slider is on its way."""

    family: str
    params: Mapping[str, Any] = field(default_factory=dict)
    schools: Mapping[str, str] = field(default_factory=dict)
    moving: bool = False
    weeks_ahead: float = 0.0


@dataclass(frozen=True)
class Planned:
    """A plan, the ground it stands on, the hash of its inputs, photo ids by name, and the wishes it was fitted to."""

    plan: Plan
    ground: FittedGround
    inputs_hash: str
    photo_ids: dict[str, int]
    wishes: Wishes


class Planner:
    """Keeps the last few studies and fits, so that dragging a slider only redraws."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._studies: Kept[Study] = Kept(KEPT_STUDIES)
        self._fits: Kept[FittedGround] = Kept(KEPT_FITS)
        self._making = Lock()

    @heavy
    def plan(self, dog_id: int, asked: Asked) -> Planned:
        """The plan at this setting and what it rests on."""
        key, fitted, ids, wishes = self._fitted(dog_id, asked)
        with self.store.reading() as session:
            kit, _ = kit_of(session)
        plan = plan_on(fitted, asked.params, asked.moving, asked.weeks_ahead, kit)
        return Planned(plan, fitted, key, ids, wishes)

    def _fitted(self, dog_id: int, asked: Asked) -> tuple[str, FittedGround, dict[str, int], Wishes]:
        chosen = family_of(self.store, asked.family)
        # Refused before anything is traced or stored.
        chosen.checked(asked.params)
        settle_schools(chosen, asked.schools)
        key, study, ids, wishes = self._study(dog_id)
        settled = settle_schools(chosen, asked.schools, study.ground.coat_type)
        fit_key = hash_of([key, asked.family, settled, vars(wishes), [p.default for p in chosen.parameters]])
        fitted = self._fits.get(fit_key) or self._fits.put(fit_key, fit_on(study, chosen, settled, wishes))
        return key, fitted, ids, wishes

    @heavy
    def thumb(self, dog_id: int, key: str) -> Planned:
        """An outline as it is fitted, with its verdict and aligned views; nothing is drawn over photos."""
        fit_key, fitted, ids, wishes = self._fitted(dog_id, Asked(key))
        return Planned(thumb_on(fitted), fitted, fit_key, ids, wishes)

    def inputs(self, dog_id: int) -> str:
        """The hash of what the open visit's plans rest on, wishes among it."""
        key, _, wishes = self._inputs(dog_id)
        return hash_of([key, vars(wishes)])

    @heavy
    def study(self, dog_id: int) -> tuple[str, Study]:
        """The open visit's head studied, under the hash of what it rests on."""
        key, study, _, _ = self._study(dog_id)
        return key, study

    def save(self, dog_id: int, asked: Asked, base: str | None = None) -> tuple[dict[str, Any], str]:
        """Keep this plan with the visit; returns it with its version. base: the version of what was kept before, as
        it was seen. A plan is kept with what it was made from: where that has changed meanwhile, it is made anew."""

        def holds(session: Session, planned: Planned) -> bool:
            visit = queries.visit_today(session, dog_id)
            return (
                geometry_hash(rests_on(visit)) == planned.inputs_hash
                and Wishes(**visit.wishes) == planned.wishes
            )

        def write(session: Session, planned: Planned) -> tuple[dict[str, Any], str]:
            visit = queries.visit_today(session, dog_id)
            row = _kept_row(asked, planned, rests_on(visit))
            check_part(visit.dog, "outline", [visit.id, kept_setting_of(row)], base)
            visit.outlines.append(row)
            session.flush()
            return saved_card(row), versions_of(visit)["outline"]

        return compute_then_write(self.store, lambda: self.plan(dog_id, asked), holds, write)

    @heavy
    def drawing(self, dog_id: int) -> HeadDrawing | None:
        """The head of the open visit drawn from its numbers; None before it is measured. Edges count as far as
        they were traced already."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            given = given_of(visit)
            coat_type, probes = visit.dog.coat, probes_of(visit)
            traced = {
                state: {
                    slot_name(p): np.array(p.coat_edge)
                    for p in queries.photos_of(visit)
                    if p.state == state and p.coat_edge
                }
                for state in ("dry", "wet")
            }
        head = solve_head(given)
        if not isinstance(head, HeadSolution):
            return None
        dry, wet = (edges_on(head, traced[state]) for state in ("dry", "wet"))
        return drawing_of(head, skin_and_coat(head, coat_type, dry, probes, wet)[0])

    def _study(self, dog_id: int) -> tuple[str, Study, dict[str, int], Wishes]:
        key, ids, wishes = self._inputs(dog_id)
        known = self._studies.get(key)
        if known:
            return key, known, ids, wishes
        # Eleven thumbnails ask at once: one of them studies the head, the others wait for it.
        with self._making:
            key, ids, wishes = self._inputs(dog_id)
            known = self._studies.get(key)
            if known:
                return key, known, ids, wishes
            key = compute_then_write(
                self.store,
                lambda: self._made(dog_id),
                lambda session, made: self._key(session, dog_id) == made.key,
                lambda session, made: self._with_edges(session, dog_id, made),
            )
            _, ids, wishes = self._inputs(dog_id)
            study = self._studies.get(key)
            assert study is not None
            return key, study, ids, wishes

    def _key(self, session: Session, dog_id: int) -> str:
        return geometry_hash(rests_on(queries.visit_today(session, dog_id)))

    def _with_edges(self, session: Session, dog_id: int, made: _Made) -> str:
        """Keep the edges that a study traced, and the study under the key of what it rests on with them."""
        for photo_id, line in made.traced.items():
            queries.photo(session, photo_id).coat_edge = np.round(line, 1).tolist()
        session.flush()
        key = self._key(session, dog_id)
        self._studies.put(key, made.study)
        return key

    def _inputs(self, dog_id: int) -> tuple[str, dict[str, int], Wishes]:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            ids = {slot_name(p): p.id for p in queries.photos_of(visit)}
            return geometry_hash(rests_on(visit)), ids, Wishes(**visit.wishes)

    def _made(self, dog_id: int) -> _Made:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            key = geometry_hash(rests_on(visit))
            given, coat_type = given_of(visit), visit.dog.coat
            rows = [p for p in queries.photos_of(visit) if p.state in ("dry", "wet")]
            probes = probes_of(visit)
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
        traced: dict[int, Array] = {}
        edges, notes = self._edges(head, [row for row in rows if row.state == "dry"], traced)
        wet, _ = self._edges(head, [row for row in rows if row.state == "wet"], traced)
        needs_coat(edges, probes)
        return _Made(key, study_of(head, coat_type, edges, probes, notes, wet), traced)

    def _edges(
        self, head: HeadSolution, rows: list[PhotoRow], traced: dict[int, Array]
    ) -> tuple[dict[str, Array], list[str]]:
        """Edges by photo name; those not traced yet are traced, and put into `traced` by photo id."""
        edges: dict[str, Array] = {}
        notes = []
        for row in rows:
            if head.camera_of(slot_name(row)) is None:
                continue
            line = np.array(row.coat_edge) if row.coat_edge else self._traced(head, row)
            if isinstance(line, NoEdge):
                notes.append(f"{slot_name(row)}: {line.reason}")
                continue
            edges[slot_name(row)] = line
            if not row.coat_edge:
                traced[row.id] = line
        return edges, notes

    def _traced(self, head: HeadSolution, row: PhotoRow) -> Array | NoEdge:
        rgb = read_photo(self.store.photo_bytes(row.content_hash), row.file_name).rgb
        return coat_edge_of(head, marks_of(row), rgb, chance_of(row.looked, row.width_px, row.height_px))


@dataclass(frozen=True)
class _Made:
    """A study, the key of what it was made from, and by photo id the edges that were traced for it."""

    key: str
    study: Study
    traced: Mapping[int, Array]


def _kept_row(asked: Asked, planned: Planned, inputs: dict[str, str]) -> OutlineRow:
    plan = planned.plan
    return OutlineRow(
        family=asked.family,
        params=dict(plan.outline.params),
        schools=dict(plan.outline.schools),
        inputs_hash=planned.inputs_hash,
        rests_on=inputs,
        lines=kept_lines(plan),
        zones=[
            {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()} for z in plan.zones
        ],
        version=f"{SOLVE_VERSION} {FIT_VERSION}",
    )


def kept_lines(plan: Plan) -> dict[str, list[list[float]]]:
    """A plan's finished outline in the aligned views, mm, as it is kept with the visit."""
    return {view: np.round(lines["outline"], 1).tolist() for view, lines in plan.sheet.items()}
