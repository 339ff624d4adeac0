"""Routes of the check: the finished head against its plan, what was done about it, before and after."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter, Response

from dapwick.api import check_schemas as c
from dapwick.api import schemas as s
from dapwick.api.at_hand import Base, Checks, Responses, Store
from dapwick.api.changed import changed_dog
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import View
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.zones import zone_words
from dapwick.service.after import expecting
from dapwick.service.after.checking import CheckNow, SeenPhoto

router = APIRouter()


def _image(kind: str) -> Responses:
    return {200: {"content": {kind: {"schema": {"type": "string", "format": "binary"}}}}}


@router.get("/dogs/{dog_id}/check")
def get_check(dog_id: int, checks: Checks) -> c.CheckOut:
    """The finished head against its plan, as far as its photos tell."""
    return _check(checks.now(dog_id))


@router.put("/dogs/{dog_id}/touched-up")
def put_touched_up(
    dog_id: int, given: c.TouchedUpIn, checks: Checks, base: Base, response: Response
) -> s.DogOut:
    """What was done about the places that came out long."""
    return changed_dog(checks.touch_up(dog_id, given.done, base), "touched_up", response)


@router.put("/dogs/{dog_id}/combed-after")
def put_combed_after(
    dog_id: int, given: c.CutCombs, store: Store, checks: Checks, base: Base, response: Response
) -> s.DogOut:
    """What a comb found on the finished head."""
    for p in given:
        CoatProbe(p.zone, p.side, p.depth_mm, p.length_mm)
    kept = expecting.read_finished(store, checks, dog_id, [p.model_dump() for p in given], base)
    return changed_dog(kept, "combed_after", response)


@router.get("/dogs/{dog_id}/check/page", response_class=Response, responses=_image("image/png"))
def get_check_page(dog_id: int, checks: Checks) -> Response:
    """Before and after on one page to keep."""
    return Response(checks.page(dog_id), media_type="image/png")


@router.get("/dogs/{dog_id}/check/pictures/{view}", response_class=Response, responses=_image("image/jpeg"))
def get_check_picture(dog_id: int, view: View, checks: Checks) -> Response:
    """Before and after of one view, side by side."""
    return Response(checks.picture(dog_id, view), media_type="image/jpeg")


def _check(now: CheckNow) -> c.CheckOut:
    check = now.check
    turn = {place: i for i, place in enumerate(now.order)}
    touch_ups = [_touch_up(now, t.model_dump()) for t in (check.touch_ups if check else [])]
    return c.CheckOut(
        reason=now.reason,
        waiting=now.waiting,
        words=check.words if check else "",
        photos=[_photo(one) for one in now.photos],
        touch_ups=sorted(touch_ups, key=lambda t: turn.get(t.place, 0)),
        short=check.short if check else [],
        comb=[
            c.ToCombOut(**one.model_dump(), zone_words=zone_words(one.zone))
            for one in (check.comb if check else [])
        ],
        combed=[c.CutCombIO.model_validate(one.model_dump(exclude={"taken_in"})) for one in now.combed],
        even=check.even if check else [],
        places=[
            c.PlaceOut(**p.model_dump(), zone_words=zone_words(p.zone))
            for p in (check.places if check else [])
        ],
        pictures=list(now.pictures),
    )


def _touch_up(now: CheckNow, told: dict[str, object]) -> c.TouchUpOut:
    place = f"{told['zone']}/{told['side']}"
    step, done = now.steps.get(place), now.touched_up.get(place)
    return c.TouchUpOut.model_validate(
        {
            **told,
            "place": place,
            "zone_words": zone_words(str(told["zone"])),
            "done": done.state if done else None,
            "step": c.StepForOut(**vars(step) | {"cautions": list(step.cautions)}) if step else None,
        }
    )


def _photo(one: SeenPhoto) -> c.CheckedPhotoOut:
    drawn = one.drawn
    return c.CheckedPhotoOut(
        id=one.id,
        view=one.view,
        looked=one.looked,
        width=one.size[0],
        height=one.size[1],
        edge=[(x, y) for x, y in one.edge],
        outline=_line(drawn.outline_px) if drawn else [],
        ticks=[
            c.TickOut(planned=_point(t.planned_px), found=_point(t.found_px), mm=round(t.mm, 1))
            for t in (drawn.ticks if drawn else ())
        ],
        why_not=one.why_not,
    )


def _line(px: Array) -> list[tuple[float, float]]:
    return [_point((x, y)) for x, y in np.asarray(px).tolist()]


def _point(at: tuple[float, float]) -> tuple[float, float]:
    return round(at[0], 1), round(at[1], 1)
