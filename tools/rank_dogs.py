"""Write docs/rankings.md: which outlines each demo dog can carry, in order, and why that order makes sense.

.venv/bin/python tools/rank_dogs.py
"""

from __future__ import annotations

from pathlib import Path
from typing import Final

from coat_truth import grounded
from dapwick.core.measures.bands import proportions
from dapwick.core.measures.measure import measures_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS, truth
from dapwick.pipeline.plan import Plan, fit_on, thumb_on

OUT = Path(__file__).parents[1] / "docs" / "rankings.md"
WHEN = {"today": "today", "not_on_this_coat": "not on this coat"}
READ_AS: Final[dict[str, str]] = {
    "fogbell": "A short-muzzled, broad, prick-eared head in a full standing coat is what rings and rounds are made "
    "for; they lead. Standing ears, a flat top and a short muzzle speak against topknot, dome, brick and crest; "
    "brows and beard waits for brows.",
    "bobbin": "Drop ears and curl over a fairly broad skull: the outlines that show width or make a ball on top lead, "
    "and teddy with them, since ears that hang beside the cheeks fill it below the eyes. Rings, circle and brick come "
    "last of what can be cut today.",
    "tiller": "Harsh coat, narrow skull, parallel planes: natural, then the brick that suits the bone. A head so "
    "narrow and long is no circle and has no width to show, whatever grows, and is told so.",
    "marlin-spike": "A wavy coat that lies close: natural and close lead. Brows and beard, and a brick, are some weeks "
    "away; topknot and crest, which want the longest crown, come last.",
    "kelpie-jo": "A puppy's short standing coat on a short-muzzled, prick-eared head: the rounder shapes lead, of "
    "those that can be cut today and of those that wait; crest and brick come last.",
    "squall": "A flat face under fine drop hair: broad leads, for its width needs no muzzle. The chin stays out of a "
    "circle until hair has grown round it; a brick on a face without a muzzle is last by far.",
    "ratline": "Wavy, drop-eared, with a coat that is thin where it can be read. Natural and close today; what asks "
    "for a little more waits. The uneven ears do not decide between outlines; they come back as lengths.",
    "halyard": "Old, narrow, thin fine hair: natural is right, close the alternative, and everything that wants "
    "standing hair is weeks away, the crest farthest.",
    "capstan": "A full standing coat on a short-muzzled, prick-eared head: rings and rounds lead, teddy beside them, "
    "since nothing hangs before the cheeks. Crest and dome want another head, and brows and beard longer brows.",
}


def ranked(key: str) -> tuple[list[Plan], str]:
    """Every family on a dog, best first, and the head in words."""
    model = grounded(key, ALL_SEVEN[:4]).model
    plans = sorted((thumb_on(fit_on(model, f)) for f in FAMILIES.values()), key=lambda p: p.verdict.rank)
    words = ", ".join(p.words for p in proportions(measures_of(model.ground.head)))
    ears = " and ".join(sorted(set(model.ground.face.carriage)))
    return plans, f"{words}; {ears} ears; {truth(key)['coat'].replace('_', ' ')} coat"


def section(key: str) -> list[str]:
    plans, head = ranked(key)
    lines = [f"## {truth(key)['dog']}", "", f"{head[:1].upper() + head[1:]}.", "", READ_AS[key], ""]
    lines += ["| outline | when | departure | first reasons |", "|-|-|-|-|"]
    for plan in plans:
        v = plan.verdict
        when = WHEN.get(v.when, f"in {v.weeks_range[0]}–{v.weeks_range[1]} weeks")
        lines.append(
            f"| {plan.outline.family.name} | {when} | {v.departure:.1f} | {' '.join(v.reasons[:2])} |"
        )
    return [*lines, ""]


def main() -> None:
    lines = [
        "# What each demo dog can carry",
        "",
        "Written by `tools/rank_dogs.py`: four dry photos marked by a steady hand, two hand measures, no comb, no "
        "wishes. Departure counts how far head, coat and finished silhouette lie from what the family wants, in "
        "tolerances, with a price on hair taken off and weeks waited (core/plan/verdict.py). Among outlines that "
        "can be cut today the least departure comes first.",
        "",
    ]
    for dog in DEMO_DOGS:
        lines += section(dog.key)
    OUT.write_text("\n".join(lines).rstrip() + "\n")


if __name__ == "__main__":
    main()
