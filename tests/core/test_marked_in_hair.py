"""A crown marked in its hair is told once a comb went in, and a well-marked one is not."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.marked_in_hair import crown_in_hair_mm, words_of
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM, skin_and_coat
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.pipeline.head_model import model_of
from simheads import random_head
from swollen import edges_over

DEEP_MM = 22.0
COMBED = [CoatProbe(zone, None, DEEP_MM) for zone in ("crown", "cheek", "visor", "chin", "jaw")]


@pytest.fixture(scope="module")
def head() -> HeadSolution:
    solved = solve_head(random_head(11, ("front", "left", "top"), hand=2).given)
    assert isinstance(solved, HeadSolution)
    return solved


def cover_mm(head: HeadSolution, under_mm: float) -> tuple[Skin, np.ndarray]:
    """An even coat over a skull that is so much lower round the crown's mark than it was marked."""
    warped = skin_of(head)
    away = np.linalg.norm(warped.vertices_mm - head.points_mm[INDEX["crown"]], axis=1)
    return warped, DEEP_MM - STANDS_OUT_MM - under_mm * np.exp(-((away / 40) ** 2))


@pytest.mark.parametrize(("under_mm", "told"), [(0.0, False), (12.0, True), (-8.0, False)])
def test_comb_and_edge_tell_a_mark_in_the_hair(head: HeadSolution, under_mm: float, told: bool) -> None:
    warped, cover = cover_mm(head, under_mm)
    skin, _ = skin_and_coat(head, "standing", edges_over(head, warped, cover), COMBED)
    found = crown_in_hair_mm(head, skin, COMBED)
    assert (found is not None) == told
    if found is not None:
        assert 3.0 < found < 13.0


def test_without_a_comb_at_the_crown_nothing_is_told(head: HeadSolution) -> None:
    warped, cover = cover_mm(head, 12.0)
    elsewhere = [one for one in COMBED if one.zone != "crown"]
    skin, _ = skin_and_coat(head, "standing", edges_over(head, warped, cover), elsewhere)
    assert crown_in_hair_mm(head, skin, elsewhere) is None
    assert words_of(None) == ()


def test_a_crown_that_nobody_marked_was_not_marked_in_the_hair(head: HeadSolution) -> None:
    warped, cover = cover_mm(head, 12.0)
    skin, _ = skin_and_coat(head, "standing", edges_over(head, warped, cover), COMBED)
    assert crown_in_hair_mm(head, skin, COMBED) is not None
    assert crown_in_hair_mm(replace(head, placed=head.placed - {"crown"}), skin, COMBED) is None


def test_the_head_says_so_beside_its_outline(head: HeadSolution) -> None:
    warped, cover = cover_mm(head, 12.0)
    lines = {
        photo.name: edge.line_px
        for photo, edge in zip(head.photos, edges_over(head, warped, cover), strict=True)
    }
    (note,) = model_of(head, "standing", lines, COMBED).notes
    assert note.startswith("By comb and edge the crown lies ")
    assert note.endswith(
        " mm under its mark: if it was marked in the hair, press to the bone and mark it again."
    )
    assert model_of(head, "standing", lines, []).notes == ()
