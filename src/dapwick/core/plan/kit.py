"""A salon's kit and who uses it: blades, guard combs and shears with their lengths, hands and habits.

The lengths are the trade's usual ones until somebody enters their own: makers differ, and so do wet blades.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final, Literal

from dapwick.core.basics.errors import BadInput
from dapwick.core.head.zones import Side

Kind = Literal["blade", "guard", "shears", "hand"]
Use = Literal["clip", "straight", "curved", "blending", "thinning", "detail", "carding", "comb"]
Hand = Literal["left", "right"]
When = Literal["first", "last"]
Work = Literal["clip_first", "scissor_throughout"]
USES_OF: Final[dict[Kind, tuple[Use, ...]]] = {
    "blade": ("clip",),
    "guard": ("clip",),
    "shears": ("straight", "curved", "blending", "thinning", "detail"),
    "hand": ("carding", "comb"),
}
SHORTEST_MM, LONGEST_MM = 0.05, 60.0
MOST_TOOLS: Final = 60
LONGEST_NAME: Final = 40


@dataclass(frozen=True)
class Tool:
    """leaves_mm: hair length a blade or guard leaves with the growth; None for shears and hand tools."""

    id: str
    kind: Kind
    name: str
    use: Use
    leaves_mm: float | None = None

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME:
            raise BadInput(
                "a tool needs a name",
                expected=f"1 to {LONGEST_NAME} letters",
                got=self.name[:60],
                where="kit",
            )
        if self.kind not in USES_OF or self.use not in USES_OF[self.kind]:
            allowed = ", ".join(USES_OF.get(self.kind, ()) or USES_OF)
            raise BadInput(f"{self.name}: use", expected=allowed, got=f"{self.kind}, {self.use}", where="kit")
        cuts = self.kind in ("blade", "guard")
        fits = self.leaves_mm is None or SHORTEST_MM <= self.leaves_mm <= LONGEST_MM
        if cuts != (self.leaves_mm is not None) or not fits:
            expected = f"{SHORTEST_MM:g} to {LONGEST_MM:g} mm" if cuts else "no length"
            raise BadInput(
                f"{self.name}: length left", expected=expected, got=str(self.leaves_mm), where="kit"
            )

    @property
    def words(self) -> str:
        return f"{self.name} blade" if self.kind == "blade" else self.name


@dataclass(frozen=True)
class SkinLimits:
    """Closest length (mm) on skin that has not been clipped before (first), then visit by visit while it stays
    quiet; on white or thin coats, where pink shows; on skin that has been sore."""

    first_mm: float = 1.5
    then_mm: tuple[float, ...] = (1.2, 0.5, 0.25)
    white_mm: float = 1.5
    sore_mm: float = 3.2


@dataclass(frozen=True)
class Kit:
    """against_share: what is left against the growth, as a share of what the same tool leaves with it."""

    tools: tuple[Tool, ...]
    against_share: float = 0.5
    skin: SkinLimits = field(default_factory=SkinLimits)

    def __post_init__(self) -> None:
        ids = [tool.id for tool in self.tools]
        if len(set(ids)) < len(ids) or len(ids) > MOST_TOOLS:
            raise BadInput(
                "tools",
                expected=f"at most {MOST_TOOLS}, each once",
                got=f"{len(ids)} with repeats",
                where="kit",
            )
        if not 0.2 <= self.against_share <= 1.0:
            raise BadInput(
                "left against the growth", expected="0.2 to 1", got=f"{self.against_share:g}", where="kit"
            )
        limits = (self.skin.first_mm, *self.skin.then_mm, self.skin.white_mm, self.skin.sore_mm)
        if not all(SHORTEST_MM <= mm <= LONGEST_MM for mm in limits):
            raise BadInput(
                "closest on the skin",
                expected=f"{SHORTEST_MM:g} to {LONGEST_MM:g} mm",
                got=str(limits),
                where="kit",
            )

    def clippers(self, kind: Kind) -> tuple[Tool, ...]:
        """Blades or guards, shortest first."""
        return tuple(sorted((t for t in self.tools if t.kind == kind), key=lambda t: t.leaves_mm or 0.0))

    def shears(self, use: Use) -> Tool | None:
        """The owned tool for a use, or the next best that does it too; None where nothing in the kit does."""
        for wanted in (use, *STAND_INS.get(use, ())):
            for tool in self.tools:
                if tool.use == wanted:
                    return tool
        return None


STAND_INS: Final[dict[Use, tuple[Use, ...]]] = {
    "curved": ("straight",),
    "blending": ("thinning",),
    "thinning": ("blending",),
    "detail": ("straight",),
    "straight": ("curved",),
    "carding": ("thinning",),
}
"""What else does a job when the tool for it is not in the kit."""


@dataclass(frozen=True)
class Stylist:
    """Who cuts. awkward_side: the dog's side that is awkward for this hand, said or taken from the hand: facing
    the dog, the side away from the cutting hand. awkward: whether it is set first or last, on purpose."""

    name: str
    hand: Hand = "right"
    awkward_side: Side | None = None
    awkward: When = "first"
    work: Work = "clip_first"

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME:
            raise BadInput(
                "a stylist needs a name",
                expected=f"1 to {LONGEST_NAME} letters",
                got=self.name[:60],
                where="stylist",
            )
        for key, allowed in (("hand", ("left", "right")), ("awkward", ("first", "last")),
                             ("work", ("clip_first", "scissor_throughout"))):  # fmt: skip
            if getattr(self, key) not in allowed:
                raise BadInput(
                    key,
                    expected=", ".join(allowed),
                    got=str(getattr(self, key)),
                    where="stylist",
                )

    @property
    def hard_side(self) -> Side:
        return self.awkward_side or ("right" if self.hand == "right" else "left")

    @property
    def first_side(self) -> Side:
        other: Side = "left" if self.hard_side == "right" else "right"
        return self.hard_side if self.awkward == "first" else other


def _blade(name: str, leaves_mm: float) -> Tool:
    return Tool(f"blade-{name.lower()}", "blade", name, "clip", leaves_mm)


def _guard(leaves_mm: float) -> Tool:
    return Tool(f"guard-{leaves_mm:g}", "guard", f"{leaves_mm:g} mm guard", "clip", leaves_mm)


USUAL_KIT: Final = Kit(
    (
        _blade("40", 0.25),
        _blade("30", 0.5),
        _blade("15", 1.2),
        _blade("10", 1.5),
        _blade("9", 2.0),
        _blade("8½", 2.8),
        _blade("7F", 3.2),
        _blade("5F", 6.3),
        _blade("4F", 9.5),
        _blade("3¾F", 13.0),
        *(_guard(mm) for mm in (3, 6, 10, 13, 16, 19, 22, 25, 32)),
        Tool("shears-straight", "shears", "straight shears", "straight"),
        Tool("shears-curved", "shears", "curved shears", "curved"),
        Tool("shears-blending", "shears", "blending shears", "blending"),
        Tool("shears-thinning", "shears", "thinning shears", "thinning"),
        Tool("shears-detail", "shears", "short blunt-tipped shears", "detail"),
        Tool("hand-carding", "hand", "carding tool, finger and thumb", "carding"),
        Tool("hand-comb", "hand", "comb", "comb"),
    )
)  # fmt: skip
ANYBODY: Final = Stylist("Anybody")
