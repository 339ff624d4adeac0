"""The salon's kit and stylists as they are kept."""

from __future__ import annotations

from dataclasses import asdict
from typing import Final

from pydantic import Field

from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import Hand, Kind, Kit, SkinLimits, Stylist, Tool, Use, When, Work
from dapwick.documents.document import Document, Number

MOST_STYLISTS: Final = 20


class ToolDocument(Document):
    """leaves_mm: with the growth; none for what has no length of its own."""

    id: str
    kind: Kind
    name: str
    use: Use
    leaves_mm: Number | None = None


class SkinDocument(Document):
    """Closest lengths on the skin, mm."""

    first_mm: Number
    then_mm: tuple[Number, ...]
    white_mm: Number
    sore_mm: Number


class StylistDocument(Document):
    name: str
    hand: Hand = "right"
    awkward_side: Hand | None = None
    awkward: When = "first"
    work: Work = "clip_first"


class KitDocument(Document):
    """against_share: what is left against the growth, as a share of what is left with it."""

    tools: list[ToolDocument]
    against_share: Number
    skin: SkinDocument
    stylists: list[StylistDocument] = Field(default=[])

    @staticmethod
    def of(kit: Kit, stylists: tuple[Stylist, ...] = ()) -> KitDocument:
        return KitDocument.model_validate(asdict(kit) | {"stylists": [asdict(one) for one in stylists]})

    def kit(self) -> Kit:
        """Raises BadInput, told by tool, for what cannot be."""
        tools = tuple(Tool(t.id, t.kind, t.name, t.use, t.leaves_mm) for t in self.tools)
        skin = self.skin
        return Kit(
            tools, self.against_share, SkinLimits(skin.first_mm, skin.then_mm, skin.white_mm, skin.sore_mm)
        )

    def people(self) -> tuple[Stylist, ...]:
        """Raises BadInput for two of one name, or too many."""
        found = tuple(Stylist(s.name, s.hand, s.awkward_side, s.awkward, s.work) for s in self.stylists)
        names = [one.name for one in found]
        if len(set(names)) < len(names) or len(names) > MOST_STYLISTS:
            raise BadInput(
                "stylists",
                expected=f"at most {MOST_STYLISTS}, each name once",
                got=", ".join(names),
                where="kit",
            )
        return found
