"""Light through a coat: how much hair lies between a place and each light, kept on a grid."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, map_coordinates

from .form import Points

CELL_MM = 3.0
LO_MM, HI_MM = np.array([-165.0, -330.0, -290.0]), np.array([165.0, 150.0, 175.0])
MARCH_MM = 108.0
DENSITY = 0.34
SOLID_PER_MM = 0.9
Grid = NDArray[np.float32]


@dataclass(frozen=True)
class Light:
    """A far light: `toward` it from the head (unit), its colour, and how wide it looks (rad)."""

    toward: Points
    colour: Points
    half_width_rad: float


@dataclass(frozen=True)
class Shade:
    """Optical depth toward each light and the open share of the sky, by grid cell."""

    toward: tuple[Grid, ...]
    sky: Grid
    cell_mm: float

    def at(self, grid: Grid, p: Points) -> Points:
        return map_coordinates(grid, ((p - LO_MM) / self.cell_mm - 0.5).T, order=1, mode="nearest")


@njit(cache=True, fastmath=True)
def _filled(grid, p, weight, lo, cell):  # type: ignore[no-untyped-def]
    for i in range(p.shape[0]):
        a, b = int((p[i, 0] - lo[0]) / cell), int((p[i, 1] - lo[1]) / cell)
        c = int((p[i, 2] - lo[2]) / cell)
        if 0 <= a < grid.shape[0] and 0 <= b < grid.shape[1] and 0 <= c < grid.shape[2]:
            grid[a, b, c] += weight[i]


@njit(cache=True, fastmath=True)
def _marched(grid, wanted, direction, steps, step_cells):  # type: ignore[no-untyped-def]
    out = np.zeros_like(grid)
    n0, n1, n2 = grid.shape
    for a in range(n0):
        for b in range(n1):
            for c in range(n2):
                if not wanted[a, b, c]:
                    continue
                total = 0.0
                x, y, z = float(a), float(b), float(c)
                for _ in range(steps):
                    x += direction[0] * step_cells
                    y += direction[1] * step_cells
                    z += direction[2] * step_cells
                    i, j, k = int(x + 0.5), int(y + 0.5), int(z + 0.5)
                    if i < 0 or j < 0 or k < 0 or i >= n0 or j >= n1 or k >= n2:
                        break
                    total += grid[i, j, k]
                out[a, b, c] = total
    return out


def shade_of(
    strands: Points, radius_mm: float, solid: Points, lights: tuple[Light, ...], cell_mm: float = CELL_MM
) -> Shade:
    """strands (hairs, points, 3) and points inside the skin, thrown onto the grid and looked through."""
    shape = np.ceil((HI_MM - LO_MM) / cell_mm).astype(int)
    grid = np.zeros(shape, np.float32)
    middle = 0.5 * (strands[:, 1:] + strands[:, :-1])
    length = np.linalg.norm(np.diff(strands, axis=1), axis=2)
    area = (DENSITY * 2 * radius_mm / cell_mm**3 * length).astype(np.float32)
    _filled(grid, middle.reshape(-1, 3), area.ravel(), LO_MM, cell_mm)
    _filled(grid, solid, np.full(len(solid), SOLID_PER_MM, np.float32), LO_MM, cell_mm)
    grid = gaussian_filter(grid, 0.6) * cell_mm
    wanted = gaussian_filter(grid, 1.2) > 0.004
    steps = round(MARCH_MM / cell_mm)
    toward = tuple(gaussian_filter(_marched(grid, wanted, li.toward, steps, 1.0), 0.6) for li in lights)
    around = [(x, y, z) for x in (-1, 0, 1) for y in (-1, 0, 1) for z in (-1, 0, 1) if (x, y, z) != (0, 0, 0)]
    sky = np.zeros_like(grid)
    for d in around:
        unit = np.array(d, float) / np.linalg.norm(d)
        sky += (0.65 + 0.35 * unit[2]) * np.exp(
            -0.55 * _marched(grid, wanted, unit, round(24 / cell_mm), 1.6) * 1.6
        )
    return Shade(toward, gaussian_filter(sky / len(around), 0.6), cell_mm)
