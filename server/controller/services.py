"""Commands: asked for by a person, carried out by a worker, read by the person again. Everything takes the owner."""

from collections.abc import Sequence
from datetime import timedelta
from typing import Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404
from django.utils import timezone

from boardmath.buildfile.controllers import controllers
from server.boards import services as builds
from server.boards.models import Build
from server.controller.models import ControllerCommand, Port
from server.errors import ApiError
from server.users import Key, Person

Line = tuple[str, int | None]
"""A port and which controller it leads to; an empty port and None are all simulated controllers of the board."""
Kind = Literal["read", "write", "detect", "run", "cut_off", "lose_remote", "reset", "pretend"]
"""What a worker can be sent to do at a controller."""
SIMULATED_ONLY = ("reset", "pretend")
SILENT_FOR = timedelta(seconds=20)
"""A worker that has not stirred for so long is gone, and what it did is not known."""
KEPT = 60
"""Commands that are kept of a board."""


def ports(owner: Person) -> list[str]:
    """Addresses of the controllers at this machine that are this person's; the simulated one is always there."""
    return list(Port.objects.filter(owner=owner).values_list("address", flat=True))


def lost(command: ControllerCommand) -> bool:
    """Whether nobody works on it any more, although it is not ended. To wait for a worker is not to be lost."""
    return command.is_silent(SILENT_FOR)


def of(owner: Person, build_id: Key) -> list[ControllerCommand]:
    """A board's commands, the oldest first."""
    return list(ControllerCommand.objects.filter(build=builds.get(owner, build_id)))


def get(owner: Person, command_id: UUID) -> ControllerCommand:
    """One command on one of the person's boards."""
    command = ControllerCommand.objects.filter(pk=command_id, build__owner=owner).select_related("build").first()
    if command is None:
        raise Http404
    return command


@transaction.atomic
def send(owner: Person, build_id: Key, kind: str, line: Line, payload: dict[str, Any]) -> ControllerCommand:
    """Asks the worker for something.

    Raises:
        ApiError: no controller to talk to, another talk under way, a port that is not the person's, or no such controller.
    """
    from server.controller.tasks import run_command

    build = builds.get(owner, build_id)
    # One at a time, so that no two talks of one person begin.
    User.objects.select_for_update().get(pk=owner.pk)
    file = builds.document_of(build)
    if file.parts.controller is None:
        raise ApiError("The board has no controller yet. Choose one on the Design page.", controller="one to talk to")
    if file.parts.controller.programmable is False:
        raise ApiError(
            "A boxed controller has no link: look at its jumper, and enter what it says.", controller="a link"
        )
    port, unit = line
    if unit is not None and unit >= controllers(file):
        raise ApiError("The board has no such controller.", unit=f"0 to {controllers(file) - 1}")
    if port and port not in ports(owner):
        raise ApiError("That connection is not yours.", port="one of your own")
    if port and kind in SIMULATED_ONLY:
        raise ApiError("Only the simulated controller can do that.", kind="something else")
    for other in ControllerCommand.objects.filter(build__owner=owner).under_way().select_related("build"):
        if not lost(other):
            which = "this board" if other.build_id == build.pk else f"“{other.build}”"
            raise ApiError(
                f"The controller service is still busy with {which}. Wait for it, or stop it there.",
                status=409,
                kind="one at a time",
            )
        ControllerCommand.objects.filter(pk=other.pk).give_up(
            SILENT_FOR, "The controller service stopped responding in the middle of it."
        )
    command = ControllerCommand.objects.create(
        build=build, asked_by=owner, kind=kind, port=port, unit=unit, payload={**payload, "day": _today()}
    )
    _forget_the_oldest(build)
    run_command.enqueue(str(command.pk))
    return command


def _today() -> str:
    """The asker's day: the worker that carries it out knows nothing of their calendar."""
    return timezone.localdate().isoformat()


def _forget_the_oldest(build: Build) -> None:
    """Keeps the last ones; and the last write however old, as it may be what nobody has looked at since."""
    newest = ControllerCommand.objects.filter(build=build).order_by("-created_at").values_list("pk", flat=True)
    last_write = list(newest.filter(kind="write")[:1])
    ControllerCommand.objects.filter(pk__in=list(newest[KEPT:])).exclude(pk__in=last_write).delete()


def stop(owner: Person, command_id: UUID) -> ControllerCommand:
    """Asks the worker to stop; a write is followed by a look all the same. One that still waits is stopped at once."""
    command = get(owner, command_id)
    ControllerCommand.objects.filter(pk=command.pk).request_stop("Stopped before it started.")
    return get(owner, command_id)


def last_look(
    commands: Sequence[ControllerCommand], line: Line
) -> tuple[ControllerCommand, list[dict[str, Any]]] | None:
    """What the controllers at the end of a line were last seen to hold, one plain object a controller, and when."""
    for command in reversed(commands):
        if command.line != line:
            continue
        held = (command.result or {}).get("held")
        if held and all(h is not None for h in held):
            return command, held
    return None


def unsettled(commands: Sequence[ControllerCommand]) -> Literal["unknown", "neither"] | None:
    """Whether the last write left it unknown what the controllers hold, or left them neither as before nor as wanted.

    A look over the same line since then settles both: what they hold is known, and compared with what is wanted like any
    other state.
    """
    looked: set[Line] = set()
    for command in reversed(commands):
        if command.kind == "write":
            if command.line in looked:
                return None
            if command.is_under_way:
                return "unknown" if lost(command) else None
            if command.result is None:
                return "unknown" if command.step else None
            verdicts = {o["verdict"] for o in command.result["outcomes"]}
            return "unknown" if "unknown" in verdicts else "neither" if "neither" in verdicts else None
        if command.kind in ("read", "reset") and command.state == ControllerCommand.State.DONE:
            looked.add(command.line)
    return None
