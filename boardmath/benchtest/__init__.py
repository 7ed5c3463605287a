"""The bench test: what to look at before the first ride and after every change, judged against the prediction."""

from boardmath.benchtest.report import BenchReport, Standing, report_on
from boardmath.benchtest.steps import Step
from boardmath.benchtest.trace import run_figure

__all__ = ["BenchReport", "Standing", "Step", "report_on", "run_figure"]
