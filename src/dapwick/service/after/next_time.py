"""What this visit tells the next one: a note filled from what happened, part by part."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.head.zones import zone_words
from dapwick.documents.next_time import LONGEST_PART, NotePart, Place, Said
from dapwick.records import queries
from dapwick.records.models import VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.after.growing import growth_of
from dapwick.service.cutting.cut import NOTES
from dapwick.service.dogs.about import check_part
from dapwick.service.dogs.cards import DogCard, card_of

MOST_PARTS: Final = 20
NOT_DONE: Final = ("skipped", "left")
OUTLIVES: Final = ("redness", "nick")
"""Chips that are for the owner and a vet to hear of, and for the next visit's first look."""


@dataclass(frozen=True)
class ToTell:
    """A part as it is told now, and whether it is to be told."""

    part: NotePart
    kept: bool


def to_tell(visit: VisitRow) -> tuple[ToTell, ...]:
    """Everything that happened and matters next time, as somebody left it."""
    found = [part for parts in (_of_check(visit), _of_cut(visit), _of_growth(visit)) for part in parts]
    once = {part.id: part for part in found}
    return tuple(_as_said(part, visit.for_next.get(part.id)) for part in list(once.values())[:MOST_PARTS])


def kept_parts(visit: VisitRow) -> list[NotePart]:
    """What the next visit is told."""
    return [one.part for one in to_tell(visit) if one.kept]


def say_for_next(
    store: SalonStore, dog_id: int, said: Mapping[str, Said], base: str | None = None
) -> DogCard:
    """Keep what was made of the parts; one that is left out is told as it came."""
    for key, one in said.items():
        if len(one.words) > LONGEST_PART:
            raise BadInput(
                "a part of the note too long",
                expected=f"at most {LONGEST_PART} letters",
                got=str(len(one.words)),
                where=key[:40],
            )
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        wanted = _plain(said)
        check_part(visit.dog, "for_next", [visit.id, wanted], base)
        visit.for_next = dict(said)
        return card_of(visit.dog)


def _plain(said: Mapping[str, Said]) -> dict[str, Any]:
    return {key: one.model_dump() for key, one in said.items()}


def _as_said(part: NotePart, said: Said | None) -> ToTell:
    if said is None:
        return ToTell(part, kept=True)
    return ToTell(part.model_copy(update={"words": said.words}) if said.words else part, said.kept)


def _of_check(visit: VisitRow) -> Iterator[NotePart]:
    check = visit.checked
    if check is None:
        return
    for touch in check.touch_ups:
        done = visit.touched_up.get(f"{touch.zone}/{touch.side}")
        if done is None or done.state in NOT_DONE:
            place = f"{touch.side} {zone_words(touch.zone)}"
            words = f"{place} was left {touch.off_mm:.0f} mm long: take it in first"
            yield _part(f"long:{touch.zone}/{touch.side}", "cut", words, touch.zone, touch.side)
    for short in check.short:
        place = f"{short.side} {zone_words(short.zone)}"
        words = f"{place} was {short.missing_mm:.0f} mm short: leave it to grow"
        yield _part(f"short:{short.zone}/{short.side}", "outline", words, short.zone, short.side)


def _of_cut(visit: VisitRow) -> Iterator[NotePart]:
    cut = visit.cuts[-1] if visit.cuts else None
    if cut is None:
        return
    steps = {step["id"]: step for step in cut.sheet["steps"]}
    for row in cut.steps:
        step = steps.get(row.step)
        for chip in row.notes:
            if step and chip in NOTES:
                zone = next(iter(step.get("zones", [])), "")
                place: Place = "wishes" if chip in OUTLIVES else "cut"
                yield _part(f"{chip}:{row.rule}", place, f"{step['title']}: {NOTES[chip]}", zone)
    if cut.stopped_after:
        yield _stopped(cut.sheet["steps"], cut.stopped_after)


def _stopped(steps: list[dict[str, Any]], after: str) -> NotePart:
    at = next((i for i, step in enumerate(steps) if step["id"] == after), len(steps) - 1)
    left = steps[at + 1 :]
    first = f": begin with {left[0]['title']}" if left else ""
    return _part("stopped", "cut", f"stopped early, {len(left)} steps left undone{first}")


def _of_growth(visit: VisitRow) -> Iterator[NotePart]:
    for one in growth_of(visit.dog, visit).disagreeing:
        if one.reading.visit == visit.id:
            yield _part(f"grew:{one.reading.zone}", "wishes", one.words, one.reading.zone)


def _part(key: str, place: Place, words: str, zone: str = "", side: str = "") -> NotePart:
    return NotePart.model_validate(
        {"id": key, "place": place, "words": words[:LONGEST_PART], "zone": zone, "side": side}
    )
