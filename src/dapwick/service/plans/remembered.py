"""How this dog, and this stylist's other dogs, were done last: the answers that differ from what is usual."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import Family, settle_schools
from dapwick.records import queries
from dapwick.records.models import OutlineRow

ASKED_SINCE_FIT: Final = 4
OF_THE_HAND: Final = ("order", "clipping")
"""Under these headings a stylist goes about one dog as about the next."""


def remembered(session: Session, dog_id: int, chosen: Family) -> dict[str, str]:
    """Answers to a family's questions as they were given last: on this dog, else by this stylist where it is a matter
    of the hand. Nothing where the usual was kept."""
    visit = queries.visit_today(session, dog_id)
    coat = visit.dog.coat
    by_hand = queries.last_outline_by(session, visit.stylist) if visit.stylist else None
    own = [row for one in visit.dog.visits for row in one.outlines][-1:]
    hand = _answers([by_hand] if by_hand else [], coat)
    asked = {s.id: s for s in chosen.schools}
    told = {k: v for k, v in hand.items() if k in asked and asked[k].about in OF_THE_HAND} | _answers(
        own, coat
    )
    return {k: v for k, v in told.items() if k in asked and v in asked[k].choices}


def _asked_as_now(row: OutlineRow) -> bool:
    """Kept since the questions are what they are: before, the usual answers were others, and nobody had given them."""
    _, found, number = row.version.rpartition("fit-")
    return bool(found) and number.isdecimal() and int(number) >= ASKED_SINCE_FIT


def _answers(rows: Iterable[OutlineRow], coat: str) -> dict[str, str]:
    """What was answered otherwise than is usual."""
    found: dict[str, str] = {}
    for row in (one for one in rows if _asked_as_now(one)):
        family = FAMILIES.get(row.family)
        usual: Mapping[str, str] = settle_schools(family, {}, coat) if family else {}
        found |= {key: choice for key, choice in row.schools.items() if usual.get(key) != choice}
    return found
