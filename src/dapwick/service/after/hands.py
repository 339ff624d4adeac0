"""A stylist's own hand, from the checks of the heads it cut. For that stylist alone; never for an owner."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.after.check import NORMAL_90
from dapwick.core.after.hand import Bias, HandReading, hand_of
from dapwick.core.basics.errors import BadInput
from dapwick.records import after_queries, queries
from dapwick.records.models import SettingRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.cutting.cut import cuts_now
from dapwick.service.salon.kit import kit_of
from dapwick.service.salon.settings import put_setting

HEADS: Final = 60
"""The latest heads tell of a hand; it changes with practice."""
TELLING: Final = ("long", "short", "true", "unsure")
LEAST_SIGMA_MM: Final = 0.5
NOT_TOLD: Final = "hand_not_told"


@dataclass(frozen=True)
class HandNow:
    """What the stylist of a visit is told of their own hand. told: False where they do not want to hear of it."""

    stylist: str
    told: bool
    biases: tuple[Bias, ...]


def hand_on_visit(store: SalonStore, dog_id: int) -> HandNow:
    """Of whoever cuts the open visit."""
    with store.reading() as session:
        stylist = cuts_now(session, queries.visit_today(session, dog_id))
        told = stylist not in _not_told(session)
        return HandNow(stylist, told, told_of_hand(session, stylist) if told else ())


def tell_of_hand(store: SalonStore, stylist: str, told: bool) -> None:
    """Whether a stylist wants to hear of their own hand."""
    with store.session() as session:
        _, stylists = kit_of(session)
        if stylist not in {one.name for one in stylists}:
            raise BadInput(
                "unknown stylist", expected="a stylist in the kit", got=stylist[:40], where="own hand"
            )
        others = [name for name in _not_told(session) if name != stylist]
        put_setting(session, NOT_TOLD, others if told else [*others, stylist])


def not_told(store: SalonStore) -> list[str]:
    """Stylists who do not want to hear of their own hand."""
    with store.reading() as session:
        return _not_told(session)


def _not_told(session: Session) -> list[str]:
    row = session.get(SettingRow, NOT_TOLD)
    return list(row.value) if row else []


def told_of_hand(session: Session, stylist: str) -> tuple[Bias, ...]:
    """What this hand surely leaves long or short."""
    visits = after_queries.checked_visits_of(session, stylist, HEADS)
    return tuple(one for one in hand_of([r for v in visits for r in readings_of(v)]) if one.told)


def readings_of(visit: VisitRow) -> Iterator[HandReading]:
    """What one head shows of the hand that cut it, touch-ups undone."""
    for place in visit.checked.places if visit.checked else []:
        done = visit.touched_up.get(f"{place.zone}/{place.side}")
        if done and done.state == "done" and done.off_mm is not None:
            yield HandReading(visit.id, place.zone, place.side, done.off_mm, done.sigma_mm or LEAST_SIGMA_MM)
        elif place.state in TELLING:
            sigma = max((place.high - place.low) / (2 * NORMAL_90), LEAST_SIGMA_MM)
            yield HandReading(visit.id, place.zone, place.side, place.off_mm, sigma)
