"""At the ends of every span, and where a build contradicts itself: a clear word, and never a wrong number or a crash."""

import json

import pytest

from boardmath.buildfile import BuildFile, BuildFileError, read_build, write_build
from boardmath.checks import findings
from boardmath.model.evaluation import Evaluation
from boardmath.model.model_inputs import WORN
from boardmath.prediction.curves import curves
from boardmath.prediction.outcomes import headlines
from boardmath.predictor import predict
from tests.core.boards import SPIT_RUNNER, changed, spit_runner

SECTIONS = {
    "rider": "Rider",
    "brief": "Brief",
    "assumptions": "Assumptions",
    "settings": "Settings",
    "parts.deck": "Deck",
    "parts.trucks": "Trucks",
    "parts.wheels": "Wheels",
    "parts.risers": "Risers",
    "parts.motors": "Motors",
    "parts.drive": "Drive",
    "parts.pack": "Pack",
    "parts.pack.cell": "Cell",
    "parts.pack.protection": "Protection",
    "parts.controller": "Controller",
    "parts.charger": "Charger",
    "parts.switch": "Switch",
    "parts.fuse": "Fuse",
    "parts.wiring": "Wiring",
    "parts.enclosure": "Enclosure",
}
NOT_OF_THE_RIDE = {"price", "budget", "mass_g"}


def _ends():
    """Every figure of the build file with the lowest and the highest value that it may have."""
    schema = BuildFile.model_json_schema()["$defs"]
    for section, name in SECTIONS.items():
        for key, figure in schema[name]["properties"].items():
            if "low" in figure and key not in NOT_OF_THE_RIDE:
                for end in ("low", "high"):
                    value = figure[end]
                    yield f"{section}.{key}", int(value) if figure.get("whole") else float(value)


def _read(changes):
    try:
        return read_build(changed(SPIT_RUNNER, changes))
    except BuildFileError:
        return None  # volts of a cell that contradict each other are refused in words


@pytest.mark.parametrize(("path", "value"), list(_ends()), ids=lambda v: str(v))
def test_a_figure_at_the_end_of_its_span_leaves_every_result_a_number(path, value):
    build = _read({path: value, "assumptions.wind_ms": None} if path != "assumptions.wind_ms" else {path: value})
    if build is None:
        return
    found = predict(build, bands=False)
    json.dumps(found.model_dump(mode="json"), allow_nan=False)
    for result in (found.top_speed_kmh, found.range_km, found.range_to_cutoff_km, found.range_worst_day_km):
        assert result.mid >= 0.0
    assert found.range_worst_day_km.mid <= found.range_km.mid + 1e-9 <= found.range_to_cutoff_km.mid + 2e-9
    assert found.hill.held_grade_pct.mid <= found.hill.start_grade_pct.mid + 0.01


ODD = {
    "all of the way uphill": {"brief__ascent_m_per_km": 150},
    "twenty stops a kilometre": {"brief__stops_per_km": 20, "brief__cruise_kmh": 60},
    "a gale from ahead": {"brief__wind_ms": 25, "brief__wind": "against"},
    "a gale from behind": {"brief__wind_ms": 25, "brief__wind": "behind"},
    "a gale from the side": {"brief__wind_ms": 25, "brief__wind": "across"},
    "one cell": {"parts__pack__series": 1, "parts__pack__parallel": 1, "settings": {}},
    "everything heavy and cold": {
        "rider__mass_kg": 200,
        "rider__carried_kg": 60,
        "brief__temperature_c": -30,
        "parts__pack__health_pct": 40,
    },
    "a brick that is far too small": {"parts__pack__weakest_brick_ah": 0.3},
    "salvaged bricks in series": {"parts__pack__cell__origin": "salvaged", "parts__pack__series": 24},
    "no reserve": {"brief__reserve_pct": 0},
    "charged to less than the reserve": {"brief__reserve_pct": 60, "parts__pack__charge_to_v": 3.3},
    "four motors on one controller": {"parts__motors__count": 4, "parts__drive__driven_wheels": 4},
    "a drive without losses": {"assumptions__drive_efficiency": 1.0, "assumptions__controller_efficiency": 1.0},
    "a drive that is all losses": {"assumptions__drive_efficiency": 0.4, "assumptions__controller_efficiency": 0.5},
}


