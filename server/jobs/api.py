"""The person's jobs: how far they are, stopping them, fetching what was made."""

from datetime import datetime
from typing import Literal, cast
from uuid import UUID

from django.http import HttpResponse
from django.utils.http import content_disposition_header
from ninja import Router, Schema, Status

from server.errors import FaultOut
from server.jobs import services
from server.jobs.models import Job
from server.users import PersonRequest

router = Router(tags=["jobs"])


State = Literal["waiting", "running", "done", "failed", "stopped"]


class JobOut(Schema):
    """A job: waiting for a worker, running, or ended; ``file`` is the name of what can be taken away."""

    id: UUID
    kind: str
    state: State
    progress: float
    message: str
    faults: list[FaultOut]
    created_at: datetime
    file: str | None = None


JOB_RESPONSE = {202: JobOut}
"""What a route answers that asks for a job."""
JobResponse = Status[JobOut]
"""The same, as its type."""


def job_out(job: Job) -> JobOut:
    """A job as every route answers it."""
    return JobOut(
        id=job.pk,
        kind=job.kind,
        state=cast(State, job.state),
        progress=job.progress,
        message=job.message,
        faults=job.faults,
        created_at=job.created_at,
        file=job.name or None,
    )


def job_response(job: Job) -> JobResponse:
    """The answer of a route that asked for a job."""
    return Status(202, job_out(job))


@router.get("/jobs", response=list[JobOut], exclude_none=True)
def jobs(request: PersonRequest) -> list[JobOut]:
    """Everything of the person's that waits, is under way or can be fetched, the oldest first."""
    return [job_out(job) for job in services.of(request.user)]


@router.get("/jobs/{id}", response=JobOut, exclude_none=True)
def job(request: PersonRequest, id: UUID) -> JobOut:
    """How far one is."""
    return job_out(services.get(request.user, id))


@router.post("/jobs/{id}/stop", response=JobOut, exclude_none=True)
def stop(request: PersonRequest, id: UUID) -> JobOut:
    """Stops one; what it would have made is not made."""
    return job_out(services.stop(request.user, id))


@router.get("/jobs/{id}/result", response=bytes)
def made(request: PersonRequest, id: UUID) -> HttpResponse:
    """What was made, to take away."""
    found = services.made(request.user, id)
    answer = HttpResponse(bytes(found.made or b""), content_type=found.content_type)
    if found.name:
        answer["Content-Disposition"] = content_disposition_header(True, found.name) or "attachment"
    return answer
