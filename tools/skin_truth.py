"""How far the skin lies from where it is told on heads of several makers' kinds (`skulls`), zone by zone.

python tools/skin_truth.py [HEADS]

Marks are exact, so that what is left is the template's own: how skin runs between the marks. Its spread is found by
leaving one kind out at a time, and held against two kinds kept apart. A basis of shapes learnt from
these kinds is the rival of the smooth process in use.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from functools import cache

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.gaussian_process import Kernel, merged, posterior_from
from dapwick.core.head.skin import (
    BETWEEN_MM,
    CONTROL_ROWS,
    FAR_MM,
    NEAR_A_MARK_MM,
    away_from_marks_mm,
    between_marks_mm,
    members,
    vertex_normals,
    warp_weights,
)
from dapwick.core.head.skin_and_coat import SKIN_REACH_MM, SKIN_SIDES_ALIKE
from dapwick.core.head.template import template
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.measures.measure import NORMAL_95
from skulls.kept import KEPT
from skulls.kinds import KINDS, Skull
from skulls.makers import MAKERS, skulls

SKIN_BEGIN = "## Skin between the marks, heads of other makers"
FARTHEST_MM, STEP_MM = 28.0, 0.5
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
    return {kind: np.array([skin_off_mm(one) for one in skulls(kind, heads)]) for kind in MAKERS}


def far_rms_mm(off: Array, zone: str) -> float:
    """How far (rms) skin strays in a zone away from every mark, of what was found (heads, V) at all distances."""
    at = members(zone, None)
    full = np.minimum(away_from_marks_mm()[at] / FAR_MM, 1.0) ** 2
    found = np.nanmean(off[:, at] ** 2, axis=0) - NEAR_A_MARK_MM**2
    return float(np.sqrt(max((found * full).sum() / (full**2).sum(), 0.0)))


def spread_found(off: dict[str, Array]) -> tuple[dict[str, float], float]:
    """By zone, the spread that a kind nobody has seen would need: that of all kinds (rms), and how many times so much
    for 95 % of a left-out kind's skin to lie within what the other kinds make of it."""
    each = {zone: {kind: far_rms_mm(off[kind], zone) for kind in KINDS} for zone in ZONES}
    full = np.minimum(away_from_marks_mm() / FAR_MM, 1.0)
    times = []
    for kind in KINDS:
        others = [np.sqrt(np.mean([each[z][k] ** 2 for k in KINDS if k != kind])) for z in ZONES]
        far = np.array(others)[template().zone] * full
        need2 = ((off[kind] / NORMAL_95) ** 2 - NEAR_A_MARK_MM**2) / np.maximum(far, 0.5) ** 2
        times.append(np.sqrt(np.maximum(need2[np.isfinite(need2)], 0.0)))
    more = max(1.0, float(np.quantile(np.concatenate(times), 0.95)))
    return {z: more * float(np.sqrt(np.mean([v**2 for v in each[z].values()]))) for z in ZONES}, more


def skin_report(heads: int = HEADS) -> list[str]:
    off, sigma = all_off_mm(heads), between_marks_mm()
    found, more = spread_found(off)
    lines = [
        SKIN_BEGIN,
        "",
        f"{heads} random heads each of six kinds (`tools/skulls`), marks exact. Of each zone: how far the true skin "
        "lies off the told one (median; in brackets rms), and how much of it the told 95 % holds. Found: the spread "
        f"far from every mark over the first {len(KINDS)} kinds, times {more:.2f}, with which a kind that is left out "
        "has 95 % of its skin within what the others make of it; in use: what the product takes. "
        f"{' and '.join(KEPT)} heads were not looked at for this, but for the nape.",
        "",
        f"| zone | {' | '.join(KINDS)} | found | in use | covers | {' | '.join(KEPT)} | covers |",
        "|-" * (len(MAKERS) + 5) + "|",
    ]
    for zone in ZONES:
        at = members(zone, None)
        cells = {kind: _told(off[kind][:, at]) for kind in MAKERS}
        learnt, kept = (
            _held(np.concatenate([off[k][:, at] for k in kinds]), sigma[at]) for kinds in (KINDS, KEPT)
        )
        lines.append(
            f"| {zone.replace('_', ' ')} | {' | '.join(cells[k] for k in KINDS)} | {found[zone]:.1f} mm | "
            f"{BETWEEN_MM[zone]:.1f} mm | {learnt:.0%} | {' | '.join(cells[k] for k in KEPT)} | {kept:.0%} |"
        )
    return [*lines, "", *_rivals(off)]


