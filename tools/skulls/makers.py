"""Heads by their maker's kind: those to learn from, and those kept apart."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Final

import numpy as np

from skulls.kept import KEPT
from skulls.kinds import KINDS, Skull

MAKERS: Final[Mapping[str, Callable[[np.random.Generator], Skull]]] = {**KINDS, **KEPT}


def skulls(kind: str, count: int, seed: int = 0) -> list[Skull]:
    """Heads of a kind; those whose rays fail are drawn again."""
    rng, found = np.random.default_rng([seed, *kind.encode()]), []
    while len(found) < count:
        try:
            found.append(MAKERS[kind](rng))
        except (ValueError, IndexError):
            continue
    return found
