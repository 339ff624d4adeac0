"""Plans of the open visit, redrawn as sliders move."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from threading import Lock
from typing import Any, Final

import numpy as np

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
from dapwick.service.cards import kept_setting_of, saved_card
from dapwick.service.dogs import check_part
from dapwick.service.drawing import HeadDrawing, drawing_of
from dapwick.service.given import given_of, probes_of
from dapwick.service.kept import Kept, hash_of
from dapwick.service.kit import kit_of
from dapwick.service.looking import chance_of
from dapwick.service.photos import marks_of, slot_name
from dapwick.service.planning import FittedGround, Plan, fit_on, plan_on, thumb_on
from dapwick.service.rests_on import geometry_hash, rests_on
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
    """A plan, the ground it stands on, the hash of its inputs, and photo ids by name."""

    plan: Plan
    ground: FittedGround
    inputs_hash: str
    photo_ids: dict[str, int]


class Planner:
    """Keeps the last few studies and fits, so that dragging a slider only redraws."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._studies: Kept[Study] = Kept(KEPT_STUDIES)
        self._fits: Kept[FittedGround] = Kept(KEPT_FITS)
        self._making = Lock()

    def plan(self, dog_id: int, asked: Asked) -> Planned:
        """The plan at this setting and what it rests on."""
        key, fitted, ids = self._fitted(dog_id, asked)
        with self.store.reading() as session:
            kit, _ = kit_of(session)
        return Planned(plan_on(fitted, asked.params, asked.moving, asked.weeks_ahead, kit), fitted, key, ids)

    def _fitted(self, dog_id: int, asked: Asked) -> tuple[str, FittedGround, dict[str, int]]:
        chosen = family_of(self.store, asked.family)
        # Refused before anything is traced or stored.
        chosen.checked(asked.params)
        settle_schools(chosen, asked.schools)
        key, study, ids, wishes = self._study(dog_id)
        settled = settle_schools(chosen, asked.schools, study.ground.coat_type)
        fit_key = hash_of([key, asked.family, settled, vars(wishes), [p.default for p in chosen.parameters]])
        fitted = self._fits.get(fit_key) or self._fits.put(fit_key, fit_on(study, chosen, settled, wishes))
        return key, fitted, ids

    def thumb(self, dog_id: int, key: str) -> Planned:
        """An outline as it is fitted, with its verdict and aligned views; nothing is drawn over photos."""
        fit_key, fitted, ids = self._fitted(dog_id, Asked(key))
        return Planned(thumb_on(fitted), fitted, fit_key, ids)

    def inputs(self, dog_id: int) -> str:
        """The hash of what the open visit's plans rest on, wishes among it."""
        key, _, wishes = self._inputs(dog_id)
        return hash_of([key, vars(wishes)])

    def study(self, dog_id: int) -> tuple[str, Study]:
        """The open visit's head studied, under the hash of what it rests on."""
        key, study, _, _ = self._study(dog_id)
        return key, study

    def save(self, dog_id: int, asked: Asked, base: str | None = None) -> dict[str, Any]:
        """Keep this plan with the visit. base: the version of what was kept before, as it was seen."""
        planned = self.plan(dog_id, asked)
        plan = planned.plan
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            row = OutlineRow(
                family=asked.family,
                params=dict(plan.outline.params),
                schools=dict(plan.outline.schools),
                inputs_hash=planned.inputs_hash,
                rests_on=rests_on(visit),
                lines=kept_lines(plan),
                zones=[
                    {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()}
                    for z in plan.zones
                ],
                version=f"{SOLVE_VERSION} {FIT_VERSION}",
            )
            check_part(visit.dog, "outline", [visit.id, kept_setting_of(row)], base)
            visit.outlines.append(row)
            session.flush()
            return saved_card(row)

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
            study = self._made(dog_id)
            key, ids, wishes = self._inputs(dog_id)
            return key, self._studies.put(key, study), ids, wishes

    def _inputs(self, dog_id: int) -> tuple[str, dict[str, int], Wishes]:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            ids = {slot_name(p): p.id for p in queries.photos_of(visit)}
            return geometry_hash(rests_on(visit)), ids, Wishes(**visit.wishes)

    def _made(self, dog_id: int) -> Study:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
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
        edges, notes = self._edges(head, [row for row in rows if row.state == "dry"])
        wet, _ = self._edges(head, [row for row in rows if row.state == "wet"])
        needs_coat(edges, probes)
        return study_of(head, coat_type, edges, probes, notes, wet)

    def _edges(self, head: HeadSolution, rows: list[PhotoRow]) -> tuple[dict[str, Array], list[str]]:
        """Edges by photo name; those not traced yet are traced and kept."""
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


def kept_lines(plan: Plan) -> dict[str, list[list[float]]]:
    """A plan's finished outline in the aligned views, mm, as it is kept with the visit."""
    return {view: np.round(lines["outline"], 1).tolist() for view, lines in plan.sheet.items()}
