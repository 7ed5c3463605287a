"""The whole prediction of one build: every result with its limit, what was estimated, and the findings.

Keys follow the build file's contract; a result that is not computed is absent.
"""

from dataclasses import dataclass

import numpy as np

from boardmath.advice import Facts, findings
from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting
from boardmath.cost import Cost, cost, pack_price
from boardmath.inputs import cell_voltages, cruise_speed, hill_grade
from boardmath.limits import named, ramped
from boardmath.mass import board_mass, resolve_masses
from boardmath.parameters import DEFAULT_CLIMB_M, Incomplete, Need, Resolved, defaults, resolve
from boardmath.physics.types import Array
from boardmath.powertrain import LIMITS, Board, highest_speed
from boardmath.predict.bands import SAMPLES, band, samples_of, widest
from boardmath.predict.charging import charge_hours, life_cycles
from boardmath.predict.climbing import held_limit, steepest_held
from boardmath.predict.distance import ride
from boardmath.predict.line import moments
from boardmath.predict.outcomes import (
    Further,
    Outcomes,
    charge_that_brakes,
    early_charge,
    further,
    outcomes,
    profile_ranges,
)
from boardmath.predict.promises import build_promises, range_limit, start_pct
from boardmath.results import (
    Acceleration,
    BrakingResult,
    ChargeHours,
    Estimated,
    Glance,
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
from boardmath.why import whys

HILL_GRADES = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0)


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
    speeds = _speeds(board, build)
    nominal = outcomes(board, speeds.top)
    rest = further(board, nominal, climb_length(build))
    samples = _sampled(resolved, build) if bands else _Samples({})
    promised = {name: band(values) for name, values in samples.values.items()}
    promises = build_promises(build, resolved, nominal, 0, promised, sums)
    consumption = float(nominal.distance.consumption[0]) / 3.6
    range_km = float(nominal.distance.range[0]) / 1000.0
    low, high = samples.edges("range", range_km)
    top_kmh = float(nominal.top_speed[0]) * 3.6
    prediction = Prediction(
        unloaded_speed_kmh=float(nominal.unloaded_speed[0]) * 3.6,
        top_speed_kmh=samples.result("speed", top_kmh, named(build, LIMITS[int(nominal.top_limit[0])])),
        speed_by_charge=speeds.by_charge,
        hill=_hill(build, speeds, nominal, rest, samples),
        range_km=RangeResult(
            low=low,
            mid=range_km,
            high=high,
            limit=range_limit(nominal, 0),
            at_kmh=float(nominal.distance.mean_speed[0]) * 3.6,
        ),
        range_by_profile=[_profile(name, km, samples) for name, km in profile_ranges(board).items()],
        range_when=_range_when(build),
        consumption_wh_per_km=samples.result("consumption", consumption) if np.isfinite(consumption) else None,
        acceleration=_acceleration(build, rest),
        braking=_braking(rest),
        charge_h=ChargeHours(**hours) if (hours := charge_hours(build, resolved)) else None,
        life=_life(build, range_km, resolved),
        comfort_pct=min(cruise_speed(build) / top_kmh, 1.0) * 100.0 if top_kmh > 0.0 else None,
        pack_wh=pack_wh(build),
        usable_wh=float(nominal.distance.energy[0]) / 3600.0,
        mass_kg=Mass(board=board_mass(resolved.masses).value, rolling=float(board.rolling_mass[0])),
        cost=sums,
        widest=widest(resolved, {k: v for k, v in samples.values.items() if len(v) == SAMPLES}) if bands else None,
        estimated=[
            Estimated(field=i.field, value=i.value, rule=i.rule)
            for i in (*resolved.inputs.values(), *resolved.masses.values(), *defaults(build, resolved))
            if i.origin in ("estimated", "default") and i.rule and i.field != "parts"
        ],
        findings=[],
        promises=promises,
        line=moments(build, resolved, board, nominal),
        why=whys(resolved),
        needs=[],
    )
    return prediction.model_copy(update={"findings": findings(build, promises, _facts(build, prediction))})


