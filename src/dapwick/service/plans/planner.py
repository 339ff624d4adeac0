"""Plans of the open visit, redrawn as sliders move."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Final

import numpy as np
from sqlalchemy.orm import Session

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.outlines.description import holds_today
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import Family, settle_schools
from dapwick.core.outlines.fit import VERSION as FIT_VERSION
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.nearest import nearest_to
from dapwick.core.plan.kit import Kit
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.solve.joint import VERSION as SOLVE_VERSION
from dapwick.documents.results import ZoneDocument
from dapwick.exports.surface_file import surface_file
from dapwick.pipeline.lru_cache import LruCache
from dapwick.pipeline.plan import (
    FittedGround,
    MovingPlan,
    Plan,
    Thumb,
    drawn_on,
    fit_on,
    moving_plan_on,
    plan_on,
    thumb_on,
)
from dapwick.pipeline.surfaces import PLACES, finished_surface
from dapwick.records import queries
from dapwick.records.models import OutlineRow
from dapwick.records.store import SalonStore
from dapwick.service.after.factors import factors_of
from dapwick.service.concurrency.budget import heavy, heavy_beside
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.dogs.about import check_part
from dapwick.service.dogs.cards import kept_setting_of, saved_card, versions_of
from dapwick.service.plans.remembered import remembered
from dapwick.service.plans.variants import family_of
from dapwick.service.salon.kit import kit_of
from dapwick.service.visits.head import VisitHead, VisitHeads
from dapwick.service.visits.provenance import geometry_hash, provenance_of

KEPT_FITS: Final = 80
KEPT_PLANS: Final = 24


@dataclass(frozen=True)
class Asked:
    """One setting to draw: family's key, what was turned, schools chosen."""

    family: str
    params: Mapping[str, float] = field(default_factory=dict)
    schools: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Planned:
    """A plan, the ground it stands on, and the head that was fitted. wider: the salon's own factor on what is told of
    coat."""

    plan: Plan
    ground: FittedGround
    head: VisitHead
    wider: float = 1.0


@dataclass(frozen=True)
class Moving:
    """A plan on its way, as Planned is one at rest."""

    plan: MovingPlan
    ground: FittedGround
    head: VisitHead


@dataclass(frozen=True)
class _Fitted:
    """A family fitted to a head. key: the hash of all that the fit rests on; wider: the salon's own factor on what is
    told of coat."""

    head: VisitHead
    ground: FittedGround
    key: str
    kit: Kit
    wider: float


