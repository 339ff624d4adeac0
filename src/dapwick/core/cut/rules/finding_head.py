"""Find the head: no outline is judged before the head stands clear of the neck."""

from __future__ import annotations

from typing import Final

from dapwick.core.cut.conditions import scissored
from dapwick.core.cut.rule import Chapter, Path, Rule

FINDING_HEAD: Final = Chapter(
    "head",
    "Find the head",
    (
        Rule(
            id="ring",
            title="Ring where head meets neck",
            how="Feel the base of the skull; one clean line all round where head meets neck.",
            because="It parts head, neck and body; where it wanders the head sits crooked.",
            use="clip",
            minutes=0.7,
            zones=("nape",),
            number="set",
            direction="down the neck, with the growth",
            check="From the front and from both sides: one line.",
            path=Path("left", ("occiput", "ear_back_left", "jaw_angle_left", "throat")),
            always=True,
        ),
        Rule(
            id="wrap_ear",
            title="Wrap the {side} ear's base",
            how="The clipper's edge close round the back of the ear's base.",
            because="So that nothing from the cheek shows through behind the ear.",
            use="clip",
            minutes=0.2,
            zones=("ear_base_rear",),
            number="edge",
            each=True,
            direction="round the base, downward",
            hold="Ear tilted aside, not up; the leather between two fingers.",
            path=Path("side", ("ear_back", "jaw_angle")),
            after=("ring",),
        ),
        Rule(
            id="under_jaw",
            title="Clear under the jaw",
            how="Lift the hair to keep; clip only the second layer over the windpipe, an upside-down V at the jaw.",
            because="It gives the neck its length; out to the cheeks it would take cheek hair along.",
            use="clip",
            minutes=0.5,
            when=scissored("throat"),
            zones=("throat",),
            number="set",
            direction="down the throat, with the growth",
            hold="Head level, skin taut.",
            path=Path("left", ("chin", "throat")),
            after=("ring",),
        ),
        Rule(
            id="head_clear",
            title="Step back: does the head stand clear?",
            how="Comb everything down and look from the front, both sides and above.",
            because="No outline is judged before the head stands clear of the neck.",
            use="comb",
            minutes=0.2,
            eye="head, neck and body apart",
            doing="look",
            after=("ring", "wrap_ear", "under_jaw"),
        ),
    ),
)
