"""Plans as wire shapes."""

from __future__ import annotations

import numpy as np

from dapwick.api import outline_schemas as s
from dapwick.api.shapes import line
from dapwick.core.camera import Camera
from dapwick.core.outlines.family import FULLNESS, Family, Params
from dapwick.core.outlines.fit import Fit, Outline
from dapwick.service.head3d import STEP_MM, Mesh, packed_mm
from dapwick.service.planner import Planned
from dapwick.service.planning import FittedGround, PhotoLines, Plan
from dapwick.service.variants import Choice

UP, BACK = (0.0, 0.0, 1.0), (0.0, -1.0, 0.0)


def outline(planned: Planned) -> s.OutlineOut:
    plan, fitted, ids = planned.plan, planned.ground, planned.photo_ids
    drawn, family = plan.outline, fitted.family
    low, high = plan.verdict.weeks_range
    eyes = fitted.ground.face.eyes
    return s.OutlineOut(
        family=family.id,
        name=family.name,
        description=family.description,
        finish=family.finish,
        sizes=sizes(drawn),
        parameters=parameters(family, drawn.params, fitted.fit),
        schools=[
            s.SchoolOut(**{**vars(q), "choices": list(q.choices)}, chosen=drawn.schools[q.id])
            for q in family.schools
        ],
        zones=[s.ZoneOut.model_validate(vars(z)) for z in plan.zones],
        verdict=plan.verdict.when,
        weeks=plan.verdict.weeks,
        weeks_low=low,
        weeks_high=high,
        runs_out=plan.runs_out,
        reasons=list(plan.verdict.reasons),
        effects=[s.EffectOut(**vars(e)) for e in plan.verdict.effects],
        wishes=[s.ToldOut(**vars(w)) for w in plan.verdict.wishes],
        notes=list(fitted.study.notes),
        cautions=list(family.cautions),
        photos=[photo_lines(p, ids[p.photo], family) for p in plan.photos],
        sheet={view: {k: line(v) for k, v in lines.items()} for view, lines in plan.sheet.items()},
        eyes_mm=(float(eyes[0]), float(eyes[1]), float(eyes[2])),
        levels=[level(fitted, c, ids[p.name], p.view) for p, c in fitted.study.seen],
        depths=s.DepthsOut(
            leave=packed_mm(plan.depth_mm),
            short=packed_mm(drawn.short_mm),
            ears=packed_mm(np.concatenate(plan.ears_mm)),
        ),
        text=plan.text,
        version=drawn.version,
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
    words = {q.id: q.words for q in family.parameters} | {FULLNESS: family.size_words.capitalize()}
    return s.PhotoLinesOut(
        photo_id=photo_id,
        skin=line(p.skin),
        coat=line(p.coat),
        coat_on_head=line(p.coat_on_head),
        outline=line(p.outline),
        setting=[line(one) for one in p.setting],
        shortage=line(p.shortage),
        skin_band_px=round(p.skin_band_px, 2),
        handles=[
            s.HandleOut(parameter=h.parameter, words=words[h.parameter], at=h.at_px, px_a_unit=h.px_a_unit)
            for h in p.handles
        ],
    )


def level(fitted: FittedGround, camera: Camera, photo_id: int, view: str) -> s.LevelOut:
    eyes = fitted.ground.face.eyes
    here, higher = camera.project(np.stack([eyes, eyes + (BACK if view == "top" else UP)]))
    return s.LevelOut(
        photo_id=photo_id,
        at=(float(here[0]), float(here[1])),
        px_per_mm_up=(float(higher[0] - here[0]), float(higher[1] - here[1])),
    )


def thumb(planned: Planned, own: int | None) -> s.ThumbOut:
    plan: Plan = planned.plan
    low, high = plan.verdict.weeks_range
    family = planned.ground.family
    return s.ThumbOut(
        family=family.id,
        name=family.name,
        description=family.description,
        own=own,
        verdict=plan.verdict.when,
        weeks=plan.verdict.weeks,
        weeks_low=low,
        weeks_high=high,
        rank=round(plan.verdict.rank, 3),
        reasons=list(plan.verdict.reasons),
        views={view: {k: line(v) for k, v in lines.items()} for view, lines in plan.sheet.items()},
    )


def choice(one: Choice) -> s.ChoiceOut:
    return s.ChoiceOut(
        key=one.family.id, name=one.family.name, description=one.family.description, own=one.own
    )


def mesh(key: str, made: Mesh) -> s.MeshOut:
    return s.MeshOut(ground=key, step_mm=STEP_MM, **{**vars(made), "eyes_mm": list(made.eyes_mm)})
