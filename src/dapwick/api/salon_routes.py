"""Routes of the salon: its first start, the passcode, backups."""

from __future__ import annotations

from functools import partial
from typing import Any

from fastapi import APIRouter, Request, Response, UploadFile
from fastapi.responses import FileResponse

from dapwick import __version__
from dapwick.api import salon_schemas as n
from dapwick.api import schemas as s
from dapwick.api.at_hand import COOKIE, RUNS, From, Network, Responses, Store, ThePasscode, Work, may_run
from dapwick.core.basics.errors import BadInput
from dapwick.devices.network import Reach
from dapwick.exports.address_code import address_svg
from dapwick.service.jobs import Step
from dapwick.service.salon import about as salon
from dapwick.service.salon import backup_setting as backups_setting
from dapwick.service.salon import backups
from dapwick.service.salon.day_style import set_day_style
from dapwick.service.salon.opening import Salon
from dapwick.service.salon.passing_files import kept_for_now, let_go

router = APIRouter()
COOKIE_AGE_S = 60 * 24 * 3600
SVG: Responses = {200: {"content": {"image/svg+xml": {}}}}
ZIP: Responses = {200: {"content": {"application/zip": {}}}}


@router.get("/salon")
def get_salon(store: Store, reach: Network) -> n.SalonOut:
    return _salon(store, reach)


@router.post("/salon/start")
def post_start(given: n.BeginningIn, store: Store, reach: Network) -> n.SalonOut:
    """The first start: with the demo dogs, or with nobody."""
    if given.kind == "demo":
        salon.start_demo(store)
    else:
        salon.start_empty(store, given.name, given.stylist, given.hand)
    set_day_style(store, given.days)
    return _salon(store, reach)


@router.put("/salon/name")
def put_name(given: n.NameIn, store: Store, reach: Network) -> n.SalonOut:
    salon.name_salon(store, given.name)
    return _salon(store, reach)


@router.put("/salon/days")
def put_days(given: n.DaysIn, store: Store, reach: Network) -> n.SalonOut:
    """How days and times are said."""
    set_day_style(store, given.days)
    return _salon(store, reach)


@router.post("/salon/demo", dependencies=[RUNS])
def post_demo(given: n.DemoIn, store: Store, reach: Network) -> n.SalonOut:
    """Demo dogs as on the first day, or away for good; other dogs stay."""
    (salon.reset_demo if given.do == "reset" else salon.remove_demo)(store)
    return _salon(store, reach)


@router.post("/salon/try", status_code=201)
def post_try(store: Store) -> n.TriedOut:
    """One demo dog beside one's own, to try everything on."""
    return n.TriedOut(dog_id=salon.try_demo(store))


@router.get("/salon/address.svg", response_class=Response, responses=SVG)
def get_address(reach: Network) -> Response:
    """The tablet's address as a square code."""
    if reach.first is None:
        raise BadInput(
            "no other machine reaches this salon", expected="a start with --host 0.0.0.0", got="this machine only",
            where="address",
        )  # fmt: skip
    return Response(address_svg(reach.first), media_type="image/svg+xml")


@router.get("/entrance")
def get_entrance(request: Request, door: ThePasscode, reach: Network) -> n.EntranceOut:
    known = not reach.network or door.knows(request.cookies.get(COOKIE))
    return n.EntranceOut(passcode=reach.network, entered=known, runs=may_run(request))


@router.post("/entrance")
def post_entrance(
    given: n.CodeIn, request: Request, response: Response, door: ThePasscode, reach: Network, address: From
) -> n.EntranceOut:
    """Give the passcode; the tablet is known from then on."""
    if reach.network:
        token = door.enter(given.code, address)
        secure = request.url.scheme == "https"
        response.set_cookie(
            COOKIE, token, max_age=COOKIE_AGE_S, httponly=True, samesite="strict", path="/", secure=secure
        )
    return n.EntranceOut(passcode=reach.network, entered=True, runs=may_run(request))


