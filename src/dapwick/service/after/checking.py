"""The check of the open visit's finished head: made when its photos are there, kept, and what was done about it."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final

import numpy as np
from PIL import Image
from sqlalchemy.orm import Session

from dapwick.core.after.check import NORMAL_90
from dapwick.core.after.deviations import VERSION, Deviations
from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.days import day_words
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import View, view_words
from dapwick.core.solve.observations import PhotoMarks
from dapwick.documents.check import CheckDocument, Done, TouchedUp
from dapwick.documents.document import plain
from dapwick.documents.readings import FinishedComb
from dapwick.exports.owner_page import Pair, owner_page
from dapwick.pipeline.before_after import beside
from dapwick.pipeline.check import COUNTED, CheckedHead, PhotoCheck, TakenPhoto, checked_head
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.lru_cache import LruCache
from dapwick.pipeline.review import guessed_photo
from dapwick.records import queries
from dapwick.records.models import Beside, PhotoRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.dogs.about import check_part
from dapwick.service.dogs.cards import DogCard, card_of, local_day
from dapwick.service.dogs.finished_combs import counting
from dapwick.service.photos.kept_review import guessed_marks
from dapwick.service.photos.taking_in import marks_of, screen_bytes, slot_name
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.day_style import day_style
from dapwick.vision.photo import Pixels, read_photo

KEPT: Final = 6
FINISHED: Final = "finished"
QUALITY: Final = 92
SIDES_SHOWN: Final[tuple[View, ...]] = ("front", "left", "right")


@dataclass(frozen=True)
class StepFor:
    """How the sheet did a place: what a touch-up there takes over."""

    number: int
    title: str
    tool: str
    direction: str
    hold: str
    cautions: tuple[str, ...]


@dataclass(frozen=True)
class SeenPhoto:
    """A finished photo in the check: its id, what it shows, whether it was looked at yet, and why it does not count."""

    id: int
    view: View
    looked: bool
    size: tuple[int, int]
    edge: list[list[float]]
    drawn: PhotoCheck | None
    why_not: str


@dataclass(frozen=True)
class CheckNow:
    """Where a visit's check stands: reason says what is missing while there is no check; waiting: photos that are
    being looked at. order: places ("cheek/left") as the sheet has them."""

    reason: str
    photos: tuple[SeenPhoto, ...]
    waiting: int = 0
    check: CheckDocument | None = None
    touched_up: Mapping[str, TouchedUp] = field(default_factory=dict)
    combed: tuple[FinishedComb, ...] = ()
    steps: Mapping[str, StepFor] = field(default_factory=dict)
    order: tuple[str, ...] = ()
    pictures: tuple[View, ...] = ()


@dataclass(frozen=True)
class _Asked:
    """What a check is made of, and the hash of it."""

    key: str
    outline: Asked
    taken: tuple[TakenPhoto, ...]
    combs: tuple[FinishedComb, ...]


class Checking:
    """Checks of open visits, kept while nothing they rest on changes. under_way: whether a photo is being looked at;
    without it every one that was not looked at yet is."""

    def __init__(
        self, store: SalonStore, planner: Planner, under_way: Callable[[int], bool] = lambda photo_id: True
    ) -> None:
        self.store, self.planner, self._under_way = store, planner, under_way
        self._made: LruCache[CheckedHead] = LruCache(KEPT)

    def now(self, dog_id: int) -> CheckNow:
        """The check as far as it can be made."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            rows = finished_of(visit)
            waiting = sum(row.looked is None and self._under_way(row.id) for row in rows)
            if not visit.outlines:
                return CheckNow("No outline was kept, so there is nothing to check against.", _unmade(rows))
            if not rows:
                return CheckNow("Photograph the finished head: front and both sides.", ())
            if waiting:
                # Made of some of them it would be made once more a moment later, at the cost of those.
                return CheckNow("Looking at the photos.", _unmade(rows), waiting)
            if not any(row.looked for row in rows):
                return CheckNow("No photo could be looked at. Take them once more.", _unmade(rows))
            sheet = visit.cuts[-1].sheet if visit.cuts else None
        made, document = self._kept(dog_id)
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            steps = _steps(sheet)
            order = sorted({_key(t.zone, t.side) for t in document.touch_ups}, key=lambda k: _turn(steps, k))
            return CheckNow(
                "" if made.found.zones else "No photo could be used yet.",
                _seen(finished_of(visit), made),
                check=document,
                touched_up=dict(visit.touched_up),
                combed=counting(visit),
                steps=steps,
                order=tuple(order),
                pictures=_shown(visit, made, self.planner.head(dog_id).model),
            )

    def touch_up(self, dog_id: int, done: Mapping[str, Done], base: str | None = None) -> DogCard:
        """Keep what was done about each place; the last word counts, and a place left out is open again."""
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            known = {_key(t.zone, t.side) for t in visit.checked.touch_ups} if visit.checked else set()
            strange = sorted(set(done) - known - set(visit.touched_up))
            if strange:
                raise BadInput(
                    "touch-up of another check", expected=", ".join(sorted(known)) or "none", got=strange[0],
                    where="check", remedy="Look at the check again.",
                )  # fmt: skip
            said = {place: _said(visit, place, state) for place, state in done.items()}
            check_part(visit.dog, "touched_up", [visit.id, {k: t.state for k, t in said.items()}], base)
            visit.touched_up = said
            return card_of(visit.dog)

    def comb(
        self,
        dog_id: int,
        combs: Sequence[FinishedComb],
        base: str | None = None,
        beside: Beside | None = None,
    ) -> DogCard:
        """Keep what a comb found on the finished head as it is, all of it; what it found before a place was taken in
        stays, and counts again once that is taken back. beside: what is written in the same change."""
        with self.store.session() as session:
            visit = queries.visit_today(session, dog_id)
            counted = counting(visit)
            before = [one for one in visit.combed_after if one not in counted]
            kept = before + [_when(visit, comb) for comb in combs]
            check_part(visit.dog, "combed_after", [visit.id, kept], base)
            visit.combed_after = kept
            if beside:
                beside(visit)
            return card_of(visit.dog)

    def found(self, dog_id: int) -> Deviations | None:
        """What the photos and combs that are there tell; None while there is no check."""
        return self._kept(dog_id)[0].found if self.now(dog_id).check else None

    @heavy
    def picture(self, dog_id: int, view: View) -> bytes:
        """Before and after of one view (JPEG), side by side at one scale and level."""
        pair = self._pair(dog_id, view)
        out = io.BytesIO()
        Image.fromarray(np.hstack(pair)).save(out, "JPEG", quality=QUALITY)
        return out.getvalue()

    @heavy
    def page(self, dog_id: int) -> bytes:
        """Every view that was photographed before and after on one page (PNG)."""
        shown = self.now(dog_id).pictures
        pairs: list[Pair] = [self._pair(dog_id, view) for view in shown]
        if not pairs:
            raise _no_pair("the front or a side")
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            name, day = visit.dog.name, local_day(visit.created)
        words = day_words(day, day_style(self.store), year=True)
        return owner_page(name, words, pairs, ("before", "after"))

    def _pair(self, dog_id: int, view: View) -> tuple[Pixels, Pixels]:
        made, _ = self._kept(dog_id)
        model = self.planner.head(dog_id).model
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            before = next((p for p in queries.photos_of(visit) if (p.view, p.state) == (view, "dry")), None)
            after = next((p for p in finished_of(visit) if p.view == view), None)
            if before is None or after is None or slot_name(after) not in made.cameras:
                raise _no_pair(f"the {view_words(view)}")
            names = slot_name(before), slot_name(after)
            files = [(p.content_hash, p.file_name) for p in (before, after)]
        camera = next((c for p, c in model.seen if p.name == names[0]), None)
        if camera is None:
            raise _no_pair(f"the {view_words(view)}")
        then, there = (read_photo(screen_bytes(self.store, *file), file[1]).rgb for file in files)
        return beside(model.ground.head, (camera, then), (made.cameras[names[1]].camera, there))

    def _kept(self, dog_id: int) -> tuple[CheckedHead, CheckDocument]:
        """The check of what is there, kept with its visit where it is a new one."""

        def compute() -> tuple[_Asked, CheckedHead]:
            asked = self._asked(dog_id)
            return asked, self._made.get_or_make(asked.key, lambda: self._checked(dog_id, asked))

        def write(session: Session, made: tuple[_Asked, CheckedHead]) -> tuple[CheckedHead, CheckDocument]:
            visit = queries.visit_today(session, dog_id)
            document = visit.checked
            if document is None or document.rests_on != made[0].key:
                document = visit.checked = CheckDocument.of(made[1].check, made[0].key)
            return made[1], document

        def holds(session: Session, made: tuple[_Asked, CheckedHead]) -> bool:
            visit = queries.visit_today(session, dog_id)
            return _told(_taken(visit), counting(visit)) == _told(made[0].taken, made[0].combs)

        return compute_then_write(self.store, compute, holds, write)

    @heavy
    def _checked(self, dog_id: int, asked: _Asked) -> CheckedHead:
        drawn = self.planner.drawn(dog_id, asked.outline)[1]
        return checked_head(drawn, asked.taken, [comb.probe() for comb in asked.combs])

    def _asked(self, dog_id: int) -> _Asked:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            saved = visit.outlines[-1]
            outline = Asked(saved.family, saved.params, saved.schools)
            taken, combs = _taken(visit), counting(visit)
        rests_on = [self.planner.inputs(dog_id), vars(outline), *_told(taken, combs), VERSION]
        return _Asked(hash_of(rests_on), outline, taken, combs)


