"""The whole API with made-up calls by its own description: whatever comes, no answer is a fault of the server."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from starlette.types import Receive, Scope, Send

from dapwick.api.app import make_app
from dapwick.devices.network import Reach
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo

CALLS = 12
"""Made-up calls an operation; the same ones every time."""


@pytest.fixture(scope="module")
def description(tmp_path_factory: pytest.TempPathFactory) -> Iterator[object]:
    """A salon with two dogs, one of them marked."""
    store = SalonStore(tmp_path_factory.mktemp("any"))
    fill_with_demo(store, ("fogbell", "bobbin"))
    app = make_app(store, reach=Reach(frozenset({"testserver"}), False, None))

    async def always_open(scope: Scope, receive: Receive, send: Send) -> None:
        """Every call would start and end the salon otherwise."""
        if scope["type"] == "http":
            await app(scope, receive, send)
            return
        while (message := await receive())["type"] == "lifespan.startup":
            await send({"type": "lifespan.startup.complete"})
        await send({"type": f"{message['type']}.complete"})

    yield schemathesis.openapi.from_asgi("/api/openapi.json", always_open)
    store.close()


OPERATIONS = [(method, path) for path, of in make_app(None).openapi()["paths"].items() for method in of]


@pytest.mark.parametrize(("method", "path"), OPERATIONS)
def test_no_call_is_answered_by_a_fault(description: Any, method: str, path: str) -> None:
    @settings(
        max_examples=CALLS,
        derandomize=True,
        database=None,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=description[path][method].as_strategy())
    def called(case: schemathesis.Case) -> None:
        case.call_and_validate(checks=(not_a_server_error,))

    called()
