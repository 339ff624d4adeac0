"""Readings as they come in, each kept with what the tool expected before it: the only proof there is on real dogs."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any, Final

import numpy as np
from sqlalchemy.orm import Session

from dapwick.core.after.expected import Expectation, Kind
from dapwick.core.after.growth import expected_length
from dapwick.core.after.readings import combed_on
from dapwick.core.basics.marks import INDEX
from dapwick.core.cut.visit_minutes import NORMAL_80, expected_minutes
from dapwick.core.head.coat import COMB_SIGMA_MM, probe_readings
from dapwick.core.head.zones import ZONES
from dapwick.core.measures.measure import between
from dapwick.core.solve.joint import VERSION, HeadSolution
from dapwick.documents.edge import EdgeDocument
from dapwick.documents.marks import MarkDocument, marks_from
from dapwick.documents.readings import (
    CombDocument,
    FinishedComb,
    ReadingDocument,
    combs_from,
    finished_combs_from,
    readings_from,
)
from dapwick.pipeline.head_model import solved_head
from dapwick.records import queries
from dapwick.records.models import ExpectationRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.after.checking import Checking
from dapwick.service.after.factors import factors_in
from dapwick.service.after.growing import DAYS_A_WEEK, found_at, growth_of, left_at
from dapwick.service.concurrency.budget import heavy
from dapwick.service.cutting.cut import CutNow, Cutting
from dapwick.service.dogs.about import set_coat_probes, set_hand_measures
from dapwick.service.dogs.cards import DogCard
from dapwick.service.photos.edges import set_edge
from dapwick.service.photos.taking_in import marks_of, set_marks, slot_name
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.visits.day import SALON_CUTS
from dapwick.service.visits.head_input import head_input_of
from dapwick.vision.apart import apart_px
from dapwick.vision.chalk import Point

LEAST_MARKS: Final = 6
"""A photo with fewer marks has a camera that its next mark still decides."""
EDGE_TOLD_MM: Final = 1.0
"""How well an edge is promised to lie all round (σ)."""
SECONDS_A_MIN: Final = 60.0
LEAST_MIN: Final = 3.0


def read_bone(
    store: SalonStore,
    dog_id: int,
    measures: Sequence[ReadingDocument | dict[str, Any]],
    base: str | None = None,
) -> DogCard:
    """Keep calliper readings; of new ones, what was expected without them."""
    readings = readings_from(measures)
    expected = _bone_expected(store, dog_id, readings)
    there = {_pair(r): float(r.mm) for r in readings}
    return set_hand_measures(store, dog_id, readings, base, lambda v: _keep(v, "bone", expected, there))


def read_coat(
    store: SalonStore,
    planner: Planner,
    dog_id: int,
    probes: Sequence[CombDocument | dict[str, Any]],
    base: str | None = None,
) -> DogCard:
    """Keep comb depths; of new ones, what was expected without them."""
    combs = combs_from(probes)
    expected = _coat_expected(store, planner, dog_id, combs)
    there = {_comb(c): float(c.depth_mm) for c in combs}
    return set_coat_probes(store, dog_id, combs, base, lambda v: _keep(v, "coat", expected, there))


def read_finished(
    store: SalonStore,
    checks: Checking,
    dog_id: int,
    probes: Sequence[FinishedComb | dict[str, Any]],
    base: str | None = None,
) -> DogCard:
    """Keep comb depths of the finished head; of new ones, what the check told of them before. Once a place was taken
    in, what is read there is no answer to what was expected of it before."""
    combs = finished_combs_from(probes)
    expected = _left_expected(store, checks, dog_id, combs)

    def keep(visit: VisitRow) -> None:
        kept = [c for c in visit.combed_after if not c.taken_in]
        there = {_cut(c): float(c.depth_mm) for c in kept}
        _keep(visit, "left", [one for one in expected if one.what in there], there)

    return checks.comb(dog_id, combs, base, keep)


def read_marks(
    store: SalonStore,
    photo_id: int,
    marks: Mapping[str, MarkDocument | dict[str, Any]],
    base: str | None = None,
) -> tuple[int, str]:
    """Keep a photo's marks; of those that a hand placed where one was expected, how far off it was."""
    wanted = marks_from(marks)
    expected = _marks_expected(store, photo_id, wanted)
    return set_marks(store, photo_id, wanted, base, lambda v: _keep(v, "marks", expected))


