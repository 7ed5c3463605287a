"""What rides taught about a board and its rider: where the model's inputs lie together, in deviations from what was thought
before.
"""

from typing import Annotated

from pydantic import Field, model_validator

from boardmath.buildfile.figures import Record, choice, words
from boardmath.buildfile.trips import Ground


class LearnedInput(Record):
    """An input of the model, and what it was thought to be when rides moved it: where that is another now, nothing was learnt."""

    name: str = Field(max_length=40, title="Input")
    value: float = Field(title="Prior value")
    spread: float = Field(ge=0, title="Prior spread")
    mean: float = Field(ge=-12, le=12, title="Moved by", description="deviations of that spread")


class Calibration(Record):
    """A joint normal distribution over the inputs' normal scores. It is made from rides, never written by hand."""

    inputs: list[LearnedInput] = Field(max_length=60)
    covariance: list[Annotated[list[float], Field(max_length=60)]] = Field(max_length=60)
    rides: int = Field(ge=0, title="Rides")
    surface: Ground | None = choice("Surface", "of the brief whose rides these were")
    boards: list[str] | None = Field(default=None, max_length=40, title="Other boards", description="of the same rider")
    note: str | None = words(400, "Note")

    @model_validator(mode="after")
    def _square(self) -> "Calibration":
        count = len(self.inputs)
        if len(self.covariance) != count or any(len(row) != count for row in self.covariance):
            raise ValueError("the covariance has to have a row and a column for each input")
        return self
