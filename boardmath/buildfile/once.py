"""Asking a build the same thing once, and its variations only where they differ in what the answer reads.

Many findings and drawings look at the same belt, box and sums. Forty candidates for a part differ in that part alone: what does
not read it is as it was, and what reads only the diameter of a motor is one answer for all of one diameter.
"""

from abc import ABCMeta
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
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
        self.watched: Build | None = None
        self.reading: _Reading | None = None
        self.variation: _Variation | None = None
        """How it differs from the build of which it is a variation."""
        self.variations: list[_Variation] = []
        """How those differ that are variations of it."""
        self.known: dict[Question, _Known] = {}
        """Of a build that has variations: what it and they were asked."""
        self.alike: dict[int, Counter[tuple[Any, ...]]] = {}
        """By figures that are read: how many variations are alike in them."""


class _Variation:
    """In which figures a build differs from another one, its ``base``."""

    def __init__(self, base: Build, values: dict[int, Any]) -> None:
        self.base, self._values, self._differs = base, values, 0
        for bit in values:
            self._differs |= bit
        self.keys: dict[int, tuple[Any, ...]] = {}

    def key(self, reads: int) -> tuple[Any, ...]:
        """The figures that differ among those that are read, to be compared with those of other variations."""
        key = self.keys.get(reads)
        if key is None:
            # Many questions read the same of what differs.
            key = self.keys.get(differs := reads & self._differs)
            if key is None:
                key = self.keys[differs] = tuple([(bit, of) for bit, of in self._values.items() if bit & differs])
            self.keys[reads] = key
        return key


class _Known:
    """Answers to one question: by the figures that were read, and by how these differ from the base's."""

    def __init__(self) -> None:
        self.by_reads: dict[int, dict[tuple[Any, ...], Any]] = {}

    def find(self, variation: _Variation) -> tuple[Any, int] | None:
        """The answer of a build that does not differ in what was read, and what was read."""
        for reads, answers in self.by_reads.items():
            key = variation.keys.get(reads)
            if key is None:
                key = variation.key(reads)
            if key in answers:
                return answers[key], reads
        return None

    def add(self, key: tuple[Any, ...], answer: Any, reads: int) -> None:
        self.by_reads.setdefault(reads, {})[key] = answer

    @property
    def reads_of_base(self) -> int | None:
        """What the base read; None where it is too incomplete to be asked."""
        return next(iter(self.by_reads), None)


_WORTH_WATCHING = 3
"""Variations alike in what the base read from which on it pays to note what one of them reads: that takes twice as long."""


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
        kept = _kept_of(build)
        if asked not in kept.answers:
            kept.answers[asked] = _answer(question, asked, shared, build, kept)
        answer, reads = kept.answers[asked]
        if kept.reading is not None:
            kept.reading.bits |= reads
        return answer  # type: ignore[no-any-return]

    return asked


def _answer(question: Callable[[Build], T], asked: Question, shared: bool, build: Build, kept: _Kept) -> tuple[T, int]:
    """The answer to a question that this build was not asked yet, and what was read for it."""
    variation = kept.variation if shared else None
    if variation is None:
        return (question(build), ALL) if kept.reading is None else _watching(question, build, kept.reading)
    known = _known_of(asked, variation.base)
    if (found := known.find(variation)) is not None:
        return found
    if kept.reading is None:
        if _alike(variation, known.reads_of_base) < _WORTH_WATCHING:
            return question(build), ALL
        watched = _watched_variation(build, variation, kept)
        try:
            asked(watched)
        except Exception:
            return question(build), ALL  # fails here as it should
        return _kept_of(watched).answers[asked]
    answer, reads = _watching(question, build, kept.reading)
    known.add(variation.key(reads), answer, reads)
    return answer, reads


def all_asked(build: Build, questions: Sequence[Callable[[Build], T]]) -> list[T]:
    """The answers to many questions of :func:`once_for_variations`; those that a variation shares cost next to nothing."""
    kept = _kept_of(build)
    if kept.variation is None or kept.reading is not None:
        return [question(build) for question in questions]
    variation, own, known = kept.variation, kept.answers, _kept_of(kept.variation.base).known
    answers = []
    for question in questions:
        found = own.get(question) or (known.get(question) or _known_of(question, variation.base)).find(variation)
        answers.append(question(build) if found is None else found[0])
    return answers


def _watching(question: Callable[[Build], T], build: Build, reading: _Reading) -> tuple[T, int]:
    before, reading.bits = reading.bits, 0
    try:
        answer = question(build)
        return answer, reading.bits
    finally:
        reading.bits |= before