def read_edge(
    store: SalonStore,
    photo_id: int,
    line: Sequence[Point],
    base: str | None = None,
    neck: Sequence[Point] | None = None,
) -> tuple[EdgeDocument, str]:
    """Keep an edge set by hand; of the machine's own before it, how far it lay off."""
    expected = _edge_expected(store, photo_id, line)
    return set_edge(store, photo_id, line, base, neck, lambda v: _keep(v, "edges", expected))


def end_cut(store: SalonStore, cutting: Cutting, dog_id: int, stopped_after: str | None = None) -> CutNow:
    """The cut is over; what it was expected to take was said before."""
    with store.reading() as session:
        expected = [] if stopped_after else _minutes_expected(session, queries.visit_today(session, dog_id))
    now = cutting.end(dog_id, stopped_after)
    with store.session() as session:
        _keep(queries.visit_today(session, dog_id), "minutes", expected)
    return now


def keep_outline(
    store: SalonStore, planner: Planner, dog_id: int, asked: Asked, base: str | None = None
) -> tuple[dict[str, Any], str]:
    """Keep an outline; lengths found with it are held against what was left last time and grew since."""
    kept = planner.save(dog_id, asked, base)
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        _keep(visit, "growth", _growth_expected(session, visit))
    return kept


def _keep(
    visit: VisitRow, kind: Kind, expected: Sequence[Expectation], there: Mapping[str, float] | None = None
) -> None:
    """Write down what was expected of readings that are new; those that were there keep what was expected first and
    get what was found last. there: every reading of the kind that is there now, found by what it is of, so that one
    that is gone is told as taken back; None where only those expected are known."""
    rows = {row.what: row for row in visit.expectations if row.kind == kind}
    found = {one.what: one.found for one in expected} if there is None else there
    for what, row in rows.items():
        row.taken_back = there is not None and what not in there
        row.found = found.get(what, row.found)
    visit.expectations += [
        ExpectationRow(
            kind=kind, what=one.what, expected=round(one.expected, 3), sigma=round(one.sigma, 3),
            found=round(one.found, 3), unit=one.unit, version=VERSION,
        )
        for one in expected
        if one.what not in rows
    ]  # fmt: skip


def _whats(visit: VisitRow, kind: Kind) -> set[str]:
    return {row.what for row in visit.expectations if row.kind == kind}


@heavy
def _bone_expected(store: SalonStore, dog_id: int, readings: Sequence[ReadingDocument]) -> list[Expectation]:
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        known = _whats(visit, "bone") | {_pair(r) for r in visit.hand_measures}
        new = [r for r in readings if _pair(r) not in known]
        given, factor = head_input_of(visit), factors_in(session).get("bone", 1.0)
    head = solved_head(given) if new else None
    if not isinstance(head, HeadSolution):
        return []
    found = []
    for one in new:
        mm, sigma = between(head, one.from_mark, one.to_mark)
        spread = math.hypot(factor * sigma, one.sigma_mm)
        found.append(Expectation("bone", _pair(one), mm, spread, float(one.mm), "mm"))
    return found


def _coat_expected(
    store: SalonStore, planner: Planner, dog_id: int, combs: Sequence[CombDocument]
) -> list[Expectation]:
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        known = _whats(visit, "coat") | {_comb(c) for c in visit.coat_probes}
        new = [c for c in combs if _comb(c) not in known]
        measured = bool(new) and isinstance(solved_head(head_input_of(visit)), HeadSolution)
        factor = factors_in(session).get("coat", 1.0)
    if not measured:
        return []
    ground = planner.head(dog_id).model.ground
    found = []
    for one in new:
        if one.zone not in ZONES:
            continue
        at = probe_readings(ground.skin, one.probe()).at
        mm = float(ground.coat.depth_mm[at].mean())
        sigma = math.hypot(factor * float(ground.coat.sigma_mm[at].mean()), COMB_SIGMA_MM)
        found.append(Expectation("coat", _comb(one), mm, sigma, float(one.depth_mm), "mm"))
    return found


def _left_expected(
    store: SalonStore, checks: Checking, dog_id: int, combs: Sequence[FinishedComb]
) -> list[Expectation]:
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        known = _whats(visit, "left") | {_cut(c) for c in visit.combed_after}
    new = [c for c in combs if _cut(c) not in known]
    found = checks.found(dog_id) if new else None
    told = []
    for one in new:
        zone = found.of(one.zone, one.side) if found and one.side else None
        if found and zone:
            read = combed_on(found.outline, [one.probe()])
            sigma = math.hypot(zone.hair_sigma, float(read.sigma[0]))
            depth = float(one.depth_mm)
            told.append(
                Expectation("left", _cut(one), depth - float(read.mm[0]) + zone.hair_mm, sigma, depth, "mm")
            )
    return told


