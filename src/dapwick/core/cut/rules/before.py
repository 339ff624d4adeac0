"""Before the scissors: look, rough out what the bath would ruin, dry straight."""

from __future__ import annotations

from typing import Final

from dapwick.core.cut.conditions import clipped, family, longer_now, trait
from dapwick.core.cut.rule import WITH_GROWTH, Chapter, Path, Rule

BEFORE: Final = Chapter(
    "before",
    "Before the scissors",
    (
        Rule(
            id="look_over",
            title="Look and feel the head over",
            how="Mats, sores, smell from the ears, running eyes: note them and tell the owner.",
            because="What is wrong is found before it is cut, and referred to a vet.",
            use="comb",
            minutes=0.5,
            eye="eyes, ears, lips, skin",
            doing="look",
            cautions=("table",),
        ),
        Rule(
            id="mouth_hair",
            title="Clear the hair of the mouth",
            how="Hair that wraps round the teeth is cleared under the front lip before the bath.",
            because="Mouth hair and mats are roughed out before the bath, which would ruin them.",
            use="detail",
            minutes=0.4,
            when=longer_now("chin", 12.0),
            zones=("lip_line",),
            eye="what reaches into the mouth",
            hold="Mouth held closed gently; lip lifted at the front.",
            path=Path("front", ("mouth_corner_left", "lip_front", "mouth_corner_right")),
            after=("look_over",),
        ),
        Rule(
            id="knots",
            title="Split the knots",
            how="Two or three thinning cuts into each knot, then brush it out; never pull. About {minutes} min: a "
            "surcharge line for the counter.",
            because="A mat pulls the skin up into the blade, and no length can be judged over it.",
            use="thinning",
            minutes=1.8,
            when=trait("mats"),
            zones=("cheek", "jaw"),
            eye="until the comb goes through",
            hold="The hair held at its root, so that the skin is not pulled.",
            after=("look_over",),
        ),
        Rule(
            id="rough_face",
            title="Before the bath: rough the face out",
            how="Mouth and face cut down roughly, to about half their length; the clean pass comes after the bath.",
            because="Food and spit in a long beard hold water: what goes anyway need not be washed and dried.",
            use="straight",
            minutes=0.6,
            when=clipped("muzzle_side") & longer_now("muzzle_side", 15.0),
            zones=("muzzle_side", "chin"),
            eye="half the length off, nothing close",
            direction=WITH_GROWTH,
            hold="Mouth closed gently, lip stretched flat.",
            path=Path("left", ("mouth_corner_left", "chin")),
            after=("look_over", "mouth_hair"),
        ),
        Rule(
            id="dried_forward",
            title="Coat dry and straight, combed forward",
            how="After the bath 100 % dry and straight, the fringe dried forward. Static: mist above the dog.",
            because="Damp or curled hair cuts short; a fringe dried back falls differently.",
            use="comb",
            minutes=0.2,
            when=family("round", "teddy", "dome", "broad", "three_rings", "topknot"),
            eye="no damp place left",
            doing="look",
            after=("look_over", "mouth_hair", "knots", "rough_face"),
        ),
        Rule(
            id="dried",
            title="Coat dry and straight",
            how="After the bath 100 % dry and straight, beard and brows combed forward.",
            because="Damp or curled hair cuts short.",
            use="comb",
            minutes=0.2,
            when=~family("round", "teddy", "dome", "broad", "three_rings", "topknot"),
            eye="no damp place left",
            doing="look",
            after=("look_over", "mouth_hair", "knots", "rough_face"),
        ),
    ),
)
