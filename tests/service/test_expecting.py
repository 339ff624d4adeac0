"""What the tool expected is written down before each reading, by nobody's hand, and counted."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.demo.dogs import calliper_mm, hand_marks, photos_of, truth
from dapwick.records import queries
from dapwick.records.models import ExpectationRow
from dapwick.records.store import SalonStore
from dapwick.service.after.expecting import read_bone, read_coat, read_edge, read_marks
from dapwick.service.after.factors import factors_of, take_factor
from dapwick.service.after.how_far_off import all_readings_csv, how_far_off
from dapwick.service.dogs.trash import purge_dog, remove_dog
from dapwick.service.photos.edges import edge_of, review
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.measuring import measure_visit

ACROSS, ALONG = ("eye_outer_left", "eye_outer_right"), ("stop", "nose_tip")


def rows(store: SalonStore, kind: str) -> list[ExpectationRow]:
    with store.reading() as session:
        found = [r for r in queries.visit_today(session, 1).expectations if r.kind == kind]
        session.expunge_all()
    return found


def reading(span: tuple[str, str], mm: float) -> dict[str, object]:
    return {"from": span[0], "to": span[1], "mm": mm, "sigma_mm": 1.0}


def test_a_calliper_reading_is_held_against_what_was_expected_without_it(demo_store: SalonStore) -> None:
    known = truth("fogbell")
    first = reading(ACROSS, calliper_mm(known, *ACROSS))
    read_bone(demo_store, 1, [first, reading(ALONG, calliper_mm(known, *ALONG))])
    (row,) = rows(demo_store, "bone")
    assert row.what == "nose_tip–stop"
    assert row.found == calliper_mm(known, *ALONG)
    assert abs(row.expected - row.found) < 3 * row.sigma
    assert row.sigma > 1.0


def test_a_wild_reading_does_not_change_what_was_expected_of_it(demo_store: SalonStore) -> None:
    known = truth("fogbell")
    first, true = reading(ACROSS, calliper_mm(known, *ACROSS)), calliper_mm(known, *ALONG)
    read_bone(demo_store, 1, [first, reading(ALONG, true + 20)])
    (wild,) = rows(demo_store, "bone")
    assert abs(wild.found - wild.expected) > 1.96 * wild.sigma
    read_bone(demo_store, 1, [first, reading(ALONG, true)])
    (mended,) = rows(demo_store, "bone")
    assert (mended.expected, mended.sigma, mended.found) == (wild.expected, wild.sigma, true)


def test_a_reading_that_is_taken_back_is_told_not_counted(demo_store: SalonStore) -> None:
    known = truth("fogbell")
    first = reading(ACROSS, calliper_mm(known, *ACROSS))
    read_bone(demo_store, 1, [first, reading(ALONG, 99.0)])
    read_bone(demo_store, 1, [first])
    (row,) = rows(demo_store, "bone")
    assert row.taken_back
    (bone,) = [t for t in how_far_off(demo_store).tallies if t.kind == "bone"]
    assert (bone.readings, bone.taken_back) == (0, 1)
    read_bone(demo_store, 1, [first, reading(ALONG, 99.0)])
    assert not rows(demo_store, "bone")[0].taken_back


def test_a_comb_is_held_against_the_coat_that_was_seen(demo_store: SalonStore) -> None:
    comb = {"zone": "crown", "side": None, "depth_mm": 24.0}
    read_coat(demo_store, Planner(demo_store), 1, [comb, {"zone": "ear_outside", "depth_mm": 6.0}])
    (row,) = rows(demo_store, "coat")
    assert row.what == "crown both sides"
    assert row.found == 24.0
    assert 10 < row.expected < 45
    assert row.sigma > 3.0


def test_a_mark_placed_where_one_was_expected_counts_and_an_accepted_one_does_not(
    demo_store: SalonStore,
) -> None:
    (photo,) = photos_of(truth("fogbell"), ("dry-front",))
    marks = hand_marks(photo)
    kept = dict(list(marks.items())[:10])
    accepted, placed = list(marks)[10:12]
    with demo_store.reading() as session:
        front = next(p for p in queries.visit_today(session, 1).photos if p.view == "front").id
    read_marks(demo_store, front, kept)
    assert rows(demo_store, "marks") == []
    read_marks(
        demo_store, front, {**kept, placed: marks[placed], accepted: marks[accepted] | {"expected": True}}
    )
    found = rows(demo_store, "marks")
    assert {row.what for row in found} == {f"front, dry: {placed} across", f"front, dry: {placed} down"}
    assert all(row.expected == 0.0 for row in found)


def test_an_edge_set_by_hand_is_held_against_the_machines(demo_store: SalonStore) -> None:
    with demo_store.reading() as session:
        photo = next(p for p in queries.visit_today(session, 1).photos if p.view == "front").id
    review(demo_store, photo, lambda *_: None)
    line = edge_of(demo_store, photo)[0].line
    middle = [sum(p[i] for p in line) / len(line) for i in (0, 1)]
    wider = [(x + 0.03 * (x - middle[0]), y + 0.03 * (y - middle[1])) for x, y in line]
    read_edge(demo_store, photo, wider)
    (row,) = rows(demo_store, "edges")
    assert 0.5 < row.found < 8.0
    read_edge(demo_store, photo, line)
    assert len(rows(demo_store, "edges")) == 1


@pytest.fixture(scope="module")
def past_store(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    store = SalonStore(tmp_path_factory.mktemp("past") / "salon")
    fill_with_demo(store, ("fogbell", "bobbin", "capstan"), earlier=True)
    yield store
    store.close()


def test_the_demo_comes_with_twenty_readings_and_says_whose_they_are(past_store: SalonStore) -> None:
    now = how_far_off(past_store)
    assert now.demo
    assert sum(t.readings for t in now.tallies) >= 20
    assert {t.kind for t in now.tallies} >= {"bone", "coat", "marks", "minutes", "growth"}
    assert all(t.inside <= t.readings for t in now.tallies)


def test_the_table_holds_every_reading(past_store: SalonStore) -> None:
    table = list(csv.DictReader(io.StringIO(all_readings_csv(past_store))))
    assert len(table) == sum(t.readings + t.taken_back for t in how_far_off(past_store).tallies)
    minutes = [row for row in table if row["kind"] == "minutes"]
    assert minutes
    assert all(3 < float(row["found"]) < 240 and row["unit"] == "min" for row in minutes)


def test_a_factor_widens_what_is_told_and_is_taken_back(demo_store: SalonStore) -> None:
    before = {m.id: m.high - m.low for m in measure_visit(demo_store, 1).measures}
    take_factor(demo_store, "bone", 1.5)
    wide = measure_visit(demo_store, 1)
    assert wide.wider == 1.5
    for measure in wide.measures:
        assert measure.high - measure.low == pytest.approx(1.5 * before[measure.id], rel=1e-6)
    take_factor(demo_store, "bone", 1.0)
    assert factors_of(demo_store) == {}
    with pytest.raises(BadInput):
        take_factor(demo_store, "marks", 2.0)


def test_the_coats_factor_widens_what_is_left_and_there_but_no_length(demo_store: SalonStore) -> None:
    planner = Planner(demo_store)
    before = planner.plan(1, Asked("round")).plan.zones
    take_factor(demo_store, "coat", 2.0)
    after = planner.plan(1, Asked("round"))
    assert after.wider == 2.0
    for a, b in zip(before, after.plan.zones, strict=True):
        assert (a.leave_mm, a.remove_mm, a.shortage_mm) == (b.leave_mm, b.remove_mm, b.shortage_mm)
        assert b.now_high - b.now_mm == pytest.approx(2 * (a.now_high - a.now_mm), abs=1e-6)


def test_a_dog_that_is_deleted_for_good_takes_its_readings_along(demo_store: SalonStore) -> None:
    known = truth("fogbell")
    spans = [reading(span, calliper_mm(known, *span)) for span in (ACROSS, ALONG)]
    read_bone(demo_store, 1, spans)
    assert how_far_off(demo_store).tallies
    remove_dog(demo_store, 1)
    assert not how_far_off(demo_store).tallies
    purge_dog(demo_store, 1, "Fogbell")
    with demo_store.reading() as session:
        assert session.query(ExpectationRow).count() == 0
