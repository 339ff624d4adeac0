"""What combs told of a visit's finished head."""

from __future__ import annotations

from dapwick.documents.readings import FinishedComb
from dapwick.records.models import VisitRow


def counting(visit: VisitRow) -> tuple[FinishedComb, ...]:
    """Comb depths that tell of the head as it is: what was combed before a place was taken in does no longer."""
    done = {place for place, one in visit.touched_up.items() if one.state == "done"}
    return tuple(
        comb for comb in visit.combed_after if all((place in done) == comb.taken_in for place in comb.places)
    )
