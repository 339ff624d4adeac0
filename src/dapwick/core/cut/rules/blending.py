"""Blend where neighbours step, or sharpen the line where the outline wants one.

The engine finds the steps between neighbouring zones and parts them into these rules' regions.
"""

from __future__ import annotations

from typing import Final

from dapwick.core.cut.conditions import family, school
from dapwick.core.cut.rule import Chapter, Path, Rule, Whenever

LINED: Final[Whenever] = family("topknot", "crest", "three_rings", "brows_beard", "dome")
SWEEP: Final = (
    "Sweep: thinning shears moved like a comb, toothed side to the hair kept, never twice in one place."
)

BLENDING: Final = Chapter(
    "blend",
    "Blend",
    (
        Rule(
            id="blend_side",
            title="Blend the {side} side",
            how=SWEEP,
            because="Past about 6 mm of step between neighbours a line shows.",
            use="thinning",
            minutes=0.5,
            zones=("temple", "cheek", "jaw", "muzzle_side", "throat"),
            each=True,
            direction="from long into short, with the growth",
            check="From the front and in profile: no line.",
            path=Path("side", ("ear_front", "cheek", "jaw_angle")),
        ),
        Rule(
            id="blend_front",
            title="Blend the front into top and sides",
            how=SWEEP,
            because="Past about 6 mm of step between neighbours a line shows.",
            use="blending",
            minutes=0.4,
            zones=("visor", "brow", "crown", "temple", "stop", "inner_corner", "bridge"),
            direction="from long into short, up and out",
            hold="Thumb on the bone of the bridge, never on the soft nose.",
            check="From above: one soft bow.",
            path=Path("front", ("eye_outer_left", "crown", "eye_outer_right")),
        ),
        Rule(
            id="blend_back",
            title="Blend the back of the head and the neck",
            how="Long into short with thinning shears pointed back and down.",
            because="Past about 6 mm of step between neighbours a line shows.",
            use="thinning",
            minutes=0.5,
            zones=("crown", "back_skull", "nape", "throat", "temple", "cheek"),
            direction="from long into short, with the growth",
            check="From the side: no shelf.",
            path=Path("left", ("crown", "occiput")),
        ),
        Rule(
            id="line_sharpened",
            title="Sharpen the {side} setting line",
            how="Combed over the line and cut along it once: {lines}.",
            because="This outline wants its line seen: it is sharpened, not blended.",
            use="straight",
            minutes=0.4,
            when=LINED & ~school("set_line", "blended"),
            eye="one clean line",
            each=True,
            second="Level with the first, seen from the front.",
            direction="along the line, away from the eye",
            check="From the front: both lines level.",
            path=Path("side", ("eye_outer", "ear_front")),
        ),
    ),
)
