"""A run with the wheels in the air as a figure: each motor's speed over time, against what was predicted."""

from collections.abc import Sequence

from boardmath.prediction.curves import Plot, PlotLine
from boardmath.prediction.unloaded import FigureInterval

_ROLES = ("second-board", "third", "fourth", "need")


def run_figure(
    seconds: Sequence[float], speeds: Sequence[Sequence[float]], predicted: FigureInterval | None, first: int = 1
) -> Plot:
    """The figure of one controller's run.

    Args:
        seconds: when, since the throttle was opened.
        speeds: erpm of each motor at these times, one sequence a motor.
        predicted: erpm at full throttle.
        first: the board's number of the controller's first motor.
    """
    lines = [
        PlotLine(
            name=f"motor {i + first}",
            role=_ROLES[i % len(_ROLES)],
            short=f"motor {i + first}" if len(speeds) > 1 else None,
            x=list(seconds),
            mid=[abs(v) for v in motor],
        )
        for i, motor in enumerate(speeds)
    ]
    fastest = max((max(line.mid, default=0.0) for line in lines), default=0.0)
    text = f"The fastest motor reaches {fastest:,.0f} electrical rpm"
    if predicted is not None and seconds:
        across = [seconds[0], seconds[-1]]
        lines.append(
            PlotLine(
                name="predicted at full throttle",
                role="can",
                x=across,
                mid=[predicted.mid] * 2,
                low=[predicted.low] * 2,
                high=[predicted.high] * 2,
            )
        )
        low, high = f"{predicted.low:,.0f}", f"{predicted.high:,.0f}"
        text += f"; predicted {low}" + (f" to {high}" if high != low else "")
    return Plot(
        id="run",
        title="The run",
        x_title="time",
        x_quantity="seconds",
        y_title="electrical speed",
        y_quantity="electrical_speed",
        lines=lines,
        marks=[],
        text=f"{text}. Then the brake.",
    )
