"""A build as it is handed on: nothing private in it, and all that another builder needs to begin."""

import json
from html.parser import HTMLParser
from typing import Any

from boardmath.buildfile import Build, BuildFileError, Fault, read_build, write_build
from boardmath.buildfile.figures import Part, keys_of

_KEPT = (
    "format",
    "version",
    "name",
    "currency",
    "brief",
    "parts",
    "settings",
    "settings_apart",
    "assumptions",
    "weighed_kg",
)
"""Of a build, what another builder needs; all else is who, where, when and how it went."""
_OF_BRIEF = ("local_rules",)
ELEMENT = "sand-pocket-build"
"""Id of the element of a page that holds its build."""
_ROUNDED_KG = 5.0


def handed_on(build: Build) -> Build:
    """The build without orders, shops, days, notes, rides, trips and maintenance; the rider's mass to five kilograms."""
    document = write_build(build)
    kept: dict[str, Any] = {k: document[k] for k in _KEPT if k in document}
    kept["brief"] = {k: v for k, v in kept.get("brief", {}).items() if k not in _OF_BRIEF}
    mass = round(build.rider.mass_kg / _ROUNDED_KG) * _ROUNDED_KG
    kept["rider"] = {"mass_kg": min(max(mass, 20.0), 200.0)}
    private = {*keys_of(Part, "buying"), *keys_of(Part, "mark"), "notes", "source"}
    kept["parts"] = _without(kept.get("parts", {}), private)
    return read_build(kept)


def _without(node: Any, keys: set[str]) -> Any:
    if isinstance(node, dict):
        return {k: _without(v, keys) for k, v in node.items() if k not in keys}
    return [_without(v, keys) for v in node] if isinstance(node, list) else node


def as_json(build: Build) -> str:
    """A build as it stands in a page: no text in it can end the element that it stands in."""
    text = json.dumps(write_build(build), ensure_ascii=True)
    return text.replace("<", "\\u003c").replace(">", "\\u003e").replace("&", "\\u0026")


class _Finder(HTMLParser):
    """Finds the build's element in a page."""

    def __init__(self) -> None:
        super().__init__()
        self.here, self.found = False, ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.here = tag == "script" and dict(attrs).get("id") == ELEMENT

    def handle_endtag(self, tag: str) -> None:
        self.here = False

    def handle_data(self, data: str) -> None:
        if self.here:
            self.found += data


LARGEST_PAGE = 4 * 1024 * 1024


def file_of(data: bytes) -> bytes | str:
    """The build file in a page that was handed on; what is no page is given back as it is.

    Raises:
        BuildFileError: a page without a build in it.
    """
    if not data[:400].lstrip(b"\xef\xbb\xbf \r\n\t").lower().startswith((b"<!doctype html", b"<html")):
        return data
    if len(data) > LARGEST_PAGE:
        raise BuildFileError([Fault("", "the page is too large to be a shared summary")])
    finder = _Finder()
    finder.feed(data.decode("utf-8", "replace"))
    if not finder.found.strip():
        raise BuildFileError([Fault("", "this page contains no build: it is not a shared summary, or it was changed")])
    return finder.found
