"""Routes of the photos: taken in, sorted, looked at, their edges; the camera's guide; the scale card."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Response, UploadFile

from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import Base, Camera, Responses, Reviews, Store, tell_version
from dapwick.api.said import plain
from dapwick.core.basics.marks import State, View
from dapwick.documents.edge import EdgeDocument
from dapwick.exports.scale_card import scale_card_pdf
from dapwick.service.after.expecting import read_edge
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs.cards import PhotoCard
from dapwick.service.photos import edges
from dapwick.service.photos import taking_in as photos
from dapwick.service.photos.guide import guide_frame
from dapwick.service.photos.moving import Move, Place, move_photos
from dapwick.service.photos.reviews import Reviews as PhotoReviews
from dapwick.service.salon.opening import Salon

router = APIRouter()
JPEG: Responses = {200: {"content": {"image/jpeg": {}}}}
PDF: Responses = {200: {"content": {"application/pdf": {}}}}


@router.post("/dogs/{dog_id}/photos", status_code=201)
def post_photo(
    dog_id: int,
    file: UploadFile,
    view: Annotated[str, Form()],
    store: Store,
    reviews: Reviews,
    state: Annotated[str, Form()] = "dry",
    usual: Annotated[str, Form()] = "dry",
) -> s.PhotoOut:
    """Take a photo in. view and state may be "guess"; usual: the state of photos dropped with it."""
    dogs.one_dog(store, dog_id)
    card = take_in(store, reviews, dog_id, file, plain(view)[:40], plain(state)[:40], plain(usual)[:40])
    return shapes.photo(card, reviews.job)


def take_in(
    store: Salon,
    reviews: PhotoReviews,
    dog_id: int,
    file: UploadFile,
    view: str,
    state: str,
    usual: str = "dry",
) -> PhotoCard:
    """Take a file in and have it looked at."""
    # One byte past the limit is enough to know; the rest of a huge file is never read into memory.
    data = file.file.read(photos.LARGEST_PHOTO_BYTES + 1)
    card = photos.add_photo(store, dog_id, data, plain(file.filename or "photo"), view, state, usual)
    if not card.looked:
        reviews.ask(card.id)
    return card


@router.post("/photos/moves")
def post_moves(given: s.MovesIn, store: Store, reviews: Reviews) -> list[s.MovedOut]:
    """Move photos to slots or beside them, all or none; what lay there changes places with them."""
    moves = [Move(m.photo_id, _place(m.to), m.version) for m in given.moves]
    moved = move_photos(store, moves)
    for one in moved:
        if (one.was.view, one.was.state) != (one.now.view, one.now.state):
            reviews.ask(one.photo_id)
    return [s.MovedOut.model_validate(one, from_attributes=True) for one in moved]


def _place(place: s.PlaceIO) -> Place:
    return Place(place.view, place.state, place.spare, tuple(place.maybe))


@router.delete("/photos/{photo_id}", status_code=204)
def delete_photo(photo_id: int, store: Store, reviews: Reviews) -> None:
    photos.remove_photo(store, photo_id)
    reviews.stop(photo_id)


@router.post("/photos/{photo_id}/restore")
def post_restore(photo_id: int, store: Store) -> s.PhotoOut:
    return shapes.photo(photos.restore_photo(store, photo_id))


@router.get("/pictures/{digest}", response_class=Response, responses=JPEG)
def get_picture(digest: str, store: Store) -> Response:
    """A photo as screens show it, under the SHA-256 of its original."""
    return Response(
        photos.picture(store, digest),
        media_type="image/jpeg",
        headers={"Cache-Control": "private, max-age=31536000, immutable"},
    )


@router.get("/photos/{photo_id}/edge")
def get_edge(photo_id: int, store: Store, response: Response) -> s.EdgeIO:
    return _edge(response, *edges.edge_of(store, photo_id))


@router.put("/photos/{photo_id}/edge")
def put_edge(photo_id: int, given: s.EdgeIO, store: Store, base: Base, response: Response) -> s.EdgeIO:
    return _edge(response, *read_edge(store, photo_id, given.line, base, given.neck))


@router.post("/photos/{photo_id}/edge/strokes")
def post_strokes(photo_id: int, given: s.StrokesIn, store: Store, response: Response) -> s.EdgeIO:
    """Say where coat is, or none, by short strokes: the edge follows the last one; the ones before hold."""
    strokes = [(one.points, one.coat) for one in given.strokes]
    return _edge(response, *edges.follow_strokes(store, photo_id, strokes))


@router.post("/photos/{photo_id}/edge/trail")
def post_trail(photo_id: int, given: s.TrailIn, store: Store, response: Response) -> s.EdgeIO:
    """Trace roughly along the coat: the edge runs where coat and ground part nearby."""
    return _edge(response, *edges.follow_trail(store, photo_id, given.points))


@router.post("/photos/{photo_id}/edge/found")
def post_found(photo_id: int, store: Store) -> s.EdgeIO:
    """The edge as the machine finds it now, to be laid beside the one that is there; nothing is kept."""
    return s.EdgeIO.model_validate({"line": edges.found_again(store, photo_id)})


def _edge(response: Response, edge: EdgeDocument, version: str) -> s.EdgeIO:
    tell_version(response, version)
    return s.EdgeIO.model_validate(edge.to_json())


@router.post("/photos/{photo_id}/look", status_code=202)
def post_look(photo_id: int, store: Store, reviews: Reviews) -> None:
    """Look at the photo again; an edge that is there stays."""
    photos.check_photo(store, photo_id)
    reviews.ask(photo_id)


@router.delete("/photos/{photo_id}/look", status_code=204)
def delete_look(photo_id: int, store: Store, reviews: Reviews) -> None:
    """Stop looking; marks and edge can be placed by hand."""
    photos.check_photo(store, photo_id)
    reviews.stop(photo_id)


@router.post("/camera/guide")
def post_guide(file: UploadFile, view: Annotated[str, Form()]) -> s.GuidanceOut:
    """Level, turn, nod, distance and sharpness of one frame."""
    return shapes.guidance(guide_frame(file.file.read(photos.LARGEST_PHOTO_BYTES + 1), plain(view)[:40]))


@router.get("/camera/simulated", response_class=Response, responses=JPEG)
def get_simulated_frame(view: View, state: State, tick: int, camera: Camera) -> Response:
    """What the simulated camera shows at a tick while pointed for a slot."""
    return Response(
        camera.frame(view, state, tick), media_type="image/jpeg", headers={"Cache-Control": "no-store"}
    )


@router.get("/scale-card.pdf", response_class=Response, responses=PDF)
def get_scale_card(paper: str = "a4") -> Response:
    named = {"Content-Disposition": f'inline; filename="dapwick-scale-card-{paper.lower()[:8]}.pdf"'}
    return Response(scale_card_pdf(paper), media_type="application/pdf", headers=named)
