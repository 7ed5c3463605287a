"""The build file: one open JSON document that holds a whole build."""

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.figures import Part
from boardmath.buildfile.reading import BuildFileError, Fault, check, parse_json, read_build, write_build

__all__ = ["Build", "BuildFileError", "Fault", "Part", "Parts", "check", "parse_json", "read_build", "write_build"]
