"""Looking in the background: order, progress, stopping, failing, closing."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable

from dapwick.service.workbench import Workbench


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

    def __call__(self, photo_id: int, step: Callable[[str, float], None]) -> None:
        self.began.append(photo_id)
        for n in range(2000):
            step("following the edge", n / 2000)
            if self.go.wait(0.005):
                break
        self.done.append(photo_id)


def test_work_is_done_one_at_a_time_in_order() -> None:
    work = Slow()
    bench = Workbench(work)
    for photo in (3, 1, 2, 1):
        bench.ask(photo)
    assert waited(lambda: (job := bench.job(3)) is not None and job.kind == "working")
    assert bench.job(1).kind == "waiting"  # type: ignore[union-attr]
    assert work.began == [3]
    work.go.set()
    assert waited(lambda: work.done == [3, 1, 2])
    assert waited(lambda: bench.job(2) is None)
    bench.close()


def test_progress_is_told() -> None:
    work = Slow()
    bench = Workbench(work)
    bench.ask(7)
    assert waited(lambda: (job := bench.job(7)) is not None and job.share > 0)
    assert bench.job(7).words == "following the edge"  # type: ignore[union-attr]
    work.go.set()
    bench.close()


def test_work_can_be_stopped_while_it_works_and_while_it_waits() -> None:
    work = Slow()
    bench = Workbench(work)
    bench.ask(1)
    bench.ask(2)
    assert waited(lambda: work.began == [1])
    bench.stop(2)
    bench.stop(1)
    assert waited(lambda: bench.job(1).kind == "stopped" and bench.job(2).kind == "stopped")  # type: ignore[union-attr]
    time.sleep(0.05)
    assert work.done == []
    assert work.began == [1]
    bench.close()


def test_what_was_stopped_can_be_asked_for_again() -> None:
    work = Slow()
    bench = Workbench(work)
    bench.ask(1)
    assert waited(lambda: work.began == [1])
    bench.stop(1)
    assert waited(lambda: bench.job(1).kind == "stopped")  # type: ignore[union-attr]
    time.sleep(0.05)
    work.go.set()
    bench.ask(1)
    assert waited(lambda: work.done == [1])
    bench.close()


def test_a_failure_is_told_and_the_next_job_still_runs() -> None:
    done = []

    def work(photo_id: int, step: Callable[[str, float], None]) -> None:
        if photo_id == 1:
            raise OSError("the picture is gone")
        done.append(photo_id)

    bench = Workbench(work)
    bench.ask(1)
    bench.ask(2)
    assert waited(lambda: done == [2])
    assert bench.job(1).kind == "failed"  # type: ignore[union-attr]
    assert bench.job(2) is None
    bench.close()


def test_closing_ends_what_works_and_takes_nothing_more() -> None:
    work = Slow()
    bench = Workbench(work)
    bench.ask(1)
    bench.ask(2)
    assert waited(lambda: work.began == [1])
    bench.close()
    bench.ask(3)
    assert work.done == []
    assert bench.job(3) is None
