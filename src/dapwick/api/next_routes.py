"""Routes of what comes after: the next visit, what was noted for it, how far off the tool is, when the salon works."""

from __future__ import annotations

import math
from typing import Any

from fastapi import APIRouter, Response

from dapwick.api import next_schemas as n
from dapwick.api import schemas as s
from dapwick.api.at_hand import Base, Forecasts, Responses, Store
from dapwick.api.changed import changed_dog
from dapwick.api.outline_schemas import OutlineIn
from dapwick.core.head.zones import zone_words
from dapwick.service.after import hands
from dapwick.service.after import how_far_off as off
from dapwick.service.after.factors import take_factor
from dapwick.service.after.next_time import say_for_next
from dapwick.service.plans.planner import Asked
from dapwick.service.visits.free_times import Hours, hours_of, set_hours

router = APIRouter()
CSV: Responses = {200: {"content": {"text/csv": {}}}}


@router.get("/dogs/{dog_id}/next-time")
def get_next_time(dog_id: int, forecasts: Forecasts) -> n.NextTimeOut:
    """What shows first as today's head grows out, the next visit, and the note for it."""
    now = forecasts.now(dog_id)
    rates = [vars(rate) | {"zone_words": zone_words(rate.zone)} for rate in now.rates]
    return n.NextTimeOut.model_validate(vars(now) | {"rates": rates}, from_attributes=True)


@router.put("/dogs/{dog_id}/for-next")
def put_for_next(dog_id: int, given: n.ForNextIn, store: Store, base: Base, response: Response) -> s.DogOut:
    """What was made of the note's parts."""
    return changed_dog(say_for_next(store, dog_id, given.said, base), "for_next", response)


@router.post("/dogs/{dog_id}/outline/coming")
def post_coming(dog_id: int, given: OutlineIn, forecasts: Forecasts) -> list[n.ComingOut]:
    """What shows first as this outline grows out."""
    told = forecasts.coming(dog_id, Asked(given.family, given.params, given.schools))
    return [n.ComingOut.model_validate(event, from_attributes=True) for event in told.events]


@router.post("/dogs/{dog_id}/outline/lasting")
def post_lasting(dog_id: int, given: OutlineIn, forecasts: Forecasts) -> list[n.LastingOut]:
    """How many weeks this outline lasts as it is set, and what shorter buys."""
    told = forecasts.lasting(dog_id, Asked(given.family, given.params, given.schools))
    return [n.LastingOut.model_validate(one, from_attributes=True) for one in told]


@router.get("/dogs/{dog_id}/hand")
def get_hand(dog_id: int, store: Store) -> n.HandOut:
    """What whoever cuts this visit usually leaves long or short, for them alone."""
    return _hand(hands.hand_on_visit(store, dog_id))


@router.get("/salon/own-hand")
def get_own_hand(store: Store) -> list[str]:
    """Stylists who do not want to hear of their own hand."""
    return hands.not_told(store)


@router.put("/salon/own-hand", status_code=204)
def put_own_hand(given: n.ToldIn, store: Store) -> None:
    """Whether a stylist wants to hear of their own hand."""
    hands.tell_of_hand(store, given.stylist, given.told)


def _hand(now: hands.HandNow) -> n.HandOut:
    notes = [n.HandNoteOut(zone=b.zone, side=b.side, mm=b.mm, words=b.words(now.stylist)) for b in now.biases]
    return n.HandOut(stylist=now.stylist, told=now.told, notes=notes)


@router.get("/salon/how-far-off")
def get_how_far_off(store: Store) -> n.HowFarOffOut:
    """What was expected of readings against what was found, over this salon's own dogs."""
    return _off(store)


@router.put("/salon/how-far-off/{kind}")
def put_factor(kind: str, given: n.FactorIn, store: Store) -> n.HowFarOffOut:
    """Widen what is told of a kind by the salon's own factor."""
    take_factor(store, kind, given.factor)
    return _off(store)


@router.get("/salon/how-far-off.csv", response_class=Response, responses=CSV)
def get_how_far_off_csv(store: Store) -> Response:
    """Every reading, for spreadsheets."""
    named = {"Content-Disposition": 'attachment; filename="dapwick-how-far-off.csv"'}
    return Response(off.all_readings_csv(store), media_type="text/csv", headers=named)


@router.get("/salon/hours")
def get_hours(store: Store) -> n.HoursIO:
    return n.HoursIO.model_validate(_plain_hours(hours_of(store)))


@router.put("/salon/hours")
def put_hours(given: n.HoursIO, store: Store) -> n.HoursIO:
    hours = Hours(given.opens, given.closes, tuple(sorted(set(given.closed))), given.tables)
    return n.HoursIO.model_validate(_plain_hours(set_hours(store, hours)))


def _plain_hours(hours: Hours) -> dict[str, Any]:
    return vars(hours) | {"closed": list(hours.closed)}


def _off(store: Store) -> n.HowFarOffOut:
    now = off.how_far_off(store)
    tallies = [{k: _finite(v) for k, v in vars(one).items()} for one in now.tallies]
    return n.HowFarOffOut.model_validate(vars(now) | {"tallies": tallies}, from_attributes=True)


def _finite(value: Any) -> Any:
    return max(-99.0, min(99.0, value)) if isinstance(value, float) and not math.isfinite(value) else value
