"""The long side: which place of a finished head was left long, and the smallest fault that an eye finds, by place.

A fault of x mm is found by chance g + (1 - g - l) Phi((ln x - ln t) / s): g by guessing among the places, l for slips,
and t the threshold of that place for this person (Kingdom and Prins, Psychophysics, 2nd ed., ch. 4). The logarithms of
a person's thresholds are a sum of normal parts (the person, the zone, the side, the place, the session), drawn from
their posterior by elliptical slice sampling (Murray, Adams and MacKay, 2010). The next fault is the one whose answer
tells most about them (Kontsevich and Tyler, 1999).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.special import ndtr, xlogy

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.zones import Side, zone_words
from dapwick.core.practice.leaning import Answer, Lean, Usual, leans
from dapwick.core.practice.trend import Point

SIDES: Final[tuple[Side, ...]] = ("left", "right")
ZONES: Final = ("cheek", "jaw", "muzzle_side", "crown")
"""Eight places: how often three sessions tell which of them an eye misses, tools/practice_truth.py measures."""
PLACES: Final[tuple[tuple[str, Side], ...]] = tuple((zone, side) for zone in ZONES for side in SIDES)
USUAL_MM: Final = 3.5
PERSON, ZONE, SIDE, PLACE, SESSION = 0.5, 0.3, 0.2, 0.3, 0.1
"""How far thresholds differ (σ of the logarithm): people, zones of one person, sides, places; sessions one after the
other."""
STEEP: Final = 0.35
"""How much larger (logarithm) a fault must be to be found from rarely to mostly."""
SLIPS: Final = 0.03
GUESSED: Final = 1.0 / len(PLACES)
LEVELS_MM: Final = (1.0, 1.4, 2.0, 2.8, 4.0, 5.6, 8.0, 11.0)
BURNT, DRAWS = 100, 400
SEED: Final = 23
AMOUNT: Final = Usual(mean=0.3, thing=0.2, scatter=0.4, told_beyond=0.1)
"""How much is said to be long against what is, as a logarithm."""
MISSED: Final = 0.9
"""A place is told as missed where its threshold is over the person's own middle with such a chance."""
MISSED_BY: Final = 1.1
WELL_MISSED: Final = 1.5
"""Faults are chosen to find places whose threshold is so many times the person's middle."""


@dataclass(frozen=True)
class Trial:
    """A fault of mm that was left at a place, in which session, and the place that was said; said_mm: how much."""

    zone: str
    side: Side
    mm: float
    session: int
    said: tuple[str, str]
    said_mm: float

    def __post_init__(self) -> None:
        if self.said not in PLACES:
            known = ", ".join(f"{side} {zone_words(zone)}" for zone, side in PLACES)
            raise BadInput(
                "which place is long", expected=known, got=" ".join(self.said)[:40], where="long side"
            )
        if not 0.5 <= self.said_mm <= 30:
            raise BadInput("how much", expected="0.5 to 30 mm", got=f"{self.said_mm:g}", where="long side")

    @property
    def found(self) -> bool:
        return self.said == (self.zone, self.side)

    @property
    def words(self) -> str:
        where = f"{self.side} {zone_words(self.zone)}, {self.mm:.0f} mm long"
        return f"Yes: {where}." if self.found else f"It was the {where}."


@dataclass(frozen=True)
class Threshold:
    """The smallest fault found at a place (mm), low..high its 90 % interval; missed: surely worse than this eye's
    other places."""

    zone: str
    side: Side
    mm: float
    low: float
    high: float
    trials: int
    missed: bool

    @property
    def words(self) -> str:
        return (
            f"{self.side} {zone_words(self.zone)}: from {self.mm:.1f} mm ({self.low:.1f} to {self.high:.1f})"
        )


@dataclass(frozen=True)
class Eye:
    """draws (D, places) of the logarithm of each place's threshold now; by_session (D, sessions) of their middle."""

    draws: Array
    by_session: Array
    trials: tuple[Trial, ...]

    @property
    def whole(self) -> Point:
        """The middle of this eye's thresholds, mm."""
        return _point(self.draws.mean(axis=1))

    @property
    def thresholds(self) -> tuple[Threshold, ...]:
        middle = np.median(self.draws, axis=1)
        found = []
        for i, (zone, side) in enumerate(PLACES):
            point = _point(self.draws[:, i])
            worse = float((self.draws[:, i] > middle + np.log(MISSED_BY)).mean())
            trials = sum((t.zone, t.side) == (zone, side) for t in self.trials)
            found.append(Threshold(zone, side, point.value, point.low, point.high, trials, worse > MISSED))
        return tuple(found)

    @property
    def trend(self) -> tuple[Point, ...]:
        """The middle threshold in each session, mm."""
        return tuple(_point(column) for column in self.by_session.T)

    def threshold_mm(self, zone: str, side: str) -> float:
        """What this eye finds at a place; its middle where the place is none of those asked."""
        if (zone, side) in PLACES:
            return float(np.exp(np.median(self.draws[:, PLACES.index((zone, side))])))
        return self.whole.value


