"""A step of the work: what to do on this very board, with what, after what, and how to tell that it is right."""

from typing import Literal

from pydantic import BaseModel

from boardmath.messages import Message, Title
from planner.navigation import PageSlug
from planner.shared.picture import Picture
from planner.shared.tools import ToolKey

Phase = Literal[
    "ready",
    "dry_fit",
    "running_gear",
    "drive",
    "box",
    "pack",
    "wiring",
    "power",
    "finish",
    "before",
    "first_metres",
    "faster",
    "after",
]
PHASES: dict[Phase, str] = {
    "ready": "Make ready",
    "dry_fit": "Dry fit",
    "running_gear": "Trucks and wheels",
    "drive": "Drive",
    "box": "Box",
    "pack": "Pack",
    "wiring": "Wiring",
    "power": "First power",
    "finish": "Close up",
    "before": "Before you go",
    "first_metres": "First metres",
    "faster": "Faster, step by step",
    "after": "Afterwards",
}
Threadlock = Literal["none", "medium"]
Verdict = Literal["open", "right", "unsure", "wrong"]


Change = float | int | str | bool | list[str] | list[dict[str, float]] | None
"""What a figure of the build is set to."""


class Minutes(BaseModel):
    """How long a step takes, from quick to slow hands."""

    low: float
    high: float


class Fastener(BaseModel):
    """Bolts, screws or nuts of one size: how many, with what beneath, locked or not, how hard."""

    what: str
    count: int
    thread: str | None = None
    length_mm: float | None = None
    beneath: str | None = None
    threadlock: bool = False
    tighten: Message


class School(BaseModel):
    """One of several ways in which builders do it."""

    name: str
    text: Message


class Method(BaseModel):
    """A way of working that the builder may choose: why, and what it fits."""

    value: str
    name: str
    text: Message
    fits: Message


class MethodChoice(BaseModel):
    """A field of the builder's methods with its ways; ``holds`` is the way of this board, ``usual`` where
    nothing is chosen."""

    field: str
    title: str
    ways: list[Method]
    holds: str
    usual: str


class Check(BaseModel):
    """A figure that is measured at a step: what it is to be (``low`` to ``high``), what the plan says, what was measured."""

    id: str
    text: str
    quantity: str
    unit: str
    low: float | None = None
    high: float | None = None
    plan: float | None = None
    entered: float | None = None


class Judged(BaseModel):
    """What was measured at a step, judged; ``changes`` is what the model learns from it, by path of the build file."""

    verdict: Verdict = "open"
    said: Message | None = None
    remedy: Message | None = None
    changes: dict[str, Change] = {}


class Step(BaseModel):
    """One step. ``after`` are the steps before it, ``needs`` the parts that have to be in the house, ``touches`` the figures of
    the build that it stands on: when one of them is another later, the step is to be looked at again.

    ``page`` is where the step is done, if it has a page of its own; ``optional`` steps hold nothing up.
    """

    id: str
    phase: Phase
    title: Title
    why: Message
    do: list[Message]
    right: Message
    wrong: Message | None = None
    caution: Message | None = None
    schools: list[School] = []
    method: str | None = None
    """The field of the builder's methods that it follows, as :attr:`MethodChoice.field` has it."""
    tools: list[ToolKey] = []
    fasteners: list[Fastener] = []
    threadlock: Threadlock = "none"
    minutes: Minutes
    waits_h: float = 0.0
    """Hours after it in which nothing can be done with what it made: a print, a glue, a charge."""
    after: list[str] = []
    needs: list[str] = []
    touches: list[str] = []
    checks: list[Check] = []
    picture: Picture | None = None
    page: PageSlug | None = None
    field: str | None = None
    optional: bool = False
