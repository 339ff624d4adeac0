"""What is answered over plain http on the local network: how to trust the salon, the way to its https address, and a
phone that brings photos of one visit. Everything else is for https."""

from __future__ import annotations

from typing import Final

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dapwick.api.guard import OPEN_PATHS, PHONE, POLICY
from dapwick.devices.network import HERE, Reach, host_name

POLICY_HEADER: Final = "Content-Security-Policy"


class PlainDoor:
    """Wraps the application. This machine itself needs no https: a browser trusts it by its name."""

    def __init__(self, app: ASGIApp, reach: Reach) -> None:
        self.app, self.reach = app, reach

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if not self._plain(scope):
            await self.app(scope, receive, send)
        elif may_come_plain(scope["path"]):
            await self.app(scope, receive, self._may_ask_for_https(send))
        else:
            words = f"Over the network the salon is open at {self.reach.address} only."
            await JSONResponse({"message": words}, 403)(scope, receive, send)

    def _plain(self, scope: Scope) -> bool:
        if scope["type"] != "http" or self.reach.plain is None or scope["scheme"] == "https":
            return False
        return host_name(Headers(scope=scope).get("host", "")) not in HERE

    def _may_ask_for_https(self, send: Send) -> Send:
        """The first page tries whether the salon is trusted yet."""

        async def sent(message: Message) -> None:
            if message["type"] == "http.response.start":
                also = f"connect-src 'self' {self.reach.address}"
                MutableHeaders(scope=message)[POLICY_HEADER] = POLICY.replace("connect-src 'self'", also)
            await send(message)

        return sent


def may_come_plain(path: str) -> bool:
    """The screens themselves hold nothing of the salon; of its answers only what is open before the passcode may
    come, the passcode itself never."""
    if not path.startswith("/api/"):
        return True
    return path.startswith(PHONE) or (path in OPEN_PATHS and path != "/api/entrance")
