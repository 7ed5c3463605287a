"""What several routes of the workshop take and answer."""

from datetime import datetime
from uuid import UUID

from ninja import Schema
from ninja.throttling import UserRateThrottle

from boardmath.buildfile import Build as BuildFile
from boardmath.buildfile import read_build
from server.faults import FaultsOut
from server.workshop.models import Build

REFUSALS = {401: FaultsOut, 404: FaultsOut, 422: FaultsOut}


class BuildOut(Schema):
    """A build with the revision to save from."""

    id: UUID
    revision: int
    updated_at: datetime
    document: BuildFile


class DocumentIn(Schema):
    document: BuildFile


class RowFaults(Schema):
    """What is wrong with one row of a file that is brought in."""

    field: str
    reason: str


class PredictionThrottle(UserRateThrottle):
    """Far above what hands can do, and a bound on what a script can."""

    THROTTLE_RATES = {"user": "3000/min"}


def build_out(build: Build) -> BuildOut:
    """A build as every route answers it."""
    return BuildOut(
        id=build.id, revision=build.revision, updated_at=build.updated_at, document=read_build(build.document)
    )
