"""The book as a calendar file that other programs read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True)
class Appointment:
    """day ISO; starts HH:MM, or empty for the whole day."""

    uid: str
    title: str
    day: str
    starts: str
    minutes: int
    words: str


def calendar_ics(salon: str, appointments: Sequence[Appointment]) -> bytes:
    """Times are the salon's own clock, wherever the calendar is read."""
    calendar = Calendar()
    calendar.add("prodid", "-//Dapwick//salon book//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", salon)
    for one in appointments:
        calendar.add_component(_event(one))
    return bytes(calendar.to_ical())


def _event(one: Appointment) -> Event:
    event = Event()
    event.add("uid", f"{one.uid}@dapwick")
    event.add("summary", one.title)
    event.add("dtstamp", datetime.now(UTC))
    if one.starts:
        begins = datetime.fromisoformat(f"{one.day}T{one.starts}")
        event.add("dtstart", begins)
        event.add("dtend", begins + timedelta(minutes=one.minutes))
    else:
        event.add("dtstart", date.fromisoformat(one.day))
    if one.words:
        event.add("description", one.words)
    return event
