"""``python -m planner cells``: a table of cells, sorted."""

from boardmath.battery.cells import printed, report_on
from boardmath.buildfile import BuildFileError, Fault
from boardmath.buildfile.pack_assembly import MOST_SERIES
from planner.cells.reading import cells_of

MOST_PARALLEL = 60


def cells_sorted(data: bytes, series: int, parallel: int) -> dict[str, object]:
    """The groups, what is rejected with its reason, what is spare, and how near that is to the bound.

    Raises:
        BuildFileError: with every row that is wrong, or why the bag does not fill the groups.
    """
    for name, value, most in (("--series", series, MOST_SERIES), ("--parallel", parallel, MOST_PARALLEL)):
        if not 1 <= value <= most:
            raise BuildFileError([Fault(name, f"from 1 to {most}, not {value}")])
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BuildFileError([Fault("", f"not UTF-8 text (byte {error.start})")]) from None
    cells = [c.model_copy(update={"group": None, "locked": None}) for c in cells_of(text)]
    report = report_on(cells, series, parallel)
    try:
        return printed(report, cells, series, parallel)
    except ValueError as error:
        reasons = [Fault(r.id, r.message.text) for r in report.rejected]
        raise BuildFileError([Fault("", str(error)), *reasons]) from None
