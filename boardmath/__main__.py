"""The command line: ``predict``, ``box``, ``cells``, ``pack``, ``assembly`` of a FILE, ``explore BRIEF`` and ``schema``."""

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path

from boardmath.assembly.command import assembled
from boardmath.bench.report import predict
from boardmath.box.plan import box_plan
from boardmath.box.report import box_reports
from boardmath.box.solid import pieces, written
from boardmath.buildfile import Build, BuildFileError, Fault, read_build
from boardmath.buildfile.reading import LARGEST_FILE
from boardmath.cells.command import cells_sorted
from boardmath.explorer.command import explored
from boardmath.learnt.command import learnt_from
from boardmath.pack.command import pack_made
from boardmath.rides.files import LARGEST_TRACK
from boardmath.rides.reading import LARGEST_FILE as LARGEST_RIDES
from boardmath.rides.reading import cannot_be, read_rides
from boardmath.trips.command import trip_ridden


def main(arguments: list[str] | None = None) -> int:
    """Runs one command; 0 when it went well, 2 with a message on standard error when the file is bad."""
    parser = argparse.ArgumentParser(prog="boardmath", description="What an electric skateboard will do.")
    commands = parser.add_subparsers(dest="command", required=True)
    of_file = commands.add_parser("predict", help="print the prediction of a build file as one JSON object")
    of_file.add_argument("file", help="a build file, or - for standard input")
    of_file.add_argument("--no-bands", action="store_true", help="leave low and high out")
    of_file.add_argument("--rides", metavar="FILE", help="a file of rides to learn from")
    of_box = commands.add_parser("box", help="print how the boxes of a build file have to be made, as one JSON list")
    of_box.add_argument("file", help="a build file, or - for standard input")
    of_box.add_argument("--stl", metavar="FOLDER", help="write the pieces there as STL, in mm")
    of_cells = commands.add_parser("cells", help="sort measured cells into groups, as one JSON object")
    of_cells.add_argument("file", help="a table of cells as CSV, or - for standard input")
    of_cells.add_argument("--series", type=int, required=True, help="groups in series")
    of_cells.add_argument("--parallel", type=int, required=True, help="cells in each group")
    of_pack = commands.add_parser("pack", help="print taps, guards, links and wires of a build file as one JSON object")
    of_pack.add_argument("file", help="a build file, or - for standard input")
    of_pack.add_argument("--charge", type=float, default=None, metavar="PER_CENT", help="the charge of the day")
    of_assembly = commands.add_parser("assembly", help="print the steps of building a build file as one JSON object")
    of_assembly.add_argument("file", help="a build file, or - for standard input")
    of_explore = commands.add_parser("explore", help="try every board of a library against a brief, as one JSON object")
    of_explore.add_argument("file", metavar="BRIEF", help="a build file with the brief, or - for standard input")
    of_explore.add_argument("--library", metavar="FILE", required=True, help="a file of parts")
    of_explore.add_argument("--open", metavar="FILE", help="what is left open, as a JSON object")
    of_trip = commands.add_parser("trip", help="print how far the charge carries over a route, as one JSON object")
    of_trip.add_argument("file", metavar="BUILD", help="a build file, or - for standard input")
    of_trip.add_argument("route", metavar="ROUTE", help="a trip, or a track as GPX or CSV")
    commands.add_parser("schema", help="print the build file's JSON Schema")
    commands.add_parser("compile", help="compile the engine, so that the first prediction need not")
    given = parser.parse_args(arguments)
    if given.command == "schema":
        print(json.dumps(schema(), indent=2))
        return 0
    if given.command == "compile":
        from boardmath.compiling import compile_all

        print(compile_all() or "compiled; nowhere to keep it")
        return 0
    if given.command == "box":
        return _box(given.file, given.stl)
    if given.command == "cells":
        return _said(given.file, lambda data: cells_sorted(data, given.series, given.parallel))
    if given.command == "pack":
        return _said(given.file, lambda data: pack_made(read_build(data), given.charge))
    if given.command == "assembly":
        return _said(given.file, lambda data: assembled(read_build(data)))
    if given.command == "explore":
        return _said(given.file, lambda data: _explored(data, given.library, given.open))
    if given.command == "trip":
        return _said(given.file, lambda data: _trip(data, given.route))
    return _predict(given.file, given.rides, not given.no_bands)


def _predict(name: str, of_rides: str | None, bands: bool) -> int:
    """The prediction of a build; with rides as they taught it, each of them judged."""
    reading = name
    try:
        build = read_build(_read(name))
        reading = of_rides or name
        rides = read_rides(_read(of_rides, LARGEST_RIDES)) if of_rides is not None else []
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
    shown = prediction.model_dump(mode="json", exclude_none=True, exclude={"promises", "needs", "why"})
    print(json.dumps(shown | (learnt_from(build, rides) if of_rides is not None else {}), allow_nan=False))
    return 0


def _explored(data: bytes, library: str, left_open: str | None) -> dict[str, object]:
    return explored(read_build(data), _read(library), _read(left_open) if left_open is not None else None)


def _trip(data: bytes, route: str) -> dict[str, object]:
    return trip_ridden(read_build(data), _read(route, LARGEST_TRACK), Path(route).name)


def _box(name: str, folder: str | None) -> int:
    """Every box of a build: how it has to be made, and its pieces as files."""
    try:
        build = read_build(_read(name))
        reports = box_reports(build)
        if faults := [Fault(r.field or "", r.cannot.text) for r in reports if r.cannot]:
            raise BuildFileError(faults)
        for which in (r.which for r in reports if folder is not None):
            for piece in pieces(box_plan(build, which)):
                path = Path(folder or ".") / f"{which}-{piece.number}.stl"
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_bytes(written(piece, "stl"))
    except BuildFileError as error:
        for fault in error.faults:
            print(f"{name}: {fault}", file=sys.stderr)
        return 2
    shown = [r.model_dump(mode="json", exclude_none=True, exclude={"picture"}) for r in reports]
    print(json.dumps(shown, allow_nan=False))
    return 0


def _said(name: str, command: Callable[[bytes], dict[str, object]]) -> int:
    """What a command makes of a file, printed as JSON; a bad file is told on standard error."""
    try:
        shown = command(_read(name))
    except BuildFileError as error:
        for fault in error.faults:
            print(f"{name}: {fault}", file=sys.stderr)
        return 2
    print(json.dumps(shown, allow_nan=False))
    return 0


def schema() -> dict[str, object]:
    """The build file's JSON Schema (draft 2020-12)."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Build.model_json_schema()}


def _read(name: str, largest: int = LARGEST_FILE) -> bytes:
    try:
        if name == "-":
            return sys.stdin.buffer.read(largest + 1)
        with Path(name).open("rb") as file:
            return file.read(largest + 1)
    except OSError as error:
        raise BuildFileError([Fault("", error.strerror or "cannot be read")]) from None


if __name__ == "__main__":
    sys.exit(main())
