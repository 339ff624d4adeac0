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
from .dogs import Coat, Dog, HeadForm, Shot, Tone
from .form import marks, skin_mesh
from .scene import HEIGHT, WIDTH, camera_pose, render, stage

SCALE = 0.24
HAIRS = 26_000
MESH_STEP_MM = 4.5
COARSER = 1.8
SHOTS = ("front", "front", "left", "right", "top", "three_quarter_left", "three_quarter_right", "back")
TONES = (
    (0.80, 0.75, 0.66), (0.66, 0.55, 0.40), (0.40, 0.37, 0.33), (0.030, 0.027, 0.026), (0.014, 0.012, 0.012),
    (0.10, 0.10, 0.11), (0.40, 0.22, 0.09), (0.26, 0.10, 0.035), (0.52, 0.32, 0.13), (0.60, 0.45, 0.26),
)  # fmt: skip


def random_dog(seed: int) -> Dog:
    """Any dog: proportions and coat drawn apart from each other."""
    rng = np.random.default_rng(seed)
    u = rng.uniform
    size = u(0.85, 1.2)
    kind = str(rng.choice(["prick", "drop", "button", "tipped"]))
    skull = u(76, 102) * size
    head = HeadForm(
        skull_width=skull,
        skull_length=u(0.92, 1.35) * skull,
        crown_height=u(0.38, 0.46) * skull,
        muzzle_length=u(0.36, 1.15) * skull,
        muzzle_width=u(0.42, 0.52) * skull,
        muzzle_drop=u(11, 21) * size,
        nose_width=u(19, 24) * size,
        eye_spacing=u(0.38, 0.48) * skull,
        eye_radius=u(7.6, 10.6) * size,
        stop_depth=u(4, 14),
        ear_kind=kind,
        ear_length=u(38, 72) * size if kind != "drop" else u(50, 98) * size,
        ear_spread=u(0.33, 0.42) * skull,
        ear_height=u(20, 30) * size if kind != "drop" else u(6, 18) * size,
        left=(("ear_height", rng.normal(0, 2.0)), ("eye_lift", rng.normal(0, 0.8))),
    )
    return Dog(
        "", "", "", "", head, random_coat(rng), (), seed, wall=tuple(u(0.18, 0.7, 3)), iris=random_iris(rng)
    )


def random_iris(rng: np.random.Generator) -> tuple[float, float, float]:
    brown = rng.uniform(0.4, 2.0)
    return 0.06 * brown, 0.026 * brown, 0.010 * brown


def random_coat(rng: np.random.Generator) -> Coat:
    u, long_ = rng.uniform, rng.uniform(0.3, 1.6)
    picked = rng.choice(len(TONES), 3, replace=False)
    stand = u(0.28, 0.88)
    return Coat(
        crown=u(16, 32) * long_, cheek=u(16, 36) * long_, beard=u(14, 34) * long_, bridge=u(3, 14), visor=u(8, 26),
        ear=u(4, 50), body=u(26, 60), stand=stand, visor_clear_mm=u(9, 26),
        curl_mm=float(rng.choice([0.0, 2.4, 4.2])), curl_pitch_mm=u(12, 30), sag_per_mm=u(0.001, 0.004),
        clump=u(0.4, 0.72), frizz=u(0.05, 0.2), hairs=HAIRS, radius_mm=u(0.20, 0.28),
        tones=tuple(Tone(TONES[i], s) for i, s in zip(picked, (0.6, 0.3, 0.1), strict=True)),
        pattern=str(rng.choice(["mixed", "mixed", "parti", "saddle", "frosted"])),
        skin=tuple(np.array(TONES[picked[0]]) * 0.35 + 0.03),
    )  # fmt: skip


def random_shot(view: str, state: str, rng: np.random.Generator) -> Shot:
    yaw, pitch, roll = rng.normal(0, [11.0, 8.0, 6.0])
    distance = rng.uniform(620, 1250)
    aim = tuple(np.array([0.0, -15.0, -12.0]) + rng.normal(0, 22, 3))
    return Shot(
        view, distance, yaw_deg=yaw, pitch_deg=pitch, roll_deg=roll, aim=aim, state=state,
        warmth=rng.uniform(0.88, 1.14), light=rng.uniform(0.6, 1.25), blur_px=float(rng.choice([0, 0, 0.6])),
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
