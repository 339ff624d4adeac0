"""What suits him: three outlines put in order for one head and coat, against the order the fit gives them.

Where the fit is itself unsure, both answers count.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Final

import numpy as np

from dapwick.core.basics.errors import BadInput
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.verdict import Against, Verdict

OFFERED: Final = (
    "round",
    "teddy",
    "brick",
    "dome",
    "three_rings",
    "topknot",
    "brows_beard",
    "broad",
    "crest",
)
"""Families that change a head's shape enough to be told apart."""
MANY: Final = 3
UNSURE: Final = 0.6
"""Two outlines whose departures differ by less are even: the fit's own weights are no finer."""
NEARLY: Final = 0.3
"""A reason that weighs nearly as much as the weightiest counts as well."""
LITTLE: Final = 0.8
"""What weighs less than this is not worth saying."""
NOT_THERE: Final = 10.0
"""What weighs against an outline that cannot be cut today, above all else."""
REASONS: Final[dict[Against, str]] = {
    "grows": "the hair is not there yet",
    "head": "his proportions are against it",
    "coat": "this kind of coat does not carry it",
    "wish": "it is not what the owner asked for",
    "hair": "it takes too much off",
}


@dataclass(frozen=True)
class Wish:
    """What an owner says, and what that asks."""

    words: str
    wishes: Wishes


WISHES: Final = (
    Wish("Soft and round, eyes to be seen.", Wishes(eyes="open")),
    Wish("Every nine weeks, no sooner. Eyes free until then.", Wishes(eyes="open", weeks_between=9)),
    Wish("Keep the beard, please.", Wishes(beard="long")),
    Wish("As full as it goes, we comb him every day.", Wishes(fullness=0.8, weeks_between=5)),
    Wish("Short. He swims.", Wishes(fullness=-0.8, beard="short", ears="short")),
    Wish("Nothing said.", Wishes()),
)


@dataclass(frozen=True)
class Offer:
    """An outline on offer: its verdict on this head."""

    family: str
    name: str
    verdict: Verdict

    @property
    def against(self) -> dict[Against, float]:
        """What speaks against it, weighed."""
        later = NOT_THERE if self.verdict.when != "today" else 0.0
        return {**self.verdict.against, "grows": self.verdict.against["grows"] + later}

    @property
    def reasons(self) -> tuple[Against, ...]:
        """What speaks most against it."""
        most = max(self.against.values())
        return tuple(key for key, cost in self.against.items() if cost > most - NEARLY)


@dataclass(frozen=True)
class Ranked:
    """Three outlines in a person's order, and what they said speaks most against the last. right: pairs in the fit's
    order or even; why_right: the reason is one of the weightiest; even: pairs that the fit cannot tell apart."""

    order: tuple[str, ...]
    best: tuple[str, ...]
    right: int
    pairs: int
    even: tuple[tuple[str, str], ...]
    why: Against
    why_right: bool

    @property
    def words(self) -> str:
        agreed = (
            "as Dapwick has them" if self.right == self.pairs else f"{self.right} of {self.pairs} pairs right"
        )
        return f"{agreed[0].upper()}{agreed[1:]}; the reason {'holds' if self.why_right else 'is another'}."


def families_offered(rng: np.random.Generator) -> tuple[str, ...]:
    return tuple(OFFERED[i] for i in rng.choice(len(OFFERED), MANY, replace=False))


def ranked(offers: Sequence[Offer], order: Sequence[str], why: str) -> Ranked:
    """A person's order against the fit's. Raises BadInput where it is no order of these outlines."""
    by_id = {offer.family: offer for offer in offers}
    chosen = next((reason for reason in REASONS if reason == why), None)
    if sorted(order) != sorted(by_id) or chosen is None:
        expected = f"{', '.join(by_id)} each once, and one of {', '.join(REASONS)}"
        raise BadInput(
            "an order of outlines",
            expected=expected,
            got=f"{', '.join(order)}; {why}"[:120],
            where="what suits him",
        )
    best = sorted(offers, key=lambda one: one.verdict.rank)
    even = tuple((a.family, b.family) for a, b in combinations(best, 2) if _even(a, b))
    right = sum(
        (a.family, b.family) in even or order.index(a.family) < order.index(b.family)
        for a, b in combinations(best, 2)
    )
    return Ranked(
        tuple(order),
        tuple(one.family for one in best),
        right,
        MANY * (MANY - 1) // 2,
        even,
        chosen,
        chosen in by_id[order[-1]].reasons,
    )


def _even(a: Offer, b: Offer) -> bool:
    return abs(a.verdict.rank - b.verdict.rank) < UNSURE
