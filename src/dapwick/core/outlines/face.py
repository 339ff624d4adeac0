"""What a family's rule reads from a head: its marks by name, and the places between them that rules use."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.head_kind import Carriage
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.ears import carriage_of

SIDES: Final = ("left", "right")
ACROSS, AHEAD, UP = 0, 1, 2


@dataclass(frozen=True)
class Face:
    """Marks (marks, 3) mm, head frame (x to the dog's right, y forward, z up), and the coat's type."""

    points_mm: Array
    coat_type: str

    def at(self, mark: str) -> Array:
        """Where a mark lies (3,) mm, head frame."""
        return np.asarray(self.points_mm[INDEX[mark]])

    def middle(self, pair: str) -> Array:
        """Midway between the two marks of a pair (3,)."""
        return np.asarray((self.at(f"{pair}_left") + self.at(f"{pair}_right")) / 2)

    def half(self, pair: str) -> float:
        """Half the distance between the two marks of a pair."""
        return float(np.linalg.norm(self.at(f"{pair}_left") - self.at(f"{pair}_right"))) / 2

    def ahead(self, mark: str) -> float:
        return float(self.at(mark)[AHEAD])

    def up(self, mark: str) -> float:
        return float(self.at(mark)[UP])

    @cached_property
    def eyes(self) -> Array:
        """Midway between the outer eye corners (3,)."""
        return self.middle("eye_outer")

    @cached_property
    def eye_level(self) -> float:
        return float(self.eyes[UP])

    @cached_property
    def half_width(self) -> float:
        """Half the skull's width at the cheek bones."""
        return self.half("cheek")

    @cached_property
    def crown_height(self) -> float:
        """The crown's skin over the eyes."""
        return self.up("crown") - self.eye_level

    def leather_mm(self, side: str) -> float:
        """Length of one ear's leather, from the middle of its base to its tip."""
        base = (self.at(f"ear_front_{side}") + self.at(f"ear_back_{side}")) / 2
        return float(np.linalg.norm(self.at(f"ear_tip_{side}") - base))

    @cached_property
    def muzzle_length(self) -> float:
        return float(np.linalg.norm(self.at("stop") - self.at("nose_tip")))

    @cached_property
    def bridge_slope(self) -> float:
        """How much the bridge falls towards the nose, as a ratio (fall / run)."""
        run = self.ahead("nose_top") - self.ahead("stop")
        return (self.up("stop") - self.up("nose_top")) / max(run, 5.0)

    @cached_property
    def lip_level(self) -> float:
        return float(self.middle("mouth_corner")[UP])

    @cached_property
    def carriage(self) -> tuple[Carriage, Carriage]:
        """How the left and the right ear are carried."""
        left, right = (
            carriage_of((self.at(f"ear_front_{s}") + self.at(f"ear_back_{s}")) / 2, self.at(f"ear_tip_{s}"))
            for s in SIDES
        )
        return left, right

    @property
    def ears_hang(self) -> bool:
        return any(c in ("drop", "button") for c in self.carriage)
