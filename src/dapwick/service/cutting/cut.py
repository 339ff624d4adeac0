"""The cut: a sheet for the outline that was kept, the step at the table, what was really done."""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from datetime import datetime
from typing import Any, Final

from sqlalchemy.orm import Session

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.handling import checked_traits, quiet_visits
from dapwick.core.cut.minutes import Learned, Timed, learn
from dapwick.core.cut.sheet import VERSION, cut_sheet
from dapwick.core.head.coat import CoatProbe
from dapwick.core.plan.kit import Kit, Stylist
from dapwick.documents.kit import KitDocument
from dapwick.pipeline.cut_steps import drawn
from dapwick.pipeline.lru_cache import LruCache
from dapwick.records import queries
from dapwick.records.models import CutRow, CutStepRow, VisitRow, now
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.concurrency.versions import version_of
from dapwick.service.cutting.sheet_document import drawn_document, sheet_document
from dapwick.service.dogs.about import check_part
from dapwick.service.dogs.cards import DogCard, card_of
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.kit import kit_of, stylist_named
from dapwick.service.visits.head_input import probes_of

STATES: Final = ("done", "skipped", "open")
REDNESS: Final = "redness"
NOTES: Final = {
    "minded": "minded it",
    REDNESS: "redness",
    "nick": "a nick",
    "matted": "matted",
    "left_longer": "left longer",
    "ran_out": "hair ran out",
    "tired": "had enough",
    "hot_blade": "blade hot",
}
"""Quick notes by chip."""
KEPT_SHEETS: Final = 12
LONGEST_STEP_S: Final = 4 * 3600.0


@dataclass(frozen=True)
class Entry:
    """What was done in one step. tool and length_mm only where they differ from the sheet."""

    step: str
    state: str
    seconds: float | None = None
    tool: str = ""
    length_mm: float | None = None
    notes: tuple[str, ...] = ()
    at: datetime | None = None


@dataclass(frozen=True)
class CutNow:
    """Where a visit's cut stands. sheet: None with the reason while there is none; stale: what it was made from
    has changed since it began; log by step id; id and version: of the cut that has begun."""

    sheet: dict[str, Any] | None
    reason: str
    stylist: str
    started: datetime | None = None
    ended: datetime | None = None
    stopped_after: str | None = None
    stale: bool = False
    log: dict[str, Entry] = field(default_factory=dict)
    id: int | None = None
    version: str | None = None


@dataclass(frozen=True)
class _Asked:
    """What a sheet is made of; key: the hash of all of it but the log."""

    key: str
    dog: str
    outline: Asked
    stylist: Stylist
    kit: Kit
    traits: tuple[str, ...]
    quiet_visits: int
    combs: tuple[CoatProbe, ...]


