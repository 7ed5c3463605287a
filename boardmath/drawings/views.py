"""Every drawing of a board by its name."""

from collections.abc import Callable

from boardmath.buildfile.build import Build
from boardmath.drawings.behind import behind_view
from boardmath.drawings.drive_view import drive_view
from boardmath.drawings.side import side_view
from boardmath.drawings.under import under_view
from boardmath.fit.shapes import Drawing, View

_DRAWN: dict[View, Callable[[Build], Drawing]] = {
    "side": side_view,
    "under": under_view,
    "behind": behind_view,
    "drive": drive_view,
}


def draw(build: Build, view: View) -> Drawing:
    """The board in one of its views."""
    return _DRAWN[view](build)
