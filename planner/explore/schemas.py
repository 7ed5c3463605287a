"""What is told of a space and of its boards."""

from typing import Any

from pydantic import BaseModel

from boardmath.buildfile.figures import Part
from boardmath.likelihood import WithChance
from boardmath.messages import Message
from boardmath.prediction.outcomes import Outcome, OutcomeName
from planner.explore.space import Axis


class ChosenValue(BaseModel):
    """What a board has of one thing that was open."""

    path: str
    title: str
    label: str
    value: float | None = None
    quantity: str | None = None


class ExploredBoard(WithChance):
    """One board of the space, worked out by itself; ``chance`` is that all that is wanted is kept."""

    number: int
    chosen: list[ChosenValue]
    outcomes: list[Outcome]
    chance_in_words: str
    grave: list[Message] = []
    """Titles of the findings that keep its parts apart."""
    also: list[Message] = []
    """Titles of the findings that another part beside them mends: a box, a charger, a fuse."""


class PickedBoard(BaseModel):
    """One of the boards to look at, and for what."""

    title: str
    number: int


class OpenAxis(BaseModel):
    """Something that is open: for each of its values the surest board that has it."""

    path: str
    title: str
    quantity: str | None
    labels: list[str]
    surest: list[float]


class CloudCell(WithChance):
    """Boards that lie together; the chance is that of the surest of them."""

    x: float
    y: float
    boards: int


class Cloud(BaseModel):
    """All boards looked at, by two promises; ``wide`` and ``high`` are a cell's sides."""

    across: OutcomeName
    up: OutcomeName
    wide: float
    high: float
    cells: list[CloudCell]


class WishSpread(BaseModel):
    """How the boards lie along one outcome: how many in each of equal steps from ``low`` to ``high``."""

    name: OutcomeName
    quantity: str
    at_most: bool
    """Whether less is better: the wish is a limit and not a least."""
    low: float
    high: float
    wanted: float | None
    boards: list[int]
    sure: list[int]
    """Of them, those that keep all of it."""


class ExcludedDesigns(BaseModel):
    why: Message
    boards: int


class GiveUp(BaseModel):
    """What would have to be given up, the least first: one wish, all others as they are."""

    name: OutcomeName
    quantity: str
    wanted: float
    attainable: float


class Exploration(BaseModel):
    """How a space stands against what is wanted, after ``progress`` of it, 0 to 1, was looked at."""

    progress: float
    boards: int
    looked_at: int
    sure: int
    """Of those looked at, how many keep all that is wanted eight times in ten."""
    best: float
    asks: bool
    """Whether anything is wanted at all."""
    left_out: list[ExcludedDesigns]
    axes: list[OpenAxis]
    spreads: list[WishSpread]
    cloud: Cloud
    front: list[ExploredBoard]
    picks: list[PickedBoard]
    give_up: list[GiveUp]
    says: Message
    of: int
    """Combinations in all, with those that cannot be put together."""
    chosen_from: bool
    """Whether they are too many to look at each, and a random choice was looked at."""
    lacks: list[Message]
    completed: Message | None = None
    """With what of the library every board is made whole."""
    space: str = ""
    """Of which board and which parts: a design's number means another one in another space."""


class StepValue(WithChance):
    """A value of one axis on the chosen board, all else as it is: what that step buys and what gives way then."""

    label: str
    number: int
    here: bool
    in_short: str
    outcomes: list[Outcome]
    fits: bool


class AxisSteps(BaseModel):
    path: str
    title: str
    values: list[StepValue]


class RealPart(WithChance):
    """A part of the library near a figure that was free, and how sure the board is with it."""

    path: str
    name: str
    maker: str | None
    in_short: str
    outcomes: list[Outcome]
    parts: dict[str, Any]


class LookedInto(BaseModel):
    """One board looked into: what lays it on the bench, what a step of each part buys, the nearest real parts."""

    board: ExploredBoard
    parts: dict[str, Any]
    settings: dict[str, Any]
    steps: list[AxisSteps]
    real: list[RealPart]


def label_of(axis: Axis, at: int) -> str:
    """A value of an axis in words: a part's name, or a number without its unit."""
    value = axis.values[at]
    if isinstance(value, Part):
        return value.name or f"{axis.title} {at + 1}"
    return f"{value:g}"
