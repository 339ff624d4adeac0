"""The scale card held beside the head, with the hand that holds it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from dapwick.core.solve.scale_card import HEIGHT_MM, MARKER_IDS, MARKER_MM, WIDTH_MM, marker_corners_mm

from .dog import Dog, Shot
from .form import Points, eye_corners
from .parts import Ball, Lamp, draw_ball, matte_light

PX_PER_MM = 8
OFFSET_SIGMA_MM = 8.0
TILT_SIGMA_DEG = 6.0
HAND = np.array([0.42, 0.24, 0.17])


def card_print() -> Points:
    """The card as printed, 0 black to 1 white."""
    sheet = np.ones((round(HEIGHT_MM * PX_PER_MM), round(WIDTH_MM * PX_PER_MM)))
    words = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    side = round(MARKER_MM * PX_PER_MM)
    for marker in MARKER_IDS:
        x, y = np.round(marker_corners_mm(marker)[0] * PX_PER_MM).astype(int)
        sheet[y : y + side, x : x + side] = cv2.aruco.generateImageMarker(words, marker, side) / 255
    return sheet


@dataclass(frozen=True)
class HeldCard:
    """corners_mm (4, 3): clockwise from the top left as the camera sees it; away: unit, from the camera."""

    corners_mm: Points
    away: Points
    from_above: bool

    def draw(self, colour, depth, rotation, t, focal, rays, lamp: Lamp) -> None:  # type: ignore[no-untyped-def]
        height, width = depth.shape
        q = self.corners_mm @ rotation.T + t
        at = q[:, :2] / q[:, 2:] * focal + [width / 2, height / 2]
        printed = card_print().astype(np.float32)
        h, w = printed.shape
        flat = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32)
        warp = cv2.getPerspectiveTransform(flat, at.astype(np.float32))
        shown = cv2.warpPerspective(printed, warp, (width, height), flags=cv2.INTER_AREA)
        inside = cv2.warpPerspective(np.ones((h, w), np.float32), warp, (width, height)) > 0.5
        inside &= q[:, 2].mean() < depth
        colour[inside] = (0.02 + 0.70 * shown[inside])[:, None] * np.array([1.0, 0.98, 0.94])
        depth[inside] = q[:, 2].mean()
        for ball in self.hand(lamp):
            draw_ball(colour, depth, ball, rays, lamp.eye)

    def hand(self, lamp: Lamp) -> list[Ball]:
        """A thumb on the card's edge, a forearm behind it out of the picture."""
        top, foot = self.corners_mm[:2].mean(axis=0), self.corners_mm[2:].mean(axis=0)
        if self.from_above:
            top, foot = foot, top
        down = foot - top
        down /= np.linalg.norm(down)

        def shaded(p: Points, normal: Points, view: Points) -> Points:
            return HAND * matte_light(lamp, normal) * 0.75

        thumb = [
            Ball(foot - self.away * 7 + down * s, np.full(3, 9.0 + 0.12 * s), shaded)
            for s in np.arange(-7.0, 26, 0.8)
        ]
        arm = [
            Ball(foot + self.away * 14 + down * s, np.full(3, 17 + 0.10 * s), shaded)
            for s in np.arange(10.0, 240, 0.8)
        ]
        return thumb + arm


def held_card(dog: Dog, shot: Shot, rotation: Points) -> HeldCard:
    """Held level with the eye, above the muzzle or beside the face, as a hand manages."""
    rng = np.random.default_rng(dog.seed + 29)
    right, down, away = rotation
    eyes = [eye_corners(dog.head, s)[1] for s in ((1.0, -1.0) if shot.view == "front" else (-1.0,))]
    eye = np.mean(eyes, axis=0)
    front = shot.view == "front"
    centre = (
        eye
        + right * (150.0 if front else -72.0)
        + down * (12.0 if front else -72.0)
        + away * rng.normal(0, OFFSET_SIGMA_MM)
    )
    tilt = np.radians(rng.normal(0, TILT_SIGMA_DEG, 3))
    x = right + tilt[0] * away + tilt[2] * down
    y = down + tilt[1] * away - tilt[2] * right
    x, y = x / np.linalg.norm(x) * WIDTH_MM / 2, y / np.linalg.norm(y) * HEIGHT_MM / 2
    return HeldCard(
        np.array([centre - x - y, centre + x - y, centre + x + y, centre - x + y]), away, not front
    )
