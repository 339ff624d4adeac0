"""The application: routes under /api, the built screens beside them, errors translated once."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from functools import partial
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse

from dapwick import __version__
from dapwick.api import schemas as s
from dapwick.api.cut_routes import router as cut_router
from dapwick.api.outline_routes import router as outline_router
from dapwick.api.photo_routes import router as photo_router
from dapwick.api.routes import router
from dapwick.core.errors import BadInput, DapwickError, NoRoom, NotFound
from dapwick.demo.dogs import CAMERA
from dapwick.devices.camera import SimulatedCamera
from dapwick.records.store import SalonStore
from dapwick.service import edges
from dapwick.service.cutting import Cutting
from dapwick.service.photos import sweep_orphans
from dapwick.service.planner import Planner
from dapwick.service.workbench import Workbench

STATUS = {BadInput: 422, NotFound: 404, NoRoom: 507}


def make_app(store: SalonStore | None, web: Path | None = None) -> FastAPI:
    """store is None only to write the OpenAPI file. web: folder of the built screens."""

    bench = Workbench(partial(edges.look, store)) if store else None

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        if store:
            sweep_orphans(store)
        yield
        if store and bench:
            bench.close()
            store.close()

    app = FastAPI(
        title="Dapwick",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        responses={422: {"model": s.Problem}, 404: {"model": s.Problem}},
    )
    app.state.store = store
    app.state.planner = Planner(store) if store else None
    app.state.cutting = Cutting(store, app.state.planner) if store else None
    app.state.bench = bench
    app.state.camera = SimulatedCamera(CAMERA)
    app.include_router(router, prefix="/api")
    app.include_router(photo_router, prefix="/api")
    app.include_router(outline_router, prefix="/api")
    app.include_router(cut_router, prefix="/api")
    app.add_exception_handler(DapwickError, _domain_error)
    app.add_exception_handler(RequestValidationError, _bad_request)
    if web:
        _serve_screens(app, web)
    return app


async def _domain_error(_request: Request, error: Exception) -> JSONResponse:
    status = next(code for kind, code in STATUS.items() if isinstance(error, kind))
    told = {k: str(getattr(error, k, "")) for k in ("what", "expected", "got", "where", "remedy")}
    return JSONResponse(s.Problem(message=str(error), **told).model_dump(), status)


async def _bad_request(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    field = ".".join(str(p) for p in first["loc"][1:]) or "request"
    got = str(first.get("input"))[:60]
    message = f"{field}: {first['msg'].lower()} (got {got})."
    return JSONResponse(
        s.Problem(message=message, what=field, expected=first["msg"], got=got).model_dump(), 422
    )


def _serve_screens(app: FastAPI, web: Path) -> None:
    @app.get("/{path:path}", include_in_schema=False, response_model=None)
    def screen(path: str) -> FileResponse | JSONResponse:
        """A built file, or the shell for any address of a screen."""
        asked = (web / path).resolve()
        if path.startswith("api/"):
            return JSONResponse(s.Problem(message="There is no such address.").model_dump(), 404)
        if path and asked.is_file() and asked.is_relative_to(web.resolve()):
            kept = (
                {"Cache-Control": "public, max-age=31536000, immutable"}
                if path.startswith("assets/")
                else None
            )
            return FileResponse(asked, headers=kept)
        return FileResponse(web / "index.html", headers={"Cache-Control": "no-cache"})