def finished_of(visit: VisitRow) -> list[PhotoRow]:
    """The finished photos in their slots that a check can use."""
    return [row for row in queries.photos_of(visit) if row.state == FINISHED and row.view in COUNTED]


def _said(visit: VisitRow, place: str, state: Done) -> TouchedUp:
    """What was done at a place, with how long it had been found."""
    before = visit.touched_up.get(place)
    if before and before.state == state:
        return before
    photos = len(_every_finished(visit))
    found = (
        next((p for p in visit.checked.places if _key(p.zone, p.side) == place), None)
        if visit.checked
        else None
    )
    if found is None:
        return TouchedUp(state=state, photos=photos)
    sigma = (found.high - found.low) / (2 * NORMAL_90)
    return TouchedUp(state=state, photos=photos, off_mm=found.off_mm, sigma_mm=round(sigma, 2))


def _when(visit: VisitRow, comb: FinishedComb) -> FinishedComb:
    """The comb depth, and whether its place was taken in when it was read."""
    done = [p in visit.touched_up and visit.touched_up[p].state == "done" for p in comb.places]
    return comb.model_copy(update={"taken_in": all(done)})


def _every_finished(visit: VisitRow) -> list[PhotoRow]:
    """All that were ever taken, whatever became of them, the first first."""
    return sorted((row for row in visit.photos if row.state == FINISHED), key=lambda row: row.id)


