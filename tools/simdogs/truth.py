"""Write what is true of each simulated dog beside its photos: marks, cameras, coat.

python -m simdogs.truth OUT_FOLDER
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np

from dapwick.core.camera import Camera
from dapwick.core.frame import into_head_frame, rigid_into_head_frame
from dapwick.core.marks import MARK_IDS

from .coat import grow, truth_depth, truth_length
from .dogs import DOGS, Dog, Shot
from .form import Points, marks, skin_field, skin_mesh
from .scene import HEIGHT, WIDTH, camera_pose

COARSE_EVERY = 12
KEPT_BEHIND_OCCIPUT_MM = 25.0


def true_camera(shot: Shot, axes: Points, origin: Points) -> Camera:
    rotation, t = camera_pose(shot)
    return Camera(rotation @ axes.T, rotation @ origin + t, shot.focal_px, WIDTH, HEIGHT)


def truth_of(dog: Dog) -> dict[str, object]:
    """Everything true of one dog, in the head frame, JSON-ready."""
    modelled = np.array([marks(dog.head)[m] for m in MARK_IDS])
    axes, origin = rigid_into_head_frame(modelled)
    points = into_head_frame(modelled)
    skin = skin_mesh(dog.head)
    hair = grow(dog, skin)
    behind = marks(dog.head)["occiput"][1] - KEPT_BEHIND_OCCIPUT_MM
    head = np.flatnonzero((skin.vertices[:, 1] > behind) & (skin.vertices[:, 2] > -80))[::COARSE_EVERY]
    at = skin.vertices[head]
    return {
        "dog": dog.name,
        "seed": dog.seed,
        "coat": dog.coat_type,
        "born": dog.born,
        "breed": dog.breed,
        "marks_mm": {m: np.round(p, 2).tolist() for m, p in zip(MARK_IDS, points, strict=True)},
        "photos": [photo_truth(dog, shot, points, axes, origin) for shot in dog.shots],
        "skin": {
            "at_mm": np.round((at - origin) @ axes.T, 1).tolist(),
            "outward": np.round(skin.normals[head] @ axes.T, 3).tolist(),
            "coat_depth_mm": np.round(truth_depth(hair, at, skin.normals[head]), 1).tolist(),
            "hair_length_mm": np.round(truth_length(hair, at), 1).tolist(),
            "off_field_mm": round(float(np.abs(skin_field(dog.head, at)).max()), 2),
        },
    }


def photo_truth(dog: Dog, shot: Shot, points: Points, axes: Points, origin: Points) -> dict[str, object]:
    camera = true_camera(shot, axes, origin)
    return {
        "file": f"{dog.name.lower()}-dry-{shot.view}.jpg",
        "view": shot.view,
        "state": "dry",
        "rotation": np.round(camera.rotation, 6).tolist(),
        "translation_mm": np.round(camera.translation_mm, 3).tolist(),
        "focal_px": shot.focal_px,
        "width": WIDTH,
        "height": HEIGHT,
        "marks_px": {
            m: np.round(p, 1).tolist() for m, p in zip(MARK_IDS, camera.project(points), strict=True)
        },
    }


def main() -> None:
    folder = Path(sys.argv[1])
    for key, dog in DOGS.items():
        (folder / f"{key}-truth.json").write_text(json.dumps(truth_of(dog)) + "\n")


if __name__ == "__main__":
    main()
