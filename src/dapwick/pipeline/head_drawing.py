"""The head drawn from its own numbers: front, side and top at one scale, and where a comb goes in."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.head.ears import Ear, ears_of
from dapwick.core.head.skin import Skin
from dapwick.core.head.zones import EAR_ZONES
from dapwick.core.plan.next_best import COMBED
from dapwick.core.solve.joint import HeadSolution
from dapwick.pipeline.aligned_views import SHEET_VIEWS, flat, marks_seen
from dapwick.vision.silhouette import silhouette

DRAWN_MM: Final = 2.0
"""A drawing of a dog, not a plan of one: the skull's line is pulled as stiff as that."""
COMBED_EARS: Final = ("ear_outside", "ear_edge")


@dataclass(frozen=True)
class ViewDrawing:
    """One view, mm, x right and y down: the skin's outer line, each ear's, marks with their σ, and places to
    comb."""

    skin: Array
    ears: Mapping[str, Array]
    marks: Mapping[str, tuple[float, float]]
    combs: Mapping[str, tuple[float, float]]


@dataclass(frozen=True)
class HeadDrawing:
    """Views by name; carriage by side; each mark's σ in mm."""

    views: Mapping[str, ViewDrawing]
    carriage: Mapping[str, str]
    sigma_mm: Mapping[str, float]


def drawing_of(head: HeadSolution, skin: Skin) -> HeadDrawing:
    ears = ears_of(head)
    return HeadDrawing(
        {view: _view(view, head, skin, ears) for view in SHEET_VIEWS},
        {ear.side: ear.carriage for ear in ears},
        {m: float(s.mean()) for m, s in zip(MARK_IDS, head.sigma_mm, strict=True)},
    )


def _view(view: str, head: HeadSolution, skin: Skin, ears: tuple[Ear, Ear]) -> ViewDrawing:
    marks = marks_seen(head.points_mm, view)
    return ViewDrawing(
        fair(silhouette(flat(skin.vertices_mm, view), skin.template.faces), DRAWN_MM),
        {ear.side: _flap(ear, view) for ear in ears},
        marks,
        _combs(view, skin, ears),
    )


def _flap(ear: Ear, view: str) -> Array:
    """A flap's outer line; a leaf is seen from both sides."""
    both = np.concatenate([ear.faces, ear.faces[:, ::-1]])
    return fair(silhouette(flat(ear.vertices_mm, view), both), FAIR_MM)


def _combs(view: str, skin: Skin, ears: tuple[Ear, Ear]) -> dict[str, tuple[float, float]]:
    """Where each zone is combed, on the dog's left (from the front both would do)."""
    places = {zone: skin.vertices_mm[skin.in_zone(zone, "left")].mean(axis=0) for zone in COMBED}
    flap = ears[0].vertices_mm.reshape(-1, 3)
    places |= {zone: flap[len(flap) // 2 if zone == "ear_outside" else -2] for zone in COMBED_EARS}
    assert set(places) <= {*COMBED, *EAR_ZONES}
    return {
        zone: _pair(at) for zone, at in zip(places, flat(np.stack(list(places.values())), view), strict=True)
    }


def _pair(at: Array) -> tuple[float, float]:
    return float(at[0]), float(at[1])
