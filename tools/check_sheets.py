"""Write docs/cut-check.md: the cut sheet of every demo dog and outline, for both hands, put to every test of being
followed without having seen the dog.

.venv/bin/python tools/check_sheets.py
"""

from __future__ import annotations

import statistics
from pathlib import Path
from typing import Final

from coat_truth import grounded
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.sheet import CutSheet, cut_sheet
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.kit import Hand, Stylist
from dapwick.core.plan.lengths import zone_lengths
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS
from dapwick.pipeline.plan import drawn_on, fit_on
from sheet_faults import clip_passes, faults

READ: Final = "## Read by eye"
"""What a reader wrote from here on is kept."""
OUT = Path(__file__).parents[1] / "docs" / "cut-check.md"
HANDS: Final[tuple[Hand, ...]] = ("left", "right")
PUPPY: Final = ("puppy", "white_coat", "minds_clipper", "first_time", "sun")
TIRED: Final = (
    "pants",
    "old",
    "mats",
    "stain@chin",
    "lip_knots@lip_line",
    "short_place@cheek",
    "parting@crown",
)
HARD: Final = ("minds_muzzle", "minds_eyes", "minds_ears", "flat_face", "first_time")


def sheets() -> dict[tuple[str, str, str, str], CutSheet]:
    """By dog, family, hand and handling: the dog's own, a hard case, a puppy, and an old dog that pants."""
    found = {}
    for dog in DEMO_DOGS:
        model = grounded(dog.key, ALL_SEVEN[:4]).model
        for family in FAMILIES.values():
            outline = drawn_on(fit_on(model, family), {})
            zones = zone_lengths(outline)
            for hand in HANDS:
                for told, traits in (("own", dog.traits), ("hard", HARD), ("puppy", PUPPY), ("tired", TIRED)):
                    case = case_of(outline, zones, Stylist("Anybody", hand), traits=traits)
                    found[dog.key, family.id, hand, told] = cut_sheet(case)
    return found


def table(made: dict[tuple[str, str, str, str], CutSheet]) -> list[str]:
    """Steps and minutes of each dog's own sheet, right-handed."""
    lines = ["| dog | " + " | ".join(FAMILIES) + " |", "|-|" + "-|" * len(FAMILIES)]
    for dog in DEMO_DOGS:
        own = [made[dog.key, key, "right", "own"] for key in FAMILIES]
        cells = " | ".join(f"{len(sheet.steps)} / {sheet.minutes:.0f}" for sheet in own)
        lines.append(f"| {dog.key} | {cells} |")
    return lines


def main() -> None:
    made = sheets()
    wrong = [f"{' '.join(key)}: {fault}" for key, sheet in made.items() for fault in faults(sheet)]
    steps = [step for sheet in made.values() for step in sheet.steps]
    counts = [len(sheet.steps) for sheet in made.values()]
    full = [sum(c.full for c in step.cautions) for step in steps]
    ends = [sum(step.may_end for step in sheet.steps) for sheet in made.values()]
    passes = [(cut, left) for sheet in made.values() for _, cut, left in clip_passes(sheet)]
    spare = [left - cut.longest_mm for cut, left in passes]
    alone = [one for sheet in made.values() for one in sheet.alone if one.grows]
    combed = sum(len(step.comb_first) for step in steps)
    runs = sum(cut.run is not None for step in steps for cut in step.cuts)
    late = sum(bool(sheet.before_time) for sheet in made.values())
    kept = OUT.read_text("utf-8").partition(READ)
    OUT.write_text(
        "\n".join(
            [
                "# The cut sheets of the demo dogs, checked",
                "",
                "Written by `tools/check_sheets.py`: every demo dog (four dry photos), every outline as fitted,",
                "both hands, with the dog's own handling, with a hard case (minds muzzle, eyes and ears, flat face,",
                "first time), as a white puppy that fears the clipper, and as an old dog that pants, with mats, stain,",
                "knots at the lip, a parting and a place cut short. What is checked",
                "is in `tools/sheet_faults.py`, apart from the engine that",
                "makes the sheets: nothing out of order, no length without a tool, no place from which 3 mm or",
                "more come off left out, no caution missing near eye, ear or tongue, on a clipper, a guard over",
                "leather,",
                "folds and edges of the ear, thinning, lips, a wet mouth, a panting dog; none told in",
                "full twice within six steps unless a break lies between, both sides alike wherever the dog may",
                "go home. And what cannot be undone: no blade or guard leaves less than the longest place it passes",
                "over at the upper end of what is told; a place that lacks hair is left alone, with mm and weeks;",
                "one that may lack it is combed first; every piece of the plan is in a step or told as left alone.",
                "",
                f"Sheets: {len(made)}. Faults: {len(wrong)}.",
                *[f"- {words}" for words in wrong[:40]],
                "",
                f"Steps a sheet: {min(counts)} to {max(counts)}, median {statistics.median(counts):.0f}. Steps with",
                f"a caution told in full: {sum(n > 0 for n in full) / len(full):.0%}. Places to go home, a sheet:",
                f"{min(ends)} to {max(ends)}, median {statistics.median(ends):.0f}.",
                "",
                f"Places that a blade or guard passes over: {len(passes)}; shorter than planned there:",
                f"{sum(mm < -1e-6 for mm in spare)} (it leaves {statistics.median(spare):.1f} mm more than the longest",
                f"place, median). Places that lack hair: {len(alone)}, all left alone. Combed first: {combed} places.",
                f"Places whose length runs by more than 4 mm, told from end to end: {runs}. Sheets that say on top",
                f"that the outline is not all there yet: {late}.",
                "",
                "Steps / minutes, each dog's own handling, right hand:",
                "",
                *table(made),
                "",
                "No stylist has cut by one of these sheets yet: minutes are the rules' own until a log teaches better.",
                "",
            ]
        )
        + kept[1]
        + kept[2],
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
