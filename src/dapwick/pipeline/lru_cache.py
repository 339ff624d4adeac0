"""The last few of something made at cost, each made once even where many ask at the same time."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Lock, RLock
from typing import Generic, TypeVar

Value = TypeVar("Value")


class LruCache(Generic[Value]):
    """The last few by key. Safe across threads."""

    def __init__(self, most: int) -> None:
        self._most, self._lock = most, Lock()
        self._values: OrderedDict[str, Value] = OrderedDict()
        self._makers: dict[str, tuple[RLock, int]] = {}

    def get(self, key: str) -> Value | None:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
            return self._values.get(key)

    def put(self, key: str, value: Value) -> Value:
        with self._lock:
            self._values[key] = value
            while len(self._values) > self._most:
                self._values.popitem(last=False)
        return value

    def get_or_make(self, key: str, make: Callable[[], Value]) -> Value:
        """What is kept under a key, else what `make` makes: one thread makes it, others who ask wait for that one.
        Where `make` raises, nothing is kept and the next one tries."""
        known = self.get(key)
        if known is not None:
            return known
        with self._turn(key):
            known = self.get(key)
            return self.put(key, make()) if known is None else known

    @contextmanager
    def _turn(self, key: str) -> Iterator[None]:
        """The one maker's lock of a key, there as long as somebody wants it."""
        with self._lock:
            lock, wanted = self._makers.get(key, (RLock(), 0))
            self._makers[key] = lock, wanted + 1
        try:
            with lock:
                yield
        finally:
            with self._lock:
                lock, wanted = self._makers.pop(key)
                if wanted > 1:
                    self._makers[key] = lock, wanted - 1
