"""The order of the cut: what must come first, sides by hand, minded places apart, breaks, where it may end.

A topological order (each step after those it waits for), taken one by one with the book's own order as the wish.
"""

from __future__ import annotations

import heapq
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from graphlib import TopologicalSorter
from typing import Final

from dapwick.core.cut.case import Case
from dapwick.core.cut.drafts import BLEND, LAST, SET_IN, Draft
from dapwick.core.cut.handling import pause_after_min
from dapwick.core.cut.rule import Rule
from dapwick.core.cut.rules import CHAPTERS

SPLIT_ABOVE_MIN: Final = 0.5
"""A step that the dog minds and that takes longer is done in two halves."""
EYES_AT, JAW_AT, EARS_AT = (
    next(i for i, c in enumerate(CHAPTERS) if c.id == key) for key in ("eyes", "jaw_cheeks", "ears")
)
REST_MIN: Final = 1.0
OVERDUE: Final = 1.5
"""A break waits for both sides to be alike, but no longer than this many times its minutes."""
END_APART: Final = 2
"""Stopping points stand at least so many steps apart."""
PAUSE: Final = Rule(
    "pause",
    "Let it rest",
    "Hands off, chin down, water; look at its breath before you go on.",
    "It tires, pants or is old: planned breaks, and a wide booking window.",
    "comb",
    REST_MIN,
    eye="breathing quietly again",
    doing="rest",
)
BETWEEN: Final = Rule(
    "between",
    "Half a minute off",
    "Let go, a treat, a word; then the next place.",
    "It minds this place: short strokes, a change of place every half minute.",
    "comb",
    0.5,
    eye="quiet again",
    doing="rest",
)


def in_order(drafts: Sequence[Draft], case: Case) -> list[Draft]:
    """All drafts, ordered, long minded ones halved, marks and breaks between them."""
    parts = [part for draft in drafts for part in _parts(draft)]
    waits = _waits(parts)
    ordered = _Table(parts, waits, case).worked()
    return _numbered(_with_marks(_paused(ordered, case)))


def _parts(draft: Draft) -> list[Draft]:
    if not draft.traits or draft.minutes <= SPLIT_ABOVE_MIN or draft.rule.doing != "work":
        return [draft]
    half = replace(draft, minutes=draft.minutes / 2, usual_min=draft.usual_min / 2)
    return [replace(half, id=f"{draft.id}:{i}", part=(i, 2)) for i in (1, 2)]


def _waits(drafts: Sequence[Draft]) -> dict[str, set[str]]:
    """For each step the ids of those that come before it."""
    waits: dict[str, set[str]] = {draft.id: set() for draft in drafts}
    for one in drafts:
        for other in drafts:
            if one is not other and _follows(one, other):
                waits[one.id].add(other.id)
    return waits


def _follows(one: Draft, other: Draft) -> bool:
    """one waits for other."""
    if one.chapter >= SET_IN > other.chapter or (one.chapter == LAST > other.chapter):
        return True
    if one.chapter < SET_IN and other.chapter < one.chapter:
        return True
    if one.rule is other.rule:
        return (
            (other.second, other.part) < (one.second, one.part)
            if one.side != other.side
            else other.part < one.part
        )
    if other.rule.id in one.rule.after and _same_side(one, other):
        return True
    meet = _meet(one, other)
    if one.chapter == BLEND and other.chapter < BLEND:
        return meet
    return other.chapter == SET_IN < one.chapter and meet


def _meet(one: Draft, other: Draft) -> bool:
    """They work in one place; what is done on both sides at once meets either."""
    if one.side is None or other.side is None:
        return bool({zone for zone, _ in one.places} & {zone for zone, _ in other.places})
    return bool(set(one.places) & set(other.places))


def _turn(draft: Draft, case: Case) -> int:
    """When a chapter's turn is: the book's, or as this stylist goes about it."""
    if draft.traits and draft.rule.doing == "work" and case.schools.get("minded") == "last":
        return 2 * BLEND - 1
    if draft.chapter == EYES_AT and case.schools.get("order") == "sides_first":
        return 2 * JAW_AT + 1
    if draft.chapter == EARS_AT and case.schools.get("ears_when") == "first":
        return 2 * SET_IN + 1
    return 2 * draft.chapter


def _same_side(one: Draft, other: Draft) -> bool:
    return one.side is None or other.side is None or one.side == other.side


