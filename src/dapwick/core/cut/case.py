"""One dog, one outline, one stylist, today: everything the rules of the cut may look at."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Final

from dapwick.core.basics.head_kind import Carriage
from dapwick.core.cut.handling import GROWS_UP, KEEPS_GROWING, Closest, closest_on
from dapwick.core.cut.minutes import NOTHING_LEARNED, Learned
from dapwick.core.cut.pieces import OFF_MM, Piece, whole
from dapwick.core.head.zones import Side
from dapwick.core.outlines.wishes import NO_WISHES, Wishes
from dapwick.core.plan.kit import ANYBODY, USUAL_KIT, Kit, Stylist
from dapwick.core.plan.lengths import CLIPPED, SCISSORED, ZoneLength

SIDES: Final[tuple[Side, Side]] = ("left", "right")
FAR_BEYOND: Final = 2.0
"""A puppy's or a slow coat this many times as long as the plan is cut all the same."""
Place = tuple[str, Side]


@dataclass(frozen=True)
class Case:
    """zones: planned lengths by zone and side; pieces: each of them in the parts that steps work on; schools: every
    choice settled; carriage of the left and the right ear; ears_words, lines_words: how ears and setting lines are
    cut; muzzle_mm, leather_mm: lengths of the muzzle and of the shorter leather; neighbours: zones that touch;
    bone_words: what of the bone is uneven, by zone; measured: the measure behind a zone; steered: which wish moved a
    zone, "*" for all; quiet_visits: earlier visits on which the head was clipped and the skin stayed quiet; combed:
    places where a comb was read already."""

    family: str
    family_name: str
    coat: str
    schools: Mapping[str, str]
    zones: Mapping[Place, ZoneLength]
    pieces: Mapping[Place, tuple[Piece, ...]] = field(default_factory=dict)
    stylist: Stylist = ANYBODY
    kit: Kit = USUAL_KIT
    traits: tuple[str, ...] = ()
    wishes: Wishes = NO_WISHES
    carriage: tuple[Carriage, Carriage] = ("drop", "drop")
    ears_words: str = ""
    lines_words: str = ""
    muzzle_mm: float = 0.0
    leather_mm: float = 0.0
    neighbours: tuple[tuple[str, str], ...] = ()
    bone_words: Mapping[str, str] = field(default_factory=dict)
    measured: Mapping[str, str] = field(default_factory=dict)
    steered: Mapping[str, str] = field(default_factory=dict)
    quiet_visits: int = 0
    learned: Learned = NOTHING_LEARNED
    combed: frozenset[Place] = frozenset()

    @property
    def closest(self) -> Closest:
        return closest_on(self.traits, self.quiet_visits, self.kit.skin)

    @property
    def side_order(self) -> tuple[Side, Side]:
        first = self.stylist.first_side
        return (first, "left" if first == "right" else "right")

    def pieces_at(self, place: Place) -> tuple[Piece, ...]:
        """A zone of a side in its pieces; nothing where it is not planned."""
        if place not in self.zones:
            return ()
        return self.pieces.get(place) or (whole(self.zones[place]),)

    @property
    def every_piece(self) -> tuple[Piece, ...]:
        return tuple(piece for place in self.zones for piece in self.pieces_at(place))

    def stands_mm(self, place: Place) -> float:
        """Hair length that stands at a place after the cut: what the outline asks, or what is there where that is
        less; over its pieces."""
        pieces = self.pieces_at(place)
        return sum(min(p.leave_mm, p.now_mm) for p in pieces) / len(pieces)

    def planned(self, zone: str) -> tuple[ZoneLength, ...]:
        """A zone's lengths, both sides where it has them."""
        return tuple(self.zones[zone, side] for side in SIDES if (zone, side) in self.zones)

    def clipped(self, zone: str) -> bool:
        """Set by a blade rather than scissored to a surface."""
        return any(z.clipped and z.by == "clipper" for z in self.planned(zone))

    def blade_on(self, zone: str) -> bool:
        """A blade takes something off it, or off a part of it."""
        pieces = [piece for side in SIDES for piece in self.pieces_at((zone, side))]
        return any(piece.by == CLIPPED and piece.now_mm - piece.leave_mm >= OFF_MM for piece in pieces)

    def thinned(self, zone: str) -> bool:
        return any(z.clipped and z.by != "clipper" for z in self.planned(zone))

    def grows_up(self, piece: Piece) -> str | None:
        """Why hair is kept that would grow into the adult's shape and is not yet far beyond it: a puppy's, or a slow
        coat's; None where it may go."""
        if piece.zone not in GROWS_UP or piece.by != SCISSORED:
            return None
        if piece.remove_mm < OFF_MM or piece.now_mm > FAR_BEYOND * piece.leave_mm:
            return None
        return next((why for trait, why in KEEPS_GROWING.items() if trait in self.traits), None)

    def comes_off(self, zone: str, side: Side | None = None) -> bool:
        """Something worth cutting comes off there."""
        sides = SIDES if side is None else (side,)
        return any(p.remove_mm >= OFF_MM for one in sides for p in self.pieces_at((zone, one)))
