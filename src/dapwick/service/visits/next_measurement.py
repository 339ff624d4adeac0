"""What would help most now on the open visit."""

from __future__ import annotations

from dapwick.core.plan.next_best import Next
from dapwick.core.solve.joint import HeadSolution
from dapwick.pipeline.head_model import solved_head
from dapwick.pipeline.next_measurement import next_measurement
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.photos.taking_in import slot_name
from dapwick.service.visits.head_input import head_input_of, probes_of, sources_of


@heavy
def next_on_visit(store: SalonStore, dog_id: int) -> tuple[Next, ...]:
    """The additions worth most to the open visit; none before a head is measured at all."""
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        given, coat, probes = head_input_of(visit), visit.dog.coat, probes_of(visit)
        sources = sources_of(store, visit, tracing=False)
        there = {slot_name(p): (p.view, p.state) for p in queries.photos_of(visit) if p.state != "finished"}
    head = solved_head(given)
    return next_measurement(head, coat, sources, probes, there) if isinstance(head, HeadSolution) else ()