def glance(build: Build) -> Glance:
    """The promises of a build with their bands, in a fifth of the time of :func:`predict`."""
    try:
        resolved = resolve(build)
    except Incomplete as error:
        lacking = [Lacking(field=n.field, reason=n.reason) for n in error.needs]
        return Glance(promises=build_promises(build, None, None, 0, None, cost(build)), needs=lacking)
    nominal, sampled = outcomes(nominal_board([resolved])), _headline_samples(outcomes(samples_of(resolved)))
    bands = {name: band(values) for name, values in sampled.items()}
    return Glance(promises=build_promises(build, resolved, nominal, 0, bands, cost(build)), needs=[])


def _headline_samples(result: Outcomes) -> dict[str, Array]:
    values = {
        "speed": result.top_speed * 3.6,
        "hill": start_pct(result.start_grade),
        "range": result.distance.range / 1000.0,
        "consumption": result.distance.consumption / 3.6,
    }
    return {name: v for name, v in values.items() if np.isfinite(v).all()}


def climb_length(build: Build) -> float:
    """Length in m of the brief's climb: as stated, or by its minutes at cruising speed, or a usual one."""
    if build.brief.hill_length_m is not None:
        return build.brief.hill_length_m
    if build.brief.hill_minutes is not None:
        return build.brief.hill_minutes * 60.0 * cruise_speed(build) / 3.6
    return DEFAULT_CLIMB_M


def _facts(build: Build, found: Prediction) -> Facts:
    """What findings need to know of the further results."""
    assert found.hill is not None
    assert found.acceleration is not None
    assert found.braking is not None
    held_back = found.braking.full_pack_grade_pct
    return Facts(
        held_grade_pct=found.hill.held_grade_pct.mid,
        held_limit=found.hill.held_grade_pct.limit or "",
        climb_m=found.hill.climb_m,
        first_second_g=found.acceleration.first_second_g,
        full_pack_brake_grade_pct=held_back,
        slip_grade_pct=found.hill.slip_grade_pct,
        brakes_hold_up_to_v=charge_that_brakes(build) if held_back < (hill_grade(build) or 0.0) else None,
    )


def _hill(build: Build, speeds: "_Speeds", nominal: Outcomes, rest: Further, samples: "_Samples") -> Hill:
    return Hill(
        start_grade_pct=samples.result(
            "hill", float(start_pct(nominal.start_grade)[0]), LIMITS[int(nominal.start_limit[0])]
        ),
        held_grade_pct=samples.result("held", float(rest.held.grade[0]) * 100.0, held_limit(rest.held, 0)),
        for_ever_grade_pct=samples.result(
            "for_ever", float(rest.for_ever.grade[0]) * 100.0, held_limit(rest.for_ever, 0)
        ),
        slip_grade_pct=float(rest.slip_grade[0]) * 100.0,
        climb_m=climb_length(build),
        speeds=speeds.on_hills,
    )


def _profile(name: str, metres: Array, samples: "_Samples") -> ProfileRange:
    km = float(metres[0]) / 1000.0
    low, high = samples.edges(f"profile {name}", km)
    return ProfileRange(profile=name, low=low, mid=km, high=high)


def _range_when(build: Build) -> list[RangeWhen]:
    """The brief's ride on a freezing day, with a pack that has lost a fifth, and against a steady wind."""
    pack = build.parts.pack
    assert pack is not None
    wind = (build.assumptions.wind_ms or 0.0) + 5.0
    cases = {
        "freezing": build.model_copy(update={"brief": build.brief.model_copy(update={"temperature_c": 0.0})}),
        "pack at 80 %": build.model_copy(
            update={"parts": build.parts.model_copy(update={"pack": pack.model_copy(update={"health_pct": 80.0})})}
        ),
        "head wind of 5 m/s": build.model_copy(
            update={"assumptions": build.assumptions.model_copy(update={"wind_ms": wind})}
        ),
    }
    ranges = ride(nominal_board([resolve(b) for b in cases.values()])).range
    return [RangeWhen(when=name, km=float(m) / 1000.0) for name, m in zip(cases, ranges, strict=True)]


