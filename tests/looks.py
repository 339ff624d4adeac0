"""Waiting for the background looks to end."""

from __future__ import annotations

import time
from typing import Any

from fastapi.testclient import TestClient


def looked(client: TestClient, dog: int, seconds: float = 60.0) -> dict[str, Any]:
    """The dog once every photo has been looked at."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        card = client.get(f"/api/dogs/{dog}").json()
        # Its job is cleared a moment after what was seen is kept.
        if all(p["looked"] and p["job"] is None for p in card["photos"] + card["spares"]):
            return card
        time.sleep(0.05)
    raise AssertionError("not looked at in time")
