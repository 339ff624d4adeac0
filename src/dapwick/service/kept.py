"""The last few of something made at cost."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from threading import Lock
from typing import Any, Generic, TypeVar

Value = TypeVar("Value")


class Kept(Generic[Value]):
    """The last few by key. Safe across threads."""

    def __init__(self, most: int) -> None:
        self._most, self._lock = most, Lock()
        self._values: OrderedDict[str, Value] = OrderedDict()

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


def hash_of(inputs: list[Any]) -> str:
    """What a result rests on, as one key."""
    return hashlib.sha256(json.dumps(inputs, sort_keys=True, default=dict).encode()).hexdigest()
