"""The next best measurement: what is foretold is what comes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.marks import SPANS
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.plan.next_best import COMBED, Next, ground_of, next_best, words_of
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput
from simheads import hand_measure, random_head

TAKEN = frozenset({("front", "dry"), ("left", "dry")})


def solved(given: HeadInput) -> HeadSolution:
    head = solve_head(given)
    assert isinstance(head, HeadSolution)
    return head


def asked(
    head: HeadSolution, probes: tuple[CoatProbe, ...] = (), taken: frozenset = TAKEN
) -> tuple[Next, ...]:
    coat = skin_and_coat(head, "standing", [], probes)[1]
    return next_best(ground_of(head, coat, taken), at_most=99)


def test_without_any_size_a_calliper_comes_first() -> None:
    found = asked(solved(random_head(1, hand=0).given))
    assert found[0].kind == "hand"
    assert {n.kind for n in found} <= {"hand", "mark"}
    assert found[0].before_mm > 1.25 * found[0].after_mm


def test_what_is_asked_for_is_sorted_and_helps() -> None:
    found = asked(solved(random_head(1, hand=1).given))
    gains = [n.gain_mm / n.seconds for n in found]
    assert gains == sorted(gains, reverse=True)
    assert all(n.after_mm < n.before_mm for n in found)
    assert {"photo", "wet_photo", "comb"} <= {n.kind for n in found}
    assert all(f"±{n.before_mm:.0f} to" in words for n, words in zip(found, words_of(found), strict=True))


def test_a_foretold_hand_measure_narrows_as_foretold() -> None:
    sim = random_head(2, hand=0)
    head = solved(sim.given)
    span = SPANS[0]
    told = next(n for n in asked(head) if n.what == f"{span.from_mark}-{span.to_mark}")
    reading = hand_measure(np.random.default_rng(0), sim.points_mm, span.from_mark, span.to_mark)
    after = solved(replace(sim.given, hand_measures=(reading,)))
    size = reading.mm / float(np.linalg.norm(np.subtract(*(head.points_mm[i] for i in _ends(span)))))
    then = _zone_half_width(after, told.zone)
    assert told.before_mm == pytest.approx(_zone_half_width(head, told.zone), rel=1e-6)
    # The head turns out larger or smaller than guessed, and its errors with it.
    assert told.after_mm == pytest.approx(then / max(size, 1.0), rel=0.25)


def _ends(span) -> tuple[int, int]:  # type: ignore[no-untyped-def]
    from dapwick.core.basics.marks import INDEX

    return INDEX[span.from_mark], INDEX[span.to_mark]


def _zone_half_width(head: HeadSolution, zone: str) -> float:
    """What `asked` would call a zone's interval now."""
    coat = skin_and_coat(head, "standing", [])[1]
    ground = ground_of(head, coat, TAKEN)
    members = ground.warped.in_zone(zone)
    at = members[np.linspace(0, len(members) - 1, min(6, len(members))).astype(int)]
    assert set(at) <= set(ground.at)
    return float(np.mean(1.959964 * np.hypot(*coat.known.sigma(at))))


def test_a_foretold_comb_narrows_as_foretold() -> None:
    head = solved(random_head(3, hand=2).given)
    told = next(n for n in asked(head) if n.kind == "comb" and n.what == "crown")
    skin, combed = skin_and_coat(head, "standing", [], [CoatProbe("crown", None, 20.0)])
    at = skin.in_zone("crown")
    at = at[np.linspace(0, len(at) - 1, 6).astype(int)]
    after = float(np.mean(1.959964 * np.hypot(*combed.known.sigma(at))))
    assert told.zone == "crown"
    assert told.after_mm == pytest.approx(after, rel=1e-6)


def test_what_is_there_already_is_not_asked_for() -> None:
    sim = random_head(4, ("front", "left"), hand=2)
    head = solved(sim.given)
    found = asked(head)
    measured = {f"{m.from_mark}-{m.to_mark}" for m in sim.given.hand_measures}
    assert not measured & {n.what for n in found}
    assert not {n.what for n in found if n.kind == "photo"} & {"front", "left"}
    placed = {f"{p.name}:{m}" for p in sim.given.photos for m in p.marks}
    assert not placed & {n.what for n in found if n.kind == "mark"}
    combed = asked(head, tuple(CoatProbe(zone, None, 20.0) for zone in COMBED))
    best_comb = max((n.gain_mm for n in combed if n.kind == "comb"), default=0.0)
    assert best_comb < 0.5 * max(n.gain_mm for n in found if n.kind == "comb")


def test_a_mark_left_out_is_worth_placing() -> None:
    sim = random_head(5, ("front", "left"), hand=1)
    left = sim.given.photos[1]
    fewer = replace(left, marks={m: at for m, at in left.marks.items() if m != "occiput"})
    found = asked(solved(replace(sim.given, photos=(sim.given.photos[0], fewer))))
    marks = [n for n in found if n.kind == "mark"]
    assert marks[0].what == f"{left.name}:occiput"
    assert marks[0].zone in ("back_skull", "crown")


def test_a_hand_measure_of_another_kind_is_not_mistaken_for_one_of_ours() -> None:
    sim = random_head(6, hand=1)
    more = (*sim.given.hand_measures, HandMeasure("chin", "throat", 90.0))
    asked_for = asked(solved(replace(sim.given, hand_measures=more)))
    assert any(n.what == "occiput-stop" for n in asked_for)
