"""Upkeep of a build that need not be saved, by the rides of its log."""

import json
from typing import Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Router, Schema

from boardmath.buildfile import Build, write_build
from boardmath.buildfile.upkeep import Upkeep, UpkeepDone
from planner.maintenance.files import book_as_csv, write_upkeep
from planner.maintenance.report import UpkeepReport, taken_from_the_drawer, upkeep_report
from server.errors import ApiError
from server.learnt import services as learnt
from server.rides import services as rides
from server.shelf import services as builds
from server.throttles.concurrency import in_turn

router = Router(tags=["upkeep"])


class UpkeepIn(Schema):
    document: Build


class UpkeepDoneIn(UpkeepIn):
    done: UpkeepDone


@router.post("/builds/{id}/upkeep", response=UpkeepReport, exclude_none=True)
@in_turn
def upkeep_of_build(request: HttpRequest, id: UUID, payload: UpkeepIn) -> object:
    """What is due, what soon, spares, wheels, pack, and the lists of the seasons."""
    build = builds.get(request.user, id)
    return upkeep_report(payload.document, rides.rode_on([build])[id], timezone.localdate(), learnt.trends_of(build))


@router.post("/builds/{id}/upkeep/done", response=Build, exclude_none=True)
def seen_to(request: HttpRequest, id: UUID, payload: UpkeepDoneIn) -> object:
    """The build with something seen to: in the book, its spare out of the drawer, a measured wheel on the board."""
    builds.get(request.user, id)
    done, kept = payload.done, payload.document.upkeep or Upkeep()
    if done.on > timezone.localdate().isoformat():
        raise ApiError("That day is still to come.", faults={"done.on": f"{done.on} is after today"})
    spare = next((s for s in kept.spares if s.id == done.spare), None)
    if done.spare is not None and spare is None:
        raise ApiError("There is no such spare.", faults={"done.spare": "not in the drawer any more"})
    if spare is not None and (spare.count or 0) < (done.count or 1):
        raise ApiError(
            "The drawer has not so many.", faults={"done.count": f"{spare.count or 0} of {spare.name} are left"}
        )
    return write_build(taken_from_the_drawer(payload.document, done))


@router.post("/upkeep/file", response=bytes)
def upkeep_file(request: HttpRequest, payload: UpkeepIn, form: Literal["json", "csv"] = "json") -> HttpResponse:
    """All of it as JSON, or the book as CSV."""
    kept = payload.document.upkeep or Upkeep()
    name = slugify(payload.document.name or "board") or "board"
    if form == "json":
        answer = HttpResponse(
            json.dumps(write_upkeep(kept), ensure_ascii=False, indent=1), content_type="application/json"
        )
    else:
        answer = HttpResponse(book_as_csv(kept), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}-upkeep.{form}"'
    return answer
