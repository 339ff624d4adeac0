"""The cut through the salon's records: a sheet for the kept outline, what was done, what is learned from it."""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy import delete, select

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.core.plan.kit import USUAL_KIT, Stylist
from dapwick.documents.kit import KitDocument
from dapwick.records import queries
from dapwick.records.models import BookingRow, CutRow, CutStepRow, OutlineRow, PhotoRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.cutting.cut import Cutting, Entry, set_stylist, set_traits
from dapwick.service.dogs.about import set_coat_probes
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.salon.kit import salon_kit, set_kit
from dapwick.service.visits.begin_end import start_visit

COPIED = (
    "view", "state", "file_name", "content_hash", "width_px", "height_px", "focal_px", "marks", "coat_edge", "looked",
)  # fmt: skip


@pytest.fixture(scope="module")
def kept(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[SalonStore, Planner]]:
    """A salon whose Fogbell has a teddy kept; solved and traced once for all tests here."""
    store = SalonStore(tmp_path_factory.mktemp("cutting"))
    fill_with_demo(store, ("fogbell", "bobbin"))
    planner = Planner(store)
    planner.save(1, Asked("teddy"))
    yield store, planner
    store.close()


@pytest.fixture
def cutting(kept: tuple[SalonStore, Planner]) -> Iterator[Cutting]:
    """With nothing cut yet."""
    store, planner = kept
    set_kit(store, KitDocument.of(USUAL_KIT, (Stylist("Oriel", "left"), Stylist("Benno", "right"))))
    set_traits(store, 1, ["minds_muzzle"])
    yield Cutting(store, planner)
    with store.session() as session:
        first = queries.dog(session, 1).visits[0]
        first.stylist = ""
        later = select(VisitRow.id).where(VisitRow.id > first.id, VisitRow.dog_id == 1)
        session.execute(delete(CutStepRow))
        session.execute(delete(CutRow))
        for table in (OutlineRow, PhotoRow):
            session.execute(delete(table).where(table.visit_id.in_(later)))
        session.execute(delete(BookingRow).where(BookingRow.visit_id.in_(later)))
        session.execute(delete(VisitRow).where(VisitRow.id.in_(later)))


def step_ids(cutting: Cutting) -> list[str]:
    sheet = cutting.now(1).sheet
    assert sheet is not None
    return [step["id"] for step in sheet["steps"]]


def test_without_an_outline_the_reason_is_told(cutting: Cutting) -> None:
    now = cutting.now(2)
    assert now.sheet is None
    assert "Choose one" in now.reason
    with pytest.raises(BadInput, match="Choose an outline"):
        cutting.start(2)


def test_the_sheet_is_made_for_who_cuts_and_what_the_dog_minds(cutting: Cutting) -> None:
    sheet = cutting.now(1).sheet
    assert sheet is not None
    assert sheet["stylist"] == {"name": "Oriel", "hand": "left", "first_side": "left"}
    assert any(step["minded"] for step in sheet["steps"])
    set_traits(cutting.store, 1, [])
    set_stylist(cutting.store, 1, "Benno")
    calm = cutting.now(1).sheet
    assert calm is not None
    assert calm["stylist"]["name"] == "Benno"
    assert not any(step["minded"] for step in calm["steps"])
    with pytest.raises(BadInput, match="Oriel, Benno"):
        set_stylist(cutting.store, 1, "Nobody")


def test_every_step_has_its_drawing(cutting: Cutting) -> None:
    sheet = cutting.now(1).sheet
    assert sheet is not None
    for step in sheet["steps"]:
        assert step["view"] in sheet["heads"]
        if step["side"] and step["cuts"]:
            places = {f"{cut['zone']}:{step['side']}@{step['view']}" for cut in step["cuts"]}
            assert places & sheet["patches"].keys(), step["id"]
    sided = [s for s in sheet["steps"] if s["view"] in ("left", "right") and s["side"]]
    assert sided
    assert all(s["view"] == s["side"] for s in sided)
    lengths = [len(s["line"]) for s in sheet["steps"] if s["doing"] == "work"]
    assert sum(n > 1 for n in lengths) > 0.8 * len(lengths)


