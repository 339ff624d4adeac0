"""Words for proportions: where a measure counts as short, medium or long.

The bands are rules of thumb that a salon may move. Where a measure's 95 % interval crosses a band's edge,
both words are told ("medium to long").
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.measures.measure import Measure


@dataclass(frozen=True)
class Band:
    """edges part a measure's range, rising; words (one more than edges) name the parts, noun what they are
    said of. why: the rule of thumb behind it."""

    measure: str
    noun: str
    words: tuple[str, ...]
    edges: tuple[float, ...]
    why: str

    def part_of(self, value: float) -> int:
        return sum(value >= edge for edge in self.edges)


@dataclass(frozen=True)
class Proportion:
    """One proportion in words. sure: the whole interval lies in one band."""

    measure: str
    words: str
    sure: bool


BANDS: Final = (
    Band("muzzle_ratio", "muzzle", ("short", "medium", "long"), (0.5, 0.8), "Muzzle against skull."),
    Band("skull_index", "skull", ("narrow", "medium", "broad"), (0.75, 0.95), "Width against length."),
    Band(
        "eye_set_ratio",
        "eyes",
        ("close-set", "medium-set", "wide-set"),
        (0.68, 0.82),
        "Outer corners against the skull's width.",
    ),
    Band(
        "ear_set_ratio",
        "ears",
        ("low", "medium-high", "high"),
        (0.5, 0.75),
        "Front of the base against the crown, over the eye line.",
    ),
    Band(
        "stop_angle", "stop", ("deep", "medium", "slight"), (135.0, 155.0), "The angle from crown to bridge."
    ),
    Band("dome_ratio", "top", ("flat", "medium", "domed"), (0.28, 0.42), "How far the crown stands up."),
    Band("plane_angle", "planes", ("parallel", "diverging"), (12.0,), "Skull line against the bridge."),
)


def moved(bands: Sequence[Band], edges: Mapping[str, Sequence[float]]) -> tuple[Band, ...]:
    """The bands with some edges moved, by measure; a salon's own."""
    known = {band.measure: band for band in bands}
    for measure, given in edges.items():
        band = known.get(measure)
        if band is None:
            raise BadInput("unknown band", expected=", ".join(known), got=measure, where="bands")
        if len(given) != len(band.edges) or list(given) != sorted(set(given)):
            raise BadInput(
                f"edges of {measure}",
                expected=f"{len(band.edges)} rising number{'s' if len(band.edges) > 1 else ''}",
                got=", ".join(f"{edge:g}" for edge in given) or "none",
                where="bands",
            )
        known[measure] = replace(band, edges=tuple(float(edge) for edge in given))
    return tuple(known.values())


def proportions(measures: Sequence[Measure], bands: Sequence[Band] = BANDS) -> tuple[Proportion, ...]:
    """Each band's words for the measures it names."""
    by_id = {m.id: m for m in measures}
    return tuple(_proportion(by_id[band.measure], band) for band in bands if band.measure in by_id)


def _proportion(measure: Measure, band: Band) -> Proportion:
    low, high = band.part_of(measure.low), band.part_of(measure.high)
    said = band.words[low] if low == high else f"{band.words[low]} to {band.words[high]}"
    return Proportion(measure.id, f"{said} {band.noun}", low == high)
