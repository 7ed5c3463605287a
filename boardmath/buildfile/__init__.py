"""The build file: one open JSON document that holds a whole build."""

from boardmath.buildfile.build import Build, BuildFile, Parts
from boardmath.buildfile.figures import Part
from boardmath.buildfile.reading import (
    BuildFileError,
    Fault,
    check,
    parse_json,
    read_build,
    write_board,
    write_build,
    write_history,
)

__all__ = [
    "Build",
    "BuildFile",
    "BuildFileError",
    "Fault",
    "Part",
    "Parts",
    "check",
    "parse_json",
    "read_build",
    "write_board",
    "write_build",
    "write_history",
]
