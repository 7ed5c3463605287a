"""A finding, and how grave it is."""

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from boardmath.saying import Saying

Severity = Literal["danger", "stop", "warn", "note"]
"""danger: can hurt or burn; stop: will not work or not fit."""


@dataclass(frozen=True)
class Facts:
    """What findings read of the further results of a prediction."""

    held_grade_pct: float
    held_limit: str
    climb_m: float
    first_second_g: float
    full_pack_brake_grade_pct: float


class Finding(BaseModel):
    """Something to know about a build, with the parts it touches and the numbers compared."""

    id: str
    severity: Severity
    title: str
    about: list[str]
    fields: list[str]
    text: str
    saying: Saying


def finding(id: str, severity: Severity, title: str, about: list[str], fields: list[str], saying: Saying) -> Finding:
    """A finding whose plain text is its saying's."""
    return Finding(id=id, severity=severity, title=title, about=about, fields=fields, text=saying.text, saying=saying)