def eye_of(trials: Sequence[Trial]) -> Eye:
    """What trials tell of an eye; the same trials always the same."""
    sessions = max((t.session for t in trials), default=0) + 1
    parts = _parts(sessions)
    at = np.array([PLACES.index((t.zone, t.side)) for t in trials], dtype=np.intp)
    when = np.array([t.session for t in trials], dtype=np.intp)
    mm, found = np.log([t.mm for t in trials]), np.array([t.found for t in trials], dtype=bool)

    of_trial, above = parts[at, when] / STEEP, (mm - np.log(USUAL_MM)) / STEEP

    def likely(u: Array) -> float:
        return _log_likely(above - of_trial @ u, found)

    drawn = _drawn(parts.shape[2], likely if len(trials) else lambda _: 0.0)
    latent = np.log(USUAL_MM) + np.einsum("psk,dk->dps", parts, drawn)
    return Eye(latent[:, :, -1], latent.mean(axis=1), tuple(trials))


def _parts(sessions: int) -> Array:
    """How each place in each session (places, sessions, K) is made up of standard normal parts."""
    zones, sides = len(ZONES), len(SIDES)
    parts = np.zeros((len(PLACES), sessions, 1 + zones + sides + len(PLACES) + sessions))
    for i, (zone, side) in enumerate(PLACES):
        parts[i, :, 0] = PERSON
        parts[i, :, 1 + ZONES.index(zone)] = ZONE
        parts[i, :, 1 + zones + SIDES.index(side)] = SIDE
        parts[i, :, 1 + zones + sides + i] = PLACE
        parts[i, :, -sessions:] = SESSION * np.tri(sessions)
    return parts


def chance_found(log_mm: Array, log_threshold: Array) -> Array:
    """Chance (…,) that a fault is found."""
    return _chance((log_mm - log_threshold) / STEEP)


def _chance(above: Array) -> Array:
    """Of a fault so many widths (STEEP) above the threshold."""
    return np.asarray(GUESSED + (1.0 - GUESSED - SLIPS) * ndtr(above))


def _log_likely(above: Array, found: BoolArray) -> float:
    p = _chance(above)
    return float(np.log(np.where(found, p, 1.0 - p)).sum())


def _drawn(size: int, likely: Callable[[Array], float]) -> Array:
    """Draws (DRAWS, size) of standard normal parts weighed by a likelihood."""
    rng = np.random.default_rng(SEED)
    at = rng.standard_normal(size)
    height, kept = likely(at), []
    for step in range(BURNT + 2 * DRAWS):
        other = rng.standard_normal(size)
        level = height + np.log(rng.uniform())
        angle = rng.uniform(0, 2 * np.pi)
        low, high = angle - 2 * np.pi, angle
        while True:
            moved = at * np.cos(angle) + other * np.sin(angle)
            height = likely(moved)
            if height > level:
                break
            low, high = (angle, high) if angle < 0 else (low, angle)
            angle = rng.uniform(low, high)
        at = moved
        if step >= BURNT and step % 2:
            kept.append(at)
    return np.array(kept)


def _point(log_mm: Array) -> Point:
    low, middle, high = np.exp(np.percentile(log_mm, [5, 50, 95]))
    return Point(float(middle), float(low), float(high))


def next_fault(eye: Eye, rng: np.random.Generator, room_mm: Array) -> tuple[str, Side, float]:
    """Where and how large the next fault is: the one whose answer tells most, but not where the last one was, nor
    larger than the coat there has room for. Every other one is to tell thresholds, the others which places are missed.
    room_mm (places,)."""
    of_missed = len(eye.trials) % 2
    tells = (_tells_missed if of_missed else _tells)(eye.draws, np.log(LEVELS_MM))
    tells[room_mm[:, None] < np.array(LEVELS_MM)] = -1.0
    if eye.trials:
        last = eye.trials[-1]
        tells[PLACES.index((last.zone, last.side))] = -1.0
    tells = tells * np.where(tells > 0, rng.uniform(0.85, 1.0, tells.shape), 1.0)
    place, level = np.unravel_index(int(np.argmax(tells)), tells.shape)
    return (*PLACES[int(place)], LEVELS_MM[int(level)])


def _tells(draws: Array, levels: Array) -> Array:
    """Mutual information (places, levels) of an answer and the threshold."""
    p = chance_found(levels[None, None], draws[:, :, None])
    mean = p.mean(axis=0)
    return np.asarray(_entropy(mean) - _entropy(p).mean(axis=0))


def _tells_missed(draws: Array, levels: Array) -> Array:
    """Mutual information (places, levels) of an answer and whether the place is one that this eye misses."""
    missed = draws > np.median(draws, axis=1)[:, None] + np.log(WELL_MISSED)
    p = chance_found(levels[None, None], draws[:, :, None])
    share = missed.mean(axis=0)[:, None]
    there, elsewhere = (
        (p * which[:, :, None]).sum(axis=0) / np.maximum(which.sum(axis=0)[:, None], 1)
        for which in (missed, ~missed)
    )
    left = share * _entropy(there) + (1 - share) * _entropy(elsewhere)
    return np.asarray(_entropy(p.mean(axis=0)) - left)


def _entropy(p: Array) -> Array:
    return np.asarray(-xlogy(p, p) - xlogy(1 - p, 1 - p))


def amount_of(trials: Sequence[Trial]) -> Lean | None:
    """How much this eye says is long against what is; None where nothing was found yet."""
    told = [Answer("amount", float(np.log(t.said_mm / t.mm))) for t in trials if t.found]
    return leans(told, AMOUNT)[0] if told else None


def amount_words(lean: Lean) -> str:
    said = 4.0 * float(np.exp(lean.off))
    return f"What is 4 mm long you call {said:.0f} mm."
