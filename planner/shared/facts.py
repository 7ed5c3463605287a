"""What of a build a step stands on, as it was when the step was done, and what of it is another now."""

import json
from collections.abc import Iterable, Mapping
from typing import Any, get_args

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import choice_in_words
from boardmath.messages import Message, message, sentence
from boardmath.parts.part_types import KINDS, kind_of
from planner.shared.log import Fact


def facts_of(build: Build, touches: Iterable[str]) -> dict[str, Fact]:
    """The figures at these paths; None where the build does not say, a text of what is no single figure."""
    return {path: _fact(standing_at(build, path)) for path in touches}


def standing_at(node: Any, path: str) -> Any:
    """What stands at a dotted path of a build; None where nothing does."""
    for key in path.split("."):
        if isinstance(node, list):
            node = node[int(key)] if key.isdigit() and int(key) < len(node) else None
        else:
            node = getattr(node, key, None)
        if node is None:
            return None
    return node


def _fact(value: Any) -> Fact:
    if value is None or isinstance(value, str | int | float | bool):
        return value
    dumped = [v.model_dump(mode="json", exclude_none=True) if isinstance(v, BaseModel) else v for v in value]
    return json.dumps(dumped, sort_keys=True)[:400]


def changed(then: Mapping[str, Any], now: Mapping[str, Fact]) -> list[Message]:
    """What differs of what was known then, each in a sentence; what nobody looked at then is not told."""
    return [
        _told(path, then[path], value) for path, value in now.items() if path in then and not _same(then[path], value)
    ]


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, int | float) and isinstance(other, int | float):
        return abs(float(one) - float(other)) <= 1e-9 * max(abs(float(one)), 1.0)
    return bool(one == other)


def _told(path: str, then: Any, now: Any) -> Message:
    title, quantity = name_of(path)
    kind = kind_of(path.rpartition(".")[0])
    part = KINDS[kind].name if kind is not None else ""
    if path.endswith(".name"):
        return message(
            "{part}: {then} then, {now} now.",
            part=sentence(part or title),
            then=str(then or "none"),
            now=str(now or "none"),
        )
    where = f"{sentence(part)}, {title.lower()}" if part else title
    words = [(v, quantity) if quantity and _number(v) else _word(v) for v in (then, now)]
    if all(isinstance(w, str) for w in words) and max(map(len, words)) > 60:
        return message("{where}: a different one now.", where=where)
    return message("{where}: {then} then, {now} now.", where=where, then=words[0], now=words[1])


def _number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _word(value: Any) -> str:
    if value is None:
        return "nothing said"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return choice_in_words(str(value))


def name_of(path: str) -> tuple[str, str | None]:
    """Title and quantity of a figure of the build file."""
    model: type[BaseModel] | None = Build
    title, quantity = path.rpartition(".")[2].replace("_", " "), None
    for key in path.split("."):
        if key.isdigit() or model is None:
            continue
        field = model.model_fields.get(key)
        if field is None:
            break
        title = field.title or title
        extra = field.json_schema_extra
        quantity = str(extra["quantity"]) if isinstance(extra, dict) and "quantity" in extra else None
        model = _inner(field.annotation)
    return title, quantity


def _inner(annotation: Any) -> type[BaseModel] | None:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    return next((found for a in get_args(annotation) if (found := _inner(a)) is not None), None)
