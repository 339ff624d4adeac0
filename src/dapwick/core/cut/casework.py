"""From a planned outline to the case that the rules of the cut are put to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Final

import numpy as np

from dapwick.core.cut.case import SIDES, Case
from dapwick.core.cut.minutes import NOTHING_LEARNED, Learned
from dapwick.core.cut.pieces import pieces_on
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.measures.measure import measures_of
from dapwick.core.measures.unevenness import telling, unevenness_of
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import Wishes, steering_words
from dapwick.core.plan.kit import ANYBODY, USUAL_KIT, Kit, Stylist
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.readiness import readiness_of

MEASURE_BEHIND: Final[Mapping[str, str]] = {
    "crown": "crown_height",
    "back_skull": "skull_length",
    "visor": "eye_span_outer",
    "brow": "eye_span_outer",
    "stop": "stop_depth",
    "temple": "skull_width",
    "bridge": "muzzle_length",
    "muzzle_side": "lip_width",
    "chin": "muzzle_depth",
    "cheek": "skull_width",
    "jaw": "jaw_depth",
    "throat": "muzzle_length",
    "ear_outside": "ear_length_left",
    "ear_edge": "ear_length_left",
}
"""The measure that decides most about a zone's length."""
ZONES_OF_PAIR: Final[Mapping[str, tuple[str, ...]]] = {
    "cheek": ("cheek", "temple"),
    "jaw_angle": ("jaw", "throat"),
    "eye_outer": ("brow", "visor", "temple"),
    "eye_inner": ("inner_corner",),
    "mouth_corner": ("muzzle_side", "chin"),
    "ear_front": ("ear_base_front", "temple"),
    "ear_back": ("ear_base_rear", "back_skull"),
    "ear_tip": ("ear_outside", "ear_edge"),
}
"""Which zones an uneven pair of marks lies under."""
WISHED: Final[Mapping[str, str]] = {
    "open": "eyes to be seen",
    "veiled": "eyes veiled",
    "short": "short",
    "long": "long",
    "keep": "left",
}


def case_of(
    outline: Outline,
    zones: Sequence[ZoneLength],
    stylist: Stylist = ANYBODY,
    kit: Kit = USUAL_KIT,
    traits: tuple[str, ...] = (),
    quiet_visits: int = 0,
    learned: Learned = NOTHING_LEARNED,
    probes: Sequence[CoatProbe] = (),
) -> Case:
    """A planned outline with who cuts it, what with, and what the dog is like. probes: the combs that were read."""
    ground = outline.ground
    return Case(
        family=outline.family.shape_id,
        family_name=readiness_of(outline, zones).called,
        coat=ground.coat_type,
        schools=outline.schools,
        zones={(z.zone, z.side): z for z in zones},
        pieces=pieces_on(outline, zones),
        stylist=stylist,
        kit=kit,
        traits=traits,
        wishes=outline.fit.wishes,
        carriage=ground.face.carriage,
        ears_words=outline.design.ears.words,
        lines_words=", ".join(dict.fromkeys(line.words for line in outline.design.lines))
        or "the outline's own line",
        muzzle_mm=ground.face.muzzle_length,
        leather_mm=min(ground.face.leather_mm(side) for side in SIDES),
        neighbours=neighbours(outline),
        bone_words=_bone_words(outline),
        measured=_measured(outline),
        steered=_steered(outline, ground.coat_type),
        quiet_visits=quiet_visits,
        learned=learned,
        combed=frozenset((p.zone, side) for p in probes for side in SIDES if p.side in (None, side)),
    )


def neighbours(outline: Outline) -> tuple[tuple[str, str], ...]:
    """Planned zones that touch on the skin, each pair once."""
    template = outline.ground.skin.template
    edges = np.concatenate([template.faces[:, [0, 1]], template.faces[:, [1, 2]], template.faces[:, [2, 0]]])
    pairs = np.unique(np.sort(template.zone[edges], axis=1), axis=0).tolist()
    return tuple((ZONES[a], ZONES[b]) for a, b in pairs if a != b and BARE not in (ZONES[a], ZONES[b]))


def _bone_words(outline: Outline) -> dict[str, str]:
    found: dict[str, str] = {}
    for uneven in telling(unevenness_of(outline.ground.head)):
        for zone in ZONES_OF_PAIR.get(uneven.pair, ()):
            found.setdefault(zone, uneven.words)
    return found


def _measured(outline: Outline) -> dict[str, str]:
    by_id = {m.id: m for m in measures_of(outline.ground.head)}
    found = {}
    for zone, key in MEASURE_BEHIND.items():
        measure = by_id.get(key)
        if measure is not None:
            around = (measure.high - measure.low) / 2
            found[zone] = (
                f"{measure.words[0].upper()}{measure.words[1:]} {measure.value:.0f} mm (±{around:.0f})."
            )
    return found


def _steered(outline: Outline, coat_type: str) -> dict[str, str]:
    """Which of the owner's wishes moved which zone."""
    wishes: Wishes = outline.fit.wishes
    found = {}
    for parameter in outline.family.turned:
        wish = getattr(wishes, parameter.steer) if parameter.steer else "any"
        if wish != "any" and parameter.grip is not None:
            found[parameter.grip.zone] = f"Owner: {parameter.steer} {WISHED[wish]}."
    if wishes.fullness:
        found["*"] = f"Owner: {'fuller' if wishes.fullness > 0 else 'shorter'} all round."
    for words in steering_words(wishes, coat_type):
        found["*"] = f"{found['*']} {words}" if "*" in found else words
    return found
