"""The controller on the bench: look, confirm, set, read back; detect and try."""

import itertools
from datetime import datetime
from typing import Annotated, Any, Literal, cast
from uuid import UUID

from ninja import Field, Router, Schema, Status
from pydantic import TypeAdapter

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFileError, check
from boardmath.buildfile.controllers import controllers, each_controller, motors_each, otherwise
from boardmath.buildfile.settings import Detected, Profile, Settings
from boardmath.checks import Finding
from boardmath.model.resolution import Incomplete
from boardmath.prediction.curves import Plot
from boardmath.prediction.unloaded import OnTheStand, on_the_stand
from boardmath.predictor import predict
from controller import writing
from controller.simulator.board import BoardFault
from controller.simulator.device import NOT_A_DEVICES
from controller.simulator.fault_injection import LinkFault
from planner.bench_test import run_figure
from planner.controller_settings import findings_on_settings
from server.boards import services as builds
from server.calibration.services import board_as_it_is
from server.controller import services
from server.controller.models import ControllerCommand
from server.errors import ApiError
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["link"])


class WriteResultOut(Schema):
    """How the write to one controller ended; ``differs`` is setting to [wanted, in the controller]."""

    verdict: Literal["as wanted", "as before", "neither", "unknown", "not begun"]
    why: str | None = None
    refused: str | None = None
    differs: dict[str, list[Any]] = {}


class Motor(Schema):
    """``turns``: which way the wheel turns; only the simulated controller says it, whose wheels nobody can look at."""

    erpm: float
    current_a: float
    turns: str | None = None


class Frame(Schema):
    """One moment of a run with the wheels in the air."""

    unit: int = 0
    phase: str
    t: float
    motors: list[Motor]
    pack_v: float
    pack_a: float


class RunOut(Schema):
    """A run of one controller's motors, beside what was predicted at the pack's voltage."""

    rest_v: float
    steady: Frame
    stopped_in_s: float
    predicted: OnTheStand | None = None
    figure: Plot


class CutOffOut(Schema):
    begins_v: float
    ends_v: float


class LostOut(Schema):
    does: str
    after_ms: float


State = Literal["waiting", "running", "done", "failed", "stopped", "lost"]


class Written(Schema):
    """How each controller took what was set; ``record`` is the number under which it was written down."""

    kind: Literal["write"]
    outcomes: list[WriteResultOut] = []
    left_out: list[str] = []
    record: int | None = None


class MotorsFound(Schema):
    """What detection found of each motor."""

    kind: Literal["detect"]
    detected: list[Detected]


class RunResult(Schema):
    kind: Literal["run"]
    runs: list[RunOut]


class CutOffFound(Schema):
    kind: Literal["cut_off"]
    cut_off: list[CutOffOut]


class RemoteLost(Schema):
    kind: Literal["lose_remote"]
    lost: list[LostOut]


Result = Annotated[Written | MotorsFound | RunResult | CutOffFound | RemoteLost, Field(discriminator="kind")]


class ControllerCommandOut(Schema):
    """What the worker was asked for, how far it is, and how it ended; ``result`` is what it brought home, if anything."""

    id: UUID
    kind: services.Kind
    port: str
    unit: int | None = None
    state: State
    step: str
    message: str
    created_at: datetime
    ended_at: datetime | None = None
    live: Frame | None = None
    result: Result | None = None
    troubles: list[str] = []


class HeldDifference(Schema):
    """A setting that a controller holds otherwise than is wanted of it; one value a controller in ``wanted`` and ``held``."""

    key: str
    wanted: list[Any]
    held: list[Any]
    refused: str | None = None


class LinkOut(Schema):
    """The controllers of a board as they were last seen, against what is wanted."""

    programmable: bool
    controllers: int
    ports: list[str]
    command: ControllerCommandOut | None = None
    looked_at: datetime | None = None
    device: str | None = None
    pretends: list[str] = []
    held: list[dict[str, Any]] | None = None
    wanted: int = 0
    """How many values of a controller are wanted."""
    differs: list[HeldDifference] = []
    findings: list[Finding] = []
    unsettled: str | None = None
    known: bool = True
    """False where the controllers may hold something else by now than was seen."""


