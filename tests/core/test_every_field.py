"""Nothing is asked of a builder that nothing reads: each field of a board is named where something is made of it."""

import re
from pathlib import Path
from typing import get_args

import pytest
from pydantic import BaseModel

from boardmath.buildfile.build import BuildFile

ROOT = Path(__file__).parents[2]
READERS = [
    path.read_text()
    for package in ("boardmath", "planner", "server", "frontend/src/features", "frontend/src/lib")
    for path in (ROOT / package).rglob("*")
    if path.suffix in (".py", ".svelte", ".ts")
    and "buildfile" not in path.parts
    and not path.name.endswith((".test.ts", ".gen.ts", ".d.ts"))
]
WORDS = {word for text in READERS for word in re.findall(r"\w+", text)}


def records(model: type[BaseModel], found: dict[str, type[BaseModel]]) -> dict[str, type[BaseModel]]:
    found.setdefault(model.__name__, model)
    for field in model.model_fields.values():
        waiting = [field.annotation]
        while waiting:
            one = waiting.pop()
            waiting += get_args(one)
            if isinstance(one, type) and issubclass(one, BaseModel) and one.__name__ not in found:
                records(one, found)
    return found


@pytest.mark.parametrize("model", records(BuildFile, {}).values(), ids=lambda m: m.__name__)
def test_each_field_has_a_reader(model):
    assert [name for name in model.model_fields if name not in WORDS] == []
