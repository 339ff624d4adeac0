"""What the network of the first guesses is trained on: cuts of simulated dogs, varied until real dogs are one more."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.marks import INDEX, MARK_IDS
from dapwick.vision.guess import MIRROR, MIRROR_VIEW
from dapwick.vision.network import CELLS, SIDE_PX

LIP, CHIN, NOSE = (INDEX[m] for m in ("lip_front", "chin", "nose_tip"))
EARS = tuple(
    tuple(INDEX[f"ear_{part}_{side}"] for part in ("front", "back", "tip")) for side in ("right", "left")
)
TIPS = np.array([MARK_IDS[i].startswith("ear_tip") for i in range(len(MARK_IDS))])
PULLED, TIP_PULLED, PULL_REACH = 0.03, 0.13, 0.22
"""How far a mark and an ear's tip are pulled out of shape and how far round them all follows, of the head's extent."""
LYING_SHARE = 0.15
KINDS = ("elsewhere", "pulled", "turned", "repainted", "covered", "worn")
"""The kinds of variation, each of which can be left out to see what it buys (`train_guess.py --without`)."""
NO_DOG_SHARE = 0.07
SIZE = (SIDE_PX, SIDE_PX)
Picture = NDArray[np.float32]
Places = NDArray[np.float64]


@dataclass(frozen=True)
class Sample:
    """picture (side, side, 3) 0..1; at (marks, 2) in cells, NaN where not told; dog (cells, cells) cover; head: any."""

    picture: Picture
    at: Places
    view: int
    wet: float
    dog: Picture
    head: float


@dataclass(frozen=True)
class Crowd:
    """All rendered pictures of the crowd, their covers and marks; scenes: everyday pictures without a dog."""

    shown: NDArray[np.uint8]
    cover: NDArray[np.uint8]
    at: Places
    views: NDArray[np.int64]
    wet: NDArray[np.bool_]
    dog: NDArray[np.int64]
    scenes: tuple[NDArray[np.uint8], ...]


def load(folder: Path, scenes: list[Path]) -> Crowd:
    parts = [np.load(p) for p in sorted(folder.glob("*.npz"))]
    columns = [
        np.concatenate([part[key] for part in parts])
        for key in ("shown", "cover", "at", "views", "wet", "dog")
    ]
    read = [cv2.imread(str(p)) for p in scenes]
    return Crowd(*columns, tuple(np.asarray(r[:, :, ::-1], np.uint8) for r in read if r is not None))


def sample(rng: np.random.Generator, crowd: Crowd, i: int, without: str = "") -> Sample:
    """One training sample of picture i: cut, turned, pulled, mirrored, put elsewhere, covered, relit, worn; one of
    KINDS may be left out."""
    if rng.random() < NO_DOG_SHARE:
        empty = worn(rng, covered(rng, elsewhere(rng, crowd), None)[0])
        return Sample(
            empty, np.full((len(MARK_IDS), 2), np.nan), 0, 0.0, np.zeros((CELLS, CELLS), np.float32), 0.0
        )
    picture, cover, at = cut_out(rng, crowd, i, lying=without != "turned")
    if without != "pulled" and rng.random() < 0.6:
        picture, cover, at = pulled(rng, picture, cover, at)
    view = int(crowd.views[i])
    if without != "elsewhere" and rng.random() < 0.8:
        picture = cover[:, :, None] * picture + (1 - cover[:, :, None]) * elsewhere(rng, crowd)
    if rng.random() < 0.5:
        picture, cover, view = picture[:, ::-1], cover[:, ::-1], int(MIRROR_VIEW[view])
        at = (at * [-1, 1] + [SIDE_PX, 0])[MIRROR]
    picture, cover = np.ascontiguousarray(picture), np.ascontiguousarray(cover)
    if without != "repainted":
        picture = repainted(rng, picture, cover)
        picture = with_inner_ears(rng, picture, at) if rng.random() < 0.3 else picture
    if without != "covered":
        picture, at = with_tongue(rng, picture, at) if rng.random() < 0.2 else (picture, at)
        picture, cover = covered(rng, picture, cover)
    picture = picture if without == "worn" else worn(rng, picture)
    at = at * CELLS / SIDE_PX
    inside = np.isfinite(at[:, 0]) & (at > 0.2).all(axis=1) & (at < CELLS - 0.2).all(axis=1)
    small = cv2.resize(cover, (CELLS, CELLS), interpolation=cv2.INTER_AREA)
    return Sample(picture, np.where(inside[:, None], at, np.nan), view, float(crowd.wet[i]), small, 1.0)


def cut_out(
    rng: np.random.Generator, crowd: Crowd, i: int, lying: bool = True
) -> tuple[Picture, Picture, Places]:
    """A turned square cut, the whole photo or the head alone, with its cover and marks (px of the cut)."""
    shown, cover, at = crowd.shown[i], crowd.cover[i], crowd.at[i]
    h, w = shown.shape[:2]
    seen = at[np.isfinite(at[:, 0])]
    span = float(np.ptp(seen, axis=0).max())
    whole = rng.random() < 0.3
    side = max(h, w) * rng.uniform(0.85, 1.15) if whole else span * rng.uniform(1.25, 2.9)
    centre = np.array([w / 2, h / 2]) + rng.normal(0, 8, 2) if whole else seen.mean(axis=0)
    centre = centre + rng.normal(0, 0.04 if whole else 0.16, 2) * span
    scale = SIDE_PX / side
    turned = rng.normal(0, 45 if lying and rng.random() < LYING_SHARE else 12)
    turn = cv2.getRotationMatrix2D((0, 0), turned, scale)
    turn[0] *= rng.uniform(0.9, 1.1)
    turn[:, 2] = SIDE_PX / 2 - turn[:, :2] @ centre
    flags = cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
    cut = cv2.warpAffine(shown, turn, SIZE, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    dog = cv2.warpAffine(cover, turn, SIZE, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return (
        np.asarray(cut / 255.0, np.float32),
        np.asarray(dog / 255.0, np.float32),
        at @ turn[:, :2].T + turn[:, 2],
    )


def pulled(
    rng: np.random.Generator, picture: Picture, cover: Picture, at: Places
) -> tuple[Picture, Picture, Places]:
    """A head out of shape: each mark pulled its own way, an ear's tip far, and what lies round it follows softly."""
    told = np.isfinite(at[:, 0])
    extent = float(np.ptp(at[told], axis=0).max())
    pull = rng.normal(0, np.where(TIPS, TIP_PULLED, PULLED)[told, None] * extent, (told.sum(), 2))

    def field(points: Places) -> Places:
        away = ((points[:, None] - at[told][None]) ** 2).sum(axis=2)
        near = np.exp(-0.5 * away / (PULL_REACH * extent) ** 2)
        return np.asarray(near @ pull / np.maximum(near.sum(axis=1), 1.0)[:, None])

    steps = np.linspace(0, SIDE_PX - 1, 25)
    coarse = field(np.stack(np.meshgrid(steps, steps), axis=2).reshape(-1, 2)).reshape(25, 25, 2)
    moved = cv2.resize(coarse.astype(np.float32), SIZE, interpolation=cv2.INTER_CUBIC)
    x, y = np.meshgrid(np.arange(SIDE_PX, dtype=np.float32), np.arange(SIDE_PX, dtype=np.float32))
    shown, left = (
        cv2.remap(
            p, x - moved[:, :, 0], y - moved[:, :, 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        for p in (picture, cover)
    )
    there = at[told]
    for _ in range(12):
        there = at[told] + field(there)
    placed = at.copy()
    placed[told] = there
    return np.asarray(shown, np.float32), np.asarray(left, np.float32), placed


def with_inner_ears(rng: np.random.Generator, picture: Picture, at: Places) -> Picture:
    """Each ear's inside, lighter or darker than its back, as a leaf from base to tip."""
    tint, shown = rng.uniform(0.4, 1.8, 3), picture.copy()
    for front, back, tip in EARS:
        base = np.nanmean(at[[front, back]], axis=0) if np.isfinite(at[[front, back], 0]).any() else at[tip]
        along = at[tip] - base
        if not np.isfinite(along).all() or np.hypot(*along) < 4:
            continue
        across = np.array([-along[1], along[0]]) * rng.uniform(0.10, 0.35)
        leaf = np.array([base + across, base + 0.5 * along + across, base + 0.95 * along,
                         base + 0.5 * along - across, base - across])  # fmt: skip
        share = np.zeros(SIZE, np.float32)
        cv2.fillPoly(share, [np.round(leaf).astype(np.int32)], rng.uniform(0.3, 1.0))
        share = blurred(share, rng.uniform(0.8, 3))[:, :, None]
        shown = shown * (1 - share) + share * np.clip(shown * tint, 0, 1)
    return np.asarray(shown, np.float32)


def elsewhere(rng: np.random.Generator, crowd: Crowd) -> Picture:
    """Another place behind the dog: an everyday picture, or patches, shelves, tiles, a towel."""
    if crowd.scenes and rng.random() < 0.4:
        scene = crowd.scenes[rng.integers(len(crowd.scenes))]
        side = rng.integers(min(scene.shape[:2]) // 5, min(scene.shape[:2]))
        y, x = rng.integers(0, scene.shape[0] - side), rng.integers(0, scene.shape[1] - side)
        part = cv2.resize(scene[y : y + side, x : x + side], SIZE, interpolation=cv2.INTER_AREA)
        return blurred(np.asarray(part / 255.0, np.float32), rng.uniform(0.3, 4))
    coarse = int(rng.choice([2, 3, 5, 9, 16, 40]))
    room = cv2.resize(rng.random((coarse, coarse, 3)), SIZE, interpolation=cv2.INTER_CUBIC)
    room = room * rng.uniform(0.15, 1.0) + rng.random(3) * rng.uniform(0, 0.7)
    for _ in range(rng.integers(0, 9)):
        x, y = rng.integers(0, SIDE_PX, 2)
        wide, high = rng.integers(2, 90, 2)
        room[y : y + high, x : x + wide] = rng.random(3) * rng.uniform(0.3, 1)
    if rng.random() < 0.3:
        room *= (0.8 + 0.2 * np.sign(np.sin(np.arange(SIDE_PX) * rng.uniform(0.1, 0.9))))[:, None, None]
    if rng.random() < 0.4:
        room = room + rng.normal(0, rng.uniform(0.02, 0.25), (*SIZE, 1))
    return blurred(np.asarray(np.clip(room, 0, 1), np.float32), rng.uniform(0.4, 6))


def repainted(rng: np.random.Generator, picture: Picture, cover: Picture) -> Picture:
    """The coat in other colours and another texture, so that shape carries the answer, not this renderer's hair."""
    if rng.random() < 0.5:
        patch = clouds(rng, rng.integers(2, 8)) > rng.uniform(0.35, 0.7)
        share = cv2.GaussianBlur(patch.astype(np.float32), (0, 0), rng.uniform(0.6, 3)) * cover
        other = np.clip(picture * rng.uniform(0.2, 3.2, 3 if rng.random() < 0.5 else 1), 0, 1)
        picture = picture * (1 - share[:, :, None]) + share[:, :, None] * other
    kind = rng.random()
    if kind < 0.15:
        picture = cv2.medianBlur(np.asarray(255 * picture.clip(0, 1), np.uint8), 5).astype(np.float32) / 255
    elif kind < 0.25:
        picture = cv2.bilateralFilter(np.asarray(picture, np.float32), 7, 0.2, 4)
    elif kind < 0.45:
        grain = clouds(rng, rng.integers(24, 90)) - 0.5
        picture = picture * (1 + rng.uniform(0.2, 1.1) * grain * cover)[:, :, None]
    if rng.random() < 0.4:
        light = 0.5 + clouds(rng, rng.integers(2, 4)) * rng.uniform(0.5, 1.2)
        picture = picture * light[:, :, None]
    return np.asarray(np.clip(picture, 0, 1), np.float32)


def with_tongue(rng: np.random.Generator, picture: Picture, at: Places) -> tuple[Picture, Places]:
    """An open mouth with a tongue below the lip; where the chin went nobody knows then."""
    lip, chin, nose = at[LIP], at[CHIN], at[NOSE]
    if not np.isfinite([lip, chin, nose]).all():
        return picture, at
    reach = float(np.hypot(*(chin - lip))) + 0.4 * float(np.hypot(*(nose - lip))) + 2
    middle = lip + (chin - lip) * rng.uniform(0.4, 1.0)
    turned = float(np.degrees(np.arctan2(*(chin - lip)[::-1])))
    size = (reach * rng.uniform(0.5, 1.0), reach * rng.uniform(0.3, 0.6))
    shown = picture.copy()
    for share, colour in (
        (1.0, rng.uniform(0.02, 0.12, 3)),
        (0.7, rng.uniform([0.5, 0.2, 0.2], [0.9, 0.5, 0.55])),
    ):
        axes = (max(1, round(size[0] * share)), max(1, round(size[1] * share)))
        cv2.ellipse(
            shown,
            np.round(middle).astype(int).tolist(),
            axes,
            turned,
            0,
            360,
            colour.tolist(),
            -1,
            cv2.LINE_AA,
        )
    told = at.copy()
    told[CHIN] = np.nan
    return shown, told


def covered(rng: np.random.Generator, picture: Picture, cover: Picture | None) -> tuple[Picture, Picture]:
    """Hands, loops, collars, bows, a table's arm: simple things in front, which are no dog."""
    shown, left = picture.copy(), np.ones(SIZE, np.float32) if cover is None else cover.copy()
    for _ in range(rng.integers(0, 3) if rng.random() < 0.5 else 0):
        colour = rng.uniform([0.45, 0.3, 0.22], [0.95, 0.75, 0.65]) if rng.random() < 0.4 else rng.random(3)
        a = rng.integers(0, SIDE_PX, 2)
        b = a + rng.normal(0, 50, 2).astype(int)
        thick = int(rng.integers(2, 26))
        for layer, value in ((shown, colour.tolist()), (left, 0.0)):
            cv2.line(layer, a.tolist(), b.tolist(), value, thick, cv2.LINE_AA)
    return shown, left


def worn(rng: np.random.Generator, picture: Picture) -> Picture:
    """Light, colour, blur, noise, few pixels, JPEG."""
    x = np.clip(picture, 0, 1) ** rng.uniform(0.6, 1.6) * rng.uniform(0.75, 1.25, 3)
    if rng.random() < 0.15:
        x = x.mean(axis=2, keepdims=True) * np.ones(3)
    if rng.random() < 0.35:
        x = blurred(x, rng.uniform(0.3, 2.5))
    if rng.random() < 0.25:
        few = rng.uniform(0.2, 0.6)
        x = cv2.resize(cv2.resize(x, None, fx=few, fy=few, interpolation=cv2.INTER_AREA), SIZE)
    x = np.clip(x + rng.normal(0, rng.uniform(0, 0.05), x.shape), 0, 1)
    if rng.random() < 0.3:
        _, packed = cv2.imencode(
            ".jpg", np.asarray(255 * x, np.uint8), [cv2.IMWRITE_JPEG_QUALITY, int(rng.integers(20, 80))]
        )
        x = cv2.imdecode(packed, cv2.IMREAD_COLOR) / 255.0
    return np.asarray(x, np.float32)


def clouds(rng: np.random.Generator, coarse: int) -> Picture:
    soft = cv2.resize(rng.random((int(coarse),) * 2), SIZE, interpolation=cv2.INTER_CUBIC)
    return np.asarray(np.clip(soft, 0, 1), np.float32)


def blurred(picture: NDArray[np.floating], sigma_px: float) -> Picture:
    return np.asarray(cv2.GaussianBlur(np.ascontiguousarray(picture), (0, 0), sigma_px), np.float32)
