"""The whole prediction of one build: every result with its limit, what was estimated, and the findings.

Keys follow the build file's contract; a result that is not computed is absent.
"""

from collections.abc import Sequence

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting
from boardmath.calibration.learning import Ridden
from boardmath.calibration.report import as_taught
from boardmath.calibration.ride import Ride
from boardmath.checks import Facts, findings
from boardmath.engine import sweeps
from boardmath.engine.boards import changed, stacked
from boardmath.engine.climbing import HEATS
from boardmath.engine.operating import LIMITS
from boardmath.model.evaluation import COLDER_K, OLDER, WINDIER_MS, Evaluation, colder, older
from boardmath.model.inputs import cell_voltages, climb_length, cruise_speed, hill_grade, marked
from boardmath.model.limits import named, ramped
from boardmath.model.mass import bag_mass, board_mass, resolve_masses
from boardmath.model.resolution import defaults
from boardmath.parts.cost import Cost, cost, pack_price
from boardmath.physics.limit import Limit
from boardmath.prediction.braking import NOT_FULL, charge_that_brakes
from boardmath.prediction.charging import RIDE_DAYS, USUAL_DAY_KM, charge_hours, life_cycles, life_years
from boardmath.prediction.explanations import whys
from boardmath.prediction.outcomes import Outcome, build_outcomes, range_limit
from boardmath.prediction.part_columns import fields_not_of
from boardmath.prediction.power_flow import moments
from boardmath.prediction.ranges import unsure
from boardmath.results import (
    Acceleration,
    BrakingResult,
    ChargeHours,
    Estimated,
    Hill,
    Lacking,
    Life,
    Mass,
    Prediction,
    ProfileRange,
    RangeResult,
    RangeWhen,
    Result,
    SpeedAtCharge,
    SpeedOnGrade,
)

HILL_GRADES = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0)


def predict(
    build: Build, bands: bool = True, rides: Sequence[Ride] | None = None, outcomes: Sequence[Outcome] | None = None
) -> Prediction:
    """Everything that can be said of ``build``; deterministic for the same build file and the same rides.

    A build that is not far enough gets its mass, cost and the findings that need no prediction, and ``needs``.

    Args:
        rides: ridden on this board as it is; what they teach goes into every result.
        outcomes: with their bands, where they are known already; what is found follows them, also without bands.
    """
    if rides:
        build = as_taught(build, [Ridden(ride, build) for ride in rides])
    return prediction_of(Evaluation(build) if bands else Evaluation(build, 0), outcomes)


def prediction_of(evaluation: Evaluation, known: Sequence[Outcome] | None = None) -> Prediction:
    """Everything that can be said of an evaluated build; ``known`` are its outcomes, where they are."""
    build, sums = evaluation.build, cost(evaluation.build)
    if evaluation.needs:
        return _unfinished(evaluation, sums)
    resolved, board, ride = evaluation.resolved, evaluation.board, evaluation.rides[0]
    outcomes = list(known) if known is not None else build_outcomes(evaluation, sums, whole=True)
    top_limit = named(build, LIMITS[int(evaluation.headlines.top_limit[0])])
    top_kmh = float(evaluation.headlines.top_speed[0]) * 3.6
    at_kmh = min(cruise_speed(build), top_kmh)
    mean_kmh = float(ride.range / ride.seconds) * 3.6 if ride.seconds > 0.0 else 0.0
    widest, doubts, measures = unsure(evaluation) if evaluation.samples else (None, None, None)
    prediction = Prediction(
        unloaded_speed_kmh=float(evaluation.headlines.unloaded_speed[0]) * 3.6,
        top_speed_kmh=_result(evaluation, "speed", top_limit),
        speed_by_charge=_by_charge(evaluation),
        hill=_hill(evaluation),
        range_to_cutoff_km=_result(evaluation, "cut_off", "low-voltage cut-off"),
        range_km=RangeResult(
            **_result(evaluation, "range", range_limit(evaluation)).model_dump(), at_kmh=at_kmh, mean_kmh=mean_kmh
        ),
        range_worst_day_km=_result(
            evaluation, "worst", "low-voltage cut-off" if evaluation.worst.cut_off[0] else "reserve"
        ),
        range_by_profile=[_profile(evaluation, name) for name in ("path", "town", "hilly")],
        range_when=_range_when(evaluation),
        consumption_wh_per_km=_result(evaluation, "consumption")
        if np.isfinite(evaluation.values["consumption"][0])
        else None,
        acceleration=_acceleration(evaluation),
        braking=_braking(evaluation),
        charge_h=ChargeHours(**hours) if (hours := charge_hours(build, evaluation.calibrated)) else None,
        life=life_of(evaluation),
        comfort_pct=min(cruise_speed(build) / top_kmh, 1.0) * 100.0 if top_kmh > 0.0 else None,
        pack_wh=pack_wh(build),
        usable_wh=float(ride.energy) / 3600.0,
        mass_kg=Mass(board=evaluation.inputs["board_mass"].value, rolling=float(board.rolling_mass[0])),
        cost=sums,
        widest=widest,
        doubt=doubts,
        measure_next=measures,
        estimated=[
            Estimated(field=i.field, value=i.value, rule=i.rule)
            for i in (*evaluation.inputs.values(), *resolved.masses.values(), *defaults(build))
            if i.origin in ("estimated", "default") and i.rule and i.field != "parts"
        ],
        findings=[],
        outcomes=outcomes,
        line=moments(evaluation),
        why=whys(build, evaluation.inputs, resolved.masses),
        needs=[],
        not_of_this_board=fields_not_of(build),
    )
    return prediction.model_copy(update={"findings": findings(build, outcomes, _facts(evaluation, prediction))})


