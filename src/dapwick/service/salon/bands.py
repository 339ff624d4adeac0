"""The salon's own bands for the words of proportions."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Final

from dapwick.core.measures.bands import BANDS, Band, moved
from dapwick.records.models import SettingRow
from dapwick.records.store import SalonStore

KEY: Final = "bands"


def bands_of(store: SalonStore) -> tuple[Band, ...]:
    with store.reading() as session:
        row = session.get(SettingRow, KEY)
        return moved(BANDS, row.value if row else {})


def move_bands(store: SalonStore, edges: Mapping[str, Sequence[float]]) -> tuple[Band, ...]:
    """Keep edges by measure; measures not named go back to the trade's usual ones."""
    bands = moved(BANDS, edges)
    with store.session() as session:
        session.merge(SettingRow(key=KEY, value={m: list(e) for m, e in edges.items()}))
    return bands
