"""What a handler may ask for: the salon's records, the planner, jobs, the camera."""

from __future__ import annotations

from typing import Annotated, Any, Final

from fastapi import Depends, Header, Request, Response

from dapwick.core.basics.errors import PasscodeWanted
from dapwick.devices.camera import SimulatedCamera
from dapwick.devices.network import Reach, is_here
from dapwick.service.after.checking import Checking
from dapwick.service.after.forecasting import Forecasting
from dapwick.service.cutting.cut import Cutting
from dapwick.service.jobs import Jobs
from dapwick.service.photos.phone import PhonePasses
from dapwick.service.photos.reviews import Reviews as PhotoReviews
from dapwick.service.plans.ahead import Ahead
from dapwick.service.plans.owner_picture import OwnerPictures
from dapwick.service.plans.planner import Planner
from dapwick.service.practice.heads import PracticeHeads
from dapwick.service.salon.opening import Salon
from dapwick.service.salon.passcode import HERE, Passcode

COOKIE: Final = "dapwick_session"
Responses = dict[int | str, dict[str, Any]]
"""What else an address answers, as OpenAPI wants it."""


def _store(request: Request) -> Salon:
    store: Salon = request.app.state.store
    return store


def _planner(request: Request) -> Planner:
    planner: Planner = request.app.state.planner
    return planner


def _ahead(request: Request) -> Ahead:
    ahead: Ahead = request.app.state.ahead
    return ahead


def _pictures(request: Request) -> OwnerPictures:
    pictures: OwnerPictures = request.app.state.pictures
    return pictures


def _practising(request: Request) -> PracticeHeads:
    heads: PracticeHeads = request.app.state.practice_heads
    return heads


def _checks(request: Request) -> Checking:
    checking: Checking = request.app.state.checking
    return checking


def _forecasts(request: Request) -> Forecasting:
    forecasting: Forecasting = request.app.state.forecasting
    return forecasting


def _cuts(request: Request) -> Cutting:
    cutting: Cutting = request.app.state.cutting
    return cutting


def _reviews(request: Request) -> PhotoReviews:
    reviews: PhotoReviews = request.app.state.reviews
    return reviews


def _camera(request: Request) -> SimulatedCamera:
    camera: SimulatedCamera = request.app.state.camera
    return camera


def _jobs(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


def _door(request: Request) -> Passcode:
    door: Passcode = request.app.state.door
    return door


def _passes(request: Request) -> PhonePasses:
    passes: PhonePasses = request.app.state.passes
    return passes


def _reach(request: Request) -> Reach:
    reach: Reach = request.app.state.reach
    return reach


def address_of(request: Request) -> str:
    """Where a request comes from; HERE for this machine itself."""
    host = request.client.host if request.client else ""
    return HERE if is_here(host) or not host else host


def _from(request: Request) -> str:
    return address_of(request)


def may_run(request: Request) -> bool:
    """Running the salon (its passcode, its backups, what is gone for good) is this machine's own, or wants the
    passcode once more."""
    reach: Reach = request.app.state.reach
    door: Passcode = request.app.state.door
    return not reach.network or address_of(request) == HERE or door.vouches_for(request.cookies.get(COOKIE))


def _runs(request: Request) -> None:
    if not may_run(request):
        raise PasscodeWanted


def _base(if_match: Annotated[str | None, Header()] = None) -> str | None:
    """The version that a change was made on top of, as its If-Match header says."""
    return if_match.strip().removeprefix("W/").strip('"') if if_match else None


def tell_version(response: Response, version: str) -> None:
    """The version that a change has made, for the next one on top of it."""
    response.headers["ETag"] = f'"{version}"'


Store = Annotated[Salon, Depends(_store)]
Plans = Annotated[Planner, Depends(_planner)]
PlansAhead = Annotated[Ahead, Depends(_ahead)]
Pictures = Annotated[OwnerPictures, Depends(_pictures)]
Practising = Annotated[PracticeHeads, Depends(_practising)]
Checks = Annotated[Checking, Depends(_checks)]
Forecasts = Annotated[Forecasting, Depends(_forecasts)]
Cuts = Annotated[Cutting, Depends(_cuts)]
Reviews = Annotated[PhotoReviews, Depends(_reviews)]
Camera = Annotated[SimulatedCamera, Depends(_camera)]
Work = Annotated[Jobs, Depends(_jobs)]
ThePasscode = Annotated[Passcode, Depends(_door)]
Passes = Annotated[PhonePasses, Depends(_passes)]
Network = Annotated[Reach, Depends(_reach)]
Base = Annotated[str | None, Depends(_base)]
From = Annotated[str, Depends(_from)]
RUNS = Depends(_runs)
"""For routes that run the salon."""