def _result(evaluation: Evaluation, name: str, limit: Limit | None = None) -> Result:
    low, high = evaluation.bands[name] or (None, None)
    return Result(low=low, mid=float(evaluation.values[name][0]), high=high, limit=limit)


def _facts(evaluation: Evaluation, found: Prediction) -> Facts:
    """What findings need to know of the further results."""
    assert found.hill is not None
    assert found.acceleration is not None
    assert found.braking is not None
    build, held_back = evaluation.build, found.braking.full_pack_grade_pct
    return Facts(
        held_grade_pct=found.hill.held_grade_pct.mid,
        held_limit=found.hill.held_grade_pct.limit or "",
        climb_m=found.hill.climb_m,
        first_second_g=found.acceleration.first_second_g,
        full_pack_brake_grade_pct=held_back,
        slip_grade_pct=found.hill.slip_grade_pct,
        brakes_hold_up_to_v=charge_that_brakes(evaluation) if held_back < (hill_grade(build) or 0.0) else None,
        cells_c=float(evaluation.rides.warmest[0]) - 273.15,
        pack_rms_a=evaluation.pack_rms,
    )


def _limit(index: int) -> Limit:
    return LIMITS[index] if index < len(LIMITS) else HEATS[index - len(LIMITS)]


def _hill(evaluation: Evaluation) -> Hill:
    limits = evaluation.climbs[1][0]
    return Hill(
        start_grade_pct=_result(evaluation, "hill", LIMITS[int(evaluation.headlines.start_limit[0])]),
        held_grade_pct=_result(evaluation, "held", _limit(int(limits[0]))),
        for_ever_grade_pct=_result(evaluation, "for_ever", _limit(int(limits[1]))),
        slip_grade_pct=float(sweeps.pulls(evaluation.board, evaluation.headlines.top_speed[:1]).slip_grade[0]) * 100.0,
        climb_m=climb_length(evaluation.build),
        speeds=_on_hills(evaluation),
    )


def _profile(evaluation: Evaluation, name: str) -> ProfileRange:
    found = _result(evaluation, f"profile {name}")
    return ProfileRange(profile=name, low=found.low, mid=found.mid, high=found.high)


_FREEZING_WARMEST_C = 4.0
"""From this temperature down the day is freezing already: nothing colder is set beside it."""


def _range_when(evaluation: Evaluation) -> list[RangeWhen]:
    """The brief's ride, home with the reserve, in other conditions than today's: each worse than today, and by itself."""
    board, inputs = evaluation.board, evaluation.inputs
    capacity, rolling = evaluation.per_kelvin
    found = {}
    celsius = inputs["temperature"].value
    if celsius >= _FREEZING_WARMEST_C:
        found["freezing"] = colder(board, celsius, capacity, rolling[:1])
    found["a fifth of the pack's capacity gone"] = older(board, evaluation.health[:1])
    found["5 m/s more headwind"] = changed(board, way_wind=board.way_wind + 5.0)
    ranges = sweeps.rides(stacked(list(found.values()))).range
    return [
        RangeWhen(when=name, km=evaluation.packs * float(m) / 1000.0) for name, m in zip(found, ranges, strict=True)
    ]


def _acceleration(evaluation: Evaluation) -> Acceleration:
    # While the current rises evenly half of the ramp's time is lost.
    waited = (acting(evaluation.build).ramp_s or 0.0) / 2.0
    pull = sweeps.pulls(evaluation.board, evaluation.headlines.top_speed[:1])[0]
    return Acceleration(
        to_15_kmh_s=float(pull.to_15) + waited if np.isfinite(pull.to_15) else None,
        to_25_kmh_s=float(pull.to_25) + waited if np.isfinite(pull.to_25) else None,
        first_second_g=float(pull.first_second) * ramped(evaluation.build),
    )


