"""The passcode: who may come in from the local network, and who may run the salon from there."""

from __future__ import annotations

import hashlib
import hmac
import secrets
import time
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from threading import BoundedSemaphore, Lock
from typing import Final

from sqlalchemy import delete

from dapwick.core.basics.errors import BadInput, Busy, NotAuthorised
from dapwick.records.models import SessionRow, now
from dapwick.records.store import SalonStore
from dapwick.service.salon.settings import keep_setting, kept_setting

KEY: Final = "passcode"
LEAST, MOST = 6, 64
GENERATED_DIGITS: Final = 8
SESSION_DAYS: Final = 60
SEEN_EVERY: Final = timedelta(minutes=10)
VOUCHED_S: Final = 600.0
"""So long after the passcode was given again the salon may be run from a tablet."""
FREE_TRIES: Final = 5
FIRST_WAIT_S, LONGEST_WAIT_S = 5.0, 300.0
MOST_ADDRESSES: Final = 2000
HERE: Final = "here"
"""The address of this machine itself: nobody makes it wait."""
AT_ONCE: Final = 2
SCRYPT: Final = {"n": 2**14, "r": 8, "p": 1, "maxmem": 64 * 1024 * 1024}


@dataclass
class _Tries:
    wrong: int = 0
    shut_until: float = 0.0


class Passcode:
    """Lets tablets in by the passcode and knows them again by their token. Wrong tries are counted by the address
    they come from, so that nobody holds the door shut for others."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._lock = Lock()
        self._stretching = BoundedSemaphore(AT_ONCE)
        self._tries: OrderedDict[str, _Tries] = OrderedDict()
        self._vouched: dict[str, float] = {}

    def ensure(self) -> str | None:
        """A passcode there must be: where none is set, one is made up and returned, this once."""
        return None if self.has_passcode() else self.renew()

    def has_passcode(self) -> bool:
        return kept_setting(self.store, KEY, None) is not None

    def renew(self) -> str:
        """A new one, made up; every tablet has to give it."""
        code = "".join(secrets.choice("0123456789") for _ in range(GENERATED_DIGITS))
        self.change(code)
        return code

    def change(self, code: str) -> None:
        """Set it; every tablet has to give the new one."""
        if not LEAST <= len(code) <= MOST:
            raise BadInput(
                "passcode",
                expected=f"{LEAST} to {MOST} letters or digits",
                got=f"{len(code)}",
                where="passcode",
            )
        salt = secrets.token_bytes(16)
        keep_setting(self.store, KEY, {"salt": salt.hex(), "hash": _stretched(code, salt).hex()})
        with self.store.session() as session:
            session.execute(delete(SessionRow))
        with self._lock:
            self._vouched.clear()

    def enter(self, code: str, address: str = HERE) -> str:
        """A new tablet's token, for its cookie. Raises NotAuthorised for a wrong code, and while tries from this
        address are shut off."""
        self._check(code, address)
        token = secrets.token_urlsafe(32)
        with self.store.session() as session:
            session.add(SessionRow(token_hash=_hash(token)))
        return token

    def vouch(self, token: str | None, code: str, address: str = HERE) -> None:
        """The passcode again, from a tablet that was let in: it may run the salon for a while."""
        if not self.knows(token):
            raise NotAuthorised("Give the salon's passcode first.")
        self._check(code, address)
        with self._lock:
            self._vouched[_hash(token or "")] = time.monotonic() + VOUCHED_S

    def vouches_for(self, token: str | None) -> bool:
        """Whether a tablet gave the passcode again a short while ago."""
        with self._lock:
            return self._vouched.get(_hash(token or ""), 0.0) > time.monotonic()

    def knows(self, token: str | None) -> bool:
        """Whether a token was given out and is not too old."""
        if not token:
            return False
        oldest = datetime.now(UTC).replace(tzinfo=None) - timedelta(days=SESSION_DAYS)
        with self.store.reading() as session:
            row = session.get(SessionRow, _hash(token))
            if row is None or row.seen < oldest:
                return False
            seen = row.seen
        if now() - seen > SEEN_EVERY:
            self._seen(token)
        return True

    def leave(self, token: str | None) -> None:
        """A token that counts no more."""
        with self.store.session() as session:
            session.execute(delete(SessionRow).where(SessionRow.token_hash == _hash(token or "")))

    def _check(self, code: str, address: str) -> None:
        kept = kept_setting(self.store, KEY, None)
        with self._one_try(address):
            right = kept and hmac.compare_digest(
                _stretched(code[:MOST], bytes.fromhex(kept["salt"])), bytes.fromhex(kept["hash"])
            )
            if not right:
                raise NotAuthorised("That is not the salon's passcode.")

    @contextmanager
    def _one_try(self, address: str) -> Iterator[None]:
        """One try counts as wrong from the moment it begins: many at once are no better than one after another."""
        with self._lock:
            tries = self._tries.setdefault(address, _Tries())
            self._tries.move_to_end(address)
            while len(self._tries) > MOST_ADDRESSES:
                self._tries.popitem(last=False)
            wait = tries.shut_until - time.monotonic()
            if wait > 0 and address != HERE:
                raise NotAuthorised(f"Too many wrong tries. Try again in {wait:.0f} s.", wait)
            tries.wrong += 1
            if tries.wrong >= FREE_TRIES:
                pause = min(FIRST_WAIT_S * 2 ** (tries.wrong - FREE_TRIES), LONGEST_WAIT_S)
                tries.shut_until = time.monotonic() + pause
        if not self._stretching.acquire(timeout=LONGEST_WAIT_S / 60):
            raise Busy("many give a passcode at once")
        try:
            yield
        finally:
            self._stretching.release()
        with self._lock:
            self._tries.pop(address, None)

    def _seen(self, token: str) -> None:
        """Told now and then; a look never waits for a change because of it."""
        try:
            with self.store.session() as session:
                row = session.get(SessionRow, _hash(token))
                if row:
                    row.seen = now()
        except Busy:
            return


def _stretched(code: str, salt: bytes) -> bytes:
    return hashlib.scrypt(code.encode(errors="replace"), salt=salt, **SCRYPT)


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode(errors="replace")).hexdigest()
