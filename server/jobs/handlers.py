"""What can be made, each by the capability that knows how."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel
from pydantic_core import to_json

from server.users import Person


class StopAsked(Exception):
    """The person does not want it any more."""


class TooLong(Exception):
    """It took longer than any job may."""


ReportProgress = Callable[[float], None]
"""Called with how far it is, 0 to 1; raises StopAsked."""


@dataclass(frozen=True)
class Made:
    """What came of it; a name where it is a file to take away."""

    data: bytes
    content_type: str
    name: str = ""


@dataclass(frozen=True)
class JobRequest:
    """What a maker is given: for whom, what was asked, what came with it, and how to say how far it is."""

    owner: Person
    payload: dict[str, Any]
    upload: bytes
    report_progress: ReportProgress


JobHandler = Callable[[JobRequest], Made]
JOB_HANDLERS: dict[str, JobHandler] = {}


def job_handler(kind: str) -> Callable[[JobHandler], JobHandler]:
    """Registers what makes jobs of a kind. The APIs do it when they are loaded."""

    def kept(make: JobHandler) -> JobHandler:
        assert kind not in JOB_HANDLERS, kind
        JOB_HANDLERS[kind] = make
        return make

    return kept


def as_json(found: BaseModel | list[Any]) -> Made:
    """An answer as the API gives it, what is not known left out."""
    return Made(to_json(found, exclude_none=True), "application/json")
