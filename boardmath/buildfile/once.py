"""Asking a build the same thing once: many findings and drawings look at the same belt, box and sums."""

import weakref
from collections.abc import Callable
from functools import wraps
from typing import TypeVar

from boardmath.buildfile.build import Build

T = TypeVar("T")


def once_a_build(function: Callable[[Build], T]) -> Callable[[Build], T]:
    """The answer of ``function`` is kept as long as the build lives; builds never change, they are copied."""
    kept: dict[int, tuple[weakref.ref[Build], T]] = {}

    @wraps(function)
    def asked(build: Build) -> T:
        key = id(build)
        known = kept.get(key)
        if known is not None and known[0]() is build:
            return known[1]
        answer = function(build)
        kept[key] = (weakref.ref(build, lambda _: kept.pop(key, None)), answer)
        return answer

    return asked
