"""What would help most now: the next best measurement of a head."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.plan.next_best import Next, ground_of, next_best
from dapwick.core.solve.joint import HeadSolution
from dapwick.pipeline.head_model import PhotoSource, edges_of, edges_on, necks_of


def next_measurement(
    head: HeadSolution,
    coat: str,
    sources: Sequence[PhotoSource],
    probes: tuple[CoatProbe, ...],
    there: Mapping[str, tuple[str, str]],
) -> tuple[Next, ...]:
    """The additions worth most, best first. sources: the photos' edges; there: views and states by the names of all
    photos."""
    measured = {p.name for p in head.photos}
    taken = frozenset(slot for name, slot in there.items() if name in measured)
    unmarked = frozenset(there.values()) - taken
    dry, wet = (
        edges_on(head, edges_of(head, [one for one in sources if one.state == state])[0], necks_of(sources))
        for state in ("dry", "wet")
    )
    _, seen = skin_and_coat(head, coat, dry, probes, wet)
    return next_best(ground_of(head, seen, taken, unmarked))
