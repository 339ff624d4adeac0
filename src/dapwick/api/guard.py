"""What stands before every request: which names this salon answers to, where changes may come from, how large a body
may be, who is let in, and the headers that keep other pages out."""

from __future__ import annotations

import asyncio
import time
from http.cookies import CookieError, SimpleCookie
from typing import Any, Final
from urllib.parse import unquote, urlsplit

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dapwick.api.at_hand import COOKIE
from dapwick.api.said import strange
from dapwick.devices.network import Reach
from dapwick.service.photos.taking_in import LARGEST_PHOTO_BYTES
from dapwick.service.salon.passcode import Passcode

SAFE: Final = ("GET", "HEAD", "OPTIONS")
BODY_S: Final = 20.0
"""So long a body may say nothing."""
LEAST_BYTES_A_S: Final = 2_000
"""A body slower than this over all of its time is let go."""
FIRST_S: Final = 20.0
SEND_S: Final = 60.0
"""So long a client may take no byte of an answer."""
OPEN_PATHS: Final = ("/api/entrance", "/api/trust", "/api/trust/authority.crt")
"""What is answered before the passcode: asking for it, and what makes a tablet trust the salon."""
PHONE: Final = "/api/phone/"
"""A phone that takes one visit's photos shows the pass in its address instead."""
LARGEST_JSON: Final = 4 << 20
FORM_ROOM: Final = 8 << 20
"""Past the photo's own limit, so that a photo a little too large is told as such."""
LARGEST_UPLOAD: Final = {
    "/api/backups/file": 64 << 30,
    "/api/bundles": 4 << 30,
}
PHOTO_ENDS: Final = ("/photos", "/camera/guide")
POLICY: Final = "; ".join(
    (
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        # Positions of menus are set as styles of their elements; no style sheet may come that way.
        "style-src-attr 'unsafe-inline'",
        "img-src 'self' blob: data:",
        "font-src 'self'",
        "media-src 'self' blob:",
        "connect-src 'self'",
        "manifest-src 'self'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS: Final = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(self), microphone=(), geolocation=()",
}


class TooLarge(HTTPException):
    """A body went past its limit while it was read."""

    def __init__(self, limit: int) -> None:
        super().__init__(413, too_large_words(limit))


class TooSlow(HTTPException):
    """A body did not come in time."""

    def __init__(self) -> None:
        super().__init__(408, "That came too slowly. Nothing was changed; send it again.")


class Guard:
    """Wraps the application. Refusals are told as every other error is."""

    def __init__(self, app: ASGIApp, reach: Reach, door: Passcode | None) -> None:
        self.app, self.reach, self.door = app, reach, door

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        send = _with_headers(send)
        headers = Headers(scope=scope)
        refusal = self._refused(scope, headers) or await self._kept_out(scope, headers)
        if refusal:
            await refusal(scope, receive, send)
            return
        try:
            await self.app(scope, _limited(receive, limit_of(scope["path"])), send)
        except (ClientDisconnect, TimeoutError):
            # The tablet went away in the middle: nobody is there to be answered.
            return

    def _refused(self, scope: Scope, headers: Headers) -> JSONResponse | None:
        host = headers.get("host", "")
        if any(map(strange, scope["path"] + unquote(scope["query_string"].decode("latin-1")))):
            return _problem(400, "There is no such address.")
        if not self.reach.knows(host):
            return _problem(421, f"This salon does not answer to the name {host[:60] or 'nothing'}.")
        if scope["method"] not in SAFE and not same_origin(headers, host):
            return _problem(403, "Changes are taken from the salon's own pages only.")
        limit = limit_of(scope["path"])
        length = headers.get("content-length", "")
        if length.isdecimal() and int(length) > limit:
            return _too_large(limit)
        return None

    async def _kept_out(self, scope: Scope, headers: Headers) -> JSONResponse | None:
        path = scope["path"]
        if not self.reach.network or self.door is None or is_open(path):
            return None
        if await run_in_threadpool(self.door.knows, token_in(headers.get("cookie", ""))):
            return None
        return _problem(401, "Give the salon's passcode first.")


def is_open(path: str) -> bool:
    """Whether an address is answered without the passcode."""
    return not path.startswith("/api/") or path in OPEN_PATHS or path.startswith(PHONE)


def same_origin(headers: Headers, host: str) -> bool:
    """Whether a change comes from the salon's own page or from no page at all (a program, which sends no Origin)."""
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return False
    origin = headers.get("origin")
    return origin is None or urlsplit(origin).netloc.lower() == host.strip().lower()


def limit_of(path: str) -> int:
    """The largest body (bytes) that an address takes."""
    if path in LARGEST_UPLOAD:
        return LARGEST_UPLOAD[path]
    return LARGEST_PHOTO_BYTES + FORM_ROOM if path.endswith(PHOTO_ENDS) else LARGEST_JSON


def token_in(cookies: str) -> str | None:
    try:
        found = SimpleCookie(cookies).get(COOKIE)
    except CookieError:
        return None
    return found.value if found else None


def _limited(receive: Receive, limit: int) -> Receive:
    """Counts what really comes, whatever the length header said, and how fast."""
    taken, begun, over = 0, time.monotonic(), False

    async def counted() -> Message:
        nonlocal taken, over
        if over:
            # After the body only the client's leaving is waited for.
            return await receive()
        try:
            message = await asyncio.wait_for(receive(), BODY_S)
        except TimeoutError as error:
            raise TooSlow from error
        over = not message.get("more_body", False)
        taken += len(message.get("body", b""))
        if taken > limit:
            raise TooLarge(limit)
        if not over and taken < LEAST_BYTES_A_S * (time.monotonic() - begun - FIRST_S):
            raise TooSlow
        return message

    return counted


def _with_headers(send: Send) -> Send:
    async def sent(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
        await asyncio.wait_for(send(message), SEND_S)

    return sent


def _problem(status: int, message: str, **details: Any) -> JSONResponse:
    return JSONResponse({"message": message, **details}, status)


def _too_large(limit: int) -> JSONResponse:
    return _problem(413, too_large_words(limit))


def too_large_words(limit: int) -> str:
    return f"That is too large: at most {limit >> 20} MB are taken here."
