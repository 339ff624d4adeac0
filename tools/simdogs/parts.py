"""Eyes with lids, nose leather: round things met by each pixel's ray and shaded on the spot."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import numpy as np

from .dog import Dog, side_of
from .form import LID_MM, SIDES, Points, eye_axes, nose_centre, outside_lids
from .light import Light

ShadeOf = Callable[[Points, Points, Points], Points]


@dataclass(frozen=True)
class Lamp:
    """All that shading a smooth thing needs besides itself."""

    lights: tuple[Light, ...]
    sky: float
    eye: Points


@dataclass(frozen=True)
class Ball:
    """An ellipsoid; `shaded(points, normals, view)` gives linear colour; `kept` may punch a hole."""

    centre: Points
    radii: Points
    shaded: ShadeOf
    kept: Callable[[Points], Points] | None = None


def gloss(lamp: Lamp, normal: Points, view: Points, sharp: float) -> Points:
    """Mirror light of the lamps and the room in a smooth surface; `sharp` in 0..1."""
    mirrored = 2 * (normal * view).sum(axis=1, keepdims=True) * normal - view
    fresnel = 0.035 + 0.6 * (1 - np.clip((normal * view).sum(axis=1), 0, 1)) ** 5
    room = (0.30 + 0.25 * mirrored[:, 2:3]) * lamp.sky * np.ones(3)
    soft = 0.06 + 0.5 * (1 - sharp)
    for light in lamp.lights:
        off = np.arccos(np.clip(mirrored @ light.toward, -1, 1)) - light.half_width_rad
        room = room + light.colour * np.clip(0.5 - off / soft, 0, 1)[:, None] * (0.3 + 0.7 * sharp) * 4.0
    return fresnel[:, None] * room


def matte_light(lamp: Lamp, normal: Points) -> Points:
    total = np.full((len(normal), 3), lamp.sky) * (0.7 + 0.3 * normal[:, 2:3])
    for light in lamp.lights:
        total = total + light.colour * np.clip(normal @ light.toward, 0, 1)[:, None]
    return total


def eye_balls(dog: Dog, lamp: Lamp) -> list[Ball]:
    """Two eyes, each an eyeball behind a lid with an almond opening between its marked corners."""
    balls = []
    for _, side in SIDES:
        eye, r = eye_axes(dog.head, side), side_of(dog.head, side).eye_radius
        opening = partial(outside_lids, dog.head, side)
        balls.append(Ball(eye.centre, np.full(3, r), _iris(dog, lamp, eye.gaze)))
        lid = _lid(dog, lamp, opening)
        balls.append(Ball(eye.centre, np.full(3, r + LID_MM), lid, lambda p, o=opening: o(p) > 0))
    return balls


def _iris(dog: Dog, lamp: Lamp, gaze: Points) -> ShadeOf:
    iris = np.array(dog.iris)

    def shaded(p: Points, normal: Points, view: Points) -> Points:
        angle = np.arccos(np.clip(normal @ gaze, -1, 1))
        turn = np.arctan2(normal[:, 2], normal[:, 0])
        streak = 1 + 0.18 * np.sin(turn * 23) * np.sin(turn * 11 + 1)
        colour = iris * (streak * np.clip(1.25 - angle, 0.35, 1.2))[:, None]
        colour = np.where((angle > 0.86)[:, None], np.array([0.012, 0.009, 0.008]), colour)
        colour = np.where((angle > 0.98)[:, None], np.array([0.035, 0.024, 0.020]), colour)
        colour = np.where((angle < 0.40)[:, None], 0.0015, colour)
        under_lid = np.clip(0.55 - 0.6 * (normal[:, 2:3] - 0.15), 0.25, 1.0)
        return colour * matte_light(lamp, normal) * under_lid + gloss(lamp, normal, view, 1.0)

    return shaded


def _lid(dog: Dog, lamp: Lamp, opening: Callable[[Points], Points]) -> ShadeOf:
    tones = np.array([t.colour for t in dog.coat.tones]), np.array([t.share for t in dog.coat.tones])
    rim, skin = np.array([0.012, 0.010, 0.010]), 0.45 * np.average(tones[0], axis=0, weights=tones[1])

    def shaded(p: Points, normal: Points, view: Points) -> Points:
        t = np.clip((opening(p) - 0.9) / 1.3, 0, 1)[:, None]
        bare = 0.2 * (1 - t) * gloss(lamp, normal, view, 0.3)
        return (rim * (1 - t) + skin * t) * matte_light(lamp, normal) * 0.8 + bare

    return shaded


def nose_balls(dog: Dog, lamp: Lamp) -> list[Ball]:
    """The leather with its wings, two nostrils pressed in, the groove to the lip."""
    at, wide = nose_centre(dog.head), dog.head.nose_width / 21.0
    leather, hole = np.array(dog.leather), np.full(3, 0.0012)

    def pebbled(p: Points, normal: Points, view: Points) -> Points:
        q = p * 2.6
        bump = 0.10 * np.stack([np.sin(q[:, i] * 1.7 + 3 * np.sin(q[:, i - 1])) for i in range(3)], axis=1)
        rough = normal + bump
        rough /= np.linalg.norm(rough, axis=1, keepdims=True)
        d = (p - at) / np.array([wide, 1, 1])
        dent = np.minimum(*(np.hypot((d[:, 0] - s * 5.4) / 3.0, (d[:, 2] + 1.0) / 2.4) for s in (1, -1)))
        slit = np.minimum(*(np.hypot((d[:, 0] - s * 8.4) / 3.4, (d[:, 2] + 2.4) / 1.1) for s in (1, -1)))
        groove = np.hypot(d[:, 0] / 0.8, np.maximum(d[:, 2] - 1.0, 0) / 3.0)
        open_ = np.clip(np.minimum(np.minimum(dent, slit), groove) * 2.2 - 1.4, 0, 1)
        open_ = np.where(normal[:, 1] > 0.05, open_, 1.0)[:, None]
        lit = leather * matte_light(lamp, rough) + 0.8 * gloss(lamp, rough, view, 0.25)
        return hole + (lit - hole) * open_

    def dark(p: Points, normal: Points, view: Points) -> Points:
        return 0.35 * leather * matte_light(lamp, normal)

    parts = [
        Ball(at, np.array([10.5 * wide, 7.5, 7.5]), pebbled),
        Ball(at + [0, -4.0, 3.0], np.array([11.0 * wide, 6.5, 5.2]), pebbled),
        Ball(at + [0, 2.5, -10.5], np.array([1.4, 3.6, 6.0]), dark),
    ]
    parts += [
        Ball(at + [s * 7.6 * wide, 1.6, -0.6], np.array([5.4 * wide, 5.0, 5.6]), pebbled) for _, s in SIDES
    ]
    return parts


def draw_ball(colour: Points, depth: Points, ball: Ball, rays: Points, eye: Points) -> None:
    """Draw one ellipsoid in place. rays (H, W, 3): unit directions; depth (H, W): mm ahead of the camera."""
    centre = (ball.centre - eye) / np.linalg.norm(ball.centre - eye)
    near = (rays @ centre) > np.cos(1.3 * ball.radii.max() / np.linalg.norm(ball.centre - eye))
    rows, columns = np.nonzero(near)
    d = rays[rows, columns] / ball.radii
    o = (eye - ball.centre) / ball.radii
    a, b, c = (d * d).sum(axis=1), (d * o).sum(axis=1), float(o @ o) - 1.0
    disc = b * b - a * c
    t = (-b - np.sqrt(np.maximum(disc, 0))) / a
    ahead = t * (rays[rows, columns] @ _axis(rays))
    hit = (disc > 0) & (ahead < depth[rows, columns])
    p = eye + t[:, None] * rays[rows, columns]
    if ball.kept is not None:
        hit &= ball.kept(p)
    rows, columns, p, ahead = rows[hit], columns[hit], p[hit], ahead[hit]
    if len(rows) == 0:
        return
    normal = (p - ball.centre) / ball.radii**2
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    colour[rows, columns] = ball.shaded(p, normal, -rays[rows, columns])
    depth[rows, columns] = ahead


def _axis(rays: Points) -> Points:
    """The viewing axis: the middle ray."""
    h, w = rays.shape[:2]
    middle = rays[h // 2 - 1 : h // 2 + 1, w // 2 - 1 : w // 2 + 1].mean(axis=(0, 1))
    return np.asarray(middle / np.linalg.norm(middle))
