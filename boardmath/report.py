"""The whole prediction of one build: every result with its limit, what was estimated, and the findings.

Keys follow the build file's contract; a result that is not computed is absent.
"""

from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from boardmath.advice import Finding, findings
from boardmath.buildfile.build import Build
from boardmath.cost import Cost, cost
from boardmath.parameters import (
    Incomplete,
    Need,
    Resolved,
    board_mass,
    cell_voltages,
    defaults,
    nominal_board,
    resolve,
    resolve_masses,
)
from boardmath.physics.types import Array
from boardmath.powertrain import LIMITS, Board, highest_speed
from boardmath.predict.bands import Widening, band, samples_of, widest
from boardmath.predict.outcomes import TOP_SPEED_CHARGE, Outcomes, outcomes
from boardmath.predict.promises import Promise, build_promises, range_limit, start_pct

HILL_GRADES = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0)


class Result(BaseModel):
    """A predicted number; low and high are the 10th and 90th percentile of what is not known."""

    low: float | None = None
    mid: float
    high: float | None = None
    limit: str | None = None


class RangeResult(Result):
    at_kmh: float


class SpeedAtCharge(BaseModel):
    charge_pct: float
    speed_kmh: float
    limit: str


class SpeedOnGrade(BaseModel):
    grade_pct: float
    speed_kmh: float
    limit: str


class Hill(BaseModel):
    start_grade_pct: Result
    speeds: list[SpeedOnGrade]


class Mass(BaseModel):
    board: float
    rolling: float


class Estimated(BaseModel):
    """A figure that the build does not state, as the model took it."""

    field: str
    value: float
    rule: str


class Lacking(BaseModel):
    """What the build still needs before it can be predicted."""

    field: str
    reason: str


class Prediction(BaseModel):
    """What a build will do. Speeds, hills and range are absent while ``needs`` names what is still to be chosen."""

    unloaded_speed_kmh: float | None = None
    top_speed_kmh: Result | None = None
    speed_by_charge: list[SpeedAtCharge] | None = None
    hill: Hill | None = None
    range_km: RangeResult | None = None
    consumption_wh_per_km: Result | None = None
    pack_wh: float | None = None
    usable_wh: float | None = None
    mass_kg: Mass
    cost: Cost
    widest: list[Widening] | None = None
    estimated: list[Estimated]
    findings: list[Finding]
    promises: list[Promise]
    needs: list[Lacking]


@dataclass(frozen=True)
class _Samples:
    """The same results over the samples, in the units shown; empty without bands."""

    values: dict[str, Array]

    def result(self, name: str, mid: float, limit: str | None = None) -> Result:
        low, high = self.edges(name, mid)
        return Result(low=low, mid=mid, high=high, limit=limit)

    def edges(self, name: str, mid: float) -> tuple[float | None, float | None]:
        if name not in self.values:
            return None, None
        low, high = band(self.values[name])
        return min(low, mid), max(high, mid)