def _acceleration(build: Build, rest: Further) -> Acceleration:
    # While the current rises evenly half of the ramp's time is lost.
    waited = (acting(build).ramp_s or 0.0) / 2.0
    to_15, to_25 = (float(rest.pull.seconds_to(kmh / 3.6)[0]) for kmh in (15.0, 25.0))
    return Acceleration(
        to_15_kmh_s=to_15 + waited if np.isfinite(to_15) else None,
        to_25_kmh_s=to_25 + waited if np.isfinite(to_25) else None,
        first_second_g=float(rest.pull.first_second[0]) * ramped(build),
    )


def _braking(rest: Further) -> BrakingResult:
    return BrakingResult(
        full_pack_ms2=float(rest.full_pack.deceleration[0]),
        at_80_pct_ms2=float(rest.not_full.deceleration[0]),
        full_pack_grade_pct=float(rest.full_pack.holds_grade[0]) * 100.0,
        at_80_pct_grade_pct=float(rest.not_full.holds_grade[0]) * 100.0,
        limit=LIMITS[int(rest.full_pack.limit[0])],
    )


def _life(build: Build, range_km: float, resolved: Resolved) -> Life | None:
    """Distance of a full cycle, times the cycles, at nine tenths of the capacity on average."""
    pack = build.parts.pack
    share = resolved.fixed["charge_full"] - resolved.fixed["charge_reserve"]
    if pack is None or range_km <= 0.0 or share <= 0.0:
        return None
    cycles = life_cycles(pack)
    km = cycles * range_km / share * 0.9
    price = pack_price(build)
    return Life(cycles=cycles, km=km, pack_cost_per_km=price / km if price else None)


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
        findings=findings(build, promises, None),
        promises=promises,
        line=[],
        why=whys(None),
        needs=[Lacking(field=n.field, reason=n.reason) for n in needs],
    )


FEW_SAMPLES = 64
"""The first of the samples, for what takes many moments each: climbs with heat, and ridden profiles."""


def _sampled(resolved: Resolved, build: Build) -> _Samples:
    board = samples_of(resolved)
    result = outcomes(board)
    first = np.arange(SAMPLES) < FEW_SAMPLES
    few = board.take((SAMPLES,), first)
    held, for_ever = steepest_held(few, result.start_grade[first], early_charge(few), climb_length(build))
    values = {
        **_headline_samples(result),
        "held": held.grade * 100.0,
        "for_ever": for_ever.grade * 100.0,
        **{f"profile {name}": metres / 1000.0 for name, metres in profile_ranges(few).items()},
    }
    return _Samples(values)


@dataclass(frozen=True)
class _Speeds:
    """The highest speeds of one build in every situation that is shown, found in one search."""

    top: tuple[Array, Array]
    by_charge: list[SpeedAtCharge]
    on_hills: list[SpeedOnGrade]


def _speeds(board: Board, build: Build) -> _Speeds:
    full, early = float(board.charge_full[0]), float(early_charge(board)[0])
    charges = [full, *(float(c) for c in np.arange(0.9, 0.0, -0.1) if c < full)]
    own = hill_grade(build)
    grades = sorted({*HILL_GRADES, *([own] if own else [])})
    speed, limit = highest_speed(
        board.with_axis(),
        np.array([0.0, *(0.0 for _ in charges), *(g / 100.0 for g in grades)]),
        np.array([early, *charges, *(early for _ in grades)]),
    )
    kmh = [float(v) * 3.6 for v in speed[0, 1:]]
    words = [named(build, LIMITS[int(i)]) for i in limit[0, 1:]]
    split = len(charges)
    return _Speeds(
        top=(speed[:, 0], limit[:, 0]),
        by_charge=[
            SpeedAtCharge(charge_pct=round(c * 100.0, 1), speed_kmh=v, limit=word)
            for c, v, word in zip(charges, kmh[:split], words[:split], strict=True)
        ],
        on_hills=[
            SpeedOnGrade(grade_pct=float(g), speed_kmh=v, limit=word)
            for g, v, word in zip(grades, kmh[split:], words[split:], strict=True)
        ],
    )
