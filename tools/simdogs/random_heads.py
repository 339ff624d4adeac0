"""Random proportions of a head: flat faces to very long ones, every carriage of ears."""

from __future__ import annotations

import numpy as np

from .dog import HeadForm
from .form import marks

LONGEST_MUZZLE_MM, HIGHEST_EAR_MM, WIDEST_EAR_MM = 88.0, 118.0, 116.0
"""So that nose and ears stay on the meshed skin."""
SIDEWAYS_SHARE = 0.25
"""Of the pricked ears: carried out to the side."""


def random_head(rng: np.random.Generator) -> HeadForm:
    """Proportions drawn until every mark lies on the skin: the flattest faces may have no chin to be found."""
    while True:
        head = drawn_head(rng)
        try:
            marks(head)
        except ValueError:
            continue
        return head


def drawn_head(rng: np.random.Generator) -> HeadForm:
    u = rng.uniform
    size = u(0.8, 1.12)
    kind = str(rng.choice(["prick", "prick", "drop", "drop", "button", "tipped"]))
    skull = u(72, 108) * size
    sideways = kind == "prick" and rng.random() < SIDEWAYS_SHARE
    spread, height = u(0.24, 0.44) * skull, u(14, 32) * size if kind != "drop" else u(-4, 22) * size
    lean = u(30, 76) if sideways else u(-2, 22) if rng.random() < 0.7 else u(22, 52)
    long_ = u(4, 34) if sideways else u(34, 96) * size if kind != "drop" else u(40, 130) * size
    return HeadForm(
        skull_width=skull,
        skull_length=u(0.88, 1.4) * skull,
        crown_height=u(0.34, 0.50) * skull,
        muzzle_length=min((u(0.22, 0.5) if rng.random() < 0.25 else u(0.4, 1.2)) * skull, LONGEST_MUZZLE_MM),
        muzzle_width=u(0.36, 0.58) * skull,
        muzzle_drop=u(8, 24) * size,
        nose_width=u(17, 25) * size,
        eye_spacing=u(0.34, 0.56) * skull,
        eye_radius=u(6.6, 12.0) * size,
        stop_depth=u(2, 16),
        ear_kind=kind,
        ear_length=long_ if kind == "drop" else min(long_, HIGHEST_EAR_MM - height),
        ear_spread=spread,
        ear_height=height,
        ear_lean=min(lean, WIDEST_EAR_MM - spread),
        ear_wide=u(0.7, 2.0),
        cheek_bulge=u(-4, 7),
        left=(("ear_height", rng.normal(0, 2.5)), ("eye_lift", rng.normal(0, 0.8))),
    )
