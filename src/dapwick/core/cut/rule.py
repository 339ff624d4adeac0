"""What a rule of the cut is: when it applies, what is done where, and why; a step is what it makes of one case."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.cut.case import Case
from dapwick.core.plan.kit import Use

View = Literal["front", "left", "right", "top", "side"]
Doing = Literal["work", "look", "rest", "mark"]
WITH_GROWTH: Final = "with the growth"
Number = Literal["outline", "clip", "guard", "set", "edge", "eye"]
"""Where a step's length comes from: scissored to the outline; the blade's where the plan clips; a guard's before
scissors; set: whichever of these two the plan has; edge: a
narrow strip as close as the skin allows; or judged by eye."""


@dataclass(frozen=True)
class Whenever:
    """A condition on a case that can say itself in words."""

    words: str
    holds: Callable[[Case], bool]

    def __and__(self, other: Whenever) -> Whenever:
        if self is ALWAYS:
            return other
        return Whenever(
            f"{self.words}, and {other.words}", lambda case: self.holds(case) and other.holds(case)
        )

    def __or__(self, other: Whenever) -> Whenever:
        return Whenever(f"{self.words}, or {other.words}", lambda case: self.holds(case) or other.holds(case))

    def __invert__(self) -> Whenever:
        return Whenever(f"not ({self.words})", lambda case: not self.holds(case))


ALWAYS: Final = Whenever("always", lambda case: True)


@dataclass(frozen=True)
class Path:
    """The line a step follows on the small head: marks from where it starts to where it ends; those of a pair
    without their side take the step's own. view "side" is the side worked on."""

    view: View
    marks: tuple[str, ...]


@dataclass(frozen=True)
class Rule:
    """One thing a stylist does. each: first one side, then the other; second: what is different on the second
    side. zones: where, brought to length by it; number: where its length comes from; eye: how it is judged where
    no number is cut. after: rules that come first. mark: the first side's end is marked before the second.
    back: the direction on the side that is awkward for the cutting hand, where the line begins at its other end;
    against: the direction where the blade goes against the growth. sees: what is seen in the coat, at whose places it
    is done. always: done though nothing comes off. {side} in the texts is the side worked on."""

    id: str
    title: str
    how: str
    because: str
    use: Use
    minutes: float
    when: Whenever = ALWAYS
    zones: tuple[str, ...] = ()
    number: Number = "eye"
    eye: str = ""
    each: bool = False
    second: str = ""
    mark: str = ""
    direction: str = ""
    back: str = ""
    against: str = ""
    hold: str = ""
    check: str = ""
    path: Path | None = None
    after: tuple[str, ...] = ()
    doing: Doing = "work"
    cautions: tuple[str, ...] = ()
    sees: str = ""
    always: bool = False


@dataclass(frozen=True)
class Chapter:
    """A part of the work, in the order of the work."""

    id: str
    words: str
    rules: tuple[Rule, ...]
