"""Plans as wire shapes."""

from __future__ import annotations

from typing import Any

import numpy as np

from dapwick.api import outline_schemas as s
from dapwick.api.shapes import line
from dapwick.core.basics.camera import Camera
from dapwick.core.outlines.family import FULLNESS, Family, Params, asked_of
from dapwick.core.outlines.fit import Fit, Outline
from dapwick.core.plan.readiness import Readiness
from dapwick.pipeline.mesh import STEP_MM, Mesh, packed_mm
from dapwick.pipeline.overlays import MovingLines, PhotoLines
from dapwick.pipeline.plan import FittedGround, MovingPlan, Plan, Thumb
from dapwick.service.plans.planner import Moving, Planned
from dapwick.service.plans.variants import Choice

UP, BACK = (0.0, 0.0, 1.0), (0.0, -1.0, 0.0)


def outline(planned: Planned) -> s.OutlineOut:
    plan, fitted, ids = planned.plan, planned.ground, planned.head.photo_ids
    drawn, family = plan.outline, fitted.family
    eyes = fitted.ground.face.eyes
    return s.OutlineOut(
        **readiness(plan.verdict),
        family=family.id,
        name=family.name,
        description=family.description,
        finish=family.finish,
        sizes=sizes(drawn),
        parameters=parameters(family, drawn.params, fitted.fit),
        schools=[
            s.SchoolOut.model_validate({**vars(q), "chosen": drawn.schools[q.id]})
            for q in asked_of(family, drawn.schools)
        ],
        zones=zones(plan),
        runs_out=plan.runs_out,
        effects=[s.EffectOut(**vars(e)) for e in plan.verdict.effects],
        wishes=[s.ToldOut(**vars(w)) for w in plan.verdict.wishes],
        notes=[*fitted.model.notes, *widened(planned.wider)],
        cautions=list(family.cautions),
        photos=[photo_lines(p, ids[p.photo], family) for p in plan.photos],
        sheet={view: {k: line(v) for k, v in lines.items()} for view, lines in plan.sheet.items()},
        eyes_mm=(float(eyes[0]), float(eyes[1]), float(eyes[2])),
        levels=[level(fitted, c, ids[p.name], p.view) for p, c in fitted.model.seen],
        depths=depths(plan),
        text=plan.text,
        version=drawn.version,
    )


def widened(factor: float) -> list[str]:
    """Said wherever the salon's own factor is at work."""
    if factor == 1.0:
        return []
    return [f"Coat is told {factor:g} times wider, by this salon’s own readings (How far off)."]


def moving(made: Moving) -> s.MovingOutlineOut:
    plan, fitted, ids = made.plan, made.ground, made.head.photo_ids
    return s.MovingOutlineOut(
        **readiness(plan.readiness),
        family=fitted.family.id,
        sizes=sizes(plan.outline),
        parameters=parameters(fitted.family, plan.outline.params, fitted.fit),
        zones=zones(plan),
        photos=[s.MovingLinesOut(**lines_that_move(p, ids[p.photo], fitted.family)) for p in plan.photos],
        depths=depths(plan),
    )


def readiness(ready: Readiness) -> dict[str, Any]:
    """The fields of ReadinessOut."""
    low, high = ready.weeks_range
    reasons = list(ready.reasons)
    return {
        "verdict": ready.when,
        "called": ready.called,
        "broken": list(ready.broken),
        "weeks": ready.weeks,
        "weeks_low": low,
        "weeks_high": high,
        "reasons": reasons,
        "comb_first": list(ready.comb_first),
    }


def zones(plan: Plan | MovingPlan) -> list[s.ZoneOut]:
    return [s.ZoneOut.model_validate(vars(z)) for z in plan.zones]


def depths(plan: Plan | MovingPlan) -> s.DepthsOut:
    return s.DepthsOut(
        leave=packed_mm(plan.depth_mm),
        short=packed_mm(plan.short_mm),
        ears=packed_mm(np.concatenate(plan.ears_mm)),
    )


def sizes(drawn: Outline) -> s.SizesOut:
    return s.SizesOut(
        words=drawn.family.size_words,
        now=drawn.size_mm,
        smallest=drawn.sizes.smallest,
        fitted=drawn.sizes.fitted,
        largest=drawn.sizes.largest,
    )


def parameters(family: Family, params: Params, fit: Fit) -> list[s.ParameterOut]:
    return [
        s.ParameterOut(
            id=p.id,
            words=p.words,
            unit=p.unit,
            low=p.low,
            high=p.high,
            value=params[p.id],
            fitted=fit.params[p.id],
            words_low=p.words_low,
            words_high=p.words_high,
        )
        for p in family.parameters
    ]


def photo_lines(p: PhotoLines, photo_id: int, family: Family) -> s.PhotoLinesOut:
    return s.PhotoLinesOut(
        **lines_that_move(p, photo_id, family),
        skin=line(p.skin),
        coat=line(p.coat),
        coat_on_head=line(p.coat_on_head),
        setting=[line(one) for one in p.setting],
    )


def lines_that_move(p: MovingLines, photo_id: int, family: Family) -> dict[str, Any]:
    """The fields of MovingLinesOut."""
    words = {q.id: q.words for q in family.parameters} | {FULLNESS: family.size_words.capitalize()}
    handles = [
        s.HandleOut(parameter=h.parameter, words=words[h.parameter], at=h.at_px, px_a_unit=h.px_a_unit)
        for h in p.handles
    ]
    return {
        "photo_id": photo_id,
        "outline": line(p.outline),
        "shortage": line(p.shortage),
        "skin_band_px": round(p.skin_band_px, 2),
        "handles": handles,
    }


def level(fitted: FittedGround, camera: Camera, photo_id: int, view: str) -> s.LevelOut:
    eyes = fitted.ground.face.eyes
    here, higher = camera.project(np.stack([eyes, eyes + (BACK if view == "top" else UP)]))
    return s.LevelOut(
        photo_id=photo_id,
        at=(float(here[0]), float(here[1])),
        px_per_mm_up=(float(higher[0] - here[0]), float(higher[1] - here[1])),
    )


def thumb(made: Thumb, family: Family, own: int | None) -> s.ThumbOut:
    return s.ThumbOut(
        **readiness(made.verdict),
        family=family.id,
        name=family.name,
        description=family.description,
        own=own,
        rank=round(made.verdict.rank, 3),
        views={view: {k: line(v) for k, v in lines.items()} for view, lines in made.sheet.items()},
    )


def choice(one: Choice) -> s.ChoiceOut:
    return s.ChoiceOut(
        key=one.family.id, name=one.family.name, description=one.family.description, own=one.own
    )


def mesh(key: str, made: Mesh) -> s.MeshOut:
    told = {
        **vars(made),
        "eyes_mm": list(made.eyes_mm),
        "lips_mm": [list(line) for line in made.lips_mm],
        "neck": s.NeckOut(**vars(made.neck)),
    }
    return s.MeshOut(ground=key, step_mm=STEP_MM, **told)
