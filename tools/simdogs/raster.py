"""Scan conversion with a depth buffer: triangles and hair strands, by numba."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit(cache=True, fastmath=True)
def draw_triangles(colour, depth, at, z, faces, shade):  # type: ignore[no-untyped-def]
    """at (V, 2) px, z (V,) mm ahead, shade (V, 3) linear colour."""
    height, width = depth.shape
    for f in range(faces.shape[0]):
        i, j, k = faces[f, 0], faces[f, 1], faces[f, 2]
        x0, y0, x1, y1, x2, y2 = at[i, 0], at[i, 1], at[j, 0], at[j, 1], at[k, 0], at[k, 1]
        area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
        if area == 0.0:
            continue
        left, right = max(0, int(min(x0, x1, x2))), min(width - 1, int(max(x0, x1, x2)) + 1)
        top, foot = max(0, int(min(y0, y1, y2))), min(height - 1, int(max(y0, y1, y2)) + 1)
        for y in range(top, foot + 1):
            for x in range(left, right + 1):
                px, py = x + 0.5, y + 0.5
                a = ((x1 - px) * (y2 - py) - (x2 - px) * (y1 - py)) / area
                b = ((x2 - px) * (y0 - py) - (x0 - px) * (y2 - py)) / area
                c = 1.0 - a - b
                if a < -1e-4 or b < -1e-4 or c < -1e-4:
                    continue
                d = a * z[i] + b * z[j] + c * z[k]
                if d < depth[y, x]:
                    depth[y, x] = d
                    for ch in range(3):
                        colour[y, x, ch] = a * shade[i, ch] + b * shade[j, ch] + c * shade[k, ch]


@njit(cache=True, fastmath=True)
def draw_strands(colour, depth, hair, at, z, shade, thick_px):  # type: ignore[no-untyped-def]
    """at (hairs, points, 2) px, z (hairs, points), shade (hairs, points, 3), thick_px (hairs, points).

    Less than a pixel is drawn by chance, so that fine tips thin out instead of ending bluntly. `hair`
    marks the pixels whose nearest thing is hair.
    """
    height, width = depth.shape
    state = np.int64(88172645)
    for h in range(at.shape[0]):
        for s in range(at.shape[1] - 1):
            x0, y0, x1, y1 = at[h, s, 0], at[h, s, 1], at[h, s + 1, 0], at[h, s + 1, 1]
            if max(x0, x1) < 0 or min(x0, x1) >= width or max(y0, y1) < 0 or min(y0, y1) >= height:
                continue
            steps = int(max(abs(x1 - x0), abs(y1 - y0))) + 1
            steep = abs(y1 - y0) > abs(x1 - x0)
            for q in range(steps):
                t = (q + 0.5) / steps
                wide = thick_px[h, s] * (1 - t) + thick_px[h, s + 1] * t
                state = (state * 1103515245 + 12345) & 0x7FFFFFFF
                count = int(wide + (state >> 8) / 8388608.0)
                d = z[h, s] * (1 - t) + z[h, s + 1] * t
                cx, cy = x0 + (x1 - x0) * t, y0 + (y1 - y0) * t
                for m in range(count):
                    off = m - (count - 1) * 0.5
                    x = int(np.floor(cx if steep is False else cx + off))
                    y = int(np.floor(cy + off if steep is False else cy))
                    if x < 0 or y < 0 or x >= width or y >= height or d >= depth[y, x]:
                        continue
                    depth[y, x] = d
                    hair[y, x] = 1
                    for ch in range(3):
                        colour[y, x, ch] = shade[h, s, ch] * (1 - t) + shade[h, s + 1, ch] * t