@pytest.mark.parametrize("odd", ODD)
def test_odd_boards_get_bands_that_hold_their_middle_and_findings_that_are_words(odd):
    build = spit_runner(**{"assumptions__wind_ms": None, **ODD[odd]})
    found = predict(build)
    json.dumps(found.model_dump(mode="json"), allow_nan=False)
    for result in (
        found.top_speed_kmh,
        found.range_km,
        found.range_to_cutoff_km,
        found.range_worst_day_km,
        found.hill.start_grade_pct,
        found.hill.held_grade_pct,
        *found.range_by_profile,
    ):
        if result.low is not None:
            assert 0.0 <= result.low <= result.mid <= result.high
    for finding in found.findings:
        assert "{" not in finding.text
        assert "nan" not in finding.text
    assert all(p.chance is None or 0.0 <= p.chance <= 1.0 for p in found.outcomes)


@pytest.mark.parametrize("odd", ["a gale from ahead", "everything heavy and cold", "one cell"])
def test_figures_of_odd_boards_are_drawn(odd):
    plots = curves(spit_runner(**{"assumptions__wind_ms": None, **ODD[odd]}))
    assert [p.id for p in plots] == [p.id for p in curves(spit_runner())], "and none is left out"
    for plot in plots:
        json.dumps(plot.model_dump(mode="json"), allow_nan=False)


# --- what was measured ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("path", ["parts.motors.kv", "parts.motor.kv_rpm_per_v", "name", "parts.motors", "brief.use"])
def test_only_a_figure_of_the_build_can_have_been_measured(path):
    with pytest.raises(BuildFileError, match=r"is not a figure of a build"):
        spit_runner(measured=[{"path": path, "by": "a meter"}])


@pytest.mark.parametrize(
    "path", ["parts.motors.kv_rpm_per_v", "parts.pack.cell.capacity_ah", "assumptions.crr", "brief.ascent_m_per_km"]
)
def test_figures_of_parts_of_cells_and_of_what_is_pinned_can(path):
    build = spit_runner(measured=[{"path": path, "by": "a meter", "day": "2026-05-01"}], assumptions__crr=0.016)
    assert write_build(read_build(write_build(build))) == write_build(build)


@pytest.mark.parametrize(
    ("key", "path", "name"),
    [
        ("parts__motors__phase_resistance_mohm", "parts.motors.phase_resistance_mohm", "phase_resistance"),
        ("parts__motors__no_load_current_a", "parts.motors.no_load_current_a", "no_load_current"),
        ("parts__pack__cell__capacity_ah", "parts.pack.cell.capacity_ah", "cell_capacity"),
        ("parts__pack__cell__resistance_mohm", "parts.pack.cell.resistance_mohm", "cell_resistance"),
        ("parts__pack__health_pct", "parts.pack.health_pct", "health"),
        ("parts__wheels__diameter_mm", "parts.wheels.diameter_mm", "wheel_radius"),
        ("assumptions__crr", "assumptions.crr", "crr"),
        ("assumptions__cda_m2", "assumptions.cda_m2", "cda"),
    ],
)
def test_a_measured_figure_is_surer_than_a_stated_one_and_never_certain(key, path, name):
    values = {"assumptions__crr": 0.017, "assumptions__cda_m2": 0.6, "parts__pack__health_pct": 92}
    given = {key: values.get(key)} if key in values else {}
    stated = Evaluation(spit_runner(**given)).resolved.inputs[name]
    known = Evaluation(spit_runner(**given, measured=[{"path": path, "by": "hand"}])).resolved.inputs[name]
    assert known.origin == "measured"
    # A wheel that is measured is not worn any further.
    assert known.value == pytest.approx(stated.value / (WORN if name == "wheel_radius" else 1.0))
    assert known.spread > 0.0
    # What is pinned is held fast on purpose; measured it has the error of measuring.
    assert stated.origin == "pinned" or known.spread < stated.spread


def test_a_measured_kv_far_from_what_detection_finds_is_said():
    """Two measurements that contradict each other: another winding, or pole pairs that are not its own."""
    build = spit_runner(
        measured=[{"path": "parts.motors.kv_rpm_per_v", "by": "a tachometer"}],
        detected=[{"flux_linkage_mwb": 6.8, "on": "2026-04-02"}],
    )
    assert "detected-kv" in {f.id for f in findings(build, headlines([build])[0].outcomes, None)}


def test_edges_of_the_scale_are_the_edges_of_the_file():
    for kg in (1, 60):
        assert predict(spit_runner(weighed_kg=kg), bands=False).mass_kg.board == kg
    with pytest.raises(BuildFileError, match="outside 1 to 60 kg"):
        spit_runner(weighed_kg=0.2)
