"""Render a dog's photos to JPEGs with the EXIF a phone would write, and what is true of it beside them.

python -m simdogs.photo fogbell OUT_FOLDER [--only dry-front] [--scale 0.5]
"""

from __future__ import annotations

import argparse
import json
import math
from dataclasses import dataclass
from pathlib import Path

from PIL import Image

from .coat import Hair, cut, grow
from .dog import Dog, Shot
from .dogs import DOGS
from .held import held_card
from .mesh import SkinMesh, skin_mesh
from .scene import HEIGHT, WIDTH, Picture, Stage, camera_pose, render, stage
from .truth import Taken, truth_of

EXIF_ORIENTATION, EXIF_IFD = 0x0112, 0x8769
EXIF_TAKEN, EXIF_FOCAL_35 = 0x9003, 0xA405
QUALITY = 82


def file_name(key: str, shot: Shot) -> str:
    later = f"-{shot.visit + 1}" if shot.visit else ""
    return f"{key}{later}-{shot.state}-{shot.view}.jpg"


def exif(shot: Shot, scale: float = 1.0) -> Image.Exif:
    tags = Image.Exif()
    tags[EXIF_ORIENTATION] = 1
    inner = tags.get_ifd(EXIF_IFD)
    inner[EXIF_TAKEN] = shot.taken
    inner[EXIF_FOCAL_35] = round(shot.focal_px * math.hypot(36.0, 24.0) / math.hypot(WIDTH, HEIGHT))
    return tags


def coat_of(dog: Dog, skin: SkinMesh, state: str, visit: int) -> Hair:
    hair = grow(dog, skin, wet=state == "wet", visit=visit)
    return cut(dog, hair) if state == "finished" else hair


@dataclass
class Studio:
    """One dog's skin, and its coats as they are asked for."""

    dog: Dog

    def __post_init__(self) -> None:
        self.skin = skin_mesh(self.dog.head)
        self._coats: dict[tuple[str, int], Stage] = {}

    def coated(self, shot: Shot) -> Stage:
        key = (shot.state, shot.visit)
        if key not in self._coats:
            hair = coat_of(self.dog, self.skin, shot.state, shot.visit)
            self._coats[key] = stage(self.dog, shot, self.skin, hair)
        return self._coats[key]

    def taken(self, shot: Shot, scale: float = 1.0) -> Picture:
        card = held_card(self.dog, shot, camera_pose(shot)[0]) if shot.card else None
        return render(self.coated(shot).under(shot), shot, scale, card)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("dog", choices=sorted(DOGS))
    parser.add_argument("out", type=Path)
    parser.add_argument("--only", help="like dry-front")
    parser.add_argument("--scale", type=float, default=1.0)
    args = parser.parse_args()
    studio = Studio(DOGS[args.dog])
    wanted = [s for s in studio.dog.shots if args.only in (None, f"{s.state}-{s.view}")]
    taken = []
    for shot in wanted:
        picture = studio.taken(shot, args.scale)
        name = file_name(args.dog, shot)
        picture.image.save(args.out / name, quality=QUALITY, exif=exif(shot))
        taken.append(Taken(name, shot, picture.cover))
    if args.only is None and args.scale == 1.0:
        (args.out / f"{args.dog}-truth.json").write_text(
            json.dumps(truth_of(studio.dog, studio.skin, taken)) + "\n"
        )


if __name__ == "__main__":
    main()
