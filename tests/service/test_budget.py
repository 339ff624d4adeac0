"""Turns for heavy work: so many at once, who waits with a screen in hand first, and an honest no."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from dapwick.core.basics.errors import Busy
from dapwick.service.concurrency.budget import Budget


@pytest.fixture
def small() -> Budget:
    return Budget(at_once=1, waiting=2, patience_s=0.2)


def test_so_many_at_once_the_next_in_a_queue_and_an_honest_no(small: Budget) -> None:
    held, over = threading.Event(), threading.Event()

    def hold() -> None:
        with small.turn():
            held.set()
            over.wait(5)

    hand = threading.Thread(target=hold)
    hand.start()
    assert held.wait(5)
    with ThreadPoolExecutor(8) as hands:
        said = list(hands.map(lambda _: refused(small), range(8)))
    assert sum("many heads" in words for words in said) >= 4
    assert sum("other heads" in words for words in said) >= 2
    over.set()
    hand.join()
    with small.turn(), small.turn():
        # Who has a turn does not need another.
        assert refused(small) == ""


def refused(budget: Budget) -> str:
    try:
        with budget.turn():
            return ""
    except Busy as error:
        return str(error)


def test_a_turn_is_given_back_whatever_happens(small: Budget) -> None:
    for _ in range(3):
        with pytest.raises(ZeroDivisionError), small.turn():
            raise ZeroDivisionError
    assert refused(small) == ""


def waits(budget: Budget, many: int) -> bool:
    """Whether so many come to wait for a turn."""
    until = time.monotonic() + 5
    while budget._waiting < many and time.monotonic() < until:
        time.sleep(0.005)
    return budget._waiting == many


@pytest.mark.parametrize("patient", [True, False])
def test_what_is_in_nobodys_hand_lets_who_waits_go_first(patient: bool) -> None:
    budget, order = Budget(at_once=1, patience_s=5), []

    def work(name: str, behind: bool) -> None:
        with budget.turn(patient=behind and patient, gives_way=behind):
            order.append(name)
            # Who comes while one is at work goes before what gave way earlier, too.
            if name == "first in hand":
                hands.submit(work, "second in hand", False)
                assert waits(budget, 2)

    with ThreadPoolExecutor(4) as hands:
        with budget.turn():
            hands.submit(work, "photo", True)
            assert waits(budget, 1)
            first = hands.submit(work, "first in hand", False)
            assert waits(budget, 2)
        first.result(5)
    assert order == ["first in hand", "second in hand", "photo"]


def test_everybody_has_a_turn_and_never_more_than_two_at_once() -> None:
    budget, now, most, done = Budget(at_once=2, waiting=99, patience_s=20), 0, 0, []
    count = threading.Lock()

    def work(number: int) -> None:
        nonlocal now, most
        with budget.turn(patient=number % 3 == 0, gives_way=number % 3 == 1):
            with count:
                now, most = now + 1, max(most, now + 1)
            time.sleep(0.002)
            with count:
                now -= 1
                done.append(number)

    with ThreadPoolExecutor(12) as hands:
        list(hands.map(work, range(90)))
    assert (sorted(done), most) == (list(range(90)), 2)
