"""How a board begins: six questions in a builder's words, each answered by a few figures of the build file.

What stands beside a question is common practice, no source.
"""

from pydantic import BaseModel

from boardmath.buildfile.build import Build, Rider


def new_build(name: str = "New board") -> Build:
    """An empty bench: only a rider of usual mass."""
    return Build(
        format="sand-pocket/build", version=1, name=name, stage="planned", currency="EUR", rider=Rider(mass_kg=75)
    )


class Question(BaseModel):
    """``fields`` are asked first, by their paths; ``why`` says what the board gets out of the answer."""

    slug: str
    asks: str
    why: str
    fields: list[str]


QUESTIONS = [
    Question(
        slug="who",
        asks="Who rides?",
        why="As you step on, in clothes and shoes; the bag beside it. Hills and range hang on it as on no single part.",
        fields=["rider.mass_kg", "rider.carried_kg"],
    ),
    Question(
        slug="what",
        asks="What for, and on what ground?",
        why="Boardwalks and gravel take far more out of a pack than smooth asphalt.",
        fields=["brief.use", "brief.surface"],
    ),
    Question(
        slug="far",
        asks="How far on one charge?",
        why="There and back, without a socket on the way. The pack follows from it, and the price from the pack.",
        fields=["brief.range_km"],
    ),
    Question(
        slug="steep",
        asks="How steep is the worst hill?",
        why="5 % is hardly seen, 10 % gets a cyclist out of the saddle, 20 % is a street people talk about.",
        fields=["brief.hill_grade_pct", "brief.hill_length_m"],
    ),
    Question(
        slug="fast",
        asks="How fast?",
        why="What is allowed where you ride is yours to find out. 20 km/h keeps up with a bicycle.",
        fields=["brief.top_speed_kmh"],
    ),
    Question(
        slug="much",
        asks="How much may it cost, and weigh?",
        why="Without what is in the drawer already; and what you would carry up the stairs.",
        fields=["brief.budget", "brief.carry_mass_kg"],
    ),
]