@heavy
def _marks_expected(
    store: SalonStore, photo_id: int, wanted: Mapping[str, MarkDocument]
) -> list[Expectation]:
    with store.reading() as session:
        row = queries.photo(session, photo_id)
        before, known = dict(row.marks), _whats(row.visit, "marks")
        moved = {m: at for m, at in wanted.items() if m not in before or before[m].at != at.at}
        if row.state == "finished" or len(before) < LEAST_MARKS or not moved:
            return []
        given, name, mine = head_input_of(row.visit), slot_name(row), marks_of(row, dict(wanted))
    head = solved_head(given)
    camera = head.camera_of(name) if isinstance(head, HeadSolution) else None
    if camera is None or not isinstance(head, HeadSolution):
        return []
    expected_px, px_a_mm = camera.project(head.points_mm), camera.px_a_mm
    found = []
    for mark in moved:
        # A mark that was accepted where it was expected proves nothing.
        if mark in before or wanted[mark].expected:
            continue
        i, at = INDEX[mark], mine.marks[mark]
        off = (np.array([at.x_px, at.y_px]) - expected_px[i]) / px_a_mm
        if not np.isfinite(off).all():
            continue
        hand_px, hand_mm = at.spread(mark, mine.longer_side_px)
        bone = float(np.sqrt((head.sigma_mm[i] ** 2).mean()))
        sigma = math.hypot(bone, hand_mm, hand_px / px_a_mm)
        for axis, mm in zip(("across", "down"), off.tolist(), strict=True):
            what = f"{name}: {mark} {axis}"
            if what not in known:
                found.append(Expectation("marks", what, 0.0, sigma, mm, "mm"))
    return found


@heavy
def _edge_expected(store: SalonStore, photo_id: int, line: Sequence[Point]) -> list[Expectation]:
    """How far out the machine's own edge lay, all round, of the one that a hand has made of it."""
    with store.reading() as session:
        row = queries.photo(session, photo_id)
        if row.edge_by_hand or not row.coat_edge or row.state == "finished":
            return []
        given, name, machine = head_input_of(row.visit), slot_name(row), np.array(row.coat_edge, dtype=float)
    head = solved_head(given)
    camera = head.camera_of(name) if isinstance(head, HeadSolution) else None
    if camera is None:
        return []
    off = float(apart_px(np.array(line, dtype=float), machine).mean()) / camera.px_a_mm
    return [Expectation("edges", name, 0.0, EDGE_TOLD_MM, off, "mm")]


def _minutes_expected(session: Session, visit: VisitRow) -> list[Expectation]:
    cut = visit.cuts[-1] if visit.cuts else None
    took = sum(row.seconds or 0.0 for row in cut.steps) / SECONDS_A_MIN if cut else 0.0
    if cut is None or took < LEAST_MIN:
        return []
    by_visit = queries.cut_minutes_by_visit(session, visit.dog_id)
    own = [minutes for at, minutes in by_visit.items() if at < visit.id]
    told = expected_minutes(own, queries.latest_cut_minutes(session, SALON_CUTS), visit.dog.traits)
    factor = factors_in(session).get("minutes", 1.0)
    sigma = factor * (math.log(told.high) - math.log(told.low)) / (2 * NORMAL_80)
    return [Expectation("minutes", "the head", math.log(told.minutes), sigma, math.log(took), "log min")]


def _growth_expected(session: Session, visit: VisitRow) -> list[Expectation]:
    """Lengths found again at this visit, as the visits before let them be expected."""
    before = [v for v in visit.dog.visits if v.id < visit.id]
    if not before:
        return []
    last, left, found = before[-1], left_at(before[-1]), found_at(visit)
    growth = growth_of(visit.dog, last, factors_in(session).get("growth", 1.0)).growth
    weeks = (visit.created - last.created).days / DAYS_A_WEEK
    told = []
    for zone in sorted(left.keys() & found.keys()):
        mm, rate_sigma = expected_length(growth, left[zone][0], zone, weeks)
        sigma = math.hypot(rate_sigma, left[zone][1], found[zone][1])
        told.append(Expectation("growth", zone, mm, sigma, found[zone][0], "mm"))
    return told


def _pair(one: ReadingDocument) -> str:
    return "–".join(sorted((one.from_mark, one.to_mark)))


def _comb(one: CombDocument) -> str:
    return f"{one.zone} {one.side or 'both sides'}"


def _cut(one: FinishedComb) -> str:
    return _comb(one) if one.spot == "middle" else f"{_comb(one)}, {one.spot}"
