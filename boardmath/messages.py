"""Sentences with figures in them: plain text for the command line, and a template for a screen with its own units."""

from datetime import date

from pydantic import BaseModel

from boardmath.units import QUANTITIES


class Figure(BaseModel):
    """A number in a sentence, in the build file's unit of its quantity."""

    value: float
    quantity: str


class Message(BaseModel):
    """A sentence; ``template`` has ``{names}`` where ``values`` stand, ``text`` has them filled in."""

    text: str
    template: str
    values: dict[str, Figure]


def written(value: float, quantity: str) -> str:
    """A figure with its unit as the build file has it, to the decimals in which it is shown."""
    kind = QUANTITIES[quantity]
    number = f"{value:,.{next(iter(kind.decimals.values()))}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return number + ("" if kind.unit in ("", "°") else " ") + kind.unit


def message(template: str, **values: tuple[float, str]) -> Message:
    """A sentence from a template and ``name=(value, quantity)``; without values braces are only braces."""
    return Message(
        text=template.format(**{name: written(*pair) for name, pair in values.items()}) if values else template,
        template=template,
        values={name: Figure(value=float(value), quantity=quantity) for name, (value, quantity) in values.items()},
    )


def plain(words: str) -> str:
    """A person's own words within a template: they are no template."""
    return words.replace("{", "(").replace("}", ")")


def day_in_words(day: date | str) -> str:
    """A day, also as a build file has it, as it is read, such as 13 Sep 2026."""
    return f"{date.fromisoformat(day) if isinstance(day, str) else day:%-d %b %Y}"


def counted(count: int, one: str, many: str | None = None) -> str:
    """A number of things: small ones as a word."""
    words = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    number = words[count] if count < len(words) else str(count)
    return f"{number} {one if count == 1 else many or one + 's'}"


def sentence(words: str) -> str:
    """With a capital at its beginning."""
    return words[:1].upper() + words[1:]
