"""What a handler may ask for: the salon's records, the planner, the workbench, the camera."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request

from dapwick.devices.camera import SimulatedCamera
from dapwick.records.store import SalonStore
from dapwick.service.cutting import Cutting
from dapwick.service.planner import Planner
from dapwick.service.workbench import Workbench


def _store(request: Request) -> SalonStore:
    store: SalonStore = request.app.state.store
    return store


def _planner(request: Request) -> Planner:
    planner: Planner = request.app.state.planner
    return planner


def _cuts(request: Request) -> Cutting:
    cutting: Cutting = request.app.state.cutting
    return cutting


def _bench(request: Request) -> Workbench:
    bench: Workbench = request.app.state.bench
    return bench


def _camera(request: Request) -> SimulatedCamera:
    camera: SimulatedCamera = request.app.state.camera
    return camera


Store = Annotated[SalonStore, Depends(_store)]
Plans = Annotated[Planner, Depends(_planner)]
Cuts = Annotated[Cutting, Depends(_cuts)]
Bench = Annotated[Workbench, Depends(_bench)]
Camera = Annotated[SimulatedCamera, Depends(_camera)]