def predict(build: Build, bands: bool = True) -> Prediction:
    """Everything that can be said of ``build``; deterministic for the same build file.

    A build that is not far enough gets its mass, cost and the findings that need no prediction, and ``needs``.
    """
    sums = cost(build)
    try:
        resolved = resolve(build)
    except Incomplete as error:
        return _unfinished(build, sums, error.needs)
    board = nominal_board([resolved])
    nominal = outcomes(board)
    samples = _sampled(resolved) if bands else _Samples({})
    promised = {name: band(values) for name, values in samples.values.items()}
    promises = build_promises(build, resolved, nominal, 0, promised, sums)
    consumption = float(nominal.distance.consumption[0]) / 3.6
    range_km = float(nominal.distance.range[0]) / 1000.0
    low, high = samples.edges("range", range_km)
    return Prediction(
        unloaded_speed_kmh=float(nominal.unloaded_speed[0]) * 3.6,
        top_speed_kmh=samples.result("speed", float(nominal.top_speed[0]) * 3.6, LIMITS[int(nominal.top_limit[0])]),
        speed_by_charge=_speed_by_charge(board),
        hill=Hill(
            start_grade_pct=samples.result(
                "hill", float(start_pct(nominal.start_grade)[0]), LIMITS[int(nominal.start_limit[0])]
            ),
            speeds=_speeds_on_hills(board, build),
        ),
        range_km=RangeResult(
            low=low,
            mid=range_km,
            high=high,
            limit=range_limit(nominal, 0),
            at_kmh=float(nominal.distance.mean_speed[0]) * 3.6,
        ),
        consumption_wh_per_km=samples.result("consumption", consumption) if np.isfinite(consumption) else None,
        pack_wh=pack_wh(build),
        usable_wh=float(nominal.distance.energy[0]) / 3600.0,
        mass_kg=Mass(board=board_mass(resolved.masses).value, rolling=float(board.rolling_mass[0])),
        cost=sums,
        widest=widest(resolved, samples.values) if bands else None,
        estimated=[
            Estimated(field=i.field, value=i.value, rule=i.rule)
            for i in (*resolved.inputs.values(), *resolved.masses.values(), *defaults(build, resolved))
            if i.origin in ("estimated", "default") and i.rule and i.field != "parts"
        ],
        findings=findings(build, promises),
        promises=promises,
        needs=[],
    )


def pack_wh(build: Build) -> float | None:
    """Cells times nominal voltage times capacity: what is printed on a pack."""
    pack = build.parts.pack
    if pack is None or pack.series is None or pack.cell is None or pack.cell.capacity_ah is None:
        return None
    return pack.series * (pack.parallel or 1) * cell_voltages(pack)[1] * pack.cell.capacity_ah


def _unfinished(build: Build, sums: Cost, needs: list[Need]) -> Prediction:
    promises = build_promises(build, None, None, 0, None, sums)
    mass = board_mass(resolve_masses(build)).value
    return Prediction(
        pack_wh=pack_wh(build),
        mass_kg=Mass(board=mass, rolling=mass + build.rider.mass_kg + (build.rider.carried_kg or 0.0)),
        cost=sums,
        estimated=[],
        findings=findings(build, promises),
        promises=promises,
        needs=[Lacking(field=n.field, reason=n.reason) for n in needs],
    )


def _sampled(resolved: Resolved) -> _Samples:
    result: Outcomes = outcomes(samples_of(resolved))
    values = {
        "speed": result.top_speed * 3.6,
        "hill": start_pct(result.start_grade),
        "range": result.distance.range / 1000.0,
        "consumption": result.distance.consumption / 3.6,
    }
    return _Samples({name: v for name, v in values.items() if np.isfinite(v).all()})


def _speed_by_charge(board: Board) -> list[SpeedAtCharge]:
    full = float(board.charge_full[0])
    charge = np.array([full, *(c for c in np.arange(0.9, 0.0, -0.1) if c < full)])
    speed, limit = highest_speed(board.with_axis(), 0.0, charge)
    rows = zip(charge, speed[0], limit[0], strict=True)
    return [
        SpeedAtCharge(charge_pct=round(float(c) * 100.0, 1), speed_kmh=float(v) * 3.6, limit=LIMITS[int(i)])
        for c, v, i in rows
    ]


def _speeds_on_hills(board: Board, build: Build) -> list[SpeedOnGrade]:
    own = build.brief.hill_grade_pct
    grades = np.array(sorted({*HILL_GRADES, *([own] if own else [])}))
    charge = np.minimum(board.charge_full, TOP_SPEED_CHARGE)[:, np.newaxis]
    speed, limit = highest_speed(board.with_axis(), grades / 100.0, charge)
    rows = zip(grades, speed[0], limit[0], strict=True)
    return [SpeedOnGrade(grade_pct=float(g), speed_kmh=float(v) * 3.6, limit=LIMITS[int(i)]) for g, v, i in rows]
