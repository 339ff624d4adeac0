"""The application: routes under /api, the built screens beside them, errors translated once."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from starlette.exceptions import HTTPException

from dapwick import __version__
from dapwick.api import schemas as s
from dapwick.api.book_routes import router as book_router
from dapwick.api.check_routes import router as check_router
from dapwick.api.cut_routes import router as cut_router
from dapwick.api.guard import Guard
from dapwick.api.next_routes import router as next_router
from dapwick.api.outline_routes import router as outline_router
from dapwick.api.phone_routes import router as phone_router
from dapwick.api.photo_routes import router as photo_router
from dapwick.api.plain_door import PlainDoor
from dapwick.api.practice_routes import router as practice_router
from dapwick.api.routes import router
from dapwick.api.said import plain
from dapwick.api.salon_routes import router as salon_router
from dapwick.api.trust_routes import router as trust_router
from dapwick.core.basics.errors import (
    BadInput,
    Busy,
    Conflict,
    DapwickError,
    NotAuthorised,
    NotFound,
    PasscodeWanted,
    SalonInUse,
    StorageFull,
    Unreadable,
)
from dapwick.demo.dogs import CAMERA
from dapwick.devices.camera import SimulatedCamera
from dapwick.devices.certificates import Certificates
from dapwick.devices.network import ONLY_HERE, Reach
from dapwick.service.after.checking import Checking
from dapwick.service.after.forecasting import Forecasting
from dapwick.service.cutting.cut import Cutting
from dapwick.service.jobs import Jobs
from dapwick.service.photos.phone import PhonePasses
from dapwick.service.photos.reviews import Reviews
from dapwick.service.photos.taking_in import sweep_orphans
from dapwick.service.plans.ahead import Ahead
from dapwick.service.plans.owner_picture import OwnerPictures
from dapwick.service.plans.planner import Planner
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.salon.backups import DailyBackup, sweep_unfinished
from dapwick.service.salon.opening import Salon
from dapwick.service.salon.passcode import Passcode

STATUS = {
    BadInput: 422, NotFound: 404, Conflict: 409, NotAuthorised: 401, PasscodeWanted: 403, Busy: 503, StorageFull: 507,
    Unreadable: 503, SalonInUse: 503,
}  # fmt: skip


def make_app(
    store: Salon | None,
    web: Path | None = None,
    reach: Reach = ONLY_HERE,
    daily: bool = False,
    certificates: Certificates | None = None,
) -> FastAPI:
    """store is None only to write the OpenAPI file. web: folder of the built screens. reach: who can reach the salon
    and by which names. daily: make a backup a day. certificates: what tablets trust it by, over https."""

    reviews = Reviews(store) if store else None

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        backup = DailyBackup(store) if store and daily else None
        if store:
            sweep_orphans(store)
            sweep_unfinished(store)
        if backup:
            backup.start()
        yield
        if store and reviews:
            if backup:
                backup.close()
            app.state.jobs.close()
            app.state.ahead.close()
            reviews.close()
            store.close()

    app = FastAPI(
        title="Dapwick",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        # Under /api, so that on a network nobody reads it without the passcode.
        openapi_url="/api/openapi.json",
        responses={422: {"model": s.Problem}, 404: {"model": s.Problem}, 409: {"model": s.Problem}},
    )
    app.state.store = store
    app.state.planner = Planner(store) if store else None
    app.state.ahead = Ahead(app.state.planner) if store else None
    app.state.pictures = OwnerPictures(app.state.planner) if store else None
    app.state.cutting = Cutting(store, app.state.planner) if store else None
    app.state.checking = Checking(store, app.state.planner, reviews.under_way) if store and reviews else None
    app.state.forecasting = Forecasting(store, app.state.planner) if store else None
    app.state.practice_heads = PracticeHeads()
    app.state.reviews = reviews
    app.state.camera = SimulatedCamera(CAMERA)
    app.state.jobs = Jobs("job")
    app.state.passes = PhonePasses()
    app.state.certificates = certificates
    app.state.reach, app.state.door = reach, Passcode(store) if store else None
    for one in (
        router, book_router, photo_router, outline_router, cut_router, check_router, next_router, practice_router,
        salon_router, phone_router, trust_router,
    ):  # fmt: skip
        app.include_router(one, prefix="/api")
    app.add_middleware(PlainDoor, reach=reach)
    app.add_middleware(Guard, reach=reach, door=app.state.door)
    app.add_exception_handler(DapwickError, _domain_error)
    app.add_exception_handler(RequestValidationError, _bad_request)
    app.add_exception_handler(HTTPException, _refused)
    if web:
        _serve_screens(app, web)
    return app


async def _domain_error(_request: Request, error: Exception) -> JSONResponse:
    status = next(code for kind, code in STATUS.items() if isinstance(error, kind))
    details = {k: plain(str(getattr(error, k, ""))) for k in ("what", "expected", "got", "where", "remedy")}
    overtaken = {"now": error.now, "version": error.version} if isinstance(error, Conflict) else {}
    problem = s.Problem(message=plain(str(error)), **details, **overtaken)
    wait_s = getattr(error, "wait_s", 0.0)
    headers = {"Retry-After": f"{wait_s:.0f}"} if wait_s else None
    return JSONResponse(problem.model_dump(), status, headers)


async def _bad_request(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    field = plain(".".join(str(p) for p in first["loc"][1:])[:80]) or "request"
    got = plain(str(first.get("input"))[:60])
    message = f"{field}: {first['msg'].lower()} (got {got})."
    return JSONResponse(
        s.Problem(message=message, what=field, expected=first["msg"], got=got).model_dump(), 422
    )


async def _refused(_request: Request, error: Exception) -> JSONResponse:
    """What the framework itself refuses: no such address, another method, a body that cannot be read."""
    assert isinstance(error, HTTPException)
    return JSONResponse(
        s.Problem(message=plain(str(error.detail))).model_dump(), error.status_code, error.headers
    )


def _serve_screens(app: FastAPI, web: Path) -> None:
    @app.get("/{path:path}", include_in_schema=False, response_model=None)
    def screen(path: str) -> FileResponse | JSONResponse:
        """A built file, or the shell for any address of a screen."""
        asked = (web / path).resolve()
        if path.startswith("api/"):
            return JSONResponse(s.Problem(message="There is no such address.").model_dump(), 404)
        if path and asked.is_file() and asked.is_relative_to(web.resolve()):
            named_by_content = path.startswith("assets/")
            kept = "public, max-age=31536000, immutable" if named_by_content else "no-cache"
            return FileResponse(asked, headers={"Cache-Control": kept})
        return FileResponse(web / "index.html", headers={"Cache-Control": "no-cache"})
