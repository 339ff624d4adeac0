"""Photos taken together."""

from __future__ import annotations

from datetime import datetime, timedelta
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from dapwick.pipeline.bursts import LONGEST_PAUSE_S, bursts

NOON = datetime(2026, 5, 4, 12)


def test_before_and_after_the_bath_are_two_bursts_and_the_untimed_a_third() -> None:
    at = {1: NOON, 2: NOON + timedelta(minutes=3), 3: NOON + timedelta(hours=1), 4: None, 5: None}
    found = bursts(at)
    assert [found[i] for i in at] == [(1, 2), (1, 2), (3,), (4, 5), (4, 5)]


@given(st.dictionaries(st.integers(1, 30), st.one_of(st.none(), st.integers(0, 9000))))
def test_each_photo_is_in_one_burst_and_pauses_part_them(seconds: dict[int, int | None]) -> None:
    found = bursts({k: None if s is None else NOON + timedelta(seconds=s) for k, s in seconds.items()})
    assert set(found) == set(seconds)
    for photo, together in found.items():
        assert photo in together
        assert all(found[other] == together for other in together)
    timed = sorted((s, k) for k, s in seconds.items() if s is not None)
    for (a, first), (b, second) in pairwise(timed):
        assert (found[first] == found[second]) == (b - a <= LONGEST_PAUSE_S)
