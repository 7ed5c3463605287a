"""Setting a device: nothing is believed that was not read back.

Values are staged under a token and kept all at once. What the device says of it is not the end: it is read again, over a new
connection where need be, and only what was read counts. A device whose state could not be read is said to be unknown.
"""

import secrets
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from controller.link import Link, LinkFailed, Refusal, Stopped

Verdict = Literal["as wanted", "as before", "neither", "unknown"]
ROUNDS = 3
"""How often staging begins anew after the device restarted in the middle of it."""
ROOM = 1e-4
"""Share by which a number may come back otherwise than it was sent: devices keep single precision."""


@dataclass
class WriteResult:
    """How a write ended: what the device holds, and where that is not what was wanted."""

    verdict: Verdict
    before: dict[str, Any]
    after: dict[str, Any] | None
    differs: dict[str, tuple[Any, Any]] = field(default_factory=dict)
    """Setting to (wanted, in the device)."""
    why: str | None = None
    refused: str | None = None
    """The setting that the device refused."""
    troubles: list[str] = field(default_factory=list)


def same(one: Any, other: Any) -> bool:
    """Whether two values of a setting are the same to a device's precision."""
    if isinstance(one, bool) or isinstance(other, bool) or not isinstance(one, int | float):
        return bool(one == other)
    return isinstance(other, int | float) and abs(one - other) <= ROOM * max(abs(one), abs(other), 1e-6)


def differences(wanted: Mapping[str, Any], held: Mapping[str, Any]) -> dict[str, tuple[Any, Any]]:
    """Where ``held`` is not as ``wanted``, as (wanted, held)."""
    return {k: (v, held.get(k)) for k, v in wanted.items() if not same(v, held.get(k))}


def read(link: Link) -> dict[str, Any]:
    """Everything that is set in the device.

    Raises:
        LinkFailed, Refusal, Stopped.
    """
    values = link.ask("read").get("values")
    if not isinstance(values, dict):
        raise LinkFailed("read: the answer has no values")
    return values


def write(link: Link, wanted: Mapping[str, Any], say: Callable[[str], None] = lambda _: None) -> WriteResult:
    """Sets ``wanted`` in the device, reads back and compares.

    Once staging has begun it does not raise: the outcome says what the device holds.

    Raises:
        LinkFailed, Refusal, Stopped: the device could not be read before anything was changed.
    """
    say("reading what stands there")
    before = read(link)
    changes = {k: v for k, (v, _) in differences(wanted, before).items()}
    why: str | None = None
    refused: str | None = None
    if changes:
        try:
            _stage_and_keep(link, changes, say)
        except Refusal as refusal:
            why, refused = refusal.why, refusal.field
        except LinkFailed as failure:
            why = str(failure)
        except Stopped:
            why = "stopped before it was finished"
            # From here on only reading: what stands there has to be known.
            link.stopped = lambda: False
    say("reading back")
    try:
        after = read(link)
    except (LinkFailed, Refusal, Stopped) as failure:
        return WriteResult("unknown", before, None, {}, why or str(failure), refused, link.troubles)
    left = differences(wanted, after)
    untouched = not differences(before, after) and not differences(after, before)
    verdict: Verdict = "as wanted" if not left else "as before" if untouched else "neither"
    if verdict == "as wanted":
        why = refused = None
    return WriteResult(verdict, before, after, left, why, refused, link.troubles)


def _stage_and_keep(link: Link, changes: Mapping[str, Any], say: Callable[[str], None]) -> None:
    """Stages every change and keeps them, from the beginning again where the device started anew in between."""
    for attempt in range(ROUNDS):
        token = secrets.token_hex(4)
        link.ask("begin", token=token)
        boot = link.boot
        try:
            for number, (key, value) in enumerate(changes.items(), 1):
                say(f"sending {number} of {len(changes)}")
                link.ask("set", token=token, key=key, value=value)
            say("keeping")
            link.ask("keep", token=token, count=len(changes))
        except Refusal as refusal:
            # A device that has restarted has forgotten what was staged; that is no refusal of a value.
            if refusal.field is not None or link.boot == boot or attempt == ROUNDS - 1:
                raise
            say("the device started anew; sending again")
        else:
            return
