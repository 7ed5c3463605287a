"""Entries that are no figure of one field: cells as 10S4P, a pack's energy in watt hours, a belt's length in millimetres."""

import re
from math import ceil, floor

from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.buildfile.drivetrain import Drive
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.figures import span_of
from boardmath.geometry.transmission import pitch
from boardmath.messages import Message, message
from boardmath.model.inputs import cell_voltages

CELLS = re.compile(r"(?:(?P<series>\d{1,2})\s*s)?\s*(?:(?P<parallel>\d{1,2})\s*p)?", re.IGNORECASE)
ENERGY = re.compile(r"(?P<amount>\d+(?:[.,]\d+)?)\s*(?P<kilo>k?)wh", re.IGNORECASE)
LENGTH = re.compile(r"(?P<amount>\d+(?:[.,]\d+)?)\s*mm", re.IGNORECASE)
COUNTS = {"series": "parts.pack.series", "parallel": "parts.pack.parallel"}
CAPACITY = "parts.pack.cell.capacity_ah"
BELT = "parts.drive.belt_teeth"
FIELDS = (*COUNTS.values(), CAPACITY, BELT)
"""Where more can be entered than the field's own figure."""


class Entry(BaseModel):
    """What an entry sets, by path of the build file, and a sentence that says so."""

    changes: dict[str, float | int]
    message: Message


class EntryError(ValueError):
    """An entry that cannot be read, with its reason."""


def read_entry(build: Build, path: str, text: str) -> Entry:
    """Reads an entry that states more than its own field.

    Args:
        path: the field of the build file in which it was typed.
        text: what was typed, such as ``10S4P``, ``250 Wh`` or ``315 mm``.

    Raises:
        EntryError: nothing of this kind can be read from it there.
    """
    text = text.strip()
    pack = build.parts.pack or Pack()
    if path in COUNTS.values() and text and (counts := CELLS.fullmatch(text)):
        return _cells({COUNTS[key]: int(count) for key, count in counts.groupdict().items() if count})
    if path == CAPACITY and (energy := ENERGY.fullmatch(text)):
        amount = float(energy["amount"].replace(",", "."))
        return _capacity(pack, amount * (1000.0 if energy["kilo"] else 1.0))
    if path == BELT:
        if length := LENGTH.fullmatch(text):
            return _belt(build, float(length["amount"].replace(",", ".")))
        raise EntryError("Enter the number of teeth, or the belt's length such as 315 mm.")
    raise EntryError("Enter a number, cells such as 10S4P at the cell counts, or 250 Wh at the capacity.")


def _cells(changes: dict[str, float | int]) -> Entry:
    for key, path in COUNTS.items():
        count = changes.get(path)
        low, high = span_of(Pack, key)
        if count is not None and not low <= count <= high:
            raise EntryError(f"{count} cells in {key} are outside {low:g} to {high:g}.")
    stated = " and ".join(f"{count:g} in {key}" for key, path in COUNTS.items() if (count := changes.get(path)))
    return Entry(changes=changes, message=message("Cells: {stated}.", stated=stated))


def _belt(build: Build, length_mm: float) -> Entry:
    """Teeth of a belt by its length along the pitch line, as belts are sold: teeth times pitch."""
    step = pitch(build)
    teeth = round(length_mm / step)
    low, high = span_of(Drive, "belt_teeth")
    if abs(teeth * step - length_mm) > _PRINTED_MM:
        below, above = floor(length_mm / step), ceil(length_mm / step)
        raise EntryError(
            f"A belt of {step:g} mm pitch is {below * step:g} mm ({below} teeth) or {above * step:g} mm ({above} teeth) "
            "long: check the pitch."
        )
    if not low <= teeth <= high:
        raise EntryError(f"{teeth} teeth are outside {low:g} to {high:g}.")
    return Entry(
        changes={BELT: teeth},
        message=message(
            "{length} at a pitch of {pitch} are {teeth} teeth.",
            length=(length_mm, "length"),
            pitch=(step, "length"),
            teeth=teeth,
        ),
    )


_PRINTED_MM = 0.5
"""mm by which a length that is printed on a belt may be rounded."""


def _capacity(pack: Pack, energy_wh: float) -> Entry:
    if pack.series is None:
        raise EntryError(
            "Enter the cells in series first, such as 10S4P: they and the cells in parallel share the energy."
        )
    nominal = cell_voltages(pack)[1]
    parallel = pack.parallel or 1
    capacity = round(energy_wh / (pack.series * parallel * nominal), 3)
    low, high = span_of(Cell, "capacity_ah")
    if not low <= capacity <= high:
        raise EntryError(
            f"Shared by {pack.series * parallel} cells that is {capacity:g} Ah a cell, outside {low:g} to {high:g} Ah."
        )
    return Entry(
        changes={CAPACITY: capacity},
        message=message(
            "{energy} in the whole pack is {capacity} in each of {cells} cells of {volts}.",
            energy=(energy_wh, "energy"),
            capacity=(capacity, "charge"),
            cells=(pack.series * parallel, "count"),
            volts=(nominal, "cell_voltage"),
        ),
    )
