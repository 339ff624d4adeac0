"""The families, one file each, and a salon's own variants of them."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.outlines.families.brick import BRICK
from dapwick.core.outlines.families.broad import BROAD
from dapwick.core.outlines.families.brows_beard import BROWS_BEARD
from dapwick.core.outlines.families.close import CLOSE
from dapwick.core.outlines.families.crest import CREST
from dapwick.core.outlines.families.dome import DOME
from dapwick.core.outlines.families.natural import NATURAL
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.outlines.families.teddy import TEDDY
from dapwick.core.outlines.families.three_rings import THREE_RINGS
from dapwick.core.outlines.families.topknot import TOPKNOT
from dapwick.core.outlines.family import Family

FAMILIES: Final[dict[str, Family]] = {
    family.id: family
    for family in (
        ROUND, TEDDY, BRICK, DOME, THREE_RINGS, TOPKNOT, BROWS_BEARD, NATURAL, CLOSE, BROAD, CREST,
    )
}  # fmt: skip


def family(key: str) -> Family:
    if key not in FAMILIES:
        raise BadInput("unknown outline", expected=", ".join(FAMILIES), got=key, where="outline")
    return FAMILIES[key]
