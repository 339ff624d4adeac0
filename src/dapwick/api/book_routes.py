"""Routes of the day and the book, lists of dogs, a dog's history, removal and bundles."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response, UploadFile
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from dapwick.api import book_schemas as b
from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import RUNS, Responses, Store
from dapwick.api.said import plain
from dapwick.exports.calendar import calendar_ics
from dapwick.service.cutting.printing import appointment, appointments
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs import bundles, history, trash
from dapwick.service.salon.about import salon_of
from dapwick.service.salon.passing_files import let_go, written_for_now
from dapwick.service.visits import begin_end as visits
from dapwick.service.visits import bookings
from dapwick.service.visits.day import day_of

router = APIRouter()
ZIP: Responses = {200: {"content": {"application/zip": {}}}}
ICS: Responses = {200: {"content": {"text/calendar": {}}}}


@router.get("/today")
def get_today(store: Store, day: Annotated[str | None, Query(max_length=10)] = None) -> b.DayOut:
    """A day's dogs in their order; today's where no day is named."""
    found, due = day_of(store, day)
    return b.DayOut(
        day=found,
        today=found == bookings.today(),
        dogs=[b.DueOut.model_validate(one, from_attributes=True) for one in due],
    )


@router.get("/dogs")
def get_dogs(store: Store, find: Annotated[str, Query(max_length=80)] = "") -> list[b.BriefOut]:
    """Dogs whose name or breed holds these words."""
    return [b.BriefOut.model_validate(one, from_attributes=True) for one in dogs.find_dogs(store, find)]


@router.get("/dogs/{dog_id}/history")
def get_history(dog_id: int, store: Store) -> b.HistoryOut:
    return b.HistoryOut.model_validate(history.history_of(store, dog_id), from_attributes=True)


@router.get("/dogs/{dog_id}/bookings")
def get_bookings(dog_id: int, store: Store) -> list[b.BookingOut]:
    """Times kept free for a dog from today on."""
    return [_booking(one) for one in bookings.booked_ahead(store, dog_id)]


@router.post("/dogs/{dog_id}/bookings", status_code=201)
def post_booking(dog_id: int, given: b.BookingIn, store: Store) -> b.BookingOut:
    return _booking(bookings.book(store, dog_id, given.day, given.starts, given.minutes, given.words))


@router.put("/bookings/{booking_id}")
def put_booking(booking_id: int, given: b.BookingIn, store: Store) -> b.BookingOut:
    return _booking(
        bookings.move_booking(store, booking_id, given.day, given.starts, given.minutes, given.words)
    )


@router.delete("/bookings/{booking_id}", status_code=204)
def delete_booking(booking_id: int, store: Store) -> None:
    bookings.cancel_booking(store, booking_id)


@router.post("/bookings/{booking_id}/restore")
def post_booking_restore(booking_id: int, store: Store) -> b.BookingOut:
    return _booking(bookings.restore_booking(store, booking_id))


@router.post("/bookings/{booking_id}/begin")
def post_begin(booking_id: int, store: Store) -> s.DogOut:
    """The dog is here: its visit begins."""
    return shapes.dog(visits.begin_booking(store, booking_id))


@router.get("/calendar.ics", response_class=Response, responses=ICS)
def get_calendar(store: Store) -> Response:
    """The book from a week ago on."""
    named = {"Content-Disposition": 'attachment; filename="dapwick-book.ics"'}
    ics = calendar_ics(salon_of(store).name or "Dapwick", appointments(store))
    return Response(ics, media_type="text/calendar", headers=named)


@router.get("/bookings/{booking_id}/calendar.ics", response_class=Response, responses=ICS)
def get_booking_calendar(booking_id: int, store: Store) -> Response:
    """One time of the book, for the owner's calendar."""
    named = {"Content-Disposition": f'attachment; filename="dapwick-visit-{booking_id}.ics"'}
    ics = calendar_ics(salon_of(store).name or "Dapwick", [appointment(store, booking_id)])
    return Response(ics, media_type="text/calendar", headers=named)


@router.delete("/dogs/{dog_id}", status_code=204)
def delete_dog(dog_id: int, store: Store) -> None:
    """Off the lists; nothing is lost before a purge."""
    trash.remove_dog(store, dog_id)


@router.post("/dogs/{dog_id}/restore", status_code=204)
def post_dog_restore(dog_id: int, store: Store) -> None:
    trash.restore_dog(store, dog_id)


@router.get("/removed")
def get_removed(store: Store) -> list[b.RemovedOut]:
    """Dogs off the lists, and what a purge of each would take."""
    return [b.RemovedOut.model_validate(one, from_attributes=True) for one in trash.removed_dogs(store)]


@router.post("/removed/{dog_id}/purge", dependencies=[RUNS])
def post_purge(dog_id: int, given: b.PurgeIn, store: Store) -> b.RemovedOut:
    """For good."""
    return b.RemovedOut.model_validate(trash.purge_dog(store, dog_id, given.name), from_attributes=True)


@router.get("/dogs/{dog_id}/bundle.zip", response_class=Response, responses=ZIP)
def get_bundle(dog_id: int, store: Store) -> Response:
    """Everything of one dog, to be taken in on another machine."""
    named = {"Content-Disposition": f'attachment; filename="dapwick-dog-{dog_id}.zip"'}
    path = written_for_now(store, lambda out: bundles.write_bundle_of(store, dog_id, out))
    gone = BackgroundTask(let_go, path)
    return FileResponse(path, media_type="application/zip", headers=named, background=gone)


@router.post("/bundles", status_code=201)
def post_bundle(file: UploadFile, store: Store) -> s.DogOut:
    """Take a dog in from its bundle."""
    return shapes.dog(bundles.take_in(store, file.file, plain(file.filename or "bundle")[:80]))


def _booking(one: bookings.Booking) -> b.BookingOut:
    return b.BookingOut.model_validate(one, from_attributes=True)
