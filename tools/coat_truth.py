"""Skin and coat measured from demo photos against the simulated dogs' truth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array
from dapwick.core.head.skin import Skin
from dapwick.core.head.zones import ZONES
from dapwick.core.measures.measure import NORMAL_95
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS, calliper_mm, hand_marks, photo_bytes, photos_of, truth
from dapwick.documents.head_file import PhotoEntry, photo_marks
from dapwick.pipeline.head_model import model_of, traced_edge
from dapwick.pipeline.plan import FittedGround, fit_on
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo

HAND = (("eye_outer_left", "eye_outer_right"), ("stop", "nose_tip"))
COAT_BEGIN = "## Skin and coat of the simulated dogs"
UPPER = ("crown", "back_skull", "visor", "brow", "stop", "inner_corner", "temple", "bridge")
SILHOUETTE = ("crown", "back_skull", "visor", "temple", "bridge", "cheek", "jaw", "chin", "muzzle_side")


@dataclass(frozen=True)
class Against:
    """One dog's head against its truth, vertex by vertex (V,): skin and coat errors with their told σ, mm;
    read: a silhouette reads the coat close by."""

    skin: Skin
    skin_off: Array
    skin_sigma: Array
    coat_off: Array
    coat_sigma: Array
    read: Array

    def zones(self, names: Sequence[str]) -> Array:
        return np.isin(self.skin.template.zone, [ZONES.index(name) for name in names])


def measured(key: str, slots: Sequence[str], hands: int = 2) -> tuple[HeadSolution, list[PhotoMarks]]:
    known = truth(key)
    photos = [
        photo_marks(PhotoEntry.model_validate({**p, "marks": hand_marks(p)}), p["file"])
        for p in photos_of(known, slots)
    ]
    measures = tuple(HandMeasure(a, b, calliper_mm(known, a, b)) for a, b in HAND[:hands])
    head = solve_head(HeadInput(tuple(photos), measures))
    assert isinstance(head, HeadSolution)
    return head, photos


@cache
def _pixels(file: str):  # type: ignore[no-untyped-def]
    return read_photo(photo_bytes(file), file).rgb


def grounded(key: str, slots: Sequence[str]) -> FittedGround:
    """The dog measured and planned round from these photos, each traced by the machine."""
    head, photos = measured(key, slots)
    lines = {p.name: traced_edge(head, p, _pixels(p.name)) for p in photos if head.camera_of(p.name)}
    found = {name: line for name, line in lines.items() if not isinstance(line, NoEdge)}
    dry = {n: line for n, line in found.items() if "-dry-" in n}
    wet = {n: line for n, line in found.items() if "-wet-" in n}
    return fit_on(model_of(head, truth(key)["coat"], dry, (), wet=wet), ROUND)


def against_truth(key: str, ground: FittedGround) -> Against:
    known, skin, coat = truth(key), ground.ground.skin, ground.ground.coat
    at = np.array(known["skin"]["at_mm"])
    nearest = cKDTree(at).query(skin.vertices_mm)[1]
    apart = (skin.vertices_mm - at[nearest]) * np.array(known["skin"]["outward"])[nearest]
    coat_off = coat.depth_mm - np.array(known["skin"]["coat_depth_mm"])[nearest]
    return Against(skin, apart.sum(axis=1), skin.sigma_mm, coat_off, coat.sigma_mm, coat.read)


def coat_report() -> list[str]:
    """Skin and coat of every demo dog with photos, from dry photos alone and with wet ones."""
    lines = [
        COAT_BEGIN,
        "",
        "Marked by a steady hand, two hand measures, edges traced by the machine, no comb. Skin: the upper head "
        "(crown, back skull, visor, brow, stop, inner corner, temple, bridge). Coat read: silhouettes "
        "leave less than 0.6 of how unknown its outside was; elsewhere it is what dogs usually wear, with an "
        f"interval to match. Covers: by the told 95 % intervals. {len(DEMO_DOGS)} dogs are too few to call an interval "
        "calibrated.",
        "",
        "| dog | photos | skin, median off | covers | coat where read, median off | covers | coat elsewhere | covers |",
        "|-|-|-|-|-|-|-|-|",
    ]
    pooled: dict[str, list[tuple[Array, Array]]] = {"four dry": [], "four dry, three wet": []}
    for dog in DEMO_DOGS:
        for name, slots in (("four dry", ALL_SEVEN[:4]), ("four dry, three wet", ALL_SEVEN)):
            a = against_truth(dog.key, grounded(dog.key, slots))
            upper, planned = a.zones(UPPER), a.zones(SILHOUETTE)
            elsewhere = planned & ~a.read
            lines.append(
                f"| {truth(dog.key)['dog']} | {name} | {_told(a.skin_off, a.skin_sigma, upper)} "
                f"| {_told(a.coat_off, a.coat_sigma, a.read)} | {_told(a.coat_off, a.coat_sigma, elsewhere)} |"
            )
            pooled[name].append((a.skin_off[upper], a.coat_off[a.read]))
    told = "; ".join(
        f"{name}: skin {_middle(each, 0)}, coat {_middle(each, 1)}" for name, each in pooled.items()
    )
    return [*lines, "", f"All dogs' places together, median off: {told}.", ""]


def _middle(each: list[tuple[Array, Array]], which: int) -> str:
    return f"{np.median(np.abs(np.concatenate([off[which] for off in each]))):.1f} mm"


def _told(off: Array, sigma: Array, at: Array) -> str:
    covered = float((np.abs(off[at]) < NORMAL_95 * sigma[at]).mean())
    return f"{np.median(np.abs(off[at])):.1f} mm | {covered:.0%}"
