"""What the salon set for itself, by key."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from dapwick.records.models import SettingRow
from dapwick.records.store import SalonStore


def kept_setting(store: SalonStore, key: str, otherwise: Any) -> Any:
    with store.reading() as session:
        row = session.get(SettingRow, key)
        return row.value if row else otherwise


def keep_setting(store: SalonStore, key: str, value: Any) -> None:
    with store.session() as session:
        put_setting(session, key, value)


def put_setting(session: Session, key: str, value: Any) -> None:
    session.merge(SettingRow(key=key, value=value))
