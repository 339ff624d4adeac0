"""Measures as a table."""

from __future__ import annotations

import csv
import io

import pytest
from fastapi.testclient import TestClient

from dapwick.core.measures.measure import measures_of
from dapwick.core.solve.joint import HeadSolution
from dapwick.exports.measures_csv import COLUMNS, measures_csv


def read(told: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(told)))


@pytest.mark.parametrize("name", ["Fogbell", 'Ha"ly, ard', "Täu\nchen"])
def test_every_measure_of_every_head_is_a_row(solved: HeadSolution, name: str) -> None:
    measures = measures_of(solved)
    rows = read(measures_csv([(name, measures), ("another", measures)]))
    assert len(rows) == 2 * len(measures)
    assert tuple(rows[0]) == COLUMNS
    for row, m in zip(rows, measures, strict=False):
        assert (row["head"], row["id"], row["unit"]) == (name, m.id, m.unit)
        assert [float(row[k]) for k in ("value", "sigma", "low", "high")] == pytest.approx(
            [m.value, m.sigma, m.low, m.high], rel=1e-3
        )


@pytest.mark.parametrize("name", ["=1+1", "+49", "-5", "@here"])
def test_a_name_is_no_formula(solved: HeadSolution, name: str) -> None:
    (row, *_) = read(measures_csv([(name, measures_of(solved))]))
    assert row["head"] == f"'{name}"


def test_a_dogs_measures_are_downloaded(demo_client: TestClient) -> None:
    answer = demo_client.get("/api/dogs/1/measures.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    told = demo_client.get("/api/dogs/1/measure").json()["measures"]
    assert [row["id"] for row in read(answer.text)] == [m["id"] for m in told]
    assert demo_client.get("/api/dogs/99/measures.csv").status_code == 404
