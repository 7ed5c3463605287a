"""A next step: what to do, why, how pressing it is, and the one way in."""

from typing import Literal

from pydantic import BaseModel

from boardmath.checks.finding import Fix
from boardmath.messages import Message, Title
from planner.navigation import PageSlug

Urgency = Literal["danger", "stop", "late", "due", "next", "better"]
"""danger: can hurt; stop: will not work; late: holds others up; due: was right once and is no more; next: the order of the work;
better: a few minutes that make a band narrower or keep something from being lost. Most pressing first."""


class NextStep(BaseModel):
    """One step. ``fix`` is what one click would change; without it ``label`` opens ``page``, at ``field`` where there is one."""

    id: str
    urgency: Urgency
    title: Title
    why: Message
    label: str
    page: PageSlug
    field: str | None = None
    fix: Fix | None = None


def listed(names: list[str], most: int = 3) -> str:
    """Names in a row, the rest by their number."""
    if len(names) > most:
        return f"{', '.join(names[:most])} and {len(names) - most} more"
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)
