"""From a head to a planned outline with all that is told of it: at rest, while a slider moves, and small."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from dapwick.core.basics.arrays import Array
from dapwick.core.outlines.description import GLANCED_AT
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.family import Family, settle_schools
from dapwick.core.outlines.fit import Fit, Outline, draw_outline, fit_family
from dapwick.core.outlines.ground import Ground
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.outlines.wishes import NO_WISHES, Wishes
from dapwick.core.plan.finished import grown, surface
from dapwick.core.plan.kit import USUAL_KIT, Kit
from dapwick.core.plan.lengths import ZoneLength, planned_groups, told_short_mm, zone_lengths
from dapwick.core.plan.readiness import Readiness, readiness_of
from dapwick.core.plan.verdict import Verdict, verdict_of
from dapwick.pipeline.aligned_views import sheet_lines
from dapwick.pipeline.alt_text import in_words
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.overlays import MovingLines, PhotoLines, moving_lines, photo_lines


@dataclass(frozen=True)
class Plan:
    """An outline at rest on this head with all that is told of it. runs_out: chance that somewhere the hair is not
    there; short_mm (V,): depth told as missing. depth_mm (V,) and ears_mm: what is shown, grown if asked; sheet: lines
    (N, 2) mm by view and name; text: the drawing in words."""

    outline: Outline
    zones: tuple[ZoneLength, ...]
    verdict: Verdict
    runs_out: float
    short_mm: Array
    depth_mm: Array
    ears_mm: tuple[Array, Array]
    photos: tuple[PhotoLines, ...]
    sheet: Mapping[str, Mapping[str, Array]]
    text: str


@dataclass(frozen=True)
class MovingPlan:
    """What changes while a slider is on its way: everything else stands as it was at rest."""

    outline: Outline
    zones: tuple[ZoneLength, ...]
    readiness: Readiness
    short_mm: Array
    depth_mm: Array
    ears_mm: tuple[Array, Array]
    photos: tuple[MovingLines, ...]


@dataclass(frozen=True)
class Thumb:
    """An outline as fitted, small: its verdict and the aligned views, mm."""

    outline: Outline
    zones: tuple[ZoneLength, ...]
    verdict: Verdict
    sheet: Mapping[str, Mapping[str, Array]]


@dataclass(frozen=True)
class FittedGround:
    """A head with one family fitted on it."""

    model: HeadModel
    family: Family
    schools: Mapping[str, str]
    fit: Fit

    @property
    def ground(self) -> Ground:
        return self.model.ground


def fit_on(
    model: HeadModel, chosen: Family, schools: Mapping[str, str] | None = None, wishes: Wishes = NO_WISHES
) -> FittedGround:
    """The family's own choice on a head; schools not named are the family's usual ones."""
    settled = settle_schools(chosen, schools or {}, model.ground.coat_type)
    return FittedGround(model, chosen, settled, fit_family(model.ground, chosen, settled, wishes))


def drawn_on(fitted: FittedGround, params: Mapping[str, float]) -> Outline:
    return draw_outline(fitted.ground, fitted.family, fitted.fit, params, fitted.schools)


def plan_on(
    fitted: FittedGround, params: Mapping[str, float], weeks_ahead: float = 0.0, kit: Kit = USUAL_KIT
) -> Plan:
    """Everything shown for one setting of the sliders, as it will be some weeks after the cut."""
    outline = drawn_on(fitted, params)
    draws = posterior_samples(outline)
    zones = zone_lengths(outline, draws, kit)
    depth, ears = grown(outline, weeks_ahead)
    finished = surface(outline, depth)
    verdict, short = verdict_of(outline, zones), told_short_mm(outline, zones)
    return Plan(
        outline,
        zones,
        verdict,
        draws.chance_out(planned_groups(outline)),
        short,
        depth,
        ears,
        photo_lines(fitted.model, outline, finished, ears, short),
        sheet_lines(outline, finished, ears),
        in_words(outline, zones, verdict),
    )


def moving_plan_on(fitted: FittedGround, params: Mapping[str, float], kit: Kit = USUAL_KIT) -> MovingPlan:
    """What changes with a setting, quickly: no draws, no aligned sheet, nothing that stands still."""
    outline = drawn_on(fitted, params)
    zones = zone_lengths(outline, None, kit)
    depth, ears = outline.leave_mm, ears_cut(outline)
    short = told_short_mm(outline, zones)
    lines = moving_lines(fitted.model, outline, surface(outline, depth), ears, short)
    return MovingPlan(outline, zones, readiness_of(outline, zones, GLANCED_AT), short, depth, ears, lines)


def thumb_on(fitted: FittedGround) -> Thumb:
    """The outline as fitted, small."""
    outline = drawn_on(fitted, {})
    zones = zone_lengths(outline)
    sheet = sheet_lines(outline, surface(outline, outline.leave_mm), ears_cut(outline))
    return Thumb(outline, zones, verdict_of(outline, zones), sheet)
