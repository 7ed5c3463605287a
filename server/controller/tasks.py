"""What the worker does: it talks to the controllers, says how far it is, and writes down how it ended."""

import logging
import time
from collections.abc import Callable
from datetime import date
from typing import Any

from django.utils import timezone
from django_tasks import task

from boardmath.buildfile import check
from boardmath.buildfile.controllers import controllers, each_controller, motors_each, otherwise
from boardmath.buildfile.settings import Settings
from controller import running, writing
from controller.link import Link, LinkFailed, Refusal, Stopped
from server.boards import services as builds
from server.controller import simulators
from server.controller.models import ControllerCommand
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import as_set, write_down

logger = logging.getLogger(__name__)
BEAT_S = 0.2
RUN_S = 3.0
SLOW_S = 30.0


class Talk:
    """One command under way: keeps its row fresh, and hears whether it shall stop."""

    def __init__(self, command: ControllerCommand) -> None:
        self.command, self._last, self._stop = command, 0.0, False
        self.file = builds.document_of(command.build)
        self.troubles: list[str] = []

    def say(self, step: str, live: Any = None) -> None:
        """Where it stands; written at once when the step is another one."""
        fresh = step != self.command.step
        if not fresh and time.monotonic() - self._last < BEAT_S:
            return
        self.command.step, self._last = step[:200], time.monotonic()
        columns = {"step": self.command.step, **({"live": live} if live is not None else {})}
        self._stop = ControllerCommand.objects.filter(pk=self.command.pk).report(**columns)

    def stopped(self) -> bool:
        """Asked by the link between tries; keeps the row fresh while it waits."""
        if time.monotonic() - self._last > BEAT_S:
            self.say(self.command.step or "connecting")
        return self._stop

    def units(self) -> range:
        """The board's controllers, or the one that the cable leads to."""
        unit = self.command.unit
        return range(controllers(self.file)) if unit is None else range(unit, unit + 1)

    def link(self, unit: int) -> Link:
        """A link to one of the board's controllers."""
        self.say(f"connecting to controller {unit + 1}" if controllers(self.file) > 1 else "connecting")
        address = self.command.port or simulators.address(self.command.build_id, self.file, unit, self.stopped)
        return Link(address, stopped=self.stopped)

    def each(self, do: Callable[[Link, int], Any]) -> list[Any]:
        """``do`` with every controller, one after the other."""
        found = []
        for unit in self.units():
            with self.link(unit) as link:
                try:
                    found.append(do(link, unit))
                finally:
                    self.troubles += link.troubles
        return found


@task(queue_name="link")
def run_command(command_id: str) -> None:
    """Carries a command out; it is ended afterwards, whatever happened."""
    if not ControllerCommand.objects.filter(pk=command_id).begin():
        return
    command = ControllerCommand.objects.select_related("build__owner").get(pk=command_id)
    talk = Talk(command)
    result: dict[str, Any] | None = None
    state, message = ControllerCommand.State.DONE, ""
    try:
        result = _DOES[command.kind](talk)
    except Refusal as refusal:
        state, message = ControllerCommand.State.FAILED, f"The controller refused: {refusal.why}"
    except LinkFailed as failure:
        state, message = ControllerCommand.State.FAILED, f"The controller does not answer. {str(failure)[:400]}"
    except Stopped:
        state, message = ControllerCommand.State.STOPPED, "Stopped."
    except Exception:
        logger.exception("command %s", command_id)
        state, message = (
            ControllerCommand.State.FAILED,
            "The controller service failed. Check what the controller holds before you continue.",
        )
    if result is not None:
        result["troubles"] = [t[:200] for t in talk.troubles[:20]]
    ControllerCommand.objects.filter(pk=command.pk).end(state, message=message[:600], result=result)


# --- one function a command -----------------------------------------------------------------------------------------


def _hello(link: Link) -> dict[str, Any]:
    said = link.ask("hello")
    return {k: said.get(k) for k in ("device", "serial", "motors", "pack_v", "ranges", "pretends")}


def _read(talk: Talk) -> dict[str, Any]:
    def look(link: Link, unit: int) -> tuple[dict[str, Any], dict[str, Any]]:
        hello = _hello(link)
        talk.say("reading the settings")
        return hello, writing.read(link)

    found = talk.each(look)
    return {"devices": [h for h, _ in found], "held": [v for _, v in found]}


def _write(talk: Talk) -> dict[str, Any]:
    """Sets what was confirmed for each controller; one that holds something else than was seen is not touched."""
    wanted, seen = talk.command.payload["settings"], talk.command.payload["seen"]
    outcomes: list[dict[str, Any]] = []
    left_out: set[str] = set()
    for unit, values, saw in zip(talk.units(), wanted, seen, strict=False):
        number = f"controller {unit + 1}: " if controllers(talk.file) > 1 else ""
        if any(o["verdict"] != "as wanted" for o in outcomes):
            outcomes.append({"verdict": "not begun", "why": "The controller before it did not finish as wanted."})
            continue
        try:
            outcome = _write_one(talk, unit, values, saw, number, left_out)
        except (LinkFailed, Refusal, Stopped) as failure:
            # Raised only before anything was changed.
            outcomes.append({"verdict": "not begun", "why": str(failure) or "Stopped before anything was sent."})
            continue
        if isinstance(outcome, dict):
            outcomes.append(outcome)
            continue
        outcomes.append(
            {
                "verdict": outcome.verdict,
                "why": outcome.why,
                "refused": outcome.refused,
                "before": outcome.before,
                "after": outcome.after,
                "differs": {k: list(pair) for k, pair in outcome.differs.items()},
            }
        )
    held: list[Any] = [o.get("after") for o in outcomes]
    result: dict[str, Any] = {"outcomes": outcomes, "held": held, "left_out": sorted(left_out), "record": None}
    if all(o["verdict"] == "as wanted" for o in outcomes):
        result["record"] = _record(talk, held)
    return result