def _taken(visit: VisitRow) -> tuple[TakenPhoto, ...]:
    """The photos that were looked at, each with the marks its camera is found from."""
    order = {row.id: i for i, row in enumerate(_every_finished(visit))}
    looks = sorted({one.photos for one in visit.touched_up.values() if one.state == "done"})
    return tuple(
        TakenPhoto(
            marks_for(row), np.array(row.coat_edge or [], dtype=float).reshape(-1, 2),
            sum(order[row.id] >= many for many in looks),
        )
        for row in finished_of(visit)
        if row.looked is not None
    )  # fmt: skip


def marks_for(row: PhotoRow) -> PhotoMarks:
    """A finished photo's marks: guessed, and where somebody placed one, as it was placed."""
    guessed = guessed_photo(
        slot_name(row), row.view, (row.width_px, row.height_px), row.focal_px, guessed_marks(row.looked)
    )
    placed = marks_of(row)
    return PhotoMarks(
        placed.name, placed.view, placed.width_px, placed.height_px, {**guessed.marks, **placed.marks},
        placed.focal_px, card=placed.card,
    )  # fmt: skip


def _told(taken: Sequence[TakenPhoto], combs: Sequence[FinishedComb]) -> list[Any]:
    """What photos and combs tell, as plain values."""
    return [[_told_by(one) for one in taken], plain(combs)]


def _told_by(taken: TakenPhoto) -> list[Any]:
    marks = {m: [at.x_px, at.y_px, at.sigma_px] for m, at in sorted(taken.marks.marks.items())}
    return [taken.marks.name, marks, np.round(taken.edge, 1).tolist(), taken.taken]


def _unmade(rows: list[PhotoRow]) -> tuple[SeenPhoto, ...]:
    return tuple(_photo(row, None) for row in rows)


def _seen(rows: list[PhotoRow], made: CheckedHead) -> tuple[SeenPhoto, ...]:
    drawn = {one.name: one for one in made.photos}
    return tuple(_photo(row, drawn.get(slot_name(row))) for row in rows)


def _photo(row: PhotoRow, drawn: PhotoCheck | None) -> SeenPhoto:
    why_not = drawn.finding.message if drawn and drawn.finding else ""
    return SeenPhoto(
        row.id,
        row.view,
        row.looked is not None,
        (row.width_px, row.height_px),
        row.coat_edge or [],
        drawn,
        why_not,
    )


def _shown(visit: VisitRow, made: CheckedHead, model: HeadModel) -> tuple[View, ...]:
    """The views that were photographed before and after, each with a camera."""
    before = {photo.view for photo, _ in model.seen if photo.name.endswith("dry")}
    after = {row.view for row in finished_of(visit) if slot_name(row) in made.cameras}
    return tuple(view for view in SIDES_SHOWN if view in before & after)


def _steps(sheet: dict[str, Any] | None) -> dict[str, StepFor]:
    """The step that brought each place to length, by its key."""
    found: dict[str, StepFor] = {}
    for step in sheet["steps"] if sheet else []:
        for cut in step.get("cuts", []):
            found[_key(cut["zone"], cut["side"])] = StepFor(
                step["number"], step["title"], step["tool"], step["direction"], step["hold"],
                tuple(c["words"] for c in step["cautions"]),
            )  # fmt: skip
    return found


def _turn(steps: Mapping[str, StepFor], place: str) -> tuple[int, str]:
    step = steps.get(place)
    return (step.number if step else 10_000, place)


def _key(zone: str, side: str) -> str:
    return f"{zone}/{side}"


def _no_pair(view: str) -> BadInput:
    return BadInput(
        f"no before and after from {view}", expected="a dry and a finished photo of one view, both with their marks",
        got="one of them, or none", where="the picture", remedy="Add the finished photo on Check.",
    )  # fmt: skip
