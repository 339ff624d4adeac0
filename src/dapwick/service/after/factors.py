"""The salon's own factors: by how much its readings say that the σ told of a kind are too narrow."""

from __future__ import annotations

from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.after.expected import checked_factor
from dapwick.records.models import SettingRow
from dapwick.records.store import SalonStore
from dapwick.service.salon.settings import put_setting

FACTORS: Final = "factors"


def factors_in(session: Session) -> dict[str, float]:
    """By kind; a kind without one has 1."""
    row = session.get(SettingRow, FACTORS)
    return {kind: float(factor) for kind, factor in row.value.items()} if row else {}


def factors_of(store: SalonStore) -> dict[str, float]:
    with store.reading() as session:
        return factors_in(session)


def take_factor(store: SalonStore, kind: str, factor: float) -> dict[str, float]:
    """Widen what is told of a kind; 1 takes that back."""
    checked = checked_factor(kind, factor)
    with store.session() as session:
        kept = {k: f for k, f in factors_in(session).items() if k != kind}
        if checked != 1.0:
            kept[kind] = checked
        put_setting(session, FACTORS, kept)
        return kept
