"""What is true of a simulated dog, in the head frame: marks, cameras, silhouettes, skin, coat, growth."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter

from dapwick.core.basics.camera import Camera
from dapwick.core.basics.frame import into_head_frame, rigid_into_head_frame
from dapwick.core.basics.marks import MARK_IDS

from .coat import cut, grow, truth_depth, truth_length, wanted_depth
from .dog import Dog, Shot
from .form import Points, marks, skin_field
from .mesh import SkinMesh, skin_mesh
from .scene import EDGE_SMOOTH_MM, HEIGHT, WIDTH, camera_pose

COARSE_EVERY = 12
COARSE_STEP_MM = 8.0
KEPT_BEHIND_OCCIPUT_MM = 25.0
SIMPLIFY_PX = 0.7


@dataclass(frozen=True)
class Taken:
    """A rendered photo: its file, its shot, and the share of each pixel that the dog covers."""

    file: str
    shot: Shot
    cover: Points


def true_camera(shot: Shot, axes: Points, origin: Points) -> Camera:
    rotation, t = camera_pose(shot)
    return Camera(rotation @ axes.T, rotation @ origin + t, shot.focal_px, WIDTH, HEIGHT)


def truth_of(dog: Dog, skin: SkinMesh, taken: list[Taken]) -> dict[str, object]:
    """Everything true of one dog, in the head frame, JSON-ready."""
    modelled = np.array([marks(dog.head)[m] for m in MARK_IDS])
    axes, origin = rigid_into_head_frame(modelled)
    points = into_head_frame(modelled)
    behind = marks(dog.head)["occiput"][1] - KEPT_BEHIND_OCCIPUT_MM
    head = np.flatnonzero((skin.vertices[:, 1] > behind) & (skin.vertices[:, 2] > -80))[::COARSE_EVERY]
    at, outward = skin.vertices[head], skin.normals[head]
    coats = [coat_truth(dog, skin, at, outward, visit) for visit in range(len(dog.weeks))]
    found: dict[str, object] = {
        "dog": dog.name,
        "seed": dog.seed,
        "coat": dog.coat_type,
        "born": dog.born,
        "breed": dog.breed,
        "marks_mm": {m: np.round(p, 2).tolist() for m, p in zip(MARK_IDS, points, strict=True)},
        "photos": [photo_truth(t, points, axes, origin) for t in taken],
        "skin": {
            "at_mm": np.round((at - origin) @ axes.T, 1).tolist(),
            "outward": np.round(outward @ axes.T, 3).tolist(),
            **coats[0],
            "off_field_mm": round(float(np.abs(skin_field(dog.head, at)).max()), 2),
        },
        "meshes": coarse_meshes(dog, skin, behind, axes, origin),
        "visits": [
            {"week": w, "day": d.replace(":", "-"), **c}
            for w, d, c in zip(dog.weeks, dog.days, coats, strict=True)
        ],
        "growth_mm_week": dict(dog.growth_mm_week),
    }
    if dog.finish:
        trimmed = cut(dog, grow(dog, skin))
        found["finish"] = {
            "wanted_depth_mm": np.round(wanted_depth(dog, at), 1).tolist(),
            "left_cheek_over_mm": dog.finish.left_cheek_over_mm,
            "coat_depth_mm": np.round(truth_depth(trimmed, at, outward), 1).tolist(),
        }
    return found


def coat_truth(dog: Dog, skin: SkinMesh, at: Points, outward: Points, visit: int) -> dict[str, list[float]]:
    hair = grow(dog, skin, visit=visit)
    return {
        "coat_depth_mm": np.round(truth_depth(hair, at, outward), 1).tolist(),
        "hair_length_mm": np.round(truth_length(hair, at), 1).tolist(),
    }


def coarse_meshes(dog: Dog, skin: SkinMesh, behind: float, axes: Points, origin: Points) -> dict[str, object]:
    """Skin and coat of the head as coarse meshes with shared faces, mm, head frame."""
    coarse = skin_mesh(dog.head, COARSE_STEP_MM)
    kept = (coarse.vertices[:, 1] > behind) & (coarse.vertices[:, 2] > -80)
    number = np.cumsum(kept) - 1
    faces = number[coarse.faces[kept[coarse.faces].all(axis=1)]]
    at, outward = coarse.vertices[kept], coarse.normals[kept]
    depth = truth_depth(grow(dog, skin), at, outward)
    return {
        "skin_mm": np.round((at - origin) @ axes.T, 1).tolist(),
        "coat_mm": np.round((at + depth[:, None] * outward - origin) @ axes.T, 1).tolist(),
        "faces": faces.tolist(),
    }


def photo_truth(taken: Taken, points: Points, axes: Points, origin: Points) -> dict[str, object]:
    shot, camera = taken.shot, true_camera(taken.shot, axes, origin)
    return {
        "file": taken.file,
        "view": shot.view,
        "state": shot.state,
        "visit": shot.visit,
        "card_held": shot.card,
        "rotation": np.round(camera.rotation, 6).tolist(),
        "translation_mm": np.round(camera.translation_mm, 3).tolist(),
        "focal_px": shot.focal_px,
        "width": WIDTH,
        "height": HEIGHT,
        "marks_px": {
            m: np.round(p, 1).tolist() for m, p in zip(MARK_IDS, camera.project(points), strict=True)
        },
        "edge_px": edge(taken.cover, EDGE_SMOOTH_MM * shot.focal_px / shot.distance_mm),
    }


def edge(cover: Points, smooth_px: float) -> list[list[float]]:
    """The dog's silhouette: where its cover, smoothed over a comb tooth's width, passes one half."""
    dog = (gaussian_filter(np.asarray(cover, float), smooth_px) > 0.5).astype(np.uint8)
    lines, _ = cv2.findContours(dog, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = cv2.approxPolyDP(max(lines, key=cv2.contourArea), SIMPLIFY_PX, closed=True)[:, 0]
    return np.round(line + 0.5, 1).tolist()
