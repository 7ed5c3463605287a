"""The record of what was set: kept in order, found by day, and never overwritten."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import Max, Prefetch
from django.http import Http404
from pydantic import BaseModel

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFileError, Fault, check, parse_json
from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.controllers import with_apart
from boardmath.buildfile.settings import Settings
from planner.compare import Difference, settings_differences
from planner.shared.csv_table import write_table
from server.boards import services
from server.boards.models import Build
from server.controller_settings.models import Attachment, SettingsRecord
from server.errors import ApiError
from server.tabular import read_table, record_of
from server.users import Key, Person

FORMAT = "sand-pocket/controller-settings"
OLD_FORMAT = "sand-pocket/sheet"
"""What the file was called before; it is still read."""
MOST_RECORDS = 300
COLUMNS = ("setting", "name", "value", "unit", "controller")


def of(owner: Person, build_id: Key) -> list[SettingsRecord]:
    """A build's settings records, the oldest first, with what hangs on them, but for its data."""
    hanging = Prefetch("attachments", Attachment.objects.defer("data"))
    return list(SettingsRecord.objects.filter(build=services.get(owner, build_id)).prefetch_related(hanging))


def get(owner: Person, build_id: Key, number: int | None) -> SettingsRecord:
    """One record by its number, the latest without one."""
    found = SettingsRecord.objects.filter(build=services.get(owner, build_id))
    record = found.last() if number is None else found.filter(number=number).first()
    if record is None:
        raise Http404
    return record


def on_board(owner: Person, build_id: Key, day: date) -> SettingsRecord | None:
    """The settings record that was on the board on ``day``: the last one set until then."""
    return (
        SettingsRecord.objects.filter(build=services.get(owner, build_id), on__lte=day).order_by("on", "number").last()
    )


@transaction.atomic
def write_down(
    owner: Person,
    build_id: Key,
    settings: Settings,
    on: date,
    by: str,
    reason: str,
    end_points: EndPoints | None = None,
    apart: Sequence[Settings] = (),
    read_back: bool = False,
) -> SettingsRecord:
    """Keeps what was set as the build's next settings record.

    Raises:
        ApiError: without a reason, of the future, or with nothing set.
    """
    build = services.get(owner, build_id)
    # One at a time, so that no number is given twice.
    Build.objects.select_for_update().get(pk=build.pk)
    kept = settings.model_dump(mode="json", exclude_none=True)
    if not kept:
        raise ApiError("Nothing is set yet.", settings="at least one value")
    if not reason.strip():
        raise ApiError("Enter a reason: after a reset nobody remembers.", reason="a short reason")
    otherwise = [a.model_dump(mode="json", exclude_none=True) for a in apart]
    mine = SettingsRecord.objects.filter(build=build)
    if mine.count() >= MOST_RECORDS:
        raise ApiError(
            f"A board keeps {MOST_RECORDS} settings records. Duplicate the build, and continue with the copy."
        )
    number = (mine.aggregate(last=Max("number"))["last"] or 0) + 1
    return SettingsRecord.objects.create(
        build=build,
        number=number,
        on=on,
        by=by.strip()[:60],
        reason=reason.strip()[:600],
        settings=kept,
        end_points=end_points.model_dump(exclude_none=True) if end_points else {},
        apart=otherwise if any(otherwise) else [],
        read_back=read_back,
        build_revision=build.revision,
    )


def as_set(file: BuildDocument, record: SettingsRecord) -> BuildDocument:
    """The build with what the settings record says was set, to be judged."""
    apart = [check(Settings, a) for a in record.apart]
    return file.model_copy(update={"settings": check(Settings, record.settings), "settings_apart": apart or None})


def otherwise_than(file: BuildDocument, record: SettingsRecord) -> bool:
    """Whether what was set is not what the board wants now, of any controller."""
    wanted = [s.model_dump(exclude_none=True) for s in (file.settings, *(file.settings_apart or []))]
    held = [check(Settings, s).model_dump(exclude_none=True) for s in (record.settings, *record.apart)]
    # The profile is a word for the values, and no value.
    of_values = [[{k: v for k, v in s.items() if k != "profile"} for s in side] for side in (wanted, held)]
    return of_values[0] != of_values[1]


def each_set(record: SettingsRecord) -> list[Settings]:
    """What the settings record says of each controller; of one alone where it has nothing otherwise of a further one."""
    return with_apart(check(Settings, record.settings), [check(Settings, a) for a in record.apart])


