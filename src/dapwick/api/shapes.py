"""Service results as wire shapes."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from dapwick.api import schemas as s
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import MARK_IDS, RULE_OF, SPANS, VIEWS, guided_order, words_for
from dapwick.core.measures.bands import BANDS, Band
from dapwick.core.measures.unevenness import telling
from dapwick.core.plan.next_best import COMBED, Next, words_of
from dapwick.core.solve.joint import HeadSolution
from dapwick.documents.document import plain
from dapwick.documents.readings import ReadingDocument
from dapwick.pipeline.camera_guide import Guidance
from dapwick.pipeline.head_drawing import COMBED_EARS, HeadDrawing
from dapwick.service.dogs.cards import DogCard, PhotoCard
from dapwick.service.jobs import Job
from dapwick.service.photos.phone import TAKEN_IN_ORDER
from dapwick.service.visits.measuring import Measured

JobOf = Callable[[int], Job | None]


def no_job(_photo_id: int) -> None:
    return None


def dog(card: DogCard, job_of: JobOf = no_job) -> s.DogOut:
    saved = card.saved_outline
    return s.DogOut(
        id=card.id,
        name=card.name,
        breed=card.breed,
        coat=card.coat,
        born=card.born,
        muzzle=card.muzzle,  # type: ignore[arg-type]
        ears=card.ears,  # type: ignore[arg-type]
        visits=[s.VisitOut.model_validate(v, from_attributes=True) for v in card.visits],
        note=card.note,
        next_note=card.next_note,
        owner_words=card.owner_words,
        photos=[photo(p, job_of) for p in card.photos],
        spares=[photo(p, job_of) for p in card.spares],
        views_wanted={state: list(views) for state, views in TAKEN_IN_ORDER.items()},
        hand_measures=[hand_measure(m) for m in card.hand_measures],
        coat_probes=[s.ProbeIO.model_validate(plain(p)) for p in card.coat_probes],
        wishes=s.WishesIO.model_validate(plain(card.wishes)),
        traits=list(card.traits),
        stylist=card.stylist,
        stages=card.stages,  # type: ignore[arg-type]
        stale=card.stale,
        removed=card.removed,
        versions=card.versions,
        from_last=list(card.from_last),
        saved_outline=s.SavedOutlineOut.model_validate(saved) if saved else None,
    )


def photo(card: PhotoCard, job_of: JobOf = no_job) -> s.PhotoOut:
    job = job_of(card.id)
    return s.PhotoOut.model_validate(
        {
            **vars(card),
            "marks": plain(card.marks),
            "findings": [{"code": f.code, "message": f.message, "view": f.view} for f in card.findings],
            "job": vars(job) if job else None,
        }
    )


def guidance(guide: Guidance) -> s.GuidanceOut:
    return s.GuidanceOut.model_validate(guide, from_attributes=True)


def hand_measure(kept: ReadingDocument) -> s.HandMeasureIO:
    return s.HandMeasureIO(from_mark=kept.from_mark, to_mark=kept.to_mark, mm=kept.mm, sigma_mm=kept.sigma_mm)


def guide() -> s.MarkGuide:
    rules = [
        s.MarkRuleOut(id=m, words=words_for(m), feel=RULE_OF[m].feel, kind=RULE_OF[m].kind) for m in MARK_IDS
    ]
    spans = [s.SpanOut.model_validate(span, from_attributes=True) for span in SPANS]
    order = {str(view): list(guided_order(view)) for view in VIEWS}
    return s.MarkGuide(rules=rules, order=order, spans=spans, combed=[*COMBED, *COMBED_EARS])


def band(one: Band) -> s.BandOut:
    usual = next(b.edges for b in BANDS if b.measure == one.measure)
    return s.BandOut(**{**vars(one), "words": list(one.words), "edges": list(one.edges)}, usual=list(usual))


def asked(found: Sequence[Next]) -> list[s.NextOut]:
    return [
        s.NextOut(**{k: v for k, v in vars(n).items() if k != "words"}, sentence=words)
        for n, words in zip(found, words_of(found), strict=True)
    ]


def head_drawing(drawn: HeadDrawing) -> s.HeadDrawingOut:
    views = {
        name: s.ViewDrawingOut(
            skin=line(v.skin),
            ears={side: line(flap) for side, flap in v.ears.items()},
            marks={m: _tenths(at) for m, at in v.marks.items()},
            combs={z: _tenths(at) for z, at in v.combs.items()},
        )
        for name, v in drawn.views.items()
    }
    sigma = {m: round(mm, 2) for m, mm in drawn.sigma_mm.items()}
    return s.HeadDrawingOut(views=views, carriage=dict(drawn.carriage), sigma_mm=sigma)  # type: ignore[arg-type]


def _tenths(at: tuple[float, float]) -> tuple[float, float]:
    return round(at[0], 1), round(at[1], 1)


def measured(result: Measured) -> s.MeasuredOut:
    head = result.head
    findings = [
        s.FindingOut(
            code=f.code,
            message=_sentence(f.message),
            photo=f.photo,
            mark=f.mark,
            photo_id=result.photo_ids.get(f.photo or ""),
        )
        for f in head.findings
    ]
    cameras = []
    if isinstance(head, HeadSolution):
        for camera, taken in zip(head.cameras, head.photos, strict=True):
            yaw, pitch, roll = camera.angles_deg(taken.view)
            cameras.append(
                s.CameraOut(
                    photo_id=result.photo_ids[taken.name],
                    distance_mm=camera.distance_mm,
                    yaw_deg=yaw,
                    pitch_deg=pitch,
                    roll_deg=roll,
                    focal_px=camera.focal_px,
                )
            )
    ghosts = {
        pid: [s.GhostOut.model_validate({**vars(g), "at": (g.x_px, g.y_px)}) for g in of]
        for pid, of in result.ghosts.items()
    }
    return s.MeasuredOut(
        solved=isinstance(head, HeadSolution),
        known_visits=head.inputs.bone.visits if head.inputs.bone else 0,
        proportions=[s.ProportionOut.model_validate(p, from_attributes=True) for p in result.proportions],
        uneven=[s.UnevennessOut.model_validate(u, from_attributes=True) for u in telling(result.unevenness)],
        unevenness=[s.UnevennessOut.model_validate(u, from_attributes=True) for u in result.unevenness],
        findings=findings,
        ghosts=ghosts,
        cameras=cameras,
        wider=result.wider,
        measures=[s.MeasureOut.model_validate(m, from_attributes=True) for m in result.measures],
    )


def _sentence(message: str) -> str:
    return message[:1].upper() + message[1:]


def line(points: Array) -> s.Line:
    """Points (N, 2) to tenths; those without a picture are left out."""
    whole = points[np.isfinite(points).all(axis=1)]
    rounded: s.Line = np.round(whole, 1).tolist()
    return rounded
