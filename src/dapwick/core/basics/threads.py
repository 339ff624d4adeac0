"""One thread for small matrices."""

from __future__ import annotations

from contextlib import AbstractContextManager
from functools import cache
from typing import Any

from threadpoolctl import ThreadpoolController


@cache
def _controller() -> ThreadpoolController:
    return ThreadpoolController()


def one_thread() -> AbstractContextManager[Any]:
    """Matrix work on one thread inside: handing a hundred unknowns from core to core costs more than solving
    them."""
    limited: AbstractContextManager[Any] = _controller().limit(limits=1, user_api="blas")
    return limited
