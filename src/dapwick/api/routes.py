"""Routes. Handlers are plain functions, so FastAPI runs them off the event loop."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Response

from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import Base, Plans, Responses, Reviews, Store, tell_version
from dapwick.api.changed import changed_dog
from dapwick.core.head.coat import CoatProbe
from dapwick.core.solve.observations import HandMeasure
from dapwick.exports.measures_csv import measures_csv
from dapwick.service.after import expecting
from dapwick.service.dogs import about as dogs
from dapwick.service.photos import edges
from dapwick.service.salon import bands
from dapwick.service.visits import begin_end as visits
from dapwick.service.visits.head import head_drawing_of
from dapwick.service.visits.measuring import measure_visit
from dapwick.service.visits.next_measurement import next_on_visit

router = APIRouter()
CSV: Responses = {200: {"content": {"text/csv": {}}}}


@router.get("/mark-guide")
def get_mark_guide() -> s.MarkGuide:
    return shapes.guide()


@router.post("/dogs", status_code=201)
def post_dog(new: s.NewDog, store: Store) -> s.DogOut:
    return shapes.dog(dogs.add_dog(store, new.name, new.coat, new.breed, new.born, new.muzzle, new.ears))


@router.get("/dogs/{dog_id}")
def get_dog(dog_id: int, store: Store, reviews: Reviews) -> s.DogOut:
    """One dog; photos that nobody has looked at yet are looked at from now on."""
    card = dogs.one_dog(store, dog_id)
    for photo_id in edges.not_reviewed(store, dog_id):
        if reviews.job(photo_id) is None:
            reviews.ask(photo_id)
    return shapes.dog(card, reviews.job)


@router.put("/photos/{photo_id}/marks")
def put_marks(photo_id: int, given: s.MarksIn, store: Store, base: Base, response: Response) -> s.MeasuredOut:
    """Replace the photo's marks and measure the head again."""
    marks = {key: _plain(mark) for key, mark in given.marks.items()}
    dog_id, version = expecting.read_marks(store, photo_id, marks, base)
    tell_version(response, version)
    return shapes.measured(measure_visit(store, dog_id))


def _plain(mark: s.MarkIn) -> dict[str, Any]:
    kept = mark.model_dump(exclude_defaults=True)
    return kept | {"at": list(mark.at)}


@router.put("/dogs/{dog_id}/hand-measures")
def put_hand_measures(
    dog_id: int, given: s.HandMeasures, store: Store, base: Base, response: Response
) -> s.MeasuredOut:
    for m in given:
        HandMeasure(m.from_mark, m.to_mark, m.mm, m.sigma_mm)
    card = expecting.read_bone(
        store,
        dog_id,
        [{"from": m.from_mark, "to": m.to_mark, "mm": m.mm, "sigma_mm": m.sigma_mm} for m in given],
        base,
    )
    tell_version(response, card.versions["hand_measures"])
    return shapes.measured(measure_visit(store, dog_id))


@router.put("/dogs/{dog_id}/coat-probes")
def put_coat_probes(
    dog_id: int, given: s.Probes, store: Store, plans: Plans, base: Base, response: Response
) -> s.DogOut:
    for p in given:
        CoatProbe(p.zone, p.side, p.depth_mm, p.length_mm)
    return changed_dog(
        expecting.read_coat(store, plans, dog_id, [p.model_dump() for p in given], base),
        "coat_probes",
        response,
    )


@router.put("/dogs/{dog_id}/about")
def put_about(dog_id: int, given: s.AboutIn, store: Store, base: Base, response: Response) -> s.DogOut:
    """Name, breed, coat and birthday."""
    return changed_dog(dogs.set_about(store, dog_id, given.model_dump(), base), "about", response)


@router.put("/dogs/{dog_id}/next-note")
def put_next_note(dog_id: int, given: s.NoteIn, store: Store, base: Base, response: Response) -> s.DogOut:
    """What the next visit is to know."""
    return changed_dog(dogs.set_next_note(store, dog_id, given.note, base), "next_note", response)


@router.get("/dogs/{dog_id}/measure")
def get_measure(dog_id: int, store: Store) -> s.MeasuredOut:
    return shapes.measured(measure_visit(store, dog_id))


@router.get("/dogs/{dog_id}/measures.csv", response_class=Response, responses=CSV)
def get_measures_csv(dog_id: int, store: Store) -> Response:
    """The measures as they stand, as a table for spreadsheets."""
    name = dogs.one_dog(store, dog_id).name
    named = {"Content-Disposition": f'attachment; filename="dapwick-measures-{dog_id}.csv"'}
    told = measures_csv([(name, measure_visit(store, dog_id).measures)])
    return Response(told, media_type="text/csv; charset=utf-8", headers=named)


@router.get("/dogs/{dog_id}/next")
def get_next(dog_id: int, store: Store) -> list[s.NextOut]:
    """What would help most now."""
    return shapes.asked(next_on_visit(store, dog_id))


@router.get("/dogs/{dog_id}/head")
def get_head(dog_id: int, store: Store) -> s.HeadDrawingOut | None:
    """The head drawn from its own numbers; nothing before it is measured."""
    drawn = head_drawing_of(store, dog_id)
    return shapes.head_drawing(drawn) if drawn else None


@router.put("/dogs/{dog_id}/kind")
def put_kind(dog_id: int, given: s.HeadKindIn, store: Store, base: Base, response: Response) -> s.DogOut:
    return changed_dog(dogs.set_head_kind(store, dog_id, given.muzzle, given.ears, base), "kind", response)


@router.post("/dogs/{dog_id}/visits", status_code=201)
def post_visit(dog_id: int, store: Store) -> s.DogOut:
    """Open a new visit; the bone measured so far is kept."""
    return shapes.dog(visits.start_visit(store, dog_id))


@router.post("/dogs/{dog_id}/visits/end")
def post_visit_end(dog_id: int, store: Store) -> s.DogOut:
    """The dog goes home."""
    return shapes.dog(visits.end_visit(store, dog_id))


@router.delete("/dogs/{dog_id}/visits/end")
def delete_visit_end(dog_id: int, store: Store) -> s.DogOut:
    """It has not gone home after all."""
    return shapes.dog(visits.reopen_visit(store, dog_id))


@router.get("/bands")
def get_bands(store: Store) -> list[s.BandOut]:
    return [shapes.band(one) for one in bands.bands_of(store)]


@router.put("/bands")
def put_bands(given: s.BandsIn, store: Store) -> list[s.BandOut]:
    return [shapes.band(one) for one in bands.move_bands(store, given.edges)]