class Cutting:
    """Sheets of open visits, kept while nothing they rest on changes."""

    def __init__(self, store: SalonStore, planner: Planner) -> None:
        self.store, self.planner = store, planner
        self._sheets: LruCache[dict[str, Any]] = LruCache(KEPT_SHEETS)

    def now(self, dog_id: int) -> CutNow:
        """The cut that has begun, with its log; before that the sheet as it would be."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            stylist = _stylist(session, visit)[0].name
        if not visit_has_outline(self.store, dog_id):
            return CutNow(None, "No outline is kept yet. Choose one and keep it, then cut.", stylist)
        made = self._asked(dog_id)
        with self.store.reading() as session:
            begun = _begun(queries.visit_today(session, dog_id))
            if begun:
                return _as_begun(begun, made.key)
        return CutNow(self._sheet(dog_id, made), "", stylist)

    def start(self, dog_id: int, again: bool = False) -> CutNow:
        """Begin: the sheet stays as it is from now on. again: anew, from what is known now."""
        self._begin(dog_id, again)
        return self.now(dog_id)

    def _begin(self, dog_id: int, again: bool = False) -> None:
        with self.store.reading() as session:
            if _begun(queries.visit_today(session, dog_id)) and not again:
                return
        if not visit_has_outline(self.store, dog_id):
            raise BadInput(
                "nothing to cut yet", expected="an outline that was kept", got="none", where="cut",
                remedy="Choose an outline and keep it.",
            )  # fmt: skip

        def compute() -> tuple[str, dict[str, Any]]:
            made = self._asked(dog_id)
            return made.key, self._sheet(dog_id, made)

        def write(session: Session, made: tuple[str, dict[str, Any]]) -> None:
            key, sheet = made
            visit = queries.visit_today(session, dog_id)
            begun = _begun(visit)
            # Two tablets begin at once, or one asks twice: whoever comes second goes on with the first one's cut.
            if begun and (not again or begun.inputs_hash == key):
                return
            cut = CutRow(sheet=sheet, inputs_hash=key, stylist=sheet["stylist"]["name"])
            if begun:
                # Hair that is cut stays cut, whatever the new sheet says of the rest.
                cut.started = begun.started
                _carry(begun, cut)
            visit.cuts.append(cut)

        # A sheet is kept with what it was made from, or made anew.
        compute_then_write(self.store, compute, lambda _, made: self._asked(dog_id).key == made[0], write)

    def record(self, dog_id: int, entry: Entry, base: str | None = None) -> str:
        """Keep what was done in a step; the last word on a step counts. A cut that nobody began, begins. base: the
        version of the cut it was said of; returns that of the cut it was kept with. Raises BadInput where it was said
        of another one."""
        self._begin(dog_id)
        with self.store.session() as session:
            cut = _open_cut(queries.visit_today(session, dog_id))
            version = version_of(cut_id_of(cut), cut.visit.dog.uid)
            if base not in (None, version):
                raise BadInput(
                    f"a step of another cut of {cut.visit.dog.name}", expected="one of the cut that is under way",
                    got="one that was over before this was sent", where=entry.step,
                )  # fmt: skip
            step = _checked(cut, entry)
            row = next((r for r in cut.steps if r.step == entry.step), None)
            if entry.state == "open":
                if row:
                    cut.steps.remove(row)
                    session.delete(row)
                return version
            if row is None:
                row = CutStepRow(step=entry.step, rule=step["rule"], usual_min=step.get("usual_min", 0.0))
                cut.steps.append(row)
            row.state, row.seconds, row.tool = entry.state, entry.seconds, entry.tool
            row.length_mm, row.notes, row.at = entry.length_mm, list(entry.notes), entry.at or now()
            return version

    def end(self, dog_id: int, stopped_after: str | None = None) -> CutNow:
        """The dog goes home: at the end of the sheet, or early after a step."""
        self._begin(dog_id)
        with self.store.session() as session:
            cut = _open_cut(queries.visit_today(session, dog_id))
            if stopped_after is not None and stopped_after not in {s["id"] for s in cut.sheet["steps"]}:
                raise NotFound("step", stopped_after)
            cut.ended, cut.stopped_after = now(), stopped_after
        return self.now(dog_id)

    def take_up(self, dog_id: int) -> CutNow:
        """Go on with a cut that was ended."""
        with self.store.session() as session:
            cut = _open_cut(queries.visit_today(session, dog_id))
            cut.ended, cut.stopped_after = None, None
        return self.now(dog_id)

    def _asked(self, dog_id: int) -> _Asked:
        """What the open visit's sheet is made of now."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            saved, dog = visit.outlines[-1], visit.dog.name
            outline = Asked(saved.family, saved.params, saved.schools)
            stylist, kit, others = _stylist(session, visit)
            traits, combs = checked_traits(visit.dog.traits), probes_of(visit)
            quiet = quiet_visits((_clipped(v), _red(v)) for v in visit.dog.visits if v.id < visit.id)
        rests_on = [
            self.planner.inputs(dog_id),
            # As sheets that were begun by earlier versions name an outline.
            vars(outline) | {"moving": False, "weeks_ahead": 0.0},
            KitDocument.of(kit, others),
            asdict(stylist),
            list(traits),
            quiet,
            VERSION,
        ]
        return _Asked(hash_of(rests_on), dog, outline, stylist, kit, traits, quiet, combs)

    def _sheet(self, dog_id: int, asked: _Asked) -> dict[str, Any]:
        # The log grows with every step: it moves minutes, never what is cut, so it makes no sheet stale.
        with self.store.reading() as session:
            learned = _learned(session, asked.stylist.name)
        timed = hash_of([asked.key, learned.pace, dict(learned.by_rule)])
        return self._sheets.get(timed) or self._sheets.put(timed, self._made(dog_id, asked, learned))

    @heavy
    def _made(self, dog_id: int, asked: _Asked, learned: Learned) -> dict[str, Any]:
        plan = self.planner.plan(dog_id, asked.outline).plan
        case = case_of(
            plan.outline,
            plan.zones,
            asked.stylist,
            asked.kit,
            asked.traits,
            asked.quiet_visits,
            learned,
            asked.combs,
        )
        sheet = cut_sheet(case)
        document = sheet_document(sheet, asked.dog, plan.outline.family.finish)
        return drawn_document(document, drawn(plan.outline, sheet.steps))


def visit_has_outline(store: SalonStore, dog_id: int) -> bool:
    with store.reading() as session:
        return bool(queries.visit_today(session, dog_id).outlines)