class Planner:
    """Keeps the last few heads and fits, so that dragging a slider only redraws."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self.heads = VisitHeads(store)
        self._fits: LruCache[FittedGround] = LruCache(KEPT_FITS)
        self._latest: LruCache[_Fitted] = LruCache(KEPT_PLANS)
        self._plans: LruCache[Plan] = LruCache(KEPT_PLANS)
        self._thumbs: LruCache[Thumb] = LruCache(KEPT_FITS)

    @heavy
    def plan(self, dog_id: int, asked: Asked, weeks_ahead: float = 0.0) -> Planned:
        """The plan at this setting and what it rests on, shown as it will be some weeks after the cut."""
        on = self._fitted(dog_id, asked)
        whole = hash_of([on.key, dict(asked.params), weeks_ahead, repr(on.kit)])
        plan = self._plans.get_or_make(whole, lambda: plan_on(on.ground, asked.params, weeks_ahead, on.kit))
        return Planned(replace(plan, zones=_widened(plan.zones, on.wider)), on.ground, on.head, on.wider)

    @heavy
    def moving(self, dog_id: int, asked: Asked) -> Moving:
        """What changes of a plan while a slider is on its way."""
        on = self._fitted(dog_id, asked)
        plan = moving_plan_on(on.ground, asked.params, on.kit)
        return Moving(replace(plan, zones=_widened(plan.zones, on.wider)), on.ground, on.head)

    def _fitted(self, dog_id: int, asked: Asked) -> _Fitted:
        """As long as nothing is written, a slider on its way does not ask the records again."""
        mark = f"{self.store.moment()} {dog_id} {asked.family} {sorted(asked.schools.items())}"
        known = self._latest.get(mark)
        if known is None:
            return self._latest.put(mark, self._fitted_now(dog_id, asked))
        known.ground.family.checked(asked.params)
        return known

    def _fitted_now(self, dog_id: int, asked: Asked) -> _Fitted:
        chosen = family_of(self.store, asked.family)
        # Refused before anything is traced or kept.
        chosen.checked(asked.params)
        settle_schools(chosen, asked.schools)
        head = self.heads.head(dog_id)
        with self.store.reading() as session:
            usual = remembered(session, dog_id, chosen)
            kit = kit_of(session)[0]
        settled = settle_schools(chosen, {**usual, **asked.schools}, head.model.ground.coat_type)
        defaults = [p.default for p in chosen.parameters]
        key = hash_of([head.key, asked.family, settled, vars(head.wishes), defaults])
        ground = self._fits.get_or_make(key, lambda: fit_on(head.model, chosen, settled, head.wishes))
        return _Fitted(head, ground, key, kit, factors_of(self.store).get("coat", 1.0))

    @heavy_beside
    def thumb(self, dog_id: int, key: str) -> tuple[Thumb, Family]:
        """An outline as it is fitted, with its verdict and aligned views; nothing is drawn over photos."""
        on = self._fitted(dog_id, Asked(key))
        return self._thumbs.get_or_make(on.key, lambda: thumb_on(on.ground)), on.ground.family

    @heavy
    def instead(self, dog_id: int, asked: Asked) -> Family | None:
        """The family that comes nearest to one as it is set and holds its own description on this coat today."""
        wanted = drawn_on(self._fitted(dog_id, asked).ground, asked.params)
        others = (
            drawn_on(self._fitted(dog_id, Asked(key)).ground, {}) for key in FAMILIES if key != asked.family
        )
        nearest = nearest_to(wanted, (one for one in others if holds_today(one)))
        return nearest.family if nearest else None

    @heavy
    def drawn(self, dog_id: int, asked: Asked) -> tuple[VisitHead, Outline]:
        """The outline at this setting on its head, nothing told of it."""
        on = self._fitted(dog_id, asked)
        return on.head, drawn_on(on.ground, asked.params)

    @heavy
    def surface(self, dog_id: int, asked: Asked, ending: str) -> bytes:
        """The finished head as a surface file."""
        made = finished_surface(drawn_on(self._fitted(dog_id, asked).ground, asked.params))
        return surface_file(made.vertices_mm, made.faces, made.sigma_mm, made.zone, PLACES, ending)

    def inputs(self, dog_id: int) -> str:
        """The hash of what the open visit's plans rest on, wishes among it."""
        key, _, wishes = self.heads.rests_on(dog_id)
        return hash_of([key, vars(wishes)])

    @heavy
    def head(self, dog_id: int) -> VisitHead:
        """The open visit's head."""
        return self.heads.head(dog_id)

    def save(self, dog_id: int, asked: Asked, base: str | None = None) -> tuple[dict[str, Any], str]:
        """Keep this plan with the visit; returns it with its version. base: the version of what was kept before, as
        it was seen. A plan is kept with what it was made from: where that has changed meanwhile, it is made anew."""

        def holds(session: Session, planned: Planned) -> bool:
            visit = queries.visit_today(session, dog_id)
            return (
                geometry_hash(provenance_of(visit)) == planned.head.key
                and visit.wishes.wishes() == planned.head.wishes
            )

        def write(session: Session, planned: Planned) -> tuple[dict[str, Any], str]:
            visit = queries.visit_today(session, dog_id)
            row = _kept_row(asked, planned, provenance_of(visit))
            check_part(visit.dog, "outline", [visit.id, kept_setting_of(row)], base)
            visit.outlines.append(row)
            session.flush()
            return saved_card(row), versions_of(visit)["outline"]

        return compute_then_write(self.store, lambda: self.plan(dog_id, asked), holds, write)


def _widened(zones: tuple[ZoneLength, ...], factor: float) -> tuple[ZoneLength, ...]:
    return zones if factor == 1.0 else tuple(zone.wider(factor) for zone in zones)


def _kept_row(asked: Asked, planned: Planned, inputs: dict[str, str]) -> OutlineRow:
    plan = planned.plan
    return OutlineRow(
        family=asked.family,
        params=dict(plan.outline.params),
        schools=dict(plan.outline.schools),
        inputs_hash=planned.head.key,
        rests_on=inputs,
        lines=kept_lines(plan),
        zones=[_zone_document(z) for z in plan.zones],
        version=f"{SOLVE_VERSION} {FIT_VERSION}",
    )


def _zone_document(z: ZoneLength) -> ZoneDocument:
    return ZoneDocument.model_validate(
        {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()}
    )


def kept_lines(plan: Plan) -> dict[str, list[list[float]]]:
    """A plan's finished outline in the aligned views, mm, as it is kept with the visit."""
    return {view: np.round(lines["outline"], 1).tolist() for view, lines in plan.sheet.items()}
