"""Looking at photos in the background: one at a time, with progress, and it can be stopped."""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from threading import Lock
from typing import Literal

log = logging.getLogger(__name__)
Kind = Literal["waiting", "working", "stopped", "failed"]


class Stopped(Exception):
    """The work was stopped on purpose."""


@dataclass(frozen=True)
class Job:
    """How a photo's look is doing; there is none once it is done."""

    kind: Kind
    words: str = ""
    share: float = 0.0


class Workbench:
    """Jobs by photo id. `work(photo_id, step)` does one; it calls `step(words, share)` now and then."""

    def __init__(self, work: Callable[[int, Callable[[str, float], None]], None]) -> None:
        self._work = work
        self._jobs: dict[int, Job] = {}
        self._to_stop: set[int] = set()
        self._lock = Lock()
        self._hand = ThreadPoolExecutor(1, thread_name_prefix="looking")
        self._closed = False

    def ask(self, photo_id: int) -> None:
        """Have a photo looked at; asking twice is asking once."""
        with self._lock:
            busy = self._jobs.get(photo_id)
            if self._closed or (
                busy and busy.kind in ("waiting", "working") and photo_id not in self._to_stop
            ):
                return
            self._to_stop.discard(photo_id)
            self._jobs[photo_id] = Job("waiting", "waiting its turn")
        self._hand.submit(self._run, photo_id)

    def stop(self, photo_id: int) -> None:
        """Stop a job, waiting or working; nothing happens when there is none."""
        with self._lock:
            job = self._jobs.get(photo_id)
            if job and job.kind in ("waiting", "working"):
                self._to_stop.add(photo_id)
                self._jobs[photo_id] = Job("stopped", "stopped")

    def job(self, photo_id: int) -> Job | None:
        with self._lock:
            return self._jobs.get(photo_id)

    def close(self) -> None:
        """Stop what works and take nothing more; what was not done is asked for again at the next start."""
        with self._lock:
            self._closed = True
            self._to_stop.update(self._jobs)
        self._hand.shutdown(cancel_futures=True)

    def _run(self, photo_id: int) -> None:
        def step(words: str, share: float) -> None:
            with self._lock:
                if photo_id in self._to_stop:
                    raise Stopped
                self._jobs[photo_id] = Job("working", words, round(share, 3))

        try:
            step("starting", 0.0)
            self._work(photo_id, step)
        except Stopped:
            self._end(photo_id, Job("stopped", "stopped"))
        except Exception as error:
            # A job is nobody's call: its failure is told with the photo and logged, never lost.
            log.exception("looking at photo %s", photo_id)
            self._end(photo_id, Job("failed", f"Looking at it failed ({type(error).__name__}). Try again."))
        else:
            self._end(photo_id, None)

    def _end(self, photo_id: int, job: Job | None) -> None:
        with self._lock:
            self._to_stop.discard(photo_id)
            if job is None:
                self._jobs.pop(photo_id, None)
            else:
                self._jobs[photo_id] = replace(job, share=0.0)
