"""The photographed dogs as they are practised on: their photos, and where their marks truly are."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any, Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.errors import NotFound
from dapwick.core.basics.marks import View
from dapwick.core.practice.bone import Ray
from dapwick.demo.dogs import DEMO_DOGS, photo_bytes, photos_of, truth

VIEWS: Final[tuple[View, ...]] = ("front", "left", "right", "top")


@dataclass(frozen=True)
class PhotographedDog:
    """One photo of a dog in its coat: where its marks are on it (px) and on the head (mm); under: the same view wet,
    which shows what the coat hid, or nothing."""

    name: str
    file: str
    view: View
    width_px: int
    height_px: int
    marks_px: dict[str, tuple[float, float]]
    marks_mm: dict[str, Array]
    camera: Camera
    under: PhotographedDog | None

    def ray(self, px: tuple[float, float]) -> Ray:
        """What a finger on the photo points along."""
        camera = self.camera
        across = (np.array(px) - camera.principal_px) / camera.focal_px
        return Ray(camera.centre_mm, camera.rotation.T @ np.array([*across, 1.0]))


@cache
def every_photo() -> tuple[tuple[str, View], ...]:
    """(dog, view) of every dry photo there is to mark."""
    found = []
    for dog in DEMO_DOGS:
        seen = {(p["state"], p["view"]) for p in truth(dog.key)["photos"] if p["visit"] == 0}
        found += [(dog.key, view) for view in VIEWS if ("dry", view) in seen]
    return tuple(found)


def photographed(key: str, view: View) -> PhotographedDog:
    if (key, view) not in every_photo():
        raise NotFound("photo to practise on", f"{key} {view}")
    known = truth(key)
    return _photo(known, "dry", view)


def picture(key: str, view: View, under: bool) -> bytes:
    """The photo's file, or the wet one's under it."""
    shown = photographed(key, view)
    if under and shown.under is None:
        raise NotFound("wet photo", f"{key} {view}")
    return photo_bytes(shown.under.file if under and shown.under else shown.file)


def _photo(known: dict[str, Any], state: str, view: View) -> PhotographedDog:
    (one,) = photos_of(known, (f"{state}-{view}",))
    wet = any((p["state"], p["view"], p["visit"]) == ("wet", view, 0) for p in known["photos"])
    camera = Camera(
        np.array(one["rotation"]),
        np.array(one["translation_mm"]),
        one["focal_px"],
        one["width"],
        one["height"],
    )
    return PhotographedDog(
        known["dog"],
        one["file"],
        view,
        one["width"],
        one["height"],
        {mark: (at[0], at[1]) for mark, at in one["marks_px"].items()},
        {mark: np.array(at) for mark, at in known["marks_mm"].items()},
        camera,
        _photo(known, "wet", view) if wet and state == "dry" else None,
    )
