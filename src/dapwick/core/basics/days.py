"""Days and times of day as a salon says them: day or month first, of 24 hours or twice twelve."""

from __future__ import annotations

from datetime import date, time
from typing import Final, Literal

DayStyle = Literal["day_first", "month_first"]
"""day_first: 28 November, 14:30. month_first: November 28, 2:30 pm."""

USUAL_STYLE: Final[DayStyle] = "day_first"
NOON: Final = 12


def day_words(day: date, style: DayStyle, year: bool = False) -> str:
    """A day with its month spelled out, so that it cannot be read the other way round."""
    words = f"{day.day} {day:%B}" if style == "day_first" else f"{day:%B} {day.day}"
    if not year:
        return words
    return f"{words} {day.year}" if style == "day_first" else f"{words}, {day.year}"


def time_words(at: time, style: DayStyle) -> str:
    if style == "day_first":
        return f"{at:%H:%M}"
    return f"{at.hour % NOON or NOON}:{at:%M} {'am' if at.hour < NOON else 'pm'}"
