"""Every drawing of a board by its name."""

from collections.abc import Callable

from boardmath.buildfile.build import Build
from boardmath.geometry.shapes import Drawing, View
from boardmath.geometry.views.drive import drive_view
from boardmath.geometry.views.rear import behind_view
from boardmath.geometry.views.side import side_view
from boardmath.geometry.views.underside import under_view

_DRAWN: dict[View, Callable[[Build], Drawing]] = {
    "side": side_view,
    "under": under_view,
    "behind": behind_view,
    "drive": drive_view,
}


def draw(build: Build, view: View) -> Drawing:
    """The board in one of its views."""
    return _DRAWN[view](build)
