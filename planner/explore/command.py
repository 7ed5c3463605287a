"""``python -m planner explore``: which board at all, from a brief and a file of parts."""

from collections import defaultdict
from typing import Any

from boardmath.buildfile import Build, BuildFileError, Fault, check, parse_json
from boardmath.buildfile.figures import Part
from boardmath.parts.part_types import KINDS
from planner.explore.design_space import open_choices
from planner.explore.report import exploration
from planner.explore.search import Explored, wanted_of
from planner.explore.space import Open, Space

PARTS_FORMAT = "sand-pocket/parts"
_LARGEST = 1024 * 1024


def read_parts(data: bytes) -> dict[str, list[Part]]:
    """A file of parts, by kind.

    Raises:
        BuildFileError: with a fault for each part that is wrong.
    """
    document = parse_json(data, _LARGEST)
    listed = document.get("parts")
    if document.get("format") != PARTS_FORMAT or not isinstance(listed, list):
        raise BuildFileError(
            [Fault("format", f'a file of parts says "format": "{PARTS_FORMAT}" and has a list "parts"')]
        )
    found: dict[str, list[Part]] = defaultdict(list)
    faults: list[Fault] = []
    for i, given in enumerate(listed):
        kind = given.get("part") if isinstance(given, dict) else None
        if kind not in KINDS:
            faults.append(Fault(f"parts.{i}.part", f"one of {', '.join(KINDS)}"))
            continue
        record = {key: value for key, value in given.items() if key not in ("part", "reason")}
        try:
            found[kind].append(check(KINDS[kind].model, record))
        except BuildFileError as error:
            faults += [Fault(f"parts.{i}.{f.field}", f.reason) for f in error.faults]
    if faults:
        raise BuildFileError(faults)
    if not found:
        raise BuildFileError([Fault("parts", "the library is empty: there is nothing to choose from")])
    return dict(found)


def explored(brief: Build, library: bytes, left_open: bytes | None) -> dict[str, Any]:
    """Which boards keep the brief: the front, three to look at, and what would have to be given up.

    Args:
        left_open: a JSON object with ``kinds`` and ``numbers``; what most would leave open where it is not given.
    """
    parts = read_parts(library)
    opened = check(Open, parse_json(left_open)) if left_open is not None else open_choices(brief, parts).usual
    space = Space(brief, parts, opened)
    shown = exploration(Explored(space).whole(), wanted_of(brief))
    boards = {b.number: b for b in shown.front}
    picks = [{"title": p.title, **boards[p.number].model_dump(mode="json", exclude_none=True)} for p in shown.picks]
    for pick in picks:
        pick["parts"] = space.board(pick["number"]).parts.model_dump(mode="json", exclude_none=True)
    said = shown.model_dump(mode="json", exclude_none=True, exclude={"cloud", "spreads", "axes", "picks", "progress"})
    return {"open": opened.model_dump(mode="json", exclude_none=True), "picks": picks, **said}
