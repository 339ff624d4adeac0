"""The answer to a change of one part of a dog."""

from __future__ import annotations

from fastapi import Response

from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import tell_version
from dapwick.records.store import SalonStore
from dapwick.service import dogs


def changed_dog(store: SalonStore, dog_id: int, part: str, response: Response) -> s.DogOut:
    """The dog as it is now, and the version of what was changed."""
    card = dogs.one_dog(store, dog_id)
    tell_version(response, card.versions[part])
    return shapes.dog(card)