def _write_one(
    talk: Talk, unit: int, wanted: dict[str, Any], seen: dict[str, Any], number: str, left_out: set[str]
) -> writing.WriteResult | dict[str, Any]:
    with talk.link(unit) as link:
        try:
            ranges = link.ask("hello")["ranges"]
            left_out |= set(wanted) - set(ranges)
            mine = {k: v for k, v in wanted.items() if k in ranges}
            stands = writing.read(link)
            if writing.differences({k: seen.get(k) for k in mine}, stands):
                why = "The controller holds other values than those you confirmed. Read it again."
                return {"verdict": "not begun", "why": why, "after": stands}
            return writing.write(link, mine, lambda step: talk.say(number + step))
        finally:
            talk.troubles += link.troubles


def _record(talk: Talk, held: list[dict[str, Any]]) -> int:
    """Writes down what was read back; of controllers that were not asked what the last settings record says, or the same."""
    payload, unit = talk.command.payload, talk.command.unit
    if unit is not None:
        last = SettingsRecord.objects.filter(build=talk.command.build).last()
        each = each_controller(as_set(talk.file, last)) if last else []
        kept = [s.model_dump(mode="json", exclude_none=True) for s in each] or held * controllers(talk.file)
        held = [*kept[:unit], *held, *kept[unit + 1 :]]
    first, *others = ({k: v for k, v in values.items() if k in Settings.model_fields} for values in held)
    # Single precision is no difference.
    alike = [{k: first[k] if k in first and writing.same(v, first[k]) else v for k, v in o.items()} for o in others]
    states = [check(Settings, values) for values in (first, *alike)]
    profile = {"profile": payload["profile"]} if payload.get("profile") else {}
    written = write_down(
        talk.command.build.owner,
        talk.command.build_id,
        states[0].model_copy(update=profile),
        _day(talk),
        payload.get("by") or "",
        payload["reason"] + (f" (controller {unit + 1})" if unit is not None and len(held) > 1 else ""),
        apart=otherwise(states) or (),
        read_back=True,
    )
    return written.number


def _day(talk: Talk) -> date:
    """The day on which the person asked for it, by their calendar."""
    asked = talk.command.payload.get("day")
    return date.fromisoformat(asked) if asked else timezone.localdate()


def _detect(talk: Talk) -> dict[str, Any]:
    def find(link: Link, unit: int) -> list[dict[str, Any]]:
        found = []
        for motor in range(_hello(link)["motors"]):
            talk.say(f"turning motor {motor + 1}")
            found.append(link.ask("detect", wait=SLOW_S, motor=motor)["found"])
        return found

    today = _day(talk).isoformat()
    found = [{**f, "on": today} for found in talk.each(find) for f in found]
    # Motors of controllers that were not asked stay as they were detected before.
    before = [d.model_dump(mode="json", exclude_none=True) for d in talk.file.detected or ()]
    first = (talk.command.unit or 0) * motors_each(talk.file)
    before += [{}] * (first - len(before))
    return {"detected": [*before[:first], *found, *before[first + len(found) :]]}


def _run(talk: Talk) -> dict[str, Any]:
    """Wheels in the air: up to speed and braked again, forwards."""

    def spin(link: Link, unit: int) -> dict[str, Any]:
        return running.spin(link, RUN_S, lambda frame: talk.say("motors running", live={"unit": unit, **frame}))

    return {"runs": talk.each(spin)}


def _cut_off(talk: Talk) -> dict[str, Any]:
    return {"cut_off": talk.each(lambda link, _: _plain(link.ask("cut_off", wait=SLOW_S)))}


def _lose_remote(talk: Talk) -> dict[str, Any]:
    return {"lost": talk.each(lambda link, _: _plain(link.ask("lose_remote", wait=SLOW_S)))}


def _reset(talk: Talk) -> dict[str, Any]:
    talk.each(lambda link, _: link.ask("reset"))
    return _read(talk)


def _pretend(talk: Talk) -> dict[str, Any]:
    asked = talk.command.payload
    talk.each(lambda link, _: link.ask("pretend", board=asked.get("board", []), link=asked.get("link", [])))
    return {"pretends": asked}


def _plain(answer: dict[str, Any]) -> dict[str, Any]:
    return {k: v for k, v in answer.items() if k not in ("to", "boot", "ok", "sum")}


_DOES: dict[str, Callable[[Talk], dict[str, Any]]] = {
    "read": _read,
    "write": _write,
    "detect": _detect,
    "run": _run,
    "cut_off": _cut_off,
    "lose_remote": _lose_remote,
    "reset": _reset,
    "pretend": _pretend,
}
