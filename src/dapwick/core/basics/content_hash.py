"""One short name for what something was made from."""

from __future__ import annotations

import hashlib
import json
from typing import Any


def hash_of(inputs: list[Any]) -> str:
    """The SHA-256 of inputs as JSON, 64 hex digits; the same for equal inputs, whatever order their keys lie in."""
    return hashlib.sha256(json.dumps(inputs, sort_keys=True, default=_as_json).encode()).hexdigest()


def _as_json(value: Any) -> Any:
    """A document as it is stored, or a mapping."""
    return value.to_json() if hasattr(value, "to_json") else dict(value)
