"""The head of the open visit, made once for each state of what it rests on."""

from __future__ import annotations

from dataclasses import dataclass
from threading import Lock
from typing import Final

import numpy as np
from sqlalchemy.orm import Session

from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.solve.joint import HeadSolution
from dapwick.pipeline.head_drawing import HeadDrawing, drawing_of
from dapwick.pipeline.head_model import (
    HeadModel,
    edges_of,
    edges_on,
    head_model,
    necks_of,
    solved_head,
)
from dapwick.pipeline.lru_cache import LruCache
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.photos.taking_in import slot_name
from dapwick.service.visits.head_input import head_input_of, probes_of, sources_of
from dapwick.service.visits.provenance import geometry_hash, provenance_of

KEPT_MODELS: Final = 6


@dataclass(frozen=True)
class VisitHead:
    """A visit's head model under the hash of what it rests on; photo ids by name; the wishes as they were then."""

    key: str
    model: HeadModel
    photo_ids: dict[str, int]
    wishes: Wishes


class VisitHeads:
    """The last few heads of open visits."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._models: LruCache[HeadModel] = LruCache(KEPT_MODELS)
        self._making = Lock()

    def head(self, dog_id: int) -> VisitHead:
        """The open visit's head. Eleven thumbnails ask at once: one of them makes it, the others wait for it."""
        known = self._known(dog_id)
        if known:
            return known
        with self._making:
            known = self._known(dog_id)
            return known or self._traced(dog_id)

    def rests_on(self, dog_id: int) -> tuple[str, dict[str, int], Wishes]:
        """The hash of what the head rests on, photo ids by name, and the wishes."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            ids = {slot_name(p): p.id for p in queries.photos_of(visit)}
            return geometry_hash(provenance_of(visit)), ids, visit.wishes.wishes()

    def _known(self, dog_id: int) -> VisitHead | None:
        key, ids, wishes = self.rests_on(dog_id)
        model = self._models.get(key)
        return VisitHead(key, model, ids, wishes) if model else None

    def _traced(self, dog_id: int) -> VisitHead:
        """Made, and the edges that were traced for it kept with their photos: it then rests on them."""

        def write(session: Session, made: VisitHead) -> str:
            for name, line in made.model.traced.items():
                queries.photo(session, made.photo_ids[name]).coat_edge = np.round(line, 1).tolist()
            session.flush()
            key = _key(session, dog_id)
            self._models.put(key, made.model)
            return key

        compute_then_write(
            self.store,
            lambda: self._made(dog_id),
            lambda session, made: _key(session, dog_id) == made.key,
            write,
        )
        known = self._known(dog_id)
        return known or self._traced(dog_id)

    def _made(self, dog_id: int) -> VisitHead:
        key, ids, wishes = self.rests_on(dog_id)
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            given, coat, probes = head_input_of(visit), visit.dog.coat, probes_of(visit)
            sources = sources_of(self.store, visit)
        return VisitHead(key, head_model(given, coat, sources, probes), ids, wishes)


def _key(session: Session, dog_id: int) -> str:
    return geometry_hash(provenance_of(queries.visit_today(session, dog_id)))


@heavy
def head_drawing_of(store: SalonStore, dog_id: int) -> HeadDrawing | None:
    """The head of the open visit drawn from its numbers; None before it is measured. Edges count as far as they were
    traced already."""
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        given, coat, probes = head_input_of(visit), visit.dog.coat, probes_of(visit)
        sources = sources_of(store, visit, tracing=False)
    head = solved_head(given)
    if not isinstance(head, HeadSolution):
        return None
    dry, wet = (
        edges_on(head, edges_of(head, [s for s in sources if s.state == state])[0], necks_of(sources))
        for state in ("dry", "wet")
    )
    return drawing_of(head, skin_and_coat(head, coat, dry, probes, wet)[0])
