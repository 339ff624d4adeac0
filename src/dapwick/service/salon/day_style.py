"""How this salon says days and times: one setting for every screen and card."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.days import USUAL_STYLE, DayStyle
from dapwick.records.store import SalonStore
from dapwick.service.salon.settings import keep_setting, kept_setting

KEY: Final = "days"


def day_style(store: SalonStore) -> DayStyle:
    found: DayStyle = kept_setting(store, KEY, USUAL_STYLE)
    return found


def set_day_style(store: SalonStore, style: DayStyle) -> None:
    keep_setting(store, KEY, style)
