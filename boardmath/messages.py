"""Sentences with figures in them: plain text for the command line, and a template for a screen with its own units."""

from dataclasses import dataclass
from datetime import date
from typing import Annotated, Any

from pydantic import BeforeValidator

from boardmath.units import QUANTITIES


# A table of candidates makes thousands of these: plain dataclasses are made in a tenth of the time of models.
@dataclass(frozen=True, slots=True)
class Figure:
    """A number in a sentence, in the build file's unit of its quantity."""

    value: float
    quantity: str


@dataclass(frozen=True, slots=True)
class Message:
    """A sentence; ``template`` has ``{names}`` where ``values`` are put in, ``text`` has them filled in.

    A value is a figure, a word, or a sentence of its own.
    """

    text: str
    template: str
    values: "dict[str, Figure | Message | str]"


def written(value: float, quantity: str) -> str:
    """A figure with its unit as the build file has it, to the decimals in which it is shown."""
    kind = QUANTITIES[quantity]
    number = f"{value:,.{next(iter(kind.decimals.values()))}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return number + ("" if kind.unit in ("", "°") else " ") + kind.unit


def message(template: str, **values: tuple[float, str] | Message | str | int | None) -> Message:
    """A sentence from a template and its values.

    Args:
        template: a literal, so that another language can have its own; ``{names}`` where values are put in.
        values: ``(value, quantity)``, a word, a count, another sentence, or None for nothing.
    """
    kept = {name: _value(value) for name, value in values.items()}
    filled = template.format(**{name: _text(value) for name, value in kept.items()}) if kept else template
    return Message(text=filled, template=template, values=kept)


def in_a_row(*sentences: Message | None) -> Message:
    """Sentences one after the other, as one."""
    kept = [s for s in sentences if s is not None]
    if len(kept) == 1:
        return kept[0]
    values = {f"sentence_{n}": s for n, s in enumerate(kept, 1)}
    return message(" ".join(f"{{{name}}}" for name in values), **values)


def as_message(text: Message | str) -> Message:
    """Plain words as a message without values."""
    return message(text) if isinstance(text, str) else text


def _read(given: Any) -> Any:
    return as_message(given) if isinstance(given, str) else given


Title = Annotated[Message, BeforeValidator(_read)]
"""A message that is a heading; reports that were kept when headings were plain words are read too."""


def _value(given: tuple[float, str] | Message | str | int | None) -> Figure | Message | str:
    if isinstance(given, tuple):
        return Figure(value=float(given[0]), quantity=given[1])
    if isinstance(given, Message):
        return given
    return "" if given is None else str(given)


def _text(value: Figure | Message | str) -> str:
    if isinstance(value, Figure):
        return written(value.value, value.quantity)
    return value.text if isinstance(value, Message) else value


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


def lower_first(words: str) -> str:
    """Without a capital at its beginning, as after a colon."""
    return words[:1].lower() + words[1:]
