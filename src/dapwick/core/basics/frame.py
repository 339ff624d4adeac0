"""The head frame: millimetres, origin midway between the inner eye corners, mid-plane x = 0.

+x is the dog's own right, +y forward, +z up. +y is the line from occiput to nose tip laid into the
mid-plane and tipped up by `level_tip_deg`, so that a head held level reads level.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX, PAIRS

LEVEL_TIP_DEG = 10.0


def into_head_frame(points: Any, level_tip_deg: float = LEVEL_TIP_DEG) -> Any:
    """Marks (..., marks, 3) in any right-handed frame, mm, brought into the head frame.

    Analytic, so that it can be differentiated by the complex step (arrays.gradient).
    """
    axes = head_axes(points, level_tip_deg)
    inner = (points[..., INDEX["eye_inner_left"], :] + points[..., INDEX["eye_inner_right"], :]) / 2
    return (points - inner[..., None, :]) @ _transpose(axes)


def head_axes(points: Any, level_tip_deg: float = LEVEL_TIP_DEG) -> Any:
    """Rows x, y, z of the head frame, (..., 3, 3). x is the mean direction from left to right marks."""
    left, right = (np.array(side) for side in zip(*PAIRS, strict=True))
    x = _unit((points[..., right, :] - points[..., left, :]).sum(axis=-2))
    ahead = points[..., INDEX["nose_tip"], :] - points[..., INDEX["occiput"], :]
    y = _unit(ahead - _dot(ahead, x) * x)
    z = np.cross(x, y)
    tip = math.radians(level_tip_deg)
    forward = math.cos(tip) * y + math.sin(tip) * z
    return np.stack([x, forward, np.cross(x, forward)], axis=-2)


def rigid_into_head_frame(points: Array, level_tip_deg: float = LEVEL_TIP_DEG) -> tuple[Array, Array]:
    """(R, o): a point p in the old frame is R @ (p - o) in the head frame."""
    axes = np.asarray(head_axes(points, level_tip_deg))
    inner = (points[INDEX["eye_inner_left"]] + points[INDEX["eye_inner_right"]]) / 2
    return axes, inner


def _transpose(m: Any) -> Any:
    return np.swapaxes(m, -1, -2)


def _dot(a: Any, b: Any) -> Any:
    return (a * b).sum(axis=-1, keepdims=True)


def _unit(v: Any) -> Any:
    return v / np.sqrt(_dot(v, v))
