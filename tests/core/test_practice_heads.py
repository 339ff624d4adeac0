"""Made heads: the same number the same head, and one that the product would believe."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dapwick.core.basics.marks import INDEX, PAIRS
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.practice.heads import COATS, MUZZLES, MadeHead, made_head, some_kind

SEEDS = st.integers(0, 10_000)


@given(SEEDS)
@settings(max_examples=25)
def test_a_number_is_always_the_same_head(seed: int) -> None:
    one, other = (made_head(seed, some_kind(seed)) for _ in range(2))
    assert np.array_equal(one.ground.skin.vertices_mm, other.ground.skin.vertices_mm)
    assert np.array_equal(one.ground.coat.depth_mm, other.ground.coat.depth_mm)


def test_other_numbers_are_other_heads() -> None:
    heads = [made_head(seed, some_kind(3)) for seed in range(5)]
    apart = [np.abs(a.head.points_mm - b.head.points_mm).max() for a in heads for b in heads if a is not b]
    assert min(apart) > 2.0


@given(SEEDS)
@settings(max_examples=25)
def test_coat_grows_where_it_grows_and_nowhere_else(seed: int) -> None:
    ground = made_head(seed, some_kind(seed)).ground
    bare = ground.skin.template.zone == ZONES.index(BARE)
    assert (ground.coat.depth_mm[bare] == 0).all()
    assert (ground.coat.depth_mm[~bare] > 0.5).all()
    assert ground.coat.depth_mm.max() < 120


@given(SEEDS)
@settings(max_examples=25)
def test_heads_are_dogs(seed: int) -> None:
    """Nose before eyes before occiput, crown over the eyes, chin under the nose, left on the left."""
    at = made_head(seed, some_kind(seed)).head.points_mm
    y, z = (at[:, axis] for axis in (1, 2))
    assert y[INDEX["nose_tip"]] > y[INDEX["stop"]] > y[INDEX["occiput"]]
    assert z[INDEX["crown"]] > z[INDEX["stop"]]
    assert z[INDEX["chin"]] < z[INDEX["nose_tip"]]
    assert all(at[left, 0] < at[right, 0] for left, right in PAIRS)


@pytest.mark.parametrize("uneven", [0.0, 1.0])
def test_how_uneven_the_bone_is_can_be_asked(uneven: float) -> None:
    def apart(made: MadeHead) -> float:
        at = made.head.points_mm
        return float(np.mean([np.abs(at[a] * [-1, 1, 1] - at[b]).max() for a, b in PAIRS]))

    kind = some_kind(1, uneven=uneven)
    mean = np.mean([apart(made_head(seed, kind)) for seed in range(4)])
    assert mean < 1e-6 if uneven == 0.0 else mean > 0.5


def test_every_kind_of_head_and_coat_comes() -> None:
    kinds = [some_kind(seed) for seed in range(200)]
    assert {kind.muzzle for kind in kinds} == set(MUZZLES)
    assert {kind.coat_type for kind in kinds} == set(COATS)


def test_a_longer_coat_is_longer() -> None:
    short, long = (made_head(5, some_kind(5, coat_share=share)) for share in (0.8, 1.6))
    assert np.median(long.ground.coat.depth_mm) == pytest.approx(
        2 * np.median(short.ground.coat.depth_mm), rel=0.01
    )
    assert long.now_mm("cheek") > short.now_mm("cheek")