def _braking(evaluation: Evaluation) -> BrakingResult:
    full = float(evaluation.board.charge_full[0])
    brakes = sweeps.brakes(evaluation.board, evaluation.cruise, np.array([full, min(full, NOT_FULL)]))[0]
    return BrakingResult(
        full_pack_ms2=float(brakes.deceleration[0]),
        at_80_pct_ms2=float(brakes.deceleration[1]),
        full_pack_grade_pct=float(brakes.holds_grade[0]) * 100.0,
        at_80_pct_grade_pct=float(brakes.holds_grade[1]) * 100.0,
        limit=LIMITS[int(brakes.limit[0])],
    )


def life_of(evaluation: Evaluation) -> Life | None:
    """How long the pack lasts, ridden as the brief says: years by time and riding, and the way that makes; never more than its
    cycles give.
    """
    pack, fixed = evaluation.build.parts.pack, evaluation.resolved.fixed
    share = fixed["charge_full"] - fixed["charge_reserve"]
    range_km = float(evaluation.headline_values["range"][0])
    if pack is None or range_km <= 0.0 or share <= 0.0:
        return None
    full_cycle_km = range_km / share * 0.9  # at nine tenths of the capacity on average
    cycles = life_cycles(pack)
    day_km = min(evaluation.build.brief.range_km or USUAL_DAY_KM, range_km)
    years = life_years(pack, day_km / full_cycle_km, fixed["charge_full"])
    km = min(years * RIDE_DAYS * day_km, cycles * full_cycle_km)
    price = pack_price(evaluation.build)
    return Life(cycles=cycles, years=years, km=km, day_km=day_km, pack_cost_per_km=price / km if price else None)


def pack_wh(build: Build) -> float | None:
    """Cells times nominal voltage times capacity: what is printed on a pack."""
    pack = build.parts.pack
    if pack is None or pack.series is None or pack.cell is None or pack.cell.capacity_ah is None:
        return None
    return pack.series * (pack.parallel or 1) * cell_voltages(pack)[1] * pack.cell.capacity_ah


def _unfinished(evaluation: Evaluation, sums: Cost) -> Prediction:
    build, outcomes = evaluation.build, build_outcomes(evaluation, sums)
    masses = resolve_masses(marked(build))
    mass, bagged = board_mass(build, masses).value, bag_mass(build, masses)
    return Prediction(
        pack_wh=pack_wh(build),
        mass_kg=Mass(board=mass, rolling=mass + bagged + build.rider.mass_kg + (build.rider.carried_kg or 0.0)),
        cost=sums,
        estimated=[],
        findings=findings(build, outcomes, None),
        outcomes=outcomes,
        line=[],
        why=whys(build, {}, masses),
        not_of_this_board=fields_not_of(build),
        needs=[Lacking(field=n.field, reason=n.reason) for n in evaluation.needs],
    )


def _by_charge(evaluation: Evaluation) -> list[SpeedAtCharge]:
    full = float(evaluation.board.charge_full[0])
    charges = [full, *(float(c) for c in np.arange(0.9, 0.0, -0.1) if c < full)]
    speed, limit = sweeps.highest_speeds(evaluation.board, 0.0, np.array(charges))
    return [
        SpeedAtCharge(
            charge_pct=round(c * 100.0, 1), speed_kmh=float(v) * 3.6, limit=named(evaluation.build, LIMITS[int(i)])
        )
        for c, v, i in zip(charges, speed[0], limit[0], strict=True)
    ]


def _on_hills(evaluation: Evaluation) -> list[SpeedOnGrade]:
    """Speeds on grades, each with how far it goes on so before something is too hot: climbed fast is not climbed long."""
    own = hill_grade(evaluation.build)
    grades = sorted({*HILL_GRADES, *([own] if own else [])})
    slopes = np.array([g / 100.0 for g in grades])
    speed, limit = sweeps.highest_speeds(evaluation.board, slopes, evaluation.early_charge)
    ways = sweeps.held_ways(evaluation.board, slopes, evaluation.early_charge)[0]
    return [
        SpeedOnGrade(
            grade_pct=float(g),
            speed_kmh=float(v) * 3.6,
            limit=named(evaluation.build, LIMITS[int(i)]),
            holds_m=None if way < 0.0 else float(way),
        )
        for g, v, i, way in zip(grades, speed[0], limit[0], ways, strict=True)
    ]


__all__ = ["COLDER_K", "OLDER", "WINDIER_MS", "pack_wh", "predict", "prediction_of"]
