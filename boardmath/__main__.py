"""The command line of the computation alone: ``predict`` of a FILE, and ``schema``; ``python -m planner`` has the rest."""

import argparse
import json
import sys
from pathlib import Path

from boardmath.buildfile import BuildFile, BuildFileError, Fault, read_build
from boardmath.buildfile.reading import LARGEST_FILE
from boardmath.calibration.command import calibrated_from
from boardmath.calibration.ride_file import LARGEST_FILE as LARGEST_RIDES
from boardmath.calibration.ride_file import cannot_be, read_rides
from boardmath.predictor import predict


def main(arguments: list[str] | None = None) -> int:
    """Runs one command; 0 when it went well, 2 with a message on standard error when the file is bad."""
    parser = argparse.ArgumentParser(prog="boardmath", description="What an electric skateboard will do.")
    commands = parser.add_subparsers(dest="command", required=True)
    add_core_commands(commands)
    given = parser.parse_args(arguments)
    if given.command == "schema":
        print(json.dumps(schema(), indent=2))
        return 0
    return print_prediction(given.file, given.rides, not given.no_bands)


def add_core_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Adds ``predict`` and ``schema`` to a command line."""
    of_file = commands.add_parser("predict", help="print the prediction of a build file as one JSON object")
    of_file.add_argument("file", help="a build file, or - for standard input")
    of_file.add_argument("--no-bands", action="store_true", help="leave low and high out")
    of_file.add_argument("--rides", metavar="FILE", help="a file of rides to learn from")
    commands.add_parser("schema", help="print the build file's JSON Schema")


def print_prediction(name: str, of_rides: str | None, bands: bool) -> int:
    """The prediction of a build; with rides as they taught it, each of them judged."""
    reading = name
    try:
        build = read_build(read_input(name))
        reading = of_rides or name
        rides = read_rides(read_input(of_rides, LARGEST_RIDES)) if of_rides is not None else []
        if faults := [
            Fault(f"rides.{i}.{f.field}", f.reason) for i, r in enumerate(rides) for f in cannot_be(build, r)
        ]:
            raise BuildFileError(faults)
        reading = name
        prediction = predict(build, bands, rides)
        if prediction.needs:
            raise BuildFileError([Fault(n.field, n.reason) for n in prediction.needs])
    except BuildFileError as error:
        for fault in error.faults:
            print(f"{reading}: {fault}", file=sys.stderr)
        return 2
    shown = prediction.model_dump(mode="json", exclude_none=True, exclude={"outcomes", "needs", "why"})
    print_json(shown | (calibrated_from(build, rides) if of_rides is not None else {}))
    return 0


_PRINTED = {"message": "saying", "fixes": "cures", "accepted": "aside"}
"""Keys that programs read out of findings and suggestions, and that keep the names under which they were first printed."""


def print_json(shown: object) -> None:
    """Prints a result as JSON under the keys that docs/command-line.md lists."""

    def printed(value: object) -> object:
        if isinstance(value, dict):
            return {_PRINTED.get(key, key): printed(inner) for key, inner in value.items()}
        return [printed(inner) for inner in value] if isinstance(value, list) else value

    print(json.dumps(printed(shown), allow_nan=False))


def schema() -> dict[str, object]:
    """The build file's JSON Schema (draft 2020-12)."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **BuildFile.model_json_schema()}


def read_input(name: str, largest: int = LARGEST_FILE) -> bytes:
    """The bytes of a file, at most one more than ``largest``; ``-`` is standard input.

    Raises:
        BuildFileError: the file cannot be read.
    """
    try:
        if name == "-":
            return sys.stdin.buffer.read(largest + 1)
        with Path(name).open("rb") as file:
            return file.read(largest + 1)
    except OSError as error:
        raise BuildFileError([Fault("", error.strerror or "cannot be read")]) from None


if __name__ == "__main__":
    sys.exit(main())
