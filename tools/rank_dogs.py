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
    "for; they lead, and what keeps the circle waiting is a visor a few millimetres short. Standing ears, a flat top "
    "and a short muzzle speak against dome, topknot and brick, which come last.",
    "bobbin": "Drop ears and curl over a fairly broad skull: the outlines that show width or make a ball on top lead. "
    "Round and teddy want more at the muzzle's sides than its shorter hair there gives, so they wait some weeks. The "
    "square shapes lose to curl and to diverging planes.",
    "tiller": "Harsh coat, narrow skull, parallel planes: left natural, or brows and beard. A brick suits the bone as "
    "well (second by departure of all that wait) but the coat behind the skull must grow first. Anything round "
    "comes last: narrow, long, and harsh hair.",
    "marlin-spike": "Little coat is surely there (wavy, lying close), so today only what follows the skin: natural, "
    "close. Of those that wait, brows and beard asks least; topknot and crest, which want the longest crown, come "
    "last.",
    "kelpie-jo": "A puppy's short standing coat: nothing is there to shape yet. Once grown the round shapes lead by "
    "departure, as for any short-muzzled prick-eared head, and brick, topknot and crest come last.",
    "squall": "A flat face under fine drop hair that falls: today close or natural, neither of them good, which the "
    "high departures say. Broad and teddy would suit best after some weeks; a brick on a face without a muzzle is "
    "last by far.",
    "ratline": "Wavy, drop-eared, with a coat that is thin where it can be read. Natural and close today; brows and "
    "beard when the chin has grown. The uneven ears do not decide between outlines; they come back as lengths.",
    "halyard": "Old, narrow, thin fine hair: natural is right, close the alternative, and everything that wants "
    "standing hair is weeks away, the rings farthest.",
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
