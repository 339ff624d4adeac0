"""The last few of something costly: the oldest goes first, and each is made once however many ask."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier, Event

import pytest

from dapwick.pipeline.lru_cache import LruCache


def test_the_one_not_asked_for_longest_goes_first() -> None:
    cache = LruCache[int](2)
    cache.put("a", 1)
    cache.put("b", 2)
    assert cache.get("a") == 1
    cache.put("c", 3)
    assert (cache.get("a"), cache.get("b"), cache.get("c")) == (1, None, 3)


def test_put_again_is_the_newer_value() -> None:
    cache = LruCache[int](2)
    assert cache.put("a", 1) == 1
    assert cache.put("a", 5) == 5
    assert cache.get("a") == 5


def test_each_is_made_once() -> None:
    cache, made = LruCache[str](4), list[str]()

    def make() -> str:
        made.append("made")
        return "head"

    assert [cache.get_or_make("a", make) for _ in range(3)] == ["head"] * 3
    assert made == ["made"]


def test_many_who_ask_at_once_wait_for_one_maker() -> None:
    cache, made = LruCache[int](4), list[int]()
    together, may_end = Barrier(8), Event()

    def make() -> int:
        made.append(1)
        assert may_end.wait(10)
        return 7

    def ask(_: int) -> int:
        together.wait(10)
        return cache.get_or_make("a", make)

    with ThreadPoolExecutor(8) as pool:
        asked = [pool.submit(ask, i) for i in range(8)]
        while not made:
            pass
        may_end.set()
        assert [one.result(10) for one in asked] == [7] * 8
    assert len(made) == 1


def test_another_key_need_not_wait() -> None:
    cache, may_end, began = LruCache[int](4), Event(), Event()

    def slow() -> int:
        began.set()
        assert may_end.wait(10)
        return 1

    with ThreadPoolExecutor(1) as pool:
        first = pool.submit(cache.get_or_make, "a", slow)
        assert began.wait(10)
        assert cache.get_or_make("b", lambda: 2) == 2
        may_end.set()
        assert first.result(10) == 1


def test_where_making_fails_nothing_is_kept_and_the_next_one_tries() -> None:
    cache = LruCache[int](2)

    def fail() -> int:
        raise OSError("no photo")

    with pytest.raises(OSError, match="no photo"):
        cache.get_or_make("a", fail)
    assert cache.get("a") is None
    assert cache.get_or_make("a", lambda: 3) == 3
    assert not cache._makers


def test_a_maker_may_ask_for_itself() -> None:
    """A head made on the way to another one, on the same thread, does not stand in its own way."""
    cache = LruCache[int](4)
    assert cache.get_or_make("a", lambda: cache.get_or_make("a", lambda: 1) + 1) in (1, 2)
