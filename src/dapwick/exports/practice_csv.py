"""What somebody practised, as a table that any spreadsheet opens."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any, Final

from dapwick.exports.measures_csv import plain_cell

COLUMNS: Final = ("when", "drill", "session", "what", "answer", "truth", "off", "unit", "right")


def practice_csv(rows: Iterable[Mapping[str, Any]]) -> str:
    """One row a mark, guess, fault, order or plan, oldest first."""
    told = io.StringIO(newline="")
    table = csv.writer(told)
    table.writerow(COLUMNS)
    for one in rows:
        table.writerow([plain_cell(v) if isinstance(v := one.get(c, ""), str) else v for c in COLUMNS])
    return told.getvalue()