def _known_of(asked: Question, base: Build) -> _Known:
    """What a build and its variations answered; the build itself is asked first."""
    kept = _kept_of(base)
    known = kept.known.get(asked)
    if known is None:
        known = kept.known[asked] = _Known()
        watched = _watched(base)
        try:
            asked(watched)
        except Exception:
            return known  # the base may be too incomplete to be asked; its variations need not be
        known.add((), *_kept_of(watched).answers[asked])
    return known


def _alike(variation: _Variation, reads: int | None) -> int:
    """How many variations are as this one in figures that are read, itself among them."""
    if reads is None:
        return 1
    kept = _kept_of(variation.base)
    if reads not in kept.alike:
        kept.alike[reads] = Counter(v.key(reads) for v in kept.variations)
    return kept.alike[reads][variation.key(reads)]


def varied(base: Build, variations: Iterable[Build]) -> None:
    """Says that builds are variations of another one, so that they share its answers."""
    watched, own = _watched(base), _kept_of(base)
    own.alike.clear()
    for build in variations:
        kept = _kept_of(build)
        if build is not base and kept.variation is None:
            kept.variation = _Variation(base, dict(_differing(watched, build)))
            own.variations.append(kept.variation)


def _watched(build: Build) -> Build:
    """The same build, which notes what is read of it."""
    kept = _kept_of(build)
    if kept.watched is None:
        reading = _Reading()
        kept.watched = _with_reading(_watched_record(build, reading)[0], reading)
    return kept.watched


def _watched_variation(build: Build, variation: _Variation, kept: _Kept) -> Build:
    """A variation that notes what is read of it, by the same bits as its base."""
    if kept.watched is None:
        base = _watched(variation.base)
        reading = _kept_of(base).reading
        assert reading is not None
        kept.watched = _with_reading(_watched_as(base, build), reading)
        _kept_of(kept.watched).variation = variation
    return kept.watched


def _with_reading(watched: Record, reading: _Reading) -> Build:
    own = _Kept()
    own.reading = reading
    object.__getattribute__(watched, "__dict__")[KEPT] = own
    return watched  # type: ignore[return-value]


def _watched_as(watched: Record, record: Record) -> Record:
    """Another record of the type of a watched one, which notes what is read by the same bits."""
    private = object.__getattribute__(watched, "__pydantic_private__")
    if private["of"] is record:
        return watched
    values: dict[str, Any] = {}
    of_base = object.__getattribute__(watched, "__dict__")
    for name in private["bits"]:
        value, own = getattr(record, name), of_base[name]
        # A record that the base does not have is read as a whole: its bit is noted where it is taken.
        alike = isinstance(own, Record) and isinstance(value, Record) and isinstance(own, type(value))
        values[name] = _watched_as(own, value) if alike else value
    return _made_watched(record, values, {**private, "of": None})


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
    return _made_watched(record, values, {"of": record, "bits": bits, "whole": whole, "reading": reading}), whole


def _made_watched(record: Record, values: dict[str, Any], private: dict[str, Any]) -> Record:
    made = object.__new__(_watched_type(type(record)))
    for slot, held in (
        ("__dict__", values),
        ("__pydantic_fields_set__", set(record.model_fields_set)),
        ("__pydantic_extra__", None),
        ("__pydantic_private__", private),
    ):
        object.__setattr__(made, slot, held)
    return made


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


def _differing(watched: Record, other: Record) -> Iterator[tuple[int, Any]]:
    """The bits of the figures in which another record differs, each with what the other has there, to be compared."""
    own = object.__getattribute__(watched, "__dict__")
    private = object.__getattribute__(watched, "__pydantic_private__")
    if private["of"] is other:
        return
    for name, bit in private["bits"].items():
        one, two = own[name], getattr(other, name)
        if one is two:
            continue
        if isinstance(one, Record):
            if isinstance(two, Record) and isinstance(one, type(two)):
                yield from _differing(one, two)
            else:
                yield bit | object.__getattribute__(one, "__pydantic_private__")["whole"], _comparable(two)
        elif one != two:
            yield bit, _comparable(two)


def _comparable(value: Any) -> Any:
    """What is equal where values are; a list and its like only where they are the same one."""
    try:
        hash(value)
    except TypeError:
        return _Same(value)
    return value


class _Same:
    """Equal to the very same object alone."""

    def __init__(self, value: Any) -> None:
        self._value = value

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self._value is other._value

    def __hash__(self) -> int:
        return id(self._value)