@router.post("/entrance/again", status_code=204)
def post_entrance_again(
    given: n.CodeIn, request: Request, door: ThePasscode, reach: Network, address: From
) -> None:
    """Give the passcode once more: the salon can be run from this tablet for a while."""
    if reach.network:
        door.vouch(request.cookies.get(COOKIE), given.code, address)


@router.delete("/entrance")
def delete_entrance(request: Request, response: Response, door: ThePasscode, reach: Network) -> n.EntranceOut:
    door.leave(request.cookies.get(COOKIE))
    response.delete_cookie(COOKIE, path="/", httponly=True, samesite="strict")
    return n.EntranceOut(passcode=reach.network, entered=not reach.network, runs=may_run(request))


@router.put("/passcode", status_code=204, dependencies=[RUNS])
def put_passcode(given: n.CodeIn, door: ThePasscode) -> None:
    """A new one; every tablet has to give it."""
    door.change(given.code)


@router.get("/backups")
def get_backups(store: Store) -> n.BackupsOut:
    return _backups(store)


@router.put("/backups/setting", dependencies=[RUNS])
def put_backup_setting(given: n.BackupSettingIO, store: Store) -> n.BackupsOut:
    backups_setting.set_backup(store, given.daily, given.folder)
    return _backups(store)


@router.post("/backups", status_code=202)
def post_backup(store: Store, work: Work) -> s.JobOut:
    """Make one now."""
    return _job(work.start_alone("a backup", partial(backups.back_up, store)))


@router.get("/backups/{name:path}/file", response_class=Response, responses=ZIP, dependencies=[RUNS])
def get_backup_file(name: str, store: Store) -> Response:
    path = backups.backup_path(store, name)
    return FileResponse(path, media_type="application/zip", filename=path.name)


@router.post("/backups/restore", status_code=202, dependencies=[RUNS])
def post_restore(given: n.RestoreIn, store: Store, work: Work) -> s.JobOut:
    """Put one of the list back; the records of now can be had again."""
    path = backups.backup_path(store, given.name)
    return _job(work.start_alone("a restore", partial(backups.restore, store, path)))


@router.post("/backups/file", status_code=202, dependencies=[RUNS])
def post_restore_file(file: UploadFile, store: Store, work: Work) -> s.JobOut:
    """Put a backup back that was kept elsewhere."""
    path = kept_for_now(store, file.file)

    def put_back(step: Step) -> dict[str, Any]:
        try:
            return backups.restore(store, path, step)
        finally:
            let_go(path)

    return _job(work.start_alone("a restore", put_back))


@router.post("/backups/undo", dependencies=[RUNS])
def post_undo(store: Store) -> n.UndoneOut:
    """Records as they were before the last restore."""
    return n.UndoneOut(of=backups.undo_restore(store))


@router.get("/jobs/{job_id}")
def get_job(job_id: int, work: Work) -> s.JobOut:
    return _job(work.known(job_id))


@router.delete("/jobs/{job_id}")
def delete_job(job_id: int, work: Work) -> s.JobOut:
    work.stop(job_id)
    return _job(work.known(job_id))


def _salon(store: Salon, reach: Reach) -> n.SalonOut:
    found = salon.salon_of(store)
    return n.SalonOut(
        name=found.name,
        started=found.started,
        demo=found.demo,
        network=reach.network,
        address=reach.first,
        days=found.days,
        version=__version__,
    )


def _backups(store: Salon) -> n.BackupsOut:
    setting = backups_setting.setting_of(store)
    kept = store.kept_before()
    return n.BackupsOut(
        daily=setting.daily,
        folder=str(backups_setting.folder_of(store)),
        last=setting.last,
        trouble=setting.trouble,
        missing=backups.missing_now(store),
        backups=[n.BackupOut.model_validate(one) for one in backups.backups(store)],
        undo=kept[0].stem.removeprefix("before-restore-") if kept else None,
    )


def _job(job: object) -> s.JobOut:
    return s.JobOut.model_validate(job, from_attributes=True)
