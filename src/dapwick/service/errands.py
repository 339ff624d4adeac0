"""Long work that somebody waits for: one at a time, with progress, and it can be stopped."""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from threading import Lock
from typing import Any, Final, Literal

from dapwick.core.errors import BadInput, DapwickError, NotFound
from dapwick.service.workbench import Stopped

log = logging.getLogger(__name__)
Kind = Literal["working", "done", "stopped", "failed"]
Step = Callable[[str, float], None]
REMEMBERED: Final = 20


@dataclass(frozen=True)
class Errand:
    """How one is doing; result: what came of it once it is done."""

    id: int
    what: str
    kind: Kind
    words: str
    share: float
    result: dict[str, Any] | None = None


class Errands:
    """At most one at work; the last few are remembered with what came of them."""

    def __init__(self) -> None:
        self._errands: dict[int, Errand] = {}
        self._stop: set[int] = set()
        self._lock = Lock()
        self._hand = ThreadPoolExecutor(1, thread_name_prefix="errand")

    def start(self, what: str, work: Callable[[Step], dict[str, Any]]) -> Errand:
        with self._lock:
            busy = next((e for e in self._errands.values() if e.kind == "working"), None)
            if busy:
                raise BadInput(
                    "one at a time",
                    expected=f"“{busy.what}” to end, or to be stopped",
                    got=what,
                    where="errand",
                )
            errand = Errand(max(self._errands, default=0) + 1, what, "working", "starting", 0.0)
            self._errands[errand.id] = errand
            for old in sorted(self._errands)[:-REMEMBERED]:
                del self._errands[old]
        self._hand.submit(self._run, errand.id, work)
        return errand

    def errand(self, errand_id: int) -> Errand:
        with self._lock:
            if errand_id not in self._errands:
                raise NotFound("errand", errand_id)
            return self._errands[errand_id]

    def stop(self, errand_id: int) -> Errand:
        """Stopped at the next step; one that is over stays as it ended."""
        with self._lock:
            if errand_id in self._errands and self._errands[errand_id].kind == "working":
                self._stop.add(errand_id)
        return self.errand(errand_id)

    def close(self) -> None:
        with self._lock:
            self._stop.update(self._errands)
        self._hand.shutdown(cancel_futures=True)

    def _run(self, errand_id: int, work: Callable[[Step], dict[str, Any]]) -> None:
        def step(words: str, share: float) -> None:
            with self._lock:
                if errand_id in self._stop:
                    raise Stopped
            self._tell(errand_id, words=words, share=round(share, 3))

        try:
            self._tell(errand_id, kind="done", share=1.0, words="done", result=work(step))
        except Stopped:
            self._tell(errand_id, kind="stopped", words="Stopped. Nothing was changed.")
        except DapwickError as error:
            self._tell(errand_id, kind="failed", words=str(error))
        except Exception as error:
            # Nobody waits on this thread: what went wrong is told with the errand and logged, never lost.
            log.exception("errand %s", errand_id)
            self._tell(
                errand_id, kind="failed", words=f"It failed ({type(error).__name__}). Nothing was changed."
            )

    def _tell(self, errand_id: int, **changed: Any) -> None:
        with self._lock:
            self._errands[errand_id] = replace(self._errands[errand_id], **changed)
