"""Cut a simulated dog as its demo visit planned it, and photograph it again.

Wants the developers' extra (`pip install -e '.[dogs]'`).
tools/demo_history.py plans the visits and takes the photos in.

python tools/demo_cut.py fogbell OUT_FOLDER
"""

from __future__ import annotations

import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.frame import rigid_into_head_frame
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.outlines.fit import Outline
from dapwick.core.practice.human_hand import hand_error, left_long
from simdogs.coat import cut_to, grow
from simdogs.dog import Shot, session_shots
from simdogs.dogs import DOGS
from simdogs.form import marks
from simdogs.mesh import skin_mesh
from simdogs.photo import QUALITY, exif, file_name
from simdogs.scene import render, stage

VIEWS: Final = ("front", "left", "right")
LONG_CHEEK_MM: Final = 9.0
ON_THE_HEAD_MM, BY_AN_EAR_MM, NECK_MM = 14.0, 16.0, 9.0


@dataclass(frozen=True)
class Cutting:
    """Which visit of a dog was cut; left: a zone and side left so many mm long; hand: share of a hand's usual error."""

    visit: int
    left: tuple[str, str, float] | None = None
    hand: float = 0.4


CUT: Final = {"fogbell": Cutting(1), "capstan": Cutting(0, ("cheek", "left", LONG_CHEEK_MM))}


def finished_shots(key: str) -> list[Shot]:
    """As a hand takes them after the cut, a little turned each."""
    dog, visit = DOGS[key], CUT[key].visit
    day = next(s.taken[:10] for s in dog.shots if s.visit == visit)
    distance = next(s.distance_mm for s in dog.shots if s.visit == visit)
    return list(session_shots(dog.seed + 5, distance, day, visit, ("finished",), views=VIEWS))


def photograph(key: str, outline: Outline, out: Path) -> list[Path]:
    """The finished head's photos (JPEG) of a dog whose visit planned `outline`."""
    dog, cutting = DOGS[key], CUT[key]
    skin = skin_mesh(dog.head)
    hair = grow(dog, skin, visit=cutting.visit)
    axes, origin = rigid_into_head_frame(np.array([marks(dog.head)[m] for m in MARK_IDS]))
    wanted = _wanted_mm(outline, (hair.strands_mm[:, 0] - origin) @ axes.T, cutting)
    over = cKDTree(skin.vertices)
    cut = cut_to(hair, wanted, lambda at: over.query(at)[0])
    written = []
    for shot in finished_shots(key):
        picture = render(stage(dog, shot, skin, cut).under(shot), shot, 1.0)
        path = out / file_name(key, shot)
        picture.image.save(path, quality=QUALITY, exif=exif(shot))
        written.append(path)
    return written


def _wanted_mm(outline: Outline, roots: Array, cutting: Cutting) -> Array:
    """Depth (strands,) that the hand leaves over each root (head frame): all of it on the ears, little on the neck."""
    skin = outline.ground.skin
    left = outline.leave_mm + hand_error(skin, np.random.default_rng(cutting.visit + 3), cutting.hand)
    if cutting.left:
        left = left + left_long(skin, *cutting.left)
    away, vertex = cKDTree(skin.vertices_mm).query(roots)
    ears = np.concatenate([ear.vertices_mm for ear in outline.ground.ears])
    elsewhere = np.where(cKDTree(ears).query(roots)[0] < BY_AN_EAR_MM, np.inf, NECK_MM)
    return np.where(away < ON_THE_HEAD_MM, np.maximum(left, 0.5)[vertex], elsewhere)


def main() -> None:
    from demo_history import planned_outline

    key, out = sys.argv[1], Path(sys.argv[2])
    for path in photograph(key, planned_outline(key), out):
        print(path.name, path.stat().st_size // 1024, "kB")


if __name__ == "__main__":
    main()
