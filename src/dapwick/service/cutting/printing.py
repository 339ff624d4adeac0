"""What goes to paper for a visit: the cut sheet, and the kept outline at true scale."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import INDEX
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.plan.finished import surface
from dapwick.exports.calendar import Appointment
from dapwick.exports.cut_sheet import cut_sheet_pdf
from dapwick.exports.template import Template
from dapwick.exports.template import template_pdf as pdf_of
from dapwick.exports.template import template_svg as svg_of
from dapwick.pipeline.aligned_views import flat, sheet_lines
from dapwick.pipeline.plan import Plan
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.cutting.cut import Cutting
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.visits.bookings import Booking, booking_of, bookings

VIEWS: Final = ("front", "left")
CALENDAR_BACK_DAYS: Final = 7
TRUE_SCALE_PX: Final = 1200
"""At true scale a step of the traced line is to be finer than a pencil's."""
LAID_BY: Final = {
    "front": {
        "eye_outer_left": "eye corner", "eye_outer_right": "eye corner", "nose_tip": "nose",
        "ear_front_left": "ear, front", "ear_front_right": "ear, front",
    },
    "left": {"eye_outer_left": "eye corner", "nose_tip": "nose", "ear_front_left": "ear, front", "occiput": "occiput"},
}  # fmt: skip
"""Marks by which a template is laid on the dog."""


def sheet_pdf(cutting: Cutting, dog_id: int, paper: str) -> bytes:
    """The cut sheet on paper, as table mode has it."""
    now = cutting.now(dog_id)
    if now.sheet is None:
        raise BadInput(
            "no cut sheet yet",
            expected="an outline that was kept",
            got="none",
            where="cut",
            remedy=now.reason,
        )
    return cut_sheet_pdf(now.sheet, paper)


def template_pdf(store: SalonStore, planner: Planner, dog_id: int, paper: str) -> bytes:
    """The kept outline's front and side at true scale."""
    return pdf_of(templates_of(*_kept_plan(store, planner, dog_id)), paper)


def template_svg(store: SalonStore, planner: Planner, dog_id: int, view: str) -> str:
    """One of them as SVG in mm."""
    return svg_of(next(t for t in templates_of(*_kept_plan(store, planner, dog_id)) if t.view == view))


def templates_of(dog: str, plan: Plan) -> tuple[Template, ...]:
    """A plan's front and side with the marks to lay them by."""
    points = plan.outline.ground.head.points_mm
    finished = surface(plan.outline, plan.outline.leave_mm)
    sheet = sheet_lines(plan.outline, finished, ears_cut(plan.outline), TRUE_SCALE_PX)
    found = []
    for view in VIEWS:
        at = flat(points, view)
        marks = [
            (words, (float(at[INDEX[mark]][0]), float(at[INDEX[mark]][1])))
            for mark, words in LAID_BY[view].items()
        ]
        lines = {name: line.tolist() for name, line in sheet[view].items()}
        found.append(Template(dog, plan.verdict.called, view, lines, marks))
    return tuple(found)


def appointments(store: SalonStore) -> list[Appointment]:
    """The book from a week ago on, as a calendar wants it."""
    first = (date.today() - timedelta(days=CALENDAR_BACK_DAYS)).isoformat()
    return [_appointment(b) for b in bookings(store, first, "9999-12-31")]


def appointment(store: SalonStore, booking_id: int) -> Appointment:
    """One time of the book."""
    with store.reading() as session:
        return _appointment(booking_of(queries.booking(session, booking_id)))


def _appointment(b: Booking) -> Appointment:
    return Appointment(b.uid, b.dog, b.day, b.starts, b.minutes, b.words)


def _kept_plan(store: SalonStore, planner: Planner, dog_id: int) -> tuple[str, Plan]:
    with store.reading() as session:
        visit = queries.visit_today(session, dog_id)
        name = visit.dog.name
        if not visit.outlines:
            raise BadInput(
                "nothing to print yet", expected="an outline that was kept", got="none", where="outline",
                remedy="Choose an outline and keep it.",
            )  # fmt: skip
        saved = visit.outlines[-1]
        asked = Asked(saved.family, saved.params, saved.schools)
    return name, planner.plan(dog_id, asked).plan
