"""Routes of Practice."""

from __future__ import annotations

from fastapi import APIRouter, Response

from dapwick.api import practice_schemas as p
from dapwick.api import practice_shapes as shape
from dapwick.api.at_hand import Practising, Responses, Store
from dapwick.core.basics.marks import View
from dapwick.core.practice.next_drill import A_SESSION
from dapwick.service.practice import people
from dapwick.service.practice.answering import answer
from dapwick.service.practice.asking import ask, question
from dapwick.service.practice.photographed import picture
from dapwick.service.practice.progress import progress, results_csv, shown_to_trainer

router = APIRouter(prefix="/practice")
CSV: Responses = {200: {"content": {"text/csv": {}}}}
JPEG: Responses = {200: {"content": {"image/jpeg": {}}}}


@router.get("/people")
def get_people(store: Store) -> p.PeopleOut:
    """Who practises."""
    return p.PeopleOut.model_validate(people.people(store), from_attributes=True)


@router.post("/people")
def post_person(given: p.PersonIn, store: Store) -> p.PersonOut:
    """Somebody begins to practise, or is back."""
    return p.PersonOut.model_validate(people.take_in(store, given.name), from_attributes=True)


@router.put("/people/{person_id}")
def put_person(person_id: int, given: p.PersonChangeIn, store: Store) -> p.PersonOut:
    """Whether a trainer may see how it goes; off the list or on it."""
    return p.PersonOut.model_validate(
        people.settle(store, person_id, given.shown, given.removed), from_attributes=True
    )


@router.get("/people/{person_id}")
def get_person(person_id: int, store: Store) -> p.OwnOut:
    """One person's own progress."""
    return p.OwnOut.model_validate(progress(store, person_id), from_attributes=True)


@router.get("/trainer")
def get_for_trainer(store: Store) -> list[p.OwnOut]:
    """How it goes with those who let a trainer see it."""
    return [p.OwnOut.model_validate(one, from_attributes=True) for one in shown_to_trainer(store)]


@router.get("/people/{person_id}/results.csv", response_class=Response, responses=CSV)
def get_results(person_id: int, store: Store) -> Response:
    """Everything a person answered, for spreadsheets."""
    named = {"Content-Disposition": 'attachment; filename="dapwick-practice.csv"'}
    return Response(results_csv(store, person_id), media_type="text/csv", headers=named)


@router.post("/people/{person_id}/tasks")
def post_task(person_id: int, given: p.TaskIn, store: Store, heads: Practising) -> p.TaskOut:
    """The person's open question of a drill, or the next one."""
    return shape.task(ask(store, heads, person_id, given.drill), heads)


@router.post("/tasks/{task_id}/answer")
def post_answer(task_id: int, given: p.AnswerIn, store: Store, heads: Practising) -> p.ShownOut:
    """Judge an answer and keep it; what was answered once stays."""
    told = answer(store, heads, task_id, given.answer)
    asked = question(store, task_id)
    now = progress(store, asked.person_id).progress
    return shape.shown(told, asked.drill, now, (asked.turn + 1) % A_SESSION[asked.drill] == 0)


@router.get("/photos/{dog}/{view}", response_class=Response, responses=JPEG)
def get_photo(dog: str, view: View, under: bool = False) -> Response:
    """A photographed dog to mark, or what its coat hid."""
    return Response(picture(dog, view, under), media_type="image/jpeg")
