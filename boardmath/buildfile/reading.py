"""Reading a build file: every fault is reported with its field and its reason, and nothing is half read."""

import difflib
import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, TypeVar, get_args

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from boardmath.buildfile.build import FORMAT, HISTORY_FIELDS, Build, BuildFile
from boardmath.buildfile.migration import VERSION
from boardmath.buildfile.plain_text import NOT_PLAIN, first_not_plain, is_suspect

LARGEST_FILE = 512 * 1024
"""Bytes. A whole build with two hundred extras is under a tenth of it."""

MOST_FAULTS = 20
"""Of one file, how many are told: each takes a search for the key that was meant."""
_LONGEST_KEY = 80

M = TypeVar("M", bound=BaseModel)


@dataclass(frozen=True)
class Fault:
    """One thing wrong with a file: where (a dotted path, empty for the whole file) and why."""

    field: str
    reason: str

    def __str__(self) -> str:
        return f"{self.field}: {self.reason}" if self.field else self.reason


class BuildFileError(ValueError):
    """A file or part that cannot be used; ``faults`` says where and why."""

    def __init__(self, faults: list[Fault]):
        super().__init__("; ".join(str(f) for f in faults))
        self.faults = faults


def read_build(data: str | bytes | Mapping[str, Any]) -> BuildFile:
    """A build file from JSON text or an already parsed object.

    Raises:
        BuildFileError: with a fault for each field that is wrong.
    """
    raw = dict(data) if isinstance(data, Mapping) else parse_json(data)
    return check(BuildFile, _of_this_version(raw))


def check(model: type[M], raw: Mapping[str, Any]) -> M:
    """``raw`` as a ``model`` of the build file (a whole build or one part).

    Raises:
        BuildFileError: with a fault for each field that is wrong, the first :data:`MOST_FAULTS`.
    """
    try:
        return model.model_validate(raw)
    except ValidationError as error:
        every = error.errors(include_url=False)
        faults = [_fault(model, e) for e in every[:MOST_FAULTS]]
        if len(every) > MOST_FAULTS:
            faults.append(Fault("", f"and {len(every) - MOST_FAULTS:,} more faults; mend these first"))
        raise BuildFileError(faults) from None


def write_build(build: Build) -> dict[str, Any]:
    """The build as the plain object that :func:`read_build` reads back to the same build; absent stays absent."""
    return build.model_dump(mode="json", exclude_none=True)


def write_board(build: Build) -> dict[str, Any]:
    """What a board is and what is asked of it, without what happened to it."""
    return build.model_dump(mode="json", exclude_none=True, exclude=set(HISTORY_FIELDS))


def write_history(file: BuildFile) -> dict[str, Any]:
    """What happened to a board: its trips, its maintenance and what its builder says of its cost."""
    return file.model_dump(mode="json", exclude_none=True, include=set(HISTORY_FIELDS))


def parse_json(text: str | bytes, largest: int = LARGEST_FILE) -> dict[str, Any]:
    """An object from JSON text; refuses what is too large, not UTF-8, not JSON, nested without end, or no plain text.

    Raises:
        BuildFileError: with one fault.
    """
    if len(text) > largest:
        raise _unreadable(f"the file has {len(text):,} bytes; it may have at most {largest:,}")
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        raw = json.loads(text, parse_constant=_refuse_constant, object_pairs_hook=_unique_keys)
        not_plain = first_not_plain(raw) if is_suspect(text) else None
    except UnicodeDecodeError as error:
        raise _unreadable(f"not UTF-8 text (byte {error.start})") from None
    except json.JSONDecodeError as error:
        raise _unreadable(f"not JSON: {error.msg} at line {error.lineno}, column {error.colno}") from None
    except RecursionError:
        raise _unreadable("nested too deeply for a build file") from None
    except ValueError as error:  # a repeated key, NaN, or a number with thousands of digits
        raise _unreadable(str(error)) from None
    if not isinstance(raw, dict):
        raise _unreadable("a build file is one JSON object, in braces")
    if not_plain is not None:
        raise BuildFileError([Fault(not_plain, NOT_PLAIN)])
    return raw


def _of_this_version(raw: dict[str, Any]) -> dict[str, Any]:
    """Checks the header; :mod:`boardmath.buildfile.migration` brings older versions forward."""
    if raw.get("format") != FORMAT:
        raise BuildFileError(
            [Fault("format", f'a build file says "format": "{FORMAT}"; this one says {_short(raw.get("format"))}')]
        )
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BuildFileError([Fault("version", f"must be a whole number from 1 to {VERSION}, not {_short(version)}")])
    if version > VERSION:
        raise BuildFileError(
            [
                Fault(
                    "version",
                    f"this file is newer (version {version}) than this program can read ({VERSION}); nothing was "
                    "changed",
                )
            ]
        )
    return raw


