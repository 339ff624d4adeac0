"""The passcode: who may come in from the local network. Off where the server is bound to its own machine only."""

from __future__ import annotations

import hashlib
import hmac
import secrets
import time
from datetime import UTC, datetime, timedelta
from threading import Lock
from typing import Final

from sqlalchemy import delete

from dapwick.core.errors import BadInput, KeptOut
from dapwick.records.models import SessionRow, now
from dapwick.records.store import SalonStore
from dapwick.service.settings import keep_setting, kept_setting

KEY: Final = "passcode"
LEAST, MOST = 6, 64
GENERATED_DIGITS: Final = 8
SESSION_DAYS: Final = 60
SEEN_EVERY: Final = timedelta(minutes=10)
FREE_TRIES: Final = 5
FIRST_WAIT_S, LONGEST_WAIT_S = 5.0, 300.0
SCRYPT: Final = {"n": 2**14, "r": 8, "p": 1, "maxmem": 64 * 1024 * 1024}


class Door:
    """Lets tablets in by the passcode and knows them again by their token. Wrong tries are counted for all
    together: on a salon's network one address hides another."""

    def __init__(self, store: SalonStore) -> None:
        self.store = store
        self._lock = Lock()
        self._wrong = 0
        self._shut_until = 0.0

    def ensure(self) -> str | None:
        """A passcode there must be: where none is set, one is made up and returned, this once."""
        if kept_setting(self.store, KEY, None):
            return None
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

    def enter(self, code: str) -> str:
        """A new tablet's token, for its cookie. Raises KeptOut for a wrong code, and while tries are shut off."""
        kept = kept_setting(self.store, KEY, None)
        # One try at a time: many at once would be as good as having no limit.
        with self._lock:
            wait = self._shut_until - time.monotonic()
            if wait > 0:
                raise KeptOut(f"Too many wrong tries. Try again in {wait:.0f} s.", wait)
            right = kept and hmac.compare_digest(
                _stretched(code[:MOST], bytes.fromhex(kept["salt"])), bytes.fromhex(kept["hash"])
            )
            if not right:
                self._count_wrong()
                raise KeptOut("That is not the salon's passcode.")
            self._wrong = 0
        token = secrets.token_urlsafe(32)
        with self.store.session() as session:
            session.add(SessionRow(token_hash=_hash(token)))
        return token

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

    def _seen(self, token: str) -> None:
        with self.store.session() as session:
            row = session.get(SessionRow, _hash(token))
            if row:
                row.seen = now()

    def _count_wrong(self) -> None:
        self._wrong += 1
        if self._wrong >= FREE_TRIES:
            wait = min(FIRST_WAIT_S * 2 ** (self._wrong - FREE_TRIES), LONGEST_WAIT_S)
            self._shut_until = time.monotonic() + wait


def _stretched(code: str, salt: bytes) -> bytes:
    return hashlib.scrypt(code.encode(), salt=salt, **SCRYPT)


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
