"""What an electric skateboard will do, and what limits it.

The computation behind Sand Pocket, usable alone: a build file in, a prediction out. No web, no database::

    from boardmath import read_build, predict
    predict(read_build(text)).range_km

Nothing else of the package is promised to stay as it is.
"""

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from boardmath.buildfile.reading import BuildFileError, read_build
    from boardmath.predictor import predict

__version__ = "0.2.0"
__all__ = ["BuildFileError", "predict", "read_build"]


def __getattr__(name: str) -> Any:
    """The public names, loaded when they are asked for: reading a file needs no engine."""
    if name == "predict":
        from boardmath import predictor

        return predictor.predict
    if name in ("BuildFileError", "read_build"):
        from boardmath.buildfile import reading

        return getattr(reading, name)
    raise AttributeError(f"boardmath has no {name}")
