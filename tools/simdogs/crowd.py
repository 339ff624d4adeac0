"""A crowd of random dogs in small pictures with their marks, to train and test the first guesses on.

python -m simdogs.crowd FIRST_SEED COUNT OUT.npz
"""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

import numpy as np

from dapwick.core.basics.marks import MARK_IDS, VIEWS, guided_order

from .coat import grow
from .dog import Coat, Dog, Shot, Tone
from .form import marks
from .mesh import skin_mesh
from .random_heads import random_head
from .scene import HEIGHT, WIDTH, camera_pose, render, stage

SCALE = 0.30
HAIRS = 22_000
MESH_STEP_MM = 4.5
COARSER = 2.2
SHOTS = ("front", "front", "left", "right", "top", "three_quarter_left", "three_quarter_right", "back")
PATTERNS = (
    "mixed",
    "mixed",
    "mixed",
    "parti",
    "saddle",
    "frosted",
    "mask",
    "mask",
    "spots",
    "spots",
    "brindle",
    "points",
)
TONES = (
    (0.80, 0.75, 0.66), (0.90, 0.88, 0.84), (0.66, 0.55, 0.40), (0.40, 0.37, 0.33), (0.030, 0.027, 0.026),
    (0.014, 0.012, 0.012), (0.10, 0.10, 0.11), (0.40, 0.22, 0.09), (0.26, 0.10, 0.035), (0.52, 0.32, 0.13),
    (0.60, 0.45, 0.26), (0.16, 0.08, 0.04), (0.28, 0.29, 0.32),
)  # fmt: skip
LEATHERS = (
    (0.016, 0.014, 0.015),
    (0.016, 0.014, 0.015),
    (0.04, 0.03, 0.03),
    (0.09, 0.045, 0.03),
    (0.35, 0.17, 0.14),
)
IRISES = ((0.060, 0.026, 0.010), (0.030, 0.014, 0.006), (0.16, 0.08, 0.02), (0.12, 0.17, 0.25))


def random_dog(seed: int) -> Dog:
    """Any dog: proportions and coat drawn apart from each other, flat faces to very long ones."""
    rng = np.random.default_rng(seed)
    u = rng.uniform
    wall = tuple(u(0.08, 0.8, 3))
    return Dog(
        "", "", "", "", random_head(rng), random_coat(rng), (), seed, wall=wall, iris=random_iris(rng),
        leather=LEATHERS[rng.integers(len(LEATHERS))],
    )  # fmt: skip


def random_iris(rng: np.random.Generator) -> tuple[float, float, float]:
    r, g, b = np.array(IRISES[rng.choice(len(IRISES), p=(0.45, 0.35, 0.15, 0.05))]) * rng.uniform(0.5, 1.8)
    return float(r), float(g), float(b)


def random_coat(rng: np.random.Generator) -> Coat:
    """Shaved to a year's growth; each region its own."""
    u = rng.uniform
    long_ = float(np.exp(u(np.log(0.10), np.log(2.0))))
    picked = rng.choice(len(TONES), 3, replace=False)
    tones = np.array(TONES)[picked] * rng.uniform(0.75, 1.25, (3, 1)) * rng.uniform(0.9, 1.1, (3, 3))
    stand = u(0.15, 0.9)
    return Coat(
        crown=u(14, 34) * long_, cheek=u(14, 38) * long_, beard=u(10, 44) * long_, bridge=u(2, 16) * min(long_, 1.0),
        visor=u(6, 30) * long_, ear=u(3, 55) * min(long_, 1.2), body=u(26, 60) * max(long_, 0.4), stand=stand,
        visor_clear_mm=u(7, 28),
        curl_mm=float(rng.choice([0.0, 0.0, 2.4, 4.2])), curl_pitch_mm=u(10, 30), sag_per_mm=u(0.001, 0.006),
        clump=u(0.3, 0.75), frizz=u(0.04, 0.22), hairs=HAIRS, radius_mm=u(0.20, 0.32),
        tones=tuple(Tone(tuple(t.clip(0.006, 0.95)), s) for t, s in zip(tones, (0.6, 0.3, 0.1), strict=True)),
        pattern=str(rng.choice(PATTERNS)),
        skin=tuple(tones[0] * 0.35 + 0.03),
    )  # fmt: skip


def random_shot(view: str, state: str, rng: np.random.Generator) -> Shot:
    yaw, pitch, roll = rng.normal(0, [12.0, 10.0, 9.0])
    distance = rng.uniform(480, 1250)
    aim = tuple(np.array([0.0, -15.0, -12.0]) + rng.normal(0, 22, 3))
    return Shot(
        view, distance, yaw_deg=yaw, pitch_deg=pitch, roll_deg=roll, aim=aim, state=state,
        warmth=rng.uniform(0.85, 1.18), light=rng.uniform(0.55, 1.3), blur_px=float(rng.choice([0, 0, 0.6])),
    )  # fmt: skip


def pictures(seed: int) -> tuple[list, list, list, list, list]:  # type: ignore[type-arg]
    rng = np.random.default_rng(seed + 77_000)
    dog = random_dog(seed)
    state = "wet" if rng.random() < 0.35 else "dry"
    skin = skin_mesh(dog.head, MESH_STEP_MM)
    hair = grow(dog, skin, wet=state == "wet")
    modelled = np.array([marks(dog.head)[m] for m in MARK_IDS])
    on = None
    shown, covers, at, views, states = [], [], [], [], []
    for view in SHOTS:
        shot = random_shot(view, state, rng)
        on = replace(on, dog=dog).under(shot) if on else stage(dog, shot, skin, hair, COARSER)
        picture = render(on, shot, SCALE)
        shown.append(np.asarray(picture.image))
        covers.append(np.round(255 * picture.cover).astype(np.uint8))
        rotation, t = camera_pose(shot)
        q = modelled @ rotation.T + t
        px = (q[:, :2] / q[:, 2:] * shot.focal_px + [WIDTH / 2, HEIGHT / 2]) * SCALE
        told = np.isin(MARK_IDS, guided_order(view))
        at.append(np.where(told[:, None], px, np.nan))
        views.append(VIEWS.index(view))
        states.append(state == "wet")
    return shown, covers, at, views, states


def main() -> None:
    first, count = int(sys.argv[1]), int(sys.argv[2])
    rows = [pictures(seed) for seed in range(first, first + count)]
    shown, covers, at, views, states = (np.array([x for row in rows for x in row[i]]) for i in range(5))
    of_dog = np.repeat(np.arange(first, first + count), len(SHOTS))
    np.savez_compressed(
        Path(sys.argv[3]), shown=shown, cover=covers, at=at, views=views, wet=states, dog=of_dog
    )


if __name__ == "__main__":
    main()
