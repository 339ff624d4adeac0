"""A phone that takes the photos of one visit: the tablet gives it a pass as a square code, it shows that pass and
brings photos."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Request, Response, UploadFile
from pydantic import BaseModel

from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import Network, Passes, Responses, Reviews, Store
from dapwick.api.photo_routes import take_in
from dapwick.api.said import Said
from dapwick.core.basics.marks import State, View
from dapwick.exports.address_code import address_svg
from dapwick.service.photos import phone

router = APIRouter()
SVG: Responses = {200: {"content": {"image/svg+xml": {}}}}


class PhoneIn(Said):
    state: State = "dry"


class PhoneCodeOut(BaseModel):
    """address: what the code says; minutes: how long it is good after the last photo; reachable: a phone can come to
    it, which takes a salon that is open to the network."""

    token: str
    address: str
    minutes: int
    reachable: bool


class PhoneViewOut(BaseModel):
    view: View
    photo: s.PhotoOut | None


class PhoneOut(BaseModel):
    """view: what is wanted next; None when all are there."""

    dog: str
    state: State
    view: View | None
    views: list[PhoneViewOut]


@router.post("/dogs/{dog_id}/phone", status_code=201)
def post_phone(
    dog_id: int, given: PhoneIn, request: Request, store: Store, passes: Passes, reach: Network
) -> PhoneCodeOut:
    """A pass for the open visit; an earlier one ends."""
    made = passes.give(store, dog_id, given.state)
    first = reach.first or str(request.base_url).rstrip("/")
    return PhoneCodeOut(
        token=made.token,
        address=f"{first}/phone/{made.token}",
        minutes=round(phone.LASTS_S / 60),
        reachable=reach.first is not None,
    )


@router.delete("/dogs/{dog_id}/phone", status_code=204)
def delete_phone(dog_id: int, passes: Passes) -> None:
    passes.end(dog_id)


@router.get("/phone/{token}/code.svg", response_class=Response, responses=SVG)
def get_code(token: str, request: Request, passes: Passes, reach: Network) -> Response:
    passes.of(token)
    first = reach.first or str(request.base_url).rstrip("/")
    return Response(
        address_svg(f"{first}/phone/{token}"),
        media_type="image/svg+xml",
        headers={"Cache-Control": "no-store"},
    )


@router.get("/phone/{token}")
def get_phone(token: str, store: Store, passes: Passes, reviews: Reviews) -> PhoneOut:
    """What the phone is to take next, and what became of what it brought."""
    return _shown(phone.wanted_now(store, passes.of(token)), reviews)


@router.put("/phone/{token}")
def put_phone(token: str, given: PhoneIn, store: Store, passes: Passes, reviews: Reviews) -> PhoneOut:
    """The coat is in another state by now."""
    return _shown(phone.wanted_now(store, passes.turn(token, given.state)), reviews)


@router.post("/phone/{token}/photos", status_code=201)
def post_phone_photo(
    token: str,
    file: UploadFile,
    view: Annotated[View, Form()],
    store: Store,
    passes: Passes,
    reviews: Reviews,
) -> PhoneOut:
    """Into the slot of that view, in the coat's state of now; what lay there is kept beside."""
    given = passes.of(token)
    phone.open_visit(store, given)
    take_in(store, reviews, given.dog_id, file, view, given.state)
    return _shown(phone.wanted_now(store, passes.turn(token, given.state)), reviews)


def _shown(wanted: phone.Wanted, reviews: Reviews) -> PhoneOut:
    views = [
        PhoneViewOut(view=view, photo=shapes.photo(card, reviews.job) if card else None)
        for view, card in wanted.photos.items()
    ]
    return PhoneOut(dog=wanted.dog, state=wanted.state, view=wanted.view, views=views)
