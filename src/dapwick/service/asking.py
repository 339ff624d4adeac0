"""What would help most now: the next best measurement of the open visit."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.head.coat import CoatProbe, coat_of
from dapwick.core.head.skin import skin_of
from dapwick.core.head.wet import read_wet, wet_thickness_mm
from dapwick.core.next_best import Next, ground_of, next_best
from dapwick.core.solve import HeadSolution, solve_head
from dapwick.records import queries
from dapwick.records.models import PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.given import given_of, probes_of
from dapwick.service.heavy import heavy
from dapwick.service.photos import slot_name
from dapwick.service.study import edges_on, skin_and_coat


@heavy
def ask(store: SalonStore, dog_id: int) -> tuple[Next, ...]:
    """The additions worth most to the open visit; none before a head is measured at all."""
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        given, coat = given_of(visit), visit.dog.coat
        rows = [p for p in queries.photos_of(visit) if p.state != "finished"]
        probes = probes_of(visit)
        there = {slot_name(p): (p.view, p.state) for p in rows}
        dry, wet = _lines(rows, "dry"), _lines(rows, "wet")
    head = solve_head(given)
    return ask_of(head, coat, dry, wet, probes, there) if isinstance(head, HeadSolution) else ()


def ask_of(
    head: HeadSolution,
    coat: str,
    dry: Mapping[str, Array],
    wet: Mapping[str, Array],
    probes: tuple[CoatProbe, ...],
    there: Mapping[str, tuple[str, str]],
) -> tuple[Next, ...]:
    """dry, wet: edges by photo name, px; there: views and states by the names of all photos."""
    measured = {p.name for p in head.photos}
    taken = frozenset(slot for name, slot in there.items() if name in measured)
    unmarked = frozenset(there.values()) - taken
    warped, wet_edges = skin_of(head), edges_on(head, wet)
    dry_edges = edges_on(head, dry)
    _, seen = skin_and_coat(head, coat, dry_edges, probes, wet_edges)
    told = read_wet(head, warped, wet_edges, wet_thickness_mm(coat_of(head, warped, coat, dry_edges, probes)))
    return next_best(ground_of(head, warped, told, seen, taken, unmarked))


def _lines(rows: list[PhotoRow], state: str) -> dict[str, Array]:
    return {slot_name(p): np.array(p.coat_edge) for p in rows if p.state == state and p.coat_edge}
