"""Planned lengths against lengths worked out from the true skin and coat of the simulated dogs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.spatial import cKDTree
from scipy.special import ndtr

from coat_truth import grounded
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.basics.shapes import exit_distance, outside
from dapwick.core.head.stand import STAND_FACTOR, length_of
from dapwick.core.outlines.clear import keep_clear
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM, room_left, wanted_on
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.plan.lengths import SIDES, planned_groups, zone_lengths
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS, truth
from dapwick.pipeline.plan import drawn_on, fit_on

ENOUGH_PLACES = 6
SEEN = 0.5
"""A zone is seen where silhouettes read the coat of at least this share of it."""


@dataclass(frozen=True)
class ZoneCheck:
    """One zone of one side under one family: planned and true length left (mm), whether the interval holds the
    truth, and whether the zone is seen and scissored."""

    planned: float
    true: float
    inside: bool
    seen: bool
    scissored: bool


@dataclass(frozen=True)
class DogCheck:
    """zones of all families; over: share of skin planned above the true coat, and the chance told of it; out:
    whether the plan ran out somewhere, and the chance told, by family."""

    dog: str
    zones: list[ZoneCheck]
    over: tuple[float, float]
    out: list[tuple[bool, float]]


@dataclass(frozen=True)
class TrueHead:
    """A dog's true marks (marks, 3), and at places of its skin (T, 3) the outward direction and the coat's depth (T,),
    to plan on as on a measured one."""

    points: Array
    at: Array
    outward: Array
    coat: Array
    coat_type: str

    @property
    def stand(self) -> Array:
        return np.full(len(self.at), STAND_FACTOR[self.coat_type])

    def left(self, outline: Outline) -> Array:
        """Depth (T,) the same setting leaves on the true head."""
        face = Face(self.points, self.coat_type)
        design = outline.family.design(face, outline.size_mm, outline.params, outline.schools)
        free = exit_distance(outside(keep_clear(face, design.corners_left)), self.at, self.outward)
        wanted = wanted_on(design, self.at, self.outward, self.coat, self.stand, free)
        return room_left(wanted, np.minimum(FLOOR_MM, self.coat), self.coat, free)


def true_head(key: str) -> TrueHead:
    """A demo dog as it is."""
    known = truth(key)
    return TrueHead(
        np.array([known["marks_mm"][m] for m in MARK_IDS]),
        np.array(known["skin"]["at_mm"]),
        np.array(known["skin"]["outward"]),
        np.array(known["skin"]["coat_depth_mm"]),
        known["coat"],
    )


def check(key: str, slots: tuple[str, ...]) -> DogCheck:
    """Every family planned on the dog as measured, and on the dog as it is."""
    model = grounded(key, slots).model
    ground, real = model.ground, true_head(key)
    skin, coat = ground.skin, ground.coat
    nearest = cKDTree(skin.vertices_mm).query(real.at)[1]
    place = cKDTree(real.at).query(skin.vertices_mm)[1]
    zones, over, told, out = [], [], [], []
    for family in FAMILIES.values():
        outline = drawn_on(fit_on(model, family), {})
        draws = posterior_samples(outline)
        true_mm = length_of(real.left(outline), real.stand)
        planned = {(z.zone, z.side): z for z in zone_lengths(outline, draws)}
        for zone in family.planned:
            for side in SIDES:
                at = skin.in_zone(zone, side)
                there = np.isin(nearest, at)
                if there.sum() < ENOUGH_PLACES:
                    continue
                row, truly = planned[zone, side], float(np.median(true_mm[there]))
                zones.append(
                    ZoneCheck(
                        row.leave_mm,
                        truly,
                        row.low - 0.5 <= truly <= row.high + 0.5,
                        float(coat.read[at].mean()) >= SEEN,
                        not row.clipped,
                    )
                )
        asked = ground.asks & ~outline.covered
        groups = planned_groups(outline)
        hair = np.maximum(real.coat[place], FLOOR_MM) + 0.5
        ran_out = any(float((outline.leave_mm[g] > hair[g]).mean()) > 0.25 for g in groups)
        out.append((ran_out, draws.chance_out(groups)))
        if not asked.any():
            continue
        over.append(float((outline.leave_mm[asked] > real.coat[place][asked] + 0.5).mean()))
        told.append(float(ndtr((outline.leave_mm - coat.depth_mm) / coat.sigma_mm)[asked].mean()))
    return DogCheck(truth(key)["dog"], zones, (float(np.mean(over)), float(np.mean(told))), out)


def plan_report() -> list[str]:
    lines = [
        "## Planned lengths against the true head",
        "",
        "Each of the demo dogs, marked by a steady hand with two hand measures, edges traced by the machine; all "
        f"{len(FAMILIES)} families fitted and planned, and the same setting worked out on the true marks, skin and "
        "coat. A zone is seen where silhouettes read the coat of at least half of it. Depth is turned into "
        "length by the coat type's stand factor on both sides, so an error of that factor is not in here. "
        "Intervals are of 90 %.",
        "",
        "| dog | photos | scissored and seen: zones | median off | covered | other zones | median off | covered "
        "| planned above the true coat | told |",
        "|-|-|-|-|-|-|-|-|-|-|",
    ]
    pooled: dict[str, list[DogCheck]] = {}
    for dog in DEMO_DOGS:
        for name, slots in (("four dry", ALL_SEVEN[:4]), ("four dry, three wet", ALL_SEVEN)):
            found = check(dog.key, slots)
            pooled.setdefault(name, []).append(found)
            seen = [z for z in found.zones if z.seen and z.scissored]
            rest = [z for z in found.zones if not (z.seen and z.scissored)]
            lines.append(
                f"| {found.dog} | {name} | {_row(seen)} | {_row(rest)} | {found.over[0]:.1%} | {found.over[1]:.1%} |"
            )
    for name, dogs in pooled.items():
        seen = [z for d in dogs for z in d.zones if z.seen and z.scissored]
        rest = [z for d in dogs for z in d.zones if not (z.seen and z.scissored)]
        over = np.mean([d.over for d in dogs], axis=0)
        lines.append(f"| **all** | {name} | {_row(seen)} | {_row(rest)} | {over[0]:.1%} | {over[1]:.1%} |")
    ran = [o for dogs in pooled.values() for d in dogs for o in d.out]
    lines += [
        "",
        f"Plans that ran out of hair in more than a quarter of some zone: {np.mean([r for r, _ in ran]):.0%} of "
        f"{len(ran)}; the mean chance told of it was {np.mean([c for _, c in ran]):.0%}.",
        "",
    ]
    return lines


def _row(zones: list[ZoneCheck]) -> str:
    if not zones:
        return "0 | – | –"
    off = np.median([abs(z.planned - z.true) for z in zones])
    return f"{len(zones)} | {off:.1f} mm | {np.mean([z.inside for z in zones]):.0%}"
