"""Plans of the open visit, redrawn as sliders move."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock
from typing import Any, Final

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.core.head.coat import CoatProbe
from dapwick.core.outlines.families import family
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import VERSION as FIT_VERSION
from dapwick.core.solve import VERSION as SOLVE_VERSION
from dapwick.core.solve import HeadSolution, Unsolved, solve_head
from dapwick.records import queries
from dapwick.records.models import OutlineRow, PhotoRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.dogs import saved_card
from dapwick.service.drawing import HeadDrawing, drawing_of
from dapwick.service.given import given_of
from dapwick.service.looking import chance_of
from dapwick.service.photos import marks_of, slot_name
from dapwick.service.planning import (
    FittedGround,
    Plan,
    coat_edge_of,
    fitted_ground,
    needs_coat,
    plan_on,
    skin_on,
)
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo

KEPT_GROUNDS: Final = 8


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

    def drawing(self, dog_id: int) -> HeadDrawing | None:
        """The head of the open visit drawn from its numbers; None before it is measured. Wet edges count as
        far as they were traced already."""
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            given = given_of(visit)
            wet = {
                slot_name(p): np.array(p.coat_edge)
                for p in queries.photos_of(visit)
                if p.state == "wet" and p.coat_edge
            }
        head = solve_head(given)
        return drawing_of(head, skin_on(head, wet)) if isinstance(head, HeadSolution) else None

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
            rows = [p for p in queries.photos_of(visit) if p.state in ("dry", "wet")]
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
        edges, notes = self._edges(head, [row for row in rows if row.state == "dry"])
        wet, _ = self._edges(head, [row for row in rows if row.state == "wet"])
        needs_coat(edges, probes)
        return fitted_ground(head, coat_type, edges, probes, family_id, notes, wet)

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


def _inputs_hash(visit: VisitRow, family_id: str) -> str:
    inputs = [
        family_id,
        visit.dog.coat,
        visit.dog.muzzle,
        visit.dog.ears,
        [v.bone for v in visit.dog.visits if v.id < visit.id],
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
