"""How rules write a step down: plain words become messages, a span of minutes grows with how often it is done."""

from collections.abc import Sequence
from typing import Any

from boardmath.messages import Message, as_message
from planner.shared.step import Minutes, Step

Said = Message | str


def minutes(low: float, high: float, times: float = 1.0, share: float = 1.0) -> Minutes:
    """A span; ``times`` is how often it is done, the second time quicker; ``share`` what of it is left to do."""
    scale = share * (1.0 + 0.8 * (max(times, 1.0) - 1.0))
    return Minutes(low=round(low * scale), high=round(high * scale))


def step(id: str, phase: str, title: Said, why: Said, do: Sequence[Said], right: Said, **about: Any) -> Step:
    """A step; plain words become messages, the parts that it needs are among what it stands on."""
    for key in ("wrong", "caution"):
        if key in about and about[key] is not None:
            about[key] = as_message(about[key])
    needs = about.get("needs", [])
    own = [f"{path}.name" for path in needs if path.count(".") == 1 or path.startswith("parts.pack.")]
    about["touches"] = list(dict.fromkeys([*about.get("touches", []), *own]))
    return Step.model_validate(
        {
            "id": id,
            "phase": phase,
            "title": as_message(title),
            "why": as_message(why),
            "do": [as_message(d) for d in do],
            "right": as_message(right),
            **about,
        }
    )
