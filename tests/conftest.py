"""How the tests are dealt out to pytest's workers."""

import pytest
from xdist.scheduler.loadscope import LoadScopeScheduling

MADE_ONCE = {
    "tests/core/test_against_scalar_model.py",
    "tests/core/test_calibration.py",
    "tests/core/test_variance_sources.py",
    "tests/core/test_every_report.py",
    "tests/core/test_ride_calibration.py",
    "tests/core/test_proposals.py",
    "tests/core/test_references.py",
    "tests/core/test_overview.py",
    "tests/core/test_explanations.py",
    "tests/interface/test_changes.py",
    "tests/interface/test_units.py",
    "tests/server/test_attack.py",
}
"""Modules whose tests share what takes long to make: one worker has all of such a module."""


class OneByOne(LoadScopeScheduling):
    """Deals out test by test, and whole modules where they share what takes long."""

    def _split_scope(self, nodeid: str) -> str:
        module = nodeid.split("::", 1)[0]
        return module if module in MADE_ONCE else nodeid


def pytest_xdist_make_scheduler(config: pytest.Config, log: object) -> LoadScopeScheduling | None:
    return OneByOne(config, log) if config.getvalue("dist") == "loadscope" else None
