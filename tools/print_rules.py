"""Write docs/cut-rules.md: the rules of the cut as a stylist reads them, chapter by chapter.

.venv/bin/python tools/print_rules.py
"""

from __future__ import annotations

from pathlib import Path
from typing import Final

from dapwick.core.cut.cautions import CAUTIONS
from dapwick.core.cut.rule import ALWAYS, Rule
from dapwick.core.cut.rules import CHAPTERS

OUT = Path(__file__).parents[1] / "docs" / "cut-rules.md"
NUMBERS: Final = {
    "outline": "scissored to the outline's length",
    "clip": "clipped with the blade nearest to the plan",
    "guard": "set in with the longest guard under the shortest place",
    "set": "blade or guard, whichever the plan has",
    "edge": "a strip as close as the skin allows",
}


def words(text: str) -> str:
    """A rule's text with its places for this case's own words shown as such."""
    return text.replace("{side}", "*first* or *other*").replace("{ears}", "*as the outline cuts the ears*").replace(
        "{lines}", "*the outline's lines*"
    )  # fmt: skip


def rule_lines(rule: Rule) -> list[str]:
    length = NUMBERS.get(rule.number) or f"by eye: {words(rule.eye)}"
    lines = [
        f"**{words(rule.title)}** (`{rule.id}`, {rule.minutes:g} min)  ",
        f"{words(rule.how)} {'Second side: ' + words(rule.second) if rule.second else ''}  ",
        f"*Why:* {rule.because} *When:* {rule.when.words if rule.when is not ALWAYS else 'always'}.  ",
        f"*Where:* {', '.join(z.replace('_', ' ') for z in rule.zones) or 'the whole head'}; {length}.",
    ]
    rest = [
        f"*{name}:* {text}"
        for name, text in (
            ("Way", rule.direction),
            ("Hold", rule.hold),
            ("Look", rule.check),
            ("Mark", rule.mark),
        )
        if text
    ]
    if rest:
        lines[-1] += "  "
        lines.append(" ".join(rest))
    return [*lines, ""]


def main() -> None:
    lines = [
        "# The rules of the cut",
        "",
        "Written by `tools/print_rules.py` from `src/dapwick/core/cut/rules/`, one file a chapter. A rule that",
        "works on each side makes two steps, the awkward or the easy side first as the stylist likes it. What",
        "comes before what, breaks, cautions and stopping points follow from [cut.md](cut.md).",
        "",
    ]
    for chapter in CHAPTERS:
        lines += [f"## {chapter.words}", ""]
        for rule in chapter.rules:
            lines += rule_lines(rule)
    lines += ["## Cautions", ""]
    lines += [f"- **{caution.brief}.** {caution.words}" for caution in CAUTIONS]
    OUT.write_text("\n".join([*lines, ""]), "utf-8")
    print(
        f"{OUT.name}: {sum(len(c.rules) for c in CHAPTERS)} rules in {len(CHAPTERS)} chapters, {len(CAUTIONS)} cautions"
    )


if __name__ == "__main__":
    main()
