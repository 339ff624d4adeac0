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
    """Turns for heavy work. A thread that has one does not need another for what it calls. What gives way takes no turn
    while somebody waits for one with a screen in hand."""

    def __init__(
        self, at_once: int = AT_ONCE, waiting: int = WAITING, patience_s: float = PATIENCE_S
    ) -> None:
        self._free, self._waiting, self._hurried, self._most_waiting = at_once, 0, 0, waiting
        self._patience_s = patience_s
        self._told = Condition()
        self._mine = local()

    @contextmanager
    def turn(self, patient: bool = False, gives_way: bool = False) -> Iterator[None]:
        """Wait for a turn and have it. patient: in nobody's hand, so it gives way and waits as long as it takes.
        Raises Busy."""
        if getattr(self._mine, "held", False):
            yield
            return
        self._take(patient, gives_way or patient)
        self._mine.held = True
        try:
            yield
        finally:
            self._mine.held = False
            with self._told:
                self._free += 1
                self._told.notify_all()

    def _take(self, patient: bool, gives_way: bool) -> None:
        over = monotonic() + self._patience_s
        hurried = int(not gives_way)
        with self._told:
            if not self._free and not patient and self._waiting >= self._most_waiting:
                raise Busy("many heads are being worked out at once")
            self._waiting += 1
            self._hurried += hurried
            try:
                while not self._free or (gives_way and self._hurried):
                    if not self._told.wait(None if patient else max(over - monotonic(), 0.0)):
                        raise Busy("other heads are being worked out")
                self._free -= 1
            finally:
                self._waiting -= 1
                self._hurried -= hurried
                # What gives way looks again: it may be its turn now.
                self._told.notify_all()

    def spent_on(self, work: Callable[Given, Made], gives_way: bool = False) -> Callable[Given, Made]:
        """The same work, within the budget."""

        @wraps(work)
        def within(*args: Given.args, **kwargs: Given.kwargs) -> Made:
            with self.turn(gives_way=gives_way):
                return work(*args, **kwargs)

        return within


HEAVY: Final = Budget()
"""The server's own."""
heavy = HEAVY.spent_on


def heavy_beside(work: Callable[Given, Made]) -> Callable[Given, Made]:
    """Heavy work that is seen beside what somebody waits for: it lets that go first."""
    return HEAVY.spent_on(work, gives_way=True)
