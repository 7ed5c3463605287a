"""What several routes of the workshop take and answer."""

from datetime import datetime
from uuid import UUID

from ninja import Schema

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFile
from server.boards.models import Build
from server.boards.services import file_of


class BuildOut(Schema):
    """A build with the revision to save from."""

    id: UUID
    revision: int
    updated_at: datetime
    document: BuildFile


class DocumentIn(Schema):
    """A board that need not be saved; ``board`` says whose rides taught something of it, where it is saved."""

    document: BuildDocument
    board: UUID | None = None


class FileIn(Schema):
    """A whole build file that need not be saved: the board, and what happened to it."""

    document: BuildFile
    board: UUID | None = None


def build_out(build: Build) -> BuildOut:
    """A build as every route answers it."""
    return BuildOut(id=build.id, revision=build.revision, updated_at=build.updated_at, document=file_of(build))