class LineIn(Schema):
    """Which controllers are asked: at a port the one that it leads to, from 0; without a port the simulated ones."""

    port: Annotated[str, Field(max_length=200)] = ""
    unit: Annotated[int, Field(ge=0, le=3)] = 0

    @property
    def line(self) -> services.Line:
        return (self.port, self.unit) if self.port else ("", None)


class AgainstIn(LineIn):
    """What is wanted; ``apart`` is what is wanted otherwise of the second and further controllers."""

    settings: Settings
    apart: Annotated[list[Settings], Field(max_length=3)] = []


class ConfirmedIn(LineIn):
    """What was confirmed: every value to be set, and what was seen, of each controller; and why it is set."""

    settings: Annotated[list[dict[str, Any]], Field(max_length=4)]
    seen: list[dict[str, Any]]
    reason: Annotated[str, Field(max_length=600)]
    by: Annotated[str, Field(max_length=60)] = ""
    profile: Profile | None = None


class FaultInjection(Schema):
    what: LinkFault
    at: Annotated[str, Field(max_length=20)] | None = None
    after: Annotated[int, Field(ge=0, le=50)] = 0
    times: Annotated[int, Field(ge=-1, le=50)] = 1


class ControllerCommandIn(LineIn):
    kind: Literal["read", "detect", "run", "cut_off", "lose_remote", "reset", "pretend"]
    board: list[BoardFault] = []
    link: Annotated[list[FaultInjection], Field(max_length=5)] = []


def _out(command: ControllerCommand) -> ControllerCommandOut:
    result = command.result or {}
    return ControllerCommandOut(
        id=command.id,
        kind=cast(services.Kind, command.kind),
        port=command.port,
        unit=command.unit,
        state="lost" if services.lost(command) else cast(State, command.state),
        step=command.step,
        message=command.message,
        created_at=command.created_at,
        ended_at=command.ended_at,
        live=command.live if command.is_under_way else None,
        result=_brought_home(command, result),
        troubles=result.get("troubles", []),
    )


_HOME = {"write": "outcomes", "detect": "detected", "run": "runs", "cut_off": "cut_off", "lose_remote": "lost"}
"""By command, the part of its result without which it brought nothing home."""


def _brought_home(command: ControllerCommand, result: dict[str, Any]) -> Result | None:
    if not result.get(_HOME.get(command.kind, "")):
        return None
    if command.kind != "run":
        return TypeAdapter[Result](Result).validate_python({"kind": command.kind, **_known(result)})
    file, runs = board_as_it_is(command.build.owner, command.build), result["runs"]
    first = 1 + (command.unit or 0) * motors_each(file)
    firsts = itertools.accumulate((len(run["steady"]["motors"]) for run in runs), initial=first)
    return RunResult(kind="run", runs=[_run(file, run, first) for run, first in zip(runs, firsts, strict=False)])


def _known(result: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in result.items() if value is not None}


def _run(file: BuildDocument, run: dict[str, Any], first: int) -> RunOut:
    try:
        predicted = on_the_stand(file, run["rest_v"])
    except Incomplete:
        predicted = None
    frames = run["trace"]
    speeds = [[f["motors"][i]["erpm"] for f in frames] for i in range(len(run["steady"]["motors"]))]
    return RunOut(
        rest_v=run["rest_v"],
        steady=run["steady"],
        stopped_in_s=run["stopped_in_s"],
        predicted=predicted,
        figure=run_figure([f["t"] for f in frames], speeds, predicted.erpm if predicted else None, first),
    )


_UNSETTLED = {
    "unknown": (
        "It is unknown what the controller holds: the last write did not finish. Do not ride. Read the settings first."
    ),
    "neither": (
        "The controller is only partly written. Do not ride. Write the settings again, or restore the old ones."
    ),
}


