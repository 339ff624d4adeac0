"""One photo of one dog: skin, hair, eyes, nose and light, drawn by a path tracer."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter
from scipy.ndimage import median_filter

from .coat import Hair
from .dogs import Dog, Shot
from .form import SIDES, Points, SkinMesh, eye_centre, nose_centre

WIDTH, HEIGHT = 1200, 900
DIRECTION = {
    "front": (0.0, 1.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "right": (1.0, 0.0, 0.0),
    "top": (0.0, 0.05, 1.0),
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


def backdrop(dog: Dog, path: Path) -> None:
    """A wall, a window's light and a shelf, far out of focus."""
    rng = np.random.default_rng(dog.seed + 1)
    wall = np.ones((300, 400, 3)) * np.array(dog.wall)
    wall *= np.linspace(1.12, 0.82, 300)[:, None, None]
    wall[30:150, 15:80] *= 1.25
    wall[205:216, 230:400] *= 0.72
    for _ in range(5):
        x = rng.integers(240, 385)
        wall[205 - rng.integers(18, 42) : 205, x : x + rng.integers(10, 22)] *= rng.uniform(0.75, 1.15, 3)
    image = Image.fromarray((np.clip(wall[::-1], 0, 1) * 255).astype(np.uint8))
    image.filter(ImageFilter.GaussianBlur(13)).save(path)


def look_at(mi, shot: Shot):  # type: ignore[no-untyped-def]
    rotation, t = camera_pose(shot)
    eye = -rotation.T @ t
    return mi.ScalarTransform4f().look_at(
        origin=eye.tolist(), target=(eye + rotation[2]).tolist(), up=(-rotation[1]).tolist()
    )


def hair_shapes(dog: Dog, hair: Hair, folder: Path) -> dict[str, object]:
    shapes: dict[str, object] = {}
    for tone, (eumelanin, pheomelanin, _) in enumerate(dog.coat.tones):
        path = folder / f"hair-{tone}.txt"
        strands = hair.strands_mm[hair.tone == tone]
        taper = np.linspace(1.0, 0.35, strands.shape[1]) * dog.coat.radius_mm
        rows = np.concatenate([strands, np.broadcast_to(taper[:, None], (*strands.shape[:2], 1))], axis=2)
        line = "%.2f %.2f %.2f %.3f\n" * strands.shape[1] + "\n"
        path.write_text("".join(line % tuple(strand) for strand in rows.reshape(len(rows), -1).tolist()))
        shapes[f"hair{tone}"] = {
            "type": "linearcurve",
            "filename": str(path),
            "bsdf": {
                "type": "hair",
                "eumelanin": eumelanin,
                "pheomelanin": pheomelanin,
                "longitudinal_roughness": 0.55,
                "azimuthal_roughness": 0.65,
            },
        }
    return shapes


def unit_sphere() -> tuple[Points, NDArray[np.int64]]:
    """Vertices and faces of a sphere of radius 1, fine enough for a highlight."""
    rings, around = 24, 48
    polar, turn_ = np.meshgrid(
        np.linspace(0, np.pi, rings), np.arange(around) * 2 * np.pi / around, indexing="ij"
    )
    vertices = np.stack(
        [np.sin(polar) * np.cos(turn_), np.sin(polar) * np.sin(turn_), np.cos(polar)], axis=-1
    )
    i, j = np.meshgrid(np.arange(rings - 1), np.arange(around), indexing="ij")
    a, b = (i * around + j).ravel(), (i * around + (j + 1) % around).ravel()
    faces = np.concatenate([np.stack([a, a + around, b], 1), np.stack([b, a + around, b + around], 1)])
    return vertices.reshape(-1, 3), faces


