"""Frames of a fidgeting dog for the simulated camera, and how it really held its head in each.

python -m simdogs.fidget kelpie-jo OUT_FOLDER
"""

from __future__ import annotations

import argparse
import json
from dataclasses import replace
from pathlib import Path

import numpy as np

from .dog import Dog, Shot
from .dogs import DOGS
from .photo import QUALITY, Studio, exif

SCALE = 0.8
SLOTS = (
    ("dry", "front"), ("dry", "left"), ("dry", "right"), ("dry", "top"),
    ("wet", "front"), ("wet", "left"), ("wet", "top"),
)  # fmt: skip
POSES = (
    (-24.0, 6.0, -4.0),
    (11.0, -13.0, 3.0),
    (7.0, 4.0, 14.0),
    (-6.0, 3.0, 2.0),
    (2.0, 1.0, -1.0),
    (3.0, -2.0, 1.0),
)
"""Turned away, nodding, tilted, nearly still, still but moving, still (yaw, pitch, roll; degrees)."""
BLURS = (0.0, 1.5, 0.0, 0.0, 5.0, 0.0)
NEARER = (1.0, 1.0, 1.0, 0.62, 1.0, 1.0)
DISTANCE_MM = 760.0


def fidgets(dog: Dog) -> list[tuple[str, Shot]]:
    rng = np.random.default_rng(dog.seed + 41)
    found = []
    for state, view in SLOTS:
        for n, (pose, blur, near) in enumerate(zip(POSES, BLURS, NEARER, strict=True)):
            yaw, pitch, roll = np.round(np.array(pose) + rng.normal(0, 0.8, 3), 1).tolist()
            shot = Shot(
                view,
                DISTANCE_MM * near,
                yaw_deg=yaw,
                pitch_deg=pitch,
                roll_deg=roll,
                state=state,
                blur_px=blur,
            )
            found.append((f"{state}-{view}-{n}.jpg", replace(shot, taken="2026:03:12 15:00:00")))
    return found


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("dog", choices=sorted(DOGS))
    parser.add_argument("out", type=Path)
    args = parser.parse_args()
    studio = Studio(DOGS[args.dog])
    told = []
    for name, shot in fidgets(studio.dog):
        picture = studio.taken(shot, SCALE)
        picture.image.save(args.out / name, quality=QUALITY, exif=exif(shot))
        told.append(
            {
                "file": name,
                "view": shot.view,
                "state": shot.state,
                "yaw_deg": shot.yaw_deg,
                "pitch_deg": shot.pitch_deg,
                "roll_deg": shot.roll_deg,
                "distance_mm": shot.distance_mm,
                "blur_px": shot.blur_px,
            }
        )
    (args.out / "frames.json").write_text(json.dumps(told, indent=1) + "\n")


if __name__ == "__main__":
    main()