@router.post("/builds/{id}/controller/diff", response=LinkOut, exclude_none=True)
@in_turn
def against(request: PersonRequest, id: UUID, payload: AgainstIn) -> LinkOut:
    """What the board's controllers were last seen to hold, against what is wanted; nothing is asked of them."""
    build = builds.get(request.user, id)
    file, commands = board_as_it_is(request.user, build), services.of(request.user, id)
    controller = file.parts.controller
    looked = services.last_look(commands, payload.line)
    out = LinkOut(
        programmable=controller is not None and controller.programmable is not False,
        controllers=controllers(file),
        ports=services.ports(request.user),
        command=_out(commands[-1]) if commands else None,
    )
    if state := services.unsettled(commands):
        out.unsettled, out.known = _UNSETTLED[state], state != "unknown"
    meant = file.model_copy(update={"settings": payload.settings, "settings_apart": payload.apart})
    wanted = [s.model_dump(mode="json", exclude_none=True, exclude=NOT_A_DEVICES) for s in each_controller(meant)]
    if payload.port:
        wanted = wanted[payload.unit : payload.unit + 1]
    keys = list(dict.fromkeys(k for w in wanted for k in w))
    out.wanted = len(keys)
    if looked is None or len(looked[1]) != len(wanted):
        return out  # never looked at, or the board has got another controller since
    command, held = looked
    said = (e.result for e in reversed(commands) if e.result and e.line == payload.line)
    devices: list[dict[str, Any]] = next((r["devices"] for r in said if "devices" in r), [{}])
    unlike = {k for w, h in zip(wanted, held, strict=True) for k in writing.differences(w, h)}
    out.looked_at, out.held = command.ended_at, held
    out.device = f"{devices[0].get('device', 'controller')} {devices[0].get('serial', '')}".strip()
    out.pretends = devices[0].get("pretends") or []
    out.differs = [
        HeldDifference(key=k, wanted=[w.get(k) for w in wanted], held=[h.get(k) for h in held])
        for k in keys
        if k in unlike
    ]
    out.findings = _judged(file, held)
    return out


def _judged(file: BuildDocument, held: list[dict[str, Any]]) -> list[Finding]:
    """Findings on what the controllers hold, each controller on its own, and them against each other."""
    try:
        states = [check(Settings, {k: v for k, v in h.items() if k in Settings.model_fields}) for h in held]
    except BuildFileError:
        return []  # a device with values that no board has; they stand among the differences
    found: dict[str, Finding] = {}
    for number, state in enumerate(states):
        if number and state == states[0]:
            continue
        # The first one is judged with the others beside it, the others on their own.
        update = {"settings": state, "settings_apart": otherwise(states) if number == 0 else None}
        for f in findings_on_settings(predict(file.model_copy(update=update), bands=False)):
            found.setdefault(f.id, f)
    return list(found.values())


@router.post("/builds/{id}/controller", response={202: ControllerCommandOut}, exclude_none=True)
def send(request: PersonRequest, id: UUID, payload: ControllerCommandIn) -> Status[ControllerCommandOut]:
    """Sends the worker to the controllers: to look, to detect, to try."""
    details = payload.model_dump(include={"board", "link"}) if payload.kind == "pretend" else {}
    return Status(202, _out(services.send(request.user, id, payload.kind, payload.line, details)))


@router.post("/builds/{id}/controller/write", response={202: ControllerCommandOut}, exclude_none=True)
def write(request: PersonRequest, id: UUID, payload: ConfirmedIn) -> Status[ControllerCommandOut]:
    """Sets what was confirmed, reads back, and writes it down once it stands."""
    if not payload.reason.strip():
        raise ApiError("Enter a reason: after a reset nobody remembers.", reason="a short reason")
    if not any(payload.settings):
        raise ApiError("Nothing is selected to be written.", settings="at least one value")
    if not payload.seen:
        raise ApiError("Read the settings first; then confirm every change.", seen="what the controllers hold")
    count = 1 if payload.port else controllers(builds.document_of(builds.get(request.user, id)))
    if len(payload.settings) != count:
        raise ApiError("Enter the settings for each controller.", settings=f"{count} of them")
    for values in payload.settings:
        check(Settings, values)
    details = payload.model_dump(mode="json", exclude={"port", "unit"})
    return Status(202, _out(services.send(request.user, id, "write", payload.line, details)))


@router.get("/controller-commands/{command}", response=ControllerCommandOut, exclude_none=True)
def command_of(request: PersonRequest, command: UUID) -> ControllerCommandOut:
    """How far the worker is."""
    return _out(services.get(request.user, command))


@router.post("/controller-commands/{command}/stop", response=ControllerCommandOut, exclude_none=True)
def stop(request: PersonRequest, command: UUID) -> ControllerCommandOut:
    """Asks the worker to stop."""
    return _out(services.stop(request.user, command))