def save_mesh(mi, path: Path, vertices: Points, faces: NDArray[np.int64]) -> None:  # type: ignore[no-untyped-def]
    mesh = mi.Mesh(path.stem, len(vertices), len(faces))
    params = mi.traverse(mesh)
    params["vertex_positions"] = vertices.ravel().astype(np.float32)
    params["faces"] = faces.ravel().astype(np.uint32)
    params.update()
    mesh.write_ply(str(path))


def ball(mi, path: Path, centre: Points, radii: tuple[float, float, float], bsdf: dict) -> dict:  # type: ignore[no-untyped-def, type-arg]
    vertices, faces = unit_sphere()
    save_mesh(mi, path, centre + vertices * radii, faces)
    return {"type": "ply", "filename": str(path), "bsdf": bsdf}


def matte(colour: tuple[float, float, float]) -> dict[str, object]:
    return {"type": "diffuse", "reflectance": {"type": "rgb", "value": list(colour)}}


def glossy(colour: tuple[float, float, float], alpha: float) -> dict[str, object]:
    return {
        "type": "roughplastic",
        "diffuse_reflectance": {"type": "rgb", "value": list(colour)},
        "alpha": alpha,
    }


def face_parts(mi, dog: Dog, folder: Path) -> dict[str, object]:  # type: ignore[no-untyped-def]
    """Eyes with lid rims and iris, nose leather with nostrils, the lip's dark line."""
    parts: dict[str, object] = {}

    def add(name: str, centre: Points, radii: tuple[float, float, float], bsdf: dict[str, object]) -> None:
        parts[name] = ball(mi, folder / f"{name}.ply", centre, radii, bsdf)

    rim, dark = matte((0.02, 0.016, 0.015)), matte((0.002,) * 3)
    for name, side in SIDES:
        eye, r = eye_centre(dog.head, side), dog.head.eye_radius
        ahead = np.array([side * 0.30, 0.95, 0.05])
        add(f"eye_{name}", eye, (r, r, r), glossy((0.05, 0.022, 0.010), 0.05))
        add(f"pupil_{name}", eye + ahead * r * 0.42, (r * 0.62,) * 3, glossy((0.004,) * 3, 0.04))
        add(f"upper_lid_{name}", eye + [0, -2.6, 2.6], (r * 1.12, r * 0.98, r * 0.90), rim)
        add(f"lower_lid_{name}", eye + [0, -3.2, -2.4], (r * 1.08, r * 0.96, r * 0.90), rim)
    nose, leather = nose_centre(dog.head), glossy((0.018, 0.016, 0.017), 0.22)
    add("nose", nose, (10.5, 7.5, 7.5), leather)
    add("nose_top", nose + [0, -4.0, 3.0], (11.0, 6.5, 5.2), leather)
    add("philtrum", nose + [0, 2.5, -10.5], (1.4, 3.6, 6.0), matte((0.03, 0.02, 0.02)))
    for name, side in SIDES:
        add(f"wing_{name}", nose + [side * 7.6, 1.6, -0.6], (5.4, 5.0, 5.6), leather)
        add(f"nostril_{name}", nose + [side * 5.6, 5.6, -0.8], (2.7, 2.6, 2.0), dark)
        add(f"slit_{name}", nose + [side * 9.8, 4.0, -1.8], (2.4, 2.0, 1.0), dark)
    return parts


def lights(dog: Dog, shot: Shot) -> dict[str, object]:
    w = shot.warmth
    key = {"type": "rgb", "value": [15.0 * w, 14.2, 12.8 / w]}
    fill = {"type": "rgb", "value": [4.2, 4.5, 4.8]}
    return {
        "key": {"radiance": key, "from": (-420.0, 620.0, 720.0), "size": 230.0},
        "fill": {"radiance": fill, "from": (720.0, 480.0, 150.0), "size": 300.0},
        "rim": {
            "radiance": {"type": "rgb", "value": [6.0, 6.0, 6.0]},
            "from": (-260.0, -760.0, 620.0),
            "size": 200.0,
        },
    }


