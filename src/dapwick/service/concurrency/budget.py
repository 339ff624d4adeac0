"""One budget for what is heavy: decoding pictures, solving heads, fitting outlines. So many at once, the next ones in a
queue, and an honest no where the queue is full: small things are answered meanwhile, and memory holds."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from threading import Condition, local
from time import monotonic
from typing import Final, ParamSpec, TypeVar

from dapwick.core.basics.errors import Busy

AT_ONCE: Final = 2
"""As many as the machine has hands for; the smallest has two."""
WAITING: Final = 16
"""Of the forty threads that answer requests; the others stay free for small ones."""
PATIENCE_S: Final = 30.0
Given = ParamSpec("Given")
Made = TypeVar("Made")


class Budget:
    """Turns for heavy work. A thread that has one does not need another for what it calls."""

    def __init__(
        self, at_once: int = AT_ONCE, waiting: int = WAITING, patience_s: float = PATIENCE_S
    ) -> None:
        self._free, self._waiting, self._most_waiting = at_once, 0, waiting
        self._patience_s = patience_s
        self._told = Condition()
        self._mine = local()

    @contextmanager
    def turn(self, patient: bool = False) -> Iterator[None]:
        """Wait for a turn and have it. patient: in nobody's hand, so it waits as long as it takes. Raises Busy."""
        if getattr(self._mine, "held", False):
            yield
            return
        self._take(patient)
        self._mine.held = True
        try:
            yield
        finally:
            self._mine.held = False
            with self._told:
                self._free += 1
                self._told.notify()

    def _take(self, patient: bool) -> None:
        over = monotonic() + self._patience_s
        with self._told:
            if not self._free and not patient and self._waiting >= self._most_waiting:
                raise Busy("many heads are being worked out at once")
            self._waiting += 1
            try:
                while not self._free:
                    if not self._told.wait(None if patient else max(over - monotonic(), 0.0)):
                        raise Busy("other heads are being worked out")
                self._free -= 1
            finally:
                self._waiting -= 1

    def spent_on(self, work: Callable[Given, Made]) -> Callable[Given, Made]:
        """The same work, within the budget."""

        @wraps(work)
        def within(*args: Given.args, **kwargs: Given.kwargs) -> Made:
            with self.turn():
                return work(*args, **kwargs)

        return within


HEAVY: Final = Budget()
"""The server's own."""
heavy = HEAVY.spent_on
