"""A phone as the best camera in the room: a pass to bring photos of one dog's open visit, and nothing else."""

from __future__ import annotations

import secrets
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from threading import Lock
from typing import Final

from dapwick.core.basics.errors import BadInput, CodeOver
from dapwick.core.basics.marks import STATES, State, View
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs.cards import DogCard, PhotoCard

LASTS_S: Final = 20 * 60.0
"""From the last photo; a stylist who washes the dog in between scans again."""
MOST_PASSES: Final = 60
TAKEN_IN_ORDER: Final[dict[State, tuple[View, ...]]] = {
    "dry": ("front", "left", "right", "top"),
    "wet": ("front", "left", "top"),
    "finished": ("front", "left", "right", "top"),
}
"""The views wanted of each state, the ones that a head can do least without first."""


@dataclass(frozen=True)
class Pass:
    """visit_id: the visit that was open when it was given out; state: of the coat, of the photos that come."""

    token: str
    dog_id: int
    visit_id: int
    state: State


@dataclass(frozen=True)
class Wanted:
    """What a phone shows: the dog's name, the view wanted next (None when all are there), the photos by view."""

    dog: str
    state: State
    view: View | None
    photos: dict[View, PhotoCard | None]


class PhonePasses:
    """The passes given out last, in memory: a stop of the server ends them. clock: seconds, for tests."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock, self._lock = clock, Lock()
        self._given: dict[str, tuple[Pass, float]] = {}

    def give(self, store: SalonStore, dog_id: int, state: str) -> Pass:
        """A pass for the open visit; one that was given for it before ends. One that ran out by itself is good again:
        a phone may still hold a photo that it could not bring."""
        visit_id = dogs.one_dog(store, dog_id).visits[-1].id
        with self._lock:
            now = self._clock()
            token = secrets.token_urlsafe(12)
            before = next((t for t, (one, _) in self._given.items() if one.visit_id == visit_id), None)
            if before is not None:
                _, until = self._given.pop(before)
                token = before if until <= now else token
            given = Pass(token, dog_id, visit_id, _state(state))
            while len(self._given) >= MOST_PASSES:
                del self._given[next(iter(self._given))]
            self._given[token] = given, now + LASTS_S
        return given

    def of(self, token: str) -> Pass:
        """A pass that is good now. Raises CodeOver where it is not."""
        with self._lock:
            found, until = self._given.get(token, (None, 0.0))
            if found is None or until <= self._clock():
                raise CodeOver
            return found

    def turn(self, token: str, state: str) -> Pass:
        """The coat is in another state by now."""
        turned = replace(self.of(token), state=_state(state))
        with self._lock:
            self._given[token] = turned, self._clock() + LASTS_S
        return turned

    def end(self, dog_id: int) -> None:
        """Nothing comes from a phone to this dog any more."""
        with self._lock:
            self._given = {t: kept for t, kept in self._given.items() if kept[0].dog_id != dog_id}


def wanted_now(store: SalonStore, given: Pass) -> Wanted:
    """What the phone is to take next. Raises CodeOver once another visit has begun or this one has ended."""
    dog = open_visit(store, given)
    order = TAKEN_IN_ORDER[given.state]
    there = {v: next((p for p in dog.photos if (p.view, p.state) == (v, given.state)), None) for v in order}
    return Wanted(dog.name, given.state, next((v for v in order if there[v] is None), None), there)


def open_visit(store: SalonStore, given: Pass) -> DogCard:
    """The dog, while the visit that the pass was given for is open."""
    dog = dogs.one_dog(store, given.dog_id)
    last = dog.visits[-1]
    if last.id != given.visit_id or last.ended:
        raise CodeOver
    return dog


def _state(told: str) -> State:
    state = next((s for s in STATES if s == told), None)
    if state is None:
        raise BadInput("unknown state", expected=", ".join(STATES), got=told, where="state")
    return state
