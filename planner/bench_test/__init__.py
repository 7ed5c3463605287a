"""The bench test: what to look at before the first ride and after every change, judged against the prediction."""

from planner.bench_test.report import BenchTestReport, Standing, report_on
from planner.bench_test.steps import Step
from planner.bench_test.trace import run_figure

__all__ = ["BenchTestReport", "Standing", "Step", "report_on", "run_figure"]
