"""Domain errors. They know the job, not HTTP.

DapwickError
├── BadInput        the caller's data is wrong: what, expected, got, where, what to do
├── NotFound        there is no such dog, photo or visit
├── Overtaken       somebody else changed the same thing meanwhile: what it is now, so that nobody overwrites it unseen
├── KeptOut         the passcode is missing or wrong
├── Busy            another change takes too long; the same call may go through later
└── NoRoom          the salon's disk is full or cannot be written
"""

from __future__ import annotations

from typing import Any


class DapwickError(Exception):
    """Root of everything this product raises on purpose."""


class BadInput(DapwickError, ValueError):
    """Data that cannot be used; `str()` is one line a stylist can act on."""

    def __init__(self, what: str, *, expected: str, got: str, where: str = "", remedy: str = "") -> None:
        self.what, self.expected, self.got, self.where, self.remedy = what, expected, got, where, remedy
        place = f"{where}: " if where else ""
        advice = f" {remedy}" if remedy else ""
        super().__init__(f"{place}{what} (expected {expected}, got {got}).{advice}")


class NotFound(DapwickError, LookupError):
    """Nothing by that name."""

    def __init__(self, kind: str, key: object) -> None:
        self.kind, self.key = kind, key
        super().__init__(f"There is no {kind} {key}. It may have been removed: go back to Today.")


class Overtaken(DapwickError):
    """A change made on top of something that has changed since. now: what it is, version: its name."""

    def __init__(self, what: str, now: Any, version: str) -> None:
        self.what, self.now, self.version = what, now, version
        self.remedy = "Take what is there now, or keep yours over it."
        super().__init__(f"{what} changed on another tablet meanwhile. {self.remedy}")


class KeptOut(DapwickError, PermissionError):
    """Nobody gets in without the salon's passcode. wait_s: how long until it can be tried again."""

    def __init__(self, what: str, wait_s: float = 0.0) -> None:
        self.what, self.wait_s = what, wait_s
        super().__init__(what)


class Busy(DapwickError, TimeoutError):
    """The records are being written by something else."""

    def __init__(self, reason: str) -> None:
        self.got = reason
        super().__init__("The salon's records are busy with another change. Nothing was lost; try again.")


class NoRoom(DapwickError, OSError):
    """The salon's folder takes nothing more; what was there before is untouched."""

    def __init__(self, reason: str) -> None:
        self.what, self.expected, self.got = "nothing more can be stored", "room on the disk", reason
        self.where, self.remedy = "", "Free some room or choose another disk, then do it again."
        super().__init__(f"The salon's disk takes nothing more ({reason}). Nothing was lost. {self.remedy}")
