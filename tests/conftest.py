"""Shared fixtures: simulated heads, the demo dogs, a salon on disk."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings

from dapwick.api.app import make_app
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.demo.dogs import photo_bytes
from dapwick.pipeline.head_model import model_of, traced_edge
from dapwick.pipeline.plan import FittedGround, fit_on
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo
from demo_heads import demo_head_file
from simheads import SimHead, random_head

HERE = "http://127.0.0.1"
# How fast a machine is, is no property of the product.
settings.register_profile("here", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("here")


@pytest.fixture(scope="session")
def sim() -> SimHead:
    return random_head(4, ("front", "left"))


@pytest.fixture(scope="session")
def solved(sim: SimHead) -> HeadSolution:
    head = solve_head(sim.given)
    assert isinstance(head, HeadSolution)
    return head


def demo_ground(key: str) -> FittedGround:
    file = demo_head_file(key)
    head = solve_head(file.head_input())
    assert isinstance(head, HeadSolution)
    edges = {}
    for photo in head.photos:
        line = traced_edge(head, photo, read_photo(photo_bytes(photo.name), photo.name).rgb)
        assert not isinstance(line, NoEdge)
        edges[photo.name] = line
    return fit_on(model_of(head, file.dog.coat, edges, ()), ROUND)


@pytest.fixture(scope="session")
def fogbell() -> FittedGround:
    return demo_ground("fogbell")


@pytest.fixture(scope="session")
def bobbin() -> FittedGround:
    return demo_ground("bobbin")


@pytest.fixture
def store(tmp_path: Path) -> Iterator[SalonStore]:
    salon = SalonStore(tmp_path / "salon")
    yield salon
    salon.close()


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A salon with Fogbell and Bobbin, filled once and copied for each test that changes it."""
    folder = tmp_path_factory.mktemp("demo") / "salon"
    filled = SalonStore(folder)
    fill_with_demo(filled, ("fogbell", "bobbin"))
    filled.close()
    return folder


@pytest.fixture(scope="session")
def cut_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A salon with Capstan, cut today and photographed, its left cheek left long."""
    folder = tmp_path_factory.mktemp("cut") / "salon"
    filled = SalonStore(folder)
    fill_with_demo(filled, ("capstan",))
    filled.close()
    return folder


@pytest.fixture
def demo_store(demo_folder: Path, tmp_path: Path) -> Iterator[SalonStore]:
    shutil.copytree(demo_folder, tmp_path / "salon")
    salon = SalonStore(tmp_path / "salon")
    yield salon
    salon.close()


@pytest.fixture
def client(store: SalonStore) -> Iterator[TestClient]:
    with TestClient(make_app(store), base_url=HERE) as api:
        yield api


@pytest.fixture
def demo_client(demo_store: SalonStore) -> Iterator[TestClient]:
    with TestClient(make_app(demo_store), base_url=HERE) as api:
        yield api