def set_traits(store: SalonStore, dog_id: int, codes: list[str], base: str | None = None) -> DogCard:
    """What the dog minds and how it is; it comes back at the next visit."""
    with store.session() as session:
        row, traits = queries.dog(session, dog_id), list(checked_traits(codes))
        check_part(row, "traits", traits, base)
        row.traits = traits
        return card_of(row)


def set_stylist(store: SalonStore, dog_id: int, name: str, base: str | None = None) -> DogCard:
    """Who cuts this visit."""
    with store.session() as session:
        _, stylists = kit_of(session)
        if name not in {one.name for one in stylists}:
            raise BadInput(
                "unknown stylist", expected=", ".join(one.name for one in stylists) or "a stylist in the kit",
                got=name, where="stylist", remedy="Add them under Kit.",
            )  # fmt: skip
        visit = queries.visit_today(session, dog_id)
        check_part(visit.dog, "stylist", [visit.id, name], base)
        visit.stylist = name
        return card_of(visit.dog)


def cuts_now(session: Session, visit: VisitRow) -> str:
    """The name of whoever cuts a visit."""
    return _stylist(session, visit)[0].name


def _stylist(session: Session, visit: VisitRow) -> tuple[Stylist, Kit, tuple[Stylist, ...]]:
    """Who cuts: chosen for this visit, else whoever cut the last one, else the salon's first."""
    kit, stylists = kit_of(session)
    named = [v.stylist for v in visit.dog.visits if v.stylist and v.id <= visit.id]
    return stylist_named(stylists, named[-1] if named else ""), kit, stylists


def _begun(visit: VisitRow) -> CutRow | None:
    return visit.cuts[-1] if visit.cuts else None


def _carry(before: CutRow, cut: CutRow) -> None:
    """Give a new sheet what was done by the one before, as far as its steps stand on it."""
    known = {step["id"] for step in cut.sheet["steps"]}
    cut.steps = [row for row in before.steps if row.step in known]


def cut_id_of(cut: CutRow) -> list[Any]:
    """Which cut it is, whichever of its sheets is in use."""
    return [cut.visit_id, cut.started.isoformat()]


def _as_begun(cut: CutRow, key: str) -> CutNow:
    log = {row.step: _entry(row) for row in cut.steps}
    stale = cut.inputs_hash != key
    return CutNow(cut.sheet, "", cut.stylist, cut.started, cut.ended, cut.stopped_after, stale, log, cut.id,
                  version_of(cut_id_of(cut), cut.visit.dog.uid))  # fmt: skip


def _open_cut(visit: VisitRow) -> CutRow:
    cut = _begun(visit)
    if cut is None:
        raise NotFound("cut of", visit.dog.name)
    return cut


def _checked(cut: CutRow, entry: Entry) -> dict[str, Any]:
    """The step an entry speaks of; what cannot be is refused."""
    step: dict[str, Any] | None = next((s for s in cut.sheet["steps"] if s["id"] == entry.step), None)
    if step is None:
        raise NotFound("step", entry.step)
    if entry.state not in STATES:
        raise BadInput("state of a step", expected=", ".join(STATES), got=entry.state, where=entry.step)
    if entry.seconds is not None and not 0 <= entry.seconds <= LONGEST_STEP_S:
        raise BadInput(
            "seconds of a step",
            expected=f"0 to {LONGEST_STEP_S:.0f}",
            got=f"{entry.seconds:g}",
            where=entry.step,
        )
    unknown = sorted(set(entry.notes) - NOTES.keys())
    if unknown:
        raise BadInput("note", expected=", ".join(NOTES), got=unknown[0], where=entry.step)
    return step


def _entry(row: CutStepRow) -> Entry:
    return Entry(row.step, row.state, row.seconds, row.tool, row.length_mm, tuple(row.notes), row.at)


def _learned(session: Session, stylist: str) -> Learned:
    """What this stylist's log says of how long things take."""
    rows = queries.steps_done_by(session, stylist)
    return learn([Timed(rule, usual_min, seconds / 60.0) for rule, usual_min, seconds in rows])


def _clipped(visit: VisitRow) -> bool:
    cut = _begun(visit)
    if cut is None or cut.ended is None:
        return False
    blades = {s["id"] for s in cut.sheet["steps"] if (s.get("tool_id") or "").startswith("blade-")}
    return any(row.state == "done" and row.step in blades for row in cut.steps)


def _red(visit: VisitRow) -> bool:
    cut = _begun(visit)
    return cut is not None and any(REDNESS in row.notes for row in cut.steps)
