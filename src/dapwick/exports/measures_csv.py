"""Measures as a table that any spreadsheet opens."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence
from typing import Final

from dapwick.core.measures.measure import Measure

COLUMNS: Final = ("head", "id", "measure", "value", "unit", "sigma", "low", "high")


def measures_csv(heads: Iterable[tuple[str, Sequence[Measure]]]) -> str:
    """One row a measure of each named head, in its unit (mm, deg or ratio), with σ and the 95 % interval."""
    told = io.StringIO(newline="")
    table = csv.writer(told)
    table.writerow(COLUMNS)
    for name, measures in heads:
        for m in measures:
            numbers = [f"{v:.4g}" for v in (m.value, m.sigma, m.low, m.high)]
            table.writerow([plain_cell(name), m.id, m.words, numbers[0], m.unit, *numbers[1:]])
    return told.getvalue()


def plain_cell(name: str) -> str:
    """A name that no spreadsheet takes for a formula."""
    return f"'{name}" if name[:1] in ("=", "+", "-", "@", "\t") else name
