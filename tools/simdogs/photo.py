"""Render one photo to a JPEG with the EXIF a phone would write.

    python -m simdogs.photo fogbell front OUT.jpg --samples 16

Each picture wants a process of its own, since the tracer may crash: `make dogs` sees to that.
"""

from __future__ import annotations

import argparse
import tempfile
from pathlib import Path

from PIL import Image

from .coat import grow
from .dogs import DOGS, Shot
from .form import skin_mesh
from .scene import WIDTH, render

EXIF_ORIENTATION, EXIF_IFD = 0x0112, 0x8769
EXIF_TAKEN, EXIF_FOCAL_35 = 0x9003, 0xA405


def exif(shot: Shot) -> Image.Exif:
    tags = Image.Exif()
    tags[EXIF_ORIENTATION] = 1
    inner = tags.get_ifd(EXIF_IFD)
    inner[EXIF_TAKEN] = shot.taken
    inner[EXIF_FOCAL_35] = round(shot.focal_px * 36.0 / WIDTH)
    return tags


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("dog", choices=sorted(DOGS))
    parser.add_argument("view")
    parser.add_argument("out", type=Path)
    parser.add_argument("--samples", type=int, default=16)
    parser.add_argument("--scale", type=float, default=1.0)
    args = parser.parse_args()
    dog = DOGS[args.dog]
    shot = next(s for s in dog.shots if s.view == args.view)
    skin = skin_mesh(dog.head)
    with tempfile.TemporaryDirectory() as folder:
        image = render(dog, shot, skin, grow(dog, skin), Path(folder), args.samples, args.scale)
    image.save(args.out, quality=90, exif=exif(shot))


if __name__ == "__main__":
    main()
