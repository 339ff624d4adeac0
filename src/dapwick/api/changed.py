"""The answer to a change of one part of a dog."""

from __future__ import annotations

from fastapi import Response

from dapwick.api import schemas as s
from dapwick.api import shapes
from dapwick.api.at_hand import tell_version
from dapwick.service.dogs.cards import DogCard


def changed_dog(card: DogCard, part: str, response: Response) -> s.DogOut:
    """The dog as the change left it, and the version of what was changed: of that very write, whoever writes next."""
    tell_version(response, card.versions[part])
    return shapes.dog(card)
