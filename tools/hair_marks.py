"""How often a crown that was marked in its hair is told, and one that was marked well is told so for nothing.

python tools/hair_marks.py [DOGS A KIND]
"""

from __future__ import annotations

import sys
from dataclasses import replace
from typing import Final

import numpy as np

from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import INDEX
from dapwick.core.solve.observations import PhotoMarks
from foreign_truth import FRESH_SEED, measured
from skulls.dressed import Dressed, dressed
from skulls.makers import MAKERS

DOGS: Final = 6
UP_MM: Final = (0.0, 6.0, 12.0)
WAY: Final = "four dry, four combs"


def marked_up(dog: Dressed, up_mm: float) -> Dressed:
    """The dog, its crown marked so far up in the hair in every photo."""
    crown = dog.skull.points_mm[INDEX["crown"]]

    def moved(photo: PhotoMarks, camera: Camera) -> PhotoMarks:
        mark = photo.marks.get("crown")
        if mark is None:
            return photo
        by = np.diff(camera.project(np.array([crown, crown + [0, 0, up_mm]])), axis=0)[0]
        there = replace(mark, x_px=mark.x_px + float(by[0]), y_px=mark.y_px + float(by[1]))
        return replace(photo, marks={**photo.marks, "crown": there})

    photos = tuple(moved(*one) for one in zip(dog.given.photos, dog.cameras, strict=True))
    return replace(dog, given=replace(dog.given, photos=photos))


def told(dog: Dressed, seed: int) -> bool | None:
    """Whether the dog's crown is told to be marked in the hair; None where it cannot be solved."""
    found = measured(dog, WAY, seed)
    if found is None:
        return None
    return any("marked in the hair" in note for note in found[0].notes)


def report(dogs: int = DOGS) -> list[str]:
    lines = ["| crown marked | heads | told |", "|-|-|-|"]
    for up_mm in UP_MM:
        found = [
            told(marked_up(dog, up_mm), i)
            for kind in MAKERS
            for i, dog in enumerate(dressed(kind, dogs, FRESH_SEED))
        ]
        solved = [one for one in found if one is not None]
        where = f"{up_mm:g} mm up in the hair" if up_mm else "on the bone"
        lines.append(f"| {where} | {len(solved)} | {np.mean(solved):.0%} |")
    return lines


if __name__ == "__main__":
    print("\n".join(report(*map(int, sys.argv[1:2]))))
