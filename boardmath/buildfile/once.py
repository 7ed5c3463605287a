"""Asking a build the same thing once, and its variations only where they differ in what the answer reads.

Many findings and drawings look at the same belt, box and sums. Forty candidates for a part differ in that part alone: what does
not read it is as it was.
"""

from abc import ABCMeta
from collections.abc import Callable, Iterable, Sequence
from functools import cache, wraps
from typing import Any, TypeVar

from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import KEPT, Record

T = TypeVar("T")
Question = Callable[[Build], Any]
ALL = -1
"""Every figure of a build, as a set of bits."""


class _Kept:
    """What a build was asked. It is kept with the build and goes with it."""

    def __init__(self) -> None:
        self.answers: dict[Question, tuple[Any, int]] = {}
        """By question: the answer, and the figures that it read, as bits; they are noted in a watched build alone."""
        self.base: Build | None = None
        """The build that this one is a variation of."""
        self.differs = ALL
        self.watched: Build | None = None
        self.reading: _Reading | None = None


class _Reading:
    """What is read of a watched build, as bits."""

    def __init__(self) -> None:
        self.bits, self.places = 0, 0

    def new_bit(self) -> int:
        self.places += 1
        return 1 << (self.places - 1)


def _kept_of(build: Build) -> _Kept:
    own = object.__getattribute__(build, "__dict__")
    kept = own.get(KEPT)
    if kept is None:
        kept = own[KEPT] = _Kept()
    return kept  # type: ignore[no-any-return]


def once_a_build(question: Callable[[Build], T]) -> Callable[[Build], T]:
    """The answer is kept as long as the build lives; builds never change, they are copied."""
    return _asked(question, False)


def once_for_variations(question: Callable[[Build], T]) -> Callable[[Build], T]:
    """The same, and variations of a build that are alike in all that was read share one answer.

    ``question`` reads the build alone, and its answer has no part of the build in it.
    """
    return _asked(question, True)


def _asked(question: Callable[[Build], T], shared: bool) -> Callable[[Build], T]:
    @wraps(question)
    def asked(build: Build) -> T:
        answer: T
        kept = _kept_of(build)
        if asked in kept.answers:
            answer, reads = kept.answers[asked]
            if kept.reading is not None:
                kept.reading.bits |= reads
            return answer
        if kept.reading is not None:
            answer, reads = _watching(question, build, kept.reading)
        else:
            known = _of_the_base(asked, kept) if shared and kept.base is not None else None
            answer, reads = known or (question(build), ALL)
        kept.answers[asked] = answer, reads
        return answer

    return asked


def all_asked(build: Build, questions: Sequence[Callable[[Build], T]]) -> list[T]:
    """The answers to many questions of :func:`once_for_variations`; those that a variation shares cost next to nothing."""
    kept = _kept_of(build)
    if kept.base is None or kept.reading is not None:
        return [question(build) for question in questions]
    known, differs, own = _kept_of(_watched(kept.base)).answers, kept.differs, kept.answers
    answers = []
    for question in questions:
        found = own.get(question) or known.get(question)
        if found is None:
            answers.append(question(build))
            continue
        answer, reads = found
        if reads & differs and question not in own:
            answer = question.__wrapped__(build)  # type: ignore[attr-defined]
            own[question] = answer, ALL
        answers.append(answer)
    return answers


def _watching(question: Callable[[Build], T], build: Build, reading: _Reading) -> tuple[T, int]:
    before, reading.bits = reading.bits, 0
    try:
        answer = question(build)
        return answer, reading.bits
    finally:
        reading.bits |= before


def _of_the_base(asked: Callable[[Build], T], kept: _Kept) -> tuple[T, int] | None:
    """The answer of the build that this is a variation of, where they do not differ in what it read."""
    assert kept.base is not None
    watched = _watched(kept.base)
    try:
        asked(watched)
    except Exception:
        # The base may be too incomplete to be asked; its variation need not be.
        return None
    answer, reads = _kept_of(watched).answers[asked]
    return None if reads & kept.differs else (answer, reads)


def varied(base: Build, variations: Iterable[Build]) -> None:
    """Says that builds are variations of another one, so that they share its answers."""
    watched = _watched(base)
    for build in variations:
        kept = _kept_of(build)
        if build is not base and kept.base is None:
            kept.base, kept.differs = base, _difference(watched, build)


def _watched(build: Build) -> Build:
    """The same build, which notes what is read of it."""
    kept = _kept_of(build)
    if kept.watched is None:
        reading = _Reading()
        watched = _watched_record(build, reading)[0]
        own = _Kept()
        own.reading = reading
        object.__getattribute__(watched, "__dict__")[KEPT] = own
        kept.watched = watched  # type: ignore[assignment]
    assert kept.watched is not None
    return kept.watched


def _watched_record(record: Record, reading: _Reading) -> tuple[Record, int]:
    """A record that notes what is read of it and of the records in it, and all their bits."""
    bits: dict[str, int] = {}
    values: dict[str, Any] = {}
    whole = 0
    for name in type(record).model_fields:
        value = getattr(record, name)
        bits[name] = reading.new_bit()
        inner = 0
        if isinstance(value, Record):
            value, inner = _watched_record(value, reading)
        whole |= bits[name] | inner
        values[name] = value
    made = object.__new__(_watched_type(type(record)))
    for slot, held in (
        ("__dict__", values),
        ("__pydantic_fields_set__", set(record.model_fields_set)),
        ("__pydantic_extra__", None),
        ("__pydantic_private__", {"of": record, "bits": bits, "whole": whole, "reading": reading}),
    ):
        object.__setattr__(made, slot, held)
    return made, whole


@cache
def _watched_type(model: type[Record]) -> type[Record]:
    """A model whose records note which of their fields are read; who looks at all of them at once reads them all."""

    def read(self: Any, name: str) -> Any:
        if name in fields or name == "__dict__":
            private = object.__getattribute__(self, "__pydantic_private__")
            private["reading"].bits |= private["whole"] if name == "__dict__" else private["bits"][name]
        return object.__getattribute__(self, name)

    def same(self: Any, other: Any) -> bool:
        return isinstance(other, model) and all(getattr(self, n) == getattr(other, n) for n in fields)

    fields = frozenset(model.model_fields)
    # Past Pydantic's own way of making a class, which would compile the model once more.
    body = {"__getattribute__": read, "__eq__": same, "__hash__": None, "__module__": model.__module__}
    return ABCMeta.__new__(type(model), model.__name__, (model,), body)


def _difference(watched: Record, other: Record) -> int:
    """The bits of the figures in which another record differs."""
    own = object.__getattribute__(watched, "__dict__")
    private = object.__getattribute__(watched, "__pydantic_private__")
    if private["of"] is other:
        return 0
    differs = 0
    for name, bit in private["bits"].items():
        one, two = own[name], getattr(other, name)
        if one is two:
            continue
        if isinstance(one, Record):
            if isinstance(two, Record) and isinstance(one, type(two)):
                differs |= _difference(one, two)
            else:
                differs |= bit | object.__getattribute__(one, "__pydantic_private__")["whole"]
        elif one != two:
            differs |= bit
    return differs
