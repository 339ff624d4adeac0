"""Pinhole cameras: projection, its derivatives, and the pose of each view.

Camera frame: mm, x right, y down, z ahead. A point p of the head is R @ p + t there. Photo frame:
px, origin at the top-left corner of the top-left pixel; the principal point is the photo's centre.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.basics.marks import View

DIAGONAL = math.sqrt(0.5)
TOWARD_CAMERA: Final[dict[View, tuple[float, float, float]]] = {
    "front": (0, 1, 0),
    "back": (0, -1, 0),
    "left": (-1, 0, 0),
    "right": (1, 0, 0),
    "top": (0, 0, 1),
    "three_quarter_left": (-DIAGONAL, DIAGONAL, 0),
    "three_quarter_right": (DIAGONAL, DIAGONAL, 0),
}
"""Where the camera stands for each view, as seen from the head (head frame)."""


@dataclass(frozen=True)
class Camera:
    """One solved camera. rotation (3, 3), translation_mm (3,): head frame to camera frame."""

    rotation: Array
    translation_mm: Array
    focal_px: float
    width_px: int
    height_px: int

    @property
    def centre_mm(self) -> Array:
        """Where the camera stood (3,) mm, head frame."""
        return -self.rotation.T @ self.translation_mm

    @property
    def distance_mm(self) -> float:
        return float(np.linalg.norm(self.translation_mm))

    @property
    def px_a_mm(self) -> float:
        """How large a millimetre of the head is pictured, across the way the camera looks."""
        return self.focal_px / self.distance_mm

    def project(self, points_mm: Array) -> Array:
        """Photo positions (N, 2) px of points (N, 3) mm; nan for points at or behind the camera."""
        p = points_mm @ self.rotation.T + self.translation_mm
        z = np.where(p[:, 2] > 1.0, p[:, 2], np.nan)
        return self.focal_px * p[:, :2] / z[:, None] + self.principal_px

    @property
    def principal_px(self) -> Array:
        """The photo's centre (2,) px, where the optical axis meets it."""
        return np.array([self.width_px / 2.0, self.height_px / 2.0])

    def angles_deg(self, view: View) -> tuple[float, float, float]:
        """(yaw, pitch, roll) of the head away from the view's nominal pose, degrees.

        Yaw turns about the head's up, pitch about its left-right axis, roll in the photo's plane.
        """
        turn = self.rotation @ nominal_rotation(view).T
        yaw = math.atan2(turn[2, 0], turn[2, 2])
        pitch = math.asin(float(np.clip(-turn[2, 1], -1, 1)))
        roll = math.atan2(turn[0, 1], turn[1, 1])
        return math.degrees(yaw), math.degrees(pitch), math.degrees(roll)


@cache
def nominal_rotation(view: View) -> Array:
    """Head to camera rotation when the head is held straight for this view. (3, 3)."""
    ahead = -np.array(TOWARD_CAMERA[view], dtype=float)
    up = np.array([0.0, 1.0, 0.0]) if view == "top" else np.array([0.0, 0.0, 1.0])
    right = np.cross(ahead, up)
    return frozen(np.stack([right, np.cross(ahead, right), ahead]))


def skew(v: Array) -> Array:
    """Cross-product matrices (..., 3, 3) of vectors (..., 3)."""
    found = np.zeros((*v.shape, 3))
    found[..., [2, 0, 1], [1, 2, 0]] = v
    found[..., [1, 2, 0], [2, 0, 1]] = -v
    return found


def rotation_from(w: Array) -> Array:
    """Rotation matrices (..., 3, 3) of rotation vectors (..., 3), rad (Rodrigues)."""
    angle = np.linalg.norm(w, axis=-1)[..., None, None]
    k, small = skew(w), angle < 1e-8
    safe = np.where(small, 1.0, angle)
    a = np.where(small, 1.0, np.sin(safe) / safe)
    b = np.where(small, 0.5, (1 - np.cos(safe)) / safe**2)
    return np.asarray(np.eye(3) + a * k + b * (k @ k))


def left_jacobian(w: Array) -> Array:
    """J with exp(w + dw) = exp(J dw) exp(w) to first order, (..., 3, 3) (Chirikjian, eq. 10.86)."""
    angle = np.linalg.norm(w, axis=-1)[..., None, None]
    k, small = skew(w), angle < 1e-4
    safe = np.where(small, 1.0, angle)
    a = np.where(small, 0.5, (1 - np.cos(safe)) / safe**2)
    b = np.where(small, 1 / 6, (safe - np.sin(safe)) / safe**3)
    return np.asarray(np.eye(3) + a * k + b * (k @ k))
