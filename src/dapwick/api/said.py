"""What anybody says to the salon, cleaned and bounded in one place: text without what no keyboard types, numbers that
are numbers, nothing nested without end."""

from __future__ import annotations

import math
import unicodedata
from typing import Annotated, Any, Final

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

LARGEST_NUMBER: Final = 1e9
DEEPEST: Final = 12
BREAKS: Final = "\n\r\t"
LONGEST_ANY: Final = 20_000


class Said(BaseModel):
    """Base of every body that comes in."""

    model_config = ConfigDict(allow_inf_nan=False)

    @model_validator(mode="before")
    @classmethod
    def _clean(cls, given: Any) -> Any:
        check_plain(given)
        return given


def check_plain(given: Any, depth: int = 0) -> None:
    """Raise ValueError for text with characters that cannot be kept or shown, for numbers beyond any use, and for
    nesting without end."""
    if depth > DEEPEST:
        raise ValueError("nested too deep")
    if isinstance(given, str):
        check_text(given)
    elif isinstance(given, bool) or given is None:
        return
    elif isinstance(given, (int, float)):
        if not abs(given) <= LARGEST_NUMBER or not math.isfinite(given):
            raise ValueError(f"a number up to {LARGEST_NUMBER:.0e} is wanted")
    elif isinstance(given, dict):
        for key, value in given.items():
            check_plain(key, depth + 1)
            check_plain(value, depth + 1)
    elif isinstance(given, (list, tuple)):
        for value in given:
            check_plain(value, depth + 1)


def check_text(text: str) -> None:
    if len(text) > LONGEST_ANY:
        raise ValueError(f"at most {LONGEST_ANY} letters")
    if any(strange(letter) for letter in text):
        raise ValueError("text with characters that cannot be written")


def strange(letter: str) -> bool:
    """A control character or half of a surrogate pair; tabs and line breaks are text."""
    return letter not in BREAKS and unicodedata.category(letter) in ("Cc", "Cs")


def plain(text: str) -> str:
    """The same text as it can be sent and kept, whatever it was."""
    return "".join("?" if strange(letter) else letter for letter in text)


def one_line(text: str) -> str:
    """A name: no line breaks."""
    if any(letter in BREAKS or unicodedata.category(letter) in ("Zl", "Zp") for letter in text):
        raise ValueError("one line is wanted")
    return text


OneLine = Annotated[str, AfterValidator(one_line)]
Name = Annotated[str, Field(max_length=80), AfterValidator(one_line)]
"""A word or a few: a name, a code."""
Px = Annotated[float, Field(ge=-200_000, le=200_000)]
Mm = Annotated[float, Field(ge=-100_000, le=100_000)]
"""Far past anything on a dog: what fits a head is the core's to say, in its own words."""
