"""Everything a visit gives the solver."""

from __future__ import annotations

from datetime import date
from typing import Final

from sqlalchemy.orm import object_session

from dapwick.core.bone import Bone
from dapwick.core.head.coat import CoatProbe
from dapwick.core.observations import HandMeasure, HeadInput
from dapwick.records import queries
from dapwick.records.models import VisitRow
from dapwick.service.bones import unpacked
from dapwick.service.photos import marks_of

DAYS_A_WEEK: Final = 7.0


def given_of(visit: VisitRow) -> HeadInput:
    """Its marked photos but the finished ones, its hand measures, the kind of head, and the bone that earlier
    visits measured."""
    return HeadInput(
        tuple(marks_of(p) for p in queries.photos_of(visit) if p.state != "finished"),
        tuple(HandMeasure(m["from"], m["to"], m["mm"], m.get("sigma_mm", 1.0)) for m in visit.hand_measures),
        muzzle=visit.dog.muzzle,  # type: ignore[arg-type]
        ears=visit.dog.ears,  # type: ignore[arg-type]
        bone=bone_before(visit),
        age_weeks=age_weeks_at(visit),
    )


def probes_of(visit: VisitRow) -> tuple[CoatProbe, ...]:
    """Its comb readings."""
    return tuple(
        CoatProbe(p["zone"], p.get("side"), p["depth_mm"], p.get("length_mm")) for p in visit.coat_probes
    )


def bone_before(visit: VisitRow) -> Bone | None:
    """What earlier visits of the dog measured, from the latest that did."""
    session = object_session(visit)
    kept = queries.bone_before(session, visit) if session else None
    return unpacked(kept) if kept else None


def age_weeks_at(visit: VisitRow) -> float | None:
    """The dog's age on the day of a visit."""
    try:
        born = date.fromisoformat(visit.dog.born or "")
    except ValueError:
        return None
    return max((visit.created.date() - born).days / DAYS_A_WEEK, 0.0)