def test_what_was_done_is_kept_and_taken_back(cutting: Cutting) -> None:
    first, second, *_ = step_ids(cutting)
    cutting.record(1, Entry(first, "done", 31.0, "my comb", 4.0, ("minded", "tired")))
    cutting.record(1, Entry(second, "skipped"))
    cutting.record(1, Entry(first, "done", 35.0))
    log = cutting.now(1).log
    assert {k: (e.state, e.seconds, e.tool, e.notes) for k, e in log.items()} == {
        first: ("done", 35.0, "", ()),
        second: ("skipped", None, "", ()),
    }
    cutting.record(1, Entry(second, "open"))
    assert set(cutting.now(1).log) == {first}


@pytest.mark.parametrize(
    ("entry", "told"),
    [
        (Entry("no_such_step", "done"), "no_such_step"),
        (Entry("look_over", "burnt"), "done, skipped, open"),
        (Entry("look_over", "done", -3.0), "seconds"),
        (Entry("look_over", "done", float("nan")), "seconds"),
        (Entry("look_over", "done", notes=("gossip",)), "gossip"),
    ],
)
def test_what_cannot_have_been_is_refused_and_nothing_is_lost(
    cutting: Cutting, entry: Entry, told: str
) -> None:
    cutting.record(1, Entry("look_over", "done", 12.0))
    with pytest.raises((BadInput, NotFound), match=told):
        cutting.record(1, entry)
    assert cutting.now(1).log["look_over"].seconds == 12.0


def test_a_cut_that_began_keeps_its_sheet_and_is_told_stale(cutting: Cutting) -> None:
    begun = cutting.start(1)
    cutting.record(1, Entry("look_over", "done", 20.0))
    assert not cutting.now(1).stale
    set_traits(cutting.store, 1, ["minds_muzzle", "old"])
    now = cutting.now(1)
    assert now.stale
    assert now.sheet == begun.sheet
    anew = cutting.start(1, again=True)
    assert not anew.stale
    assert set(anew.log) == {"look_over"}
    assert anew.started == begun.started
    assert anew.id != begun.id
    assert anew.sheet is not None
    assert "old" in anew.sheet["traits"]


def test_a_comb_read_at_the_table_makes_the_rest_anew(cutting: Cutting) -> None:
    """Where hair is only expected the comb is asked; once it is read, it is not asked again, and what is done stays."""
    begun = cutting.start(1)
    assert begun.sheet is not None
    asked = [(c["zone"], c["side"]) for s in begun.sheet["steps"] for c in s["comb_first"]]
    zone, side = asked[0]
    cutting.record(1, Entry("look_over", "done", 20.0))
    set_coat_probes(cutting.store, 1, [{"zone": zone, "side": side, "depth_mm": 42.0, "length_mm": None}])
    try:
        assert cutting.now(1).stale
        anew = cutting.start(1, again=True)
        assert anew.sheet is not None
        asked_now = {(c["zone"], c["side"]) for s in anew.sheet["steps"] for c in s["comb_first"]}
        assert (zone, side) not in asked_now
        assert set(anew.log) == {"look_over"}
    finally:
        set_coat_probes(cutting.store, 1, [])


def test_a_step_that_is_not_on_the_new_sheet_stays_with_the_old_one(cutting: Cutting) -> None:
    cutting.start(1)
    cutting.record(1, Entry("jaw_half_circle:left", "done", 20.0))
    cutting.planner.save(1, Asked("close"))
    try:
        assert cutting.start(1, again=True).log == {}
        with cutting.store.reading() as session:
            cuts = queries.visit_today(session, 1).cuts
            assert [[row.step for row in cut.steps] for cut in cuts] == [["jaw_half_circle:left"], []]
    finally:
        cutting.planner.save(1, Asked("teddy"))


