"""How far the skin lies from where it is told on heads of several makers' kinds (`skulls`), zone by zone.

python tools/skin_truth.py [HEADS]

Marks are exact, so that what is left is the template's own: how skin runs between the marks.
"""

from __future__ import annotations

import sys
from functools import cache

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.skin import CONTROL_ROWS, between_marks_mm, members, vertex_normals, warp_weights
from dapwick.core.head.template import template
from dapwick.core.head.zones import ZONES
from dapwick.core.measures.measure import NORMAL_95
from skulls.kinds import KINDS, Skull, skulls

SKIN_BEGIN = "## Skin between the marks, heads of other makers"
FARTHEST_MM, STEP_MM = 28.0, 0.25
HEADS = 30


def skin_off_mm(skull: Skull) -> Array:
    """How far (V,) the true skin lies outside of the warped template, along its normals; NaN where none is near."""
    vertices = warp_weights() @ skull.points_mm[CONTROL_ROWS]
    outward = vertex_normals(vertices, template())
    reach = np.arange(-FARTHEST_MM, FARTHEST_MM + STEP_MM, STEP_MM)
    places = vertices[:, None] + reach[None, :, None] * outward[:, None]
    level = skull.field(places.reshape(-1, 3)).reshape(len(vertices), -1)
    leaves = (level[:, :-1] < 0) & (level[:, 1:] >= 0)
    share = level[:, :-1] / np.minimum(level[:, :-1] - level[:, 1:], -1e-9)
    at = np.where(leaves, reach[:-1] + STEP_MM * share, np.inf)
    nearest = at[np.arange(len(at)), np.abs(at).argmin(axis=1)]
    return np.where(np.isfinite(nearest), nearest, np.nan)


@cache
def all_off_mm(heads: int) -> dict[str, Array]:
    """By kind (heads, V)."""
    return {kind: np.array([skin_off_mm(one) for one in skulls(kind, heads)]) for kind in KINDS}


def skin_report(heads: int = HEADS) -> list[str]:
    off, sigma = all_off_mm(heads), between_marks_mm()
    lines = [
        SKIN_BEGIN,
        "",
        f"{heads} random heads each of four kinds (`tools/skulls`), marks exact. Of each zone: how far the true skin "
        "lies off the told one (median; in brackets rms), and how much of it the told 95 % holds, all kinds together: "
        "more than 95 %, since a kind of head that nobody has seen differs by more than these from each other.",
        "",
        f"| zone | {' | '.join(KINDS)} | told σ | covers |",
        "|-" * (len(KINDS) + 3) + "|",
    ]
    for zone in ZONES:
        at = members(zone, None)
        each = [_told(off[kind][:, at]) for kind in KINDS]
        every = np.concatenate([off[kind][:, at] for kind in KINDS])
        held = float((np.abs(every) < NORMAL_95 * sigma[at])[np.isfinite(every)].mean())
        name = zone.replace("_", " ")
        lines.append(f"| {name} | {' | '.join(each)} | {np.median(sigma[at]):.1f} mm | {held:.0%} |")
    return [*lines, ""]


def _told(off: Array) -> str:
    return f"{np.nanmedian(np.abs(off)):.1f} ({np.sqrt(np.nanmean(off**2)):.1f}) mm"


if __name__ == "__main__":
    print("\n".join(skin_report(*map(int, sys.argv[1:2]))))
