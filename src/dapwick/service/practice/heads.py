"""Made heads and the outlines on them, kept while they are practised on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.content_hash import hash_of
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.families import family
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import Outline, draw_outline, fit_family
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.lengths import ZoneLength, zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.core.practice.heads import MadeHead, made_head
from dapwick.core.practice.human_hand import hand_error, left_long
from dapwick.core.practice.long_side import PLACES
from dapwick.core.practice.suits import Offer
from dapwick.documents.practice import LongSideAsked, OfMadeHead
from dapwick.pipeline.lru_cache import LruCache

KEPT: Final = 12
STEADY: Final = 0.2
"""Share of a hand's error on a head whose long side is looked for: a machine's evenness would give the fault away."""
SHORTER: Final = Wishes(fullness=-0.6)
"""Outlines of such heads are cut well into the coat, so that a place can be left long."""


@dataclass(frozen=True)
class Fitted:
    outline: Outline
    zones: tuple[ZoneLength, ...]


class PracticeHeads:
    def __init__(self) -> None:
        self._heads: LruCache[MadeHead] = LruCache(KEPT)
        self._fits: LruCache[Fitted] = LruCache(4 * KEPT)

    def head(self, of: OfMadeHead) -> MadeHead:
        return self._heads.get_or_make(_key(of), lambda: made_head(of.seed, of.kind.wanted()))

    def fitted(self, of: OfMadeHead, key: str, wishes: Wishes) -> Fitted:
        """A family fitted on a made head."""

        def fit() -> Fitted:
            ground, chosen = self.head(of).ground, family(key)
            schools = settle_schools(chosen, {}, ground.coat_type)
            outline = draw_outline(ground, chosen, fit_family(ground, chosen, schools, wishes), {}, schools)
            return Fitted(outline, zone_lengths(outline))

        return self._fits.get_or_make(hash_of([_key(of), key, vars(wishes)]), fit)

    def offer(self, of: OfMadeHead, key: str, wishes: Wishes) -> Offer:
        fitted = self.fitted(of, key, wishes)
        return Offer(key, fitted.outline.family.name, verdict_of(fitted.outline, fitted.zones))

    def room_mm(self, of: OfMadeHead, key: str) -> Array:
        """How much longer (places,) each place of the long side may be left: no hair is there that did not grow."""
        outline = self.fitted(of, key, SHORTER).outline
        spare = outline.ground.coat.depth_mm - outline.leave_mm
        return np.array(
            [float(np.percentile(spare[outline.ground.skin.in_zone(*place)], 20)) for place in PLACES]
        )

    def left_long_mm(self, asked: LongSideAsked) -> Array:
        """Depth (V,) of the head of this question: cut with a steady hand, one place left long."""
        outline = self.fitted(asked.head, asked.family, SHORTER).outline
        skin = outline.ground.skin
        rng = np.random.default_rng([asked.head.seed, 4])
        off = hand_error(skin, rng, STEADY) + left_long(skin, asked.zone, asked.side, asked.mm)
        depth = np.minimum(outline.leave_mm + off, np.maximum(outline.ground.coat.depth_mm, outline.leave_mm))
        return np.asarray(np.where(outline.ground.bare, outline.leave_mm, np.maximum(depth, 0.3)))

    def middle_mm(self, asked: LongSideAsked) -> Array:
        """The middle (3,) of the place that is long, on the cut hair, head frame."""
        skin = self.head(asked.head).ground.skin
        at = skin.in_zone(asked.zone, asked.side)
        surface = skin.vertices_mm[at] + self.left_long_mm(asked)[at, None] * skin.outward[at]
        middle = surface.mean(axis=0)
        return np.asarray(surface[np.argmin(np.linalg.norm(surface - middle, axis=1))])

    def ears_mm(self, asked: LongSideAsked) -> Array:
        return np.concatenate(ears_cut(self.fitted(asked.head, asked.family, SHORTER).outline))


def _key(of: OfMadeHead) -> str:
    return hash_of([of.model_dump()])
