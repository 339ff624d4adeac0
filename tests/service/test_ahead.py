"""Plans worked out ahead: there when they are asked for, given up when marks change, and the same as any."""

from __future__ import annotations

import shutil
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from dapwick.core.outlines.families import FAMILIES
from dapwick.pipeline import plan as plans
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog, one_dog, set_hand_measures
from dapwick.service.plans import planner as planners
from dapwick.service.plans.ahead import Ahead
from dapwick.service.plans.planner import Asked, Planner

LONG_S = 60.0


@pytest.fixture
def demo(demo_folder: Path, tmp_path: Path) -> Iterator[SalonStore]:
    shutil.copytree(demo_folder, tmp_path / "salon")
    store = SalonStore(tmp_path / "salon")
    yield store
    store.close()


def ended(ahead: Ahead, dog_id: int) -> str:
    last = time.monotonic() + LONG_S
    while time.monotonic() < last:
        job = ahead.job(dog_id)
        if job and job.kind not in ("waiting", "working"):
            return job.kind
        time.sleep(0.02)
    raise AssertionError("never ended")


def test_what_was_worked_out_ahead_is_not_worked_out_again(
    demo: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    planner = Planner(demo)
    ahead = Ahead(planner)
    ahead.ask(1, Asked("teddy"))
    assert ended(ahead, 1) == "done"
    made = {"plan_on": 0, "thumb_on": 0, "fit_on": 0}

    def counted(name: str):  # type: ignore[no-untyped-def]
        real = getattr(plans, name)

        def counting(*args, **kwargs):  # type: ignore[no-untyped-def]
            made[name] += 1
            return real(*args, **kwargs)

        return counting

    for name in made:
        monkeypatch.setattr(planners, name, counted(name))
    planned = planner.plan(1, Asked("teddy"))
    thumbs = [planner.thumb(1, key)[0] for key in FAMILIES]
    assert made == {"plan_on": 0, "thumb_on": 0, "fit_on": 0}
    # The same as one that nobody worked out ahead.
    fresh = Planner(demo)
    assert fresh.plan(1, Asked("teddy")).plan.zones == planned.plan.zones
    assert [t.outline.family.id for t in thumbs] == list(FAMILIES)
    ahead.close()


def test_a_setting_or_a_reading_since_makes_a_plan_of_its_own(demo: SalonStore) -> None:
    """What is remembered never stands for another plan."""
    planner = Planner(demo)
    first = planner.plan(1, Asked("round")).plan.zones
    assert planner.plan(1, Asked("round", {"fullness": 0.1})).plan.zones != first
    now, later = (planner.plan(1, Asked("round"), weeks).plan.depth_mm for weeks in (0.0, 6.0))
    assert float((later - now).mean()) > 1
    had = [
        {"from": r.from_mark, "to": r.to_mark, "mm": r.mm, "sigma_mm": r.sigma_mm}
        for r in one_dog(demo, 1).hand_measures
    ]
    wider = [{**one, "mm": one["mm"] * 1.15} for one in had]
    set_hand_measures(demo, 1, wider)
    assert planner.plan(1, Asked("round")).plan.zones != first
    set_hand_measures(demo, 1, had)
    assert planner.plan(1, Asked("round")).plan.zones == first


def test_it_is_given_up_once_the_marks_have_changed(
    demo: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    planner = Planner(demo)
    ahead = Ahead(planner)
    told = iter(["before", "before", "after"])
    monkeypatch.setattr(planner, "inputs", lambda dog_id: next(told))
    asked: list[str] = []
    monkeypatch.setattr(planner, "plan", lambda dog_id, given: asked.append("plan"))
    monkeypatch.setattr(planner, "thumb", lambda dog_id, key: asked.append(key))
    ahead.ask(1, Asked("round"))
    assert ended(ahead, 1) == "stopped"
    assert asked == ["plan"]
    ahead.close()


def test_a_head_that_cannot_be_planned_yet_is_no_accident(demo: SalonStore) -> None:
    dog = add_dog(demo, "Sample", "curl").id
    ahead = Ahead(Planner(demo))
    ahead.ask(dog, Asked("round"))
    assert ended(ahead, dog) == "failed"
    job = ahead.job(dog)
    assert job is not None
    assert "not measured yet" in job.words
    ahead.close()
