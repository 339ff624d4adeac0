"""Long work in the background: begun in order, with progress, and each can be stopped."""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from threading import Event, Lock
from typing import Any, Final, Literal

from dapwick.core.basics.errors import BadInput, DapwickError, NotFound

log = logging.getLogger(__name__)
Kind = Literal["waiting", "working", "done", "stopped", "failed"]
Step = Callable[[str, float], None]
"""Told what is being done and the share done; it raises Stopped once the job was stopped."""
Work = Callable[[Step], dict[str, Any] | None]
UNDER_WAY: Final = ("waiting", "working")
REMEMBERED: Final = 200


class Stopped(Exception):
    """The work was stopped on purpose."""


@dataclass(frozen=True)
class Job:
    """How one is doing; result: what came of it once it is done."""

    id: int
    what: str
    kind: Kind
    words: str = ""
    share: float = 0.0
    result: dict[str, Any] | None = None


class Jobs:
    """Jobs by id, begun in the order they were asked for; the last ones are remembered with what came of them.
    failed: what is told of one that fails, with {error}. hands: so many at once, where they do not touch each other's
    ground."""

    def __init__(
        self, name: str, failed: str = "It failed ({error}). Nothing was changed.", hands: int = 1
    ) -> None:
        self._name, self._failed = name, failed
        self._jobs: dict[int, Job] = {}
        self._stops: dict[int, Event] = {}
        self._lock = Lock()
        self._hands = ThreadPoolExecutor(hands, thread_name_prefix=name)
        self._closed = False

    def start(self, job_id: int, what: str, work: Work) -> Job:
        """Have it done when its turn comes; asking twice is asking once."""
        with self._lock:
            there = self._jobs.get(job_id)
            if there and there.kind in UNDER_WAY and not self._stops[job_id].is_set():
                return there
            return self._submit(Job(job_id, what, "waiting", "waiting its turn"), work)

    def start_alone(self, what: str, work: Work) -> Job:
        """Begin at once, under a new id. Raises BadInput while another is under way."""
        with self._lock:
            busy = next((job for job in self._jobs.values() if job.kind in UNDER_WAY), None)
            if busy:
                raise BadInput(
                    "one at a time", expected=f"“{busy.what}” to end, or to be stopped", got=what, where=self._name
                )  # fmt: skip
            return self._submit(Job(max(self._jobs, default=0) + 1, what, "working", "starting"), work)

    def job(self, job_id: int) -> Job | None:
        with self._lock:
            return self._jobs.get(job_id)

    def known(self, job_id: int) -> Job:
        """The same where there must be one. Raises NotFound."""
        job = self.job(job_id)
        if job is None:
            raise NotFound(self._name, job_id)
        return job

    def stop(self, job_id: int) -> None:
        """Stopped at its next step, or before it begins; one that is over stays as it ended."""
        with self._lock:
            job = self._jobs.get(job_id)
            if job and job.kind in UNDER_WAY:
                self._stops[job_id].set()
                if job.kind == "waiting":
                    self._jobs[job_id] = replace(job, kind="stopped", words="stopped")

    def close(self) -> None:
        """Stop what works and take nothing more."""
        with self._lock:
            self._closed = True
            for stop in self._stops.values():
                stop.set()
        self._hands.shutdown(cancel_futures=True)

    def _submit(self, job: Job, work: Work) -> Job:
        if self._closed:
            return replace(job, kind="stopped", words="stopped")
        # A job asked for again while it winds down is another run of it, with a stop of its own.
        stop = self._stops[job.id] = Event()
        self._jobs.pop(job.id, None)
        self._jobs[job.id] = job
        over = [one.id for one in self._jobs.values() if one.kind not in UNDER_WAY]
        for old in over[: max(len(self._jobs) - REMEMBERED, 0)]:
            del self._jobs[old], self._stops[old]
        self._hands.submit(self._run, job, work, stop)
        return job

    def _run(self, job: Job, work: Work, stop: Event) -> None:
        def tell(now: Job) -> None:
            with self._lock:
                if self._stops.get(job.id) is stop:
                    self._jobs[job.id] = now

        def step(words: str, share: float) -> None:
            if stop.is_set():
                raise Stopped
            tell(replace(job, kind="working", words=words, share=round(share, 3)))

        try:
            step("starting", 0.0)
            ended = replace(job, kind="done", words="done", share=1.0, result=work(step))
        except Stopped:
            ended = replace(job, kind="stopped", words="Stopped. Nothing was changed.")
        except DapwickError as error:
            ended = replace(job, kind="failed", words=str(error))
        except Exception as error:
            # Nobody waits on this thread: what went wrong is told with the job and logged, never lost.
            log.exception("%s %s", self._name, job.id)
            ended = replace(job, kind="failed", words=self._failed.format(error=type(error).__name__))
        tell(ended)
