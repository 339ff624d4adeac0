"""Dogs whose growth is known, seen at some visits and then let grow: do rates and dates hold? Writes its part of
docs/next-time.md.

.venv/bin/python tools/growth_truth.py [DOGS]

Heads of other makers; rates by another law than the model's own (gamma, seasons), lengths read as badly as real visits
read them.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Final

import numpy as np

from check_truth import heads
from dapwick.core.after.coming import CHECKED_MM, PLANNED_MM, Coming, coming, left_as
from dapwick.core.after.growth import GrowthReading, own_growth
from dapwick.core.basics.arrays import Array
from dapwick.core.head.growth import Growth, usual_growth
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.fit import Outline

OUT: Final = Path(__file__).parents[1] / "docs" / "next-time.md"
BEGIN: Final = "## Measured"
SEED: Final = 77
FOUND_ON: Final = ("crown", "cheek", "visor", "temple", "muzzle_side", "chin", "brow", "jaw")
DOG_SHAPE, ZONE_SHAPE = 22.0, 110.0
"""Gamma shapes: dogs differ by a fifth, zones of one by a tenth."""
SEASON, FOUND_MM, TOGETHER_MM = 0.08, 5.0, 2.0
"""A season's swing of the rate; what a length found is off by, alone and with all of its visit (σ)."""
WEEKS: Final = (5.0, 9.0)
TOLD: Final = ("crown", "cheek", "visor")
LEFT_MM: Final = 13.0


@dataclass
class Tally:
    off: list[float] = field(default_factory=list)
    inside: list[bool] = field(default_factory=list)
    dates: list[bool] = field(default_factory=list)
    width: list[float] = field(default_factory=list)

    def row(self, visits: int) -> str:
        off = np.array(self.off)
        return (
            f"| {visits} | {len(self.off)} | {np.median(off):.0%} | {np.mean(off < 0.15):.0%} | "
            f"{np.mean(self.inside):.0%} | {len(self.dates)} | {np.mean(self.dates):.0%} | "
            f"{np.median(self.width):.1f} weeks |"
        )


def true_growth(usual: Growth, rng: np.random.Generator) -> Growth:
    """A dog's own rates, known exactly."""
    dog = rng.gamma(DOG_SHAPE, 1 / DOG_SHAPE)
    zones = rng.gamma(ZONE_SHAPE, 1 / ZONE_SHAPE, len(ZONES))
    return replace(usual, log_rate=usual.log_rate + np.log(dog * zones), covariance=1e-8 * np.eye(len(ZONES)))


def seen(true: Growth, visits: int, rng: np.random.Generator) -> list[GrowthReading]:
    """Lengths found again after each earlier visit."""
    found = []
    for visit in range(visits - 1):
        weeks = float(rng.uniform(*WEEKS))
        season = 1.0 + SEASON * np.sin(rng.uniform(0, 2 * np.pi))
        together = rng.normal(0, TOGETHER_MM)
        for zone in FOUND_ON:
            left = LEFT_MM + rng.normal(0, PLANNED_MM)
            mm = left + weeks * true.rate(zone) * season + together + rng.normal(0, FOUND_MM)
            sigma = float(np.hypot(np.hypot(FOUND_MM, TOGETHER_MM), PLANNED_MM))
            found.append(GrowthReading(visit, zone, weeks, LEFT_MM, mm, sigma))
    return found


def hand_off(outline: Outline, sigma: float, rng: np.random.Generator) -> Array:
    """How far (V,) mm a zone came out off its plan."""
    cell = 2 * outline.ground.skin.template.zone + (outline.ground.skin.vertices_mm[:, 0] > 0)
    zones = rng.normal(0, 0.8 * sigma, int(cell.max()) + 1)
    return np.asarray(rng.normal(0, 0.6 * sigma) + zones[cell])


def held(told: Coming, true: Coming, tally: Tally) -> None:
    """Whether each event that came, came when it was told to."""
    when = {event.id: event.weeks for event in true.events}
    for event in told.events:
        if event.id in when:
            tally.dates.append(event.low <= when[event.id] <= event.high)
            tally.width.append(event.high - event.low)


def report(dogs: int) -> list[str]:
    tallies = {1: Tally(), 2: Tally(), 3: Tally(), 5: Tally()}
    outlines = [outline for _, outline, _, _ in heads(1)]
    for dog in range(dogs):
        rng = np.random.default_rng([SEED, dog])
        outline = outlines[dog % len(outlines)]
        usual = usual_growth(outline.ground.coat_type)
        true = true_growth(usual, rng)
        for visits, tally in tallies.items():
            growth = own_growth(outline.ground.coat_type, seen(true, visits, rng)).growth
            for zone in TOLD:
                at = ZONES.index(zone)
                tally.off.append(abs(growth.rate(zone) / true.rate(zone) - 1))
                tally.inside.append(abs(growth.log_rate[at] - true.log_rate[at]) < 1.645 * growth.spread[at])
            checked = visits > 1
            left = left_as(outline, hand_off(outline, CHECKED_MM if checked else PLANNED_MM, rng))
            held(coming(outline, growth, checked=checked), coming(left, true), tally)
    return [
        BEGIN,
        "",
        f"{dogs} dogs on heads of six other makers (seed {SEED}), each growing at a rate of its own (gamma: dogs "
        f"differ by {DOG_SHAPE**-0.5:.0%}, zones by {ZONE_SHAPE**-0.5:.0%}, seasons by {SEASON:.0%}); lengths are "
        f"found with an error of {np.hypot(FOUND_MM, TOGETHER_MM):.1f} mm. Rates of {', '.join(TOLD)}; dates of all "
        "that shows. `tools/growth_truth.py`.",
        "",
        "| visits | rates | off, median | within 15 % | 90 % hold | dates | in their 80 % interval | width |",
        "|-|-|-|-|-|-|-|-|",
        *(tally.row(visits) for visits, tally in tallies.items()),
        "",
    ]


def main() -> None:
    lines = report(int(sys.argv[1]) if len(sys.argv) > 1 else 60)
    before = OUT.read_text("utf-8").split(BEGIN)[0]
    OUT.write_text(before + "\n".join(lines), "utf-8")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
