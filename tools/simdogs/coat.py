"""Hair grown on a head: roots, lengths by region, flow, clumps, curl and sag."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from .dog import Coat, Dog, HeadForm, coat_at, side_of
from .form import (
    LID_MM,
    SIDES,
    EarForm,
    Points,
    ear_form,
    eye_centre,
    lip_line_mm,
    nose_centre,
    outside_lids,
    skin_field,
)  # fmt: skip
from .mesh import SkinMesh
from .patterns import ear_share, tones_at

POINTS_PER_HAIR = 9
LID_HAIRS, LID_RIM_MM = 2500, 1.3
DENSE_WITHIN_MM, DENSE_POINTS = 4.0, 10
DEEPEST_MM, LONGEST_GAP_MM = 90.0, 8.0


@dataclass(frozen=True)
class Hair:
    """strands_mm: (hairs, points, 3); tone: (hairs,) index of the coat's tone; depth_mm: (hairs,)
    how far each hair stands off the skin at its root; length_mm: (hairs,) drawn out straight."""

    strands_mm: Points
    tone: NDArray[np.int64]
    root_normal: Points
    depth_mm: Points
    length_mm: Points


def sample_roots(dog: Dog, skin: SkinMesh, rng: np.random.Generator) -> tuple[Points, Points]:
    corners = skin.vertices[skin.faces]
    centre = corners.mean(axis=1)
    area = 0.5 * np.linalg.norm(
        np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1
    )
    face_weight = np.where(centre[:, 1] > -110, 1.0, 0.35) * np.where(centre[:, 2] < -110, 0.5, 1.0)
    face_weight = face_weight * np.where(centre[:, 1] > -25, 1.5, 1.0)
    chosen = rng.choice(len(corners), dog.coat.hairs, p=area * face_weight / (area * face_weight).sum())
    u, v = rng.random((2, dog.coat.hairs))
    flip = u + v > 1
    u, v = np.where(flip, 1 - u, u), np.where(flip, 1 - v, v)
    w = np.stack([1 - u - v, u, v], axis=1)[:, :, None]
    roots = (corners[chosen] * w).sum(axis=1)
    normals = (skin.normals[skin.faces[chosen]] * w).sum(axis=1)
    normals /= np.linalg.norm(normals, axis=1, keepdims=True)
    keep = bare_distance(dog.head, roots) > 0.0
    lids, outward = lid_roots(dog.head, rng)
    return np.concatenate([roots[keep], lids]), np.concatenate([normals[keep], outward])


def lid_roots(head: HeadForm, rng: np.random.Generator) -> tuple[Points, Points]:
    """Roots of the short hair on the lids, up to a bare rim."""
    at, outward = [], []
    for _, side in SIDES:
        unit = rng.normal(size=(LID_HAIRS, 3))
        unit /= np.linalg.norm(unit, axis=1, keepdims=True)
        p = eye_centre(head, side) + (side_of(head, side).eye_radius + LID_MM) * unit
        on_lid = outside_lids(head, side, p) > LID_RIM_MM
        at.append(p[on_lid])
        outward.append(unit[on_lid])
    return np.concatenate(at), np.concatenate(outward)


def bare_distance(head: HeadForm, p: Points) -> Points:
    """mm outside the bare places: nose leather, eyeballs."""
    wide = 1.15 * head.nose_width / 21.0
    nose = np.linalg.norm((p - nose_centre(head)) / [wide, 1.0, 0.85], axis=1) - 10.0
    eyes = [np.linalg.norm(p - eye_centre(head, s), axis=1) - head.eye_radius - 1.5 for _, s in SIDES]
    return np.minimum(nose, np.minimum(*eyes))


def region_lengths(head: HeadForm, coat: Coat, p: Points) -> Points:
    """Hair length (mm) at skin points: regions blended over about two centimetres."""
    low, half = -head.muzzle_drop, head.skull_width / 2
    x, y, z = np.abs(p[:, 0]), p[:, 1], p[:, 2]
    bump = lambda d, w: np.exp(-0.5 * np.square(d / w))  # noqa: E731
    muzzle_top = np.clip((y - 2) / 12, 0, 1) * np.clip((z - low - 2) / 8, 0, 1)
    regions = {
        "crown": np.clip((z - 8) / 16, 0, 1) * np.clip((-10 - y) / 14, 0, 1) + 0.02,
        "cheek": np.clip((x - half * 0.45) / 14, 0, 1)
        * np.clip((18 - z) / 14, 0, 1)
        * np.clip((8 - y) / 18, 0, 1),
        "beard": np.clip((y + 4) / 16, 0, 1) * np.clip((low + 4 - z) / 8, 0, 1) * 1.6,
        "visor": bump(y + 8, 9) * np.clip((z - 8) / 6, 0, 1) * 1.5,
        "bridge": muzzle_top * 3.0,
        "body": np.clip((-y - head.skull_length + 6) / 22, 0, 1) + np.clip((-z - 62) / 20, 0, 1),
        "ear": 6.0 * ear_share(head, p),
    }
    w = np.stack(list(regions.values()))
    length = (w * np.array([[getattr(coat, r)] for r in regions])).sum(axis=0) / w.sum(axis=0)
    clear = np.clip((bare_distance(head, p) - 1.0) / coat.visor_clear_mm, 0.10, 1.0)
    at_lips = np.clip(lip_line_mm(head, p) / 3.5, 0.12, 1.0)
    return length * clear * at_lips


def flow(head: HeadForm, p: Points) -> Points:
    """Growth direction before it is laid along the skin (unit, modelling frame)."""
    low = -head.muzzle_drop
    side = np.sign(p[:, 0])
    back = np.stack([0.25 * side, np.full(len(p), -0.9), np.full(len(p), -0.15)], axis=1)
    down = np.stack([0.2 * side, np.full(len(p), 0.12), np.full(len(p), -1.0)], axis=1)
    fringe = np.stack([0.35 * side, np.full(len(p), 0.4), np.full(len(p), 0.5)], axis=1)
    t_down = np.clip((low + 12 - p[:, 2]) / 20, 0, 1)[:, None]
    f = back * (1 - t_down) + down * t_down
    t_fringe = (np.exp(-0.5 * np.square((p[:, 1] + 6) / 9)) * np.clip((p[:, 2] - 6) / 6, 0, 1))[:, None]
    f = f * (1 - t_fringe) + fringe * t_fringe
    for _, s in SIDES:
        ear = ear_form(head, s)
        on_this = (ear_share(head, p) * (side == s))[:, None]
        f = f * (1 - on_this) + on_this * along_ear(head, ear, p)
    return f / np.linalg.norm(f, axis=1, keepdims=True)


def along_ear(head: HeadForm, ear: EarForm, p: Points) -> Points:
    """From the root to the fold, then from the fold to the tip; a hanging ear's hair hangs at once."""
    first, second = ear.mid - ear.root, ear.tip - ear.mid
    near_tip = np.linalg.norm(p - ear.tip, axis=1) < np.linalg.norm(p - ear.root, axis=1)
    way = np.where((near_tip | (head.ear_kind == "drop"))[:, None], second, first)
    return way / np.linalg.norm(way, axis=1, keepdims=True)