def render(
    dog: Dog, shot: Shot, skin: SkinMesh, hair: Hair, folder: Path, samples: int, scale: float = 1.0
) -> Image.Image:
    """The photo as an 8-bit image. Run it in a process of its own: the tracer may crash."""
    import mitsuba as mi

    mi.set_variant("scalar_rgb")
    save_mesh(mi, folder / "skin.ply", skin.vertices, skin.faces)
    backdrop(dog, folder / "wall.png")
    rotation, t = camera_pose(shot)
    eye = -rotation.T @ t
    width, height = round(WIDTH * scale), round(HEIGHT * scale)
    fov_deg = math.degrees(2 * math.atan(WIDTH / 2 / shot.focal_px))
    wall_at = eye + rotation[2] * (shot.distance_mm + 700)
    wall_half = (shot.distance_mm + 700) * WIDTH / 2 / shot.focal_px * 1.05
    scene: dict[str, object] = {
        "type": "scene",
        "integrator": {"type": "path", "max_depth": 9, "rr_depth": 6},
        "sensor": {
            "type": "perspective",
            "fov": fov_deg,
            "fov_axis": "x",
            "to_world": look_at(mi, shot),
            "film": {"type": "hdrfilm", "width": width, "height": height, "rfilter": {"type": "gaussian"}},
            "sampler": {"type": "independent", "sample_count": samples, "seed": dog.seed},
        },
        "sky": {"type": "constant", "radiance": {"type": "rgb", "value": [0.55, 0.56, 0.58]}},
        "skin": {
            "type": "ply",
            "filename": str(folder / "skin.ply"),
            "bsdf": {"type": "twosided", "b": matte(dog.coat.skin)},
        },
        "wall": {
            "type": "rectangle",
            "to_world": mi.ScalarTransform4f()
            .look_at(
                origin=wall_at.tolist(),
                target=eye.tolist(),
                up=(-rotation[1]).tolist(),
            )
            .scale([wall_half, wall_half * HEIGHT / WIDTH, 1]),
            "bsdf": {
                "type": "diffuse",
                "reflectance": {"type": "bitmap", "filename": str(folder / "wall.png")},
            },
            "emitter": {
                "type": "area",
                "radiance": {"type": "bitmap", "filename": str(folder / "wall.png"), "raw": False},
            },
        },
    }
    for name, light in lights(dog, shot).items():
        scene[name] = {
            "type": "rectangle",
            "to_world": mi.ScalarTransform4f()
            .look_at(origin=light["from"], target=[0, 0, -20], up=[0, 0, 1])
            .scale([light["size"], light["size"], 1]),
            "emitter": {"type": "area", "radiance": light["radiance"]},
        }
    scene |= hair_shapes(dog, hair, folder) | face_parts(mi, dog, folder)
    linear = np.array(mi.render(mi.load_dict(scene), seed=dog.seed))[:, :, :3]
    return develop(linear, dog.seed)


def without_sparks(linear: Points) -> Points:
    """Lone bright pixels (paths that met a light by chance) taken down to their neighbours' level."""
    calm = median_filter(linear, size=(3, 3, 1))
    return np.where(linear > 1.6 * calm + 0.02, calm, linear)


def develop(linear: Points, seed: int) -> Image.Image:
    """Exposure, a soft shoulder, sRGB and a little sensor noise."""
    rng = np.random.default_rng(seed)
    linear = without_sparks(linear)
    exposed = linear * 0.75 / max(float(np.percentile(linear, 85)), 1e-3)
    toned = exposed * (1 + exposed / 2.6) / (1 + exposed * 0.75)
    srgb = np.where(toned <= 0.0031308, toned * 12.92, 1.055 * np.maximum(toned, 1e-9) ** (1 / 2.4) - 0.055)
    noisy = srgb + rng.normal(0, 0.008, srgb.shape)
    return Image.fromarray((np.clip(noisy, 0, 1) * 255).astype(np.uint8))
