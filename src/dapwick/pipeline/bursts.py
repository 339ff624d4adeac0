"""Photos taken together: before the bath, after it, at the end. What is true of one's coat is true of all."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Final

LONGEST_PAUSE_S: Final = 600.0
"""Between two photos of a burst; a bath takes longer."""


def bursts(taken: Mapping[int, datetime | None]) -> dict[int, tuple[int, ...]]:
    """By photo id all ids of its burst, its own too, in the order they were taken. Photos that do not say when they
    were taken are one burst: they came together."""
    timed = sorted((at, photo) for photo, at in taken.items() if at is not None)
    found: list[list[int]] = []
    for i, (at, photo) in enumerate(timed):
        if i and (at - timed[i - 1][0]).total_seconds() <= LONGEST_PAUSE_S:
            found[-1].append(photo)
        else:
            found.append([photo])
    return _by_photo([*found, [photo for photo, at in taken.items() if at is None]])


def _by_photo(found: Iterable[list[int]]) -> dict[int, tuple[int, ...]]:
    return {photo: tuple(together) for together in found for photo in together}