def grow(dog: Dog, skin: SkinMesh, wet: bool = False, visit: int = 0) -> Hair:
    """All hair of one dog as it comes in at a visit, repeatable from its seed."""
    rng = np.random.default_rng(dog.seed)
    coat, head = coat_at(dog, visit), dog.head
    roots, normals = sample_roots(dog, skin, rng)
    n = len(roots)
    length = region_lengths(head, coat, roots) * rng.normal(1.0, 0.09, n).clip(0.6, 1.25)
    laid = flow(head, roots)
    laid -= (laid * normals).sum(axis=1, keepdims=True) * normals
    stand = np.full(n, 0.10 if wet else coat.stand)
    stand = np.where(ear_share(head, roots) > 0.5, stand * 0.45, stand)
    away = stand[:, None] * normals + np.sqrt(1 - stand**2)[:, None] * laid
    away += rng.normal(0, coat.frizz, (n, 3))
    away /= np.linalg.norm(away, axis=1, keepdims=True)

    t = np.linspace(0.0, 1.0, POINTS_PER_HAIR)
    reach = length[:, None] * t
    strands = roots[:, None, :] + reach[:, :, None] * away[:, None, :]
    strands[:, :, 2] -= coat.sag_per_mm * np.square(reach)
    guide = rng.choice(n, max(n // 40, 1), replace=False)
    of = guide[cKDTree(roots[guide]).query(roots)[1]]
    phase = rng.uniform(0, 2 * np.pi, n)[of]
    strands += curl(
        coat.curl_mm * (0.3 if wet else 1.0), coat.curl_pitch_mm, normals[of], laid[of], reach, phase
    )
    pull = ((0.85 if wet else coat.clump) * t**1.3)[None, :, None]
    scale = (length / np.maximum(length[of], 1e-6)).clip(0.5, 1.5)
    lead = (strands[of] - strands[of][:, :1]) * scale[:, None, None] + strands[of][:, :1]
    strands = strands * (1 - pull) + lead * pull
    out = ((strands - roots[:, None]) * normals[:, None]).sum(axis=2)
    tone = tones_at(dog, roots, rng)
    tone = np.where(rng.random(n) < 0.55, tone[of], tone)
    return Hair(strands, tone, normals, out.max(axis=1), length)


def cut(dog: Dog, hair: Hair) -> Hair:
    """The same hair after the dog's own finish, with the error of a hand."""
    finish = dog.finish
    assert finish is not None, f"{dog.name} is not cut"
    roots = hair.strands_mm[:, 0]
    hand = np.random.default_rng(dog.seed + 5).normal(0, finish.hand_mm, len(roots))
    return cut_to(hair, wanted_depth(dog, roots) + hand, lambda at: skin_field(dog.head, at))


def cut_to(hair: Hair, wanted_mm: Points, height_mm: Callable[[Points], Points]) -> Hair:
    """The same hair after scissors: each strand ends where it rises above its own wanted depth (strands,). height_mm:
    how far places (N, 3) lie over the skin; its field tells too little of that beside a head, its mesh tells it."""
    strands = hair.strands_mm
    count = strands.shape[1]
    height = height_mm(strands.reshape(-1, 3)).reshape(len(strands), count)
    over = np.maximum.accumulate(height, axis=1) > wanted_mm[:, None]
    first = np.where(over.any(axis=1), over.argmax(axis=1), count - 1)
    rows = np.arange(len(strands))
    before = np.maximum(first - 1, 0)
    rise = np.maximum(height[rows, first] - height[rows, before], 1e-6)
    part = np.clip((wanted_mm - height[rows, before]) / rise, 0.0, 1.0)
    end = np.where(over.any(axis=1), before + part, count - 1.0)
    at = np.linspace(0, 1, count)[None] * end[:, None]
    low = np.minimum(at.astype(int), count - 2)
    t = (at - low)[:, :, None]
    shorter = strands[rows[:, None], low] * (1 - t) + strands[rows[:, None], low + 1] * t
    length = hair.length_mm * end / (count - 1)
    return Hair(shorter, hair.tone, hair.root_normal, np.minimum(hair.depth_mm, wanted_mm), length)


def wanted_depth(dog: Dog, p: Points) -> Points:
    """Depth over skin (mm) the cut means to leave at places on the skin, its fault included."""
    assert dog.finish is not None
    depth = region_lengths(dog.head, replace(dog.coat, **dict(dog.finish.depth_mm)), p)
    x, y, z = p.T
    cheek = np.clip((-x - dog.head.skull_width * 0.22) / 12, 0, 1) * np.exp(
        -0.5 * (np.square((y + 30) / 24) + np.square((z + 14) / 24))
    )
    return depth + dog.finish.left_cheek_over_mm * np.clip(cheek * 1.35, 0, 1)


def curl(
    radius_mm: float, pitch_mm: float, normal: Points, laid: Points, reach: Points, phase: Points
) -> Points:
    """Corkscrew displacement, its axis along the hair; grows over the first third of a turn."""
    if radius_mm == 0.0:
        return np.zeros((*reach.shape, 3))
    across = np.cross(normal, laid)
    angle = 2 * np.pi * reach / pitch_mm + phase[:, None]
    size = radius_mm * np.clip(reach / (pitch_mm * 0.8), 0, 1)
    turned = np.cos(angle)[:, :, None] * laid[:, None] + np.sin(angle)[:, :, None] * across[:, None]
    return size[:, :, None] * turned


def truth_depth(hair: Hair, at: Points, outward: Points) -> Points:
    """Depth of the coat (mm) at skin points: how far out along the normal hair is still dense.

    Any hair counts, wherever it roots: a fringe that leans over its neighbour is the coat there.
    """
    points = cKDTree(hair.strands_mm.reshape(-1, 3))
    steps = np.arange(1.0, DEEPEST_MM)
    probes = at[:, None] + steps[:, None] * outward[:, None]
    dense = (
        points.query_ball_point(probes.reshape(-1, 3), DENSE_WITHIN_MM, return_length=True) >= DENSE_POINTS
    )
    last = np.zeros(len(at))
    for step, there in zip(steps, dense.reshape(len(at), -1).T, strict=True):
        last = np.where(there & (step - last <= LONGEST_GAP_MM), step, last)
    return last


def truth_length(hair: Hair, at: Points, radius_mm: float = 7.0) -> Points:
    """Hair length (mm) at skin points: the median of the hairs that root nearby."""
    near = cKDTree(hair.strands_mm[:, 0]).query_ball_point(at, radius_mm)
    return np.array([np.median(hair.length_mm[i]) if len(i) else 0.0 for i in near])
