"""A run with the wheels in the air: followed frame by frame, and stopped whatever happens."""

from collections.abc import Callable
from contextlib import suppress
from typing import Any

from controller.link import Link, LinkFailed, Refusal

COMES_TO_REST_S = 30.0
MOST_FRAMES = 3000
"""Of one run, which is kept; ten a second make a few hundred."""
_KEYS = ("phase", "t", "motors", "pack_v", "pack_a")


def spin(link: Link, seconds: float, heard: Callable[[dict[str, Any]], None] = lambda _: None) -> dict[str, Any]:
    """Full throttle for ``seconds``, then the brake until all stands still.

    Args:
        heard: called with every frame.

    Returns:
        ``rest_v`` before it, the ``steady`` frame at the end of full throttle, ``stopped_in_s``, and the ``trace`` of frames.

    Raises:
        LinkFailed, Refusal, Stopped: the motors were told to stop, if they could be told.
    """
    rest = link.ask("hello")["pack_v"]
    trace: list[dict[str, Any]] = []
    try:
        link.ask("run", seconds=seconds)
        for frame in link.told(seconds + COMES_TO_REST_S):
            if len(trace) >= MOST_FRAMES:
                raise LinkFailed("the device tells without end")
            trace.append({k: frame[k] for k in _KEYS})
            heard(trace[-1])
    except BaseException:
        link.stopped = lambda: False
        with suppress(LinkFailed, Refusal):
            link.ask("stop")
        raise
    driven = [f for f in trace if f["phase"] == "spin"]
    braked = [f["t"] for f in trace if f["phase"] == "brake"]
    if not driven:
        raise LinkFailed("run: nothing was told of it")
    return {
        "rest_v": rest,
        "steady": driven[-1],
        "stopped_in_s": round(braked[-1] - braked[0], 2) if braked else 0.0,
        "trace": trace[::2],
    }
