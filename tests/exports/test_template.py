"""True-scale outlines, rendered and measured: a check line of 100 mm, and the drawing at the same scale."""

from __future__ import annotations

import re
from xml.etree import ElementTree

import numpy as np
import pypdfium2
import pytest

from dapwick.exports.template import OVERLAP_MM, Template, template_pdf, template_svg

DPI = 200
PX_PER_MM = DPI / 25.4
SVG = "{http://www.w3.org/2000/svg}"


def ellipse(wide_mm: float, tall_mm: float) -> list[list[float]]:
    around = np.linspace(0, 2 * np.pi, 400, endpoint=False)
    return np.column_stack([wide_mm / 2 * np.cos(around), tall_mm / 2 * np.sin(around)]).tolist()


def made(wide_mm: float, tall_mm: float, view: str = "front") -> Template:
    return Template("Fogbell", "Round", view, {"outline": ellipse(wide_mm, tall_mm)}, [])


def pages(pdf: bytes) -> list[np.ndarray]:
    return [page.render(scale=DPI / 72).to_numpy()[:, :, :3] for page in pypdfium2.PdfDocument(pdf)]


def check_line_mm(page: np.ndarray) -> float:
    """Between the outer ends of the one long thin row of ink near the top."""
    ink = page.min(axis=2) < 140
    rows = ink[: len(ink) // 3]
    row = int(np.argmax(rows.sum(axis=1)))
    across = np.flatnonzero(rows[row])
    return float(across.max() - across.min()) / PX_PER_MM


def drawn_mm(page: np.ndarray) -> tuple[float, float]:
    """Width and height of everything under the heading."""
    ink = page.min(axis=2) < 140
    ink[: round(36 * PX_PER_MM)] = False
    rows, columns = np.flatnonzero(ink.any(axis=1)), np.flatnonzero(ink.any(axis=0))
    return float(np.ptp(columns)) / PX_PER_MM, float(np.ptp(rows)) / PX_PER_MM


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize(("wide_mm", "tall_mm"), [(150.0, 180.0), (215.0, 140.0)])
def test_the_print_is_at_true_scale(paper: str, wide_mm: float, tall_mm: float) -> None:
    (page,) = pages(template_pdf([made(wide_mm, tall_mm)], paper))
    assert check_line_mm(page) == pytest.approx(100.0, abs=0.4)
    assert drawn_mm(page) == pytest.approx((wide_mm, tall_mm), abs=0.8)


def test_each_view_has_its_own_page_turned_as_it_fits() -> None:
    front, side = pages(template_pdf([made(140, 190), made(220, 150, "left")]))
    assert front.shape[0] > front.shape[1]
    assert side.shape[1] > side.shape[0]


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_a_giant_head_runs_over_pages_that_overlap(paper: str) -> None:
    found = pages(template_pdf([made(340.0, 170.0)], paper))
    assert len(found) == 2
    assert all(check_line_mm(page) == pytest.approx(100.0, abs=0.4) for page in found)
    words = [
        p.get_textpage().get_text_bounded()
        for p in pypdfium2.PdfDocument(template_pdf([made(340, 170)], paper))
    ]
    assert "part 1 of 2" in words[0]
    assert "part 2 of 2" in words[1]
    assert sum(drawn_mm(page)[0] for page in found) >= 340.0 + OVERLAP_MM - 1


def test_the_coat_may_run_off_the_page_but_not_the_outline() -> None:
    one = Template("A", "B", "front", {"outline": ellipse(150, 150), "coat": ellipse(400, 400)}, [])
    assert len(pages(template_pdf([one]))) == 1


def test_the_svg_is_in_millimetres() -> None:
    one = Template(
        "Šárka & Co", 'A "round"', "front", {"outline": ellipse(150, 180)}, [("nose <tip>", (1.0, 2.0))]
    )
    root = ElementTree.fromstring(template_svg(one))
    wide, tall = (float(root.attrib[key].removesuffix("mm")) for key in ("width", "height"))
    left, top, box_wide, box_tall = (float(x) for x in root.attrib["viewBox"].split())
    assert (wide, tall) == (box_wide, box_tall)
    paths = {p.attrib.get("id"): p.attrib["d"] for p in root.iter(f"{SVG}path")}
    points = np.array(
        [[float(x) for x in pair] for pair in re.findall(r"(-?[\d.]+),(-?[\d.]+)", paths["outline"])]
    )
    assert np.ptp(points, axis=0) == pytest.approx([150, 180], abs=0.1)
    assert (points.min(axis=0) >= [left, top]).all()
    assert (points.max(axis=0) <= [left + wide, top + tall]).all()
    assert re.search(r"h100$", paths["check-100-mm"])
    assert [t.text for t in root.iter(f"{SVG}title")] == ['Šárka & Co: A "round", front', "nose <tip>"]