@dataclass
class _Table:
    """Steps taken one by one; never two that the dog minds in a row while something else can be done."""

    drafts: Sequence[Draft]
    waits: dict[str, set[str]]
    case: Case
    done: list[Draft] = field(default_factory=list)

    def worked(self) -> list[Draft]:
        by_id = {draft.id: draft for draft in self.drafts}
        sorter = TopologicalSorter(self.waits)
        sorter.prepare()
        ready: list[tuple[tuple[int, ...], str]] = []
        while sorter.is_active():
            for key in sorter.get_ready():
                heapq.heappush(ready, (self._place(by_id[key]), key))
            key = self._next(ready, by_id)
            self.done.append(by_id[key])
            sorter.done(key)
        return self.done

    def _place(self, draft: Draft) -> tuple[int, ...]:
        # What is clipped too long can be clipped again: the longest blade or guard of a rule goes first.
        leaves_mm = (draft.choice.leaves_mm if draft.choice else None) or 0.0
        return (
            _turn(draft, self.case),
            draft.order,
            int(draft.second),
            draft.part[0],
            -round(100 * leaves_mm),
        )

    def _next(self, ready: list[tuple[tuple[int, ...], str]], by_id: dict[str, Draft]) -> str:
        """The book's next; after a minded step the next one that is not minded, if there is one before the check."""
        last = self.done[-1] if self.done else None
        if last is not None and last.traits and by_id[ready[0][1]].traits:
            easy = [item for item in ready if not by_id[item[1]].traits and item[0][0] < 2 * LAST]
            if easy:
                chosen = min(easy)
                ready.remove(chosen)
                heapq.heapify(ready)
                return chosen[1]
        return heapq.heappop(ready)[1]


def _paused(ordered: Sequence[Draft], case: Case) -> list[Draft]:
    """With breaks: between two minded steps in a row, and whenever this dog's time is up."""
    limit = pause_after_min(case.traits)
    paused: list[Draft] = []
    since = 0.0
    for draft, both_alike in zip(ordered, _alike_before(ordered), strict=True):
        last = paused[-1] if paused else None
        tired = limit is not None and since >= limit * (1.0 if both_alike else OVERDUE)
        minds_both = last is not None and bool(last.traits) and bool(draft.traits)
        if tired or minds_both:
            paused.append(_break(PAUSE if tired else BETWEEN, draft))
            since = 0.0 if tired else since
        paused.append(draft)
        since += draft.minutes
    return paused


def _break(rule: Rule, before: Draft) -> Draft:
    return Draft(rule.id, rule, before.chapter, -1, None, (), (), None, None, rule.minutes)


def _alike_before(ordered: Sequence[Draft]) -> Iterator[bool]:
    """Before each step: whether both sides of everything begun are done."""
    open_: set[str] = set()
    work = [draft for draft in ordered if draft.rule.doing == "work"]
    left = {draft.rule.id: sum(d.rule.id == draft.rule.id for d in work) for draft in work}
    for draft in ordered:
        yield not open_
        if draft.rule.doing != "work":
            continue
        left[draft.rule.id] -= 1
        (open_.add if left[draft.rule.id] else open_.discard)(draft.rule.id)


def _with_marks(ordered: Sequence[Draft]) -> list[Draft]:
    """After a first side whose end is marked: the mark."""
    marked: list[Draft] = []
    for draft in ordered:
        marked.append(draft)
        if draft.rule.mark and not draft.second and draft.part[0] == draft.part[1]:
            rule = replace(
                draft.rule,
                id=f"{draft.rule.id}_mark",
                title=draft.rule.mark.rstrip("."),
                how="A comb's tooth or a little chalk where the line ends; the second side is opened to it.",
                because="Both sides end at one place, so that neither is chased shorter to match.",
                eye="where the first side ends",
                number="eye",
                use="comb",
                doing="mark",
                direction="",
                back="",
                hold="",
                check="",
            )
            marked.append(replace(draft, id=f"{rule.id}", rule=rule, lengths=(), choice=None, tool=None, minutes=0.2,
                                  traits=(), part=(1, 1)))  # fmt: skip
    return marked


def _numbered(ordered: Sequence[Draft]) -> list[Draft]:
    """Breaks get ids of their own, by their order."""
    seen: dict[str, int] = {}
    found = []
    for draft in ordered:
        if draft.rule.doing == "rest":
            seen[draft.rule.id] = seen.get(draft.rule.id, 0) + 1
            found.append(replace(draft, id=f"{draft.rule.id}:{seen[draft.rule.id]}"))
        else:
            found.append(draft)
    return found


def may_end_after(ordered: Sequence[Draft]) -> list[bool]:
    """Whether the dog may go home after each step: something is set in, both sides of everything begun are alike,
    and a chapter ends there or hands come off anyway."""
    alike = [*_alike_before(ordered)][1:] + [True]
    found: list[bool] = []
    for i, (draft, both) in enumerate(zip(ordered, alike, strict=True)):
        after = ordered[i + 1] if i + 1 < len(ordered) else None
        rests = draft.rule.doing == "rest"
        turns = after is None or (after.chapter != draft.chapter and after.rule.doing != "rest")
        lately = after is not None and not rests and any(found[-END_APART:])
        found.append(
            both
            and (rests or turns)
            and draft.chapter >= SET_IN
            and draft.rule.doing != "mark"
            and not lately
        )
    return found
