"""Jobs in the background: order, progress, stopping, failing, closing."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator

import pytest

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.service.jobs import REMEMBERED, Jobs, Step


def waited(until: Callable[[], bool], seconds: float = 5.0) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if until():
            return True
        time.sleep(0.005)
    return False


class Slow:
    """Work that goes on until it is let go, telling its progress."""

    def __init__(self) -> None:
        self.go, self.done, self.began = threading.Event(), [], []  # type: ignore[var-annotated]

    def on(self, jobs: Jobs, job_id: int) -> None:
        jobs.start(job_id, "a photo", lambda step: self._do(job_id, step))

    def _do(self, job_id: int, step: Step) -> None:
        self.began.append(job_id)
        for n in range(2000):
            step("following the edge", n / 2000)
            if self.go.wait(0.005):
                break
        self.done.append(job_id)


@pytest.fixture
def jobs() -> Iterator[Jobs]:
    made = Jobs("test")
    yield made
    made.close()


def kinds(jobs: Jobs, *ids: int) -> list[str]:
    return [jobs.known(one).kind for one in ids]


def test_work_is_done_one_at_a_time_in_order(jobs: Jobs) -> None:
    work = Slow()
    for photo in (3, 1, 2, 1):
        work.on(jobs, photo)
    assert waited(lambda: kinds(jobs, 3, 1) == ["working", "waiting"])
    assert work.began == [3]
    work.go.set()
    assert waited(lambda: kinds(jobs, 3, 1, 2) == ["done"] * 3)
    assert work.done == [3, 1, 2]


def test_two_hands_work_at_two_and_the_third_waits() -> None:
    jobs, work = Jobs("test", hands=2), Slow()
    for photo in (3, 1, 2):
        work.on(jobs, photo)
    assert waited(lambda: kinds(jobs, 3, 1, 2) == ["working", "working", "waiting"])
    jobs.stop(1)
    assert waited(lambda: kinds(jobs, 3, 1, 2) == ["working", "stopped", "working"])
    work.go.set()
    assert waited(lambda: kinds(jobs, 3, 2) == ["done", "done"])
    jobs.close()


def test_progress_is_told(jobs: Jobs) -> None:
    work = Slow()
    work.on(jobs, 7)
    assert waited(lambda: jobs.known(7).share > 0)
    assert jobs.known(7).words == "following the edge"
    work.go.set()


def test_work_can_be_stopped_while_it_works_and_while_it_waits(jobs: Jobs) -> None:
    work = Slow()
    work.on(jobs, 1)
    work.on(jobs, 2)
    assert waited(lambda: work.began == [1])
    jobs.stop(2)
    jobs.stop(1)
    assert waited(lambda: kinds(jobs, 1, 2) == ["stopped", "stopped"])
    time.sleep(0.05)
    assert work.done == []
    assert work.began == [1]


def test_what_was_stopped_can_be_asked_for_again_while_it_winds_down(jobs: Jobs) -> None:
    """The run that was stopped ends, and neither its end nor its progress is taken for the new one's."""
    work = Slow()
    work.on(jobs, 1)
    assert waited(lambda: work.began == [1])
    jobs.stop(1)
    work.on(jobs, 1)
    assert waited(lambda: work.began == [1, 1] and kinds(jobs, 1) == ["working"])
    assert work.done == []
    work.go.set()
    assert waited(lambda: kinds(jobs, 1) == ["done"])
    assert work.done == [1]


def test_a_failure_is_told_and_the_next_job_still_runs(jobs: Jobs) -> None:
    def fails(step: Step) -> None:
        raise OSError("the picture is gone")

    jobs.start(1, "a photo", fails)
    jobs.start(2, "a photo", lambda step: {"found": 3})
    assert waited(lambda: kinds(jobs, 1, 2) == ["failed", "done"])
    assert "OSError" in jobs.known(1).words
    assert jobs.known(2).result == {"found": 3}


def test_a_refusal_is_told_in_its_own_words(jobs: Jobs) -> None:
    def refused(step: Step) -> None:
        raise BadInput("backup", expected="a salon's backup", got="a letter")

    job = jobs.start_alone("a restore", refused)
    assert waited(lambda: kinds(jobs, job.id) == ["failed"])
    assert "a salon's backup" in jobs.known(job.id).words


def test_one_alone_is_refused_while_another_is_under_way(jobs: Jobs) -> None:
    work = Slow()
    work.on(jobs, 4)
    with pytest.raises(BadInput, match="a photo"):
        jobs.start_alone("a restore", lambda step: None)
    work.go.set()
    assert waited(lambda: kinds(jobs, 4) == ["done"])
    assert jobs.start_alone("a restore", lambda step: None).id == 5


def test_of_many_that_are_over_the_last_ones_are_remembered(jobs: Jobs) -> None:
    for n in range(REMEMBERED + 5):
        jobs.start(n, "a photo", lambda step: None)
        assert waited(lambda n=n: kinds(jobs, n) == ["done"])  # type: ignore[misc]
    assert jobs.job(0) is None
    assert jobs.job(REMEMBERED + 4) is not None
    with pytest.raises(NotFound):
        jobs.known(0)


def test_closing_ends_what_works_and_takes_nothing_more(jobs: Jobs) -> None:
    work = Slow()
    work.on(jobs, 1)
    work.on(jobs, 2)
    assert waited(lambda: work.began == [1])
    jobs.close()
    work.on(jobs, 3)
    assert work.done == []
    assert jobs.job(3) is None