def differences(one: SettingsRecord, other: SettingsRecord) -> list[Difference]:
    """What differs between two settings records, the further controllers among it."""
    return settings_differences([one.settings, other.settings], [one.apart, other.apart])


# --- open forms -------------------------------------------------------------------------------------------------------


def as_json(name: str, record: SettingsRecord) -> dict[str, Any]:
    """A settings record as an open JSON document."""
    said = {
        "board": name,
        "number": record.number,
        "on": record.on.isoformat(),
        "by": record.by,
        "reason": record.reason,
    }
    further = {"apart": record.apart} if record.apart else {}
    return {
        "format": FORMAT,
        "version": 1,
        **said,
        "settings": record.settings,
        "end_points": record.end_points,
        **further,
    }


def as_csv(record: SettingsRecord) -> str:
    """A row for each value that is set, with its name and unit; controller 1 has what the others have not otherwise."""
    rows = [(number, k, v) for number, said in enumerate([record.settings, *record.apart], 1) for k, v in said.items()]
    return write_table(
        COLUMNS,
        [{"setting": k, "name": title(k), "value": v, "unit": unit(k), "controller": n} for n, k, v in rows],
    )


def title(key: str) -> str:
    """What a setting is called."""
    return Settings.model_fields[key].title or key


def unit(key: str) -> str:
    """The unit that a setting is kept in."""
    extra = Settings.model_fields[key].json_schema_extra
    return str(extra.get("unit", "")) if isinstance(extra, dict) else ""


def said(key: str, value: Any) -> str:
    """A value with its unit, as it stands on paper."""
    text = f"{value:g}" if isinstance(value, float) else str(value).replace("_", " ")
    return f"{text} {unit(key)}".strip()


def otherwise_said(apart: Sequence[Mapping[str, Any]]) -> list[str]:
    """A sentence for each further controller that has something otherwise."""
    lists = (", ".join(f"{title(k).lower()} {said(k, v)}" for k, v in values.items()) for values in apart)
    return [f"Controller {number} differs: {text}." for number, text in enumerate(lists, 2) if text]


class ReadValue(BaseModel):
    """One value of a settings file; those of the second and further controllers are what they have otherwise."""

    key: str
    controller: int = 1
    value: Any = None
    reason: str | None = None


def read_settings_file(data: bytes) -> list[ReadValue]:
    """The values of a settings record as JSON or CSV; those that cannot be used with their reason.

    Raises:
        BuildFileError: nothing of it can be used.
    """
    given = _of_json(parse_json(data)) if data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"{" else _of_csv(data)
    return [_checked(number, str(key), value) for number, values in given.items() for key, value in values.items()]


MOST_CONTROLLERS = 4


def _of_json(document: dict[str, Any]) -> dict[int, dict[str, Any]]:
    settings, apart = document.get("settings"), document.get("apart") or []
    if document.get("format") not in (FORMAT, OLD_FORMAT) or not isinstance(settings, dict):
        raise BuildFileError([Fault("format", f'a settings record says "format": "{FORMAT}" and has "settings"')])
    if not isinstance(apart, list) or len(apart) >= MOST_CONTROLLERS or not all(isinstance(a, dict) for a in apart):
        raise BuildFileError([Fault("apart", "a list of what up to three further controllers have different")])
    return dict(enumerate([settings, *apart], 1))


def _of_csv(data: bytes) -> dict[int, dict[str, Any]]:
    _, rows, decimal_comma = read_table(data, ("setting", "value"))
    given: dict[int, dict[str, Any]] = {1: {}}
    for row in rows:
        key, value, number = row.cells.get("setting", ""), row.cells.get("value"), row.cells.get("controller") or "1"
        if number not in [str(n + 1) for n in range(MOST_CONTROLLERS)]:
            raise BuildFileError(
                [Fault("controller", f"line {row.line}: 1 to {MOST_CONTROLLERS}, not “{number[:20]}”")]
            )
        typed = record_of(Settings, {key: value}, decimal_comma) if value is not None else {key: None}
        given.setdefault(int(number), {}).update(typed)
    return given


def _checked(number: int, key: str, value: Any) -> ReadValue:
    try:
        check(Settings, {key: value})
    except BuildFileError as error:
        return ReadValue(key=key[:60], controller=number, value=value, reason=error.faults[0].reason)
    return ReadValue(key=key, controller=number, value=value)
