"""Which outline that can be cut comes nearest to one that cannot."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from dapwick.core.outlines.fit import Outline


def apart_mm(wanted: Outline, instead: Outline) -> float:
    """How far what one outline leaves lies from what another wants, on one head: mean over the zones both plan, each
    alike, mm."""
    skin = wanted.ground.skin
    zones = [z for z in wanted.family.planned if z in instead.family.planned]
    off = np.abs(wanted.wanted_mm - instead.leave_mm)
    return float(np.mean([np.median(off[skin.in_zone(zone)]) for zone in zones]))


def nearest_to(wanted: Outline, others: Iterable[Outline]) -> Outline | None:
    """The nearest of some outlines that can be cut; None where there is none."""
    return min(others, key=lambda one: apart_mm(wanted, one), default=None)
