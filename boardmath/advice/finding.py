"""A finding, and how grave it is."""

from typing import Literal

from pydantic import BaseModel

from boardmath.saying import Saying

Severity = Literal["danger", "stop", "warn", "note"]
"""danger: can hurt or burn; stop: will not work or not fit."""


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
