"""A head's plans worked out before they are asked for, while somebody is still at the marks."""

from __future__ import annotations

from collections.abc import Callable

from dapwick.core.outlines.families import FAMILIES
from dapwick.service.concurrency.budget import HEAVY
from dapwick.service.jobs import Job, Jobs, Step, Stopped
from dapwick.service.plans.planner import Asked, Planner


class Ahead:
    """One dog after the other, in nobody's hand. What was begun on marks that have changed since is given up; what is
    made lies in the planner's own memory, where the Outline stage finds it."""

    def __init__(self, planner: Planner) -> None:
        self._planner = planner
        self._jobs = Jobs("ahead")

    def ask(self, dog_id: int, asked: Asked) -> Job:
        """Work out this outline, then every other family. Asking anew begins anew, on the marks of now."""
        self._jobs.stop(dog_id)
        return self._jobs.start(dog_id, "outlines", lambda step: self._work(dog_id, asked, step))

    def job(self, dog_id: int) -> Job | None:
        return self._jobs.job(dog_id)

    def close(self) -> None:
        self._jobs.close()

    def _work(self, dog_id: int, asked: Asked, step: Step) -> None:
        begun_on = self._planner.inputs(dog_id)
        parts: list[Callable[[], object]] = [lambda: self._planner.plan(dog_id, asked)]
        parts += [lambda key=key: self._planner.thumb(dog_id, key) for key in FAMILIES]  # type: ignore[misc]
        for done, part in enumerate(parts):
            step("working outlines out", done / len(parts))
            if self._planner.inputs(dog_id) != begun_on:
                raise Stopped
            with HEAVY.turn(patient=True):
                part()
