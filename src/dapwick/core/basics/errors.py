"""Domain errors. They know the job, not HTTP.

DapwickError
├── BadInput        the caller's data is wrong: what, expected, got, where, what to do
├── NotFound        there is no such dog, photo or visit
│   └── CodeOver    a phone's code that is no longer good
├── Conflict       somebody else changed the same thing meanwhile: what it is now, so that nobody overwrites it unseen
├── NotAuthorised         the passcode is missing or wrong
├── PasscodeWanted      running the salon from another machine wants the passcode once more
├── SalonInUse   the salon's folder is open in another program
├── Unreadable      the salon's records cannot be opened, or are not where they were
├── Busy            another change takes too long; the same call may go through later
└── StorageFull          the salon's disk is full or cannot be written
"""

from __future__ import annotations

from typing import Any, Final

BUSY_WAIT_S: Final = 2.0


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


class CodeOver(NotFound):
    """A phone shows a code that was never given out, or whose time or visit is over."""

    def __init__(self) -> None:
        super().__init__("code", "that is good now")
        self.what, self.expected, self.got, self.where = (
            "the code is over",
            "one that is good now",
            "this one",
            "",
        )
        self.remedy = "Press Phone on the tablet and scan the new one."
        self.args = (f"This code is no longer good. {self.remedy}",)


class Conflict(DapwickError):
    """A change made on top of something that has changed since. now: what it is, version: its name."""

    def __init__(self, what: str, now: Any, version: str) -> None:
        self.what, self.now, self.version = what, now, version
        self.remedy = "Take what is there now, or keep yours over it."
        super().__init__(f"{what} changed on another tablet meanwhile. {self.remedy}")


class NotAuthorised(DapwickError, PermissionError):
    """Nobody gets in without the salon's passcode. wait_s: how long until it can be tried again."""

    def __init__(self, what: str, wait_s: float = 0.0) -> None:
        self.what, self.wait_s = what, wait_s
        super().__init__(what)


class PasscodeWanted(DapwickError, PermissionError):
    """Running the salon from another machine wants the passcode once more."""

    def __init__(self) -> None:
        self.what, self.expected, self.got = "administration", "the salon's passcode again", "none lately"
        self.where, self.remedy = "", "Give the passcode again, or do it at the salon's own machine."
        super().__init__(f"This is done at the salon's own machine, or with its passcode. {self.remedy}")


class SalonInUse(DapwickError):
    """One program at a time: who has the folder."""

    def __init__(self, folder: str, holder: str) -> None:
        self.what, self.expected, self.got, self.where = (
            "the salon is open elsewhere",
            "nobody",
            holder,
            folder,
        )
        self.remedy = "End that one first, or choose another folder."
        super().__init__(f"{folder} is open in {holder}. {self.remedy}")


class Unreadable(DapwickError, OSError):
    """The records cannot be used as they are; nothing of them was changed."""

    def __init__(self, where: str, reason: str, remedy: str) -> None:
        self.what, self.expected, self.got = "the salon's records cannot be used", "a salon's records", reason
        self.where, self.remedy = where, remedy
        super().__init__(
            f"{where}: the salon's records cannot be used ({reason}). Nothing was changed. {remedy}"
        )


class Busy(DapwickError, TimeoutError):
    """Something else has to be done first. wait_s: when to try again."""

    def __init__(self, reason: str) -> None:
        self.what, self.expected, self.got, self.where = "busy", "a free moment", reason, ""
        self.remedy, self.wait_s = "Try again in a moment.", BUSY_WAIT_S
        super().__init__(f"The salon's computer is busy: {reason}. Nothing was lost; try again in a moment.")


class StorageFull(DapwickError, OSError):
    """The salon's folder takes nothing more; what was there before is untouched."""

    def __init__(self, reason: str) -> None:
        self.what, self.expected, self.got = "nothing more can be stored", "room on the disk", reason
        self.where, self.remedy = "", "Free some room or choose another disk, then do it again."
        super().__init__(f"The salon's disk takes nothing more ({reason}). Nothing was lost. {self.remedy}")
