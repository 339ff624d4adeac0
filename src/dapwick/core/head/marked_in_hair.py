"""A crown that was marked in its hair instead of on the bone.

No photo shows it, and no other mark contradicts it; but where a comb went in, the coat's edge less what the comb found
is the skin, and it then lies well under the mark.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from dapwick.core.head.coat import CoatProbe, middle_of
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.solve.joint import HeadSolution

ZONE: Final = "crown"
UNDER_SIGMA: Final = 0.6
"""Told where the skin lies so many of its σ under where the mark puts it: few well-marked crowns are told so."""
LEAST_MM: Final = 3.0


def crown_in_hair_mm(head: HeadSolution, skin: Skin, probes: Sequence[CoatProbe]) -> float | None:
    """How far (mm) comb and edge put the crown's skin under its mark; None where they do not, no comb went in or nobody
    marked it. skin: set right by edges and combs."""
    if "crown" not in head.placed or not any(probe.zone == ZONE for probe in probes):
        return None
    warped = skin_of(head)
    at = middle_of(warped, ZONE, "left")
    under = float((warped.vertices_mm[at] - skin.vertices_mm[at]) @ warped.outward[at])
    told = under > max(LEAST_MM, UNDER_SIGMA * float(warped.sigma_mm[at]))
    return under if told else None


def words_of(under_mm: float | None) -> tuple[str, ...]:
    """One sentence, or none."""
    if under_mm is None:
        return ()
    return (
        f"By comb and edge the crown lies {under_mm:.0f} mm under its mark: if it was marked in the hair, press to the "
        "bone and mark it again.",
    )
