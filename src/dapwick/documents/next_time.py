"""What one visit tells the next: parts that return where they matter."""

from __future__ import annotations

from typing import Final, Literal

from pydantic import BaseModel, ConfigDict, Field

Place = Literal["wishes", "marks", "outline", "cut"]
LONGEST_PART: Final = 200


class _Told(BaseModel):
    """Screens are answered with these as they are kept."""

    model_config = ConfigDict(frozen=True)


class NotePart(_Told):
    """id: what it is about, the same from visit to visit; place: the stage it returns at; zone, side: of the head, ""
    where of no place in particular."""

    id: str = Field(max_length=80)
    place: Place
    words: str = Field(max_length=LONGEST_PART)
    zone: str = Field(default="", max_length=24)
    side: Literal["", "left", "right"] = ""


class Said(_Told):
    """What somebody made of a part: dropped, or put in other words."""

    kept: bool = True
    words: str = Field(default="", max_length=LONGEST_PART)
