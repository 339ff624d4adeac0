"""The printed page, rendered and measured."""

from __future__ import annotations

import numpy as np
import pypdfium2
import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.solve.scale_card import (
    GAP_MM,
    HEIGHT_MM,
    MARKER_IDS,
    MARKER_MM,
    WIDTH_MM,
    marker_corners_mm,
)
from dapwick.exports.scale_card import scale_card_pdf
from dapwick.vision.card import read_card

DPI = 300
PX_PER_MM = DPI / 25.4


def rendered(paper: str) -> np.ndarray:
    document = pypdfium2.PdfDocument(scale_card_pdf(paper))
    assert len(document) == 1
    return np.ascontiguousarray(document[0].render(scale=DPI / 72).to_numpy()[:, :, ::-1])


@pytest.mark.parametrize(("paper", "size_mm"), [("a4", (210.0, 297.0)), ("letter", (215.9, 279.4))])
def test_the_page_has_its_papers_size(paper: str, size_mm: tuple[float, float]) -> None:
    height, width = rendered(paper).shape[:2]
    assert (width / PX_PER_MM, height / PX_PER_MM) == pytest.approx(size_mm, abs=0.2)


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_check_line_measures_100_mm(paper: str) -> None:
    """From end tick to end tick: the tall ticks are the only dark columns below the line's foot."""
    ink = rendered(paper).min(axis=2) < 140
    rows = np.flatnonzero(ink.sum(axis=1) > 98 * PX_PER_MM)
    row = rows[rows > ink.shape[0] * 0.2].max()
    below = ink[row + round(3.0 * PX_PER_MM)]
    ticks = np.flatnonzero(below)
    assert (ticks.max() - ticks.min()) / PX_PER_MM == pytest.approx(100.0, abs=0.2)


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_printed_card_is_read_at_its_own_scale(paper: str) -> None:
    reading = read_card(rendered(paper))
    assert reading is not None
    assert reading.markers == len(MARKER_IDS)
    assert reading.px_per_mm == pytest.approx(PX_PER_MM, rel=0.004)


def test_markers_fill_the_card_without_touching() -> None:
    corners = np.concatenate([marker_corners_mm(m) for m in MARKER_IDS])
    assert (corners >= 0).all()
    assert (corners <= [WIDTH_MM, HEIGHT_MM]).all()
    first, second = marker_corners_mm(0), marker_corners_mm(1)
    assert second[0, 0] - first[1, 0] == pytest.approx(GAP_MM)
    assert first[1, 0] - first[0, 0] == pytest.approx(MARKER_MM)


def test_paper_that_is_none_is_refused() -> None:
    with pytest.raises(BadInput, match="a4 or letter"):
        scale_card_pdf("a7")


def test_the_same_page_is_the_same_file() -> None:
    assert scale_card_pdf("a4") == scale_card_pdf("a4")