def test_two_tablets_that_begin_at_once_go_on_with_one_cut(cutting: Cutting) -> None:
    with ThreadPoolExecutor(6) as tablets:
        begun = list(tablets.map(lambda i: cutting.start(1, again=i % 2 == 1), range(6)))
    assert len({now.id for now in begun}) == 1
    with ThreadPoolExecutor(6) as tablets:
        steps = step_ids(cutting)[:6]
        list(tablets.map(lambda step: cutting.record(1, Entry(step, "done", 5.0)), steps))
    assert set(cutting.now(1).log) == set(steps)


def test_a_cut_ends_early_after_a_step_and_is_taken_up_again(cutting: Cutting) -> None:
    ids = step_ids(cutting)
    cutting.record(1, Entry(ids[0], "done", 20.0))
    with pytest.raises(NotFound):
        cutting.end(1, "no_such_step")
    ended = cutting.end(1, ids[0])
    assert ended.ended is not None
    assert ended.stopped_after == ids[0]
    again = cutting.take_up(1)
    assert (again.ended, again.stopped_after) == (None, None)
    assert set(again.log) == {ids[0]}


def test_minutes_are_learned_from_the_log_of_whoever_cuts(cutting: Cutting) -> None:
    before = cutting.now(1).sheet
    assert before is not None
    for step in before["steps"]:
        if step["doing"] == "work":
            cutting.record(1, Entry(step["id"], "done", 2.0 * 60 * step["usual_min"]))
    cutting.end(1)
    copy_visit(cutting)
    after = cutting.now(1).sheet
    assert after is not None
    assert after["minutes"] > 1.5 * before["minutes"]
    set_stylist(cutting.store, 1, "Benno")
    other = cutting.now(1).sheet
    assert other is not None
    assert other["minutes"] == pytest.approx(before["minutes"], rel=0.06)


@pytest.mark.parametrize(("notes", "closest_mm"), [((), 1.2), (("redness",), 1.5)])
def test_quiet_skin_is_clipped_closer_at_the_next_visit(
    cutting: Cutting, notes: tuple[str, ...], closest_mm: float
) -> None:
    now = cutting.start(1)
    assert now.sheet is not None
    blade = next(s for s in now.sheet["steps"] if (s["tool_id"] or "").startswith("blade-"))
    cutting.record(1, Entry(blade["id"], "done", 30.0, notes=notes))
    cutting.end(1)
    copy_visit(cutting)
    said = [b["words"] for s in cutting.now(1).sheet["steps"] for b in s["why"] if b["of"] == "skin"]  # type: ignore[index]
    assert said
    assert all(f"Closest here {closest_mm:g} mm" in words for words in said)


def copy_visit(cutting: Cutting) -> None:
    """A new visit with the same photos, marks and outline, as if the coat had grown back."""
    start_visit(cutting.store, 1)
    with cutting.store.session() as session:
        before, now = queries.dog(session, 1).visits[-2:]
        now.hand_measures, now.wishes = before.hand_measures, before.wishes
        for photo in list(before.photos):
            now.photos.append(type(photo)(**{key: getattr(photo, key) for key in COPIED}))
        old = before.outlines[-1]
        kept = {
            k: getattr(old, k) for k in ("family", "params", "schools", "zones", "inputs_hash", "version")
        }
        now.outlines.append(OutlineRow(**kept))


def test_the_salons_own_kit_decides_the_tools(cutting: Cutting) -> None:
    usual = {t["tool"] for t in cutting.now(1).sheet["steps"]}  # type: ignore[index]
    document = salon_kit(cutting.store).to_json()
    document["tools"] = [t for t in document["tools"] if t["kind"] != "guard"]
    set_kit(cutting.store, document)
    bare = {t["tool"] for t in cutting.now(1).sheet["steps"]}  # type: ignore[index]
    assert any("guard" in tool for tool in usual)
    assert not any("guard" in tool for tool in bare)


def test_a_kit_that_cannot_be_is_refused_and_the_old_one_stays(cutting: Cutting) -> None:
    before = salon_kit(cutting.store).to_json()
    for wrong in ({"against_share": 7.0}, {"stylists": [{"name": "A"}, {"name": "A"}]}):
        with pytest.raises(BadInput):
            set_kit(cutting.store, before | wrong)
    assert salon_kit(cutting.store).to_json() == before
