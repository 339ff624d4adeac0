"""What readings tell of a quantity over the skin is what conditioning a normal distribution tells, written out."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.arrays import Array, unit
from dapwick.core.head.gaussian_process import (
    MAX_READINGS,
    REPEATS_MM,
    TOO_MUCH_MM,
    Kernel,
    Readings,
    merged,
    posterior_from,
)

LEAST_SIGMA_MM = 0.5


def places(count: int = 40, seed: int = 3) -> Array:
    """Places all round a ball of 50 mm, far enough apart not to repeat each other."""
    rng = np.random.default_rng(seed)
    found: list[Array] = []
    while len(found) < count:
        one = 50.0 * unit(rng.normal(size=3))
        if all(np.linalg.norm(one - other) > REPEATS_MM for other in found):
            found.append(one)
    return np.array(found)


def covariance(at: Array, like: Kernel) -> Array:
    """Prior covariance (V, V), place by place."""
    n = len(at)
    found = np.empty((n, n))
    for i in range(n):
        for j in range(n):
            near = np.exp(-0.5 * np.sum((at[i] - at[j]) ** 2) / like.reach_mm**2)
            mirrored = np.exp(-0.5 * np.sum((at[i] - at[j] * [-1, 1, 1]) ** 2) / like.reach_mm**2)
            own = [
                1 + like.sides_alike * np.exp(-0.5 * (2 * at[k, 0]) ** 2 / like.reach_mm**2) for k in (i, j)
            ]
            kernel = (near + like.sides_alike * mirrored) / np.sqrt(own[0] * own[1])
            found[i, j] = kernel * like.sigma_mm[i] * like.sigma_mm[j] + like.whole[i] * like.whole[j]
    return found


@given(st.integers(0, 10_000), st.floats(0.0, 1.0), st.floats(0.0, 4.0), st.booleans())
def test_it_is_the_conditional_of_a_normal(seed: int, alike: float, common_mm: float, whole: bool) -> None:
    rng, at = np.random.default_rng(seed), places()
    like = Kernel(rng.uniform(3, 8, 40), 25.0, alike, rng.uniform(1, 5, 40) if whole else None)
    read = rng.choice(40, 6, replace=False)
    one = Readings(read[:4], rng.normal(20, 5, 4), rng.uniform(0.5, 3, 4), common_mm=common_mm)
    other = Readings(read[4:], rng.normal(20, 5, 2), rng.uniform(0.5, 3, 2))
    found = posterior_from(at, merged(at, [one, other]), like)

    prior = covariance(at, like)
    noise = np.diag(np.concatenate([one.sigma_mm, other.sigma_mm]) ** 2)
    noise[:4, :4] += common_mm**2
    mean = rng.normal(20, 2, 40)
    gain = prior[:, read] @ np.linalg.inv(prior[np.ix_(read, read)] + noise)
    said = np.concatenate([one.mm, other.mm])
    assert np.allclose(found.value(mean[None])[0], mean + gain @ (said - mean[read]), atol=1e-6)
    after = np.sqrt(np.maximum((prior - gain @ prior[read]).diagonal(), LEAST_SIGMA_MM**2))
    assert np.allclose(found.sigma()[0], after, atol=1e-6)


@given(st.integers(0, 10_000))
def test_of_two_quantities_it_is_the_conditional_of_both(seed: int) -> None:
    """Readings of one, of the other and of sums of both: each value, σ and how the two go together."""
    rng, at = np.random.default_rng(seed), places(24)
    likes = [Kernel(rng.uniform(3, 8, 24), reach, 0.5, rng.uniform(1, 5, 24)) for reach in (20.0, 30.0)]
    read = rng.choice(24, 9, replace=False)
    shares = [(1.0, 0.0), (0.0, 1.0), (1.0, rng.uniform(0.1, 1.0, 3))]
    parts = [
        Readings(read[3 * i : 3 * i + 3], rng.normal(20, 5, 3), rng.uniform(0.5, 3, 3), of=of)
        for i, of in enumerate(shares)
    ]
    found = posterior_from(at, merged(at, parts, 2), *likes)

    prior = np.zeros((48, 48))
    prior[:24, :24], prior[24:, 24:] = (covariance(at, like) for like in likes)
    shows = np.zeros((9, 48))
    for i, of in enumerate(shares):
        rows = np.arange(3 * i, 3 * i + 3)
        shows[rows, read[rows]], shows[rows, 24 + read[rows]] = of
    noise = np.diag(np.concatenate([p.sigma_mm for p in parts]) ** 2)
    mean = rng.normal(20, 2, 48)
    gain = prior @ shows.T @ np.linalg.inv(shows @ prior @ shows.T + noise)
    said = np.concatenate([p.mm for p in parts])
    after = prior - gain @ shows @ prior
    assert np.allclose(
        found.value(mean.reshape(2, 24)).ravel(), mean + gain @ (said - shows @ mean), atol=1e-6
    )
    sigma = np.sqrt(np.maximum(after.diagonal(), LEAST_SIGMA_MM**2))
    assert np.allclose(found.sigma().ravel(), sigma, atol=1e-6)
    assert np.allclose(found.covariance()[:, 0, 1], after[:24, 24:].diagonal(), atol=1e-6)


def test_without_readings_it_is_what_was_expected() -> None:
    at = places()
    like = Kernel(np.full(40, 6.0), 25.0, 0.0, np.full(40, 2.5))
    known = posterior_from(at, merged(at, []), like)
    assert np.array_equal(known.value(np.full((1, 40), 17.0)), np.full((1, 40), 17.0))
    assert known.sigma()[0] == pytest.approx(np.full(40, 6.5))


def test_the_mirrored_place_hears_as_much_as_sides_are_alike() -> None:
    at = np.array([[40.0, 10.0, 0.0], [-40.0, 10.0, 0.0]])
    for alike in (0.0, 0.5, 1.0):
        like = Kernel(np.full(2, 6.0), 20.0, alike)
        read = merged(at, [Readings(np.array([0]), np.array([10.0]), np.array([1e-3]))])
        here, there = posterior_from(at, read, like).value(np.zeros((1, 2)))[0]
        assert here == pytest.approx(10.0, rel=1e-3)
        across = np.exp(-0.5 * (80.0 / 20.0) ** 2)
        expected = (across + alike) / (1 + alike * across)
        assert there / here == pytest.approx(expected, rel=1e-3)


def test_a_place_on_the_middle_line_is_its_own_mirror() -> None:
    """Alike sides take nothing from the doubt of a place, whether it has another side or not."""
    at = np.array([[0.0, 10.0, 0.0], [40.0, 10.0, 0.0]])
    sigma = posterior_from(at, merged(at, []), Kernel(np.full(2, 6.0), 20.0, 1.0)).sigma()[0]
    assert sigma[0] == pytest.approx(6.0)
    assert sigma[1] == pytest.approx(6.0)


def test_nothing_is_known_to_less_than_half_a_millimetre() -> None:
    at = places()
    read = merged(at, [Readings(np.arange(40), np.full(40, 9.0), np.full(40, 1e-4))])
    assert posterior_from(at, read, Kernel(np.full(40, 6.0), 25.0, 0.0)).sigma()[0] == pytest.approx(
        np.full(40, LEAST_SIGMA_MM)
    )


def test_repeats_of_one_part_count_as_one_and_of_two_parts_as_two() -> None:
    at = np.zeros((4, 3))
    one = Readings(np.arange(4), np.full(4, 9.0), np.full(4, 2.0))
    assert merged(at, [one]).sigma_mm == pytest.approx(np.full(4, 4.0))
    parts = [Readings(np.array([i, i + 1]), np.full(2, 9.0), np.full(2, 2.0)) for i in (0, 2)]
    assert merged(at, parts).sigma_mm == pytest.approx(np.full(4, 2.0 * np.sqrt(2)))


@pytest.mark.parametrize(("gap_mm", "repeats"), [(REPEATS_MM - 0.1, True), (REPEATS_MM + 0.1, False)])
def test_what_is_close_enough_to_repeat(gap_mm: float, repeats: bool) -> None:
    at = np.array([[0.0, 0.0, 0.0], [gap_mm, 0.0, 0.0]])
    sigma = merged(at, [Readings(np.array([0, 1]), np.full(2, 9.0), np.full(2, 2.0))]).sigma_mm
    assert sigma == pytest.approx(np.full(2, 2.0 * np.sqrt(2) if repeats else 2.0))


@pytest.mark.parametrize(("above_mm", "kept"), [(TOO_MUCH_MM, True), (TOO_MUCH_MM + 0.1, False)])
def test_what_stands_in_the_way_is_told_by_a_quarter_of_its_neighbours(above_mm: float, kept: bool) -> None:
    at = np.zeros((5, 3))
    mm = np.array([10.0, 10.0, 14.0, 14.0, 10.0 + above_mm])
    assert (4 in merged(at, [Readings(np.arange(5), mm, np.ones(5), one_sided=True)]).at) == kept


def test_a_neighbour_across_the_middle_shows_it_too() -> None:
    at = np.array([[30.0, 0, 0], [-30.0, 0, 0], [-30.0, 1, 0], [-30.0, 2, 0], [-30.0, 3, 0]])
    mm = np.array([40.0, 10.0, 10.0, 10.0, 10.0])
    assert 0 not in merged(at, [Readings(np.arange(5), mm, np.ones(5), one_sided=True)]).at


def test_many_readings_are_thinned_evenly_and_never_past_the_most() -> None:
    count = 3 * MAX_READINGS + 1
    at = np.column_stack([np.arange(count) * 20.0, np.zeros(count), np.zeros(count)])
    kept = merged(at, [Readings(np.arange(count), np.zeros(count), np.ones(count), one_sided=True)]).at
    assert MAX_READINGS / 2 < len(kept) <= MAX_READINGS
    assert set(np.diff(kept)) == {4}
