"""A pack that is bought as one: what its buyer has to know instead of how it is joined."""

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.geometry.cell_links import drive_current
from boardmath.messages import Message, message
from boardmath.model.cell_groups import comes_whole
from boardmath.model.inputs import marked


def bought_pack(build: Build) -> Message | None:
    """What there is to say of a pack that is bought as one; None where the pack is made by the builder."""
    build = marked(build)
    pack = build.parts.pack
    if pack is None or pack.series is None or not comes_whole(build):
        return None
    asked, sold_for = drive_current(build).current, stated_current(pack)
    if sold_for is None:
        return message(
            "You bought this pack as one, so its maker chose, sorted and joined the cells. Ask for the current that it "
            "is sold for, and enter it at the cell or the BMS: the board asks for up to {asked}.",
            asked=(asked, "current"),
        )
    return message(
        "You bought this pack as one, so its maker chose, sorted and joined the cells. It is sold for {sold}; the board "
        "asks for up to {asked}.",
        sold=(sold_for, "current"),
        asked=(asked, "current"),
    )


def stated_current(pack: Pack) -> float | None:
    """A that a pack is sold for: the lower of its BMS in the drive path and its cells together; None where neither is stated."""
    cell, guard = pack.cell or Cell(), pack.protection
    stated = []
    if cell.max_discharge_a is not None:
        stated.append(cell.max_discharge_a * (pack.parallel or 1))
    if guard is not None and guard.in_drive_path is not False and guard.max_discharge_a is not None:
        stated.append(guard.max_discharge_a)
    return min(stated, default=None)
