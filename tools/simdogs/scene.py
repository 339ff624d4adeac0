"""One photo of one dog: skin, hair, eyes, nose and light, drawn with a depth buffer."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter
from scipy.ndimage import gaussian_filter

from .coat import Hair, bare_distance
from .dog import Dog, Shot
from .form import Points, lip_line_mm, skin_field
from .held import HeldCard
from .light import CELL_MM, HI_MM, LO_MM, Light, Shade, shade_of
from .mesh import SkinMesh
from .parts import Lamp, draw_ball, eye_balls, nose_balls
from .raster import draw_strands, draw_triangles

WIDTH, HEIGHT = 1200, 900
OVERSAMPLE = 2
SOLID_STEP_MM, SOLID_DEEPER_MM = 4.0, 3.0
AMBIENT = 0.34
WET_DARKER, WET_GLOSS = 0.55, 2.6
EDGE_SMOOTH_MM = 1.2
DIRECTION = {
    "front": (0.0, 1.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "right": (1.0, 0.0, 0.0),
    "top": (0.0, 0.05, 1.0),
    "back": (0.0, -1.0, 0.0),
    "three_quarter_left": (-0.75, 0.66, 0.0),
    "three_quarter_right": (0.75, 0.66, 0.0),
}


def camera_pose(shot: Shot) -> tuple[Points, Points]:
    """(R, t) taking modelling-frame mm to camera mm (x right, y down, z ahead)."""
    toward = np.array(DIRECTION[shot.view])
    up_hint = np.array([0.0, 1.0, 0.0]) if shot.view == "top" else np.array([0.0, 0.0, 1.0])
    toward = turn(up_hint, shot.yaw_deg) @ toward
    level = np.cross(up_hint, toward)
    toward = turn(level, shot.pitch_deg) @ toward
    toward /= np.linalg.norm(toward)
    ahead = -toward
    right = np.cross(ahead, up_hint)
    right /= np.linalg.norm(right)
    rotation = turn(np.array([0.0, 0.0, 1.0]), shot.roll_deg) @ np.stack(
        [right, np.cross(ahead, right), ahead]
    )
    eye = np.asarray(shot.aim) + toward * shot.distance_mm
    return rotation, -rotation @ eye


def turn(axis: NDArray[np.float64], angle_deg: float) -> Points:
    a = axis / np.linalg.norm(axis)
    k = np.array([[0, -a[2], a[1]], [a[2], 0, -a[0]], [-a[1], a[0], 0]])
    s, c = math.sin(math.radians(angle_deg)), math.cos(math.radians(angle_deg))
    return np.eye(3) + s * k + (1 - c) * (k @ k)


def backdrop(dog: Dog, width: int, height: int, seed: int) -> Points:
    """A wall, a window's light and a shelf, far out of focus; linear colour (H, W, 3)."""
    rng = np.random.default_rng(seed + 1)
    wall = np.ones((300, 400, 3)) * np.array(dog.wall)
    wall *= np.linspace(1.12, 0.82, 300)[:, None, None]
    wall[30:150, 15:80] *= 1.25
    wall[205:216, 230:400] *= 0.72
    for _ in range(5):
        x = rng.integers(240, 385)
        wall[205 - rng.integers(18, 42) : 205, x : x + rng.integers(10, 22)] *= rng.uniform(0.75, 1.15, 3)
    image = Image.fromarray((np.clip(wall, 0, 1) * 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(13))
    shown = np.asarray(image.resize((width, height), Image.Resampling.BICUBIC), float) / 255
    return np.asarray(shown**1.6)


def lights(shot: Shot) -> tuple[Light, ...]:
    """A large key light, a fill and a light from behind."""
    w = shot.warmth

    def far(x: float, y: float, z: float, colour: tuple[float, float, float], half_width: float) -> Light:
        at = np.array([x, y, z + 20.0])
        return Light(at / np.linalg.norm(at), np.array(colour) * shot.light, half_width)

    return (
        far(-420, 620, 720, (1.30 * w, 1.22, 1.10 / w), 0.20),
        far(720, 480, 150, (0.42, 0.45, 0.49), 0.28),
        far(-260, -760, 620, (0.55, 0.55, 0.56), 0.20),
    )


@dataclass(frozen=True)
class Stage:
    """What does not change between photos of one light: the coat, and light through it."""

    dog: Dog
    skin: SkinMesh
    hair: Hair
    lights: tuple[Light, ...]
    shade: Shade
    hair_sky: Points
    hair_tau: tuple[Points, ...]

    def under(self, shot: Shot) -> Stage:
        """The same coat in another photo's light (colours differ; what shades what does not)."""
        return replace(self, lights=lights(shot))


def stage(dog: Dog, shot: Shot, skin: SkinMesh, hair: Hair, coarser: float = 1.0) -> Stage:
    """coarser > 1: light through the coat on a grid so many times coarser (small pictures)."""
    axes = [np.arange(a, b, SOLID_STEP_MM * coarser) for a, b in zip(LO_MM, HI_MM, strict=True)]
    grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
    inside = grid[skin_field(dog.head, grid) < -SOLID_DEEPER_MM]
    lit = lights(shot)
    shade = shade_of(hair.strands_mm, dog.coat.radius_mm, inside, lit, CELL_MM * coarser)
    flat, shape = hair.strands_mm.reshape(-1, 3), (*hair.strands_mm.shape[:2], 1)

    def along_hair(grid: Points) -> Points:
        return shade.at(grid, flat).reshape(shape).astype(np.float32)

    return Stage(dog, skin, hair, lit, shade, along_hair(shade.sky), tuple(map(along_hair, shade.toward)))


def skin_colour(on: Stage, wet: bool) -> Points:
    """Linear colour (V, 3) of the bare skin, darker between the lips."""
    p, n = on.skin.vertices, on.skin.normals
    out = p + 1.5 * n
    lit = AMBIENT * on.shade.at(on.shade.sky, out)[:, None] * np.ones(3)
    for light, depth in zip(on.lights, on.shade.toward, strict=True):
        through = np.exp(-on.shade.at(depth, out))
        lit = lit + light.colour * (through * np.clip(n @ light.toward, 0, 1))[:, None]
    lips = np.clip(lip_line_mm(on.dog.head, p) / 2.5, 0.15, 1.0)
    rims = np.clip(bare_distance(on.dog.head, p) / 2.0, 0.25, 1.0)
    return np.array(on.dog.coat.skin) * lit * (lips * rims * (0.7 if wet else 1.0))[:, None]


def hair_colour(on: Stage, eye: Points, wet: bool) -> Points:
    """Linear colour (hairs, points, 3): light along the strand, through the coat, and its two highlights."""
    strands = on.hair.strands_mm.astype(np.float32)
    rng = np.random.default_rng(on.dog.seed + 3)
    tint = np.array([t.colour for t in on.dog.coat.tones], np.float32)[on.hair.tone]
    tint = tint * rng.normal(1.0, 0.13, (len(tint), 1)).clip(0.6, 1.5).astype(np.float32)
    along = unit(np.gradient(strands, axis=1))
    view = unit(eye.astype(np.float32) - strands)
    normal = on.hair.root_normal.astype(np.float32)
    deepen = np.linspace(0.62, 1.06, strands.shape[1], dtype=np.float32)[None, :, None]
    base = np.clip(tint[:, None] * deepen * (WET_DARKER if wet else 1.0), 0, 0.95)
    colour = AMBIENT * on.hair_sky * (0.85 + 0.25 * normal[:, None, 2:3]) * base
    cos_v = np.einsum("hpi,hpi->hp", along, view)[:, :, None]
    for light, tau in zip(on.lights, on.hair_tau, strict=True):
        through = np.exp(-tau * (1.0 - 0.62 * base))
        toward = light.toward.astype(np.float32)
        cos_l = (along @ toward)[:, :, None]
        sin_l = np.sqrt(np.clip(1 - cos_l**2, 0, 1))
        wrap = np.clip(0.45 + 0.55 * (normal @ toward), 0.08, 1.0)[:, None, None]
        shine = np.exp(-np.square((cos_l + cos_v + 0.08) / 0.16)) * (WET_GLOSS if wet else 1.0)
        glow = np.exp(-np.square((cos_l + cos_v - 0.14) / 0.30))
        lit = base * (0.9 * sin_l + 0.16 * glow) + 0.045 * shine
        colour += light.colour.astype(np.float32) * wrap * through * lit
    return colour


def unit(v: Points) -> Points:
    return v / np.maximum(np.linalg.norm(v, axis=-1, keepdims=True), 1e-9)


@dataclass(frozen=True)
class Picture:
    """The developed photo and the share of each pixel that the dog covers."""

    image: Image.Image
    cover: Points


def render(on: Stage, shot: Shot, scale: float = 1.0, card: HeldCard | None = None) -> Picture:
    """The photo of one shot and the dog's true cover in it."""
    wet = shot.state == "wet"
    width, height = OVERSAMPLE * round(WIDTH * scale), OVERSAMPLE * round(HEIGHT * scale)
    size = width / WIDTH
    rotation, t = camera_pose(shot)
    eye, focal = -rotation.T @ t, shot.focal_px * size
    colour = backdrop(on.dog, width, height, on.dog.seed).astype(np.float32)
    depth = np.full((height, width), 1e9, np.float32)
    is_hair = np.zeros((height, width), np.uint8)

    def seen(p: Points) -> tuple[Points, Points]:
        q = p @ rotation.T + t
        return q[..., :2] / q[..., 2:] * focal + [width / 2, height / 2], q[..., 2]

    at, z = seen(on.skin.vertices)
    draw_triangles(colour, depth, at, z, on.skin.faces, skin_colour(on, wet))
    rays = pixel_rays(width, height, focal, rotation)
    lamp = Lamp(on.lights, AMBIENT, eye)
    for ball in eye_balls(on.dog, lamp) + nose_balls(on.dog, lamp):
        draw_ball(colour, depth, ball, rays, eye)
    at, z = seen(on.hair.strands_mm)
    taper = np.linspace(1.0, 0.30, at.shape[1]) * 2 * on.dog.coat.radius_mm
    draw_strands(colour, depth, is_hair, at, z, hair_colour(on, eye, wet), taper * focal / z)
    cover = (depth < 1e8).astype(np.float32)
    if card is not None:
        card.draw(colour, depth, rotation, t, focal, rays, lamp)
    cover = shrunk(cover[:, :, None])[:, :, 0]
    return Picture(develop(shrunk(colour), on.dog.seed, shot), cover)


def pixel_rays(width: int, height: int, focal: float, rotation: Points) -> Points:
    """Unit directions (H, W, 3) of the pixels' centres, modelling frame."""
    x, y = np.meshgrid(np.arange(width) + 0.5 - width / 2, np.arange(height) + 0.5 - height / 2)
    rays = np.stack([x, y, np.full_like(x, focal)], axis=-1) @ rotation
    return np.asarray(rays / np.linalg.norm(rays, axis=2, keepdims=True), np.float32)


def shrunk(fine: Points) -> Points:
    h, w, c = fine.shape
    return fine.reshape(h // OVERSAMPLE, OVERSAMPLE, w // OVERSAMPLE, OVERSAMPLE, c).mean(axis=(1, 3))


def develop(linear: Points, seed: int, shot: Shot) -> Image.Image:
    """Exposure, a soft shoulder, sRGB and a little sensor noise."""
    rng = np.random.default_rng(seed)
    linear = gaussian_filter(linear, (0.45 + shot.blur_px, 0.45 + shot.blur_px, 0))
    exposed = linear * 0.62 * shot.light / max(float(np.percentile(linear, 88)), 1e-3)
    toned = exposed * (1 + exposed / 2.6) / (1 + exposed * 0.75)
    srgb = np.where(toned <= 0.0031308, toned * 12.92, 1.055 * np.maximum(toned, 1e-9) ** (1 / 2.4) - 0.055)
    noisy = srgb + rng.normal(0, 0.008, srgb.shape)
    return Image.fromarray((np.clip(noisy, 0, 1) * 255).astype(np.uint8))
