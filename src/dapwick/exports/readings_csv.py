"""What was expected of readings and what was found, as a table that any spreadsheet opens."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any, Final

from dapwick.exports.measures_csv import plain_cell

COLUMNS: Final = (
    "day", "dog", "kind", "what", "expected", "low", "high", "found", "unit", "off_sigma", "inside", "counts",
)  # fmt: skip


def readings_csv(readings: Iterable[Mapping[str, Any]]) -> str:
    """One row a reading, oldest first; low and high are the 95 % interval that was told."""
    told = io.StringIO(newline="")
    table = csv.writer(told)
    table.writerow(COLUMNS)
    for one in readings:
        table.writerow([plain_cell(v) if isinstance(v := one[c], str) else v for c in COLUMNS])
    return told.getvalue()
