"""Check: comb every way, look from every side, let it shake, look again."""

from __future__ import annotations

from typing import Final

from dapwick.core.cut.rule import ALWAYS, Chapter, Rule

CHECKING: Final = Chapter(
    "check",
    "Check",
    (
        Rule(
            id="comb_checks",
            title="Comb up, down, forward and back",
            how="What stands out of the line each time goes, one cut, comb, look.",
            because="A line is even only when it holds combed every way.",
            use="blending",
            minutes=0.7,
            when=ALWAYS,
            eye="nothing stands out",
            check="Front, both profiles, above.",
        ),
        Rule(
            id="sides_compared",
            title="Compare the sides",
            how="From above and from the front; comb depth at both cheeks. Where bone differs, lengths may.",
            because="Most hands always leave one side long.",
            use="comb",
            minutes=0.3,
            eye="both sides alike to the eye",
            doing="look",
            after=("comb_checks",),
        ),
        Rule(
            id="shake",
            title="Let it shake, look again",
            how="Hands off; let the dog shake, and look once more from the front.",
            because="What was combed into place falls out of it.",
            use="comb",
            minutes=0.2,
            eye="nothing new stands out",
            doing="look",
            after=("sides_compared",),
        ),
        Rule(
            id="aftercare",
            title="Tell and write down what was found",
            how="Redness: longer blade next time, look again at pick-up, a vet if it stays. A nick of ear or tongue: "
            "press, cool, a vet; write it into the record.",
            because="What is told at pick-up is forgiven; what is found at home is not.",
            use="comb",
            minutes=0.2,
            eye="skin, ears, tongue, eyes",
            doing="look",
            after=("shake",),
        ),
        Rule(
            id="note",
            title="The note for next time",
            how="What it minded, what was left, what to do first next time.",
            because="What is forgotten is found out again on the dog.",
            use="comb",
            minutes=0.2,
            eye="one line is enough",
            doing="look",
            after=("shake",),
        ),
    ),
)
