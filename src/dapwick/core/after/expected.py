"""Is the tool right? What it expected before a person read a number, against what was found.

Every kind of reading is counted by itself: inside the promised interval or outside, how far off in the middle, and
whether the σ told was too narrow. Few readings leave wide intervals, and are told with them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from scipy import stats

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput

Kind = Literal["bone", "coat", "marks", "edges", "left", "minutes", "growth"]
KINDS: Final[tuple[Kind, ...]] = ("bone", "coat", "marks", "edges", "left", "minutes", "growth")
KIND_WORDS: Final = {
    "bone": "Bone, by calliper",
    "coat": "Coat depth, by comb",
    "marks": "Marks, where a hand put them",
    "edges": "Coat’s edge, as a hand set it",
    "left": "Hair left by the cut, by comb",
    "minutes": "Minutes of a head",
    "growth": "Length at the next visit",
}
PROMISED: Final = 0.95
NORMAL_95: Final = 1.96
ENOUGH: Final = 20
"""So many readings of a kind before the salon's own factor is offered."""
ENOUGH_VISITS: Final = 4
"""They must come from several visits: what one dog has wrong, it has wrong in all its readings."""
SURELY: Final = 0.95
FACTORS: Final = (1.0, 3.0)
FACTOR_STEP: Final = 0.05
WIDENED: Final[tuple[Kind, ...]] = ("bone", "coat", "minutes", "growth")
"""Kinds whose σ a salon's own factor widens; the others are told only."""


@dataclass(frozen=True)
class Expectation:
    """What was expected, with its σ, before a person found a number. sigma holds what the reading itself may be off by.
    Of minutes, all three are natural logarithms."""

    kind: Kind
    what: str
    expected: float
    sigma: float
    found: float
    unit: str


@dataclass(frozen=True)
class Reading:
    """An expectation of one visit; counts: it was not taken back."""

    visit: int
    of: Expectation
    counts: bool = True

    @property
    def z(self) -> float:
        """How far off, in σ."""
        return (self.of.found - self.of.expected) / self.of.sigma

    @property
    def inside(self) -> bool:
        return abs(self.z) < NORMAL_95


@dataclass(frozen=True)
class Tally:
    """One kind. share: of readings inside, low..high its 95 % interval; bias_sigma, bias: off in the middle, in σ and
    in the unit, bias_low..bias_high the 95 % interval in σ; wider: by how much the σ told are too narrow (less than 1:
    too wide), wider_low..wider_high its interval; offer: a factor to take, None where there is no reason yet."""

    kind: Kind
    words: str
    readings: int
    visits: int
    taken_back: int
    inside: int
    share: float
    low: float
    high: float
    bias_sigma: float
    bias_low: float
    bias_high: float
    bias: float
    unit: str
    wider: float
    wider_low: float
    wider_high: float
    offer: float | None
    says: str


def tallies(readings: Sequence[Reading], factors: dict[str, float] | None = None) -> tuple[Tally, ...]:
    """Each kind that was read at least once. factors: the salon's own that are in use, by kind."""
    return tuple(
        _tally(kind, of_kind, (factors or {}).get(kind, 1.0))
        for kind in KINDS
        if (of_kind := [r for r in readings if r.of.kind == kind])
    )


def checked_factor(kind: str, factor: float) -> float:
    """A factor that a salon may take. Raises BadInput."""
    if kind not in WIDENED:
        raise BadInput("a factor for this", expected=", ".join(WIDENED), got=kind[:20], where="how far off")
    low, high = FACTORS
    if not low <= factor <= high:
        raise BadInput("factor", expected=f"{low:g} to {high:g}", got=f"{factor:g}", where=kind)
    return factor


def _tally(kind: Kind, readings: Sequence[Reading], factor: float) -> Tally:
    counted = [r for r in readings if r.counts]
    z = np.array([r.z for r in counted])
    visits = len({r.visit for r in counted})
    inside = sum(r.inside for r in counted)
    low, high = _share_between(inside, len(counted))
    bias, bias_low, bias_high = _bias(z, [r.visit for r in counted])
    wider, wider_low, wider_high = _wider(z)
    offer = _offer(kind, len(counted), visits, wider, wider_low, factor)
    return Tally(
        kind, KIND_WORDS[kind], len(counted), visits, len(readings) - len(counted), inside,
        inside / max(len(counted), 1), low, high, bias, bias_low, bias_high,
        _middle(r.of.found - r.of.expected for r in counted), counted[0].of.unit if counted else "",
        wider, wider_low, wider_high, offer, _says(inside, len(counted), visits, high, offer),
    )  # fmt: skip


def _share_between(inside: int, of: int) -> tuple[float, float]:
    """95 % interval of a share (Jeffreys)."""
    if not of:
        return 0.0, 1.0
    low, high = stats.beta.ppf([0.025, 0.975], inside + 0.5, of - inside + 0.5)
    return (0.0 if inside == 0 else float(low)), (1.0 if inside == of else float(high))


def _bias(z: Array, visits: Sequence[int]) -> tuple[float, float, float]:
    """Middle of z and its 95 % interval: readings of one visit share what that visit has wrong, so visits are counted,
    not readings, as far as they differ."""
    if not len(z):
        return 0.0, -math.inf, math.inf
    means = np.array([z[np.array(visits) == v].mean() for v in sorted(set(visits))])
    spread = max(float(z.std()), 1.0) / math.sqrt(len(z))
    if len(means) > 1:
        apart = float(means.std(ddof=1)) / math.sqrt(len(means))
        spread = max(spread, apart) * float(stats.t.ppf(0.975, len(means) - 1)) / NORMAL_95
    return float(z.mean()), float(z.mean()) - NORMAL_95 * spread, float(z.mean()) + NORMAL_95 * spread


def _wider(z: Array) -> tuple[float, float, float]:
    """How many times their σ readings stray, and its 95 % interval (χ² of the sum of squares)."""
    if not len(z):
        return 1.0, 0.0, math.inf
    total = float((z**2).sum())
    high, low = stats.chi2.ppf([0.025, 0.975], len(z))
    return math.sqrt(total / len(z)), math.sqrt(total / low), math.sqrt(total / high)


def _offer(
    kind: Kind, readings: int, visits: int, wider: float, wider_low: float, factor: float
) -> float | None:
    if kind not in WIDENED or readings < ENOUGH or visits < ENOUGH_VISITS or wider_low <= 1.0:
        return None
    wanted = min(math.ceil(factor * wider / FACTOR_STEP) * FACTOR_STEP, FACTORS[1])
    return round(wanted, 2) if wanted > factor else None


def _middle(values: Iterable[float]) -> float:
    found = list(values)
    return float(np.median(found)) if found else 0.0


def _says(inside: int, of: int, visits: int, high: float, offer: float | None) -> str:
    count = f"{inside} of {of} inside; {PROMISED:.0%} were promised."
    if offer is not None:
        return f"{count} That is too few to be chance."
    if of < ENOUGH or visits < ENOUGH_VISITS:
        return f"{count} Too few readings to say more."
    return (
        f"{count} {'Fewer than promised.' if high < PROMISED else 'As promised, as far as so many can tell.'}"
    )
