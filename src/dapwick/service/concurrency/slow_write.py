"""Slow work on the records: read, computed outside, written only where what it rests on is still so."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, TypeVar

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import Busy
from dapwick.records.store import SalonStore

Made = TypeVar("Made")
Kept = TypeVar("Kept")
TRIES: Final = 5


def compute_then_write(
    store: SalonStore,
    compute: Callable[[], Made],
    holds: Callable[[Session, Made], bool],
    write: Callable[[Session, Made], Kept],
) -> Kept:
    """Nobody waits for `compute`, which reads for itself; in one change then `holds` says whether what was made still
    rests on what is there, and `write` keeps it. Where something has changed meanwhile it is computed again; Busy
    where that goes on."""
    for _ in range(TRIES):
        made = compute()
        with store.session() as session:
            if holds(session, made):
                return write(session, made)
    raise Busy("the same thing is being changed on another tablet")
