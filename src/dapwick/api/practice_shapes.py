"""Practice as wire shapes."""

from __future__ import annotations

import base64
from typing import Any

import numpy as np

from dapwick.api import outline_shapes
from dapwick.api import practice_schemas as p
from dapwick.api.outline_schemas import DepthsOut
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import RULE_OF, words_for
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.families import family
from dapwick.core.practice import eye, long_side, suits, whole_plan
from dapwick.core.practice.next_drill import NAMES, Drill
from dapwick.core.practice.progress import Progress
from dapwick.documents.practice import (
    BoneAsked,
    EyeAsked,
    LongSideAsked,
    OfMadeHead,
    PlanAsked,
    SuitsAsked,
)
from dapwick.pipeline.mesh import packed_mm
from dapwick.pipeline.practice import places_of
from dapwick.pipeline.practice import shown as seen
from dapwick.service.practice.answering import Shown
from dapwick.service.practice.asking import Question
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.practice.photographed import photographed


def task(question: Question, heads: PracticeHeads) -> p.TaskOut:
    """A question with all that is shown for it, and nothing of its answer."""
    number, of = question.of_session
    about = {
        "id": question.id,
        "drill": question.drill,
        "name": NAMES[question.drill],
        "number": number,
        "of": of,
    }
    return p.TaskOut.model_validate(about | _asked(question, heads))


def _asked(question: Question, heads: PracticeHeads) -> dict[str, Any]:
    asked = question.asked
    if isinstance(asked, BoneAsked):
        return _bone(asked, heads)
    if isinstance(asked, EyeAsked):
        return {
            "scene": _scene(asked.head, heads),
            "measure": _measure(asked.measure),
            "sure": list(eye.SURE),
        }
    if isinstance(asked, LongSideAsked):
        cut = _depths(heads.left_long_mm(asked), heads.ears_mm(asked))
        ground = heads.head(asked.head).ground
        places = [
            p.PlaceOut(zone=zone, side=side, words=f"{side} {zone_words(zone)}")
            for zone, side in long_side.PLACES
        ]
        of = places_of(ground, long_side.PLACES).astype(np.uint8)
        return {
            "scene": _scene(asked.head, heads, cut),
            "places": places,
            "place_of": base64.b64encode(of.tobytes()).decode(),
        }
    return _planned(asked, heads)


def _bone(asked: BoneAsked, heads: PracticeHeads) -> dict[str, Any]:
    marks = [
        p.MarkAskedOut(id=mark, words=words_for(mark), feel=RULE_OF[mark].feel, kind=RULE_OF[mark].kind)
        for mark in asked.marks
    ]
    found: dict[str, Any] = {"view": asked.view, "marks": marks}
    if asked.head is not None:
        return found | {"scene": _scene(asked.head, heads)}
    photo = photographed(asked.dog, asked.view)
    url = f"/api/practice/photos/{asked.dog}/{asked.view}"
    under = f"{url}?under=true" if photo.under else None
    return found | {
        "photo": p.PhotoToMarkOut(
            dog=photo.name, url=url, under=under, width_px=photo.width_px, height_px=photo.height_px
        )
    }


def _planned(asked: SuitsAsked | PlanAsked, heads: PracticeHeads) -> dict[str, Any]:
    found: dict[str, Any] = {
        "scene": _scene(asked.head, heads),
        "wish": suits.WISHES[asked.wish].words,
        "coat": asked.head.kind.coat_type,
        "families": [_family(key) for key in asked.families],
    }
    if isinstance(asked, SuitsAsked):
        return found | {"reasons": [p.ChoiceOfOut(id=k, words=w) for k, w in suits.REASONS.items()]}
    now = heads.head(asked.head).now_mm
    return found | {
        "weeks": asked.weeks,
        "zones": [
            p.ZoneNowOut(zone=zone, words=zone_words(zone), now_mm=round(now(zone)))
            for zone in whole_plan.ASKED
        ],
        "tools": [p.ChoiceOfOut(id=k, words=w) for k, w in whole_plan.WAYS.items()],
    }


def _measure(key: str) -> p.MeasureAskedOut:
    rule = eye.RULE_BY_ID[key]
    least, most = eye.RANGE[key]
    return p.MeasureAskedOut(id=key, question=eye.QUESTIONS[key][0], unit=rule.unit, least=least, most=most)


def _family(key: str) -> p.FamilyOfferedOut:
    chosen = family(key)
    return p.FamilyOfferedOut(id=chosen.id, name=chosen.name, description=chosen.description)


def _scene(of: OfMadeHead, heads: PracticeHeads, cut: DepthsOut | None = None) -> p.SceneOut:
    made = heads.head(of)
    head = seen(made)
    nothing = np.zeros(len(made.ground.coat.depth_mm))
    key = f"made-{of.seed}"
    return p.SceneOut(
        mesh=outline_shapes.mesh(key, head.mesh), bare=_depths(nothing, head.bare_ears_mm), cut=cut
    )


def _depths(leave_mm: Array, ears_mm: Array) -> DepthsOut:
    return DepthsOut(
        leave=packed_mm(leave_mm), short=packed_mm(np.zeros(len(leave_mm))), ears=packed_mm(ears_mm)
    )


def shown(told: Shown, drill: Drill, now: Progress, session_over: bool) -> p.ShownOut:
    own = next(one for one in now.drills if one.drill == drill)
    cut = (
        None
        if told.cut is None
        else p.LaterOut(
            cut=_depths(told.cut.depth_mm, told.cut.ears_mm),
            later=_depths(told.cut.later_mm, told.cut.later_ears_mm),
        )
    )
    return p.ShownOut(
        told=told.told,
        marks_mm=told.marks_mm,
        marks_px=told.marks_px,
        lines=list(told.lines),
        right=list(told.right),
        lengths_mm=told.lengths_mm,
        cut=cut,
        progress=p.DrillProgressOut.model_validate(own, from_attributes=True),
        next=now.next,
        why=now.why,
        session_over=session_over,
    )
