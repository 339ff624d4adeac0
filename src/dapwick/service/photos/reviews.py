"""Photos reviewed in the background, two at a time."""

from __future__ import annotations

from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import AT_ONCE
from dapwick.service.jobs import UNDER_WAY, Job, Jobs
from dapwick.service.photos.edges import review

FAILED = "Reviewing the photo failed ({error}). Try again."


class Reviews:
    """Jobs by photo id. What was not done when the server stops is asked for again at its next start."""

    def __init__(self, store: SalonStore) -> None:
        self._store = store
        self._jobs = Jobs("review", FAILED, AT_ONCE)

    def ask(self, photo_id: int) -> None:
        """Have a photo reviewed; asking twice is asking once."""
        self._jobs.start(photo_id, "a photo", lambda step: review(self._store, photo_id, step))

    def stop(self, photo_id: int) -> None:
        self._jobs.stop(photo_id)

    def under_way(self, photo_id: int) -> bool:
        """Whether a photo is being reviewed, or waits for it."""
        job = self._jobs.job(photo_id)
        return job is not None and job.kind in UNDER_WAY

    def job(self, photo_id: int) -> Job | None:
        """How a photo's review is doing; there is none once it is done."""
        job = self._jobs.job(photo_id)
        return None if job and job.kind == "done" else job

    def close(self) -> None:
        self._jobs.close()
