"""Maintenance of a build that need not be saved, by the rides of its log."""

import json
from typing import Literal
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Router

from boardmath.buildfile import BuildFile
from boardmath.buildfile.maintenance import Maintenance, TaskDone
from planner.maintenance.files import book_as_csv, write_maintenance
from planner.maintenance.report import MaintenanceReport, maintenance_report, taken_from_the_drawer
from server.boards import services as builds
from server.boards.schemas import FileIn
from server.calibration import services as calibration
from server.errors import ApiError
from server.rides import services as rides
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["maintenance"])


class TaskDoneIn(FileIn):
    done: TaskDone


@router.post("/builds/{id}/maintenance", response=MaintenanceReport, exclude_none=True)
@in_turn
def maintenance_of_build(request: PersonRequest, id: UUID, payload: FileIn) -> MaintenanceReport:
    """What is due, what soon, spares, wheels, pack, and the lists of the seasons."""
    build = builds.get(request.user, id)
    return maintenance_report(
        calibration.taught(request.user, id, payload.document),
        rides.rode_on([build])[id],
        timezone.localdate(),
        calibration.trends_of(build),
    )


@router.post("/builds/{id}/maintenance/done", response=BuildFile, exclude_none=True)
def seen_to(request: PersonRequest, id: UUID, payload: TaskDoneIn) -> BuildFile:
    """The build with something seen to: in the book, its spare out of the drawer, a measured wheel on the board."""
    builds.get(request.user, id)
    done, kept = payload.done, payload.document.maintenance or Maintenance()
    if done.on > timezone.localdate().isoformat():
        raise ApiError("That day has not come yet.", faults={"done.on": f"{done.on} is after today"})
    spare = next((s for s in kept.spares if s.id == done.spare), None)
    if done.spare is not None and spare is None:
        raise ApiError("There is no such spare.", faults={"done.spare": "not among the spares any more"})
    if spare is not None and (spare.count or 0) < (done.count or 1):
        raise ApiError(
            "There are not that many spares.", faults={"done.count": f"{spare.count or 0} of {spare.name} are left"}
        )
    return taken_from_the_drawer(payload.document, done)


@router.post("/maintenance/file", response=bytes)
def maintenance_file(request: PersonRequest, payload: FileIn, form: Literal["json", "csv"] = "json") -> HttpResponse:
    """All of it as JSON, or the book as CSV."""
    kept = payload.document.maintenance or Maintenance()
    name = slugify(payload.document.name or "board") or "board"
    if form == "json":
        answer = HttpResponse(
            json.dumps(write_maintenance(kept), ensure_ascii=False, indent=1), content_type="application/json"
        )
    else:
        answer = HttpResponse(book_as_csv(kept), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}-maintenance.{form}"'
    return answer