def _refuse_constant(name: str) -> float:
    raise ValueError(f"{name} is not a number that a build file can hold")


def _unique_keys(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    seen: dict[str, Any] = {}
    for key, value in pairs:
        if key in seen:
            raise ValueError(f"the key {_short(key)} is there twice in one object")
        seen[key] = value
    return seen


def _unreadable(reason: str) -> BuildFileError:
    return BuildFileError([Fault("", reason)])


def _fault(model: type[BaseModel], error: ErrorDetails) -> Fault:
    path = ".".join(str(step) for step in error["loc"])
    return Fault(path, _reason(model, error))


def _reason(model: type[BaseModel], error: ErrorDetails) -> str:
    given, kind, context = error.get("input"), error["type"], error.get("ctx", {})
    if kind == "extra_forbidden":
        known = _keys_beside(model, error["loc"])
        near = difflib.get_close_matches(str(error["loc"][-1])[:_LONGEST_KEY], known, n=1, cutoff=0.5)
        return "unknown key" + (f"; the nearest known one is {near[0]}" if near else "")
    if kind in ("greater_than_equal", "less_than_equal"):
        return _out_of_span(model, error["loc"], given) or error["msg"]
    if kind == "missing":
        return "missing; a build file needs it"
    if kind == "int_type" and isinstance(given, float):
        return f"must be a whole number, not {given:g}"
    if kind in ("float_type", "int_type", "float_parsing", "int_parsing"):
        return f"must be a number, not {_short(given)}"
    if kind == "literal_error":
        return f"must be one of {context.get('expected')}, not {_short(given)}"
    if kind == "finite_number":
        return "must be a finite number"
    if kind in ("string_too_long", "too_long"):
        return (
            f"too long: at most {context.get('max_length')} {'characters' if kind.startswith('string') else 'entries'}"
        )
    if kind == "value_error":
        return str(context.get("error", error["msg"]))
    if kind == "string_pattern_mismatch":
        if "d{4}" in str(context.get("pattern")):
            return f"must be a day such as 2026-05-31, not {_short(given)}"
        return f"must be three capital letters such as EUR, not {_short(given)}"
    if kind in ("model_type", "model_attributes_type", "dict_type"):
        return f"must be an object in braces, not {_short(given)}"
    return f"{error['msg']}, not {_short(given)}"


# What a figure was probably given in, if it misses its span by just such a factor.
_MISTAKEN_UNITS = {
    "mm": (("metres", 1000.0), ("centimetres", 10.0), ("inches", 25.4)),
    "m": (("centimetres", 0.01), ("millimetres", 0.001)),
    "g": (("kilograms", 1000.0),),
    "kg": (("grams", 0.001),),
    "mΩ": (("ohms", 1000.0),),
    "Ah": (("milliampere hours", 0.001),),
    "A": (("milliamperes", 0.001),),
}


def _out_of_span(model: type[BaseModel], path: Iterable[int | str], given: Any) -> str | None:
    spot = _field_at(model, path)
    if spot is None or not isinstance(given, int | float):
        return None
    extra = spot.json_schema_extra
    if not isinstance(extra, dict):
        return None
    low, high, unit = extra["low"], extra["high"], str(extra["unit"])
    assert isinstance(low, int | float)
    assert isinstance(high, int | float)
    reason = f"{given:g}{' ' + unit if unit else ''} is outside {low:g} to {high:g}{' ' + unit if unit else ''}"
    for word, factor in _MISTAKEN_UNITS.get(unit, ()):
        if given > 0 and low <= given * factor <= high:
            return f"{reason}; was it given in {word}?"
    return reason


def _model_in(annotation: Any) -> type[BaseModel] | None:
    for candidate in (annotation, *get_args(annotation)):
        if isinstance(candidate, type) and issubclass(candidate, BaseModel):
            return candidate
        if candidate is not annotation and (found := _model_in(candidate)):
            return found
    return None


def _walk(model: type[BaseModel], path: Iterable[int | str]) -> tuple[type[BaseModel], Any]:
    """The model that holds the last named step of ``path``, and that step's field (None if unknown)."""
    here, field = model, None
    for step in path:
        if isinstance(step, int):
            continue
        if field is not None and (inner := _model_in(field.annotation)):
            here = inner
        field = here.model_fields.get(step)
    return here, field


def _field_at(model: type[BaseModel], path: Iterable[int | str]) -> Any:
    return _walk(model, path)[1]


def _keys_beside(model: type[BaseModel], path: tuple[int | str, ...]) -> list[str]:
    return list(_walk(model, path)[0].model_fields)


def _short(value: Any) -> str:
    """What was given, quoted and cut, so that a message never repeats a megabyte."""
    try:
        text = json.dumps(value, ensure_ascii=True)
    except (TypeError, ValueError, RecursionError):
        text = type(value).__name__
    return text if len(text) <= 60 else text[:57] + "..."
