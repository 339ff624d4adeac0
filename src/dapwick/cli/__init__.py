"""The `dapwick` command: the salon's server, and the core without the browser."""

from __future__ import annotations

from dapwick.cli import after, cuts, heads, photos, plans, serving
from dapwick.cli.common import app

__all__ = ["after", "app", "cuts", "heads", "photos", "plans", "serving"]
