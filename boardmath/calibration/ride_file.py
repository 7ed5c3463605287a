"""Reading rides: every fault with its field and its reason; what no ride of this board can have said."""

from collections.abc import Mapping, Sequence
from typing import Any

from boardmath.buildfile import Build, BuildFileError, Fault
from boardmath.buildfile.reading import check, parse_json
from boardmath.calibration.ride import FORMAT, VERSION, Ride, RidesFile, as_document
from boardmath.model.inputs import cell_voltages

LARGEST_FILE = 8 * 1024 * 1024
_MARGIN = 1.03
"""By so much a meter and a charger may be off before volts belong to another pack."""


def read_rides(data: str | bytes | Mapping[str, Any]) -> list[Ride]:
    """Rides from JSON text or a parsed object.

    Raises:
        BuildFileError: with a fault for each field that is wrong.
    """
    raw = dict(data) if isinstance(data, Mapping) else parse_json(data, LARGEST_FILE)
    if raw.get("format") != FORMAT:
        raise BuildFileError([Fault("format", f'a file of rides says "format": "{FORMAT}"')])
    version = raw.get("version")
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise BuildFileError(
            [Fault("version", f"this file is newer (version {version}) than this program reads ({VERSION})")]
        )
    rides = check(RidesFile, raw).rides
    seen: set[str] = set()
    for i, ride in enumerate(rides):
        if ride.id is not None and ride.id in seen:
            raise BuildFileError([Fault(f"rides.{i}.id", f"{ride.id} is there twice")])
        seen.add(ride.id or "")
    return rides


def write_rides(rides: Sequence[Ride], board: str | None = None) -> dict[str, Any]:
    """The file of rides, as :func:`read_rides` reads it back."""
    head = {"format": FORMAT, "version": VERSION} | ({"board": board} if board else {})
    return {**head, "rides": [as_document(r) for r in rides]}


def read_ride(raw: Mapping[str, Any]) -> Ride:
    """One ride.

    Raises:
        BuildFileError: with a fault for each field that is wrong.
    """
    return check(Ride, raw)


def cannot_be(build: Build, ride: Ride) -> list[Fault]:
    """What no ride of this board can have said, each with its reason."""
    pack, faults = build.parts.pack, []
    if pack is not None and pack.series is not None:
        full, _, empty = cell_voltages(pack)
        most, least = pack.series * full * _MARGIN, pack.series * empty * 0.8
        said = {"pack.start_v": ride.pack.start_v, "pack.end_v": ride.pack.end_v}
        said |= {f"runs.{i}.pack_v": r.pack_v for i, r in enumerate(ride.runs) if r.kind == "unloaded"}
        for i, run in enumerate(ride.runs):
            if run.kind == "charge":
                said |= {f"runs.{i}.from_v": run.from_v, f"runs.{i}.to_v": run.to_v}
        for field, volts in said.items():
            if volts is not None and not least <= volts <= most:
                faults.append(
                    Fault(
                        field,
                        f"{volts:g} V is not of this pack: {pack.series} cells in series have {least:.1f} to "
                        f"{most:.1f} V",
                    )
                )
    km, seconds = ride.way.distance_km, ride.way.moving_s
    if km is not None and seconds is not None and km / seconds * 3600.0 > 120.0:
        faults.append(Fault("way.moving_s", f"{km:g} km in {seconds:g} s is {km / seconds * 3600.0:.0f} km/h"))
    for i, run in enumerate(ride.runs):
        if run.kind == "coast" and (run.from_kmh or 0.0) <= (run.to_kmh or 0.0):
            faults.append(Fault(f"runs.{i}.from_kmh", "it rolls from the higher speed to the lower one"))
    return faults
