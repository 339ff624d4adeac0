"""One photo file looked at from nothing: which view and state, and all that can be seen in it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from dapwick.core.basics.marks import View
from dapwick.pipeline.review import Review, review_photo
from dapwick.pipeline.sorting import Sorted, sorted_photo
from dapwick.vision.guess import guess_marks
from dapwick.vision.photo import read_photo, screen_sized


@dataclass(frozen=True)
class Look:
    """place: where the photo belongs; review: told in px of the photo."""

    place: Sorted
    review: Review


def look_at(
    data: bytes,
    name: str,
    view: View | None = None,
    known: Mapping[str, tuple[float, float]] | None = None,
) -> Look:
    """Look at a photo file. view: where it was taken from, if that is known; known: marks placed on it, px. Raises
    BadInput where it cannot be read."""
    photo = read_photo(data, name)
    rgb = screen_sized(photo.rgb)
    place = sorted_photo(guess_marks(rgb, view), view)
    size = photo.width_px, photo.height_px
    return Look(place, review_photo(rgb, name, place.view or "front", size, photo.focal_px, seeds=known))
