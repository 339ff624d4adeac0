"""How far off the tool is, counted over this salon's own readings."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

from dapwick.core.after.expected import NORMAL_95, Expectation, Reading, Tally, tallies
from dapwick.exports.readings_csv import readings_csv
from dapwick.records import after_queries
from dapwick.records.models import ExpectationRow
from dapwick.records.store import SalonStore
from dapwick.service.after.factors import factors_of
from dapwick.service.dogs.cards import local_day

LATEST: Final = 60
LOGS: Final = "log min"


@dataclass(frozen=True)
class OneReading:
    """One reading as it is shown: minutes as minutes. off_sigma: how far off, in σ."""

    dog: str
    day: str
    kind: str
    what: str
    expected: float
    low: float
    high: float
    found: float
    unit: str
    off_sigma: float
    inside: bool
    counts: bool


@dataclass(frozen=True)
class HowFarOff:
    """tallies by kind; latest readings, newest first; demo: they are of the demo dogs, since no other dog has any."""

    tallies: tuple[Tally, ...]
    factors: dict[str, float]
    latest: tuple[OneReading, ...]
    demo: bool


def how_far_off(store: SalonStore) -> HowFarOff:
    factors = factors_of(store)
    with store.reading() as session:
        rows = after_queries.expectations(session)
        own = [row for row in rows if not row.visit.dog.demo]
        counted = own or rows
        readings = [_reading(row) for row in counted]
        latest = tuple(_shown(row) for row in counted[::-1][:LATEST])
        return HowFarOff(tallies(readings, factors), factors, latest, bool(rows) and not own)


def all_readings_csv(store: SalonStore) -> str:
    """Every reading as it was kept, those taken back too."""
    with store.reading() as session:
        return readings_csv([vars(_shown(row)) for row in after_queries.expectations(session)])


def _reading(row: ExpectationRow) -> Reading:
    of = Expectation(row.kind, row.what, row.expected, row.sigma, row.found, row.unit)  # type: ignore[arg-type]
    return Reading(row.visit_id, of, not row.taken_back)


def _shown(row: ExpectationRow) -> OneReading:
    reading, spread = _reading(row), NORMAL_95 * row.sigma
    told = [row.expected, row.expected - spread, row.expected + spread, row.found]
    expected, low, high, found = (round(math.exp(v) if row.unit == LOGS else v, 1) for v in told)
    return OneReading(
        row.visit.dog.name, local_day(row.at).isoformat(), row.kind, row.what, expected, low, high, found,
        row.unit.removeprefix("log "), round(reading.z, 2), reading.inside, reading.counts,
    )  # fmt: skip
