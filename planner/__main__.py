"""The command line: the commands of ``boardmath``, and of a FILE what the pages work out; see docs/command-line.md."""

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path

from boardmath.__main__ import add_core_commands, print_json, print_prediction, read_input, schema
from boardmath.buildfile import BuildFileError, Fault, read_build
from planner.assembly.command import assembled
from planner.cells.command import cells_sorted
from planner.enclosure.plan import enclosure_plan
from planner.enclosure.report import enclosure_reports
from planner.enclosure.solid import pieces, written
from planner.explore.command import explored
from planner.pack.command import pack_made
from planner.rides.files import LARGEST_TRACK
from planner.trips.command import trip_ridden


def main(arguments: list[str] | None = None) -> int:
    """Runs one command; 0 when it went well, 2 with a message on standard error when the file is bad."""
    parser = argparse.ArgumentParser(prog="planner", description="What an electric skateboard will do.")
    commands = parser.add_subparsers(dest="command", required=True)
    add_core_commands(commands)
    of_box = commands.add_parser("box", help="print how the enclosures of a build file are made, as one JSON list")
    of_box.add_argument("file", help="a build file, or - for standard input")
    of_box.add_argument("--stl", metavar="FOLDER", help="write the pieces there as STL, in mm")
    of_cells = commands.add_parser("cells", help="sort measured cells into groups, as one JSON object")
    of_cells.add_argument("file", help="a table of cells as CSV, or - for standard input")
    of_cells.add_argument("--series", type=int, required=True, help="groups in series")
    of_cells.add_argument("--parallel", type=int, required=True, help="cells in each group")
    of_pack = commands.add_parser(
        "pack", help="print leads, guards, links and wires of a build file as one JSON object"
    )
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
    commands.add_parser("compile", help="compile the engine, so that the first prediction need not")
    given = parser.parse_args(arguments)
    if given.command == "schema":
        print(json.dumps(schema(), indent=2))
        return 0
    if given.command == "compile":
        from planner.warm_cache import compile_all

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
    return print_prediction(given.file, given.rides, not given.no_bands)


def _explored(data: bytes, library: str, left_open: str | None) -> dict[str, object]:
    return explored(read_build(data), read_input(library), read_input(left_open) if left_open is not None else None)


def _trip(data: bytes, route: str) -> dict[str, object]:
    return trip_ridden(read_build(data), read_input(route, LARGEST_TRACK), Path(route).name)


def _box(name: str, folder: str | None) -> int:
    """Every box of a build: how it has to be made, and its pieces as files."""
    try:
        build = read_build(read_input(name))
        reports = enclosure_reports(build)
        if faults := [Fault(r.field or "", r.cannot.text) for r in reports if r.cannot]:
            raise BuildFileError(faults)
        for which in (r.which for r in reports if folder is not None):
            for piece in pieces(enclosure_plan(build, which)):
                path = Path(folder or ".") / f"{which}-{piece.number}.stl"
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_bytes(written(piece, "stl"))
    except BuildFileError as error:
        for fault in error.faults:
            print(f"{name}: {fault}", file=sys.stderr)
        return 2
    shown = [r.model_dump(mode="json", exclude_none=True, exclude={"picture"}) for r in reports]
    print_json(shown)
    return 0


def _said(name: str, command: Callable[[bytes], dict[str, object]]) -> int:
    """What a command makes of a file, printed as JSON; a bad file is told on standard error."""
    try:
        shown = command(read_input(name))
    except BuildFileError as error:
        for fault in error.faults:
            print(f"{name}: {fault}", file=sys.stderr)
        return 2
    print_json(shown)
    return 0


if __name__ == "__main__":
    sys.exit(main())
