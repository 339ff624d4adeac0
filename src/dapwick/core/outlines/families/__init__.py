"""The families, one file each."""

from __future__ import annotations

from typing import Final

from dapwick.core.errors import BadInput
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.outlines.family import Family

FAMILIES: Final[dict[str, Family]] = {family.id: family for family in (ROUND,)}


def family(key: str) -> Family:
    if key not in FAMILIES:
        raise BadInput("unknown outline", expected=", ".join(FAMILIES), got=key, where="outline")
    return FAMILIES[key]
