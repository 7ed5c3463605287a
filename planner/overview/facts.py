"""Everything that is known of a board, from all pages; the next steps are read off it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property

from boardmath.buildfile.build import BuildFile
from boardmath.checks import Finding
from boardmath.prediction.outcomes import Outcome
from boardmath.results import Prediction
from planner.bench_test import BenchTestReport, Standing
from planner.maintenance.schedule import RodeOn
from planner.parts_list.accessories import forgotten
from planner.parts_list.lines import ListLine, list_lines, to_choose
from planner.shared.report import HERE, Report


@dataclass(frozen=True)
class RecordKept:
    """What was set in the controller on a day."""

    number: int
    on: date
    reason: str


@dataclass(frozen=True)
class TestKept:
    """A bench test as it was judged then; ``record_number`` is what was set at the time."""

    __test__ = False  # no test of this project, whatever its name begins with

    number: int
    on: date
    standing: Standing
    failed: Sequence[str] = ()
    record_number: int | None = None


@dataclass(frozen=True)
class RevisionKept:
    """A named point in the board's life."""

    name: str
    on: date


@dataclass(frozen=True)
class WorkDay:
    """What was done at the bench on a day: steps ticked, photos taken, what went wrong."""

    on: date
    steps: int = 0
    photos: int = 0
    troubles: Sequence[str] = ()


@dataclass(frozen=True)
class RidesKept:
    """The rides of a board: how many, how far in all where that was asked for, days of those that contradict the others, the
    latest.
    """

    count: int
    km: float | None = None
    odd: Sequence[str] = ()
    latest: Sequence[tuple[date, float | None, str]] = ()
    """Day, km, and what broke or is remembered."""
    ridden: Sequence[RodeOn] = ()
    """Every ride as maintenance counts it."""


@dataclass(frozen=True)
class BuildFacts:
    """A board as all its pages know it on ``today``.

    ``as_set`` is what is wrong with what the controller was last set to, ``set_otherwise`` whether that is not what is wanted;
    ``no_longer`` are the steps that the last kept test passed and would not pass now; ``changed`` is whether the board differs
    from its last named point.
    """

    build: BuildFile
    today: date
    findings: Sequence[Finding]
    outcomes: Sequence[Outcome]
    needs: Sequence[str] = ()
    """Reasons why there is no prediction yet."""
    prediction: Prediction | None = None
    """The whole of it, where it was asked for."""
    settings_records: Sequence[RecordKept] = ()
    as_set: Sequence[Finding] = ()
    set_otherwise: bool = False
    tests: Sequence[TestKept] = ()
    under_way: BenchTestReport | None = None
    no_longer: Sequence[str] = ()
    revisions: Sequence[RevisionKept] = ()
    work: Report | None = None
    """How the assembly stands; None where nobody builds."""
    ride: Report | None = None
    """How the protocol of the first ride stands."""
    days: Sequence[WorkDay] = ()
    rides: RidesKept | None = None
    """None where nobody asked."""
    changed: bool = True

    @cached_property
    def lines(self) -> list[ListLine]:
        """What is on the board, as the parts list has it."""
        return [line for line in list_lines(self.build, self.today) if not line.path.startswith("left_over")]

    @cached_property
    def to_choose(self) -> list[str]:
        """Kinds of part that a board has and that are not chosen yet."""
        return to_choose(self.build)

    @cached_property
    def forgotten(self) -> int:
        """How many small parts the choices call for that are not on the list."""
        return len(forgotten(self.build))

    @property
    def stage(self) -> str:
        return self.build.stage or "planned"

    @property
    def all_here(self) -> bool:
        """Every part of a whole board is in the house."""
        return bool(self.lines) and not self.to_choose and all(line.state in HERE for line in self.lines)

    @property
    def dangers(self) -> list[Finding]:
        """What can hurt someone and was not set aside with a word."""
        return [f for f in self.findings if f.severity == "danger" and f.accepted is None]

    @property
    def stops(self) -> list[Finding]:
        """What will not work or not fit, and was not set aside."""
        return [f for f in self.findings if f.severity == "stop" and f.accepted is None]

    @property
    def wrongly_set(self) -> list[Finding]:
        """What the controller was last set to, and can hurt or will not work."""
        return [f for f in self.as_set if f.severity in ("danger", "stop") and f.accepted is None]

    @property
    def set_since_tested(self) -> int:
        """How often the controller was set since the last kept bench test; without one it is not told."""
        if not self.tests or not self.settings_records:
            return 0
        return max(self.settings_records[-1].number - (self.tests[-1].record_number or 0), 0)

    @property
    def programmable(self) -> bool:
        """Whether there is a controller that can be set."""
        controller = self.build.parts.controller
        return controller is not None and controller.programmable is not False