def _held(off: Array, sigma: Array) -> float:
    return float((np.abs(off) < NORMAL_95 * sigma)[np.isfinite(off)].mean())


def _told(off: Array) -> str:
    return f"{np.nanmedian(np.abs(off)):.1f} ({np.sqrt(np.nanmean(off**2)):.1f}) mm"


MODES = (0, 3, 6, 10)
LEFT_MM, READ_SIGMA_MM = 0.7, 2.0
UNPLANNED = ("nape", "throat", BARE)


def _rivals(off: dict[str, Array]) -> list[str]:
    """A basis of shapes (principal components, with the mean of the kinds) against the process in use, each kind told
    from the others: what is predicted where nothing was read."""
    lines = [
        "A basis of shapes learnt from these kinds (their mean and so many principal components, the rest as smooth "
        "noise) against the process in use, which takes the template for the mean. Each kind told by what the other "
        "kinds taught, rms off over the planned skin where nothing was read (in brackets, how much the 95 % holds); "
        "the last two learnt from all four others:",
        "",
        f"| told by | read | {' | '.join(MAKERS)} | mean |",
        "|-" * (len(MAKERS) + 3) + "|",
    ]
    zone, at = template().zone, template().vertices_mm
    planned = np.flatnonzero(~np.isin(zone, [ZONES.index(z) for z in UNPLANNED]))[::3]
    middle = planned[np.abs(at[planned, 0]) < 4]
    read = {"nothing": middle[:0], "the middle line": middle}
    for name, where in read.items():
        for modes in (None, *MODES):
            cells, rms = [], []
            for kind in MAKERS:
                others = [off[k] for k in KINDS if k != kind]
                apart, held = _predicted(np.nan_to_num(off[kind]), others, modes, where, planned)
                rms.append(apart)
                cells.append(f"{apart:.1f} mm ({held:.0%})")
            told_by = "the process" if modes is None else f"mean and {modes} shapes"
            lines.append(f"| {told_by} | {name} | {' | '.join(cells)} | {np.mean(rms):.1f} mm |")
    return [*lines, ""]


def _predicted(
    off: Array, others: Sequence[Array], modes: int | None, read: Array, planned: Array
) -> tuple[float, float]:
    """Rms off and share held of heads (heads, V) told from readings at vertices, where nothing was read."""
    sigma, mean, shapes = between_marks_mm(), np.zeros(off.shape[1]), np.zeros((off.shape[1], 0))
    if modes is not None:
        mean = np.mean([np.nan_to_num(np.nanmean(one, axis=0)) for one in others], axis=0)
        spread = np.nan_to_num(np.concatenate(list(others))) - mean
        _, size, along = np.linalg.svd(spread / np.sqrt(len(spread)), full_matrices=False)
        shapes = along[:modes].T * size[:modes]
        sigma = np.sqrt(np.maximum((spread**2).mean(axis=0) - (shapes**2).sum(axis=1), LEFT_MM**2))
    unread = np.setdiff1d(planned, read)
    between = _smooth(sigma, unread, read) + shapes[unread] @ shapes[read].T
    within = _smooth(sigma, read, read) + shapes[read] @ shapes[read].T + READ_SIGMA_MM**2 * np.eye(len(read))
    weights = np.linalg.solve(within, between.T).T if len(read) else np.zeros((len(unread), 0))
    told = mean[unread] + (off[:, read] - mean[read]) @ weights.T
    var = sigma[unread] ** 2 + (shapes[unread] ** 2).sum(axis=1) - (weights * between).sum(axis=1)
    apart = off[:, unread] - told
    return float(np.sqrt((apart**2).mean())), _held(apart, np.sqrt(np.maximum(var, 0.0)))


def _smooth(sigma: Array, a: Array, b: Array) -> Array:
    """Covariance of the process between vertices a and b."""
    nothing = merged(template().vertices_mm, [], 1)
    known = posterior_from(template().vertices_mm, nothing, Kernel(sigma, SKIN_REACH_MM, SKIN_SIDES_ALIKE))
    return known.alike(a, b)[0]


if __name__ == "__main__":
    print("\n".join(skin_report(*map(int, sys.argv[1:2]))))
